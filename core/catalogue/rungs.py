"""The rungs of a task by code, with their words: what a rule compares and what is shown."""

import re
from dataclasses import dataclass
from enum import StrEnum


class SemiOccludedForm(StrEnum):
    """The forms of semi-occluded work, from easy to hard."""

    AIR = "air_only"
    NOTE = "one_note"
    UP = "glide_up"
    DOWN = "glide_down"
    UP_AND_DOWN = "up_and_down"
    THREE_RISES = "three_rises"
    SWELL = "swell"
    FIVE_NOTES = "five_note_scale"
    OCTAVE_AND_NINTH = "octave_and_ninth_scale"
    TUNE = "tune"
    PHRASE = "phrase_then_open"


FORM_WORDS = {
    SemiOccludedForm.AIR: "air only",
    SemiOccludedForm.NOTE: "one comfortable note",
    SemiOccludedForm.UP: "glide up",
    SemiOccludedForm.DOWN: "glide down",
    SemiOccludedForm.UP_AND_DOWN: "up and down",
    SemiOccludedForm.THREE_RISES: "three rises in one breath",
    SemiOccludedForm.SWELL: "swell",
    SemiOccludedForm.FIVE_NOTES: "five-note scale",
    SemiOccludedForm.OCTAVE_AND_NINTH: "octave-and-a-ninth scale",
    SemiOccludedForm.TUNE: "a tune",
    SemiOccludedForm.PHRASE: "a phrase, then open",
}


@dataclass(frozen=True, slots=True)
class Rung:
    """One rung of a task: its code, lasting and unique in the task, and its words."""

    code: str
    words: str


def form_rung(form: SemiOccludedForm) -> Rung:
    return Rung(form.value, FORM_WORDS[form])


def rung_in_words(words: str) -> Rung:
    """A rung somebody wrote in words alone."""
    return Rung(re.sub(r"[^a-z0-9]+", "_", words.lower()).strip("_")[:60] or "rung", words)
