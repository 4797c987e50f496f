"""A recorded baseline with its attempts and everything computed from them."""

from dataclasses import dataclass
from functools import cached_property
from statistics import median

from django.db.models import QuerySet

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
from web.clients.models import Baseline, BaselineAttempt, Client, Measure

PROBES = (Measure.PROBE_LOW, Measure.PROBE_MIDDLE, Measure.PROBE_TOP)


def _recorded(client: Client) -> QuerySet[Baseline]:
    return Baseline.objects.filter(client=client).exclude(recorded_at=None)


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
        rows = list(_recorded(client).order_by("recorded_at"))
        ends = rows[:1] if len(rows) < 2 else [rows[0], rows[-1]]
        tries = _tries_of(ends) if ends else []
        for row in ends:
            row.client = client
        return tuple(
            cls(row, tuple(one for one in tries if one.baseline_id == row.pk), age) for row in ends
        )

    @classmethod
    def latest(cls, client: Client, age: int) -> "BaselineView | None":
        """The latest recorded baseline; None where there is none."""
        row = _recorded(client).order_by("-recorded_at").first()
        if row is None:
            return None
        row.client = client
        return cls.of(row, age)

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
