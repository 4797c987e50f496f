"""Numbers in the reader's locale. Whatever a person reads is formatted with these; drawings' coordinates are not."""

import re
from collections.abc import Mapping
from typing import Any

from django.utils import formats

_PLACE = re.compile(r"%\((\w+)\)([+.\d]*[dfg])")


def number_text(value: float, spec: str = "g") -> str:
    """A number as `format` writes it, with the locale's decimal separator and a minus sign: 6.5 · 6,5 · −3.2"""
    return _in_locale(format(value, spec))


def filled(words: str, values: Mapping[str, Any]) -> str:
    """Words with their `%(name)s` places filled in, those of numbers (`%(name).1f`) by locale."""
    told = _PLACE.sub(lambda place: _in_locale(f"%{place[2]}" % values[place[1]]), words)
    return told % values


def _in_locale(number: str) -> str:
    return number.replace("-", "−").replace(".", formats.get_format("DECIMAL_SEPARATOR"))
