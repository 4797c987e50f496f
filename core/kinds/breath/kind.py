"""Breathing in and out at a pace."""

from core.kinds.breath.aim import read_aim
from core.kinds.breath.figures import PacedBreath
from core.kinds.breath.findings import findings
from core.kinds.breath.in_session import in_session
from core.kinds.breath.measure import measured
from core.kinds.breath.settings import BREATH
from core.kinds.kind import Kind, Live
from core.kinds.loud_follower import HearsWhatStandsOut

KIND = Kind(
    name="breath",
    read_aim=read_aim,
    measured=measured,
    findings=findings,
    own=PacedBreath,
    in_session=in_session,
    course="within_beat",
    forms=("pace",),
    fitted="pace",
    live=Live(
        follower=HearsWhatStandsOut,
        ended_after_s=BREATH.longest_pause_s,
        longest_pause_s=BREATH.longest_pause_s,
    ),
    voiced=False,
    held=False,
    settings={"measure": BREATH},
)
