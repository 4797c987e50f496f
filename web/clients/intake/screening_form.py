"""The screening as a form: state of the voice, red flags with their days, what clears them, how the client lives."""

from collections.abc import Iterable
from datetime import date, time
from typing import Any

from django import forms
from django.utils.translation import gettext as _now
from django.utils.translation import gettext_lazy as _

from core.catalogue.words import EQUIPMENT_WORDS, SKILL_WORDS
from core.safety.circumstances import Circumstance, Event, Living, asked_words
from core.safety.condition import FROM_THE_RECORD, Condition, in_plain_words
from core.safety.screening import RedFlag, Screening, in_words, opens_when
from core.safety.state import AIRWAY_WORDS, RELEASE_WORDS, VOICE_WORDS
from web.clients.forms import DateInput
from web.clients.intake.screening_checks import check_answers
from web.clients.models import Client, StoredScreening

KEPT_FROM_LAST = (
    "trouble_began_on",
    "larynx_examined_on",
    "findings",
    "hoarse_weeks",
    "voice_rest_until",
    "guardian_consent",
    "conditions",
    "airway",
    "cuff_safe_on",
    "valve_tolerated_on",
    "upper_airway_seen_on",
    "folds_operated_on",
    "surgeons_date",
    "botulinum_on",
    "paralysis_since",
    "throat_operated_on",
    "movement_examined_on",
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
"""What a new screening begins with. The state of the voice, a cold, red flags, clearances and releases
never: they are asked again."""
_CHANGES_FROM, _CHANGES_TO = 10, 17
"""Ages in years at which it is asked whether the voice is changing."""


def _checks(label, choices) -> forms.MultipleChoiceField:
    return forms.MultipleChoiceField(
        label=label,
        required=False,
        choices=[(one.value, words) for one, words in choices],
        widget=forms.CheckboxSelectMultiple,
    )


def _day(label) -> forms.DateField:
    return forms.DateField(label=label, required=False, widget=DateInput)


def _one_of(label, words) -> forms.ChoiceField:
    """One answer of several; none is chosen to begin with."""
    return forms.ChoiceField(
        label=label,
        required=False,
        choices=[(one.value, text) for one, text in words.items()],
        widget=forms.RadioSelect,
    )


def _yes_or_no(label) -> forms.TypedChoiceField:
    """Yes, no, or not asked."""
    return forms.TypedChoiceField(
        label=label,
        required=False,
        choices=[("yes", _("Yes")), ("no", _("No"))],
        widget=forms.RadioSelect,
        coerce=lambda answer: answer == "yes",
        empty_value=None,
    )


class ScreeningForm(forms.Form):
    asked_on = forms.DateField(label=_("Date of screening"), widget=DateInput)
    voice = _one_of(_("State of the voice"), VOICE_WORDS)
    trouble_began_on = _day(_("Onset of current problem (approx.)"))
    hoarse_weeks = forms.FloatField(
        label=_("Hoarse for (weeks)"), required=False, min_value=0, max_value=2600
    )
    clear_since = _day(_("Clear since"))
    cold = _yes_or_no(_("A cold now?"))
    hoarser = forms.BooleanField(label=_("Voice worse than usual with the cold"), required=False)
    usual_voice_since = _day(_("Usual voice back since"))
    airway = _one_of(_("Airway"), AIRWAY_WORDS)
    cuff_safe_on = _day(_("Cuff deflated or cuffless on"))
    valve_tolerated_on = _day(_("Valve or cap tolerated on"))
    upper_airway_seen_on = _day(_("Upper airway examined on"))
    larynx_examined_on = _day(_("Larynx examined on"))
    findings = forms.CharField(label=_("Findings"), required=False, max_length=300)
    rest_absent = forms.BooleanField(label=_("All others asked, none present"), required=False)
    mistaken_why = forms.CharField(
        label=_("Why an earlier red flag was noted in error"), required=False, max_length=300
    )
    cleared_on = _day(_("Examiner's clearance given on"))
    cleared_from = _day(_("Voicing allowed from"))
    released_on = _day(_("Surgeon's release given on"))
    release = _one_of(_("Released for"), RELEASE_WORDS)
    looked_at_on = _day(_("Doctor assessed face/speech on"))
    voice_rest_until = _day(_("Voice rest until"))
    guardian_consent = forms.BooleanField(
        label=_("Guardian's consent on file (minors)"), required=False
    )
    voice_changing = _yes_or_no(_("Is the voice changing?"))
    conditions = _checks(
        _("Contraindications and precautions"),
        [(one, in_plain_words(one)) for one in Condition if one not in FROM_THE_RECORD],
    )
    folds_operated_on = _day(_("Vocal fold surgery on (approx.)"))
    surgeons_date = _day(_("Surgeon's date, if not 12 weeks"))
    botulinum_on = _day(_("Botulinum toxin injected on"))
    paralysis_since = _day(_("Paralysis of a fold since"))
    throat_operated_on = _day(_("Thyroid, neck or chest surgery on"))
    movement_examined_on = _day(_("Movement of the folds examined on"))
    equipment = _checks(_("Equipment at home"), EQUIPMENT_WORDS.items())
    cannot = _checks(_("The client cannot"), SKILL_WORDS.items())
    circumstances = _checks(_("Circumstances"), asked_words().items())
    tone_heard = _yes_or_no(_("Hearing loss: is the reference tone heard?"))
    medication = forms.CharField(label=_("Medication"), required=False, max_length=300)
    medication_times = forms.CharField(
        label=_("Taken at, e.g. 8:00 13:30"), required=False, max_length=80
    )
    talking_hours = forms.FloatField(
        label=_("Talking per day (hours)"), required=False, min_value=0, max_value=24
    )
    events = forms.CharField(
        label=_("Upcoming events (one per line, e.g. 2026-07-02 wedding)"),
        required=False,
        max_length=600,
        widget=forms.Textarea(attrs={"rows": 2}),
    )
    whereabouts = forms.CharField(
        label=_("Client's location during tele-visits"), required=False, max_length=200
    )
    emergency_contact = forms.CharField(
        label=_("Emergency contact"), required=False, max_length=200
    )
    minutes_a_session = forms.FloatField(
        label=_("Max. minutes per home session"), required=False, min_value=1, max_value=60
    )
    minutes_a_week = forms.FloatField(
        label=_("Max. minutes per week"), required=False, min_value=5, max_value=1000
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
        if not _CHANGES_FROM <= client.age_on(today) <= _CHANGES_TO:
            del self.fields["voice_changing"]
        for flag in RedFlag:
            answer = _yes_or_no(in_words(flag))
            noted = _day(_("Date noted"))
            noted.widget.attrs["aria-label"] = _now("%(flag)s: date noted") % {
                "flag": in_words(flag)
            }
            self.fields[f"flag_{flag.value}"] = answer
            self.fields[f"noted_{flag.value}"] = noted
            if flag in self.before:
                self.initial[f"flag_{flag.value}"] = "yes"
                self.initial[f"noted_{flag.value}"] = self.before[flag]

    def _initial(self, last: StoredScreening | None) -> dict[str, Any]:
        start: dict[str, Any] = {"asked_on": self.today}
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
        """Each red flag with its answer and its day, for the page."""
        for flag in RedFlag:
            yield {
                "words": in_words(flag),
                "answer": self[f"flag_{flag.value}"],
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
                words = _now("“%(word)s” is not a time of day. Type, e.g., 8:00 13:30")
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
                words = _now("“%(line)s” is not an event. Type, e.g., 2026-07-02 wedding")
                raise forms.ValidationError(words % {"line": line}) from error
            if not name.strip():
                raise forms.ValidationError(_now("Type the name of the event after its date."))
        return tuple(found)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        answered = {flag: data.get(f"flag_{flag.value}") for flag in RedFlag}
        self.present = {flag for flag, answer in answered.items() if answer}
        rest = bool(data.get("rest_absent"))
        self.unasked = {flag for flag, answer in answered.items() if answer is None and not rest}
        self.noted = {
            flag: data.get(f"noted_{flag.value}") or data.get("asked_on") or self.today
            for flag in self.present
        }
        self.mistaken = set(self.before) - self.present
        check_answers(self, data)
        return data

    def answers(self) -> dict[str, Any]:
        """What `record_screening` takes; call after is_valid."""
        data = {
            name: value
            for name, value in self.cleaned_data.items()
            if not name.startswith(("noted_", "flag_")) and name != "rest_absent"
        }
        living = Living(
            circumstances=frozenset(Circumstance(one) for one in data.pop("circumstances")),
            talking_hours=data.pop("talking_hours"),
            events=data.pop("events"),
            medication_times=data.pop("medication_times"),
        )
        return data | {
            "living": living,
            "red_flags": self.present,
            "unasked": self.unasked,
            "flags_noted": self.noted,
            "mistaken": self.mistaken,
        }
