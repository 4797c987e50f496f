"""One held note."""

from core.kinds.hold.findings import findings
from core.kinds.hold.in_session import in_session
from core.kinds.hold.measure import measured
from core.kinds.kind import Kind
from core.notes.note import Note

KIND = Kind(
    name="hold",
    read_aim=Note.named,
    measured=measured,
    findings=findings,
    own=None,
    in_session=in_session,
    course="best_s",
    forms=("holds", "swell", "blow"),
    fitted="ladder_power",
    fitted_in={"E": "strong_holds"},
)
