"""What was taught in a visit, kept in one transaction."""

from django.db import transaction
from django.utils.translation import gettext as _

from core.editing.step_targets import set_by_hand
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.programs.models import Draft
from web.programs.queries import active_version
from web.programs.usecases import drafts
from web.review.models import CueLevel, Response, Taught


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
        raise UsecaseRefused(_("Choose a step of the program. Nothing was saved."))
    if cue_level not in CueLevel.values or not {response, shown_back} <= set(Response.values):
        raise UsecaseRefused(
            _("Choose the support it took, how it went and the teach-back. Nothing was saved.")
        )
    cue, fade = " ".join(cue.split()), " ".join(fade.split())
    if len(cue) > 120 or len(fade) > 200 or not (cue + fade).isprintable():
        raise UsecaseRefused(
            _("A cue can have up to 120 characters, its fading up to 200. Nothing was saved.")
        )
    if at_home and draft is not None and any(s.step_id == step_id for s in draft.program.steps):
        drafts.edit_draft(
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
