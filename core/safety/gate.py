"""The first safety gate: whether a program may become active."""

from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum

from core.plans.targets import Strict
from core.reference.values import ASK_AGAIN_AFTER, EXAMINE_HOARSE_AFTER
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


ABSOLUTE = frozenset({RedFlag.NOISY_BREATHING, RedFlag.BLOOD, RedFlag.FRESH_HAEMORRHAGE})


@dataclass(frozen=True, slots=True, kw_only=True)
class Screening(Strict):
    """What was found when screening; dates are local dates."""

    asked_on: date
    larynx_examined_on: date | None
    red_flags: frozenset[RedFlag] = frozenset()
    cleared_from: date | None = None
    voice_rest_until: date | None = None
    hoarse_weeks: float | None = None
    minor: bool = False
    guardian_consent: bool = False
    conditions: frozenset[Condition] = frozenset()


@dataclass(frozen=True, slots=True)
class Finding:
    """One reason of the gate: code, parameters, and words for the clinician."""

    code: str
    words: str


@dataclass(frozen=True, slots=True)
class Gate:
    """`blocks` admit no reason; `needs_reason` can be answered in writing by the clinician."""

    blocks: tuple[Finding, ...] = field(default=())
    needs_reason: tuple[Finding, ...] = field(default=())

    def opens(self, written_reason: str) -> bool:
        return not self.blocks and (not self.needs_reason or bool(written_reason.strip()))


def activation_gate(screening: Screening | None, today: date) -> Gate:
    """Whether a program may become active today, with every reason in words.

    Noisy breathing, blood, a fresh haemorrhage and voice rest admit no going ahead until the
    examiner's date; a larynx not examined, other red flags and an old screening need a written
    reason; a minor needs the guardian's consent.
    """
    if screening is None:
        return Gate(blocks=(Finding("not_screened", "No screening is recorded yet."),))
    return Gate(tuple(_blocks(screening, today)), tuple(_needs_reason(screening, today)))


def _blocks(screening: Screening, today: date) -> list[Finding]:
    found = []
    cleared = screening.cleared_from is not None and screening.cleared_from <= today
    for flag in sorted(screening.red_flags & ABSOLUTE):
        if not cleared:
            words = f"{in_words(flag)}: nothing voiced until the examiner's date."
            found.append(Finding(flag.value, words))
    rest = screening.voice_rest_until
    if rest is not None and today < rest:
        found.append(Finding("voice_rest", f"Voice rest is ordered until {rest:%-d %B %Y}."))
    if screening.minor and not screening.guardian_consent:
        found.append(Finding("consent_missing", "The guardian's consent is not recorded."))
    return found


def _needs_reason(screening: Screening, today: date) -> list[Finding]:
    found = []
    if screening.larynx_examined_on is None:
        words = "The larynx has not been examined."
        if (screening.hoarse_weeks or 0) > EXAMINE_HOARSE_AFTER.number:
            words = f"Hoarse for {screening.hoarse_weeks:g} weeks and the larynx not examined."
        found.append(Finding("not_examined", words))
    for flag in sorted(screening.red_flags - ABSOLUTE):
        found.append(Finding(flag.value, f"Red flag: {in_words(flag).lower()}."))
    age_days = (today - screening.asked_on).days
    if age_days > ASK_AGAIN_AFTER.number:
        found.append(Finding("screening_old", f"The screening is {age_days} days old: ask again."))
    return found


def in_words(flag: RedFlag) -> str:
    """The red flag as a clinician says it."""
    return {
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
        RedFlag.FACE_OR_SPEECH_SUDDEN: "Sudden drooping face or slurred speech: emergency number",
    }[flag]
