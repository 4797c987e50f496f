"""The first safety gate: whether a program may become active."""

from dataclasses import dataclass, field
from datetime import date

from core.reason import Reason, says, told_as
from core.reference.values import ASK_AGAIN_AFTER, EXAMINATION_FRESH, EXAMINE_HOARSE_AFTER
from core.safety.inferred import inferred_reasons
from core.safety.screening import RedFlag, Screening, in_words, opens_when
from core.safety.state import Airway, VoiceState

_FLAG_OPEN = {
    flag: says(flag.value, f"{in_words(flag)}, noted {{noted:day}}: {opens_when(flag)}.")
    for flag in RedFlag
}
_FLAGS_UNASKED = says(
    "red_flags_unasked", "Red flags not asked about yet, each needs a yes or no: {flags:list}."
)
_VOICE_UNASKED = says("voice_unasked", "The state of the voice has not been asked.")
_AIRWAY_UNASKED = says(
    "airway_unasked", "The airway has not been asked: larynx, tracheostomy or no larynx."
)
_NO_VOICE_UNEXAMINED = says(
    "no_voice_unexamined", "No voice: the larynx has to be examined before anything is practiced."
)
_TRACHEOSTOMY_OPEN = says(
    "tracheostomy_open", "Tracheostomy: a date is missing for {missing:list}."
)
_TRACHEOSTOMY_REASON = says(
    "tracheostomy_reason", "Tracheostomy: write why voice practice may go ahead."
)
_NO_TELEPHONE = says(
    "clinic_no_telephone",
    "The clinic has no telephone number for clients to call: the lead adds it on the Clinic page.",
)
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
    not yet here; always_examined: the clinic wants an examination also where there is no complaint;
    strong_runs: the version that runs has strong voice already; reachable: the clinic has a number that
    clients can call.
    """

    first: bool = True
    taken_in: bool = False
    always_examined: bool = False
    strong_runs: bool = False
    reachable: bool = True
    hoarse_weeks: float = EXAMINE_HOARSE_AFTER.number
    examination_days: float = EXAMINATION_FRESH.number


def activation_gate(
    screening: Screening | None, today: date, occasion: Occasion | None = None
) -> Gate:
    """Whether a program may become active today, with every reason.

    Every red flag blocks until what opens it has come after it was noted; voice rest, a missing
    guardian's consent, a lost voice that was not examined and an open question about a tracheostomy
    block. At a first activation so does whatever has not been asked (a red flag, the state of the
    voice, the airway); later it is a reminder for the next visit. A larynx not examined since the
    trouble began, an examination that is not fresh and an old screening need a written reason; without
    any complaint and red flag no examination is asked for, and none without a larynx.
    """
    if screening is None:
        return Gate(blocks=(_NOT_SCREENED(),))
    when = occasion or Occasion()
    stale, unasked = _stale(screening, today, when), _unasked(screening)
    elsewhere = (_TAKEN_IN(),) if when.taken_in else ()
    if when.first and not when.reachable:
        elsewhere = (*elsewhere, _NO_TELEPHONE())
    return Gate(
        (*(unasked if when.first else ()), *_blocks(screening, today), *elsewhere),
        (*_needs_reason(screening, today, when), *(stale if when.first else ())),
        (*(() if when.first else (*unasked, *stale)), *inferred_reasons(screening, today)),
    )


def _unasked(screening: Screening) -> list[Reason]:
    """What has not been asked; it is not taken for a no."""
    found = []
    if screening.unasked:
        found.append(_FLAGS_UNASKED(flags=tuple(map(in_words, sorted(screening.unasked)))))
    if screening.airway is None:
        found.append(_AIRWAY_UNASKED())
    if screening.voice is None and screening.has_larynx:
        found.append(_VOICE_UNASKED())
    return found


def _blocks(screening: Screening, today: date) -> list[Reason]:
    found = []
    for flag in screening.open_flags(today):
        found.append(_FLAG_OPEN[flag](noted=screening.noted(flag).isoformat()))
    rest = screening.voice_rest_until
    if rest is not None and today < rest:
        found.append(_VOICE_REST(until=rest.isoformat()))
    if screening.minor and not screening.guardian_consent:
        found.append(_CONSENT_MISSING())
    no_voice = screening.has_larynx and screening.voice is VoiceState.NO_VOICE
    if no_voice and not screening.examined(today):
        found.append(_NO_VOICE_UNEXAMINED())
    if screening.airway is Airway.TRACHEOSTOMY and (missing := _open_airway(screening, today)):
        found.append(_TRACHEOSTOMY_OPEN(missing=missing))
    return found


_AIRWAY_DATES = told_as(
    "tracheostomy_date",
    {
        "cuff": "the cuff deflated or gone",
        "valve": "a valve or cap tolerated",
        "airway": "the upper airway examined",
    },
)


def _open_airway(screening: Screening, today: date) -> tuple[Reason, ...]:
    """Which of the three dates of a tracheostomy are missing or still to come."""
    dates = {
        "cuff": screening.cuff_safe_on,
        "valve": screening.valve_tolerated_on,
        "airway": screening.upper_airway_seen_on,
    }
    return tuple(_AIRWAY_DATES[key] for key, day in dates.items() if day is None or day > today)


def _needs_reason(screening: Screening, today: date, when: Occasion) -> list[Reason]:
    found = []
    if why := _not_examined(screening, today, when):
        found.append(why)
    airway_open = screening.airway is Airway.TRACHEOSTOMY
    if airway_open and not _open_airway(screening, today):
        found.append(_TRACHEOSTOMY_REASON())
    age_days = (today - screening.asked_on).days
    if age_days > ASK_AGAIN_AFTER.number:
        found.append(_SCREENING_OLD(days=age_days))
    return found


def _not_examined(screening: Screening, today: date, when: Occasion) -> Reason | None:
    if screening.examined(today) or not _examination_due(screening, today, when):
        return None
    day, began = screening.larynx_examined_on, screening.began_on
    if day is None or day > today:
        weeks = screening.hoarse_weeks or 0
        return _HOARSE(weeks=weeks) if weeks > when.hoarse_weeks else _NEVER_EXAMINED()
    if began is None:
        return _BEGAN_UNKNOWN(on=day.isoformat())
    return _EXAMINED_BEFORE(on=day.isoformat(), began=began.isoformat())


def _examination_due(screening: Screening, today: date, when: Occasion) -> bool:
    """Whether the larynx has to be examined: with a complaint or a red flag, or where the clinic always
    wants it; never without a larynx."""
    if not screening.has_larynx:
        return False
    return when.always_examined or bool(screening.red_flags) or screening.has_complaint(today)


def _stale(screening: Screening, today: date, when: Occasion) -> tuple[Reason, ...]:
    day = screening.larynx_examined_on
    if day is None or not screening.examined(today):
        return ()
    if not _examination_due(screening, today, when):
        return ()
    age_days = (today - day).days
    if age_days <= when.examination_days:
        return ()
    return (_EXAMINATION_OLD(days=age_days, most_days=when.examination_days),)
