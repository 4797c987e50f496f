"""What a visit writes: what was taught, the note, its signature, what is added to it; each in one transaction."""

from django.db import transaction
from django.utils.translation import gettext as _

from core.plans.editing import set_by_hand
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import User
from web.clinic.usecases import UsecaseRefused
from web.programs import usecases as programs
from web.programs.models import Draft
from web.programs.queries import active_version
from web.review.models import Addendum, CueLevel, OpenNote, Response, SignedNote, Taught

LONGEST_NOTE, LONGEST_ADDENDUM = 8_000, 2_000


class StaleNote(Exception):
    """The note was changed meanwhile; holds the current one."""

    def __init__(self, current: OpenNote) -> None:
        self.current = current
        super().__init__(f"revision {current.revision}")


@transaction.atomic
def teach(
    client: Client,
    *,
    step_id: str,
    cue: str,
    cue_level: str,
    response: str,
    shown_back: str,
    fade: str,
    at_home: bool,
    by: User,
    now,
) -> Taught:
    """Keep what was taught; at_home: the cue is put into the draft too, where the draft has the step.
    UsecaseRefused for a step that is not in the program, or an answer that is none."""
    version = active_version(client.pk)
    draft = Draft.objects.filter(client=client).first()
    programs_known = [one.program for one in (draft, version) if one is not None]
    named = {step.step_id: step.name for program in programs_known for step in program.steps}
    if step_id not in named:
        raise UsecaseRefused(_("Choose a step of the program."))
    if cue_level not in CueLevel.values or not {response, shown_back} <= set(Response.values):
        raise UsecaseRefused(_("Say what it took, how it went and whether it was shown back."))
    cue, fade = " ".join(cue.split()), " ".join(fade.split())
    if len(cue) > 120 or len(fade) > 200 or not (cue + fade).isprintable():
        raise UsecaseRefused(_("A cue takes up to 120 characters, how it fades up to 200."))
    if at_home and draft is not None and any(s.step_id == step_id for s in draft.program.steps):
        programs.edit_draft(
            client,
            revision=draft.revision,
            change=lambda program: set_by_hand(program, step_id, "presented.cue", cue),
            by=by,
            now=now,
        )
    return Taught.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        step_id=step_id,
        name=named[step_id][:120],
        cue=cue,
        cue_level=cue_level,
        response=response,
        shown_back=shown_back,
        fade=fade,
        day=clock.local_date(now, client.time_zone),
        by=by,
        at=now,
    )


@transaction.atomic
def write_note(client: Client, *, text: str, revision: int, by: User, now) -> OpenNote:
    """Keep the note as far as it is written. StaleNote where a colleague wrote meanwhile, UsecaseRefused where it is
    too long."""
    text = text.replace("\r\n", "\n").strip()
    if len(text) > LONGEST_NOTE or "\x00" in text:
        raise UsecaseRefused(_("A note takes up to 8000 characters; nothing was changed."))
    Client.objects.select_for_update().get(pk=client.pk)
    row = OpenNote.objects.filter(client=client).first()
    if row is None:
        if revision:
            raise UsecaseRefused(_("Reload the page; nothing was changed."))
        return OpenNote.objects.create(
            clinic_id=client.clinic_id, client=client, text=text, changed_by=by, changed_at=now
        )
    if row.revision != revision:
        raise StaleNote(row)
    row.text, row.changed_by, row.changed_at = text, by, now
    row.revision += 1
    row.save()
    return row


@transaction.atomic
def sign_note(client: Client, *, text: str, revision: int, by: User, now) -> SignedNote:
    """Sign the note as it is sent; it is never changed after. UsecaseRefused for an empty one."""
    row = write_note(client, text=text, revision=revision, by=by, now=now)
    if not row.text:
        raise UsecaseRefused(_("There is nothing to sign yet."))
    signed = SignedNote.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        day=clock.local_date(now, client.time_zone),
        text=row.text,
        by=by,
        at=now,
    )
    row.text = ""
    row.save(update_fields=["text"])
    return signed


@transaction.atomic
def add_to_note(note: SignedNote, *, text: str, by: User, now) -> Addendum:
    """Something that belongs to a signed note. UsecaseRefused for nothing, or too much."""
    text = " ".join(text.split())
    if not 0 < len(text) <= LONGEST_ADDENDUM or not text.isprintable():
        raise UsecaseRefused(_("An addendum takes 1 to 2000 characters; nothing was changed."))
    return Addendum.objects.create(
        clinic_id=note.clinic_id, client_id=note.client_id, note=note, text=text, by=by, at=now
    )
