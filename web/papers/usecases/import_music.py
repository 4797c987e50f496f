"""Import a music file as the target of a step in the draft."""

from datetime import datetime

from django.db import transaction

from core.formats.music.line import MusicLine
from core.formats.music.music_to_target import with_music
from web.clients.models import Client
from web.clinic.models import User
from web.programs.client_file import ClientFile
from web.programs.models import Draft
from web.programs.usecases import drafts


@transaction.atomic
def import_music(
    client: Client, step_id: str, line: MusicLine, *, by: User, now: datetime
) -> Draft:
    """Change that step of the draft. Without a draft, the program in force is copied to one first.

    UsecaseRefused without a program, MusicRefused or CoreError for what the step cannot ask for, StaleDraft
    where somebody changed the draft meanwhile.
    """
    file = ClientFile.now(client)
    draft = file.draft
    if draft is None and file.program is not None:
        draft = drafts.replace_draft(client, file.program, by=by, now=now)
    return drafts.edit_draft(
        client,
        revision=(draft or drafts.current_draft(client)).revision,
        change=lambda program: with_music(program, step_id, line),
        by=by,
        now=now,
    )
