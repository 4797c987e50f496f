"""The visit note: saved while it is written, signed, then only added to; each in one transaction."""

from collections.abc import Callable, Collection

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.review.models import Addendum, OpenNote, SignedNote
from web.review.visits.note import NoteEntry, not_in_note

LONGEST_NOTE, LONGEST_ADDENDUM = 8_000, 2_000


class StaleNote(Exception):
    """The note was changed meanwhile; holds the current one."""

    def __init__(self, current: OpenNote) -> None:
        self.current = current
        super().__init__(f"revision {current.revision}")


class EntriesMissing(Exception):
    """A note was to be signed while recorded entries are neither in it nor left out on purpose."""


@transaction.atomic
def save_note(
    client: Client, *, text: str, revision: int, settled: Collection[str], by: User, now
) -> OpenNote:
    """Save the draft of the note.

    revision: of the draft that was shown, 0 = there was none; settled: keys of the entries that the text
    took up or leaves out. A text that stands already is saved again without a new revision. StaleNote
    where a colleague wrote meanwhile, UsecaseRefused where it is too long.
    """
    text = _cleaned(text)
    if len(text) > LONGEST_NOTE or "\x00" in text:
        raise UsecaseRefused(
            _("A note can have up to 8000 characters. This text was not saved yet.")
        )
    Client.objects.select_for_update().get(pk=client.pk)
    row = OpenNote.objects.filter(client=client).first()
    if row is None:
        if revision:
            raise UsecaseRefused(_("Reload the page. This text was not saved yet."))
        row = OpenNote(clinic_id=client.clinic_id, client=client, revision=0)
    keys = sorted({*row.entries, *settled})
    if row.revision and (row.text, row.entries) == (text, keys):
        return row
    if row.revision != revision:
        raise StaleNote(row)
    row.text, row.entries, row.changed_by, row.changed_at = text, keys, by, now
    row.revision += 1
    row.save()
    return row


@transaction.atomic
def sign_note(
    client: Client,
    *,
    text: str,
    revision: int,
    settled: Collection[str],
    entries: Callable[[], Collection[NoteEntry]],
    by: User,
    now,
) -> SignedNote:
    """Sign the note as it is sent; it is never changed after.

    entries: reads what was recorded, once the note is locked. UsecaseRefused for an empty note,
    EntriesMissing where an entry is neither in it nor settled; then nothing is saved. The same note sent
    twice is signed once.
    """
    Client.objects.select_for_update().get(pk=client.pk)
    if repeated := _signed_already(client, _cleaned(text), by=by, now=now):
        return repeated
    row = save_note(client, text=text, revision=revision, settled=settled, by=by, now=now)
    if not row.text:
        raise UsecaseRefused(_("The note is empty. Write something, then sign it."))
    if missing := not_in_note(entries(), row.text, row.entries):
        raise EntriesMissing(f"{len(missing)} entries are not in the note")
    signed = SignedNote.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        day=clock.local_date(now, client.time_zone),
        text=row.text,
        by=by,
        at=now,
    )
    row.text, row.entries = "", []
    row.revision += 1
    row.save(update_fields=["text", "entries", "revision"])
    return signed


def _signed_already(client: Client, text: str, *, by: User, now) -> SignedNote | None:
    if OpenNote.objects.filter(client=client).exclude(text="").exists():
        return None
    today = clock.local_date(now, client.time_zone)
    same = SignedNote.objects.filter(client=client, day=today, by=by, text=text)
    return same.order_by("-at").first()


def _cleaned(text: str) -> str:
    return text.replace("\r\n", "\n").strip()


@transaction.atomic
def add_to_note(note: SignedNote, *, text: str, by: User, now) -> Addendum:
    """Add to a signed note. UsecaseRefused for nothing, or too much."""
    text = " ".join(text.split())
    if not 0 < len(text) <= LONGEST_ADDENDUM or not text.isprintable():
        raise UsecaseRefused(_("An addendum has 1 to 2000 characters. Nothing was saved."))
    return Addendum.objects.create(
        clinic_id=note.clinic_id, client_id=note.client_id, note=note, text=text, by=by, at=now
    )
