"""Clinic page, invitations, health."""

from typing import Any

from django.conf import settings
from django.contrib import messages
from django.db import connection
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from web.clinic import clock
from web.clinic.forms import AcceptForm, ClinicForm, InviteForm
from web.clinic.models import AccessEvent, Clinic, Invitation, Membership
from web.clinic.revisions import met, shown
from web.clinic.usecases import staff
from web.clinic.usecases.settings import save_clinic


@require_GET
def healthz(request):
    return HttpResponse("ok", content_type="text/plain")


@require_GET
def readyz(request):
    connection.ensure_connection()
    return HttpResponse("ready", content_type="text/plain")


@require_http_methods(["GET", "POST"])
def clinic_page(request):
    if request.method == "GET":
        return _page(request)
    apart = False

    def edited(row: Clinic) -> ClinicForm:
        nonlocal apart
        now, form = _as_it_stands(row), ClinicForm(request.POST, instance=row)
        apart = form.is_valid() and not met(form, request.POST.get("shown", ""), now)
        return form

    form = save_clinic(request.clinic, edited=edited)
    if form.is_valid():
        messages.success(request, _("Clinic saved."))
        return redirect("clinic:clinic")
    return _page(request, form=form, status=409 if apart else 422)


def _as_it_stands(clinic: Clinic) -> dict[str, Any]:
    return {name: getattr(clinic, name) for name in ClinicForm.Meta.fields}


@require_POST
def invite(request):
    form = InviteForm(request.POST)
    if not form.is_valid():
        return _page(request, invite_form=form, status=422)
    try:
        staff.invite(
            request.clinic,
            email=form.cleaned_data["email"],
            role=form.cleaned_data["role"],
            by=request.user,
            now=clock.now(),
            address=settings.CSRF_TRUSTED_ORIGINS[0],
        )
    except staff.UsecaseRefused as refused:
        messages.error(request, refused.words)
        return redirect("clinic:clinic")
    messages.success(request, _("Invitation sent."))
    return redirect("clinic:clinic")


@require_POST
def set_staff(request, membership_id):
    membership = get_object_or_404(Membership.objects.for_clinic(request.clinic), pk=membership_id)
    role = request.POST.get("role", membership.role)
    if role not in ("lead", "clinician"):
        role = membership.role
    try:
        staff.set_staff(
            membership, active=request.POST.get("active") == "yes", role=role, by=request.user
        )
    except staff.UsecaseRefused as refused:
        messages.error(request, refused.words)
    return redirect("clinic:clinic")


@require_POST
def set_deputy(request, membership_id):
    membership = get_object_or_404(Membership.objects.for_clinic(request.clinic), pk=membership_id)
    try:
        staff.set_deputy(membership, deputy_id=request.POST.get("deputy", ""))
    except staff.UsecaseRefused as refused:
        messages.error(request, refused.words)
    else:
        messages.success(request, _("Deputy kept."))
    return redirect("clinic:clinic")


@require_http_methods(["GET", "POST"])
def accept_invitation(request, token):
    try:
        invitation = staff.find_invitation(token)
        form = AcceptForm(request.POST or None)
        if request.method == "POST" and form.is_valid():
            staff.accept_invitation(
                invitation,
                name=form.cleaned_data["name"],
                password=form.cleaned_data["password"],
                now=clock.now(),
            )
            messages.success(request, _("Your account is ready. Sign in."))
            return redirect("account_login")
    except staff.UsecaseRefused as refused:
        return render(request, "clinic/invitation_gone.html", {"words": refused.words}, status=410)
    context = {"form": form, "invitation": invitation}
    return render(request, "clinic/accept.html", context, status=422 if form.errors else 200)


def _page(request, *, form=None, invite_form=None, status=200):
    members = Membership.objects.for_clinic(request.clinic).select_related("user")
    context = {
        "here": "clinic",
        "form": form or ClinicForm(instance=request.clinic),
        "shown": shown(_as_it_stands(Clinic.objects.get(pk=request.clinic.pk))),
        "invite_form": invite_form or InviteForm(),
        "members": members.order_by("user__name"),
        "invitations": Invitation.objects.for_clinic(request.clinic).filter(accepted_at=None),
        "events": AccessEvent.objects.for_clinic(request.clinic)
        .select_related("user")
        .order_by("-at")[:12],
    }
    return render(request, "clinic/clinic.html", context, status=status)
