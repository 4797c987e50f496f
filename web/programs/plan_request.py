"""Builds the core's request for a program from the client's record."""

from django.utils.translation import gettext as _

from core.catalogue.words import Equipment, Skill
from core.fitting.baseline_arithmetic import LungSex
from core.fitting.known import SHORTEST_TRY_S, KnownBaseline, Limits, TrialOutcome
from core.notes.range import VoiceGroup
from core.program.program import Chosen
from core.proposing.aims import Want
from core.proposing.request import PitchDirection, PlanRequest, Wishes
from core.reference.limits import BASELINE
from core.safety.condition import Condition
from web.clients.baseline.measured import MeasuredView
from web.clients.baseline.view import BaselineView
from web.clients.models import Measure
from web.clinic.refusal import UsecaseRefused
from web.library.queries import hidden_keys
from web.programs.client_file import ClientFile
from web.programs.models import ProgramVersion


class BaselineMissing(UsecaseRefused):
    """There is no recorded baseline to fit a program to."""

    def __init__(self) -> None:
        super().__init__(_("Record a baseline first."))


def baseline_for(file: ClientFile) -> BaselineView:
    """The latest recorded baseline; BaselineMissing without one."""
    if file.baseline is None:
        raise BaselineMissing
    return file.baseline


def plan_request(
    file: ClientFile,
    *,
    chosen: tuple[Chosen, ...] = (),
    breath_hold: bool = False,
    minutes: float | None = None,
    wants: tuple[Want, ...] = (),
    direction: PitchDirection | None = None,
) -> PlanRequest:
    """Build the request for a proposal. minutes: maximum for a home session, None = the clinic's setting.

    BaselineMissing without a baseline; PlanError where the record contradicts itself.
    """
    client, row = file.client, file.latest_screening
    clinic = client.clinic
    return PlanRequest(
        today=file.today,
        baseline=known_baseline(baseline_for(file)),
        screening=file.screening,
        living=file.living,
        schools=chosen,
        wants=wants,
        direction=direction,
        equipment=frozenset(Equipment(one) for one in (row.equipment if row else ())),
        cannot=frozenset(Skill(one) for one in (row.cannot if row else ())),
        tried={key: TrialOutcome(row.went) for key, row in file.tried.items()},
        hidden=hidden_keys(clinic),
        limits=Limits(
            minutes_a_session=_least(
                minutes or clinic.session_minutes, row.minutes_a_session if row else None
            ),
            minutes_a_week=_least(clinic.week_minutes, row.minutes_a_week if row else None),
            breath_hold=breath_hold,
            short_phonation_s=clinic.short_phonation_s,
            sz_ratio=clinic.sz_ratio_flag,
        ),
        wishes=Wishes(zone=client.time_zone),
        a4_hz=clinic.a4_hz,
        refresher=_is_refresher(file),
    )


def _is_refresher(file: ClientFile) -> bool:
    """Whether a client with a progressive condition has practiced a program and was re-measured after it began."""
    if Condition.PROGRESSIVE not in file.conditions:
        return False
    measured_at = baseline_for(file).baseline.recorded_at
    if measured_at is None:
        return False
    return ProgramVersion.objects.filter(client=file.client, activated_at__lt=measured_at).exists()


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
    possible = words_per_min is not None and BASELINE["reading_wpm"].holds(words_per_min)
    return words_per_min if possible else None


def _seconds(view: BaselineView, measure: Measure) -> tuple[float, ...]:
    """The attempts that count, without those too short to be one."""
    return tuple(seconds for seconds in view.counted_s(measure) if seconds >= SHORTEST_TRY_S)
