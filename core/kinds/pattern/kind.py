"""The notes of a scale pattern."""

from core.kinds.kind import Kind, Live
from core.kinds.pattern.aim import read_aim
from core.kinds.pattern.figures import SungPattern
from core.kinds.pattern.findings import findings
from core.kinds.pattern.in_session import in_session
from core.kinds.pattern.measure import measured
from core.kinds.pattern.settings import NOTES

KIND = Kind(
    name="pattern",
    read_aim=read_aim,
    measured=measured,
    findings=findings,
    own=SungPattern,
    in_session=in_session,
    course="in_tune",
    forms=("pattern",),
    fitted="pattern",
    within=("hold",),
    live=Live(ended_after_s=2.0, longest_pause_s=NOTES.longest_pause_s),
    settings={"notes": NOTES},
)
