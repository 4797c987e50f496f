"""What a kind of measured task is asked for."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Protocol

from core.kinds.aim import AttemptTarget
from core.kinds.finding import Finding
from core.kinds.in_session import InSession
from core.kinds.settings import LIVE
from core.sound.figures import Figures
from core.sound.kernel import Frames
from core.sound.settings.held import HELD
from core.sound.task_figures import TaskFigures


@dataclass(frozen=True, slots=True, kw_only=True)
class Newest:
    """The newest frames of a live attempt: level in dBFS, whether it stands 35 dB under the peak or
    higher, the pitch where one is likely (Hz)."""

    frames: Frames
    levels_db: list[float]
    loud: list[bool]
    known_hz: list[float | None]

    @property
    def voiced(self) -> list[bool]:
        return [f0_hz is not None for f0_hz in self.known_hz]


class Follower(Protocol):
    """What a kind remembers of a live attempt from piece to piece."""

    def heard(self, newest: Newest) -> list[bool]:
        """Whether each frame sounds like the task's own sound."""

    def bubbles(self, newest: Newest, start_s: float) -> tuple[float, ...]:
        """Times (s) at which bubbles rose; none where nothing bubbles."""


class HearsVoice:
    """The task's own sound is voice, whatever is aimed at."""

    def __init__(self, _aim: AttemptTarget | None = None) -> None:
        pass

    def heard(self, newest: Newest) -> list[bool]:
        return newest.voiced

    def bubbles(self, newest: Newest, start_s: float) -> tuple[float, ...]:
        return ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Live:
    """How an attempt is followed: after how long of something else it has ended, and how long its
    own sound may pause, s; said_after_s: after how long a pause something that was said is over, where it
    is said line by line."""

    follower: Callable[[AttemptTarget | None], Follower] = HearsVoice
    ended_after_s: float = LIVE.ended_after_s
    longest_pause_s: float = HELD.longest_gap_s
    said_after_s: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """One kind of measured task.

    name: how tasks, files and the page call it; read_aim: a target from its text; measured: all
    frames, target and concert pitch (Hz) to figures; live: how it is followed; findings: what the
    figures say, in order of weight; own: its figures beyond those of every sound; in_session: what its
    attempts in one home session come to; course: the code of the figure that is followed from session
    to session; voiced: whether its sound is voice, so that only what a voice loses is a loss; held:
    whether it is one sound, held from its start to its end.
    forms: the forms of a step's target (`Asks.form`) that a task of this kind takes; within: other
    kinds whose tasks take these forms too and are then measured as this kind.
    fitted: the fitter of a task that no school sets (`core.fitting.fitters`); fitted_in: where a
    family (A–K) has its own.
    settings: what its detectors work with, by the module in its folder.
    """

    name: str
    read_aim: Callable[[str], AttemptTarget | None]
    measured: Callable[[Frames, AttemptTarget | None, float], Figures]
    findings: Callable[[Figures], list[Finding]]
    own: type[TaskFigures] | None
    in_session: InSession
    course: str
    forms: tuple[str, ...]
    fitted: str
    within: tuple[str, ...] = ()
    fitted_in: Mapping[str, str] = field(default_factory=dict)
    live: Live = field(default_factory=Live)
    voiced: bool = True
    held: bool = True
    settings: Mapping[str, Any] = field(default_factory=dict)
