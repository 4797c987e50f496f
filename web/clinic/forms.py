"""Forms of the Clinic page."""

import zoneinfo

from django import forms
from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.utils.translation import gettext_lazy as _

from core.reference.limits import CLINIC
from web.clinic.models import Clinic, Role, User
from web.clinic.record_limits import refuse_beyond


class ClinicForm(forms.ModelForm):
    class Meta:
        model = Clinic
        fields = [
            "name",
            "time_zone",
            "language",
            "telephone",
            "a4_hz",
            "short_phonation_s",
            "sz_ratio_flag",
            "session_minutes",
            "week_minutes",
            "hoarse_weeks",
            "examination_days",
            "always_examined",
            "emergency_number",
            "retention_years",
            "link_months",
            "reason_to_read",
            "cover",
            "policy_text",
        ]
        widgets = {"policy_text": forms.Textarea(attrs={"rows": 2})}

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["language"] = forms.ChoiceField(
            choices=settings.LANGUAGES, label=self.fields["language"].label
        )
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

    def clean(self):
        refuse_beyond(self, CLINIC)
        return self.cleaned_data


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
