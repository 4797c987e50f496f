"""Where an attempt ends: each purpose gives one `End`; measuring knows neither practice nor baseline."""

from dataclasses import dataclass, field
from typing import Any, Protocol

from core.kinds.aim import AttemptTarget
from core.kinds.level.aim import LevelTarget
from core.sound.figures import Figures
from core.sound.recording import Recording
from web.measuring.tickets import Ticket


class Refused(Exception):
    """An attempt that may not be taken: socket close code and HTTP status in one, with words."""

    def __init__(self, close: int, status: int, code: str, words: str) -> None:
        self.close, self.status, self.code, self.words = close, status, code, words
        super().__init__(code)


@dataclass(frozen=True, slots=True, kw_only=True)
class AttemptOffer:
    """What the page says about an attempt before or with its sound."""

    attempt_id: str
    step_id: str
    place: int = 0
    repetition: int = 1
    input: str = "microphone"
    device: dict[str, Any] = field(default_factory=dict)
    elapsed_ms: int | None = None
    device_time: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Permit:
    """How to measure an attempt that may be taken; task None = only timed or counted.
    `set_aside`: a reason to quarantine it; `rests`: words why nothing new is to be begun, where that
    was found out meanwhile (what was done before is kept all the same). strong: strength is asked
    for, so nothing is said of softness; level: what it is compared with on this device.
    slides: the semitone numbers a slide goes from and to.
    heard: its sound may be kept to be judged by ear, so it is held until the attempt is."""

    task: str | None
    target: AttemptTarget | None
    a4_hz: float
    target_s: float | None = None
    slides: tuple[int, ...] = ()
    for_client: bool = True
    set_aside: str | None = None
    rests: str | None = None
    strong: bool = False
    level: LevelTarget | None = None
    heard: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class AttemptTaken:
    """What came of an attempt: figures, or seconds of a stopwatch with what the client counted, or an
    interruption. sound: only where the permit says that it may be heard."""

    taken: str
    sha256: str
    figures: Figures | None = None
    seconds: float | None = None
    count: int | None = None
    interrupted: bool = False
    sound: Recording | None = None


@dataclass(frozen=True, slots=True)
class SaveAnswer:
    """The answer to the page: status "kept", "again", "differs" or "set_aside"."""

    status: str
    attempt_id: str


class AttemptSink(Protocol):
    def permit(self, ticket: Ticket, offer: AttemptOffer) -> Permit:
        """Whether this attempt may be taken; raises Refused."""

    def keep(
        self, ticket: Ticket, offer: AttemptOffer, permit: Permit, caught: AttemptTaken, now
    ) -> SaveAnswer:
        """Keep it in one transaction; harmless when repeated."""
