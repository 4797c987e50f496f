"""Wording of figures: the name, the number with its unit, a phrase for clinicians, an amount for clients."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from core.figures.kind import FigureKind, Unit
from core.figures.registry import FIGURES
from core.notes.note import Note
from web.design.numbers import number_text

_NO_BREAK = "\u00a0"
"""Non-breaking space between a number and its unit."""

_UNITS: Mapping[Unit, Promise | str] = {
    Unit.SEMITONES: gettext_lazy("st"),
    Unit.NOTE: gettext_lazy("st"),
    Unit.RATIO: "",
    Unit.POINTS: "",
    Unit.YES_NO: "",
    Unit.BEATS: gettext_lazy("beats"),
    Unit.IN_TEN_SECONDS: gettext_lazy("times in 10 s"),
    Unit.WORDS_A_MINUTE: gettext_lazy("words a minute"),
    Unit.A_SECOND: gettext_lazy("bubbles a second"),
}
"""Units that are not said as they are stored; of notes the unit of their distance."""


@dataclass(frozen=True)
class FigureWords:
    """said: a clinician's phrase around the number; client: the amount in a client's words, None
    where clients are not shown it."""

    said: Promise
    client: Callable[[float], str] | None = None


def name_of(code: str) -> str:
    """A noun phrase in lower case, to a clinician."""
    return _(FIGURES[code].name)


def heading_of(code: str) -> str:
    """Name with unit, as the head of a column or the label of a bound."""
    kind = FIGURES[code]
    unit = _("0–10") if kind.unit is Unit.OF_TEN else unit_of(code)
    return f"{name_of(code)}, {unit}" if unit and kind.unit is not Unit.NOTE else name_of(code)


def unit_of(code: str) -> str:
    """The unit as it stands after a number; "" for none."""
    unit = FIGURES[code].unit
    return str(_UNITS.get(unit, unit.value))


def number_of(code: str, value: float) -> str:
    """A value without its unit, rounded to the decimals of its kind. A note is given by its name."""
    kind = FIGURES[code]
    if kind.unit is Unit.NOTE:
        return Note(round(value)).name
    return _number(kind, value, "+" if kind.signed else "")


def value_of(code: str, value: float) -> str:
    """A value with its unit; a note by its name."""
    if FIGURES[code].unit is Unit.NOTE:
        return number_of(code, value)
    return _with_unit(code, number_of(code, value))


def change_of(code: str, value: float) -> str:
    """A difference with its sign and unit; between notes in semitones."""
    return _with_unit(code, _number(FIGURES[code], value, "+"))


def slope_of(code: str, value: float, *, unit: bool = True) -> str:
    """A change to one decimal, as trends are told, with its sign; with its unit where asked."""
    number = number_text(value, "+.1f")
    return _with_unit(code, number) if unit else number


def spread_of(code: str, value: float) -> str:
    """A spread with its unit, without a sign; of notes in semitones."""
    return _with_unit(code, _number(FIGURES[code], value, ""))


def phrase_of(code: str, value: float) -> str:
    """A clinician's phrase: "best 7.2 s"."""
    return str(_WORDS[code].said % {"n": value_of(code, value)})


def followed_by_client(code: str) -> bool:
    """Whether clients are shown this figure."""
    return code in _WORDS and _WORDS[code].client is not None


def client_words(code: str, value: float) -> str:
    """An amount as a client would say it: seconds to the half, steps, so many of ten.

    KeyError for a figure clients are not shown."""
    say = _WORDS[code].client
    if say is None:
        raise KeyError(code)
    return say(value)


def _number(kind: FigureKind, value: float, sign: str) -> str:
    places = "g" if kind.unit is Unit.POINTS else f".{kind.decimals}f"
    return number_text(value, f"{sign}{places}")


def _with_unit(code: str, number: str) -> str:
    unit = unit_of(code)
    gap = "" if FIGURES[code].unit is Unit.OF_TEN or not unit else _NO_BREAK
    return f"{number}{gap}{unit}"


def _seconds(value: float) -> str:
    halves = round(2 * value) / 2
    return ngettext("%(n)s second", "%(n)s seconds", 1 if halves == 1 else 2) % {
        "n": number_text(halves)
    }


def _steps(value: float) -> str:
    whole = round(value)
    return ngettext("%(n)s step from low to high", "%(n)s steps from low to high", whole) % {
        "n": whole
    }


def _stronger(value: float) -> str:
    if value < 1:
        return _("as strong as your usual talk")
    return _("%(n)s dB stronger than your usual talk") % {"n": round(value)}


def _notes_in_ten(value: float) -> str:
    return _("%(n)s of 10 notes clear") % _tenths(value)


def _breaths_in_ten(value: float) -> str:
    return _("%(n)s of 10 breaths ended on the beat") % _tenths(value)


def _phrases_in_ten(value: float) -> str:
    return _("%(n)s of 10 phrases near your tone") % _tenths(value)


def _joins_in_ten(value: float) -> str:
    return _("%(n)s of 10 joined without a gap") % _tenths(value)


def _tenths(percent: float) -> dict[str, int]:
    return {"n": round(percent / 10)}


_WORDS: Mapping[str, FigureWords] = {
    "best_s": FigureWords(gettext_lazy("best %(n)s"), _seconds),
    "mean_s": FigureWords(gettext_lazy("mean %(n)s")),
    "share": FigureWords(gettext_lazy("%(n)s of the target")),
    "lags": FigureWords(gettext_lazy("furthest below its target, %(n)s")),
    "pitch_sd": FigureWords(gettext_lazy("pitch SD %(n)s")),
    "trail_off": FigureWords(gettext_lazy("trail-off %(n)s")),
    "over_db": FigureWords(gettext_lazy("%(n)s over the reference"), _stronger),
    "over_aim": FigureWords(gettext_lazy("%(n)s over the target level")),
    "gaps": FigureWords(gettext_lazy("voice cut-outs: %(n)s")),
    "jumps": FigureWords(gettext_lazy("pitch jumps: %(n)s")),
    "at_length": FigureWords(gettext_lazy("%(n)s at target length")),
    "at_level": FigureWords(gettext_lazy("%(n)s at target level")),
    "at_both": FigureWords(gettext_lazy("%(n)s at both")),
    "rise": FigureWords(gettext_lazy("rises %(n)s")),
    "fall": FigureWords(gettext_lazy("falls %(n)s")),
    "level_sd": FigureWords(gettext_lazy("level SD %(n)s")),
    "span": FigureWords(gettext_lazy("span %(n)s"), _steps),
    "low": FigureWords(gettext_lazy("lowest %(n)s")),
    "high": FigureWords(gettext_lazy("highest %(n)s")),
    "ends": FigureWords(gettext_lazy("both ends reached in %(n)s")),
    "evenness": FigureWords(gettext_lazy("unevenness %(n)s")),
    "broke_at": FigureWords(gettext_lazy("breaks here: %(n)s")),
    "gap": FigureWords(gettext_lazy("silence between %(n)s")),
    "hiss_s": FigureWords(gettext_lazy("hiss %(n)s")),
    "buzz_s": FigureWords(gettext_lazy("buzz %(n)s")),
    "joined": FigureWords(gettext_lazy("%(n)s joined"), _joins_in_ten),
    "rate": FigureWords(gettext_lazy("%(n)s")),
    "bubbling": FigureWords(gettext_lazy("%(n)s")),
    "stops": FigureWords(gettext_lazy("bubbles stopped %(n)s")),
    "in_tune": FigureWords(gettext_lazy("%(n)s of the notes within 50 cents"), _notes_in_ten),
    "missing": FigureWords(gettext_lazy("missing: %(n)s")),
    "added": FigureWords(gettext_lazy("added: %(n)s")),
    "low_clean": FigureWords(gettext_lazy("lowest clean key %(n)s")),
    "high_clean": FigureWords(gettext_lazy("highest clean key %(n)s")),
    "tempo_sd": FigureWords(gettext_lazy("tempo SD %(n)s")),
    "over_target": FigureWords(gettext_lazy("%(n)s of the voiced time over the target level")),
    "near": FigureWords(gettext_lazy("%(n)s of the phrases near the note"), _phrases_in_ten),
    "off_note": FigureWords(gettext_lazy("%(n)s from the note")),
    "pitch": FigureWords(gettext_lazy("most common pitch %(n)s")),
    "voiced_s": FigureWords(gettext_lazy("voiced %(n)s")),
    "in_s": FigureWords(gettext_lazy("in %(n)s")),
    "out_s": FigureWords(gettext_lazy("out %(n)s")),
    "from_end": FigureWords(gettext_lazy("%(n)s from the end")),
    "within_beat": FigureWords(gettext_lazy("%(n)s within a beat"), _breaths_in_ten),
    "done": FigureWords(gettext_lazy("%(n)s done")),
    "done_s": FigureWords(gettext_lazy("%(n)s done")),
}
"""The figures a step of a home session is told by."""
