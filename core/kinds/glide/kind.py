"""A slide from note to note."""

from core.kinds.aim import no_aim
from core.kinds.glide.findings import findings
from core.kinds.glide.in_session import in_session
from core.kinds.glide.measure import measured
from core.kinds.glide.settings import GLIDE
from core.kinds.kind import Kind

KIND = Kind(
    name="glide",
    read_aim=no_aim,
    measured=measured,
    findings=findings,
    own=None,
    in_session=in_session,
    course="span",
    forms=("glide",),
    fitted="falling",
    within=("hold",),
    fitted_in={"E": "strong_glides", "D": "ladder_up"},
    settings={"path": GLIDE},
)
