"""The drawing of a step on the Bench, by what it asks for."""

from django.utils.safestring import SafeString

from core.program.program import Program
from core.program.step import Step
from core.program.targets import Speech
from web.design.drawings.step.glass import glass
from web.design.drawings.step.level import level_band, speech
from web.design.drawings.step.notes import OVER_NOTES
from web.design.drawings.step.time import IN_TIME


def drawing_of(program: Program, step: Step) -> SafeString | None:
    """What the step asks for, to be edited; None where that is notes held (the reed bed draws them all), or notes
    of a client whose range is not known."""
    target = step.target
    if isinstance(target, Speech):
        return speech(step, target).done()
    if type(target) in IN_TIME:
        return IN_TIME[type(target)](step, target).done()
    if type(target) in OVER_NOTES and program.comfort is not None:
        return OVER_NOTES[type(target)](program, step, target).done()
    return None


def beside(step: Step) -> list[SafeString]:
    """What stands beside it: the tube in its glass, the band of a level."""
    found = []
    if step.tube is not None and step.tube.deepest_cm:
        found.append(glass(step, step.tube).done())
    if step.level is not None and not isinstance(step.target, Speech):
        found.append(level_band(step).done())
    return found
