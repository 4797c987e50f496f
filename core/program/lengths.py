"""Centimetres and inches, kept apart."""

import re

from core.errors import PlanError

CM_AN_INCH = 2.54
_LENGTH = re.compile(r"(\d+(?:[.,]\d+)?)\s*(cm|mm|in|inch|inches|″|\")")


def read_length_cm(text: str) -> float:
    """Centimetres of "2 cm", "20 mm", "1 in"; a bare number has no unit and is refused.

    Raises PlanError("length_unreadable").
    """
    found = _LENGTH.fullmatch(text.strip().lower())
    if found is None:
        raise PlanError("length_unreadable", came=text, example="2 cm or 1 in")
    amount = float(found[1].replace(",", "."))
    return amount * {"cm": 1.0, "mm": 0.1}.get(found[2], CM_AN_INCH)


def length_words(cm: float) -> str:
    """Both units: "2 cm (0.8 in)"."""
    return f"{cm:.4g} cm ({cm / CM_AN_INCH:.1f} in)"
