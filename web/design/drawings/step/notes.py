"""Slides, joins, phrases and patterns over the client's range: notes across, seconds upward."""

from collections.abc import Callable, Sequence

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.notes.note import Note
from core.program.program import Program
from core.program.step import Step
from core.program.targets import GlidePath, Join, Pattern, Phrases
from web.design.drawings.ground import Ground
from web.design.drawings.reed_bed import ON_THE_BENCH
from web.design.drawings.step.grips import Pull, drawing, grip, knob
from web.design.drawings.svg import CLAY, INK, REED, STRAW, Svg
from web.design.numbers import filled, number_text

_CHANNEL = 12
"""Width of the channel a slide stays in, as at home."""


def _ground(program: Program, step: Step, notes: Sequence[Note], top_s: float) -> Ground:
    assert program.comfort is not None  # asked for by `drawing_of`
    return Ground(
        comfort=program.comfort,
        numbers=tuple(note.number for note in notes),
        top_s=max(top_s * 1.2, 4.0),
        a4_hz=program.a4_hz,
        **ON_THE_BENCH,
    )


def _colour(program: Program, *notes: Note) -> str:
    comfort = program.comfort
    outside = comfort is not None and any(comfort.why_outside(note) for note in notes)
    return CLAY if outside else REED


def slide(program: Program, step: Step, target: GlidePath) -> Svg:
    """The path from note to note; there and back, and several rises, as often as they are made."""
    ground = _ground(program, step, target.notes, target.seconds)
    svg = drawing(step)
    ground.draw(svg, target.notes)
    points, at = [(ground.x(target.start.number), ground.y(0))], 0.0
    for leg in target.legs(0):
        at += leg.seconds
        end = leg.end or target.end
        points.append((ground.x(end.number), ground.y(at)))
    path = "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in points)
    colour = _colour(program, *target.notes)
    svg.add("path", d=path, stroke=colour, stroke_opacity=0.28, stroke_width=_CHANNEL, fill="none",
            stroke_linejoin="round")  # fmt: skip
    svg.add("path", d=path, stroke=colour, stroke_width=2.5, fill="none")
    with grip(svg, step, across=Pull("start", ground.px_a_semitone)):
        knob(svg, *points[0], colour=colour)
    half_second = ground.px_a_second * 0.5 * (1 if len(points) == 2 else 1 / (len(points) - 1))
    pull = Pull("seconds", half_second)
    with grip(svg, step, across=Pull("end", ground.px_a_semitone), up=pull):
        knob(svg, *points[1], colour=colour)
    x, y = points[-1]
    svg.text(x, y - 16, f"{number_text(target.seconds)} s", text_anchor="middle", font_weight=600,
             font_size=ground.size, fill=colour)  # fmt: skip
    return svg


def join(program: Program, step: Step, target: Join) -> Svg:
    """A thread of air that turns into voice on its note."""
    ground = _ground(program, step, target.notes, target.seconds)
    svg = drawing(step)
    ground.draw(svg, target.notes)
    x, turn, top = ground.x(target.note.number), ground.y(target.hiss_s), ground.y(target.seconds)
    colour = _colour(program, target.note)
    svg.add("line", x1=x, y1=ground.level, x2=x, y2=turn, stroke=colour, stroke_width=5,
            stroke_dasharray="3 5")  # fmt: skip
    svg.add("line", x1=x, y1=turn, x2=x, y2=top, stroke=colour, stroke_width=7)
    svg.text(
        x + 18,
        (ground.level + turn) / 2,
        filled(_("hiss %(seconds)g s"), {"seconds": target.hiss_s}),
        font_size=ground.size,
    )
    svg.text(
        x + 18,
        (turn + top) / 2,
        filled(_("buzz %(seconds)g s"), {"seconds": target.buzz_s}),
        font_size=ground.size,
    )
    half = ground.px_a_second * 0.5
    with grip(svg, step, across=Pull("note", ground.px_a_semitone), up=Pull("hiss_s", half)):
        knob(svg, x, turn, colour=colour)
    with grip(svg, step, across=Pull("note", ground.px_a_semitone), up=Pull("buzz_s", half)):
        knob(svg, x, top, colour=colour)
    return svg


def phrases(program: Program, step: Step, target: Phrases) -> Svg:
    """One block a phrase, stacked on its note."""
    ground = _ground(program, step, target.notes, target.seconds)
    svg = drawing(step)
    ground.draw(svg, target.notes)
    x, colour = ground.x(target.note.number), _colour(program, target.note)
    each = ground.px_a_second * target.seconds_each
    for place in range(target.count):
        y = ground.level - (place + 1) * each
        svg.add("rect", x=x - 15, y=y + 1, width=30, height=max(each - 2, 1), rx=2, fill=colour,
                fill_opacity=0.75)  # fmt: skip
    top = ground.level - target.count * each
    svg.text(
        x + 24,
        top + 5,
        ngettext("%(n)s phrase", "%(n)s phrases", target.count) % {"n": target.count},
        font_size=ground.size,
        font_weight=600,
    )
    with grip(svg, step, across=Pull("note", ground.px_a_semitone), up=Pull("count", each)):
        knob(svg, x, top, colour=colour)
    return svg


def pattern(program: Program, step: Step, target: Pattern) -> Svg:
    """The pattern sung from its first key, and every key it goes through marked on the strip; a key is turned on
    or off where it stands."""
    first = target.keys[0]
    sung = target.in_key(first)
    beat_s = 60 / target.tempo_bpm
    ground = _ground(program, step, target.notes, len(sung) * beat_s)
    svg = drawing(step)
    ground.draw(svg, (first, max(target.notes), min(target.keys)))
    lowest, highest = min(target.notes), max(target.notes)
    colour = _colour(program, lowest, highest)
    half = ground.px_a_semitone / 2
    svg.add("rect", x=ground.x(lowest.number) - half, y=ground.level - 7,
            width=ground.x(highest.number) - ground.x(lowest.number) + 2 * half, height=5, fill=colour,
            fill_opacity=0.5)  # fmt: skip
    rows = [(ground.x(note.number), ground.y(at * beat_s), note) for at, note in enumerate(sung)]
    for x, y, _note in rows:
        svg.add("rect", x=x - half + 1, y=y - ground.px_a_second * beat_s + 1, width=2 * half - 2,
                height=max(ground.px_a_second * beat_s - 2, 2), fill=colour, fill_opacity=0.7)  # fmt: skip
    x, y, _note = rows[0]
    with grip(svg, step, across=Pull("keys", ground.px_a_semitone), up=Pull("tempo_bpm", -14)):
        knob(svg, x, y, colour=colour)
    words = filled(
        _("%(keys)s keys, %(tempo)g beats/min"),
        {"keys": len(target.keys), "tempo": target.tempo_bpm},
    )
    svg.text(ground.sides[1], 24, words, text_anchor="end", font_size=ground.size, font_weight=600)
    _keys(svg, step, target, ground)
    return svg


def _keys(svg: Svg, step: Step, target: Pattern, ground: Ground) -> None:
    order = {key: place + 1 for place, key in enumerate(target.keys)}
    half = ground.px_a_semitone / 2
    for number in range(ground.first, ground.last + 1):
        note = Note(number)
        on = note in order
        x = ground.x(number)
        named = _("Key %(note)s") % {"note": note}
        svg.open("g", class_="key", tabindex=0, role="checkbox", aria_checked="true" if on else "false",
                 aria_label=named, data_toggle=note.name, data_step=step.step_id)  # fmt: skip
        words = _("Key %(note)s, number %(place)s") if on else named
        svg.title(words % {"note": note, "place": order.get(note)})
        svg.add("rect", x=x - half + 0.5, y=ground.level, width=2 * half - 1, height=16,
                fill=REED if on else STRAW, fill_opacity=1 if on else 0.01, stroke=INK,
                stroke_width=1 if on else 0.3)  # fmt: skip
        svg.close()


OVER_NOTES: dict[type, Callable[..., Svg]] = {
    GlidePath: slide,
    Join: join,
    Phrases: phrases,
    Pattern: pattern,
}
