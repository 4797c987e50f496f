"""What is known of a figure whatever its value: FigureKind, its unit and its direction."""

from dataclasses import KW_ONLY, dataclass
from enum import StrEnum

OWN = "defined by this product"
"""Source of a figure that no publication defines."""


class Unit(StrEnum):
    """The units figures are stored and exported in."""

    SECONDS = "s"
    PERCENT = "%"
    DECIBELS = "dB"
    SEMITONES = "semitones"
    NOTE = "note"
    COUNT = ""
    RATIO = "ratio"
    BEATS = "beats"
    IN_TEN_SECONDS = "in 10 s"
    WORDS_A_MINUTE = "words/min"
    A_SECOND = "a second"
    OF_TEN = "/10"
    POINTS = "points"
    ML_PER_S = "mL/s"
    YES_NO = "0 or 1"


class Higher(StrEnum):
    """What a higher value means for the client."""

    BETTER = "better"
    WORSE = "worse"
    NEITHER = "neither"


@dataclass(frozen=True, slots=True)
class FigureKind:
    """One kind of figure.

    code: lower case, stored and exported, never changed; name: English, a noun phrase in lower case;
    unit: NOTE = the number of a note, 69 = A4; decimals: how many a reader is shown; higher_is: what
    more of it means; definition: one sentence, with the unit; source: a publication, or OWN;
    signed: shown with its sign; usual: the value that goes without saying; per_device: relative to
    the loudness reference of one device, so values of two devices do not compare.
    """

    code: str
    name: str
    unit: Unit
    decimals: int
    higher_is: Higher
    definition: str
    _: KW_ONLY
    source: str = OWN
    signed: bool = False
    usual: float | None = None
    per_device: bool = False
