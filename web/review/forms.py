"""What a decision on the Client page is made of."""

from django import forms


class DecisionForm(forms.Form):
    key = forms.CharField(max_length=1200)
    after = forms.IntegerField(min_value=1, max_value=100_000)
    accept = forms.ChoiceField(choices=[("yes", "yes"), ("no", "no")])
    rung = forms.IntegerField(min_value=0, max_value=60, required=False)
    reason = forms.CharField(max_length=500, required=False)
    due_on = forms.DateField(required=False)
