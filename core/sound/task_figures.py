"""What an attempt's figures may hold beyond those of every sound, to and from the open JSON shape."""

from typing import Any, ClassVar, Protocol, Self

Span = tuple[float, float]


class TaskFigures(Protocol):
    """Figures of one kind of task under the keys of the open format; `key` is the one that tells
    them."""

    key: ClassVar[str]

    def as_data(self) -> dict[str, Any]: ...

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self: ...

    def without_levels(self) -> Self:
        """What is left where the level is not known."""


class LevelIndependent:
    """Figures in which no level is told: nothing falls away where it is not known."""

    __slots__ = ()

    def without_levels(self) -> Self:
        return self


def spans_data(spans: tuple[Span, ...]) -> list[dict[str, float]]:
    """Stretches of time in s as the open format writes them."""
    return [{"start_s": round(start, 3), "end_s": round(end, 3)} for start, end in spans]


def read_spans(data: list[dict[str, float]]) -> tuple[Span, ...]:
    """What `spans_data` gave, read back."""
    return tuple((span["start_s"], span["end_s"]) for span in data)


def rounded(value: float | None, places: int) -> float | None:
    return None if value is None else round(float(value), places)
