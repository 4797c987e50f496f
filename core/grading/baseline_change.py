"""Whether what changed between two baselines is more than the spread of their tries."""

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from statistics import variance

from core.errors import PlanError
from core.reason import Reason, says
from core.reference.values import SMALLEST_REAL_CHANGE, TRIES_FREEDOM

_FEW_TRIES = says("few_tries", "too few tries to know their spread")
_ALIKE = says("tries_alike", "all tries are the same: their spread is not known")
_OTHER_DEVICE = says("other_device", "another device: levels do not compare")
_OTHER_SCALE = says("other_scale", "another scale: scores do not compare")


@dataclass(frozen=True, slots=True, kw_only=True)
class BaselineFigure:
    """One figure of one baseline, in the unit of its code.

    sd: spread of its tries, freedom: how many tries beyond the first it rests on (0 = a value that
    was taken once); device: what took a level, "" for what any device gives alike; scale: of a score.
    """

    code: str
    value: float
    sd: float = 0.0
    freedom: int = 0
    device: str = ""
    scale: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class BaselineChange:
    """A figure of the latest baseline against the first.

    smallest: the smallest change that is more than the spread of the tries; real: whether it is
    more, None = it cannot be told, and `why`.
    """

    code: str
    before: float
    now: float
    smallest: float | None = None
    real: bool | None = None
    why: Reason | None = None

    @property
    def by(self) -> float:
        """How much it changed, positive = more than at the first baseline."""
        return self.now - self.before


def of_tries(
    code: str, tries: Sequence[float], take: Callable = max, device: str = ""
) -> BaselineFigure:
    """The best of some tries (or what `take` takes) with their spread; PlanError("attempts_missing")
    for none."""
    if not tries:
        raise PlanError("attempts_missing")
    freedom = len(tries) - 1
    sd = math.sqrt(variance(tries)) if freedom else 0.0
    return BaselineFigure(code=code, value=take(tries), sd=sd, freedom=freedom, device=device)


def ratio_of(code: str, value: float, parts: Sequence[BaselineFigure]) -> BaselineFigure:
    """A ratio of figures with the spread theirs give it, to first order (relative variances add).
    It rests on the part with the fewest tries."""
    relative = math.sqrt(sum((part.sd / part.value) ** 2 for part in parts))
    freedom = min(part.freedom for part in parts)
    return BaselineFigure(code=code, value=value, sd=value * relative, freedom=freedom)


def baseline_changes(
    first: Iterable[BaselineFigure], latest: Iterable[BaselineFigure]
) -> list[BaselineChange]:
    """Every figure that both baselines have, in the order of the first.

    Smallest real change: 1.96 · √2 · SD, J Strength Cond Res 2005;19:231–240, with the SD of the
    tries of both, each around its own mean; with fewer than two tries beyond the first of each it
    is not told.
    """
    now = {figure.code: figure for figure in latest}
    return [_compared(one, now[one.code]) for one in first if one.code in now]


def _compared(first: BaselineFigure, latest: BaselineFigure) -> BaselineChange:
    bare = BaselineChange(code=first.code, before=first.value, now=latest.value, why=_FEW_TRIES())
    if first.device != latest.device:
        return _because(bare, _OTHER_DEVICE())
    if first.scale.casefold() != latest.scale.casefold():
        return _because(bare, _OTHER_SCALE())
    freedom = first.freedom + latest.freedom
    if freedom < TRIES_FREEDOM.number:
        return bare
    squares = first.freedom * first.sd**2 + latest.freedom * latest.sd**2
    if not squares:
        return _because(bare, _ALIKE())
    smallest = SMALLEST_REAL_CHANGE.number * math.sqrt(squares / freedom)
    return BaselineChange(
        code=bare.code,
        before=bare.before,
        now=bare.now,
        smallest=smallest,
        real=abs(bare.by) > smallest,
    )


def _because(bare: BaselineChange, why: Reason) -> BaselineChange:
    return BaselineChange(code=bare.code, before=bare.before, now=bare.now, why=why)
