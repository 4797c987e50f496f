"""What is other in a program than before, and why, in the client's words."""

from collections.abc import Sequence

from django.utils.translation import gettext as _

from core.program.program import Program
from core.program.step import Step
from web.design.speaking import in_their_words
from web.practice.player.target_words import step_words
from web.programs.models import ProgramVersion

MOST_LINES = 5


def what_changed(versions: Sequence[ProgramVersion]) -> list[str]:
    """The newest version against the one before it; nothing where it is the first."""
    if len(versions) < 2:
        return []
    before, after = versions[-2].program, versions[-1].program
    lines = [line for step in after.steps if (line := _line(step, before))]
    gone = {step.name for step in before.steps} - {step.name for step in after.steps}
    lines += [_("No longer: %(name)s.") % {"name": in_their_words(name)} for name in sorted(gone)]
    return lines[:MOST_LINES]


def _line(step: Step, before: Program) -> str:
    was = next((one for one in before.steps if one.step_id == step.step_id), None)
    values = {"name": in_their_words(step.name), "words": step_words(step)}
    if was is None:
        return _("New: %(name)s, %(words)s.") % values
    if step.rung > was.rung:
        return _("%(name)s: now %(words)s, because it went well.") % values
    if step.rung < was.rung:
        return _("%(name)s: now %(words)s, to make it easier.") % values
    if step.target != was.target or step.repetitions != was.repetitions:
        return _("%(name)s: now %(words)s, as your clinician set it.") % values
    return ""
