"""Speech, counting, reading."""

from core.kinds.kind import Kind, Live
from core.kinds.level.aim import read_aim
from core.kinds.level.figures import SpeechFigures
from core.kinds.level.findings import findings
from core.kinds.level.in_session import in_session
from core.kinds.level.measure import measured
from core.kinds.level.settings import LOUDNESS
from core.kinds.settings import SPEECH
from core.reference.values import PHRASE_PAUSE

KIND = Kind(
    name="level",
    read_aim=read_aim,
    measured=measured,
    findings=findings,
    own=SpeechFigures,
    in_session=in_session,
    course="over_db",
    forms=("speech",),
    fitted="plain_speech",
    fitted_in={"E": "strong_speech"},
    live=Live(
        ended_after_s=SPEECH.longest_pause_s,
        longest_pause_s=SPEECH.longest_pause_s,
        said_after_s=PHRASE_PAUSE.number,
    ),
    held=False,
    settings={"findings": LOUDNESS},
)
