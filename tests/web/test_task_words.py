"""What is said of bubbles, hisses, patterns, speech and breath; how they are drawn."""

from xml.etree import ElementTree

import numpy as np
import pytest

from core.kinds.breath.figures import PacedBreath
from core.kinds.bubbles.figures import Bubbling
from core.kinds.finding import Finding
from core.kinds.level.figures import Phrase, SpeechFigures
from core.kinds.pattern.figures import SungNote, SungPattern
from core.kinds.swell_figures import Swell
from core.kinds.sz.figures import Joined
from core.notes.note import Note
from core.sound.figures import Contour, Figures, Quality, QualityVerdict
from web.design.drawings.held_line import HeldLine, held_line
from web.design.drawings.held_marks import MOST_RINGS, MarkedStretch, Rings
from web.kinds.registry import faces
from web.measuring.sinks import Permit
from web.measuring.words import attempt_words, client_words, clinician_words

SPEECH = SpeechFigures(phrases=(), voiced_s=8.0, mode_hz=196.0)
NOTES = (
    SungNote(name="C4", start_s=0.6, end_s=1.1, cents=4.0),
    SungNote(name="D4", start_s=1.1, end_s=1.6, cents=-62.0),
)


def said(task, own, *, for_client=True, **changes):
    """The one line about an attempt of a task with these figures of its own."""
    figures = Figures(
        task=task,
        target=None,
        quality=Quality(QualityVerdict.GOOD),
        contour=Contour(f0_hz=np.zeros(0), level_db=np.zeros(0)),
        hold_s=6.0,
        own=own,
        **changes,
    )
    return attempt_words(
        figures, Permit(task=task, target=None, a4_hz=440.0, for_client=for_client)
    )


@pytest.mark.parametrize(
    ("task", "own", "words"),
    [
        (
            "bubbles",
            Bubbling(rate_hz=None, swing_db=0.4),
            "check that the tube is in the water",
        ),
        (
            "bubbles",
            Bubbling(rate_hz=15.0, swing_db=8.0, stops=((2.0, 2.6),)),
            "a little more air",
        ),
        ("bubbles", Bubbling(rate_hz=15.0, swing_db=8.0), "The bubbles went on."),
        ("hiss", Swell(rise_db=7.0, fall_db=6.0, peak_at=0.5), "grew and faded"),
        (
            "sz",
            Joined(switch_s=2.0, gap_s=0.09, hiss_s=1.4, buzz_s=3.0),
            "keep the air going",
        ),
        (
            "sz",
            Joined(switch_s=None, gap_s=None, hiss_s=3.0, buzz_s=0.0),
            "let the voice come in",
        ),
        (
            "sz",
            Joined(switch_s=None, gap_s=None, hiss_s=0.0, buzz_s=3.0),
            "begin without voice",
        ),
        ("pattern", SungPattern(notes=NOTES[:1]), "Every note was there."),
        ("pattern", SungPattern(notes=NOTES), "a little off"),
        ("pattern", SungPattern(notes=NOTES[:1], missing=(1,)), "One note was left out."),
        ("pattern", SungPattern(notes=(), missing=(0, 1)), "Some notes were left out."),
        ("pattern", SungPattern(notes=NOTES[:1], key_semitones=-12), "lower than the tone"),
        ("pattern", SungPattern(notes=NOTES[:1], key_semitones=3), "higher than the tone"),
        (
            "breath",
            PacedBreath(ins=((0.5, 2.9),), outs=((3.2, 8.0),), in_s=2.4, out_s=4.8),
            "In time.",
        ),
    ],
)
def test_a_client_reads_what_to_try_next(task, own, words):
    assert words in said(task, own)


def test_shouting_is_said_and_never_praised():
    own = SpeechFigures(
        phrases=(), voiced_s=8.0, mode_hz=196.0, over_target_share=0.95, shouted_share=0.6
    )
    words = said("level", own)
    assert "shouted" in words
    assert "Strong enough" not in words
    assert "Target reached" not in words


def test_a_rate_of_reading_is_for_the_clinician_only():
    rate = Finding("reading_rate", {"words_a_minute": 151.6})
    assert client_words("level", rate) == ""
    assert clinician_words("level", rate) == "152 words a minute."


SAID_OF = {
    "near": (
        Finding("near_target", {"near": 5, "count": 5}),
        Finding("off_target", {"near": 1, "count": 5, "semitones": -3.2}),
        Finding("off_target", {"near": 1, "count": 5, "semitones": 3.2}),
        Finding("few_phrases", {"count": 3, "asked": 5}),
    ),
    "hold": (
        Finding("off_note", {"cents": 80.0}),
        Finding("other_octave", {"octaves": 1}),
        Finding("gaps", {"count": 2, "longest_s": 0.2}),
        Finding("jumps", {"count": 1}),
        Finding("faded", {"trail_off_db": -7.0}),
        Finding("tremor", {"rate_hz": 5.0, "extent_cents": 60.0}),
        Finding("unsteady", {"sd_semitones": 0.9}),
        Finding("steady", {"sd_semitones": 0.2}),
        Finding("hard_onset"),
        Finding("breathy_onset"),
    ),
    "glide": (
        Finding("gaps", {"count": 1, "longest_s": 0.2}),
        Finding("faded", {"trail_off_db": -7.0}),
        Finding("hard_onset"),
        Finding("glide", {"span_semitones": 12.0, "evenness": 0.3}),
    ),
    "hiss": (
        Finding("uneven", {"level_sd_db": 3.0}),
        Finding("even", {"level_sd_db": 1.0}),
        Finding("swell", {"rise_db": 6.0, "fall_db": 6.0}),
    ),
    "hum": (
        Finding("gaps", {"count": 1, "longest_s": 0.2}),
        Finding("faded", {"trail_off_db": -7.0}),
        Finding("uneven", {"level_sd_db": 3.0}),
        Finding("level", {"level_sd_db": 1.0}),
        Finding("steady", {"sd_semitones": 0.2}),
    ),
    "swell": (
        Finding("off_note", {"cents": 80.0}),
        Finding("gaps", {"count": 2, "longest_s": 0.2}),
        Finding("no_swell", {"rise_db": 1.0, "fall_db": 2.0}),
        Finding("unsteady", {"sd_semitones": 0.9}),
        Finding("swell", {"rise_db": 6.0, "fall_db": 6.0}),
        Finding("hard_onset"),
    ),
    "sz": (
        Finding("only_hiss"),
        Finding("only_buzz"),
        Finding("join_gap", {"gap_s": 0.09}),
        Finding("joined"),
    ),
    "bubbles": (
        Finding("no_bubbles"),
        Finding("bubble_stops", {"count": 1, "longest_s": 0.6}),
        Finding("voice_stops", {"count": 1, "longest_s": 0.6}),
        Finding("bubbling", {"rate_hz": 15.0}),
    ),
    "pattern": (
        Finding("other_key", {"semitones": 2}),
        Finding("missing", {"count": 1}),
        Finding("added", {"count": 1}),
        Finding("off_notes", {"count": 1, "worst_cents": 60.0}),
        Finding("uneven_tempo", {"sd_percent": 20.0}),
        Finding("in_tune", {"count": 5}),
    ),
    "level": (
        Finding("shouted", {"percent": 20.0}),
        Finding("under_target", {"percent": 40.0}),
        Finding("over_target", {"percent": 90.0}),
        Finding("phrases_fade", {"trail_off_db": -6.0}),
    ),
    "breath": (
        Finding("off_pace", {"in_s": 2.0, "out_s": 4.0}),
        Finding("on_pace", {"in_s": 2.0, "out_s": 4.0}),
    ),
}


@pytest.mark.parametrize("task", SAID_OF)
def test_whatever_a_kind_finds_has_words_for_both(task):
    for finding in SAID_OF[task]:
        assert client_words(task, finding).endswith("."), finding.code
        assert clinician_words(task, finding).endswith("."), finding.code


def test_every_kind_has_its_face():
    assert set(faces()) == set(SAID_OF)


def test_an_attempt_with_nothing_to_say_of_it_is_still_said():
    assert said("level", SPEECH) == "6.0 s."


def test_the_clinician_reads_numbers_with_units():
    stops = Finding("bubble_stops", {"count": 2, "longest_s": 0.66})
    assert clinician_words("bubbles", stops) == "Bubbles stop 2 time(s), longest 0.66 s."
    off = Finding("off_notes", {"count": 1, "worst_cents": -62.0})
    assert clinician_words("pattern", off) == "1 note(s) over 50 cents off, worst −62."
    under = Finding("under_target", {"percent": 42.0})
    assert clinician_words("level", under) == "Only 42 % of the voiced time at the target level."


def test_speech_without_levels_keeps_pitch_and_rate():
    phrase = Phrase(start_s=0.6, end_s=2.4, level_db=-30.0, trail_off_db=-4.0)
    own = SpeechFigures(
        phrases=(phrase,), voiced_s=8.0, mode_hz=196.0, trail_off_db=-4.0, words_a_minute=150.0
    )
    bare = own.without_levels()
    assert (bare.phrases, bare.trail_off_db) == ((), None)
    assert (bare.mode_hz, bare.words_a_minute, bare.voiced_s) == (196.0, 150.0, 8.0)


def drawn(**extra):
    """The elements of a still line of 4 s at C4 with these marks, by class."""
    line = HeldLine(
        f0_hz=np.full(400, 261.6),
        level_db=np.full(400, -28.0),
        hop_s=0.01,
        label="attempt",
        words={"target": "", "level": "", "gap": "", "jump": "", "begin": "", "end": ""},
        ends_s=(0.0, 4.0),
        **extra,
    )
    found = {}
    for element in ElementTree.fromstring(str(held_line(line))).iter():
        found.setdefault(element.get("class"), []).append(element)
    return found


def test_a_ring_stands_for_each_bubble_and_is_missing_at_a_stop():
    whole = drawn(rings=Rings(rate_hz=10.0, start_s=0.0, end_s=4.0))
    assert len(whole["ring"]) == 40
    stopped = drawn(rings=Rings(rate_hz=10.0, start_s=0.0, end_s=4.0, stops=((1.05, 2.05),)))
    assert len(stopped["ring"]) == 30


def test_very_many_bubbles_are_thinned_evenly():
    times = Rings(rate_hz=30.0, start_s=0.0, end_s=20.0).times_s()
    assert len(times) <= MOST_RINGS
    assert np.ptp(np.diff(times)) < 1e-9


def test_notes_to_sing_stand_at_their_height_and_stretches_in_order():
    marks = drawn(
        notes=[(0.0, 1.0, Note.named("C4")), (1.0, 2.0, Note.named("E4"))],
        stretches=[
            MarkedStretch(start_s=0.0, end_s=1.5, words="hiss"),
            MarkedStretch(start_s=1.5, end_s=4.0, words="buzz"),
        ],
    )
    low, high = (float(line.get("y1")) for line in marks["wanted"])
    assert high < low
    left, right = (float(bar.get("x")) for bar in marks["stretch"])
    assert left < right


def test_the_last_seconds_stay_inside_the_drawing():
    label = drawn()["hold-end"][1].findall("{http://www.w3.org/2000/svg}text")[0]
    assert label.get("text-anchor") == "end"
