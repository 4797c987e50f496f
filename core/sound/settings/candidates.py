"""Settings of `core.sound.candidates`: guesses at the pitch of each frame."""

from dataclasses import dataclass

from core.sound.settings.setting import setting


@dataclass(frozen=True, slots=True)
class CandidateSettings:
    """Of the autocorrelation and of what speaks against a guess."""

    pass_to_hz: float = setting(1_800.0, "Hz", "Breath noise hides how the voice repeats.")
    pass_from_hz: float = setting(30.0, "Hz", "Rumble moves every guess.")
    shorter_is_better: float = setting(
        0.12, "an octave", "Twice the period is as good a guess as the period."
    )
    least_regular: float = setting(
        0.3, "of 1", "Noise fills the list of guesses.", "creaking ends 0"
    )
    likely_from_db: float = setting(
        -12.0,
        "dB, partials between over those of the guess",
        "A guess is an octave high.",
        "hoarse 0",
    )
    likely_to_db: float = setting(
        -6.0, "dB, partials between over those of the guess", "A guess is an octave low."
    )
    doubt_cost: float = setting(
        0.5, "of 1", "Doubt never outweighs how it repeats.", "subharmonics 0"
    )
    heard_under_db: float = setting(
        32.0, "dB under the strongest", "Partials in the noise speak for or against.", "breathy 0"
    )
    fades_db: float = setting(50.0, "dB", "Another voice between weak partials is believed.")
    refined_to_lag: int = setting(330, "samples at 16 kHz", "A high pitch is read too coarsely.")


CANDIDATE = CandidateSettings()
