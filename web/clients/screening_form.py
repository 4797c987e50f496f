"""The screening as a form: red flags with their days, what opens them, how the client lives."""

from collections.abc import Iterable
from datetime import date, time
from typing import Any

from django import forms
from django.utils.translation import gettext as _now
from django.utils.translation import gettext_lazy as _

from core.catalogue.words import EQUIPMENT_WORDS, SKILL_WORDS
from core.safety.circumstances import Circumstance, Event, Living, bearings
from core.safety.condition import FROM_THE_AGE, Condition, in_plain_words
from core.safety.screening import ABSOLUTE, RedFlag, Screening, in_words, opens_when
from web.clients.forms import DateInput
from web.clients.models import Client, StoredScreening

PAST_DAYS = (
    "asked_on",
    "trouble_began_on",
    "larynx_examined_on",
    "cleared_on",
    "released_on",
    "folds_operated_on",
    "looked_at_on",
)
KEPT_FROM_LAST = (
    "trouble_began_on",
    "larynx_examined_on",
    "findings",
    "hoarse_weeks",
    "voice_rest_until",
    "guardian_consent",
    "conditions",
    "folds_operated_on",
    "equipment",
    "cannot",
    "circumstances",
    "talking_hours",
    "medication",
    "whereabouts",
    "emergency_contact",
    "minutes_a_session",
    "minutes_a_week",
)
"""What a new screening begins with. Clearances and releases never: they are given for a finding."""


def _checks(label, choices) -> forms.MultipleChoiceField:
    return forms.MultipleChoiceField(
        label=label,
        required=False,
        choices=[(one.value, words) for one, words in choices],
        widget=forms.CheckboxSelectMultiple,
    )


def _day(label) -> forms.DateField:
    return forms.DateField(label=label, required=False, widget=DateInput)


class ScreeningForm(forms.Form):
    asked_on = forms.DateField(label=_("Asked on"), widget=DateInput)
    trouble_began_on = _day(_("Present trouble began, about"))
    hoarse_weeks = forms.FloatField(
        label=_("Hoarse for, weeks"), required=False, min_value=0, max_value=2600
    )
    cold = forms.BooleanField(label=_("A cold now"), required=False)
    hoarser = forms.BooleanField(label=_("Hoarser with it than usual"), required=False)
    larynx_examined_on = _day(_("Larynx examined on"))
    findings = forms.CharField(label=_("What was found"), required=False, max_length=300)
    red_flags = _checks(_("Red flags"), [(flag, in_words(flag)) for flag in RedFlag])
    mistaken_why = forms.CharField(
        label=_("No longer ticked, because it was noted in error"), required=False, max_length=300
    )
    cleared_on = _day(_("Examiner's clearance given on"))
    cleared_from = _day(_("It allows voicing from"))
    released_on = _day(_("Surgeon's release given on"))
    looked_at_on = _day(_("Face or speech looked at by a doctor on"))
    voice_rest_until = _day(_("Voice rest until"))
    guardian_consent = forms.BooleanField(
        label=_("Guardian's consent on file (minors)"), required=False
    )
    conditions = _checks(
        _("Contraindications and precautions"),
        [(one, in_plain_words(one)) for one in Condition if one not in FROM_THE_AGE],
    )
    folds_operated_on = _day(_("Vocal folds operated on, about"))
    equipment = _checks(_("At home there is"), EQUIPMENT_WORDS.items())
    cannot = _checks(_("The client cannot"), SKILL_WORDS.items())
    circumstances = _checks(
        _("The client lives with"), [(one, told.asked) for one, told in bearings().items()]
    )
    medication = forms.CharField(label=_("Medication"), required=False, max_length=300)
    medication_times = forms.CharField(
        label=_("Taken at: 8:00 13:30"), required=False, max_length=80
    )
    talking_hours = forms.FloatField(
        label=_("Talks a day, hours"), required=False, min_value=0, max_value=24
    )
    events = forms.CharField(
        label=_("Events, a line each: 2026-07-02 wedding"),
        required=False,
        max_length=600,
        widget=forms.Textarea(attrs={"rows": 2}),
    )
    whereabouts = forms.CharField(
        label=_("Where the client is in remote visits"), required=False, max_length=200
    )
    emergency_contact = forms.CharField(
        label=_("Emergency contact"), required=False, max_length=200
    )
    minutes_a_session = forms.FloatField(
        label=_("Most minutes, a home session"), required=False, min_value=1, max_value=60
    )
    minutes_a_week = forms.FloatField(
        label=_("Most minutes, a week"), required=False, min_value=5, max_value=1000
    )

    def __init__(
        self,
        *args,
        today: date,
        client: Client,
        last: StoredScreening | None = None,
        standing: Screening | None = None,
        **kwargs,
    ):
        self.today, self.client = today, client
        open_now = standing.open_flags(today) if standing else ()
        self.before = {flag: standing.noted(flag) for flag in open_now} if standing else {}
        kwargs["initial"] = self._initial(last)
        super().__init__(*args, **kwargs)
        for flag in RedFlag:
            noted = _day(_("Noted on"))
            noted.widget.attrs["aria-label"] = _now("%(flag)s: noted on") % {"flag": in_words(flag)}
            self.fields[f"noted_{flag.value}"] = noted
            if flag in self.before:
                self.initial[f"noted_{flag.value}"] = self.before[flag]

    def _initial(self, last: StoredScreening | None) -> dict[str, Any]:
        start: dict[str, Any] = {"asked_on": self.today}
        start["red_flags"] = [flag.value for flag in self.before]
        if last is not None:
            start |= {name: getattr(last, name) for name in KEPT_FROM_LAST}
            ahead = [e for e in last.events if e["on"] >= self.today.isoformat()]
            start["events"] = "\n".join(f"{e['on']} {e['name']}" for e in ahead)
            start["medication_times"] = " ".join(last.medication_times)
        return start

    def as_it_stands(self) -> dict[str, Any]:
        """What the form begins with, as it would be cleaned."""
        told = ("events", "medication_times")
        self.cleaned_data = {name: self.initial.get(name, "") for name in told}
        own = {"events": self.clean_events(), "medication_times": self.clean_medication_times()}
        return {**self.initial, **own}

    def flag_rows(self) -> Iterable[dict[str, Any]]:
        """Each red flag with its box and its day, for the page."""
        ticked = self["red_flags"].value() or []
        for flag in RedFlag:
            yield {
                "value": flag.value,
                "words": in_words(flag),
                "ticked": flag.value in ticked,
                "noted": self[f"noted_{flag.value}"],
                "opens": opens_when(flag) if flag in self.before else "",
            }

    def clean_medication_times(self) -> tuple[time, ...]:
        found = []
        for word in self.cleaned_data["medication_times"].replace(",", " ").split():
            try:
                hours, _colon, minutes = word.partition(":")
                found.append(time(int(hours), int(minutes or 0)))
            except ValueError as error:
                words = _now("“%(word)s” is no time of day. An example: 8:00 13:30")
                raise forms.ValidationError(words % {"word": word}) from error
        return tuple(sorted(set(found)))

    def clean_events(self) -> tuple[Event, ...]:
        found = []
        for line in self.cleaned_data["events"].splitlines():
            day, _space, name = line.strip().partition(" ")
            if not day:
                continue
            try:
                found.append(Event(on=date.fromisoformat(day), name=name.strip()[:80]))
            except ValueError as error:
                words = _now("“%(line)s” is no event. An example: 2026-07-02 wedding")
                raise forms.ValidationError(words % {"line": line}) from error
            if not name.strip():
                raise forms.ValidationError(_now("An event has a name after its day."))
        return tuple(found)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        self._check_days(data)
        self._check_flags(data)
        self._check_opposites(data)
        return data

    def _check_days(self, data: dict[str, Any]) -> None:
        noted = [f"noted_{flag.value}" for flag in RedFlag]
        for name in (*PAST_DAYS, *noted):
            if (day := data.get(name)) is None:
                continue
            if day > self.today:
                self.add_error(name, _now("This day is still to come."))
            elif day < self.client.born_on:
                self.add_error(name, _now("This day lies before the client's birth."))
        for name in ("cleared_from", "voice_rest_until"):
            if (day := data.get(name)) and (day < self.client.born_on or day.year > 2100):
                self.add_error(name, _now("Check the year."))
        asked = data.get("asked_on")
        if asked and self.before and asked < min(self.before.values()):
            self.add_error(
                "asked_on", _now("A red flag that still stands was noted after this day.")
            )

    def _check_flags(self, data: dict[str, Any]) -> None:
        ticked = {RedFlag(flag) for flag in data.get("red_flags", ())}
        self.noted = {
            flag: data.get(f"noted_{flag.value}") or data.get("asked_on") or self.today
            for flag in ticked
        }
        asked = data.get("asked_on") or self.today
        for flag, day in self.noted.items():
            if day > asked:
                self.add_error(f"noted_{flag.value}", _now("It was noted after it was asked for."))
        self.mistaken = set(self.before) - ticked
        if self.mistaken and not data.get("mistaken_why", "").strip():
            names = ", ".join(in_words(flag) for flag in sorted(self.mistaken))
            words = _now(
                "%(names)s: noted before, and nothing has opened it yet. It stays ticked; if it "
                "was noted in error, write why."
            )
            self.add_error("mistaken_why", words % {"names": names})
        given, valid = data.get("cleared_on"), data.get("cleared_from")
        if bool(given) != bool(valid):
            name = "cleared_from" if given else "cleared_on"
            self.add_error(
                name, _now("A clearance has the day it was given and the day it begins.")
            )
        absolute = [day for flag, day in self.noted.items() if flag in ABSOLUTE]
        if given and absolute and given < max(absolute):
            words = _now("It was given before the finding of %(day)s: it does not clear it.")
            self.add_error("cleared_on", words % {"day": f"{max(absolute):%-d %B %Y}"})
        if given and valid and valid < given:
            self.add_error("cleared_from", _now("It begins before it was given."))

    def _check_opposites(self, data: dict[str, Any]) -> None:
        if data.get("hoarser") and not data.get("cold"):
            self.add_error("hoarser", _now("This is asked about a cold: tick the cold too."))
        if data.get("folds_operated_on") and Condition.FOLD_SURGERY not in data.get(
            "conditions", ()
        ):
            words = _now("Tick “%(condition)s” too, or leave this day out.")
            condition = in_plain_words(Condition.FOLD_SURGERY)
            self.add_error("folds_operated_on", words % {"condition": condition})
        began, asked = data.get("trouble_began_on"), data.get("asked_on")
        if began and asked and began > asked:
            self.add_error("trouble_began_on", _now("It began after it was asked for."))
        if began and asked and data.get("hoarse_weeks"):
            weeks = (asked - began).days / 7
            if data["hoarse_weeks"] > weeks + 2:
                words = _now("Hoarse for longer than the present trouble: one of the two is wrong.")
                self.add_error("hoarse_weeks", words)
        if Circumstance.REMOTE_VISITS in data.get("circumstances", ()):
            for name in ("whereabouts", "emergency_contact"):
                if not data.get(name, "").strip():
                    self.add_error(name, _now("Remote visits need this."))
        if data.get("medication_times") and not data.get("medication", "").strip():
            self.add_error("medication", _now("Which medication is taken at these times?"))

    def answers(self) -> dict[str, Any]:
        """What `record_screening` takes; call after is_valid."""
        data = {k: v for k, v in self.cleaned_data.items() if not k.startswith("noted_")}
        living = Living(
            circumstances=frozenset(Circumstance(one) for one in data.pop("circumstances")),
            talking_hours=data.pop("talking_hours"),
            events=data.pop("events"),
            medication_times=data.pop("medication_times"),
        )
        return data | {"living": living, "flags_noted": self.noted, "mistaken": self.mistaken}
