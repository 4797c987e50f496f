"""A report is put together: what of the record it tells, to whom; looked at as text, saved as PDF."""

from typing import Any

from django import forms
from django.http import Http404
from django.shortcuts import render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods

from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.papers.print.views import pdf
from web.papers.reports.parts import PARTS
from web.papers.reports.report import SORTS, report_of, report_pdf


class ReportForm(forms.Form):
    """To whom, in which words it opens, which parts of the record it tells."""

    to = forms.CharField(label=gettext_lazy("To"), max_length=160, required=False)
    opening = forms.CharField(
        label=gettext_lazy("In your own words"),
        max_length=4000,
        required=False,
        widget=forms.Textarea(attrs={"rows": 5}),
    )
    parts = forms.MultipleChoiceField(
        label=gettext_lazy("What it tells"),
        choices=[(key, title) for key, (title, _make) in PARTS.items()],
        widget=forms.CheckboxSelectMultiple,
    )


@require_http_methods(["GET", "POST"])
def report(request, client_id, sort):
    """The form with the text beside it; POST with `pdf` gives the PDF."""
    client = client_of(request, client_id)
    if sort not in SORTS:
        raise Http404
    posted = request.method == "POST"
    first = {"parts": SORTS[sort].parts}
    form = ReportForm(request.POST if posted else None, initial=first)
    said: dict[str, Any] = {"to": "", "opening": "", **first}
    if posted and form.is_valid():
        said = form.cleaned_data
    made, wrong, now = None, "", clock.now()
    try:
        made = report_of(
            client,
            sort,
            chosen=said["parts"],
            to=said["to"],
            opening=said["opening"],
            by=request.user,
            now=now,
        )
    except UsecaseRefused as refused:
        wrong = refused.words
    if posted and form.errors:
        wrong = (
            _("Choose at least one part.")
            if "parts" in form.errors
            else _("Look at the marked fields.")
        )
    if made is not None and not wrong and "pdf" in request.POST:
        _issued, data = report_pdf(made, chosen=said["parts"], by=request.user, now=now)
        request.noted_as, request.noted_words = "exported", ", ".join(said["parts"])
        return pdf(data, f"{sort}-{now:%Y-%m-%d}.pdf")
    context = {
        "here": "papers",
        "client": client,
        "form": form,
        "sort": sort,
        "sorts": [(key, one.title) for key, one in SORTS.items()],
        "made": None if wrong else made,
        "wrong": wrong,
    }
    return render(
        request, "papers/report_form.html", context, status=422 if posted and wrong else 200
    )
