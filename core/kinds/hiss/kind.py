"""A hiss."""

from core.kinds.aim import no_aim
from core.kinds.hiss.findings import findings
from core.kinds.hiss.in_session import in_session
from core.kinds.hiss.listening import measured
from core.kinds.hisses import HearsHiss
from core.kinds.kind import Kind, Live, judged_by, played_by
from core.kinds.swelling import Swell

KIND = Kind(
    name="hiss",
    read_aim=no_aim,
    measured=measured,
    findings=findings,
    performed=played_by("core.kinds.hiss.playing"),
    own=Swell,
    in_session=in_session,
    course="best_s",
    judged=judged_by("core.kinds.hiss.judged"),
    forms=("blow",),
    fitted="hiss",
    live=Live(follower=HearsHiss),
    voiced=False,
)
