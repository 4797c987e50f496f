"""Forms for the client, the screening and the typed part of a baseline."""

import zoneinfo

from django import forms
from django.conf import settings
from django.utils.translation import gettext_lazy as _

from core.errors import CoreError
from core.notes.note import Note
from core.program.lengths import read_length_cm
from core.reference.limits import BASELINE
from web.clients.models import Client, Measure
from web.clinic.words import core_words


class DateInput(forms.DateInput):
    input_type = "date"

    def __init__(self, **kwargs):
        super().__init__(format="%Y-%m-%d", **kwargs)


class ClientForm(forms.ModelForm):
    class Meta:
        model = Client
        fields = [
            "name",
            "born_on",
            "voice_group",
            "time_zone",
            "language",
            "occupation",
            "referral",
            "telephone",
        ]
        widgets = {"born_on": DateInput()}

    def __init__(self, *args, today, **kwargs):
        super().__init__(*args, **kwargs)
        self.today = today
        self._offer_languages()

    def _offer_languages(self):
        """Asked only where there is a choice."""
        if len(settings.LANGUAGES) < 2:
            del self.fields["language"]
            return
        label = self.fields["language"].label
        self.fields["language"] = forms.ChoiceField(
            label=label,
            choices=settings.LANGUAGES,
            initial=self.initial.get("language"),
            required=False,
        )

    def clean_born_on(self):
        born = self.cleaned_data["born_on"]
        age = Client(born_on=born).age_on(self.today)
        if not 5 <= age <= 110:
            raise forms.ValidationError(
                _("The age would be %(age)s: check the year.") % {"age": age}
            )
        return born

    def clean_time_zone(self):
        zone = self.cleaned_data["time_zone"]
        if zone not in zoneinfo.available_timezones():
            raise forms.ValidationError(_("Unknown time zone. An example: Europe/Dublin"))
        return zone


class NoteField(forms.CharField):
    """A note by name, kept in one spelling; empty is allowed."""

    def __init__(self, **kwargs):
        super().__init__(required=False, max_length=5, **kwargs)

    def clean(self, value):
        text = super().clean(value)
        if not text:
            return ""
        try:
            return Note.named(text).name
        except CoreError as error:
            raise forms.ValidationError(core_words(error)) from error


class HeightField(forms.CharField):
    """A height as cm: a bare number is cm, "65 in" is read as inches; empty is allowed."""

    def __init__(self, **kwargs):
        super().__init__(required=False, max_length=12, **kwargs)

    def clean(self, value):
        text = super().clean(value).replace(",", ".")
        if not text:
            return None
        try:
            cm = float(text) if _is_number(text) else read_length_cm(text)
        except CoreError as error:
            raise forms.ValidationError(core_words(error)) from error
        limit = BASELINE["height_cm"]
        if not limit.low <= cm <= limit.high:
            raise forms.ValidationError(_("A height lies between 80 and 230 cm."))
        return round(cm, 1)


def _is_number(text: str) -> bool:
    return text.replace(".", "", 1).isdecimal()


MOST_POINTS = 200
SAID_FROM = 7
"""In the order of the fields: range and lungs, then what is said and scored."""


class BaselineForm(forms.Form):
    lowest = NoteField(label=_("Lowest note"))
    highest = NoteField(label=_("Highest note"))
    transition = NoteField(label=_("Transition"))
    speaking = NoteField(label=_("Speaking note"))
    vital_capacity_ml = forms.FloatField(
        label=_("Vital capacity, mL"),
        required=False,
        min_value=BASELINE["vital_capacity_ml"].low,
        max_value=BASELINE["vital_capacity_ml"].high,
    )
    height_cm = HeightField(label=_("Height, cm (or 65 in)"))
    lung_sex = forms.ChoiceField(
        label=_("Sex at birth, lungs"),
        required=False,
        choices=[("", "–"), ("female", _("female")), ("male", _("male"))],
    )
    throat_strain = forms.IntegerField(
        label=_("Throat strain, 0–10"), required=False, min_value=0, max_value=10
    )
    effort = forms.IntegerField(label=_("Effort, 0–10"), required=False, min_value=0, max_value=10)
    fatigue = forms.IntegerField(
        label=_("Vocal fatigue, 0–10"), required=False, min_value=0, max_value=10
    )
    discomfort = forms.IntegerField(
        label=_("Discomfort, 0–10"), required=False, min_value=0, max_value=10
    )
    rating = forms.FloatField(
        label=_("Perceptual rating"), required=False, min_value=0, max_value=MOST_POINTS
    )
    rating_scale = forms.CharField(label=_("on the scale"), required=False, max_length=40)
    handicap = forms.FloatField(
        label=_("Handicap score"), required=False, min_value=0, max_value=MOST_POINTS
    )
    handicap_scale = forms.CharField(label=_("of the questionnaire"), required=False, max_length=40)

    def clean(self):
        """A score means nothing without what it was scored on."""
        found = super().clean() or {}
        for name in ("rating", "handicap"):
            if found.get(name) is not None and not found.get(f"{name}_scale"):
                self.add_error(f"{name}_scale", _("Name what the score is of."))
        return found

    @property
    def said_and_scored(self):
        """The fields of what the client says and the clinic scores."""
        return [self[name] for name in list(self.fields)[SAID_FROM:]]

    @property
    def range_and_lungs(self):
        return [self[name] for name in list(self.fields)[:SAID_FROM]]


class TypedForm(forms.Form):
    """Seconds typed for one measure: "12.4 11.8"."""

    attempt_ids = forms.CharField()
    measure = forms.ChoiceField(choices=Measure.choices)
    seconds = forms.CharField(max_length=60)

    def clean_seconds(self):
        found = []
        for word in self.cleaned_data["seconds"].replace(",", ".").split():
            try:
                seconds = float(word)
            except ValueError as error:
                words = _("“%(word)s” is no number of seconds. An example: 12.4 11.8")
                raise forms.ValidationError(words % {"word": word}) from error
            if not BASELINE["seconds"].low <= seconds <= BASELINE["seconds"].high:
                words = _("%(word)s s lies outside 0.1–120 s. Nothing was logged.")
                raise forms.ValidationError(words % {"word": word})
            found.append(seconds)
        if not 1 <= len(found) <= 5:
            raise forms.ValidationError(_("Type one to five times in seconds."))
        return found


class ReferenceForm(forms.Form):
    """Distances in cm and what the sound-level meter read, dB; no reading leaves a soft reference."""

    distance_cm = forms.FloatField(
        label=_("Microphone from the lips, cm"), min_value=5, max_value=100, initial=30
    )
    meter_db = forms.FloatField(
        label=_("Sound-level meter, dB"), required=False, min_value=30, max_value=120
    )
    meter_distance_cm = forms.FloatField(
        label=_("Meter from the lips, cm"), min_value=5, max_value=100, initial=30
    )
