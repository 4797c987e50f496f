"""Save what a clinician writes for the client's pages: phrases, places, a note. Each is one transaction."""

from django.db import transaction

from web.clients.home.note import note_home
from web.clients.home.phrases import own_phrases, own_places
from web.clients.models import Client, NoteHome, OwnPhrases, OwnPlaces
from web.clinic.models import User


@transaction.atomic
def save_phrases(client: Client, phrases: list[str], *, by: User, now) -> bool:
    """Save a new list and keep the earlier ones; False if nothing changed."""
    if own_phrases(client.pk) == phrases:
        return False
    OwnPhrases.objects.create(
        clinic_id=client.clinic_id, client=client, phrases=phrases, by=by, at=now
    )
    return True


@transaction.atomic
def save_places(client: Client, places: list[str], *, by: User, now) -> bool:
    """Save a new list and keep the earlier ones; False if nothing changed."""
    if own_places(client.pk) == places:
        return False
    OwnPlaces.objects.create(
        clinic_id=client.clinic_id, client=client, places=places, by=by, at=now
    )
    return True


@transaction.atomic
def save_note(client: Client, words: str, *, by: User, now) -> bool:
    """Save a new note and keep the earlier ones; False if nothing changed."""
    stands = note_home(client.pk)
    if words == (stands.words if stands else ""):
        return False
    NoteHome.objects.create(clinic_id=client.clinic_id, client=client, words=words, by=by, at=now)
    return True
