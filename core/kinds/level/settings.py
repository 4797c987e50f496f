"""Settings of the loudness of speech."""

from dataclasses import dataclass

from core.sound.settings.setting import setting


@dataclass(frozen=True, slots=True)
class LoudnessSettings:
    """Settings for findings about the loudness of speech."""

    shouted_share: float = setting(0.1, "of the speech", "One loud word is reported as shouting.")


LOUDNESS = LoudnessSettings()
