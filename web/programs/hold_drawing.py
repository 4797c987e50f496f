"""The holds of a program as reeds, the same on the Bench, the Client page and My reeds."""

from collections.abc import Callable
from dataclasses import replace

from django.utils.safestring import SafeString

from core.catalogue.words import Growth
from core.notes.note import Note
from core.program.program import Program
from web.design.drawings.reed_bed import Bed, Reed, reed_bed
from web.design.speaking import in_their_words

Dressed = Callable[[Reed], Reed]


def program_reeds(program: Program, dressed: Dressed = lambda reed: reed) -> list[Reed]:
    """A reed for each hold, warm-up holds in a lane of their own; key = "step_id:place".

    dressed: adds to each reed what the view knows of it, such as its attempts.
    """
    holds = [step for step in program.steps if step.holds]
    main = program.main_step
    return [
        dressed(
            Reed(
                note=hold.note,
                seconds=hold.seconds,
                key=f"{step.step_id}:{place}",
                name=in_their_words(step.name),
                lane=0 if step is main else -1,
                beside=sum(one.note == hold.note for one in step.holds[:place]),
                why_outside=_why_outside(program, hold.note),
            )
        )
        for step in holds
        for place, hold in enumerate(step.holds)
    ]


def program_bed(
    program: Program,
    *,
    label: str,
    editable: bool = False,
    dressed: Dressed = lambda reed: reed,
) -> SafeString | None:
    """The reed bed of a program; None where it has no range or no held notes. The waterline is a goal in seconds."""
    if program.comfort is None or program.main_step is None:
        return None
    grade = program.main_step.grade
    in_seconds = grade is not None and grade.growth is Growth.SECONDS
    return reed_bed(
        Bed(
            comfort=program.comfort,
            reeds=program_reeds(program, dressed),
            goal_s=grade.goal if grade and in_seconds else None,
            a4_hz=program.a4_hz,
            editable=editable,
            label=label,
        )
    )


def _why_outside(program: Program, note: Note) -> str | None:
    why = program.comfort.why_outside(note) if program.comfort else None
    return str(why) if why else None


def with_past(reed: Reed, *, attempts=(), versions=()) -> Reed:
    """The reed with the attempts at it and its earlier targets, both in seconds."""
    step_id, place = reed.key.split(":")
    return replace(
        reed,
        attempts_s=[
            a.seconds
            for a in attempts
            if a.seconds and str(a.step_id) == step_id and a.place == int(place)
        ],
        earlier_s=_earlier(versions, step_id, int(place), reed.seconds),
    )


def _earlier(versions, step_id: str, place: int, now_s: float) -> list[float]:
    """Earlier targets of the same hold, oldest first, without repeats; at most three."""
    found: list[float] = []
    for version in versions:
        for step in version.program.steps:
            if step.step_id == step_id and place < len(step.holds):
                seconds = step.holds[place].seconds
                if seconds != now_s and seconds not in found:
                    found.append(seconds)
    return found[-3:]
