"""What the measured attempts of a baseline say beyond seconds: habitual pitch, range, level."""

from dataclasses import dataclass
from functools import cached_property

from core.errors import NoteError
from core.kinds.level.figures import SpeechFigures
from core.kinds.registry import read_task_figures
from core.notes.note import Note, nearest_note, semitone_of
from core.sound.calibration import LevelReference
from web.clients.baseline.view import BaselineView
from web.clients.models import Baseline, BaselineAttempt, Measure
from web.measuring.models import DeviceReference, Measurement

GLIDES = (Measure.GLIDE_UP, Measure.GLIDE_DOWN)


@dataclass(frozen=True, slots=True, kw_only=True)
class HabitualPitch:
    """Pitch of connected speech in Hz: median and commonest, and the note of the median."""

    median_hz: float
    mode_hz: float | None
    note: Note


class MeasuredView:
    """The figures of a baseline's counted attempts; None where nothing was measured."""

    def __init__(self, view: BaselineView, a4_hz: float) -> None:
        self.view, self._a4_hz = view, a4_hz

    def _rows(self, *measures: str) -> list[Measurement]:
        return [
            row.measurement
            for row in self.view.attempts
            if row.measure in measures and row.measurement and not hasattr(row, "struck_out")
        ]

    @cached_property
    def opened(self) -> list[BaselineAttempt]:
        """Counted attempts that have a measurement to open, in order of the visit."""
        rows = [r for r in self.view.attempts if r.measurement and not hasattr(r, "struck_out")]
        order = list(Measure.values)
        return sorted(rows, key=lambda row: (order.index(row.measure), row.at))

    @property
    def _spoken(self) -> list[Measurement]:
        """Connected speech with a pitch, conversation after reading."""
        rows = self._rows(Measure.READING) + self._rows(Measure.CONVERSATION)
        return [row for row in rows if row.f0_median_hz]

    @property
    def spoken_semitones(self) -> list[float]:
        """Median pitch of each piece of connected speech as the number of a note, conversation after
        reading."""
        return [semitone_of(row.f0_median_hz or 0.0, self._a4_hz) for row in self._spoken]

    @cached_property
    def habitual(self) -> HabitualPitch | None:
        """From the newest connected speech: conversation before reading."""
        row = self._spoken[-1] if self._spoken else None
        if row is None or row.f0_median_hz is None:
            return None
        own = read_task_figures(row.own)
        try:
            note, _cents = nearest_note(row.f0_median_hz, self._a4_hz)
        except NoteError:
            return None
        mode = own.mode_hz if isinstance(own, SpeechFigures) else None
        return HabitualPitch(median_hz=row.f0_median_hz, mode_hz=mode, note=note)

    @cached_property
    def reading(self) -> SpeechFigures | None:
        rows = self._rows(Measure.READING)
        own = read_task_figures(rows[-1].own) if rows else None
        return own if isinstance(own, SpeechFigures) else None

    @cached_property
    def glided(self) -> tuple[Note, Note] | None:
        """Lowest and highest whole note inside what the glides reached."""
        rows = [row for row in self._rows(*GLIDES) if row.glide_low_hz and row.glide_high_hz]
        if not rows:
            return None
        try:
            low, low_cents = nearest_note(min(r.glide_low_hz or 0 for r in rows), self._a4_hz)
            high, high_cents = nearest_note(max(r.glide_high_hz or 0 for r in rows), self._a4_hz)
            lowest = low if low_cents < _NEAR_CENTS else low.up(1)
            highest = high if high_cents > -_NEAR_CENTS else high.up(-1)
        except NoteError:
            return None
        return (lowest, highest) if lowest < highest else None

    @property
    def glide_ends_semitones(self) -> tuple[list[float], list[float]]:
        """Lowest and highest pitch that each glide reached, as numbers of notes."""
        rows = self._rows(*GLIDES)
        return (
            [semitone_of(row.glide_low_hz, self._a4_hz) for row in rows if row.glide_low_hz],
            [semitone_of(row.glide_high_hz, self._a4_hz) for row in rows if row.glide_high_hz],
        )

    @cached_property
    def conversation(self) -> Measurement | None:
        """The newest conversation whose level was kept."""
        rows = [row for row in self._rows(Measure.CONVERSATION) if row.level_mean_db is not None]
        return rows[-1] if rows else None

    @cached_property
    def conversations_db(self) -> tuple[list[float], str]:
        """Levels of every conversation on the device of the newest, and that device: dBFS; where a
        meter's reading makes them dB at 30 cm, which any device gives alike, "" for the device."""
        if self.conversation is None:
            return [], ""
        device, reference = self.conversation.device_name, self.conversation_reference
        rows = [row for row in self._rows(Measure.CONVERSATION) if row.device_name == device]
        levels = [level for row in rows if (level := row.level_mean_db) is not None]
        at_30_cm = [reference.at_30_cm_db(level) for level in levels] if reference else []
        known = [level for level in at_30_cm if level is not None]
        return (known, "") if known else (levels, device)

    @cached_property
    def strong_over_db(self) -> float | None:
        """The strongest counted "ah" over the newest conversation on its device, dB."""
        found = []
        for row in self._rows(Measure.STRONG):
            talk = conversation_dbfs(self.view.baseline, row.device_name)
            if talk is not None and row.level_mean_db is not None:
                found.append(row.level_mean_db - talk)
        return round(max(found), 1) if found else None

    @cached_property
    def conversation_reference(self) -> LevelReference | None:
        row = self.conversation
        return level_reference(row.client_id, row.device_name) if row else None

    @cached_property
    def conversation_30_cm_db(self) -> float | None:
        """Conversational level in dB at 30 cm; None on a device without a meter's reading."""
        row, reference = self.conversation, self.conversation_reference
        if row is None or row.level_mean_db is None or reference is None:
            return None
        return reference.at_30_cm_db(row.level_mean_db)

    @cached_property
    def reference_attempt(self) -> BaselineAttempt | None:
        """The newest counted attempt that can become a level reference."""
        rows = [
            row
            for row in self.view.attempts
            if row.measure == Measure.REFERENCE
            and row.measurement
            and row.measurement.level_mean_db is not None
            and not hasattr(row, "struck_out")
        ]
        return rows[-1] if rows else None

    @cached_property
    def new_device(self) -> str | None:
        """The device of the newest measured attempt if it has no level reference yet."""
        rows = [row.measurement for row in self.view.attempts if row.measurement]
        row = max(rows, key=lambda one: one.measured_at, default=None)
        if row is None or level_reference(row.client_id, row.device_name):
            return None
        return row.device_name

    def taken_over(self) -> dict[str, str]:
        """Note names for the baseline fields that were measured."""
        found: dict[str, str] = {}
        if self.glided:
            found |= {"lowest": self.glided[0].name, "highest": self.glided[1].name}
        if self.habitual:
            found["speaking"] = self.habitual.note.name
        return found


_NEAR_CENTS = 25.0


def level_reference(client_id, device: str) -> LevelReference | None:
    """The newest reference of a client on a device."""
    rows = DeviceReference.objects.filter(client_id=client_id, device=device).order_by("-at")
    row = rows.first()
    return row.level if row else None


def conversation_dbfs(baseline: Baseline, device: str) -> float | None:
    """Level of the newest counted conversation of a baseline on a device, dBFS: levels of two
    devices do not compare."""
    rows = (
        BaselineAttempt.objects.filter(
            baseline=baseline,
            measure=Measure.CONVERSATION,
            struck_out=None,
            measurement__level_mean_db__isnull=False,
        )
        .select_related("measurement")
        .order_by("-at")
    )
    taken = [row.measurement for row in rows if row.measurement]
    return next((one.level_mean_db for one in taken if one.device_name == device), None)
