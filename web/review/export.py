"""A client's whole record as open JSON."""

from types import NoneType
from typing import Any

from django.core.serializers.json import DjangoJSONEncoder
from django.forms.models import model_to_dict

from web.clients.models import (
    Baseline,
    BaselineAttempt,
    Client,
    NoteHome,
    OwnPhrases,
    OwnPlaces,
    StoredScreening,
    StruckOut,
    Visit,
)
from web.measuring.models import DeviceReference, Measurement
from web.practice.models import (
    Attempt,
    Correction,
    Entry,
    HearingConsent,
    HomeSession,
    PaperLog,
    Remark,
    SetAside,
)
from web.programs.models import ProgramVersion, TriedTask
from web.review.models import (
    Addendum,
    Decision,
    DecisionDone,
    HandOver,
    NoteRead,
    OpenNote,
    RuleNumber,
    SignedNote,
    Snooze,
    Taught,
)

FORMAT = "still-reed-record/1"
_TABLES: dict[str, type[Any]] = {
    "screenings": StoredScreening,
    "baselines": Baseline,
    "baseline_attempts": BaselineAttempt,
    "struck_out": StruckOut,
    "tried_tasks": TriedTask,
    "program_versions": ProgramVersion,
    "home_sessions": HomeSession,
    "attempts": Attempt,
    "corrections": Correction,
    "entries": Entry,
    "paper_logs": PaperLog,
    "set_aside": SetAside,
    "measurements": Measurement,
    "device_references": DeviceReference,
    "visits": Visit,
    "own_phrases": OwnPhrases,
    "own_places": OwnPlaces,
    "notes_home": NoteHome,
    "decisions": Decision,
    "decisions_done": DecisionDone,
    "rule_numbers": RuleNumber,
    "remarks": Remark,
    "hearing_consents": HearingConsent,
    "put_off": Snooze,
    "handed_over": HandOver,
    "notes_read": NoteRead,
    "taught": Taught,
    "visit_notes": SignedNote,
    "visit_note_addenda": Addendum,
    "visit_note_being_written": OpenNote,
}
_LEFT_OUT = {"clinic", "client", "access", "sha256"}


def record_of(client: Client) -> dict[str, Any]:
    """Everything but the sounds of the last days, which are promised to be erased. Plain data: times
    ISO 8601 UTC, seconds, Hz, dB as the field names say."""
    record: dict[str, Any] = {"format": FORMAT, "client": _plain(client)}
    for name, model in _TABLES.items():
        rows = model.objects.filter(client_id=client.pk).order_by("pk")
        record[name] = [_plain(row) for row in rows]
    return record


def _plain(row) -> dict[str, Any]:
    data = {"id": row.pk, **model_to_dict(row)}
    for field in row._meta.concrete_fields:
        if not field.editable and field.name not in data:
            data[field.name] = field.value_from_object(row)
    encoder = DjangoJSONEncoder()
    return {
        name: value
        if isinstance(value, str | int | float | list | dict | NoneType)
        else encoder.default(value)
        for name, value in data.items()
        if name not in _LEFT_OUT
    }
