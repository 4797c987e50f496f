"""Pictures of movements of the body: a figure, where the hands lie, which way it goes."""

from collections.abc import Callable

from django.utils.safestring import SafeString

from web.design.drawings.svg import CLAY, INK, PAPER, STRAW, WATER, Svg

_WIDTH, _HEIGHT = 260, 180
_LINE = {"fill": "none", "stroke": INK, "stroke_width": 3, "stroke_linecap": "round"}
_SKIN = {"fill": PAPER, "stroke": INK, "stroke_width": 3, "stroke_linejoin": "round"}
_SHOULDERS = "M52 176 C54 122 84 112 112 106 L112 84 L148 84 L148 106 C176 112 206 122 208 176"


def _bust(svg: Svg, *, tilt: float = 0) -> None:
    svg.add("path", d=_SHOULDERS, **_SKIN)
    svg.open(transform=f"rotate({tilt:g} 130 96)")
    svg.add("ellipse", cx=130, cy=54, rx=31, ry=38, **_SKIN)
    for x in (119, 141):
        svg.add("circle", cx=x, cy=50, r=2.5, fill=INK)
    svg.add("path", d="M120 72 q10 6 20 0", **_LINE)
    svg.close()


def _face(svg: Svg, mouth: str, *, filled: str = "none") -> None:
    svg.add("ellipse", cx=130, cy=90, rx=66, ry=82, **_SKIN)
    for x in (105, 155):
        svg.add("circle", cx=x, cy=70, r=4, fill=INK)
    svg.add("path", d="M130 76 v20 h7", **_LINE)
    svg.add("path", d=mouth, **{**_LINE, "fill": filled})


def _side(svg: Svg) -> None:
    svg.add(
        "path",
        d="M150 176 v-38 C176 128 184 92 176 64 C166 26 108 22 96 60 l-4 24 -12 16 12 5"
        " v18 c0 12 10 14 24 12 v41",
        **_SKIN,
    )
    svg.add("circle", cx=106, cy=76, r=3, fill=INK)
    svg.add("path", d="M92 106 h12", **_LINE)


def _hand(svg: Svg, x: float, y: float) -> None:
    svg.add("circle", cx=x, cy=y, r=10, fill=STRAW, stroke=INK, stroke_width=2.5)


def _arrow(svg: Svg, path: str, at: tuple[float, float], turn: float) -> None:
    """A way to go along a path, its head at a place turned by degrees (0 = to the right)."""
    svg.add("path", d=path, fill="none", stroke=WATER, stroke_width=4, stroke_linecap="round")
    svg.add(
        "path",
        d="M-9 -8 L3 0 L-9 8",
        fill="none",
        stroke=WATER,
        stroke_width=4,
        stroke_linecap="round",
        transform=f"translate({at[0]:g} {at[1]:g}) rotate({turn:g})",
    )


def _round(svg: Svg, x: float, y: float, r: float) -> None:
    """Round and round, seen from the front: up, outwards, down."""
    _arrow(svg, f"M{x - r:g} {y:g} A{r:g} {r:g} 0 1 1 {x:g} {y + r:g}", (x, y + r), 180)


def _shoulder_circle(svg: Svg) -> None:
    _bust(svg)
    svg.add("path", d="M66 176 C70 150 120 150 186 128", **_LINE)
    _hand(svg, 188, 126)
    _round(svg, 190, 104, 26)


def _skull_base_nods(svg: Svg) -> None:
    _side(svg)
    _hand(svg, 174, 124)
    svg.add("path", d="M214 176 C214 150 200 134 182 126", **_LINE)
    _arrow(svg, "M62 62 C56 74 56 86 60 98", (60, 98), 75)
    _arrow(svg, "M62 98 C56 86 56 74 62 62", (62, 62), -65)


def _neck_side_stretch(svg: Svg) -> None:
    _bust(svg, tilt=28)
    _arrow(svg, "M168 20 C188 26 200 42 204 60", (204, 60), 78)
    _arrow(svg, "M62 96 v24", (62, 120), 90)


def _jaw_circles(svg: Svg) -> None:
    _face(svg, "M112 128 q18 22 36 0 q-18 -10 -36 0")
    for x, side in ((72, -1), (188, 1)):
        _hand(svg, x, 118)
        _round(svg, x + side * 22, 118, 18)
        _round(svg, x + side * 8, 44, 13)


def _shoulder_rolls(svg: Svg) -> None:
    _bust(svg)
    _round(svg, 70, 106, 22)
    _round(svg, 192, 106, 22)
    for x in (24, 236):
        _arrow(svg, f"M{x} 80 V24", (x, 24), -90)


def _tongue_mobility(svg: Svg) -> None:
    _face(svg, "M104 120 q26 34 52 0 q-26 -14 -52 0", filled=STRAW)
    for path, at, turn in (
        ("M130 112 v-8", (130, 104), -90),
        ("M130 142 v16", (130, 158), 90),
        ("M100 124 h-14", (86, 124), 180),
        ("M160 124 h14", (174, 124), 0),
    ):
        _arrow(svg, path, at, turn)


def _lip_mobility(svg: Svg) -> None:
    _face(svg, "M98 124 q32 22 64 0 q-32 -12 -64 0", filled=STRAW)
    _arrow(svg, "M92 124 H52", (52, 124), 180)
    _arrow(svg, "M168 124 H208", (208, 124), 0)
    svg.add("circle", cx=130, cy=127, r=9, fill=PAPER, stroke=INK, stroke_width=2.5)


def _palate_lift(svg: Svg) -> None:
    _side(svg)
    svg.add("path", d="M100 98 q22 -14 44 4 q6 8 2 22", fill="none", stroke=CLAY, stroke_width=4)
    _arrow(svg, "M134 116 V84", (134, 84), -90)


def _easy_sigh(svg: Svg) -> None:
    _bust(svg)
    _arrow(svg, "M152 74 C178 70 184 92 202 96 C218 100 222 116 226 132", (226, 132), 80)


def _low_breath(svg: Svg) -> None:
    _bust(svg)
    _hand(svg, 130, 116)
    _hand(svg, 130, 164)
    _arrow(svg, "M80 160 H40", (40, 160), 180)
    _arrow(svg, "M180 160 H220", (220, 160), 0)


_DRAWN: dict[str, Callable[[Svg], None]] = {
    "shoulder_circle": _shoulder_circle,
    "skull_base_nods": _skull_base_nods,
    "neck_side_stretch": _neck_side_stretch,
    "jaw_circles": _jaw_circles,
    "shoulder_rolls": _shoulder_rolls,
    "tongue_mobility": _tongue_mobility,
    "lip_mobility": _lip_mobility,
    "palate_lift": _palate_lift,
    "easy_sigh": _easy_sigh,
    "low_breath": _low_breath,
}


def movement(task: str, *, label: str) -> SafeString:
    """The picture of a task of the body; empty where it has none."""
    drawn = _DRAWN.get(task)
    if drawn is None:
        return SafeString("")
    svg = Svg(_WIDTH, _HEIGHT, label=label, kind="movement")
    drawn(svg)
    return svg.done()
