"""Settings of `core.sound.quality`: how far the figures can be trusted."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class QualitySettings:
    """Settings for judging the quality of a recording."""

    noise_too_near_db: float = setting(
        3.0, "dB under the voice", "Figures are shown that come from the room, not the voice."
    )
    quiet_db: float = setting(
        -55.0, "dBFS", "A client who is too far away is not told to come closer.", "soft 0"
    )
    clear: int = setting(
        10, FRAMES, "The rise and fall of the voice are counted as room noise.", "soft 0"
    )
    digital_silence_db: float = setting(
        -110.0, "dBFS", "A padded recording looks as if the room were silent.", "soft 0"
    )
    other_voice_s: float = setting(0.4, "s", "A cough is reported as another voice.", "babble 0")
    other_voice_under_db: float = setting(
        15.0, "dB", "A distant radio is reported as another voice.", "babble 0"
    )


QUALITY = QualitySettings()
