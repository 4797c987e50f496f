"""Settings of a scale pattern."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class NotesSettings:
    """Settings for splitting a pitch into notes and matching them to the pattern."""

    longest_pause_s: float = setting(
        1.0, "s", "A breath within the pattern ends it.", "scale with a pause"
    )
    widest_step: float = setting(24.0, "semitones", "A wide interval within the pattern ends it.")
    breath_s: float = setting(
        0.12, "s", "The closure of a consonant is reported as a breath.", "scale pattern 0"
    )
    grid: float = setting(
        0.25, "semitones", "Two notes a small step apart are not separated.", "task pattern 0"
    )
    new_note: float = setting(
        5.0,
        "frames one semitone off",
        "Vibrato is cut into notes, or two neighbors become one.",
        "quick scale",
    )
    farthest: float = setting(
        1.0, "semitones", "A single wrong frame is reported as a note.", "task pattern 0"
    )
    shortest: int = setting(
        7, FRAMES, "The slide between two notes is counted as a note.", "quick scale"
    )
    same_across: int = setting(
        6, FRAMES, "A consonant cuts one note into two.", "scale with a short breath"
    )
    trimmed: int = setting(5, FRAMES, "The slide into a note shifts its pitch.", "task pattern 0")
    same_semitones: float = setting(0.6, "semitones", "A note that drifts is counted twice.")
    left_out_cost: float = setting(1.2, "semitones", "A missing note is replaced by its neighbor.")
    most_off: float = setting(
        1.5,
        "semitones",
        "A wrong note is matched as a very poor right one.",
        "scale with a wrong note",
    )
    other_key_cost: float = setting(
        0.3, "semitones", "A pattern with wrong notes is reported as correct in another key."
    )
    between_octaves_cost: float = setting(
        0.01, "semitones", "Of two keys that fit equally well, the less likely one is chosen."
    )
    keys_beside: int = setting(4, "semitones", "The key is not found when several notes are wrong.")
    added_s: float = setting(0.1, "s", "A grace note is reported as an added note.")
    crossing: int = setting(8, FRAMES, "The start of a note is placed far from where it was found.")


NOTES = NotesSettings()
