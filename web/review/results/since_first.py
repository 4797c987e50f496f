"""The latest baseline against the first, in the clinician's words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date

from django.utils.text import capfirst
from django.utils.translation import gettext as _

from core.grading.baseline_change import (
    BaselineChange,
    BaselineFigure,
    baseline_changes,
    of_tries,
    ratio_of,
)
from core.notes.note import Note
from web.clients.baseline.measured import MeasuredView
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import Measure
from web.clinic import clock
from web.figures.words import change_of, name_of, spread_of, value_of

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


def since_first(file: IntakeFile) -> Since | None:
    """How each figure has changed since the first baseline; None while there are not two."""
    measured = file.measured
    recorded_at = measured[0].view.baseline.recorded_at if len(measured) > 1 else None
    if recorded_at is None:
        return None
    first, latest = (list(baseline_figures(one)) for one in (measured[0], measured[-1]))
    day = clock.local_date(recorded_at, file.client.time_zone)
    return Since(day, [_line(one) for one in baseline_changes(first, latest)])


def baseline_figures(measured: MeasuredView) -> Iterator[BaselineFigure]:
    """Every figure of a baseline with the spread of its tries."""
    view, row = measured.view, measured.view.baseline
    held = {
        code: of_tries(code, tries)
        for code, measure in _HELD.items()
        if (tries := view.counted_s(measure))
    }
    yield from held.values()
    if view.sz_ratio is not None:
        yield ratio_of("sz_ratio", view.sz_ratio, [held["s"], held["z"]])
    if view.quotient_ml_per_s is not None:
        yield ratio_of("quotient", view.quotient_ml_per_s, [held["phonation"]])
    yield from _ends(row.lowest, row.highest, measured)
    if measured.spoken_semitones:
        yield of_tries("habitual", measured.spoken_semitones, _newest)
    levels, device = measured.conversations_db
    if levels:
        yield of_tries("conversation", levels, _newest, device=device)
    for code, name in _SAID.items():
        if (said := getattr(row, name)) is not None:
            yield BaselineFigure(code=code, value=float(said))
    for code in _SCORED:
        if (points := getattr(row, code)) is not None:
            scale = getattr(row, f"{code}_scale")
            yield BaselineFigure(code=code, value=points, scale=scale)


def _ends(lowest: str, highest: str, measured: MeasuredView) -> Iterator[BaselineFigure]:
    """The ends of the range as noted, with the spread of the ends that the glides reached."""
    lows, highs = measured.glide_ends_semitones
    for code, name, tries in (("lowest", lowest, lows), ("highest", highest, highs)):
        if name:
            noted = float(Note.named(name).number)
            yield of_tries(code, tries or [noted], lambda _tries, noted=noted: noted)


def _newest(tries: Sequence[float]) -> float:
    return tries[-1]


def _line(one: BaselineChange) -> SinceFirst:
    if one.smallest is None:
        verdict = str(one.why)
    else:
        words = (
            _("more than the spread of the tries (%(spread)s)")
            if one.real
            else _("within the spread of the tries (%(spread)s)")
        )
        verdict = words % {"spread": spread_of(one.code, one.smallest)}
    return SinceFirst(
        name=capfirst(name_of(one.code)),
        before=value_of(one.code, one.before),
        now=value_of(one.code, one.now),
        by=change_of(one.code, one.by),
        real=one.real,
        verdict=verdict,
    )
