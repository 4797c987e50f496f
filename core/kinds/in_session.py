"""What the attempts of one step in one home session come to: each kind says its own in `in_session`."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from statistics import mean, median

from core.figures.kind import FigureKind
from core.figures.registry import FIGURES
from core.kinds.aim import AttemptTarget
from core.reason import Reason, says
from core.sound.figures import Figures

_BY_CLOCK = says("by_the_clock", "timed by the stopwatch: no sound was measured")
_INTERRUPTED = says("interrupted", "interrupted")
_NOT_KNOWN = says("figure_not_known", "not known of any of these attempts")
_NO_REFERENCE = says("no_reference", "no reference level is known on this device")


@dataclass(frozen=True, slots=True, kw_only=True)
class TriedAttempt:
    """One attempt of a step in a home session.

    place: which of the step's notes, keys or pieces it is of, from 0; note: the one asked for, ""
    for none; aim: the measured target; seconds: held, by whatever timed it, None = not measurable
    or interrupted; target_s: asked for, s; figures: None where no sound was measured; over_db: its
    level over the reference it is compared with on this device, dB; aimed_db: what was aimed at over
    that reference, None = no strength is asked for; beat_s: seconds of a beat where it is paced;
    ends: numbers of the notes a glide goes from and to; count, count_asked: of what is counted.
    """

    place: int
    note: str = ""
    aim: AttemptTarget | None = None
    seconds: float | None
    target_s: float
    figures: Figures | None = None
    over_db: float | None = None
    aimed_db: float | None = None
    beat_s: float | None = None
    ends: tuple[int, ...] = ()
    interrupted: bool = False
    count: int | None = None
    count_asked: int | None = None

    @property
    def known(self) -> Figures | None:
        """Its figures where something was heard."""
        return self.figures if self.figures is not None and self.figures.hold_s else None


@dataclass(frozen=True, slots=True, kw_only=True)
class SessionFigure:
    """One figure of a step in a home session. of: the note or key it is of, "" = of all; why: why
    it is not known, where value is None. A figure that is not known is None, never 0."""

    code: str
    value: float | None
    of: str = ""
    why: Reason | None = field(default=None)

    @property
    def kind(self) -> FigureKind:
        return FIGURES[self.code]


InSession = Callable[[Sequence[TriedAttempt]], tuple[SessionFigure, ...]]
Of = Callable[[TriedAttempt], float | None]


def by_place(tries: Iterable[TriedAttempt]) -> dict[int, list[TriedAttempt]]:
    """The attempts of each place, in the order of the places."""
    found: dict[int, list[TriedAttempt]] = {}
    for tried in sorted(tries, key=lambda one: one.place):
        found.setdefault(tried.place, []).append(tried)
    return found


def figure(
    code: str, tries: Sequence[TriedAttempt], of: Of, take: Callable = median
) -> SessionFigure:
    """The middle (or what `take` takes) of a figure over the attempts in which it is known; where it
    is known of none, None with the reason."""
    known = [value for tried in tries if (value := of(tried)) is not None]
    if known:
        return SessionFigure(code=code, value=float(take(known)))
    return SessionFigure(code=code, value=None, why=why_unknown(tries))


def why_unknown(tries: Sequence[TriedAttempt]) -> Reason:
    """Why nothing of these attempts is known: interrupted, by the clock, or what was wrong with the
    sound."""
    if tries and all(tried.interrupted for tried in tries):
        return _INTERRUPTED()
    if all(tried.figures is None for tried in tries):
        return _BY_CLOCK()
    said = [why for t in tries if t.figures for why in t.figures.quality.reasons]
    return said[0] if said else _NOT_KNOWN()


def of_figures(name: str) -> Of:
    """A figure of the sound by its name; of what was heard only."""
    return lambda tried: getattr(tried.known, name) if tried.known else None


def level_over(tries: Sequence[TriedAttempt], code: str = "over_db") -> SessionFigure:
    """The middle level over its reference, dB; without a reference it says so."""
    found = figure(code, tries, lambda tried: tried.over_db)
    heard = any(tried.known and tried.known.level_mean_db is not None for tried in tries)
    if found.value is None and heard:
        return SessionFigure(code=code, value=None, why=_NO_REFERENCE())
    return found


def seconds_held(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """best_s and mean_s over all attempts, s, and share: the best against what was asked for, %."""
    return (
        figure("best_s", tries, _held, max),
        figure("mean_s", tries, _held, mean),
        figure("share", tries, share_of_target, max),
    )


def _held(tried: TriedAttempt) -> float | None:
    return tried.seconds


def share_of_target(tried: TriedAttempt) -> float | None:
    """Of what was asked for, %."""
    return None if tried.seconds is None else 100 * tried.seconds / tried.target_s


def breaks(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """gaps and jumps of all attempts together."""
    return (
        figure("gaps", tries, lambda tried: _breaks(tried, "gap"), sum),
        figure("jumps", tries, lambda tried: _breaks(tried, "jump"), sum),
    )


def _breaks(tried: TriedAttempt, kind: str) -> float | None:
    known = tried.known
    return None if known is None else sum(one.kind == kind for one in known.breaks)


def share_that(
    code: str, tries: Sequence[TriedAttempt], meets: Callable[[TriedAttempt], bool | None]
) -> SessionFigure:
    """How many of the attempts meet something, % of those of which that is known."""

    def counted(tried: TriedAttempt) -> float | None:
        found = meets(tried)
        return None if found is None else 100.0 * found

    return figure(code, tries, counted, mean)
