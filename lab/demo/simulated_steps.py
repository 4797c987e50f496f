"""What was done in one home session of the demo, step by step, by a simulated ability."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from core.catalogue.words import Growth
from core.program.asked import asked_of
from core.program.program import Program
from core.program.routine import Routine
from core.program.step import Step
from core.program.targets import Asked, Join
from core.sound.figures import Figures
from lab.demo.perform_take import Take
from lab.demo.save_session import WholeAttempt
from lab.simulate.history import PlayedHold, Profile, hold_on
from web.practice.player.step_words import USUAL_TALK_S

_OFF_DAY_CENTS = 15
_EVEN = PlayedHold(
    seconds=USUAL_TALK_S, cents=0.0, pitch_sd_semitones=0.3, level_db=-30.0, trail_off_db=-2.0
)


@dataclass(frozen=True, slots=True)
class NextRung:
    """The rung above the present one of a step, and the seconds it asks for."""

    step_id: str
    rung: int
    seconds: float


def next_rung(program: Program) -> NextRung | None:
    """The next rung of the held notes, or else of the first step that has one; None at the goal.

    Its seconds are what the client must be able to hold: 0 for rungs that are no seconds.
    """
    main = program.main_step
    graded = [step for step in (main, *program.steps) if step and step.grade]
    for step in graded:
        grade = step.grade
        if grade is None or grade.rung + 1 >= len(grade.rungs):
            continue
        held = step is main and grade.growth is Growth.SECONDS
        seconds = grade.rungs[grade.rung + 1] if held else 0.0
        return NextRung(step.step_id, grade.rung + 1, seconds)
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Player:
    """Who plays, as the simulators know them; reference_db: usual talk at home as measured, dBFS,
    None = no strong work."""

    profile: Profile
    size: str
    a4_hz: float
    reference_db: float | None = None

    def against(self, reference_db: float | None) -> "Player":
        """The same player, strong work compared with usual talk of that level, dBFS."""
        return replace(self, reference_db=reference_db)

    def usual_talk(self, seed: int) -> Take:
        """Usual talk, asked for before the first strong work on a device."""
        asked = Asked(seconds=USUAL_TALK_S)
        return Take(
            task="level",
            asked=asked,
            held=_EVEN,
            seed=seed,
            a4_hz=self.a4_hz,
            size=self.size,
            contour=True,
        )

    def take(self, step: Step, place: int, held: PlayedHold, seed: int) -> Take | None:
        """How one attempt is performed; None for what is not measured."""
        task = step.measured
        if task is None:
            return None
        speaks = task == "level"
        return Take(
            task=task,
            asked=asked_of(step, place),
            held=held,
            seed=seed,
            a4_hz=self.a4_hz,
            size=self.size,
            strong=step.level is not None,
            over_db=step.level.over_db if speaks and step.level else None,
            reference_db=self.reference_db if speaks else None,
            hiss_s=step.target.hiss_s if isinstance(step.target, Join) else 0.0,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedAttempt:
    """One attempt before it is performed; take None = it is timed or counted by the client."""

    attempt: WholeAttempt
    take: Take | None = None

    def done(self, figures: Figures | None) -> WholeAttempt:
        return replace(self.attempt, figures=figures)


def planned_attempts(
    routine: Routine, player: Player, *, seed: int, weeks_in: float, talk: Take | None
) -> list[PlannedAttempt]:
    """Every attempt of one home session of a routine in order; `talk`: usual talk before it."""
    planned: list[PlannedAttempt] = []
    after_s = 0.0
    if talk is not None:
        attempt = WholeAttempt(step=None, place=0, repetition=1, figures=None, after_s=after_s)
        planned.append(PlannedAttempt(attempt=attempt, take=talk))
        after_s += 30.0
    count = 0
    for step in routine.steps:
        for repetition in range(1, step.repetitions + 1):
            for place in range(step.target.attempts):
                asked = asked_of(step, place)
                held = hold_on(
                    player.profile,
                    session_seed=seed,
                    place=count,
                    weeks_in=weeks_in,
                    target_s=asked.seconds,
                )
                count += 1
                attempt = WholeAttempt(
                    step=step, place=place, repetition=repetition, figures=None, after_s=after_s
                )
                take = player.take(step, place, held, (seed + 7919 * count) % 2**31)
                if take is None:
                    attempt = _counted(attempt, asked, held)
                planned.append(PlannedAttempt(attempt=attempt, take=take))
                after_s += asked.seconds + 20.0
    return planned


def _counted(attempt: WholeAttempt, asked: Asked, held: PlayedHold) -> WholeAttempt:
    share = 0.8 if abs(held.cents) > _OFF_DAY_CENTS else 1.0
    count = None if asked.count is None else round(asked.count * share)
    return replace(attempt, seconds=round(asked.seconds, 1), count=count)


def takes_of(planned: Sequence[PlannedAttempt], *, contour: bool) -> list[Take]:
    """The takes of these attempts; `contour`: whether their contours are kept."""
    own = [one.take for one in planned if one.take is not None]
    return [replace(take, contour=True) for take in own] if contour else own
