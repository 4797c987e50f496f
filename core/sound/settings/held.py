"""Settings of `core.sound.held`: which frames are held voice and what belongs to one hold."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class HeldSettings:
    """Of the search for held voice."""

    longest_gap_s: float = setting(
        0.25, "s", "A hold falls in two at a catch of breath.", "only babble"
    )
    shortest_hold_s: float = setting(0.3, "s", "A syllable is taken for a hold.", "babble 2")
    jump_semitones: float = setting(
        2.5,
        "semitones",
        "A frame heard an octave off, or a leap between words, joins a run.",
        "only babble",
    )
    least_run: int = setting(3, FRAMES, "Strays of noise become pieces of voice.")
    least_fragment: int = setting(8, FRAMES, "Scraps of talk hang on to a hold.", "only babble")
    calm_fragment_semitones: float = setting(
        1.5, "semitones", "A gliding syllable hangs on to a hold.", "only babble"
    )
    extend: int = setting(
        30, FRAMES, "A hold swallows the word spoken just before or after.", "echoing room 2"
    )
    alone: int = setting(
        40, FRAMES, "A syllable among others is judged as a hold of its own.", "word before 1"
    )
    near: int = setting(
        40, FRAMES, "One odd frame at an end decides whether two pieces are one voice."
    )
    same_pitch_semitones: float = setting(
        2.0, "semitones", "Two different notes are joined to one hold.", "only babble"
    )
    same_shape_db: float = setting(
        6.0, "dB RMS over bands", "Another voice is joined over a gap.", "only babble"
    )
    same_shape_unbroken_db: float = setting(
        10.0,
        "dB RMS over bands",
        "A vowel running on from a word is joined to the hold.",
        "only babble",
    )
    same_shape_leap_db: float = setting(
        20.0, "dB RMS over bands", "Talk at another pitch passes for a leap of the voice."
    )
    widest_leap_semitones: float = setting(
        14.0, "semitones", "A whistle or a far-off pitch passes for a leap of the voice."
    )
    hardly_broken: int = setting(8, FRAMES, "A long unsteady piece is joined over a real pause.")
    any_level_db: float = setting(14.0, "dB", "A far softer sound is joined to the hold.")
    same_level_db: float = setting(
        7.0, "dB", "A voice beside it is joined over a gap.", "only babble"
    )
    unbroken: int = setting(3, FRAMES, "A voice that never stopped counts as two.")
    talk_times: float = setting(
        1.5, "times the hold's length", "The longest vowel of talk is taken for a short hold."
    )
    sure_s: float = setting(
        1.0, "s", "A long hold is lost because of talk around it.", "only babble"
    )
    longest_leap_s: float = setting(
        1.0, "s", "A second note sung between two counts as part of the first."
    )
    mistaken: int = setting(
        8, FRAMES, "A hold loses its first or last frames, heard an octave or a twelfth off."
    )
    mistaken_by_semitones: tuple[float, ...] = setting(
        (-12.0, 12.0, -19.02, 19.02),
        "semitones",
        "As above: the octave and the twelfth.",
        "low voice in hum 0",
    )
    same_octave_semitones: float = setting(
        1.0, "semitones", "A neighboring note is put right as if it were an octave off.", "babble 0"
    )
    ragged_share: float = setting(
        0.5,
        "of the other piece",
        "Unsteady sound outweighs the hold it hangs on to.",
        "only babble",
    )
    ragged_s: float = setting(0.6, "s", "A whole word hangs on to a long hold.")
    tone_flutter_cents: float = setting(
        1.0, "cents", "A guide tone counts as a second voice, or a calm voice as a tone."
    )
    tone_flutter_share: float = setting(
        0.35, "of the voice's flutter", "A very calm voice is thrown away as a tone."
    )
    tone_spread_cents: float = setting(2.5, "cents", "A drifting voice is taken for a tone.")
    inner: int = setting(8, FRAMES, "The rise and fall of a tone hide that it is one.")
    end_outer: int = setting(2, FRAMES, "The half-heard outermost frames speak for the whole end.")
    end_least: int = setting(
        12, FRAMES, "A short piece is left with no frames to compare.", "only babble"
    )


HELD = HeldSettings()
