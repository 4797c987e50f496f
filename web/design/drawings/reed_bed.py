"""The reed bed: the client's range along the foot, a reed for each note, the goal as waterline."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from core.notes.note import Note
from core.notes.range import ComfortableRange
from web.design.drawings.ground import Ground
from web.design.drawings.svg import CLAY, INK, PAPER, REED, WATER, Svg
from web.design.numbers import filled, number_text

ON_THE_BENCH: dict[str, Any] = {"width": 640, "height": 356, "size": 14.5}
"""Where a drawing is edited it stands in a narrower column: 14.5 units are 13 px there."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reed:
    """One prescribed hold. Seconds throughout; `lane` sets reeds of another step apart,
    `beside` those of the same step on the same note."""

    note: Note
    seconds: float
    key: str = ""
    name: str = ""
    lane: int = 0
    beside: int = 0
    attempts_s: Sequence[float] = ()
    earlier_s: Sequence[float] = ()
    why_outside: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Bed:
    """What the drawing shows; `goal_s` is the waterline, `a4_hz` names the notes in Hz."""

    comfort: ComfortableRange
    reeds: Sequence[Reed]
    goal_s: float | None = None
    a4_hz: float = 440.0
    editable: bool = False
    label: str = field(default="Reed bed")


def reed_bed(bed: Bed) -> SafeString:
    """The drawing as SVG. Editable reeds carry data-key and can be focused."""
    ground = _ground(bed)
    role = "group" if bed.editable else "img"
    svg = Svg(ground.width, ground.height, label=bed.label, kind="reed-bed", role=role)
    ground.draw(svg, (reed.note for reed in bed.reeds))
    if bed.goal_s:
        _waterline(svg, bed.goal_s, ground)
    said: set[tuple[int, int, float]] = set()
    for reed in bed.reeds:
        own = (reed.lane, reed.note.number, reed.seconds)
        label = own not in said and (bed.editable or reed.lane == 0)
        said.add(own)
        _reed(svg, reed, ground, editable=bed.editable, label=label)
    return svg.done()


def _ground(bed: Bed) -> Ground:
    tops = [value for reed in bed.reeds for value in (reed.seconds, *reed.attempts_s)]
    return Ground(
        comfort=bed.comfort,
        numbers=tuple(reed.note.number for reed in bed.reeds),
        top_s=max([*tops, bed.goal_s or 0.0, 4.0]) * 1.14,
        a4_hz=bed.a4_hz,
        **(ON_THE_BENCH if bed.editable else {}),
    )


def _waterline(svg: Svg, goal_s: float, ground: Ground) -> None:
    y = ground.y(goal_s)
    left, right = ground.sides
    waves = " ".join("t12 0" for _ in range(int((right - left) / 12)))
    svg.add(
        "path", d=f"M{left} {y:.1f} q6 -3 12 0 {waves}", stroke=WATER, stroke_width=1.5,
        fill="none",
    )  # fmt: skip
    svg.text(
        right,
        y - 6,
        filled(_("goal %(seconds)g s"), {"seconds": goal_s}),
        text_anchor="end",
        fill=WATER,
        font_size=ground.size,
    )


def _reed(svg: Svg, reed: Reed, ground: Ground, *, editable: bool, label: bool) -> None:
    """label: whether its seconds are written; the same beside each other on one note are written once."""
    x = ground.x(reed.note.number) + reed.lane * 18 + reed.beside * 16
    y = ground.y(reed.seconds)
    bend = 16 if reed.why_outside else 0
    colour = CLAY if reed.why_outside else REED
    words = f"{reed.name} {reed.note} {number_text(reed.seconds)} s".strip()
    told = filled(_("%(note)s, %(seconds)g seconds"), {"note": reed.note, "seconds": reed.seconds})
    svg.open(
        "g", class_="reed", data_key=reed.key if editable else None, tabindex=0 if editable else None,
        role="slider" if editable else None, aria_label=words if editable else None,
        aria_valuenow=reed.seconds if editable else None,
        aria_valuetext=told if editable else None,
        data_px_semitone=round(ground.px_a_semitone, 2) if editable else None,
        data_px_second=round(ground.px_a_second, 3) if editable else None,
    )  # fmt: skip
    svg.title(f"{words}. {reed.why_outside or ''}".strip())
    for place_back, earlier in enumerate(reversed(tuple(reed.earlier_s))):
        left = x - 7 - 5 * place_back
        svg.add(
            "line", x1=left, y1=ground.level, x2=left, y2=ground.y(earlier), stroke=REED,
            stroke_width=2, stroke_opacity=max(0.5 - 0.12 * place_back, 0.14),
        )  # fmt: skip
    middle = (ground.level + y) / 2
    svg.add(
        "path", d=f"M{x:.1f} {ground.level} Q{x + 3:.1f} {middle:.1f} {x + bend:.1f} {y:.1f}",
        stroke=colour, stroke_width=2.5 if reed.lane == 0 else 1.5, fill="none", class_="stem",
    )  # fmt: skip
    for number, seconds in enumerate(reed.attempts_s):
        side = 15 if number % 2 == 0 else 25
        svg.add(
            "circle", cx=x + (side if reed.lane == 0 else 0), cy=ground.y(seconds), r=4, fill=PAPER, stroke=INK,
            stroke_width=1.5,
        )  # fmt: skip
    svg.open("g", class_="head")
    svg.add(
        "rect", x=x + bend - 5, y=y, width=10, height=min(26, max(ground.level - y - 2, 4)), rx=5,
        fill=colour if reed.lane == 0 else PAPER, stroke=colour, stroke_width=1.5,
    )  # fmt: skip
    svg.add("line", x1=x + bend, y1=y - 8, x2=x + bend, y2=y, stroke=colour, stroke_width=1.5)
    svg.close()
    if label:
        svg.text(
            x + bend, y - 12, number_text(reed.seconds), text_anchor="middle", font_weight=600,
            fill=colour, class_="seconds", font_size=ground.size,
        )  # fmt: skip
    svg.close()
