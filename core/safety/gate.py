"""The first safety gate: whether a program may become active."""

from dataclasses import dataclass, field
from datetime import date

from core.reason import Reason, says, told
from core.reference.values import ASK_AGAIN_AFTER, EXAMINATION_FRESH, EXAMINE_HOARSE_AFTER
from core.safety.screening import RedFlag, Screening, in_words, opens_when

_NOT_SCREENED = says("not_screened", "No screening is recorded yet.")
_VOICE_REST = says("voice_rest", "Voice rest is ordered until {until:day}.")
_CONSENT_MISSING = says("consent_missing", "The guardian's consent is not recorded.")
_SCREENING_OLD = says("screening_old", "The screening is {days} days old: ask again.")
_HOARSE = says("hoarse_not_examined", "Hoarse for {weeks:g} weeks and the larynx not examined.")
_NEVER_EXAMINED = says("not_examined", "The larynx has not been examined.")
_BEGAN_UNKNOWN = says(
    "examined_began_unknown",
    "The larynx was examined on {on:day}; whether that was after the present trouble began is not "
    "known: ask when it began.",
)
_EXAMINED_BEFORE = says(
    "examined_before_it_began",
    "The larynx was examined on {on:day}, before the present trouble began (about {began:day}): "
    "examine again.",
)
_TAKEN_IN = says(
    "program_taken_in",
    "The program came with a record from elsewhere: look at it on the Bench and activate it.",
)
_EXAMINATION_OLD = says(
    "examination_old",
    "The last examination of the larynx is {days} days old, more than {most_days:g}: examine again.",
)


@dataclass(frozen=True, slots=True)
class Gate:
    """`blocks` admit no reason; `needs_reason` can be answered in writing by the clinician;
    `reminds` stands in nobody's way."""

    blocks: tuple[Reason, ...] = field(default=())
    needs_reason: tuple[Reason, ...] = field(default=())
    reminds: tuple[Reason, ...] = field(default=())

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
    examination_days: an older one is not fresh; taken_in: the program was activated in another installation and
    not yet here.
    """

    first: bool = True
    taken_in: bool = False
    hoarse_weeks: float = EXAMINE_HOARSE_AFTER.number
    examination_days: float = EXAMINATION_FRESH.number


def activation_gate(
    screening: Screening | None, today: date, occasion: Occasion | None = None
) -> Gate:
    """Whether a program may become active today, with every reason.

    Every red flag blocks until what opens it has come after it was noted; voice rest and a missing
    guardian's consent block. A larynx not examined since the trouble began, an examination that is
    not fresh and an old screening need a written reason.
    """
    if screening is None:
        return Gate(blocks=(_NOT_SCREENED(),))
    when = occasion or Occasion()
    stale = _stale(screening, today, when)
    elsewhere = (_TAKEN_IN(),) if when.taken_in else ()
    return Gate(
        (*_blocks(screening, today), *elsewhere),
        (*_needs_reason(screening, today, when), *(stale if when.first else ())),
        () if when.first else stale,
    )


def _blocks(screening: Screening, today: date) -> list[Reason]:
    found = []
    for flag in screening.open_flags(today):
        noted = screening.noted(flag)
        words = f"{in_words(flag)}, noted {noted:%-d %B %Y}: {opens_when(flag)}."
        found.append(told(flag.value, words, noted=noted.isoformat()))
    rest = screening.voice_rest_until
    if rest is not None and today < rest:
        found.append(_VOICE_REST(until=rest.isoformat()))
    if screening.minor and not screening.guardian_consent:
        found.append(_CONSENT_MISSING())
    return found


def _needs_reason(screening: Screening, today: date, when: Occasion) -> list[Reason]:
    found = []
    if why := _not_examined(screening, today, when):
        found.append(why)
    age_days = (today - screening.asked_on).days
    if age_days > ASK_AGAIN_AFTER.number:
        found.append(_SCREENING_OLD(days=age_days))
    return found


def _not_examined(screening: Screening, today: date, when: Occasion) -> Reason | None:
    if screening.examined(today):
        return None
    day, began = screening.larynx_examined_on, screening.began_on
    if day is None or day > today:
        weeks = screening.hoarse_weeks or 0
        return _HOARSE(weeks=weeks) if weeks > when.hoarse_weeks else _NEVER_EXAMINED()
    if began is None:
        return _BEGAN_UNKNOWN(on=day.isoformat())
    return _EXAMINED_BEFORE(on=day.isoformat(), began=began.isoformat())


def _stale(screening: Screening, today: date, when: Occasion) -> tuple[Reason, ...]:
    day = screening.larynx_examined_on
    if day is None or not screening.examined(today):
        return ()
    age_days = (today - day).days
    if age_days <= when.examination_days:
        return ()
    return (_EXAMINATION_OLD(days=age_days, most_days=when.examination_days),)
