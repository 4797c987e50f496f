"""What the Bench asks the core for: the client as the record knows them, the schools as chosen."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from core.catalogue.words import Equipment, Skill
from core.errors import PlanError
from core.fitting.baseline_arithmetic import LungSex
from core.fitting.hold_goals import HoldGoal, hold_goal
from core.fitting.known import SHORTEST_TRY_S, Fitting, Limits, Tried
from core.fitting.known import Baseline as KnownBaseline
from core.fitting.pitches import PitchSchool, fit_pitches
from core.fitting.schools import Choice, School, schools
from core.notes.range import VoiceGroup
from core.program.program import Chosen, Program
from core.program.step import Phase
from core.proposing.aims import Want
from core.proposing.request import PitchDirection, PlanRequest, Wishes
from core.safety.condition import Condition
from core.safety.conditions import known_conditions
from core.safety.screening import Screening
from web.clients.measured import MeasuredView
from web.clients.models import Client, Measure, StoredScreening
from web.clients.queries import (
    BaselineView,
    living_of,
    screenings_of,
    standing_screening,
)
from web.clinic.words import core_words
from web.library.queries import hidden_keys
from web.programs.models import ProgramVersion, TriedTask
from web.programs.queries import tried_tasks

SLOWEST_RATE, FASTEST_RATE = 20.0, 400.0
_FREE_TEXT = {"sustained.goal_s", "gender_affirming.target", "warm_up.minutes"}


def request_for(
    client: Client,
    view: BaselineView,
    *,
    chosen: tuple[Chosen, ...],
    today: date,
    breath_hold: bool = False,
    minutes: float | None = None,
    wants: tuple[Want, ...] = (),
    direction: PitchDirection | None = None,
    rows: list[StoredScreening] | None = None,
    tried: Mapping[str, TriedTask] | None = None,
) -> PlanRequest:
    """The client as the record knows them; PlanError where it contradicts itself. rows, tried: the screenings,
    oldest first, and the newest try of each task, where a page has read them already."""
    rows = screenings_of(client) if rows is None else rows
    tried = tried_tasks(client.pk) if tried is None else tried
    row = rows[-1] if rows else None
    screening = standing_screening(client, today, rows)
    return PlanRequest(
        today=today,
        baseline=known_baseline(view),
        screening=screening,
        living=living_of(row),
        schools=chosen,
        wants=wants,
        direction=direction,
        equipment=frozenset(Equipment(one) for one in (row.equipment if row else ())),
        cannot=frozenset(Skill(one) for one in (row.cannot if row else ())),
        tried={key: Tried(row.went) for key, row in tried.items()},
        hidden=hidden_keys(client.clinic),
        limits=Limits(
            minutes_a_session=_least(
                minutes or client.clinic.session_minutes, row.minutes_a_session if row else None
            ),
            minutes_a_week=_least(client.clinic.week_minutes, row.minutes_a_week if row else None),
            breath_hold=breath_hold,
            short_phonation_s=client.clinic.short_phonation_s,
            sz_ratio=client.clinic.sz_ratio_flag,
        ),
        wishes=Wishes(zone=client.time_zone),
        a4_hz=client.clinic.a4_hz,
        refresher=_is_refresher(client, view, screening, today),
    )


def _is_refresher(
    client: Client, view: BaselineView, screening: Screening | None, today: date
) -> bool:
    """Whether a client with a progressive condition has practiced a program and was re-measured after it began."""
    if screening is None or Condition.PROGRESSIVE not in known_conditions(screening, today):
        return False
    measured_at = view.baseline.recorded_at
    if measured_at is None:
        return False
    return ProgramVersion.objects.filter(client=client, activated_at__lt=measured_at).exists()


def _least(*minutes: float | None) -> float:
    return min(one for one in minutes if one is not None)


def known_baseline(view: BaselineView) -> KnownBaseline:
    """The recorded baseline as the core fits by it."""
    row, comfort = view.baseline, view.baseline.comfort
    measured = MeasuredView(view, row.client.clinic.a4_hz)
    reading = measured.reading
    return KnownBaseline(
        voice_group=VoiceGroup(row.client.voice_group),
        age_years=view.age,
        lowest=comfort.lowest if comfort else None,
        highest=comfort.highest if comfort else None,
        transition=comfort.transition if comfort else None,
        speaking=comfort.speaking if comfort else None,
        phonation_s=_seconds(view, Measure.PHONATION),
        s_s=_seconds(view, Measure.S),
        z_s=_seconds(view, Measure.Z),
        probes_s=tuple(s for s in view.probe_bests_s if s >= SHORTEST_TRY_S),
        strong_s=_seconds(view, Measure.STRONG),
        strong_over_db=measured.strong_over_db,
        reading_wpm=_rate_within(reading.words_a_minute if reading else None),
        vital_capacity_ml=row.vital_capacity_ml,
        height_cm=row.height_cm,
        lung_sex=LungSex(row.lung_sex) if row.lung_sex else None,
        throat_strain=row.throat_strain,
        pitch_sd_semitones=view.probe_sd_semitones,
    )


def _rate_within(words_per_min: float | None) -> float | None:
    """A rate that reading can have; anything else counts as not measured."""
    possible = words_per_min is not None and SLOWEST_RATE <= words_per_min <= FASTEST_RATE
    return words_per_min if possible else None


def _seconds(view: BaselineView, measure: Measure) -> tuple[float, ...]:
    """The attempts that count, without those too short to be one."""
    return tuple(seconds for seconds in view.counted_s(measure) if seconds >= SHORTEST_TRY_S)


def read_wants(posted: Mapping) -> tuple[Want, ...]:
    """What the client wants, where the schools are to be chosen by that; what is none is left aside."""
    if not posted.get("by_wants"):
        return ()
    return tuple(want for want in Want if want in posted.getlist("want"))  # type: ignore[attr-defined]


def read_direction(posted: Mapping) -> PitchDirection | None:
    """Where the speaking pitch should go, where that was asked; what is none counts as not asked."""
    return next((one for one in PitchDirection if posted.get("direction") == one.value), None)


def read_chosen(posted: Mapping) -> tuple[Chosen, ...]:
    """The schools ticked on the Bench with their options ("sustained.goal" = "own_s"); none where
    they are to be chosen by what the client wants."""
    if posted.get("by_wants"):
        if not read_wants(posted):
            raise PlanError("no_want")
        return ()
    ticked = [key for key in schools() if key in posted.getlist("school")]  # type: ignore[attr-defined]
    if not ticked:
        raise PlanError("no_school")
    return tuple(Chosen(school=key, options=_options(schools()[key], posted)) for key in ticked)


def read_minutes(posted: Mapping) -> float | None:
    """Most minutes of a home session as typed; None where nothing was."""
    text = posted.get("minutes", "").strip().replace(",", ".")
    try:
        return float(text) if text else None
    except ValueError as error:
        raise PlanError("minutes_unreadable", came=text[:20]) from error


def _options(school: School, posted: Mapping) -> dict[str, str]:
    names = [f"{school.key}.{choice.key}" for choice in school.choices]
    names += [name for name in sorted(_FREE_TEXT) if name.startswith(f"{school.key}.")]
    return {
        name.split(".", 1)[1]: posted[name].strip()[:40]
        for name in names
        if posted.get(name, "").strip()
    }


@dataclass(frozen=True)
class Option:
    """One option of a choice with what it would give this client; `fits` False = it cannot be."""

    key: str
    words: str
    hint: str
    fits: bool
    selected: bool


@dataclass(frozen=True)
class Offer:
    """A school on the Bench, with its choices."""

    school: School
    ticked: bool
    choices: tuple[tuple[Choice, tuple[Option, ...]], ...]


def offers(
    view: BaselineView, program: Program | None
) -> tuple[tuple[str, tuple[Offer, ...]], ...]:
    """Every school by phase, those of the draft ticked; before the first, the sustained notes."""
    before = {one.school: one.options for one in program.schools} if program else {"sustained": {}}
    known = known_baseline(view)
    found = []
    for phase in Phase:
        own = tuple(
            _offer(school, before.get(school.key), known)
            for school in schools().values()
            if school.phase is phase
        )
        if own:
            found.append((phase.value, own))
    return tuple(found)


def _offer(school: School, before: Mapping[str, str] | None, known: KnownBaseline) -> Offer:
    choices = []
    for choice in school.choices:
        selected = (before or {}).get(choice.key, choice.default)
        options = tuple(
            Option(key, words, *_hint(school, choice, key, known), key == selected)
            for key, words in choice.options.items()
        )
        choices.append((choice, options))
    return Offer(school, before is not None, tuple(choices))


def _hint(school: School, choice: Choice, key: str, known: KnownBaseline) -> tuple[str, bool]:
    """What an option gives: the notes, the seconds; or why it cannot be chosen."""
    if school.key != "sustained" or known.comfort is None:
        return "", True
    try:
        if choice.key == "pitches":
            notes = fit_pitches(known.comfort, known.voice_group, PitchSchool(key)).notes
            return " ".join(note.name for note in notes), True
        if choice.key == "goal" and key not in (HoldGoal.TYPED, HoldGoal.STEADY):
            goal = hold_goal(Fitting(baseline=known, options={"goal": key}))
            return f"{goal.seconds:.1f} s" if goal.seconds else "", True
    except PlanError as error:
        return core_words(error), False
    return "", True
