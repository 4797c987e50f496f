"""Save and delete a clinic's program templates. Each is one transaction."""

from django.db import IntegrityError, transaction
from django.utils.translation import gettext as _

from core.program.program import Program
from core.proposing.outline import outline_data, outline_of
from web.clients.models import Client
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.programs.models import ProgramTemplate

LONGEST_NAME = 60


@transaction.atomic
def save_template(client: Client, program: Program, *, name: str, by: User, now) -> ProgramTemplate:
    """Keep what the program is made of for any client of the clinic; refused without a name of its own."""
    name = " ".join(name.split())
    if not 0 < len(name) <= LONGEST_NAME or not name.isprintable():
        raise UsecaseRefused(_("Give the template a name of up to 60 characters."))
    try:
        with transaction.atomic():
            return ProgramTemplate.objects.create(
                clinic_id=client.clinic_id,
                name=name,
                content=outline_data(outline_of(program)),
                at=now,
                by=by,
            )
    except IntegrityError as error:
        words = _(
            "There is a template “%(name)s” already: choose another name, or take that one away."
        )
        raise UsecaseRefused(words % {"name": name}) from error


@transaction.atomic
def drop_template(row: ProgramTemplate, *, now) -> None:
    """Offer it no more; what was made from it stays as it is."""
    row.taken_away_at = now
    row.save(update_fields=["taken_away_at"])
