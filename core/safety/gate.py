"""The first safety gate: whether a program may become active."""

from dataclasses import dataclass, field
from datetime import date

from core.reference.values import ASK_AGAIN_AFTER, EXAMINATION_FRESH, EXAMINE_HOARSE_AFTER
from core.safety.screening import RedFlag, Screening, in_words, opens_when


@dataclass(frozen=True, slots=True)
class GateReason:
    """One reason of the gate: code, parameters, and words for the clinician."""

    code: str
    words: str


@dataclass(frozen=True, slots=True)
class Gate:
    """`blocks` admit no reason; `needs_reason` can be answered in writing by the clinician;
    `reminds` stands in nobody's way."""

    blocks: tuple[GateReason, ...] = field(default=())
    needs_reason: tuple[GateReason, ...] = field(default=())
    reminds: tuple[GateReason, ...] = field(default=())

    def opens(self, written_reason: str) -> bool:
        return not self.blocks and (not self.needs_reason or bool(written_reason.strip()))

    @property
    def emergency(self) -> bool:
        """Whether the emergency number comes before anything else."""
        return any(found.code == RedFlag.FACE_OR_SPEECH_SUDDEN for found in self.blocks)


@dataclass(frozen=True, slots=True, kw_only=True)
class Occasion:
    """When the gate is asked, and with which numbers of the clinic.

    first: at a program's first activation, or after a red flag that is newer than the last one;
    later an old examination only reminds. hoarse_weeks: beyond, the missing examination is urgent;
    examination_days: an older one is not fresh.
    """

    first: bool = True
    hoarse_weeks: float = EXAMINE_HOARSE_AFTER.number
    examination_days: float = EXAMINATION_FRESH.number


def activation_gate(
    screening: Screening | None, today: date, occasion: Occasion | None = None
) -> Gate:
    """Whether a program may become active today, with every reason in words.

    Every red flag blocks until what opens it has come after it was noted; voice rest and a missing
    guardian's consent block. A larynx not examined since the trouble began, an examination that is
    not fresh and an old screening need a written reason.
    """
    if screening is None:
        return Gate(blocks=(GateReason("not_screened", "No screening is recorded yet."),))
    when = occasion or Occasion()
    stale = _stale(screening, today, when)
    return Gate(
        tuple(_blocks(screening, today)),
        (*_needs_reason(screening, today, when), *(stale if when.first else ())),
        () if when.first else stale,
    )


def _blocks(screening: Screening, today: date) -> list[GateReason]:
    found = []
    for flag in screening.open_flags(today):
        day = f"{screening.noted(flag):%-d %B %Y}"
        found.append(GateReason(flag.value, f"{in_words(flag)}, noted {day}: {opens_when(flag)}."))
    rest = screening.voice_rest_until
    if rest is not None and today < rest:
        found.append(GateReason("voice_rest", f"Voice rest is ordered until {rest:%-d %B %Y}."))
    if screening.minor and not screening.guardian_consent:
        found.append(GateReason("consent_missing", "The guardian's consent is not recorded."))
    return found


def _needs_reason(screening: Screening, today: date, when: Occasion) -> list[GateReason]:
    found = []
    if words := _not_examined(screening, today, when):
        found.append(GateReason("not_examined", words))
    age_days = (today - screening.asked_on).days
    if age_days > ASK_AGAIN_AFTER.number:
        found.append(
            GateReason("screening_old", f"The screening is {age_days} days old: ask again.")
        )
    return found


def _not_examined(screening: Screening, today: date, when: Occasion) -> str | None:
    if screening.examined(today):
        return None
    day, began = screening.larynx_examined_on, screening.began_on
    if day is None or day > today:
        if (screening.hoarse_weeks or 0) > when.hoarse_weeks:
            return f"Hoarse for {screening.hoarse_weeks:g} weeks and the larynx not examined."
        return "The larynx has not been examined."
    if began is None:
        return (
            f"The larynx was examined on {day:%-d %B %Y}; whether that was after the present "
            "trouble began is not known: ask when it began."
        )
    return (
        f"The larynx was examined on {day:%-d %B %Y}, before the present trouble began "
        f"(about {began:%-d %B %Y}): examine again."
    )


def _stale(screening: Screening, today: date, when: Occasion) -> tuple[GateReason, ...]:
    day = screening.larynx_examined_on
    if day is None or not screening.examined(today):
        return ()
    age_days = (today - day).days
    if age_days <= when.examination_days:
        return ()
    words = (
        f"The last examination of the larynx is {age_days} days old, more than "
        f"{when.examination_days:g}: examine again."
    )
    return (GateReason("examination_old", words),)
