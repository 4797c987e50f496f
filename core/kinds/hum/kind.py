"""A long level hum, to the end of the breath."""

from core.kinds.hum.findings import findings
from core.kinds.hum.in_session import in_session
from core.kinds.hum.measure import measured
from core.kinds.kind import Kind
from core.notes.note import Note

KIND = Kind(
    name="hum",
    read_aim=Note.named,
    measured=measured,
    findings=findings,
    own=None,
    in_session=in_session,
    course="best_s",
    forms=("holds",),
    fitted="long_hum",
)
