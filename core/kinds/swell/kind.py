"""Soft, louder, soft on one held note."""

from core.kinds.kind import Kind, judged_by, played_by
from core.kinds.swell.findings import findings
from core.kinds.swell.in_session import in_session
from core.kinds.swell.listening import measured
from core.kinds.swelling import Swell
from core.notes.note import Note

KIND = Kind(
    name="swell",
    read_aim=Note.named,
    measured=measured,
    findings=findings,
    performed=played_by("core.kinds.swell.playing"),
    own=Swell,
    in_session=in_session,
    course="best_s",
    judged=judged_by("core.kinds.swell.judged"),
    forms=("swell",),
    fitted="forms",
    within=("hold",),
)
