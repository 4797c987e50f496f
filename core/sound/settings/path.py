"""Settings of `core.sound.path`: the pitch followed through all frames."""

from dataclasses import dataclass

from core.sound.settings.setting import setting


@dataclass(frozen=True, slots=True)
class PathSettings:
    """Costs of the path, Proc Inst Phonetic Sciences Amsterdam 1993;17:97–110 but for the octave jump."""

    octave_jump_cost: float = setting(
        0.6, "an octave", "The pitch jumps by an octave for a frame or two.", "breath before 2"
    )
    voice_change_cost: float = setting(
        0.14, "a change", "A hoarse hold flickers between voiced and unvoiced.", "creaking ends 1"
    )
    no_voice_cost: float = setting(
        0.45, "a frame", "Noise is counted as voice, or a hoarse voice as noise.", "clean 2"
    )
    silent_db: float = setting(-66.0, "dBFS", "A pitch is found in silence.", "clean 0")
    near_gain: float = setting(
        0.35,
        "a frame",
        "A frame that could be an octave off on its own stays off.",
        "creaking ends 0",
    )
    near_octaves: float = setting(
        0.2, "octaves", "A pitch too far from the voice's own is preferred.", "creaking ends 1"
    )
    chunk: int = setting(
        2_000, "frames of 10 ms", "A long recording is converted to Python lists all at once."
    )


PATH = PathSettings()
