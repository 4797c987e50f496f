"""The page of one attempt: its contour, what was found, and its ends moved by hand."""

from dataclasses import dataclass

from core.notes.note import Note
from web.clients.baseline.measured import level_reference
from web.measuring.measurement_page import MeasurementShown, shown
from web.practice.models import Attempt, Correction


@dataclass(frozen=True)
class AttemptPage:
    """What the page shows; `shown` None where only a stopwatch ran; `corrections` newest first."""

    attempt: Attempt
    shown: MeasurementShown | None
    corrections: list[Correction]

    @property
    def corrected_s(self) -> float | None:
        return self.corrections[0].hold_s if self.corrections else None


def attempt_page(attempt: Attempt, *, editable: bool = True) -> AttemptPage:
    """Read an attempt with its measurement, contour and corrections."""
    corrections = list(attempt.corrections.select_related("by").order_by("-at"))
    row = attempt.measurement
    seen = None
    if row:
        seen = shown(
            row,
            target=Note.named(attempt.note) if attempt.note else None,
            a4_hz=attempt.version.program.a4_hz,
            moved_s=(corrections[0].onset_s, corrections[0].offset_s) if corrections else None,
            editable=editable,
            reference=level_reference(attempt.client_id, row.device_name),
        )
    return AttemptPage(attempt, seen, corrections)
