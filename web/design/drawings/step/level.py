"""How strong: a band over the client's own conversation, or of physical effort, over the time it is kept up."""

from django.utils.translation import gettext as _

from core.catalogue.words import Growth
from core.program.step import LevelAim, Step
from core.program.targets import Speech
from web.design.drawings.step.grips import HEIGHT, SIZE, WIDTH, Pull, drawing, grip, knob
from web.design.drawings.svg import FAINT, INK, REED, STRAW, WATER, Svg
from web.design.numbers import filled, number_text

_LEFT, _TOP = 56.0, 26.0
_HALF_DB = 1.0
"""Half the band drawn around a level, dB; only drawn so, judged by the rules."""


def speech(step: Step, target: Speech) -> Svg:
    """Talk as a strip of its seconds, in a band where it aims at a level."""
    return level_band(step, width=WIDTH, height=HEIGHT)


def level_band(step: Step, *, width: float = 340.0, height: float = 170.0) -> Svg:
    """The band of a step; its seconds across where it is talk."""
    svg = drawing(step, width=width, height=height)
    ground, right = height - 34, width - 24
    target = step.target
    seconds = target.seconds if isinstance(target, Speech) else None
    per_s = (right - _LEFT) / (max(seconds, 30) * 1.15) if seconds else None
    end = _LEFT + seconds * per_s if seconds and per_s else right
    svg.add("line", x1=_LEFT, y1=ground, x2=right, y2=ground, stroke=INK, stroke_width=1.5)
    if step.level is None:
        middle = (ground + _TOP) / 2
        svg.add("rect", x=_LEFT, y=middle, width=end - _LEFT, height=ground - middle, fill=STRAW,
                fill_opacity=0.5, stroke=INK, stroke_width=1)  # fmt: skip
        _grip_at(svg, step, end, middle, None, per_s)
    elif step.level.over_db is not None:
        _over(svg, step, step.level, ground, right, end, per_s)
    else:
        _effort(svg, step, step.level, ground, end, per_s)
    if seconds:
        svg.text(
            end, ground + 22, f"{number_text(seconds)} s", text_anchor="middle", font_size=SIZE
        )
    return svg


def _over(
    svg: Svg,
    step: Step,
    level: LevelAim,
    ground: float,
    right: float,
    end: float,
    per_s: float | None,
) -> None:
    over = level.over_db or 0.0
    grade = step.grade if step.grade and step.grade.growth is Growth.DECIBELS else None
    rungs = grade.rungs if grade else ()
    shown = grade.shown if grade else None
    top_db = max([over + 3, 8.0, *rungs, *([shown + 1] if shown else [])])
    per_db = (ground - _TOP) / top_db
    svg.text(_LEFT, ground + 22, _("own conversation"), font_size=SIZE)
    for rung in rungs:
        y = ground - rung * per_db
        svg.add("line", x1=_LEFT - 8, y1=y, x2=_LEFT, y2=y, stroke=REED, stroke_width=2)
        svg.text(_LEFT - 12, y + 5, f"+{number_text(rung)}", text_anchor="end", font_size=SIZE)
    if shown:
        y = ground - shown * per_db
        svg.add("line", x1=_LEFT, y1=y, x2=right, y2=y, stroke=WATER, stroke_width=1.5,
                stroke_dasharray="5 4")  # fmt: skip
        svg.text(right, y - 5, filled(_("strong “ah” %(db)+g dB"), {"db": shown}), text_anchor="end", fill=WATER,
                 font_size=SIZE)  # fmt: skip
    y = ground - over * per_db
    svg.add("rect", x=_LEFT, y=y - _HALF_DB * per_db, width=end - _LEFT, height=2 * _HALF_DB * per_db,
            fill=REED, fill_opacity=0.3, stroke=REED, stroke_width=1.5)  # fmt: skip
    svg.text(_LEFT + 10, y + 5, f"+ {number_text(over)} dB", font_weight=600, font_size=SIZE)
    _grip_at(svg, step, end, y, Pull("level.over_db", 0.5 * per_db), per_s)


def _effort(
    svg: Svg, step: Step, level: LevelAim, ground: float, end: float, per_s: float | None
) -> None:
    low, high = level.effort_low or 0, level.effort_high or 0
    per_one = (ground - _TOP) / 10
    for value in range(0, 11, 2):
        y = ground - value * per_one
        svg.add("line", x1=_LEFT, y1=y, x2=end, y2=y, stroke=FAINT, stroke_width=1)
        svg.text(_LEFT - 8, y + 5, value, text_anchor="end", font_size=SIZE)
    svg.text(_LEFT, ground + 22, _("effort of 10"), font_size=SIZE)
    top, foot = ground - high * per_one, ground - low * per_one
    svg.add("rect", x=_LEFT, y=top, width=end - _LEFT, height=max(foot - top, 3), fill=REED,
            fill_opacity=0.3, stroke=REED, stroke_width=1.5)  # fmt: skip
    svg.text(_LEFT + 10, (top + foot) / 2 + 5, f"{low}–{high}", font_weight=600, font_size=SIZE)
    _grip_at(svg, step, (_LEFT + end) / 2, foot, Pull("level.effort_low", per_one), None)
    _grip_at(svg, step, end, top, Pull("level.effort_high", per_one), per_s)


def _grip_at(
    svg: Svg, step: Step, x: float, y: float, up: Pull | None, per_s: float | None
) -> None:
    across = Pull("seconds", 5 * per_s) if per_s else None
    if across is None and up is None:
        return
    with grip(svg, step, across=across, up=up):
        knob(svg, x, y)
