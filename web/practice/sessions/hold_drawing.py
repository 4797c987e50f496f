"""The client's own drawing of a home session: the best hold of each note as a reed."""

import uuid
from collections.abc import Sequence

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from core.program.program import Program
from web.design.drawings.own_reeds import OwnReed, own_reeds
from web.practice.models import Attempt
from web.practice.sessions.levels import level_references
from web.practice.sessions.queries import bests_by_place


def last_reeds(
    client_id: uuid.UUID, program: Program, attempts: Sequence[Attempt]
) -> SafeString | None:
    """None where the program holds no ladder of notes, or none of it was held."""
    step = program.main_step
    if step is None:
        return None
    bests = bests_by_place(attempts, step, level_references(client_id))
    if not any(best.seconds for best in bests):
        return None
    return own_reeds(
        [
            OwnReed(
                name=str(best.place + 1),
                target_s=step.holds[best.place].seconds,
                best_s=best.seconds,
                calm=best.calm,
            )
            for best in bests
        ],
        label=_("Your notes as reeds: the bar is this week's hold"),
    )
