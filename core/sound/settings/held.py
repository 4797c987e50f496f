"""Settings of `core.sound.held`: which frames are held voice and what belongs to one hold."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class HeldSettings:
    """Settings for finding a held voice."""

    longest_gap_s: float = setting(
        0.25, "s", "A short catch of breath splits one hold into two.", "only babble"
    )
    shortest_hold_s: float = setting(
        0.3, "s", "A single syllable is counted as a hold.", "babble 2"
    )
    jump_semitones: float = setting(
        2.5,
        "semitones",
        "A frame detected an octave off, or the pitch step between two words, is joined to a run.",
        "only babble",
    )
    least_run: int = setting(
        3,
        FRAMES,
        "Stray voiced frames in noise are treated as voice.",
        "voice stops for two seconds in water",
    )
    least_fragment: int = setting(
        8, FRAMES, "Fragments of speech are attached to a hold.", "only babble"
    )
    calm_fragment_semitones: float = setting(
        1.5, "semitones", "A syllable with gliding pitch is attached to a hold.", "only babble"
    )
    extend: int = setting(
        30,
        FRAMES,
        "The hold is extended into a word spoken just before or after it.",
        "echoing room 2",
    )
    alone: int = setting(
        40, FRAMES, "A syllable within speech is judged as if it stood alone.", "word before 1"
    )
    near: int = setting(
        40,
        FRAMES,
        "A single odd frame at the end of a piece decides whether two pieces belong together.",
    )
    same_pitch_semitones: float = setting(
        2.0, "semitones", "Two different notes are merged into one hold.", "only babble"
    )
    same_shape_db: float = setting(
        6.0,
        "dB RMS over bands",
        "A different voice is joined to the hold across a gap.",
        "only babble",
    )
    same_shape_unbroken_db: float = setting(
        10.0,
        "dB RMS over bands",
        "A word that runs into the hold is counted as part of it.",
        "only babble",
    )
    same_shape_leap_db: float = setting(
        20.0,
        "dB RMS over bands",
        "Speech at another pitch is accepted as a pitch jump within the hold.",
    )
    widest_leap_semitones: float = setting(
        14.0,
        "semitones",
        "A whistle, or a pitch far away, is accepted as a jump of the same voice.",
    )
    hardly_broken: int = setting(
        8, FRAMES, "A long unsteady piece is joined to the hold across a real pause."
    )
    any_level_db: float = setting(14.0, "dB", "A much softer sound is joined to the hold.")
    same_level_db: float = setting(
        7.0,
        "dB",
        "Another person's softer voice is joined to the hold across a gap.",
        "only babble",
    )
    unbroken: int = setting(3, FRAMES, "Voice that never stopped is counted as two holds.")
    talk_times: float = setting(
        1.5,
        "times the hold's length",
        "The longest vowel in a stretch of speech is reported as a short hold.",
    )
    sure_s: float = setting(
        1.0,
        "s",
        "A real hold is rejected because the client talked before or after it.",
        "only babble",
    )
    longest_leap_s: float = setting(
        1.0, "s", "A second sung note between two equal ones is counted as part of the first."
    )
    mistaken: int = setting(
        8,
        FRAMES,
        "The hold loses first or last frames whose pitch was detected an octave or a twelfth off.",
    )
    mistaken_by_semitones: tuple[float, ...] = setting(
        (-12.0, 12.0, -19.02, 19.02),
        "semitones",
        "As above: these are the octave and the twelfth.",
        "low voice in hum 0",
    )
    same_octave_semitones: float = setting(
        1.0,
        "semitones",
        "A neighboring note is corrected as if it were an octave error.",
        "babble 0",
    )
    ragged_share: float = setting(
        0.5,
        "of the other piece",
        "An unsteady fragment longer than the hold itself is attached to it.",
        "only babble",
    )
    ragged_s: float = setting(0.6, "s", "A whole word is attached to a long hold.")
    tone_flutter_cents: float = setting(
        1.0,
        "cents",
        "The guide tone is measured as a voice, or a very even voice is discarded as a tone.",
    )
    tone_flutter_share: float = setting(
        0.35, "of the voice's flutter", "A very even voice is discarded as a tone."
    )
    tone_spread_cents: float = setting(
        2.5, "cents", "A voice with slow drift is discarded as a tone."
    )
    inner: int = setting(8, FRAMES, "The rise and decay of a guide tone make it look like a voice.")
    end_outer: int = setting(
        2,
        FRAMES,
        "The outermost frames, which cover only half the sound, decide for the whole end.",
    )
    end_least: int = setting(
        12, FRAMES, "A short piece is left without frames to compare.", "only babble"
    )


HELD = HeldSettings()
