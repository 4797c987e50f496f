"""What pages read of a client: screening as the core sees it, the baseline with its figures."""

from dataclasses import dataclass
from datetime import date, time
from functools import cached_property
from statistics import median

from django.db.models import Subquery
from pydantic import TypeAdapter

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.fitting.baseline_arithmetic import (
    LungSex,
    airflow_goal_s,
    phonation_quotient_ml_per_s,
    sz_ratio,
)
from core.fitting.capability import Capacity, Thresholds, capacity_of, flags_of
from core.fitting.pitches import PitchSchool, fit_pitches
from core.notes.note import Note
from core.notes.range import VoiceGroup
from core.safety.circumstances import Circumstance, Event, Living
from core.safety.condition import Condition
from core.safety.conditions import allows, known_conditions
from core.safety.inferred import inferred, with_reports
from core.safety.screening import RedFlag, Screening
from core.safety.standing import OneScreening, standing
from core.safety.state import Airway, Release, VoiceState
from web.clients.models import (
    Baseline,
    BaselineAttempt,
    Client,
    Measure,
    StoredScreening,
    VoiceReport,
)
from web.clinic.records import reading

PROBES = (Measure.PROBE_LOW, Measure.PROBE_MIDDLE, Measure.PROBE_TOP)


def latest_screening(client: Client) -> StoredScreening | None:
    return StoredScreening.objects.filter(client=client).order_by("-at").first()


def tone_unheard(client: Client) -> bool:
    """Whether the reference tone was tried in the clinic last and not heard."""
    tried = StoredScreening.objects.filter(client=client).exclude(tone_heard=None)
    return tried.order_by("-at").values_list("tone_heard", flat=True).first() is False


def screenings_of(client: Client) -> list[StoredScreening]:
    """Every screening of a client, oldest first, each with the throat strain of the latest baseline."""
    recorded = Baseline.objects.filter(client=client).exclude(recorded_at=None)
    strain = recorded.order_by("-recorded_at").values("throat_strain")[:1]
    rows = StoredScreening.objects.filter(client=client)
    return list(rows.annotate(throat_strain=Subquery(strain)).order_by("at"))


def standing_screening(
    client: Client, today: date, rows: list[StoredScreening] | None = None
) -> Screening | None:
    """What stands of all screenings of a client, as the core's rules read it."""
    rows = screenings_of(client) if rows is None else rows
    age_years = client.age_on(today)
    stands = standing([_asked(row, age_years=age_years) for row in rows])
    if stands is None or Condition.ACUTE_LARYNGITIS not in inferred(stands, today):
        return stands
    return with_reports(stands, today, voice_reports(client))


def voice_reports(client: Client) -> dict[date, bool]:
    """What the client told from home: by day, whether the voice was as usual."""
    rows = VoiceReport.objects.filter(client=client).order_by("at")
    return dict(rows.values_list("day", "usual"))


def _asked(row: StoredScreening, *, age_years: int) -> OneScreening:
    with reading(row):
        return _read(row, age_years=age_years)


@dataclass(frozen=True)
class _Lists:
    """The columns of a stored screening that hold several answers."""

    red_flags: frozenset[RedFlag]
    unasked: frozenset[RedFlag]
    flags_noted: dict[RedFlag, date]
    conditions: frozenset[Condition]
    mistaken: frozenset[RedFlag]
    voice: VoiceState | None
    airway: Airway | None
    release: Release | None


_LISTS = TypeAdapter(_Lists)
_NAMES = ("red_flags", "unasked", "flags_noted", "conditions", "mistaken")


def _read(row: StoredScreening, *, age_years: int) -> OneScreening:
    lists = _LISTS.validate_python(
        {
            **{name: getattr(row, name) for name in _NAMES},
            "voice": row.voice or None,
            "airway": row.airway or None,
            "release": row.release or None,
        }
    )
    return OneScreening(
        screening=Screening(
            asked_on=row.asked_on,
            larynx_examined_on=row.larynx_examined_on,
            red_flags=lists.red_flags,
            unasked=lists.unasked,
            noted_on=lists.flags_noted,
            cleared_on=row.cleared_on,
            cleared_from=row.cleared_from,
            released_on=row.released_on,
            release=lists.release,
            surgeons_date=row.surgeons_date,
            voice=lists.voice,
            clear_since=row.clear_since,
            usual_voice_since=row.usual_voice_since,
            airway=lists.airway,
            cuff_safe_on=row.cuff_safe_on,
            valve_tolerated_on=row.valve_tolerated_on,
            upper_airway_seen_on=row.upper_airway_seen_on,
            botulinum_on=row.botulinum_on,
            paralysis_since=row.paralysis_since,
            throat_operated_on=row.throat_operated_on,
            movement_examined_on=row.movement_examined_on,
            voice_changing=row.voice_changing,
            tone_heard=row.tone_heard,
            folds_operated_on=row.folds_operated_on,
            looked_at_on=row.looked_at_on,
            voice_rest_until=row.voice_rest_until,
            trouble_began_on=row.trouble_began_on,
            hoarse_weeks=row.hoarse_weeks,
            cold=row.cold,
            hoarser=row.hoarser,
            minor=age_years < 18,
            age_years=age_years,
            throat_strain=getattr(row, "throat_strain", None),
            guardian_consent=row.guardian_consent,
            conditions=lists.conditions,
        ),
        mistaken=lists.mistaken,
    )


def living_of(row: StoredScreening | None) -> Living:
    """What the client lives with, as the latest screening says."""
    if row is None:
        return Living()
    return Living(
        circumstances=frozenset(Circumstance(name) for name in row.circumstances),
        talking_hours=row.talking_hours,
        events=tuple(Event(on=date.fromisoformat(e["on"]), name=e["name"]) for e in row.events),
        medication_times=tuple(time.fromisoformat(at) for at in row.medication_times),
    )


def allowed_touches(client: Client, today: date) -> frozenset[Touch]:
    """What the screenings leave a client; none at all without one."""
    return left_by(standing_screening(client, today), today)


def left_by(screening: Screening | None, today: date) -> frozenset[Touch]:
    """What a screening leaves; nothing where there is none."""
    if screening is None:
        return frozenset()
    known = known_conditions(screening, today)
    return frozenset(touch for touch in Touch if allows(known, touch))


def latest_baseline(client: Client) -> Baseline | None:
    return (
        Baseline.objects.filter(client=client)
        .exclude(recorded_at=None)
        .order_by("-recorded_at")
        .first()
    )


def _tries_of(baselines: list[Baseline]) -> list[BaselineAttempt]:
    rows = BaselineAttempt.objects.filter(baseline__in=baselines)
    return list(rows.select_related("struck_out", "measurement").order_by("at"))


def probe_notes(baseline: Baseline) -> dict[str, Note]:
    """Bottom, middle and top note of the proposed set; empty while the range is missing."""
    comfort = baseline.comfort
    if comfort is None:
        return {}
    try:
        notes = fit_pitches(
            comfort, VoiceGroup(baseline.client.voice_group), PitchSchool.SHIFTED
        ).notes
    except PlanError:
        return {}
    return dict(zip(PROBES, (notes[0], notes[len(notes) // 2], notes[-1]), strict=True))


@dataclass(frozen=True)
class BaselineView:
    """A baseline with its attempts and everything computed from them."""

    baseline: Baseline
    attempts: tuple[BaselineAttempt, ...]
    age: int

    @classmethod
    def of(cls, baseline: Baseline, age: int) -> "BaselineView":
        return cls(baseline, tuple(_tries_of([baseline])), age)

    @classmethod
    def first_and_latest(cls, client: Client, age: int) -> tuple["BaselineView", ...]:
        """The first and the latest recorded baseline in two queries; one where there is one, none
        where there is none."""
        recorded = Baseline.objects.filter(client=client).exclude(recorded_at=None)
        rows = list(recorded.order_by("recorded_at"))
        ends = rows[:1] if len(rows) < 2 else [rows[0], rows[-1]]
        tries = _tries_of(ends) if ends else []
        return tuple(
            cls(row, tuple(one for one in tries if one.baseline_id == row.pk), age) for row in ends
        )

    def counted_s(self, measure: str) -> list[float]:
        """Seconds of the attempts that count."""
        return [
            row.seconds
            for row in self.attempts
            if row.measure == measure and row.seconds and not hasattr(row, "struck_out")
        ]

    def best_s(self, measure: str) -> float | None:
        return max(self.counted_s(measure), default=None)

    @cached_property
    def phonation_s(self) -> float | None:
        """Maximum phonation time: the best of the counted attempts, s."""
        return self.best_s(Measure.PHONATION)

    @cached_property
    def probe_bests_s(self) -> tuple[float, ...]:
        return tuple(best for probe in PROBES if (best := self.best_s(probe)) is not None)

    @cached_property
    def probe_level_db(self) -> float | None:
        """Loudest mean level among the measured probes, dBFS; None when none was measured."""
        return max(self._of_probes("level_mean_db"), default=None)

    @cached_property
    def probe_sd_semitones(self) -> float | None:
        """Usual pitch SD of the measured probes, semitones; None when none was measured."""
        found = self._of_probes("f0_sd_semitones")
        return median(found) if found else None

    def _of_probes(self, figure: str) -> list[float]:
        """A figure of the measured soft holds that count."""
        counted = (
            row.measurement
            for row in self.attempts
            if row.measure in PROBES and row.measurement and not hasattr(row, "struck_out")
        )
        return [value for one in counted if (value := getattr(one, figure)) is not None]

    @cached_property
    def sz_ratio(self) -> float | None:
        s, z = self.best_s(Measure.S), self.best_s(Measure.Z)
        return sz_ratio(s, z) if s and z else None

    @cached_property
    def capacity(self) -> Capacity | None:
        """The volume of air; None where it cannot be told."""
        row = self.baseline
        return capacity_of(
            age_years=self.age,
            measured_ml=row.vital_capacity_ml,
            height_cm=row.height_cm,
            sex=LungSex(row.lung_sex) if row.lung_sex else None,
        )

    @cached_property
    def quotient_ml_per_s(self) -> float | None:
        best = self.best_s(Measure.PHONATION)
        if self.capacity is None or not best:
            return None
        return phonation_quotient_ml_per_s(self.capacity.ml, best)

    @cached_property
    def airflow_goal_s(self) -> float | None:
        return airflow_goal_s(self.capacity.ml) if self.capacity else None

    def flags(self, clinic) -> list[tuple[str, str]]:
        """Code and sentence of every value beyond its threshold, with the threshold used."""
        thresholds = Thresholds(
            short_phonation_s=clinic.short_phonation_s, sz_ratio=clinic.sz_ratio_flag
        )
        found = flags_of(
            age_years=self.age,
            phonation_s=self.phonation_s,
            s_s=self.best_s(Measure.S),
            z_s=self.best_s(Measure.Z),
            thresholds=thresholds,
        )
        return [(flag.code, str(flag)) for flag in found]
