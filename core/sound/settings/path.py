"""Settings of `core.sound.path`: the pitch followed through all frames."""

from dataclasses import dataclass

from core.sound.settings.setting import setting


@dataclass(frozen=True, slots=True)
class PathSettings:
    """Costs of the path, Proc Inst Phonetic Sciences Amsterdam 1993;17:97–110 but for the octave jump."""

    octave_jump_cost: float = setting(
        0.6, "an octave", "The pitch jumps to an octave for a frame or two.", "breath before 2"
    )
    voice_change_cost: float = setting(
        0.14, "a change", "Voice flickers on and off in a hoarse hold.", "creaking ends 1"
    )
    no_voice_cost: float = setting(
        0.45, "a frame", "Noise counts as voice, or a hoarse voice as noise.", "clean 2"
    )
    silent_db: float = setting(-66.0, "dBFS", "A pitch is found in silence.", "clean 0")
    near_gain: float = setting(
        0.35, "a frame", "A frame that alone could be an octave off stays off.", "creaking ends 0"
    )
    near_octaves: float = setting(
        0.2, "octaves", "What is no more the voice's own pitch is preferred.", "creaking ends 1"
    )
    chunk: int = setting(2_000, "frames of 10 ms", "A long recording is turned into lists whole.")


PATH = PathSettings()
