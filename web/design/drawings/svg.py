"""A small writer of SVG elements with everything escaped."""

from xml.sax.saxutils import escape, quoteattr

from django.utils.safestring import SafeString, mark_safe

PAPER, INK, REED, WATER, CLAY, STRAW = (
    "#F6F3EA",
    "#17302C",
    "#55702F",
    "#22707F",
    "#A94B2B",
    "#C9A24A",
)
FAINT = "#D9D4C4"


class Svg:
    """Collects elements; `done` closes the drawing. Lengths in user units (px)."""

    def __init__(
        self, width: float, height: float, *, label: str, kind: str, role: str = "img"
    ) -> None:
        self._parts = [
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}" '
            f'width="{width:g}" height="{height:g}" '
            f'role="{role}" aria-label={quoteattr(label)} class={quoteattr("drawing " + kind)}>'
        ]

    def add(self, name: str, **attributes: object) -> None:
        """One element without content; underscores in names become hyphens, None is left out."""
        self._parts.append(f"<{name}{_written(attributes)}/>")

    def text(self, x: float, y: float, words: object, **attributes: object) -> None:
        defaults: dict[str, object] = {"font_size": 13, "fill": INK}
        merged = {**defaults, **attributes, "x": x, "y": y}
        self._parts.append(f"<text{_written(merged)}>{escape(str(words))}</text>")

    def open(self, name: str = "g", **attributes: object) -> None:
        self._parts.append(f"<{name}{_written(attributes)}>")

    def title(self, words: str) -> None:
        self._parts.append(f"<title>{escape(words)}</title>")

    def close(self, name: str = "g") -> None:
        self._parts.append(f"</{name}>")

    def done(self) -> SafeString:
        return mark_safe("".join([*self._parts, "</svg>"]))  # every part was escaped above


def _written(attributes: dict[str, object]) -> str:
    return "".join(
        f" {name.rstrip('_').replace('_', '-')}={quoteattr(_plain(value))}"
        for name, value in attributes.items()
        if value is not None
    )


def _plain(value: object) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".") if isinstance(value, float) else str(value)
