"""Asks for a reason before a record is opened by someone who does not treat the client, and lists who opened what."""

import csv
import io
from collections.abc import Mapping

from django import forms
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils.functional import Promise
from django.utils.http import url_has_allowed_host_and_scheme
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, gettext_noop
from django.views.decorators.http import require_GET, require_http_methods

from core.formats.spreadsheet import as_words
from web.clients.forms import DateInput
from web.clients.middleware import STATED
from web.clients.models import Client
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.models import AccessEvent, User
from web.clinic.usecases.staff import note_access

SHOWN, SAVED = 200, 20_000
WHERE: Mapping[str, Promise] = {
    "review:client": gettext_lazy("Client page"),
    "review:results": gettext_lazy("Results"),
    "review:home_session": gettext_lazy("home session"),
    "review:attempt": gettext_lazy("attempt"),
    "review:correct": gettext_lazy("ends of an attempt"),
    "review:decide": gettext_lazy("a proposal"),
    "review:clear_stop": gettext_lazy("stop sign"),
    "review:visit": gettext_lazy("visit"),
    "review:in_visit": gettext_lazy("visit"),
    "review:visit_tried": gettext_lazy("visit: what was tried"),
    "review:teach": gettext_lazy("visit: what was taught"),
    "review:note": gettext_lazy("visit note"),
    "review:addendum": gettext_lazy("addendum to a visit note"),
    "programs:compare": gettext_lazy("schools compared"),
    "programs:from_client": gettext_lazy("another client's program"),
    "programs:from_template": gettext_lazy("template on the Bench"),
    "programs:save_template": gettext_lazy("template, saved"),
    "programs:versions": gettext_lazy("versions"),
    "programs:restore": gettext_lazy("earlier version on the Bench"),
    "review:hand_over": gettext_lazy("hand-over"),
    "review:client_numbers": gettext_lazy("rules of the client"),
    "programs:bench": gettext_lazy("Bench"),
    "programs:edit": gettext_lazy("Bench"),
    "programs:propose": gettext_lazy("proposal on the Bench"),
    "programs:take_in": gettext_lazy("program file"),
    "programs:activate": gettext_lazy("program, activated"),
    "clients:screening": gettext_lazy("Screening"),
    "clients:baseline": gettext_lazy("Baseline"),
    "clients:set_baseline": gettext_lazy("Baseline"),
    "clients:type_attempts": gettext_lazy("Baseline"),
    "clients:record": gettext_lazy("Baseline, recorded"),
    "clients:link": gettext_lazy("private link, made"),
    "clients:renew": gettext_lazy("private link, renewed"),
    "clients:revoke": gettext_lazy("private link, revoked"),
    "clients:archive": gettext_lazy("record, archived"),
    "clients:for_home": gettext_lazy("note and phrases for home"),
    "clients:telephone": gettext_lazy("client's telephone"),
    "papers:papers": gettext_lazy("Papers"),
    "papers:handout": gettext_lazy("handout"),
    "papers:sheet": gettext_lazy("practice sheet"),
    "papers:words": gettext_lazy("words to say"),
    "papers:calendar": gettext_lazy("calendar"),
    "papers:midi": gettext_lazy("a step as MIDI"),
    "papers:music_xml": gettext_lazy("a step as MusicXML"),
    "papers:take_music": gettext_lazy("music file, taken in"),
    "papers:report": gettext_lazy("report"),
    "papers:hospital": gettext_lazy("FHIR bundle"),
    "papers:sheet_log": gettext_lazy("Sheet log"),
    "papers:sheet_stop": gettext_lazy("Sheet log, stop sign"),
    "papers:sheet_file": gettext_lazy("Sheet log, file"),
    "papers:sheet_sample": gettext_lazy("Sheet log, empty file"),
    "records:record": gettext_lazy("whole record"),
    "records:take_in": gettext_lazy("a record, taken in"),
    "records:whole_clinic": gettext_lazy("all records"),
    "clinic:clinic": gettext_lazy("Clinic page"),
    "clinic:invite": gettext_lazy("invitation"),
    "clinic:set_staff": gettext_lazy("role or access of a colleague"),
    "clinic:set_deputy": gettext_lazy("deputy"),
}
"""Pages and acts in words; others stand by their name."""


class ReasonForm(forms.Form):
    reason = forms.CharField(
        label=gettext_lazy("Why do you open this record?"), max_length=300, min_length=5
    )


class FilterForm(forms.Form):
    who = forms.ModelChoiceField(User.objects.none(), required=False)
    client = forms.CharField(max_length=120, required=False, label=gettext_lazy("Client"))
    what = forms.CharField(max_length=40, required=False, label=gettext_lazy("What"))
    since = forms.DateField(required=False, label=gettext_lazy("From"), widget=DateInput())
    until = forms.DateField(required=False, label=gettext_lazy("To"), widget=DateInput())

    def __init__(self, *args, clinic, **kwargs):
        super().__init__(*args, **kwargs)
        own = User.objects.filter(membership__clinic=clinic).order_by("name")
        self.fields["who"] = forms.ModelChoiceField(
            own, required=False, label=_("Who"), empty_label=_("everybody")
        )


@require_http_methods(["GET", "POST"])
def why(request, client_id):
    """Save the reason, then open the page that was asked for."""
    person, request.noted_as = client_of(request, client_id), ""
    form = ReasonForm(request.POST or None)
    asked = request.POST.get("next") or request.GET.get("next", "")
    if request.method == "POST" and form.is_valid():
        note_access(
            request.clinic,
            user=request.user,
            what=STATED,
            where="clients:why",
            words=" ".join(form.cleaned_data["reason"].split()),
            subject_id=person.pk,
            now=clock.now(),
        )
        own = url_has_allowed_host_and_scheme(asked, allowed_hosts={request.get_host()})
        return redirect(asked) if own else redirect("review:client", person.pk)
    context = {"here": "client", "form": form, "next": asked, "treated_by": person.clinician.name}
    return render(request, "clients/why.html", context, status=422 if form.errors else 200)


@require_GET
def access(request):
    """List what was done to records, newest first, with filters; as CSV with ?as=csv."""
    form = FilterForm(request.GET, clinic=request.clinic)
    rows = (
        AccessEvent.objects.for_clinic(request.clinic).select_related("user").order_by("-at", "pk")
    )
    if form.is_valid():
        rows = _filtered(rows, request.clinic, form.cleaned_data)
    if request.GET.get("as") == "csv":
        return _saved(request, rows[:SAVED])
    found = list(rows[:SHOWN])
    names = _names(request.clinic, found)
    lines = [(row, names.get(row.subject_id, ""), _where(row)) for row in found]
    context = {
        "here": "clinic",
        "form": form,
        "lines": lines,
        "shown": SHOWN,
        "query": request.GET.urlencode(),
    }
    return render(request, "clients/access.html", context, status=422 if form.errors else 200)


def _filtered(rows, clinic, said):
    if said["who"]:
        rows = rows.filter(user=said["who"])
    if said["client"]:
        people = Client.objects.for_clinic(clinic).filter(name__icontains=said["client"])
        rows = rows.filter(subject_id__in=people.values("pk"))
    if said["what"]:
        rows = rows.filter(what__icontains=said["what"])
    if said["since"]:
        rows = rows.filter(at__date__gte=said["since"])
    if said["until"]:
        rows = rows.filter(at__date__lte=said["until"])
    return rows


def _names(clinic, rows) -> dict:
    """Names of the clients in these rows. A client whose record was erased has none."""
    about = {row.subject_id for row in rows if row.subject_id}
    known = dict(Client.objects.for_clinic(clinic).filter(pk__in=about).values_list("pk", "name"))
    return {pk: known.get(pk, _("erased record")) for pk in about}


def _where(row: AccessEvent) -> str:
    return str(WHERE.get(row.where, row.where))


def _saved(request, rows) -> HttpResponse:
    note_access(
        request.clinic,
        user=request.user,
        what=gettext_noop("saved the access list"),
        now=clock.now(),
    )
    found = list(rows)
    names, out = _names(request.clinic, found), io.StringIO()
    writer = csv.writer(out)
    writer.writerow(
        [_("At (UTC)"), _("Who"), _("What"), _("Where"), _("Client"), _("Client id"), _("Reason")]
    )
    for row in found:
        cells = (
            row.at.strftime("%Y-%m-%d %H:%M:%S"), row.user.name if row.user else "", row.what, _where(row),
            names.get(row.subject_id, ""), str(row.subject_id or ""), row.words,
        )  # fmt: skip
        writer.writerow(map(as_words, cells))
    answer = HttpResponse(out.getvalue(), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="access.csv"'
    return answer
