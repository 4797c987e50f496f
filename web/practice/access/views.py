"""Open a client's link with the PIN, and leave."""

from django import forms
from django.shortcuts import redirect, render
from django.utils import translation
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods, require_POST

from web.clients.models import ClientAccess
from web.clients.usecases.link import try_pin
from web.clinic import clock
from web.design.speaking import speaking
from web.practice.access.auth import client_required, sign_in, sign_out


class PinForm(forms.Form):
    pin = forms.CharField(
        label=gettext_lazy("Your PIN"),
        max_length=12,
        widget=forms.TextInput(attrs={"inputmode": "numeric", "autocomplete": "off"}),
    )


@require_http_methods(["GET", "POST"])
def enter(request, link_id):
    """The PIN, in the language of the browser: wrong PIN, revoked link and made-up link look the
    same."""
    with speaking(translation.get_language_from_request(request)):
        return _enter(request, link_id)


def _enter(request, link_id):
    form = PinForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        address = request.META.get("REMOTE_ADDR", "")
        access = try_pin(link_id, form.cleaned_data["pin"], now=clock.now(), address=address)
        if access is not None:
            sign_in(request, access)
            return redirect("practice:today", link_id)
        words = _(
            "This link and PIN do not fit. After 5 tries it waits, each time longer. A link that has ended is "
            "renewed by your clinic."
        )
        form.add_error("pin", words)
    context = {"form": form, "link_id": link_id}
    return render(request, "practice/enter.html", context, status=403 if form.errors else 200)


@require_POST
@client_required
def leave(request, access: ClientAccess):
    sign_out(request)
    return redirect("practice:enter", access.pk)
