"""A hiss."""

from core.kinds.aim import no_aim
from core.kinds.hiss.findings import findings
from core.kinds.hiss.in_session import in_session
from core.kinds.hiss.measure import measured
from core.kinds.hiss_follower import HearsHiss
from core.kinds.kind import Kind, Live
from core.kinds.swell_figures import Swell

KIND = Kind(
    name="hiss",
    read_aim=no_aim,
    measured=measured,
    findings=findings,
    own=Swell,
    in_session=in_session,
    course="best_s",
    forms=("blow",),
    fitted="hiss",
    live=Live(follower=HearsHiss),
    voiced=False,
)
