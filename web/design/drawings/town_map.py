"""The map of the town that is described while loud: from where to where is marked."""

from collections.abc import Callable

from django.utils.safestring import SafeString

from core.catalogue.town import HEIGHT, WIDTH, MapPlace, town
from web.design.drawings.svg import CLAY, INK, PAPER, STRAW, WATER, Svg

_ICON = 24
_SCALE = 1.9
_PAD = 27
_BOX = 52


def town_map(way: tuple[str, str], *, label: str, spoken: Callable[[str], str]) -> SafeString:
    """The whole town with two of its places marked. way: their keys, from and to; spoken: a name in the
    reader's language."""
    here = town()
    svg = Svg(WIDTH, HEIGHT, label=label, kind="town-map")
    svg.add("rect", x=0, y=0, width=WIDTH, height=HEIGHT, fill=PAPER)
    svg.add("path", d=here.shore, fill=WATER, fill_opacity=0.22, stroke=WATER)
    for colour, width in ((STRAW, 15), (PAPER, 11)):
        for road in here.ways:
            points = " ".join(f"{x:g},{y:g}" for x, y in road.through)
            svg.add("polyline", points=points, fill="none", stroke=colour, stroke_width=width)
    for key, place in here.places.items():
        _place(svg, place, mark=way.index(key) if key in way else None, name=spoken(place.name))
    return svg.done()


def _place(svg: Svg, place: MapPlace, *, mark: int | None, name: str) -> None:
    """mark 0: where the way begins, a thick frame; 1: where it ends, a frame of two lines."""
    x, y = place.at
    half = _BOX / 2
    stroke = INK if mark is None else CLAY
    if mark == 1:
        around = half + 6
        svg.add(
            "rect",
            x=x - around,
            y=y - around,
            width=2 * around,
            height=2 * around,
            rx=4,
            fill="none",
            stroke=CLAY,
            stroke_width=3,
        )
    svg.add(
        "rect",
        x=x - half,
        y=y - half,
        width=_BOX,
        height=_BOX,
        rx=3,
        fill=PAPER,
        stroke=stroke,
        stroke_width=1 if mark is None else 4,
    )
    svg.open(
        transform=f"translate({x - _ICON * _SCALE / 2:g} {y - _ICON * _SCALE / 2:g}) scale({_SCALE})"
    )
    svg.add(
        "path", d=place.icon, fill="none", stroke=INK, stroke_width=1.8, stroke_linejoin="round"
    )
    svg.close()
    svg.text(
        x,
        y + half + _PAD,
        name,
        text_anchor="middle",
        font_size=27,
        font_weight=700 if mark is not None else 400,
        stroke=PAPER,
        stroke_width=4,
        paint_order="stroke",
    )
