"""Air, paced breath, what is done by the clock or counted: time across or upward, the ladder beside it."""

from collections.abc import Callable

from django.utils.translation import gettext as _

from core.catalogue.words import Growth
from core.program.step import Step
from core.program.targets import Blow, Counted, Pace, Timed
from web.design.drawings.step.grips import HEIGHT, SIZE, Pull, drawing, grip, knob
from web.design.drawings.svg import FAINT, INK, PAPER, REED, STRAW, WATER, Svg
from web.design.numbers import filled, number_text

_LEFT, _RIGHT, _TOP, _GROUND = 56.0, 610.0, 40.0, HEIGHT - 56.0


def air(step: Step, target: Blow) -> Svg:
    """The ladder of a stream of air: a bar for each rung, the present one filled; the longest /s/ as a line."""
    return _ladder(step, target.seconds, "seconds")


def by_clock(step: Step, target: Timed) -> Svg:
    """A strip a side for every time it is done, rests between; a breath hold as its ladder."""
    if step.grade is not None and step.grade.growth is Growth.SECONDS:
        return _ladder(step, target.seconds_a_side, "seconds_a_side")
    rows = [side for _time in range(step.repetitions) for side in range(target.sides)]
    high = min(34.0, (_GROUND - _TOP) / max(len(rows), 1) - 6)
    ground = _TOP + len(rows) * (high + 6) + 6
    svg = drawing(step, height=ground + 34)
    per_s = (_RIGHT - _LEFT) / max(target.seconds_a_side * 1.2, 10)
    for place, side in enumerate(rows):
        y = _TOP + place * (high + 6)
        name = (_("left"), _("right"))[side] if target.sides == 2 else f"{place + 1}"
        svg.text(_LEFT - 8, y + high / 2 + 5, name, text_anchor="end", font_size=SIZE)
        svg.add("rect", x=_LEFT, y=y, width=per_s * target.seconds_a_side, height=high, rx=2,
                fill=STRAW, fill_opacity=0.6, stroke=INK, stroke_width=1)  # fmt: skip
    _seconds_across(svg, per_s, ground)
    x, y = _LEFT + per_s * target.seconds_a_side, _TOP + high / 2
    svg.text(
        x + 16, y + 5, f"{number_text(target.seconds_a_side)} s", font_weight=600, font_size=SIZE
    )
    with grip(svg, step, across=Pull("seconds_a_side", 5 * per_s)):
        knob(svg, x, y)
    return svg


def breath(step: Step, target: Pace) -> Svg:
    """In as a slope up, out as a slope down, beat by beat; every rung of the way out is marked on the foot."""
    svg = drawing(step)
    rungs = step.grade.rungs if step.grade and step.grade.growth is Growth.BEATS_OUT else ()
    shown = step.grade.shown if step.grade and rungs else None
    farthest = max([target.beats_out, *rungs])
    longest = max(farthest, min(shown or 0, 1.5 * farthest))
    per_beat = (_RIGHT - _LEFT) / (target.beats_in + longest * 1.08)
    peak_x, end_x = _LEFT + target.beats_in * per_beat, 0.0
    end_x = peak_x + target.beats_out * per_beat
    top = _TOP + 30
    svg.add("path", d=f"M{_LEFT} {_GROUND} L{peak_x:.1f} {top} L{end_x:.1f} {_GROUND} Z", fill=REED,
            fill_opacity=0.22, stroke=REED, stroke_width=2.5)  # fmt: skip
    svg.add("line", x1=_LEFT, y1=_GROUND, x2=_RIGHT, y2=_GROUND, stroke=INK, stroke_width=1)
    for beat in range(int(target.beats_in + longest) + 1):
        x = _LEFT + beat * per_beat
        svg.add("line", x1=x, y1=_GROUND, x2=x, y2=_GROUND + 5, stroke=INK, stroke_width=1)
    for rung in rungs:
        x = peak_x + rung * per_beat
        svg.add("circle", cx=x, cy=_GROUND + 14, r=5, fill=REED if rung == target.beats_out else PAPER,
                stroke=REED, stroke_width=1.5)  # fmt: skip
        svg.text(x, _GROUND + 34, number_text(rung), text_anchor="middle", font_size=SIZE)
    if shown and shown <= longest:
        x = peak_x + shown * per_beat
        svg.add("line", x1=x, y1=_TOP, x2=x, y2=_GROUND, stroke=WATER, stroke_width=1.5,
                stroke_dasharray="5 4")  # fmt: skip
        svg.text(
            min(x, _RIGHT), _TOP - 6, "longest /s/", text_anchor="end", fill=WATER, font_size=SIZE
        )
    svg.text(
        _LEFT,
        top - 14,
        filled(
            _("in %(beats)s = %(seconds).1f s"), {"beats": target.beats_in, "seconds": target.in_s}
        ),
        font_size=SIZE,
    )
    out = filled(
        _("out %(beats)s = %(seconds).1f s"), {"beats": target.beats_out, "seconds": target.out_s}
    )
    svg.text(end_x + 16, _GROUND - 40, out,
             text_anchor="end" if end_x > _RIGHT - 110 else "start", font_size=SIZE, font_weight=600)  # fmt: skip
    with grip(svg, step, across=Pull("beats_in", per_beat), up=Pull("tempo_bpm", 14)):
        knob(svg, peak_x, top)
    with grip(svg, step, across=Pull("beats_out", per_beat)):
        knob(svg, end_x, _GROUND)
    return svg


def beads(step: Step, target: Counted) -> Svg:
    """One bead a time; the beat of the breath marked where an entry is counted in."""
    in_row = 15
    foot = _TOP + 24 + (target.count - 1) // in_row * 46 + 52
    svg = drawing(step, height=foot + 40)
    gap = (_RIGHT - _LEFT) / in_row
    for place in range(target.count):
        row, column = divmod(place, in_row)
        svg.add("circle", cx=_LEFT + gap * (column + 0.5), cy=_TOP + 24 + row * 46, r=12, fill=REED,
                fill_opacity=0.75, stroke=INK, stroke_width=1)  # fmt: skip
    row, column = divmod(target.count - 1, in_row)
    x, y = _LEFT + gap * (column + 0.5), _TOP + 24 + row * 46
    each = filled(_("%(seconds)g s each"), {"seconds": target.seconds_each})
    svg.text(_LEFT, foot, f"{target.said(step.sound)}; {each}", font_size=SIZE, font_weight=600)
    if target.breath_on:
        svg.text(
            _LEFT,
            foot + 22,
            _("breath on beat %(beat)s of 8") % {"beat": target.breath_on},
            font_size=SIZE,
        )
    with grip(svg, step, across=Pull("count", gap), up=Pull("seconds_each", 12)):
        knob(svg, x, y)
    return svg


def _ladder(step: Step, now_s: float, key: str) -> Svg:
    svg = drawing(step)
    rungs = step.grade.rungs if step.grade else (now_s,)
    stands = step.grade.rung if step.grade else 0
    shown = step.grade.shown if step.grade else None
    top_s = max([*rungs, now_s, *([shown] if shown else [])]) * 1.15
    per_s = (_GROUND - _TOP) / top_s
    wide = min(54.0, (_RIGHT - _LEFT) / len(rungs))
    svg.add("line", x1=_LEFT, y1=_GROUND, x2=_RIGHT, y2=_GROUND, stroke=INK, stroke_width=1)
    for place, rung in enumerate(rungs):
        here = place == stands
        seconds = now_s if here else rung
        x, high = _LEFT + place * wide, seconds * per_s
        svg.add("rect", x=x + 4, y=_GROUND - high, width=wide - 8, height=high, rx=2,
                fill=REED if here else PAPER, fill_opacity=0.8 if here else 1, stroke=REED,
                stroke_width=1.5)  # fmt: skip
        if here or wide >= 30:
            svg.text(x + wide / 2, _GROUND + 20, number_text(seconds), text_anchor="middle", font_size=SIZE,
                     font_weight=600 if here else 400)  # fmt: skip
    svg.text(_LEFT - 8, _GROUND + 20, "s", text_anchor="end", font_size=SIZE)
    if shown:
        y = _GROUND - shown * per_s
        svg.add("line", x1=_LEFT, y1=y, x2=_RIGHT, y2=y, stroke=WATER, stroke_width=1.5,
                stroke_dasharray="5 4")  # fmt: skip
        words = filled(_("longest shown %(seconds)g s"), {"seconds": shown})
        svg.text(_RIGHT, y - 6, words, text_anchor="end", fill=WATER, font_size=SIZE)
    x, y = _LEFT + (stands + 0.5) * wide, _GROUND - now_s * per_s
    grid = 5 if key == "seconds_a_side" else 0.5
    with grip(svg, step, up=Pull(key, grid * per_s)):
        knob(svg, x, y)
    return svg


def _seconds_across(svg: Svg, per_s: float, ground: float) -> None:
    step = next(s for s in (5, 10, 30, 60, 120, 300) if (_RIGHT - _LEFT) / (per_s * s) <= 9)
    svg.add("line", x1=_LEFT, y1=ground, x2=_RIGHT, y2=ground, stroke=INK, stroke_width=1)
    value = 0
    while _LEFT + value * per_s <= _RIGHT:
        x = _LEFT + value * per_s
        svg.add("line", x1=x, y1=_TOP, x2=x, y2=ground, stroke=FAINT, stroke_width=1)
        svg.text(x, ground + 20, f"{value} s", text_anchor="middle", font_size=SIZE)
        value += step


IN_TIME: dict[type, Callable[..., Svg]] = {
    Blow: air,
    Timed: by_clock,
    Pace: breath,
    Counted: beads,
}
