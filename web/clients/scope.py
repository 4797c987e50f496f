"""The only way from a request to a client: of the request's clinic and not archived, or 404."""

from django.shortcuts import get_object_or_404

from web.clients.models import Client


def client_of(request, client_id) -> Client:
    """The active client of the request's clinic, with the clinic loaded; raises Http404."""
    return get_object_or_404(
        Client.objects.for_clinic(request.clinic).active().select_related("clinic"), pk=client_id
    )
