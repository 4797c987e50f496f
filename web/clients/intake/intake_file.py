"""The intake part of a client's file: screening and baseline. Each part is read once."""

from datetime import date
from functools import cached_property
from typing import Self

from core.catalogue.touches import Touch
from core.safety.circumstances import Living
from core.safety.condition import Condition
from core.safety.conditions import allows, known_conditions
from core.safety.inferred import inferred, with_reports
from core.safety.screening import Screening
from web.clients.baseline.measured import MeasuredView
from web.clients.baseline.view import BaselineView
from web.clients.intake.screenings import combined, living_of, screenings_of, voice_reports
from web.clients.models import Client, StoredScreening
from web.clinic import clock
from web.clinic.clock import local_date


class IntakeFile:
    """Screening and baseline of one client on one day.

    Each part is read from the database once, when it is first asked for. A file does not see what is
    written after it was read, so a use-case makes its own once it has locked the client.
    """

    def __init__(self, client: Client, today: date) -> None:
        self.client = client
        self.today = today

    @classmethod
    def now(cls, client: Client) -> Self:
        """The file for today in the client's time zone."""
        return cls(client, local_date(clock.now(), client.time_zone))

    @property
    def age_years(self) -> int:
        return self.client.age_on(self.today)

    @cached_property
    def screenings(self) -> list[StoredScreening]:
        """Every recorded screening, oldest first."""
        return screenings_of(self.client)

    @property
    def latest_screening(self) -> StoredScreening | None:
        return self.screenings[-1] if self.screenings else None

    @cached_property
    def screening(self) -> Screening | None:
        """The screening in force, from all screenings and the reports from home; None if the client was never
        screened."""
        found = combined(self.screenings, age_years=self.age_years)
        if found is None or Condition.ACUTE_LARYNGITIS not in inferred(found, self.today):
            return found
        return with_reports(found, self.today, self.voice_reports)

    @cached_property
    def voice_reports(self) -> dict[date, bool]:
        """What the client reported from home: by day, whether the voice was as usual."""
        return voice_reports(self.client)

    @cached_property
    def living(self) -> Living:
        """The client's living circumstances, from the latest screening."""
        return living_of(self.latest_screening)

    @property
    def tone_unheard(self) -> bool:
        """Whether the reference tone was tried in the clinic last and not heard."""
        tried = [row.tone_heard for row in self.screenings if row.tone_heard is not None]
        return bool(tried) and tried[-1] is False

    @cached_property
    def conditions(self) -> frozenset[Condition]:
        """Every condition that is known or follows from the screening today."""
        return known_conditions(self.screening, self.today) if self.screening else frozenset()

    @cached_property
    def allowed(self) -> frozenset[Touch]:
        """What the screening allows the client to do; nothing without a screening."""
        if self.screening is None:
            return frozenset()
        return frozenset(touch for touch in Touch if allows(self.conditions, touch))

    @cached_property
    def baselines(self) -> tuple[BaselineView, ...]:
        """The first and the latest recorded baseline: two, one or none."""
        return BaselineView.first_and_latest(self.client, self.age_years)

    @cached_property
    def baseline(self) -> BaselineView | None:
        """The latest recorded baseline."""
        return BaselineView.latest(self.client, self.age_years)

    @cached_property
    def measured(self) -> list[MeasuredView]:
        """The first and the latest baseline with what was measured in them."""
        return [MeasuredView(view, self.client.clinic.a4_hz) for view in self.baselines]
