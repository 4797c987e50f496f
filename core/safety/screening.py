"""What was asked in a screening: red flags with their days, clearances, conditions."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from enum import StrEnum

from core.plans.targets import Strict
from core.reference.values import NEWLY_HOARSE_UNDER
from core.safety.condition import Condition


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

    noted_on: the day a red flag was noted, where that is not the day of asking. cleared_on: the day
    the examiner gave the clearance, cleared_from: the day from which it allows voicing; where only
    one is known it stands for both. released_on: the surgeon's release. folds_operated_on:
    about, the latest surgery of the folds. looked_at_on: a doctor looked at the drooping face or
    slurred speech. trouble_began_on: about, the present trouble;
    where it is missing, the weeks of hoarseness tell it. cold, hoarser: a cold now, and hoarser
    than usual with it.
    """

    asked_on: date
    larynx_examined_on: date | None
    red_flags: frozenset[RedFlag] = frozenset()
    noted_on: Mapping[RedFlag, date] = field(default_factory=dict)
    cleared_on: date | None = None
    cleared_from: date | None = None
    released_on: date | None = None
    folds_operated_on: date | None = None
    looked_at_on: date | None = None
    voice_rest_until: date | None = None
    trouble_began_on: date | None = None
    hoarse_weeks: float | None = None
    cold: bool = False
    hoarser: bool = False
    minor: bool = False
    guardian_consent: bool = False
    conditions: frozenset[Condition] = frozenset()

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

    def cold_on_the_voice(self, today: date) -> bool:
        """A cold that makes newly hoarse or hoarser, not examined since: acute laryngitis until
        cleared."""
        if not self.cold:
            return False
        newly = self.hoarse_weeks is not None and 0 < self.hoarse_weeks < NEWLY_HOARSE_UNDER.number
        if not (newly or self.hoarser):
            return False
        began = self.began_on if newly and not self.hoarser else None
        return not _between(began or self.asked_on, self.larynx_examined_on, today)


def _between(first: date, day: date | None, last: date) -> bool:
    return day is not None and first <= day <= last


_FLAG_WORDS = {
    RedFlag.NOISY_BREATHING: "Noisy breathing",
    RedFlag.BLOOD: "Coughing or spitting blood",
    RedFlag.FRESH_HAEMORRHAGE: "Fresh haemorrhage of a vocal fold",
    RedFlag.PAINFUL_SWALLOWING: "Painful swallowing",
    RedFlag.EAR_PAIN: "Ear pain",
    RedFlag.NECK_LUMP: "Lump in the neck",
    RedFlag.TROUBLE_SWALLOWING: "Trouble swallowing",
    RedFlag.WEIGHT_LOSS: "Unexplained weight loss",
    RedFlag.SUDDEN_LOSS: "Sudden loss of voice",
    RedFlag.RECENT_SURGERY: "Recent neck or larynx surgery or intubation",
    RedFlag.SMOKING_HOARSE: "Smoking with hoarseness",
    RedFlag.FACE_OR_SPEECH_SUDDEN: "Sudden drooping face or slurred speech",
}
_OPENS_WHEN = {
    Opening.CLEARANCE: "nothing voiced until the examiner's date, given after it was noted",
    Opening.EXAMINATION: "the larynx has to be examined after it was noted",
    Opening.RELEASE: "the surgeon's release has to come after it was noted",
    Opening.LOOKED_AT: "emergency number; a new screening once a doctor has looked at it",
}


def in_words(flag: RedFlag) -> str:
    """The red flag as a clinician says it."""
    return _FLAG_WORDS[flag]


def opens_when(flag: RedFlag) -> str:
    """What has to happen before anything is voiced again, in words."""
    return _OPENS_WHEN[OPENED_BY[flag]]
