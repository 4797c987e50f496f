"""The practice of a demo client up to today: home sessions, climbs, what was heard in them."""

import zoneinfo
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from functools import partial

from core.dose.calendar import asked_on
from core.editing.change_rung import on_rung
from core.notes.range import VoiceGroup
from lab.demo.people import Person
from lab.demo.perform_take import Take
from lab.demo.recordings import save_recordings
from lab.demo.save_session import save_session
from lab.demo.simulated_steps import PlannedAttempt, Player, next_rung, planned_attempts, takes_of
from lab.demo.takes import Takes
from lab.simulate.history import PlayedSession, Profile, SimulatedCourse, sessions_of
from web.clients.models import Client, ClientAccess
from web.clinic.clock import local_date
from web.clinic.models import User
from web.programs.client_file import ClientFile
from web.programs.models import Draft, ProgramVersion
from web.programs.usecases import drafts, versions

DAYS_BETWEEN_CLIMBS = 8
AGREED = "Agreed with the treating physician; looked at again at the next visit."
INPUT = "simulated voice"


@dataclass(frozen=True, slots=True, kw_only=True)
class DemoPractice:
    """Whose practice, and what it is performed with; begin: the day the program was given."""

    client: Client
    person: Person
    by: User
    access: ClientAccess
    profile: Profile
    takes: Takes
    begin: date


@dataclass(frozen=True, slots=True, kw_only=True)
class DemoSession:
    """One home session before it is performed; last: the newest of its routine, whose contours
    are kept."""

    at: datetime
    played: PlayedSession
    version: ProgramVersion
    routine: str
    planned: Sequence[PlannedAttempt]
    last: bool = False

    @property
    def takes(self) -> list[Take]:
        return takes_of(self.planned, contour=self.last)


def simulate(practice: DemoPractice, version: ProgramVersion, now: datetime) -> None:
    """Keep every home session up to `now`, with the climbs between them."""
    program = version.program
    player = Player(
        profile=practice.profile,
        size="man" if practice.person.group == VoiceGroup.MEN else "woman",
        a4_hz=program.a4_hz,
    )
    talk = None
    if any(step.level for step in program.steps):
        talk = player.usual_talk(practice.profile.seed)
        (heard,) = practice.takes.figures([talk])
        player = player.against(heard.level_mean_db)
    sittings = _sittings(practice, version, player, talk, now)
    practice.takes.perform([take for sitting in sittings for take in sitting.takes])
    for sitting in sittings:
        _keep(practice, sitting)


def _sittings(
    practice: DemoPractice,
    version: ProgramVersion,
    player: Player,
    talk: Take | None,
    now: datetime,
) -> list[DemoSession]:
    zone = zoneinfo.ZoneInfo(practice.client.time_zone)
    climbed, sittings = practice.begin, []
    for key, played in _played(practice, version):
        at = datetime.combine(played.day, time(0), zone) + timedelta(minutes=played.minute)
        if at > now:
            continue
        weeks_in = (played.day - practice.begin).days / 7
        if (played.day - climbed).days >= DAYS_BETWEEN_CLIMBS and (
            higher := _climbed(practice, version, weeks_in, at)
        ):
            version, climbed = higher, played.day
        routine = version.program.routine(key)
        strong = any(step.level for step in routine.steps)
        planned = planned_attempts(
            routine, player, seed=played.seed, weeks_in=weeks_in, talk=talk if strong else None
        )
        sittings.append(
            DemoSession(at=at, played=played, version=version, routine=key, planned=planned)
        )
        talk = None if strong else talk
    newest = {sitting.routine: sitting.at for sitting in sittings}
    return [replace(one, last=newest[one.routine] == one.at) for one in sittings]


def _played(practice: DemoPractice, version: ProgramVersion) -> list[tuple[str, PlayedSession]]:
    """The home sessions of every routine by its key, in the order of the days."""
    played = [
        (routine.key, session)
        for place, routine in enumerate(version.program.routines)
        for session in sessions_of(
            replace(practice.profile, seed=practice.profile.seed + 100 * place),
            first=practice.begin,
            days=7 * practice.person.weeks + 1,
            asked=partial(asked_on, routine.dose, practice.begin),
        )
    ]
    return sorted(played, key=lambda one: (one[1].day, one[1].minute))


def _climbed(
    practice: DemoPractice, version: ProgramVersion, weeks_in: float, at: datetime
) -> ProgramVersion | None:
    """The version one rung up, where this client's course and ability lead there."""
    profile = practice.profile
    able_s = profile.start_s + profile.gain_s_a_week * weeks_in
    higher = next_rung(version.program)
    climbs = practice.person.course in (SimulatedCourse.IMPROVING, SimulatedCourse.OVER_KEEN)
    if not climbs or higher is None or able_s < higher.seconds:
        return None
    draft = drafts.edit_draft(
        practice.client,
        revision=Draft.objects.get(client=practice.client).revision,
        change=partial(on_rung, step_id=higher.step_id, rung=higher.rung),
        by=practice.by,
        now=at,
    )
    return activated(practice.client, draft, practice.by, at)


def activated(client: Client, draft: Draft, by: User, at: datetime) -> ProgramVersion:
    """The draft as given home that day, with a written reason where the gate asks for one."""
    gate = ClientFile(client, local_date(at, client.time_zone)).gate_of(draft.program)
    return versions.activate(
        client,
        revision=draft.revision,
        written_reason=AGREED if gate.needs_reason else "",
        by=by,
        now=at,
        active_from=at.date(),
    )


def _keep(practice: DemoPractice, sitting: DemoSession) -> None:
    heard = practice.takes.figures(sitting.takes)
    figures = iter(heard)
    session = save_session(
        practice.client,
        sitting.version,
        routine=sitting.routine,
        access=practice.access,
        started_at=sitting.at,
        attempts=[one.done(next(figures) if one.take else None) for one in sitting.planned],
        strain=sitting.played.strain,
        stop_sign="light_headed" if sitting.played.stopped else "",
        input_name=INPUT,
        measured_by=f"kernel {practice.takes.kernel}",
    )
    if sitting.last and practice.person.heard:
        save_recordings(session, sitting.planned, heard, now=sitting.at)
