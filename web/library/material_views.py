"""Reading material: what is shipped, what the clinic wrote."""

from django.contrib import messages
from django.http import Http404
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from core.catalogue.materials import sorts
from core.catalogue.tunes import tunes
from web.clinic import clock
from web.design.speaking import in_their_words
from web.library.materials import MaterialForm, own_rows
from web.library.usecases.materials import add_material, take_away


@require_http_methods(["GET", "POST"])
def materials(request):
    form = MaterialForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        added = add_material(request.clinic, by=request.user, now=clock.now(), **form.cleaned_data)
        if added:
            messages.success(request, _("Added. Clients get it as one more of its sort."))
            return redirect("library:materials")
        form.add_error(None, _("The clinic has as many as can be kept: take some away first."))
    rows = list(own_rows(request.clinic.pk))
    shown = [
        (in_their_words(one.title), [row for row in rows if row.sort == key], one.turns)
        for key, one in sorts().items()
    ]
    context = {"here": "library", "form": form, "sorts": shown, "tunes": tunes()}
    status = 422 if form.errors else 200
    return render(request, "library/materials.html", context, status=status)


@require_POST
def take_material_away(request, material_id):
    if not take_away(request.clinic, material_id, now=clock.now()):
        raise Http404
    messages.success(request, _("Taken away: it is shown no more."))
    return redirect("library:materials")
