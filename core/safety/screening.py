"""What was asked in a screening: red flags with their days, clearances, conditions."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from enum import StrEnum
from typing import Annotated

from pydantic import Field

from core.errors import PlanError
from core.program.targets import Strict
from core.reason import Reason, told_as
from core.reference.values import CLEAR_AGAIN_DAYS, NEWLY_HOARSE_UNDER
from core.safety.condition import Condition
from core.safety.state import Airway, Release, VoiceState

LONGEST_HOARSE_WEEKS = 2600


class RedFlag(StrEnum):
    """Signs that ask for an examination before or instead of voice work."""

    NOISY_BREATHING = "noisy_breathing"
    BLOOD = "blood"
    FRESH_HAEMORRHAGE = "fresh_haemorrhage"
    PAINFUL_SWALLOWING = "painful_swallowing"
    EAR_PAIN = "ear_pain"
    NECK_LUMP = "neck_lump"
    TROUBLE_SWALLOWING = "trouble_swallowing"
    WEIGHT_LOSS = "weight_loss"
    SUDDEN_LOSS = "sudden_loss"
    RECENT_SURGERY = "recent_surgery"
    SMOKING_HOARSE = "smoking_hoarse"
    FACE_OR_SPEECH_SUDDEN = "face_or_speech_sudden"


class Opening(StrEnum):
    """What opens the gate again after a red flag; no written reason stands in for any of them."""

    CLEARANCE = "clearance"
    EXAMINATION = "examination"
    RELEASE = "release"
    LOOKED_AT = "looked_at"


OPENED_BY: Mapping[RedFlag, Opening] = {
    RedFlag.NOISY_BREATHING: Opening.CLEARANCE,
    RedFlag.BLOOD: Opening.CLEARANCE,
    RedFlag.FRESH_HAEMORRHAGE: Opening.CLEARANCE,
    RedFlag.PAINFUL_SWALLOWING: Opening.EXAMINATION,
    RedFlag.EAR_PAIN: Opening.EXAMINATION,
    RedFlag.NECK_LUMP: Opening.EXAMINATION,
    RedFlag.TROUBLE_SWALLOWING: Opening.EXAMINATION,
    RedFlag.WEIGHT_LOSS: Opening.EXAMINATION,
    RedFlag.SUDDEN_LOSS: Opening.EXAMINATION,
    RedFlag.SMOKING_HOARSE: Opening.EXAMINATION,
    RedFlag.RECENT_SURGERY: Opening.RELEASE,
    RedFlag.FACE_OR_SPEECH_SUDDEN: Opening.LOOKED_AT,
}
ABSOLUTE = frozenset(flag for flag, by in OPENED_BY.items() if by is Opening.CLEARANCE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Screening(Strict):
    """What was found when screening; dates are local dates.

    red_flags: those that are present; unasked: those nobody has asked about, neither yes nor no.
    noted_on: the day a red flag was noted, where that is not the day of asking. cleared_on: the day
    the examiner gave the clearance, cleared_from: the day from which it allows voicing; where only
    one is known it stands for both. released_on: the surgeon's release, release: what for.
    folds_operated_on: about, the latest surgery of the folds; surgeons_date: the day until which the
    surgeon wants them spared, where that is not 12 weeks. looked_at_on: a doctor looked at the drooping
    face or slurred speech.
    voice: the state of the voice, airway: what the client breathes through; None = not asked.
    trouble_began_on: about, the present trouble; where it is missing, the weeks of hoarseness tell it.
    clear_since: a trouble that is over, clear since then. cold: a cold now, None = not asked; hoarser:
    hoarser than usual with it. usual_voice_since: the usual voice is back since then; usual_voice_reported: the
    same day, where only the client said so, on two days running from home.
    cuff_safe_on, valve_tolerated_on, upper_airway_seen_on: with a tracheostomy, the day the cuff was
    deflated or gone, a valve or cap tolerated, the upper airway looked at.
    botulinum_on: the latest injection of botulinum toxin; paralysis_since: about, a new paralysis of a fold;
    throat_operated_on: about, surgery of thyroid, neck or chest; movement_examined_on: the movement of the
    folds was examined. voice_changing: whether a minor's voice is changing, None = not asked; tone_heard: with a
    hearing loss, whether the reference tone is heard, None = not tried.
    minor, age_years, throat_strain (0–10, of the latest baseline): from the record, not asked here.
    """

    asked_on: date
    larynx_examined_on: date | None
    red_flags: frozenset[RedFlag] = frozenset()
    unasked: frozenset[RedFlag] = frozenset()
    noted_on: Mapping[RedFlag, date] = field(default_factory=dict)
    cleared_on: date | None = None
    cleared_from: date | None = None
    released_on: date | None = None
    release: Release | None = Release.FULL
    folds_operated_on: date | None = None
    surgeons_date: date | None = None
    looked_at_on: date | None = None
    voice_rest_until: date | None = None
    voice: VoiceState | None = VoiceState.TROUBLED
    airway: Airway | None = Airway.LARYNX
    cuff_safe_on: date | None = None
    valve_tolerated_on: date | None = None
    upper_airway_seen_on: date | None = None
    trouble_began_on: date | None = None
    hoarse_weeks: Annotated[float, Field(ge=0, le=LONGEST_HOARSE_WEEKS)] | None = None
    clear_since: date | None = None
    cold: bool | None = False
    hoarser: bool = False
    usual_voice_since: date | None = None
    usual_voice_reported: date | None = None
    botulinum_on: date | None = None
    paralysis_since: date | None = None
    throat_operated_on: date | None = None
    movement_examined_on: date | None = None
    voice_changing: bool | None = None
    tone_heard: bool | None = None
    minor: bool = False
    age_years: Annotated[int, Field(ge=0, le=130)] | None = None
    throat_strain: Annotated[int, Field(ge=0, le=10)] | None = None
    guardian_consent: bool = False
    conditions: frozenset[Condition] = frozenset()

    def __post_init__(self) -> None:
        if both := sorted(self.red_flags & self.unasked):
            raise PlanError("flag_asked_and_not", flag=both[0].value)

    @property
    def has_larynx(self) -> bool:
        """Whether the questions about voice and larynx apply."""
        return self.airway is not Airway.NO_LARYNX

    def has_complaint(self, today: date) -> bool:
        """Whether there is a complaint about the voice. What lasted under three weeks and has been gone
        for two days counts as none; any other trouble that is over counts as if it were there."""
        if self.voice is VoiceState.CLEAR_AGAIN:
            began, clear = self.began_on, self.clear_since
            if began is None or clear is None:
                return True
            short = clear - began < timedelta(weeks=NEWLY_HOARSE_UNDER.number)
            gone = (today - clear).days >= CLEAR_AGAIN_DAYS.number
            return not (short and gone)
        return self.voice is not VoiceState.NO_COMPLAINT

    @property
    def began_on(self) -> date | None:
        """About when the present trouble began; None where nothing tells it."""
        if self.trouble_began_on is not None or self.hoarse_weeks is None:
            return self.trouble_began_on
        return self.asked_on - timedelta(weeks=self.hoarse_weeks)

    def noted(self, flag: RedFlag) -> date:
        """The day the red flag was noted."""
        return self.noted_on.get(flag, self.asked_on)

    def open_flags(self, today: date) -> tuple[RedFlag, ...]:
        """The red flags that nothing has opened again by that day; the same day counts as after."""
        return tuple(flag for flag in sorted(self.red_flags) if not self._opened(flag, today))

    def _opened(self, flag: RedFlag, today: date) -> bool:
        noted, by = self.noted(flag), OPENED_BY[flag]
        if by is Opening.CLEARANCE:
            given = self.cleared_on or self.cleared_from
            voicing_from = self.cleared_from or self.cleared_on
            if given is None or voicing_from is None:
                return False
            return noted <= given <= today and voicing_from <= today
        if by is Opening.EXAMINATION:
            return _between(noted, self.larynx_examined_on, today)
        if by is Opening.RELEASE:
            return _between(noted, self.released_on, today)
        return noted < self.asked_on and _between(
            noted, self.looked_at_on, min(self.asked_on, today)
        )

    def examined(self, today: date) -> bool:
        """Whether the larynx was examined since the present trouble began; where that day is not
        known, it may have begun as late as the day of asking."""
        return _between(self.began_on or self.asked_on, self.larynx_examined_on, today)

    @property
    def operated_on(self) -> date:
        """About when the folds were operated on; where that is not known, it may have been as late
        as the day it was first told."""
        return self.folds_operated_on or self.asked_on

    def released(self, today: date) -> bool:
        """Whether the surgeon's release came after the surgery of the folds."""
        return _between(self.operated_on, self.released_on, today)


def _between(first: date, day: date | None, last: date) -> bool:
    return day is not None and first <= day <= last


_FLAG_WORDS = told_as(
    "flag",
    {
        RedFlag.NOISY_BREATHING: "Noisy breathing",
        RedFlag.BLOOD: "Coughing or spitting blood",
        RedFlag.FRESH_HAEMORRHAGE: (
            "Hemorrhage of a vocal fold, or a voice that changed suddenly while shouting, singing, "
            "coughing or lifting"
        ),
        RedFlag.PAINFUL_SWALLOWING: "Painful swallowing",
        RedFlag.EAR_PAIN: "Ear pain",
        RedFlag.NECK_LUMP: "Lump in the neck",
        RedFlag.TROUBLE_SWALLOWING: "Trouble swallowing",
        RedFlag.WEIGHT_LOSS: "Unexplained weight loss",
        RedFlag.SUDDEN_LOSS: "Sudden loss of voice",
        RedFlag.RECENT_SURGERY: "Neck or larynx surgery or intubation in the last 12 weeks",
        RedFlag.SMOKING_HOARSE: "Smoking with hoarseness",
        RedFlag.FACE_OR_SPEECH_SUDDEN: "Sudden drooping face or slurred speech",
    },
)
_OPENS_WHEN = told_as(
    "opens_when",
    {
        Opening.CLEARANCE: "nothing voiced until the examiner's date, given after it was noted",
        Opening.EXAMINATION: "the larynx has to be examined after it was noted",
        Opening.RELEASE: "the surgeon's release has to come after it was noted",
        Opening.LOOKED_AT: "emergency number; a new screening once a doctor has looked at it",
    },
)


def in_words(flag: RedFlag) -> Reason:
    """The red flag as a clinician says it."""
    return _FLAG_WORDS[flag]


def opens_when(flag: RedFlag) -> Reason:
    """What has to happen before anything is voiced again, in words."""
    return _OPENS_WHEN[OPENED_BY[flag]]
