"""The latest baseline against the first, in the clinician's words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.grading.between import BaselineFigure, Compared, between, of_tries, ratio_of
from core.notes.note import Note
from web.clients.measured import MeasuredView
from web.clients.models import Client, Measure
from web.clinic import clock

FIGURE_NAMES: dict[str, Promise] = {
    "phonation": gettext_lazy("Phonation time"),
    "strong_s": gettext_lazy("Strong “ah”"),
    "s": gettext_lazy("Longest /s/"),
    "z": gettext_lazy("Longest /z/"),
    "sz_ratio": gettext_lazy("s/z ratio"),
    "quotient": gettext_lazy("Phonation quotient"),
    "probe_low": gettext_lazy("Soft hold, bottom note"),
    "probe_middle": gettext_lazy("Soft hold, middle note"),
    "probe_top": gettext_lazy("Soft hold, top note"),
    "lowest": gettext_lazy("Lowest note"),
    "highest": gettext_lazy("Highest note"),
    "habitual": gettext_lazy("Habitual pitch"),
    "conversation": gettext_lazy("Conversation"),
    "strain": gettext_lazy("Throat strain"),
    "effort": gettext_lazy("Effort"),
    "fatigue": gettext_lazy("Vocal fatigue"),
    "discomfort": gettext_lazy("Discomfort"),
    "rating": gettext_lazy("Perceptual rating"),
    "handicap": gettext_lazy("Handicap score"),
}
_SAID = {
    "strain": "throat_strain",
    "effort": "effort",
    "fatigue": "fatigue",
    "discomfort": "discomfort",
}
_SCORED = ("rating", "handicap")
_HELD = {
    "phonation": Measure.PHONATION,
    "strong_s": Measure.STRONG,
    "s": Measure.S,
    "z": Measure.Z,
    "probe_low": Measure.PROBE_LOW,
    "probe_middle": Measure.PROBE_MIDDLE,
    "probe_top": Measure.PROBE_TOP,
}
_PLACES = {"s": 1, "": 2, "mL/s": 0, "st": 0, "dB": 1, "/10": 0}


@dataclass(frozen=True)
class SinceFirst:
    """One line: what, then, now, by how much, and whether that is more than the spread of the tries;
    `real` None = it cannot be told."""

    name: str
    before: str
    now: str
    by: str
    real: bool | None
    verdict: str


@dataclass(frozen=True)
class Since:
    """The lines of a comparison and the day of the first baseline."""

    day: date
    lines: list[SinceFirst]


def since_first(measured: Sequence[MeasuredView], client: Client) -> Since | None:
    """How each figure has changed since the first baseline; None while there are not two."""
    recorded_at = measured[0].view.baseline.recorded_at if len(measured) > 1 else None
    if recorded_at is None:
        return None
    first, latest = (list(baseline_figures(one)) for one in (measured[0], measured[-1]))
    day = clock.local_date(recorded_at, client.time_zone)
    return Since(day, [_line(one) for one in between(first, latest)])


def baseline_figures(measured: MeasuredView) -> Iterator[BaselineFigure]:
    """Every figure of a baseline with the spread of its tries."""
    view, row = measured.view, measured.view.baseline
    held = {
        code: of_tries(code, "s", tries)
        for code, measure in _HELD.items()
        if (tries := view.counted_s(measure))
    }
    yield from held.values()
    if view.sz_ratio is not None:
        yield ratio_of("sz_ratio", "", view.sz_ratio, [held["s"], held["z"]])
    if view.quotient_ml_per_s is not None:
        yield ratio_of("quotient", "mL/s", view.quotient_ml_per_s, [held["phonation"]])
    yield from _ends(row.lowest, row.highest, measured)
    if measured.spoken_semitones:
        yield of_tries("habitual", "st", measured.spoken_semitones, _newest)
    levels, device = measured.conversations_db
    if levels:
        yield of_tries("conversation", "dB", levels, _newest, device=device)
    for code, name in _SAID.items():
        if (said := getattr(row, name)) is not None:
            yield BaselineFigure(code=code, unit="/10", value=float(said))
    for code in _SCORED:
        if (points := getattr(row, code)) is not None:
            scale = getattr(row, f"{code}_scale")
            yield BaselineFigure(code=code, unit="points", value=points, scale=scale)


def _ends(lowest: str, highest: str, measured: MeasuredView) -> Iterator[BaselineFigure]:
    """The ends of the range as noted, with the spread of the ends that the glides reached."""
    lows, highs = measured.glide_ends_semitones
    for code, name, tries in (("lowest", lowest, lows), ("highest", highest, highs)):
        if name:
            noted = float(Note.named(name).number)
            yield of_tries(code, "st", tries or [noted], lambda _tries, noted=noted: noted)


def _newest(tries: Sequence[float]) -> float:
    return tries[-1]


def _line(one: Compared) -> SinceFirst:
    if one.smallest is None:
        verdict = str(one.why)
    else:
        words = (
            _("more than the spread of the tries (%(spread)s)")
            if one.real
            else _("within the spread of the tries (%(spread)s)")
        )
        verdict = words % {"spread": amount_words(one.smallest, one.unit)}
    notes = one.unit == "st"
    return SinceFirst(
        name=str(FIGURE_NAMES[one.code]),
        before=note_words(one.before) if notes else amount_words(one.before, one.unit),
        now=note_words(one.now) if notes else amount_words(one.now, one.unit),
        by=amount_words(one.by, one.unit, sign="+"),
        real=one.real,
        verdict=verdict,
    )


def note_words(number: float) -> str:
    return Note(round(number)).name


def amount_words(value: float, unit: str, sign: str = "") -> str:
    if unit == "points":
        return f"{value:{sign}g}".replace("-", "−")
    gap = "" if unit in ("", "/10") else "\u00a0"
    return f"{value:{sign}.{_PLACES[unit]}f}{gap}{unit}".replace("-", "−")
