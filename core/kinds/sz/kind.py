"""A hiss that turns into a buzz."""

from core.kinds.aim import no_aim
from core.kinds.hiss_follower import HearsHissAndVoice
from core.kinds.kind import Kind, Live
from core.kinds.sz.figures import Joined
from core.kinds.sz.findings import findings
from core.kinds.sz.in_session import in_session
from core.kinds.sz.measure import measured
from core.kinds.sz.settings import JOIN

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
    live=Live(follower=HearsHissAndVoice, longest_pause_s=JOIN.longest_silence_s),
    voiced=False,
    settings={"switch": JOIN},
)
