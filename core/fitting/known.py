"""What is known of a client when a program is fitted, and what is found out on the way."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from enum import StrEnum
from typing import Annotated

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.fitting.baseline_arithmetic import LungSex
from core.fitting.capability import (
    ADULT_FROM_AGE,
    Capacity,
    Thresholds,
    capacity_of,
    flags_of,
)
from core.fitting.notes import Notebook, Notes
from core.notes.note import Note
from core.notes.range import ComfortableRange, VoiceGroup
from core.program.targets import Strict
from core.reason import Reason, says
from core.reference.limits import BASELINE, CLIENT
from core.reference.values import (
    BREATHLESS_SHARE,
    CONCERT_A4,
    OLDEST_CLIENT,
    YOUNGEST_CLIENT,
)

MEASURE_RANGE = says("measure_range", "Measure the lowest and the highest comfortable note.")
MEASURE_SPEAKING = says("measure_speaking", "Measure the habitual speaking pitch.")
_SPEAKING_ASSUMED = says(
    "speaking_assumed", "{note} stands for the speaking note: a quarter of the way up the range."
)

SHORTEST_TRY_S = BASELINE["seconds"].low


class TrialOutcome(StrEnum):
    """How a task went when it was tried in the visit (stimulability)."""

    BETTER = "better"
    SAME = "same"
    WORSE = "worse"


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownBaseline(Strict):
    """What the client can do, as measured or typed. Seconds in s, at most 120; None = not known.

    probes_s: best soft hold of each probed note; strong_s: the cued strong "ah"; strong_over_db: its
    level over the conversation on the same device and distance; reading_wpm: words a minute read
    aloud; pitch_sd_semitones: the usual pitch SD of soft holds. Contradictions raise PlanError, naming the field.
    """

    voice_group: VoiceGroup
    age_years: int
    lowest: Note | None = None
    highest: Note | None = None
    transition: Note | None = None
    speaking: Note | None = None
    phonation_s: tuple[float, ...] = ()
    s_s: tuple[float, ...] = ()
    z_s: tuple[float, ...] = ()
    probes_s: tuple[float, ...] = ()
    strong_s: tuple[float, ...] = ()
    phonated_volume_ml: Annotated[float, BASELINE["phonated_volume_ml"].told] | None = None
    vital_capacity_ml: Annotated[float, BASELINE["vital_capacity_ml"].told] | None = None
    height_cm: Annotated[float, BASELINE["height_cm"].told] | None = None
    lung_sex: LungSex | None = None
    strong_over_db: Annotated[float, BASELINE["strong_over_db"].told] | None = None
    reading_wpm: Annotated[float, BASELINE["reading_wpm"].told] | None = None
    throat_strain: Annotated[int, BASELINE["throat_strain"].told] | None = None
    pitch_sd_semitones: Annotated[float, BASELINE["pitch_sd_semitones"].told] | None = None

    def __post_init__(self) -> None:
        low, high = int(YOUNGEST_CLIENT.number), int(OLDEST_CLIENT.number)
        if not low <= self.age_years <= high:
            raise PlanError("age_out_of_limits", came=self.age_years, low=low, high=high)
        for name in ("phonation_s", "s_s", "z_s", "probes_s", "strong_s"):
            for seconds in getattr(self, name):
                BASELINE["seconds"].check(name, seconds)
        for name in BASELINE.keys() - {"seconds"}:
            if (came := getattr(self, name)) is not None:
                BASELINE[name].check(name, came)
        if (self.lowest is None) != (self.highest is None):
            raise PlanError("range_half_known")
        _ = self.comfort

    @property
    def comfort(self) -> ComfortableRange | None:
        """The comfortable range; None while it is not known."""
        if self.lowest is None or self.highest is None:
            return None
        return ComfortableRange(
            lowest=self.lowest,
            highest=self.highest,
            transition=self.transition,
            speaking=self.speaking,
        )

    @property
    def best_phonation_s(self) -> float | None:
        return max(self.phonation_s, default=None)

    @property
    def best_strong_s(self) -> float | None:
        """Of several strong "ah" the best counts."""
        return max(self.strong_s, default=None)

    @property
    def shown_voice_s(self) -> float | None:
        """The longest voice shown: on "ah", soft or strong; None where none was measured."""
        return max((*self.phonation_s, *self.probes_s, *self.strong_s), default=None)

    @property
    def best_s_s(self) -> float | None:
        return max(self.s_s, default=None)

    @property
    def minor(self) -> bool:
        return self.age_years < ADULT_FROM_AGE

    @property
    def capacity(self) -> Capacity | None:
        """The volume of air; None where it cannot be told."""
        return capacity_of(
            age_years=self.age_years,
            phonated_volume_ml=self.phonated_volume_ml,
            measured_ml=self.vital_capacity_ml,
            height_cm=self.height_cm,
            sex=self.lung_sex,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits(Strict):
    """What clinic and client set as limits. breath_hold: turned on by the clinician, for this
    client; mixed_advice: whether care advice of mixed evidence is given; short_phonation_s, sz_ratio:
    from where the clinic flags a phonation time (s) and an s/z ratio."""

    minutes_a_session: Annotated[float, CLIENT["minutes_a_session"].told] | None = None
    minutes_a_week: Annotated[float, CLIENT["minutes_a_week"].told] | None = None
    sessions_a_day: Annotated[int, CLIENT["sessions_a_day"].told] | None = None
    breath_hold: bool = False
    mixed_advice: bool = True
    short_phonation_s: float = Thresholds().short_phonation_s
    sz_ratio: float = Thresholds().sz_ratio

    @property
    def flagged_from(self) -> Thresholds:
        return Thresholds(short_phonation_s=self.short_phonation_s, sz_ratio=self.sz_ratio)

    def __post_init__(self) -> None:
        for name, limit in CLIENT.items():
            if (came := getattr(self, name)) is not None:
                limit.check(name, came)


@dataclass(frozen=True, slots=True, kw_only=True)
class FitInputs:
    """The inputs of a fit: the client's baseline and limits, and the options of the school.

    forbidden: what conditions or the client's own body do not allow to be touched, so that a target
    is fitted without it; breathless: at rest or lying; hurt_folds: lesions with throat strain.
    """

    baseline: KnownBaseline
    limits: Limits = field(default_factory=Limits)
    tried: Mapping[str, TrialOutcome] = field(default_factory=dict)
    options: Mapping[str, str] = field(default_factory=dict)
    forbidden: frozenset[Touch] = frozenset()
    breathless: bool = False
    hurt_folds: bool = False
    a4_hz: float = CONCERT_A4.number


@dataclass(frozen=True, slots=True, kw_only=True)
class Fitting(FitInputs):
    """The inputs of one fit, with a notebook for its questions, assumptions and reasons. Created anew for each fit."""

    notebook: Notebook = field(default_factory=Notebook)

    @classmethod
    def of(cls, inputs: FitInputs) -> "Fitting":
        return cls(**{one.name: getattr(inputs, one.name) for one in fields(FitInputs)})

    def assume(self, reason: Reason) -> None:
        self.notebook.assumed.append(reason)

    def ask(self, reason: Reason) -> None:
        self.notebook.asked.append(reason)

    def reason(self, reason: Reason) -> None:
        self.notebook.reasons.append(reason)

    @property
    def notes(self) -> Notes:
        """The notes so far, without duplicates."""
        return self.notebook.notes

    @property
    def most_first_s(self) -> float:
        """The longest first hold, s: of who is breathless 80 % of the best “ah”, else no limit."""
        best = self.baseline.best_phonation_s
        if not self.breathless or best is None:
            return math.inf
        return BREATHLESS_SHARE.number * best

    @property
    def comfort(self) -> ComfortableRange:
        """The comfortable range; PlanError("range_missing") and a question where it is not known."""
        comfort = self.baseline.comfort
        if comfort is None:
            self.ask(MEASURE_RANGE())
            raise PlanError("range_missing")
        return comfort

    def speaking_note(self) -> Note:
        """The comfortable speaking note, or what is assumed for it, asked for and said."""
        comfort = self.comfort
        if comfort.speaking is not None:
            return comfort.speaking
        note = comfort.assumed_speaking
        self.ask(MEASURE_SPEAKING())
        self.assume(_SPEAKING_ASSUMED(note=note.name))
        return note


def flags_shown(
    known: KnownBaseline, limits: Limits, *, in_spasm: bool = False
) -> tuple[Reason, ...]:
    """The flags of a baseline, by the thresholds of client and clinic; in_spasm: an s/z ratio of a voice
    with dystonia or tremor flags nothing."""
    return flags_of(
        age_years=known.age_years,
        phonation_s=known.best_phonation_s,
        s_s=None if in_spasm else known.best_s_s,
        z_s=max(known.z_s, default=None),
        thresholds=limits.flagged_from,
    )
