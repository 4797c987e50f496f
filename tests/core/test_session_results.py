"""What a step of a home session comes to for the rules: each attempt by itself and the whole, by hand."""

import pytest

from core.grading.step_done import step_done
from core.kinds.in_session import TriedAttempt
from core.kinds.pattern.figures import SungNote, SungPattern
from core.sound.figures import Break
from tests.core.fitted import proposed
from tests.core.histories import step_of, the_cook
from tests.factories.session_attempts import tried

COOK, POWER = the_cook()
GAP = Break(1.0, 1.3, "gap")
JUMP = Break(2.0, 2.0, "jump")


def test_holds_each_by_itself_and_the_whole():
    found = step_done(
        POWER,
        [
            tried(0, 7.0, note="B♭3", f0_sd_semitones=0.2, trail_off_db=-1.0, over_db=0.5),
            tried(1, 3.5, note="C4", f0_sd_semitones=0.6, trail_off_db=-5.0, breaks=(GAP, JUMP)),
        ],
        {"strain": 2.0},
        device="desk microphone",
    )
    assert (found.step_id, found.rung, found.asked, found.notes) == (POWER.step_id, 1, 10, 5)
    assert (found.said, found.device) == ({"strain": 2.0}, "desk microphone")
    first, second = found.trials
    assert (first.note, second.note, first.heard) == ("0 B♭3", "1 C4", True)
    assert (first.figures["share"], second.figures["share"]) == (100.0, 50.0)
    assert (first.figures["best_s"], second.figures["best_s"]) == (7.0, 3.5)
    assert (second.figures["pitch_sd"], second.figures["trail_off"]) == (0.6, -5.0)
    assert (first.figures["over_db"], second.figures["over_db"]) == (0.5, None)
    assert (first.figures["gaps"], second.figures["gaps"], second.figures["jumps"]) == (0, 1, 1)
    # one gap in two attempts; the middle of 0.2 and 0.6
    assert found.figures["gaps_each"] == 0.5
    assert found.figures["pitch_sd"] == pytest.approx(0.4)
    # figures of single notes are no figures of the whole
    assert "share" not in found.figures
    assert "broken_keys" not in found.figures


def test_what_was_timed_has_its_seconds_and_nothing_heard():
    found = step_done(POWER, [tried(0, 6.3, note="B♭3", figures=None)], {})
    (only,) = found.trials
    assert (only.heard, only.figures["best_s"], only.figures["share"]) == (False, 6.3, 90.0)
    assert only.figures["pitch_sd"] is None
    assert "gaps_each" not in found.figures
    assert (found.said, found.device) == ({}, "")


def test_strength_against_what_was_aimed_at_and_distance_from_the_note():
    found = step_done(
        POWER,
        [
            tried(0, 7.0, note="B♭3", over_db=9.0, aimed_db=8.0, pitch_error_cents=-40.0),
            tried(1, 7.0, note="C4", over_db=9.0),
        ],
        {},
    )
    aimed, free = found.trials
    assert (aimed.figures["over_aim"], aimed.figures["off_note"]) == (1.0, -0.4)
    assert "over_aim" not in free.figures
    assert "off_note" not in free.figures


def sung(*cents, missing=()):
    notes = tuple(
        SungNote(name="C4", start_s=n, end_s=n + 0.9, cents=off) for n, off in enumerate(cents)
    )
    return SungPattern(notes=notes, missing=missing)


def test_a_key_broke_where_a_note_of_it_is_missing():
    program = proposed("range_full").program
    step = next(one for one in program.steps if one.kind == "pattern")
    whole = {"task": "pattern", "own": sung(10.0, -20.0)}
    found = step_done(
        step,
        [
            tried(0, 4.0, **whole),
            tried(1, 4.0, **whole),
            tried(2, 4.0, **whole),
            tried(3, 4.0, task="pattern", own=sung(10.0, missing=(1,))),
            tried(4, 4.0, figures=None),
        ],
        {},
    )
    # one of the four that were heard
    assert found.figures["broken_keys"] == 25.0
    assert [one.note for one in found.trials] == ["0", "1", "2", "3", "4"]


def test_what_is_counted_is_done_by_its_count_and_what_is_timed_by_its_time():
    program = proposed("release").program
    clock, sigh = program.steps[0], step_of(program, "easy_sigh")
    counted = step_done(
        sigh, [TriedAttempt(place=0, seconds=9.0, target_s=0.0, count=3, count_asked=4)], {}
    )
    assert counted.figures == {"done": 75.0}
    unknown = step_done(sigh, [TriedAttempt(place=0, seconds=9.0, target_s=0.0, count_asked=4)], {})
    assert unknown.figures == {"done": None}
    timed = step_done(
        clock,
        [
            TriedAttempt(place=0, seconds=30.0, target_s=60.0),
            TriedAttempt(place=0, seconds=60.0, target_s=60.0),
        ],
        {},
    )
    # 90 of 120 s
    assert timed.figures == {"done_s": 90.0, "done": 75.0}
    assert [one.figures["done"] for one in timed.trials] == [50.0, 100.0]
    assert (
        "done"
        not in step_done(clock, [TriedAttempt(place=0, seconds=30.0, target_s=0.0)], {}).figures
    )
