"""The session ribbon: one home session from left to right, where the minutes go."""

from collections.abc import Callable
from itertools import groupby

from django.utils.safestring import SafeString

from core.dose.ribbon import Passing, RibbonStretch, ribbon_of
from core.program.routine import Routine
from web.design.drawings.svg import FAINT, INK, PAPER, REED, STRAW, Svg
from web.design.numbers import number_text
from web.design.speaking import in_their_words

WIDTH, _HEIGHT = 640.0, 78.0
_FOOT, _SIZE = 32.0, 14.5
_LETTER = 0.52
"""Width of a letter in its size, so that names that have no room are left out."""
_DONE = {
    Passing.VOICED: (REED, 1.0, 26.0),
    Passing.PARTLY: (REED, 0.5, 22.0),
    Passing.UNVOICED: (STRAW, 0.75, 18.0),
}


def session_ribbon(
    routine: Routine, *, label: str, chosen: str = "", link: Callable[[str], str] | None = None
) -> SafeString:
    """The stretches of a sitting; chosen: the step that is marked; link: where a step leads."""
    stretches = ribbon_of(routine)
    names = {step.step_id: in_their_words(step.name) for step in routine.steps}
    total = stretches[-1].ends_s if stretches else 1.0
    per_s = (WIDTH - 4) / total
    svg = Svg(WIDTH, _HEIGHT, label=label, kind="ribbon", role="group")
    free = 0.0
    for step_id, own in groupby(stretches, key=lambda one: one.step_id):
        run = list(own)
        x, end = 2 + run[0].begins_s * per_s, 2 + run[-1].ends_s * per_s
        svg.open("a", href=link(step_id) if link else None, data_pick=step_id, aria_label=names[step_id],
                 aria_current="step" if step_id == chosen else None)  # fmt: skip
        minutes = (run[-1].ends_s - run[0].begins_s) / 60
        svg.title(f"{names[step_id]}, {number_text(minutes, '.1f')} min")
        if step_id == chosen:
            svg.add(
                "rect", x=x, y=0, width=end - x, height=_HEIGHT - 26, fill=FAINT, fill_opacity=0.55
            )
        else:
            svg.add("rect", x=x, y=0, width=end - x, height=_HEIGHT, fill=PAPER, fill_opacity=0.01)
        for one in run:
            _stretch(svg, one, per_s)
        free = _named(svg, names[step_id], x, end, free, marked=step_id == chosen)
        svg.close("a")
    return svg.done()


def _stretch(svg: Svg, one: RibbonStretch, per_s: float) -> None:
    x, wide = 2 + one.begins_s * per_s, one.seconds * per_s
    if one.passing in _DONE:
        colour, opacity, high = _DONE[one.passing]
        svg.add("rect", x=x, y=_FOOT - high, width=max(wide - 0.5, 0.8), height=high, rx=1, fill=colour,
                fill_opacity=opacity, stroke=INK, stroke_width=0.3)  # fmt: skip
    elif one.passing is Passing.REST:
        svg.add("rect", x=x, y=_FOOT - 3, width=wide, height=3, fill=STRAW)
    else:
        svg.add("rect", x=x, y=_FOOT - 1, width=wide, height=1, fill=INK, fill_opacity=0.5)


def _named(svg: Svg, name: str, x: float, end: float, free: float, *, marked: bool) -> float:
    """The bracket of a step with its name, where there is room before the next; where the next name may begin."""
    svg.add("path", d=f"M{x + 1:.1f} {_FOOT + 6} v5 H{end - 2:.1f} v-5", stroke=INK, fill="none",
            stroke_width=2.5 if marked else 1)  # fmt: skip
    wide = len(name) * _LETTER * _SIZE
    room = end - x
    if x < free or (wide > room and not marked):
        return free
    at = min(x + 2, WIDTH - wide - 2)
    svg.text(at, _FOOT + 30, name, font_size=_SIZE, font_weight=700 if marked else 400)
    return at + wide + 8
