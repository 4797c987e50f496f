"""Settings of `core.sound.candidates`: guesses at the pitch of each frame."""

from dataclasses import dataclass

from core.sound.settings.setting import AT_START, setting


@dataclass(frozen=True, slots=True)
class CandidateSettings:
    """Settings for the autocorrelation and for rejecting pitch candidates."""

    pass_to_hz: float = setting(
        1_800.0, "Hz", "Breath noise masks the periodicity of the voice.", AT_START
    )
    pass_from_hz: float = setting(
        30.0, "Hz", "Low-frequency rumble shifts every candidate.", AT_START
    )
    shorter_is_better: float = setting(
        0.12, "an octave", "Twice the period scores as well as the period itself.", AT_START
    )
    least_regular: float = setting(
        0.3, "of 1", "Noise fills the list of candidates.", "creaking ends 0"
    )
    likely_from_db: float = setting(
        -12.0,
        "dB, partials between over those of the guess",
        "A candidate one octave too high is accepted.",
        "hoarse 0",
    )
    likely_to_db: float = setting(
        -6.0,
        "dB, partials between over those of the guess",
        "A candidate one octave too low is accepted.",
        "clean 1",
    )
    doubt_cost: float = setting(
        0.5, "of 1", "Doubt about a candidate never outweighs its regularity.", "subharmonics 0"
    )
    heard_under_db: float = setting(
        32.0, "dB under the strongest", "Partials below the noise count as evidence.", "breathy 0"
    )
    fades_db: float = setting(
        50.0, "dB", "Another voice between weak partials counts as evidence.", "breath before 2"
    )
    refined_to_lag: int = setting(
        330, "samples at 16 kHz", "The pitch of a high voice is too coarse.", AT_START
    )


CANDIDATE = CandidateSettings()
