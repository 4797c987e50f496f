"""A small keyboard with the notes of a step: where they lie, for people who read no music."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.safestring import SafeString

from core.notes.note import Note
from web.design.drawings.svg import INK, PAPER, STRAW, Svg

_WHITE = (0, 2, 4, 5, 7, 9, 11)
_KEY_W, _HEIGHT, _BLACK_H, _BLACK_W = 22.0, 92.0, 56.0, 15.0
_TOP, _FOOT = 4.0, 26.0
_LEAST_KEYS = 10


@dataclass(frozen=True, slots=True)
class KeyMark:
    """A note to be found and what stands on it, one or two letters."""

    note: Note
    words: str


def keyboard(marks: Sequence[KeyMark], *, label: str, names: str) -> SafeString:
    """The drawing as SVG, from the C or F below the lowest note to above the highest; every C is named, and
    marked keys are filled and say their word. names: what to say below, "1 = B♭3, 2 = C4"."""
    low, high = _ends([mark.note.number for mark in marks])
    whites = [number for number in range(low, high + 1) if number % 12 in _WHITE]
    width = 2 * 2 + _KEY_W * len(whites)
    svg = Svg(width, _TOP + _HEIGHT + _FOOT, label=f"{label}: {names}", kind="keyboard")
    said: dict[int, list[str]] = {}
    for mark in marks:
        said.setdefault(mark.note.number, []).append(mark.words)
    lefts = {number: 2 + _KEY_W * place for place, number in enumerate(whites)}
    for number, x in lefts.items():
        _key(svg, x, _KEY_W, _HEIGHT, fill=STRAW if number in said else PAPER)
        if number in said:
            _word(svg, x + _KEY_W / 2, _TOP + _HEIGHT - 9, said[number], fill=INK)
        if number % 12 == 0:
            svg.text(
                x + _KEY_W / 2, _TOP + _HEIGHT + 18, Note(number).name, text_anchor="middle",
                font_size=16,
            )  # fmt: skip
    for number in range(low + 1, high):
        if number % 12 in _WHITE:
            continue
        x = lefts[number - 1] + _KEY_W - _BLACK_W / 2
        _key(svg, x, _BLACK_W, _BLACK_H, fill=STRAW if number in said else INK)
        if number in said:
            _word(svg, x + _BLACK_W / 2, _TOP + _BLACK_H - 8, said[number], fill=INK)
    return svg.done()


def _key(svg: Svg, x: float, width: float, height: float, *, fill: str) -> None:
    svg.add(
        "rect", x=x, y=_TOP, width=width, height=height, rx=1.5, fill=fill, stroke=INK,
        stroke_width=1.2,
    )  # fmt: skip


def _word(svg: Svg, x: float, y: float, words: list[str], *, fill: str) -> None:
    for row, word in enumerate(reversed(words[:3])):
        svg.text(
            x, y - 16 * row, word, text_anchor="middle", font_size=16, font_weight=700, fill=fill
        )


def _ends(numbers: Sequence[int]) -> tuple[int, int]:
    """From a white key to a white key, at least ten of them, with room around the marks."""
    low, high = min(numbers) - 2, max(numbers) + 2
    while low % 12 not in (0, 5):
        low -= 1
    while high % 12 not in (4, 11) or (high - low) * 7 / 12 < _LEAST_KEYS - 1:
        high += 1
    return low, high
