"""Checks the answers of a screening against each other. Each problem is reported at its field."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from django.utils.translation import gettext as _now

from core.safety.circumstances import Circumstance
from core.safety.condition import Condition, in_plain_words
from core.safety.screening import ABSOLUTE, RedFlag, in_words
from core.safety.state import Airway, VoiceState
from web.design.dates import long_day

_PAST_DAYS = (
    "asked_on",
    "trouble_began_on",
    "clear_since",
    "usual_voice_since",
    "cuff_safe_on",
    "valve_tolerated_on",
    "upper_airway_seen_on",
    "larynx_examined_on",
    "cleared_on",
    "released_on",
    "folds_operated_on",
    "botulinum_on",
    "paralysis_since",
    "throat_operated_on",
    "movement_examined_on",
    "looked_at_on",
)
_DAYS_TO_COME = ("cleared_from", "voice_rest_until", "surgeons_date")
_DAY_OF = {
    "folds_operated_on": Condition.FOLD_SURGERY,
    "paralysis_since": Condition.PARALYSIS,
    "throat_operated_on": Condition.THROAT_SURGERY,
}
"""Dates that belong to a condition which has to be ticked."""


def check_answers(form: Any, data: Mapping[str, Any]) -> None:
    """Add an error to the form wherever answers contradict each other."""
    _check_days(form, data)
    _check_flags(form, data)
    _check_voice(form, data)
    _check_airway(form, data)
    _check_surgery(form, data)
    if Circumstance.REMOTE_VISITS in data.get("circumstances", ()):
        for name in ("whereabouts", "emergency_contact"):
            if not data.get(name, "").strip():
                form.add_error(name, _now("Needed for tele-visits."))
    if data.get("medication_times") and not data.get("medication", "").strip():
        form.add_error("medication", _now("Which medication is taken at these times?"))


def _check_days(form: Any, data: Mapping[str, Any]) -> None:
    noted = [f"noted_{flag.value}" for flag in RedFlag]
    for name in (*_PAST_DAYS, *noted):
        if (day := data.get(name)) is None:
            continue
        if day > form.today:
            form.add_error(name, _now("This date is in the future."))
        elif day < form.client.born_on:
            form.add_error(name, _now("This date is before the client's birth."))
    for name in _DAYS_TO_COME:
        if (day := data.get(name)) and (day < form.client.born_on or day.year > 2100):
            form.add_error(name, _now("Check the year."))
    asked = data.get("asked_on")
    if asked and form.before and asked < min(form.before.values()):
        form.add_error("asked_on", _now("A red flag that still stands was noted after this date."))


def _check_flags(form: Any, data: Mapping[str, Any]) -> None:
    asked = data.get("asked_on") or form.today
    for flag in RedFlag:
        day = data.get(f"noted_{flag.value}")
        if flag in form.present and form.noted[flag] > asked:
            form.add_error(f"noted_{flag.value}", _now("This is after the date of screening."))
        elif flag not in form.present and day is not None and flag not in form.before:
            form.add_error(f"noted_{flag.value}", _now("Answer “Yes”, or remove the date."))
    if form.mistaken and not data.get("mistaken_why", "").strip():
        names = ", ".join(str(in_words(flag)) for flag in sorted(form.mistaken))
        words = _now(
            "%(names)s: noted before and not cleared yet, so the answer stays “Yes”. If it was noted in "
            "error, write why."
        )
        form.add_error("mistaken_why", words % {"names": names})
    _check_clearance(form, data)


def _check_clearance(form: Any, data: Mapping[str, Any]) -> None:
    given, valid = data.get("cleared_on"), data.get("cleared_from")
    if bool(given) != bool(valid):
        name = "cleared_from" if given else "cleared_on"
        form.add_error(
            name,
            _now("A clearance needs the date it was given and the date voicing is allowed from."),
        )
    absolute = [day for flag, day in form.noted.items() if flag in ABSOLUTE]
    if given and absolute and given < max(absolute):
        words = _now("This is before the finding of %(day)s and does not clear it.")
        form.add_error("cleared_on", words % {"day": long_day(max(absolute))})
    if given and valid and valid < given:
        form.add_error("cleared_from", _now("This is before the clearance was given."))


def _check_voice(form: Any, data: Mapping[str, Any]) -> None:
    voice, began, weeks = data.get("voice"), data.get("trouble_began_on"), data.get("hoarse_weeks")
    asked, clear = data.get("asked_on"), data.get("clear_since")
    if voice == VoiceState.NO_COMPLAINT:
        for name, answer in (("trouble_began_on", began), ("hoarse_weeks", weeks)):
            if answer:
                words = _now("“No complaint now” is chosen: remove this, or choose another state.")
                form.add_error(name, words)
        if data.get("hoarser"):
            form.add_error("hoarser", _now("“No complaint now” is chosen: choose one of the two."))
    if voice == VoiceState.CLEAR_AGAIN:
        if not began and not weeks:
            form.add_error("trouble_began_on", _now("When did the problem begin?"))
        if not clear:
            form.add_error("clear_since", _now("Since when has the voice been clear?"))
    elif clear:
        words = _now("Choose “Hoarse or troubled before, clear now”, or remove this date.")
        form.add_error("clear_since", words)
    if clear and began and clear < began:
        form.add_error("clear_since", _now("This is before the problem began."))
    if data.get("hoarser") and data.get("cold") is not True:
        form.add_error("hoarser", _now("This goes with a cold: answer “A cold now?” with yes."))
    if began and asked and began > asked:
        form.add_error("trouble_began_on", _now("This is after the date of screening."))
    elif began and asked and weeks:
        _check_same_onset(form, (asked - began).days / 7, weeks)


def _check_same_onset(form: Any, by_date: float, weeks: float) -> None:
    """The date and the weeks tell the same onset, give or take two weeks and a tenth."""
    if abs(weeks - by_date) > 2 + 0.1 * max(weeks, by_date):
        words = _now("The onset date says %(by_date).1f weeks. Correct one of the two.")
        form.add_error("hoarse_weeks", words % {"by_date": by_date})


def _check_airway(form: Any, data: Mapping[str, Any]) -> None:
    if data.get("airway") == Airway.TRACHEOSTOMY:
        return
    for name in ("cuff_safe_on", "valve_tolerated_on", "upper_airway_seen_on"):
        if data.get(name):
            form.add_error(name, _now("This goes with a tracheostomy: choose it as the airway."))


def _check_surgery(form: Any, data: Mapping[str, Any]) -> None:
    ticked = data.get("conditions", ())
    for name, condition in _DAY_OF.items():
        if data.get(name) and condition not in ticked:
            words = _now("Tick “%(condition)s” as well, or remove this date.")
            form.add_error(name, words % {"condition": in_plain_words(condition)})
    if data.get("released_on") and not data.get("release"):
        form.add_error("release", _now("What did the surgeon release the voice for?"))
    if data.get("release") and not data.get("released_on"):
        form.add_error("released_on", _now("When was the release given?"))
    operated, until = data.get("folds_operated_on"), data.get("surgeons_date")
    if isinstance(until, date) and operated and until < operated:
        form.add_error("surgeons_date", _now("This is before the surgery."))
