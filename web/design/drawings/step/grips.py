"""Grips: parts of a drawing that are dragged, or moved with the arrow keys, to set something."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from core.editing.step_settings import setting_of
from core.program.step import Step
from web.design.drawings.reed_bed import ON_THE_BENCH
from web.design.drawings.svg import INK, PAPER, REED, Svg
from web.design.speaking import in_their_words

WIDTH, HEIGHT, SIZE = ON_THE_BENCH["width"], ON_THE_BENCH["height"], ON_THE_BENCH["size"]


@dataclass(frozen=True, slots=True)
class Pull:
    """What a grip sets in one direction: a setting, and how many px one place of its grid is; negative px
    = against the direction."""

    key: str
    px: float


@contextmanager
def grip(
    svg: Svg, step: Step, *, across: Pull | None = None, up: Pull | None = None
) -> Iterator[None]:
    """A part that can be focused and pulled; said by what it sets and where that stands."""
    told = []
    for pull in (across, up):
        if pull is not None:
            own = setting_of(step, pull.key)
            told.append(f"{own.settable.label} {own.text} {own.settable.unit_label}".strip())
    svg.open(
        "g", class_="grip", tabindex=0, role="slider", data_step=step.step_id,
        aria_label=f"{in_their_words(step.name)}: {', '.join(told)}", aria_valuetext=", ".join(told),
        aria_valuenow=0, data_across=across.key if across else None, data_up=up.key if up else None,
        data_across_px=round(across.px, 3) if across else None,
        data_up_px=round(up.px, 3) if up else None,
    )  # fmt: skip
    svg.title(", ".join(told))
    yield
    svg.close()


def knob(svg: Svg, x: float, y: float, *, colour: str = REED) -> None:
    """What is taken hold of; as wide as a finger, seen as a ring."""
    svg.add("circle", cx=x, cy=y, r=16, fill=PAPER, fill_opacity=0.01, stroke="none")
    svg.add("circle", cx=x, cy=y, r=7, fill=colour, stroke=INK, stroke_width=1.5, class_="knob")


def drawing(step: Step, *, width: float = WIDTH, height: float = HEIGHT) -> Svg:
    """The empty drawing of a step."""
    return Svg(width, height, label=in_their_words(step.name), kind="asked", role="group")
