"""A hiss that turns into a buzz."""

from core.kinds.aim import no_aim
from core.kinds.hisses import HearsHissAndVoice
from core.kinds.join.figures import Joined
from core.kinds.join.findings import findings
from core.kinds.join.in_session import in_session
from core.kinds.join.listening import LONGEST_JOIN_S, measured
from core.kinds.kind import Kind, Live

KIND = Kind(
    name="sz",
    read_aim=no_aim,
    measured=measured,
    findings=findings,
    own=Joined,
    in_session=in_session,
    course="joined",
    forms=("join",),
    fitted="join",
    live=Live(follower=HearsHissAndVoice, longest_pause_s=LONGEST_JOIN_S),
    voiced=False,
)
