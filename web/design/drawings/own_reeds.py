"""A client's own reeds: this week's head only, drawn never taller than 10 % above it; the number beneath is
what was held."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.safestring import SafeString

from web.design.drawings.svg import FAINT, INK, PAPER, REED, STRAW, Svg
from web.design.numbers import number_text

_TALLEST = 1.1


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnReed:
    """Note by its place ("1"), target and best hold in seconds; None = not held yet.

    `calm`: the best hold was soft and steady, so the stem is filled.
    """

    name: str
    target_s: float
    best_s: float | None
    calm: bool


def own_reeds(reeds: Sequence[OwnReed], *, label: str) -> SafeString:
    """The drawing as SVG, for a narrow page: up to seven reeds side by side."""
    width, height, ground, top = 320, 310, 248, 36
    svg = Svg(width, height, label=label, kind="own-reeds")
    column = (width - 20) / max(len(reeds), 1)
    tallest = max((reed.target_s for reed in reeds), default=1.0) * _TALLEST
    svg.add("line", x1=6, y1=ground, x2=width - 6, y2=ground, stroke=INK, stroke_width=1.5)
    for place, reed in enumerate(reeds):
        x = 10 + column * (place + 0.5)
        head = ground - (ground - top) * reed.target_s / tallest
        svg.add("line", x1=x, y1=ground, x2=x, y2=head, stroke=FAINT, stroke_width=2)
        if reed.best_s is not None:
            shown = min(reed.best_s, reed.target_s * _TALLEST)
            y = ground - (ground - top) * shown / tallest
            svg.add(
                "rect", x=x - 7, y=y, width=14, height=max(ground - y, 1), rx=6,
                fill=REED if reed.calm else PAPER, stroke=REED, stroke_width=2.5,
            )  # fmt: skip
        svg.add(
            "line", x1=x - column * 0.36, y1=head, x2=x + column * 0.36, y2=head, stroke=INK,
            stroke_width=3,
        )  # fmt: skip
        if reed.best_s is not None and reed.best_s >= reed.target_s:
            svg.add("circle", cx=x, cy=head - 14, r=6, fill=STRAW, stroke=INK, stroke_width=1.5)
        svg.text(x, ground + 26, reed.name, text_anchor="middle", font_size=22)
        best = "–" if reed.best_s is None else f"{number_text(reed.best_s, '.1f')} s"
        svg.text(x, ground + 52, best, text_anchor="middle", font_size=21, font_weight=600)
    return svg.done()
