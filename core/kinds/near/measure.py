"""Phrases near a note: the phrases of speech, each with its commonest pitch against the note."""

from dataclasses import replace

from core.kinds.aim import AttemptTarget
from core.kinds.near.aim import NearTarget
from core.kinds.near.figures import NearPhrases, PitchedPhrase
from core.kinds.speech_phrases import Talk, commonest_hz, talked
from core.notes.note import semitone_of
from core.sound.figures import Figures
from core.sound.held import Region
from core.sound.kernel import HOP_S, Frames

_TASK = "near"


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of phrases spoken near a note; a4_hz: concert pitch."""
    aim = target if isinstance(target, NearTarget) else None
    figures, talk = talked(frames, _TASK, aim.name if aim else None)
    if talk is None:
        return figures
    own = NearPhrases(
        phrases=tuple(_pitched(talk, region, aim, a4_hz) for region in talk.phrases),
        voiced_s=talk.voiced_s,
        asked=aim.phrases if aim else None,
    )
    return replace(figures, own=own)


def _pitched(talk: Talk, region: Region, aim: NearTarget | None, a4_hz: float) -> PitchedPhrase:
    within = slice(region.first, region.after)
    pitch_hz = commonest_hz(talk.pitch[within][talk.heard[within]])
    return PitchedPhrase(
        start_s=region.first * HOP_S,
        end_s=region.after * HOP_S,
        pitch_hz=pitch_hz,
        off_semitones=semitone_of(pitch_hz, a4_hz) - aim.note.number if aim else None,
    )
