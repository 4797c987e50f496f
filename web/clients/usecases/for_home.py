"""What a clinician writes for the client's pages: own phrases, own places, a note; each in one transaction."""

from django.db import transaction

from web.clients.home.note import note_home
from web.clients.home.phrases import own_phrases, own_places
from web.clients.models import Client, NoteHome, OwnPhrases, OwnPlaces
from web.clinic.models import User


@transaction.atomic
def save_phrases(client: Client, phrases: list[str], *, by: User, now) -> bool:
    """Keep a new list beside the former ones; False where it is the same."""
    if own_phrases(client.pk) == phrases:
        return False
    OwnPhrases.objects.create(
        clinic_id=client.clinic_id, client=client, phrases=phrases, by=by, at=now
    )
    return True


@transaction.atomic
def save_places(client: Client, places: list[str], *, by: User, now) -> bool:
    """Keep a new list beside the former ones; False where it is the same."""
    if own_places(client.pk) == places:
        return False
    OwnPlaces.objects.create(
        clinic_id=client.clinic_id, client=client, places=places, by=by, at=now
    )
    return True


@transaction.atomic
def save_note(client: Client, words: str, *, by: User, now) -> bool:
    """Keep another note beside the former ones; False where it is the same."""
    stands = note_home(client.pk)
    if words == (stands.words if stands else ""):
        return False
    NoteHome.objects.create(clinic_id=client.clinic_id, client=client, words=words, by=by, at=now)
    return True
