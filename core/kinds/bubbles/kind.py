"""A voice through a tube in water."""

from core.kinds.bubbles.aim import read_aim
from core.kinds.bubbles.figures import Bubbling
from core.kinds.bubbles.findings import findings
from core.kinds.bubbles.in_session import in_session
from core.kinds.bubbles.live import RisingBubbles
from core.kinds.bubbles.measure import measured
from core.kinds.bubbles.settings import IN_WATER, RATE, RISING
from core.kinds.kind import Kind, Live

KIND = Kind(
    name="bubbles",
    read_aim=read_aim,
    measured=measured,
    findings=findings,
    own=Bubbling,
    in_session=in_session,
    course="best_s",
    forms=("holds", "swell", "glide", "pattern", "blow"),
    fitted="forms",
    live=Live(follower=RisingBubbles),
    settings={"measure": IN_WATER, "bubble_rate": RATE, "live": RISING},
)
