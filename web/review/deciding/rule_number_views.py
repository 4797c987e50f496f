"""The numbers of the rules: of the clinic, of one client; tried before they are set."""

from django.contrib import messages
from django.http import JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from core.grading.rule import numbers, rules
from web.clients.models import Client
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.review.deciding.rule_numbers import number_lines, number_words, rule_name, rule_overrides
from web.review.deciding.rule_preview import caseload_window, rule_preview
from web.review.forms import NumberForm
from web.review.usecases.refresh_row import rebuilt
from web.review.usecases.set_rule_number import set_number


@require_http_methods(["GET", "POST"])
def clinic_numbers(request):
    """Every number, the clinic's beside the shipped; a change is tried on the caseload first."""
    return _page(request, None)


@require_http_methods(["GET", "POST"])
def client_numbers(request, client_id):
    """The same for one client."""
    clients = Client.objects.for_clinic(request.clinic).select_related("clinic")
    return _page(request, get_object_or_404(clients, pk=client_id))


def _page(request, client: Client | None):
    asked = NumberForm(request.POST or None)
    if request.method == "GET":
        return _shown(request, client, {"path": request.GET.get("path", "")})
    if not asked.is_valid():
        wrong = _("A number is missing or none; nothing was changed.")
        return _shown(request, client, request.POST, wrong=wrong, status=422)
    values = asked.cleaned_data
    path, value = values["path"], values["value"]
    try:
        if values["act"] == "try":
            found = rule_preview(client, path, value, own=True) if client else None
            return _shown(request, client, request.POST, tried=found, trying=client is None)
        set_number(
            request.clinic,
            client,
            path=path,
            value=value,
            reason=values["reason"],
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _shown(request, client, request.POST, wrong=refused.words, status=422)
    messages.success(request, _("Kept. Decisions use it from now on."))
    if client is not None:
        return redirect("review:client_numbers", client.pk)
    return redirect(f"{reverse('review:clinic_numbers')}?bring=yes")


def _shown(request, client, typed, *, wrong="", tried=None, trying=False, status=200):
    found = rule_overrides(request.clinic, client)
    path = typed.get("path", "")
    known = numbers(rules())
    context = {
        "client": client,
        "groups": number_lines(found),
        "typed": typed,
        "path": path if path in known else "",
        "shipped": known.get(path),
        "what": number_words(path.split(".")[1:]) if path in known else "",
        "rule": rule_name(path),
        "tried": tried,
        "trying": trying,
        "bring": request.GET.get("bring") == "yes",
        "changed": [*found.client.values(), *found.clinic.values()],
        "wrong": wrong,
        "here": "client" if client else "clinic",
    }
    return render(request, "review/numbers.html", context, status=status)


@require_GET
def try_number(request):
    """What a number would have changed for some clients of the caseload, from a place on, as JSON."""
    asked = NumberForm({**request.GET.dict(), "act": "try"})
    start = request.GET.get("start", "0")
    if not asked.is_valid() or not start.isdecimal() or len(start) > 7:
        return JsonResponse({"wrong": _("A number is missing or none.")}, status=422)
    path, value = asked.cleaned_data["path"], asked.cleaned_data["value"]
    clients, total = caseload_window(request.clinic, start=int(start))
    try:
        found = [rule_preview(client, path, value, own=False) for client in clients]
    except UsecaseRefused as refused:
        return JsonResponse({"wrong": refused.words}, status=422)
    done = int(start) + len(clients)
    lines = [
        {
            "name": one.client.name,
            "href": reverse("review:client", args=[one.client.pk]),
            "lines": one.lines,
        }
        for one in found
        if one.lines
    ]
    return JsonResponse({"done": done, "of": total, "clients": lines})


@require_POST
def bring(request):
    """Work out anew what some clients need, from a place on, after a number of the clinic changed."""
    start = request.POST.get("start", "0")
    if not start.isdecimal() or len(start) > 7:
        return JsonResponse({"wrong": _("A place is a number.")}, status=422)
    clients, total = caseload_window(request.clinic, start=int(start))
    for client in clients:
        rebuilt(client)
    return JsonResponse({"done": int(start) + len(clients), "of": total})
