"""A tube in a glass of water: the depth of its opening, and what it resists."""

from django.utils.translation import gettext as _

from core.program.step import Step, Tube
from web.design.drawings.step.grips import SIZE, Pull, drawing, grip, knob
from web.design.drawings.svg import CLAY, INK, PAPER, REED, WATER, Svg
from web.design.numbers import filled, number_text

_WIDTH, _HEIGHT = 340.0, 170.0
_SURFACE, _FLOOR = 62.0, 156.0
_LEFT, _RIGHT = 40.0, 150.0


def glass(step: Step, tube: Tube) -> Svg:
    """Depth is pulled down and up by the opening of the tube; beyond what home allows it is drawn in clay."""
    svg = drawing(step, width=_WIDTH, height=_HEIGHT)
    deepest = max(tube.deepest_cm + 1, tube.depth_cm, 2.0)
    per_cm = (_FLOOR - _SURFACE - 8) / deepest
    svg.add("rect", x=_LEFT, y=_SURFACE, width=_RIGHT - _LEFT, height=_FLOOR - _SURFACE, fill=WATER,
            fill_opacity=0.18)  # fmt: skip
    svg.add(
        "path", d=f"M{_LEFT} 30 V{_FLOOR} H{_RIGHT} V30", stroke=INK, stroke_width=1.5, fill="none"
    )
    limit = _SURFACE + tube.deepest_cm * per_cm
    svg.add("line", x1=_LEFT, y1=limit, x2=_RIGHT + 14, y2=limit, stroke=CLAY, stroke_width=1.5,
            stroke_dasharray="5 4")  # fmt: skip
    svg.text(
        _RIGHT + 18,
        limit + 5,
        filled(_("home: %(cm)g cm at most"), {"cm": tube.deepest_cm}),
        font_size=SIZE,
    )
    colour = CLAY if tube.depth_cm > tube.deepest_cm else REED
    x, opening = (_LEFT + _RIGHT) / 2, _SURFACE + tube.depth_cm * per_cm
    wide = 6 + tube.bore_mm * 0.6
    svg.add("rect", x=x - wide / 2, y=8, width=wide, height=opening - 8, fill=PAPER, stroke=colour,
            stroke_width=2)  # fmt: skip
    svg.text(
        _RIGHT + 18,
        30,
        filled(_("%(cm)g cm deep"), {"cm": tube.depth_cm}),
        font_weight=600,
        font_size=SIZE,
    )
    svg.text(_RIGHT + 18, 50, f"{number_text(tube.back_pressure_cmh2o)} cmH₂O", font_size=SIZE)
    with grip(svg, step, up=Pull("tube.depth_cm", -0.5 * per_cm)):
        knob(svg, x, opening, colour=colour)
    return svg
