"""Soft, louder, soft on one held note."""

from core.kinds.kind import Kind
from core.kinds.swell.findings import findings
from core.kinds.swell.in_session import in_session
from core.kinds.swell.measure import measured
from core.kinds.swell_figures import Swell
from core.notes.note import Note

KIND = Kind(
    name="swell",
    read_aim=Note.named,
    measured=measured,
    findings=findings,
    own=Swell,
    in_session=in_session,
    course="best_s",
    forms=("swell",),
    fitted="forms",
    within=("hold",),
)
