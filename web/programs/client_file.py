"""The client's file with program and safety gate. Each part is read once."""

from collections.abc import Mapping
from functools import cached_property

from core.catalogue.tasks import Task
from core.catalogue.touches import Touch
from core.program.program import Program
from core.safety.gate import Gate, Occasion
from core.safety.inferred import before_restart
from core.safety.program_gate import doings_of, program_gate
from core.safety.screening import Screening
from web.clients.intake.intake_file import IntakeFile
from web.clinic.clock import local_date
from web.library.queries import catalogue_of
from web.programs.models import Draft, ProgramVersion, TriedTask
from web.programs.queries import active_version, tried_tasks, versions_of


class ClientFile(IntakeFile):
    """The record of one client on one day: intake, program and gate."""

    @cached_property
    def tasks(self) -> Mapping[str, Task]:
        """The clinic's catalogue by key."""
        return catalogue_of(self.client.clinic)

    @cached_property
    def versions(self) -> list[ProgramVersion]:
        """Every version of the program, oldest first."""
        return versions_of(self.client)

    @cached_property
    def version(self) -> ProgramVersion | None:
        """The version in force; None before the first activation."""
        if "versions" in self.__dict__:
            return self.versions[-1] if self.versions else None
        return active_version(self.client.pk)

    @property
    def program(self) -> Program | None:
        """The program in force; None before the first activation."""
        return self.version.program if self.version else None

    @cached_property
    def draft(self) -> Draft | None:
        return Draft.objects.filter(client=self.client).first()

    @cached_property
    def tried(self) -> Mapping[str, TriedTask]:
        """The latest trial of each task in a visit."""
        return tried_tasks(self.client.pk)

    def gate_of(self, program: Program | None) -> Gate:
        """Whether this program may become active today."""
        does = doings_of(program, self.tasks) if program else ()
        return program_gate(self.screening, does, self.today, self._activation())

    @cached_property
    def running_gate(self) -> Gate:
        """Whether the program in force may be practiced today."""
        return self.running_gate_of(self.version)

    def running_gate_of(self, version: ProgramVersion | None) -> Gate:
        """Whether an activated version may be practiced today."""
        return program_gate(
            self.running_screening_of(version),
            doings_of(version.program, self.tasks) if version else (),
            self.today,
            self._occasion(
                first=False, imported=version is not None and version.imported, strong_runs=True
            ),
        )

    def running_screening_of(self, version: ProgramVersion | None) -> Screening | None:
        """What holds of the screening for a version that runs (`before_restart`)."""
        screening = self.screening
        if screening is None or version is None or screening.usual_voice_reported is None:
            return screening
        rungs = [step.grade.rung for step in version.program.all_steps if step.grade]
        activated_on = local_date(version.activated_at, self.client.time_zone)
        return before_restart(screening, activated_on=activated_on, rungs=rungs)

    def _activation(self) -> Occasion:
        """The occasion of an activation today: a first one, or one after a red flag newer than the version in force."""
        version, screening = self.version, self.screening
        if version is None or version.imported:
            return self._occasion(first=True)
        activated = local_date(version.activated_at, self.client.time_zone)
        flags = screening.red_flags if screening else ()
        if screening and any(screening.noted(flag) >= activated for flag in flags):
            return self._occasion(first=True)
        does = doings_of(version.program)
        return self._occasion(
            first=False, strong_runs=any(Touch.LOUDNESS in d.touches for d in does)
        )

    def _occasion(
        self, *, first: bool, imported: bool = False, strong_runs: bool = False
    ) -> Occasion:
        """An occasion with the clinic's settings."""
        clinic = self.client.clinic
        return Occasion(
            first=first,
            strong_runs=strong_runs,
            reachable=bool(clinic.telephone.strip()),
            taken_in=imported,
            always_examined=clinic.always_examined,
            hoarse_weeks=clinic.hoarse_weeks,
            examination_days=clinic.examination_days,
        )
