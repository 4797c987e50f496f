"""A line from a file becomes what a step asks for."""

from dataclasses import replace

from core.editing.step_settings import BY_HAND
from core.errors import PlanError
from core.formats.music.line import MusicLine
from core.formats.music.sung import holds_in, pattern_in
from core.program.program import Program
from core.program.targets import Holds, HoldTarget, Pattern


def with_music(program: Program, step_id: str, line: MusicLine) -> Program:
    """The program with a step's degrees from a file, and its keys and tempo where the file has the pattern in several
    keys; of held notes with their notes and seconds. What lies outside the range is told as for anything typed.

    MusicRefused where the line is no such thing, PlanError("step_without_target") where the step takes no music.
    """
    step = program.step(step_id)
    target = step.target
    if isinstance(target, Pattern):
        read = pattern_in(line)
        several = len(read.keys) > 1
        changed = replace(
            target,
            degrees=read.degrees,
            keys=read.keys if several else target.keys,
            tempo_bpm=read.tempo_bpm if several else target.tempo_bpm,
            tune=target.tune if read.degrees == target.degrees else "",
            because=BY_HAND,
        )
        return program.with_step(replace(step, target=changed))
    if isinstance(target, Holds):
        holds = tuple(
            HoldTarget(note=note, seconds=seconds, because=BY_HAND)
            for note, seconds in holds_in(line)
        )
        return program.with_step(replace(step, target=replace(target, holds=holds)))
    raise PlanError("step_without_target", step=step.name)
