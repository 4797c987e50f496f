"""Forms of the Clinic page."""

import zoneinfo

from django import forms
from django.contrib.auth.password_validation import validate_password
from django.utils.translation import gettext_lazy as _

from web.clinic.models import Clinic, Role, User

_MINUTES = _("minutes")


class ClinicForm(forms.ModelForm):
    class Meta:
        model = Clinic
        fields = [
            "name",
            "time_zone",
            "telephone",
            "a4_hz",
            "short_phonation_s",
            "sz_ratio_flag",
            "session_minutes",
            "week_minutes",
            "hoarse_weeks",
            "examination_days",
            "emergency_number",
            "retention_years",
            "cover",
            "policy_text",
        ]
        widgets = {"policy_text": forms.Textarea(attrs={"rows": 2})}

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        working = User.objects.filter(membership__clinic=self.instance, membership__active=True)
        self.fields["cover"] = forms.ModelChoiceField(
            working.order_by("name"),
            required=False,
            label=self.fields["cover"].label,
            empty_label="–",
        )

    def clean_time_zone(self):
        zone = self.cleaned_data["time_zone"]
        if zone not in zoneinfo.available_timezones():
            raise forms.ValidationError(_("Unknown time zone. An example: Europe/Dublin"))
        return zone

    def clean_a4_hz(self):
        a4_hz = self.cleaned_data["a4_hz"]
        if not 415 <= a4_hz <= 466:
            raise forms.ValidationError(_("Concert pitch lies between 415 and 466 Hz."))
        return a4_hz

    def clean_session_minutes(self):
        return _within(self.cleaned_data["session_minutes"], 1, 60)

    def clean_hoarse_weeks(self):
        return _within(self.cleaned_data["hoarse_weeks"], 0.5, 8, unit=_("weeks"))

    def clean_examination_days(self):
        return _within(self.cleaned_data["examination_days"], 14, 366, unit=_("days"))

    def clean_retention_years(self):
        return _within(self.cleaned_data["retention_years"], 1, 100, unit=_("years"))

    def clean_week_minutes(self):
        return _within(self.cleaned_data["week_minutes"], 5, 1000)


def _within(came: float, low: float, high: float, *, unit=_MINUTES) -> float:
    if not low <= came <= high:
        words = _("Between %(low)g and %(high)g %(unit)s.")
        raise forms.ValidationError(words, params={"low": low, "high": high, "unit": unit})
    return came


class InviteForm(forms.Form):
    email = forms.EmailField(label=_("E-mail"))
    role = forms.ChoiceField(label=_("Role"), choices=Role.choices)


class AcceptForm(forms.Form):
    name = forms.CharField(label=_("Your name"), max_length=120)
    password = forms.CharField(label=_("Password"), widget=forms.PasswordInput)

    def clean_password(self):
        password = self.cleaned_data["password"]
        validate_password(password)
        return password
