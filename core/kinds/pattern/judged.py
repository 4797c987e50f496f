"""Scale patterns of known notes."""

import numpy as np

from core.kinds.judging import Spent, seeded_voice
from core.kinds.pattern.aim import PatternTarget
from core.kinds.pattern.figures import SungPattern
from core.notes.note import Note
from core.simulate.tasks import Played, sing_pattern

PATTERNS = (
    "C4 D4 C4",
    "C4 D4 E4 D4 C4",
    "C4 D4 E4 F4 E4 D4 C4",
    "C4 D4 E4 F4 G4 F4 E4 D4 C4",
)


def singing(seed: int) -> tuple[Played, tuple[Note, ...]]:
    """A scale pattern in any key, each note up to 35 cents off, every third time with a breath."""
    random = np.random.default_rng((seed, 4))
    key = int(random.integers(-12, 8))
    notes = tuple(Note(Note.named(n).number + key) for n in PATTERNS[seed % 4].split())
    voice = seeded_voice(
        random,
        seed,
        size="woman" if key > -6 else "man",
        vowel=str(random.choice(["ah", "oo", "ee"])),
        jitter_percent=0.2,
        tremor_hz=5.5,
        tremor_cents=float(random.choice([0.0, 0.0, 15.0])),
    )
    played = sing_pattern(
        voice,
        notes,
        note_s=float(random.uniform(0.25, 0.7)),
        cents=[float(c) for c in np.clip(random.normal(0, 15, len(notes)), -35, 35)],
        transition_s=float(random.uniform(0.02, 0.06)),
        breaths_after=(len(notes) // 2,) if seed % 3 == 0 else (),
    )
    return played, notes


def judged(count: int) -> list[str]:
    """So many seeded attempts."""
    spent = Spent("pattern")
    for seed in range(count):
        played, notes = singing(seed)
        own = spent.measure(played, PatternTarget(notes)).own
        if not isinstance(own, SungPattern):
            spent.add("notes missing or added", len(notes))
            continue
        spent.add("notes missing or added", len(own.missing) + len(own.added))
        places = [p for p in range(len(notes)) if p not in own.missing]
        for place, note in zip(places, own.notes, strict=True):
            _name, start_s, _end_s, cents = played.notes[place]
            spent.add("note, cents", note.cents - cents)
            spent.add("start, ms", 1000 * (note.start_s - start_s))
    return spent.rows("pattern")
