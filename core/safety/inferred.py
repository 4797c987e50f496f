"""Conditions that follow from the answers of a screening: each with the answers it comes from and what lifts it.

Nobody ticks them. What cannot be told to be harmless is suspended until the answer that lifts it is there.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date, timedelta

from core.reason import Reason, says
from core.reference.values import (
    BOTULINUM_DAYS,
    FOLDS_HEAL_DAYS,
    LARYNGITIS_EXAMINE_AFTER,
    NEWLY_HOARSE_UNDER,
)
from core.safety.condition import Condition, in_plain_words
from core.safety.screening import RedFlag, Screening
from core.safety.state import Airway, Release, VoiceState

_BOTULINUM_TOXIN = says("botulinum_toxin", "botulinum toxin")()
_LARYNGITIS_COLD = says(
    "found_laryngitis_cold",
    "The client has a cold and has been hoarse since {began:day}, with no laryngeal exam since. This is "
    "treated as acute laryngitis: only gentle semi-occluded work, up to 5 minutes a day, until a laryngeal exam "
    "or two days in a row with the usual voice.",
)
_LARYNGITIS_HOARSER = says(
    "found_laryngitis_hoarser",
    "The client has a cold and a voice worse than usual, with no laryngeal exam since {began:day}. This is "
    "treated as acute laryngitis: only gentle semi-occluded work, up to 5 minutes a day, until a laryngeal exam "
    "or two days in a row with the usual voice.",
)
_LARYNGITIS_NEW = says(
    "found_laryngitis_new",
    "The client has been hoarse since {began:day} without a cold, with no laryngeal exam since. This is "
    "treated as acute laryngitis: only gentle semi-occluded work, up to 5 minutes a day, until a laryngeal exam "
    "or two days in a row with the usual voice.",
)
_LARYNGITIS_LONG = says(
    "found_laryngitis_long",
    "The voice is not back to usual after {days} days: have the larynx examined.",
)
_COLD_UNASKED = says(
    "found_cold_unasked",
    "The client has been hoarse since {began:day} and nobody has asked about a cold. No voicing until the "
    "question is answered.",
)
_ON = says("surgery_on", " on {day:day}")
_UNRELEASED = says(
    "found_folds_unreleased",
    "Vocal fold surgery{when}: no voicing until the surgeon's release is recorded.",
)
_UNEXAMINED = says(
    "found_folds_unexamined",
    "Vocal fold surgery{when}: no voicing until the larynx has been examined after it or the surgeon's "
    "release is recorded.",
)
_GENTLE = says(
    "found_folds_gentle",
    "The surgeon allows gentle voicing only: semi-occlusion, hum and resonance at the habitual pitch.",
)
_NO_VOICE = says(
    "found_no_voice",
    "No voice: only gentle semi-occlusion, and a soft cough, laugh or sigh that leads into a hum.",
)
_TRACHEOSTOMY = says(
    "found_tracheostomy",
    "Tracheostomy: no water, straw, balloon, puffs, breath holds or neck handling.",
)
_NO_LARYNX = says(
    "found_no_larynx",
    "No larynx: only articulation and carry-over, in the client's own way of speaking.",
)
_BOTULINUM = says(
    "found_botulinum_recent",
    "Botulinum toxin was injected on {on:day}: no water tasks and no sips until {until:day}.",
)
_SWALLOWING_UNASKED = says(
    "found_swallowing_unasked",
    "Nobody has asked about swallowing since {since:day} ({what}): no water tasks and no sips until then.",
)
_SAFE_SWALLOWING = frozenset({RedFlag.TROUBLE_SWALLOWING, RedFlag.PAINFUL_SWALLOWING})


def inferred(screening: Screening, today: date) -> Mapping[Condition, Reason]:
    """What follows from the answers on that day, each with its reason in words."""
    found: dict[Condition, Reason | None] = {
        Condition.ACUTE_LARYNGITIS: _laryngitis(screening, today),
        Condition.COLD_UNASKED: _cold_unasked(screening, today),
        **_folds(screening, today),
        Condition.SWALLOWING_UNASKED: _swallowing(screening, today),
    }
    if screening.airway is Airway.NO_LARYNX:
        found[Condition.NO_LARYNX] = _NO_LARYNX()
    elif screening.airway is Airway.TRACHEOSTOMY:
        found[Condition.TRACHEOSTOMY] = _TRACHEOSTOMY()
    if screening.has_larynx and screening.voice is VoiceState.NO_VOICE:
        found[Condition.NO_VOICE] = _NO_VOICE()
    return {condition: why for condition, why in found.items() if why is not None}


def inferred_reasons(screening: Screening, today: date) -> tuple[Reason, ...]:
    """The same as lines for a proposal and a gate, with what is due where laryngitis lasts."""
    found = inferred(screening, today)
    lines = list(found.values())
    began = screening.began_on
    if Condition.ACUTE_LARYNGITIS in found and began is not None:
        days = (today - began).days
        if days >= LARYNGITIS_EXAMINE_AFTER.number:
            lines.append(_LARYNGITIS_LONG(days=days))
    return tuple(lines)


def well_again_on(screening: Screening, today: date) -> date | None:
    """The day an acute laryngitis that followed from the answers was over: by an examination, or the
    second day of the usual voice; None where there was none, or it lasts."""
    before = replace(screening, larynx_examined_on=None, usual_voice_since=None)
    if _laryngitis(before, today) is None or _laryngitis(screening, today) is not None:
        return None
    since, examined, usual = (
        _since(screening),
        screening.larynx_examined_on,
        screening.usual_voice_since,
    )
    days = [examined] if examined is not None and since <= examined <= today else []
    if usual is not None and since <= usual < today:
        days.append(usual + timedelta(days=1))
    return min(days, default=None)


def first_usual_day(reports: Mapping[date, bool]) -> date | None:
    """The first of two days running with the usual voice, from the client's reports by day (True = usual).

    Counts back from the last day reported: a later report of a voice that is not usual undoes it. None
    where the last report is not one of two such days running.
    """
    last = max(reports, default=None)
    if last is None:
        return None
    first = last
    while reports.get(first - timedelta(days=1)) and reports[first]:
        first -= timedelta(days=1)
    return first if reports[last] and first < last else None


def with_reports(screening: Screening, today: date, reports: Mapping[date, bool]) -> Screening:
    """The screening with the usual voice that the client reported on two days running, where an acute
    laryngitis followed from its answers."""
    first = first_usual_day(reports)
    if first is None or _laryngitis(screening, today) is None:
        return screening
    return replace(screening, usual_voice_since=first, usual_voice_reported=first)


def without_reports(screening: Screening) -> Screening:
    """The screening as if the client had reported nothing from home."""
    if screening.usual_voice_reported is None:
        return screening
    return replace(screening, usual_voice_since=None, usual_voice_reported=None)


def before_restart(screening: Screening, *, activated_on: date, rungs: Iterable[int]) -> Screening:
    """The screening as it holds for a program that runs: an acute laryngitis that is over only by the client's
    report lasts until the program was restarted, unless every step is at its first rung."""
    reported = screening.usual_voice_reported
    if reported is None or activated_on > reported or not any(rungs):
        return screening
    return without_reports(screening)


def newly_hoarse(screening: Screening) -> bool:
    """Whether the voice had been troubled for under three weeks when it was asked about."""
    began = screening.began_on
    if began is None or not screening.has_complaint(screening.asked_on):
        return False
    return (screening.asked_on - began) < timedelta(weeks=NEWLY_HOARSE_UNDER.number)


def _since(screening: Screening) -> date:
    """Return the day from which an exam or the usual voice ends it: the onset, or the day of the screening
    where a cold makes the voice worse than usual."""
    began = screening.began_on
    if (screening.cold and screening.hoarser) or began is None:
        return screening.asked_on
    return began


def _lifted(screening: Screening, today: date) -> bool:
    since = _since(screening)
    examined, usual = screening.larynx_examined_on, screening.usual_voice_since
    if examined is not None and since <= examined <= today:
        return True
    return usual is not None and since <= usual < today


def _laryngitis(screening: Screening, today: date) -> Reason | None:
    """Return the reason why acute laryngitis is assumed, or None.

    It is assumed when a cold makes the voice worse than usual, and when the client is newly hoarse, with a
    cold or for more than a single day. Screenings older than the question about the state of the voice
    (voice None) assume it only with a cold."""
    if not screening.has_larynx or _lifted(screening, today):
        return None
    since = _since(screening).isoformat()
    if screening.cold and screening.hoarser:
        return _LARYNGITIS_HOARSER(began=since)
    if not newly_hoarse(screening) or screening.cold is None:
        return None
    if screening.cold:
        return _LARYNGITIS_COLD(began=since)
    if screening.voice is None:
        return None
    began = screening.began_on or screening.asked_on
    single_day = (screening.asked_on - began).days <= 1
    return None if single_day else _LARYNGITIS_NEW(began=began.isoformat())


def _cold_unasked(screening: Screening, today: date) -> Reason | None:
    if screening.cold is not None or not screening.has_larynx or _lifted(screening, today):
        return None
    return _COLD_UNASKED(began=_since(screening).isoformat()) if newly_hoarse(screening) else None


def _folds(screening: Screening, today: date) -> dict[Condition, Reason | None]:
    """Return the condition that vocal fold surgery leaves: no voicing, gentle voicing only, or none."""
    if Condition.FOLD_SURGERY not in screening.conditions or not screening.has_larynx:
        return {}
    if screening.released(today):
        if screening.release is Release.FULL:
            return {}
        return {Condition.FOLDS_GENTLE: _GENTLE()}
    operated = screening.folds_operated_on
    when = _ON(day=operated.isoformat()) if operated else ""
    healed = screening.surgeons_date
    if healed is None and operated is not None:
        healed = operated + timedelta(days=FOLDS_HEAL_DAYS.number)
    if healed is not None and today < healed:
        return {Condition.FOLDS_UNRELEASED: _UNRELEASED(when=when)}
    examined = screening.larynx_examined_on
    if examined is not None and screening.operated_on <= examined <= today:
        return {}
    return {Condition.FOLDS_UNRELEASED: _UNEXAMINED(when=when)}


def _swallowing(screening: Screening, today: date) -> Reason | None:
    """Return why water is withheld, or None: for 14 days after botulinum toxin, and after an injection or a new
    paralysis until somebody has asked about swallowing again."""
    injected, paralysed = screening.botulinum_on, screening.paralysis_since
    asked = screening.asked_on
    if injected is not None and injected <= today:
        until = injected + timedelta(days=BOTULINUM_DAYS.number)
        if today < until:
            return _BOTULINUM(on=injected.isoformat(), until=until.isoformat())
    answered = not _SAFE_SWALLOWING & screening.unasked
    if injected is not None and not (answered and injected < asked):
        return _SWALLOWING_UNASKED(since=injected.isoformat(), what=_BOTULINUM_TOXIN)
    if paralysed is not None and not (answered and paralysed <= asked):
        return _SWALLOWING_UNASKED(
            since=paralysed.isoformat(), what=in_plain_words(Condition.PARALYSIS)
        )
    if Condition.PARALYSIS in screening.conditions and not answered:
        return _SWALLOWING_UNASKED(
            since=asked.isoformat(), what=in_plain_words(Condition.PARALYSIS)
        )
    return None
