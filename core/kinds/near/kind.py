"""Phrases spoken near a note."""

from core.kinds.kind import Kind, Live
from core.kinds.near.aim import read_aim
from core.kinds.near.figures import NearPhrases
from core.kinds.near.findings import findings
from core.kinds.near.in_session import in_session
from core.kinds.near.measure import measured
from core.kinds.settings import SPEECH
from core.reference.values import PHRASE_PAUSE

KIND = Kind(
    name="near",
    read_aim=read_aim,
    measured=measured,
    findings=findings,
    own=NearPhrases,
    in_session=in_session,
    course="near",
    forms=("phrases",),
    fitted="target_pitch_phrases",
    live=Live(
        ended_after_s=SPEECH.longest_pause_s,
        longest_pause_s=SPEECH.longest_pause_s,
        said_after_s=PHRASE_PAUSE.number,
    ),
    held=False,
)
