"""Which tables make up a client's record, which are its history, and which are left out and why."""

from collections.abc import Mapping
from typing import Any

from django.apps import apps
from django.db.models import QuerySet

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
    VoiceReport,
)
from web.clinic.models import AccessEvent
from web.measuring.models import DeviceReference, Measurement, StoredContour
from web.papers.models import Issued
from web.practice.models import (
    Attempt,
    Correction,
    Entry,
    HearingConsent,
    HomeSession,
    LevelReset,
    LookedAt,
    PaperLog,
    Remark,
    SetAside,
)
from web.programs.models import Draft, ProgramVersion, TriedTask
from web.records.models import TakenIn
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

TABLES: Mapping[str, type[Any]] = {
    "client": Client,
    "screenings": StoredScreening,
    "voice_reports": VoiceReport,
    "visits": Visit,
    "measurements": Measurement,
    "contours": StoredContour,
    "device_references": DeviceReference,
    "baselines": Baseline,
    "baseline_attempts": BaselineAttempt,
    "struck_out": StruckOut,
    "own_phrases": OwnPhrases,
    "own_places": OwnPlaces,
    "notes_home": NoteHome,
    "tried_tasks": TriedTask,
    "draft": Draft,
    "program_versions": ProgramVersion,
    "home_sessions": HomeSession,
    "attempts": Attempt,
    "corrections": Correction,
    "remarks": Remark,
    "entries": Entry,
    "paper_logs": PaperLog,
    "set_aside": SetAside,
    "looked_at": LookedAt,
    "level_resets": LevelReset,
    "hearing_consents": HearingConsent,
    "decisions": Decision,
    "decisions_done": DecisionDone,
    "rule_numbers": RuleNumber,
    "put_off": Snooze,
    "handed_over": HandOver,
    "notes_read": NoteRead,
    "taught": Taught,
    "visit_note_being_written": OpenNote,
    "visit_notes": SignedNote,
    "visit_note_addenda": Addendum,
    "issued": Issued,
    "taken_in": TakenIn,
}
"""By the name of the file; what others point to comes first."""

LEFT_OUT: Mapping[str, str] = {
    "practice.HeardSound": "sounds for listening are promised to be erased after 30 days and are given to nobody",
    "clients.ClientAccess": "the private link and its PIN open this site alone; elsewhere a new one is made",
    "clients.LinkTry": "wrong PINs at this site's door, by an address that cannot be read back",
    "review.CaseloadRow": "worked out anew from the record",
    "review.ComingNeed": "worked out anew from the record",
    "review.SessionResult": "worked out anew from the attempts",
    "papers.SheetDraft": "a sheet one clinician is typing; it is in the record once it is logged",
}
"""By the model: why it is in no archive."""

SKIPPED = frozenset({"clinic_id", "client_id", "access_id"})
"""Columns that are told by the archive itself, or that point at what is left out."""


def history_tables() -> dict[str, type[Any]]:
    """Tables of how rows changed, by the name of the file: given out, and not taken in, for another database begins
    its own."""
    return {
        f"{name}_history": event
        for name, model in TABLES.items()
        if (event := _event_of(model)) is not None
    }


def _event_of(model: type[Any]) -> type[Any] | None:
    events = (one for one in apps.get_models() if getattr(one, "pgh_tracked_model", None) is model)
    return next(events, None)


def rows_of(model: type[Any], client_id) -> QuerySet[Any]:
    """The rows of a table that are about a client, in a lasting order."""
    if model is Client:
        return Client.objects.filter(pk=client_id)
    if model is AccessEvent:
        return AccessEvent.objects.filter(subject_id=client_id).order_by("at", "pk")
    names = {field.attname for field in model._meta.concrete_fields}
    wanted = {"client_id": client_id} if "client_id" in names else {"pgh_obj_id": client_id}
    return model._default_manager.filter(**wanted).order_by("pk")
