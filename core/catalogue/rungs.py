"""The rungs of a task by code, with their words: what a rule compares and what is shown."""

import re
from dataclasses import dataclass
from enum import StrEnum


class Form(StrEnum):
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
    Form.AIR: "air only",
    Form.NOTE: "one comfortable note",
    Form.UP: "glide up",
    Form.DOWN: "glide down",
    Form.UP_AND_DOWN: "up and down",
    Form.THREE_RISES: "three rises in one breath",
    Form.SWELL: "swell",
    Form.FIVE_NOTES: "five-note scale",
    Form.OCTAVE_AND_NINTH: "octave-and-a-ninth scale",
    Form.TUNE: "a tune",
    Form.PHRASE: "a phrase, then open",
}


@dataclass(frozen=True, slots=True)
class Rung:
    """One rung of a task: its code, lasting and unique in the task, and its words."""

    code: str
    words: str


def form_rung(form: Form) -> Rung:
    return Rung(form.value, FORM_WORDS[form])


def rung_in_words(words: str) -> Rung:
    """A rung somebody wrote in words alone."""
    return Rung(re.sub(r"[^a-z0-9]+", "_", words.lower()).strip("_")[:60] or "rung", words)
