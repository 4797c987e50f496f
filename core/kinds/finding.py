"""What a figure means, as a code with its numbers; the words for each reader are elsewhere."""

from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Finding:
    """A code and the numbers behind it, each with its unit in its name."""

    code: str
    values: dict[str, float] = field(default_factory=dict)
