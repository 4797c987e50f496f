"""Everything in a step that is set by hand: read, written, limited, told why, and held by the gate."""

from dataclasses import fields

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.catalogue.touches import Touch
from core.editing.change_rung import on_rung
from core.editing.step_settings import nudged, setting_of, settings_of
from core.editing.step_targets import move_hold, nudge, set_by_hand, with_key
from core.errors import CoreError, PlanError
from core.program.presentation import Presentation
from core.program.program import Program
from core.program.step import Step
from core.program.targets import Blow, Counted, GlidePath, Join, Pace, Phrases, Speech, Timed
from core.program.targets.pattern import Pattern
from core.safety.program_gate import touches_of
from tests.core.fitted import proposed, said

LOUD = {"speaking": "A3", "strong_s": (9.0,), "strong_over_db": 6.0}
SCHOOLS = ("sustained", "breath_beats", "breath_hiss", "semi_shallow", "range_full", "release")


@pytest.fixture(scope="module")
def tube() -> Program:
    return proposed("semi_shallow").program


@pytest.fixture(scope="module")
def loud() -> Program:
    return proposed("loudness_vowels", known=LOUD, options={"aim": "decibel"}).program


@pytest.fixture(scope="module")
def ladder() -> Program:
    return proposed("sustained").program


def of(program: Program, kind: type) -> Step:
    return next(step for step in program.steps if isinstance(step.target, kind))


def text(step: Step, key: str) -> str:
    return setting_of(step, key).text


def test_every_number_of_a_target_can_be_set_but_what_the_task_itself_is():
    of_the_task = {
        "kind", "because", "unit", "air", "tune", "swell", "holds",
    }  # fmt: skip
    for target in (Blow, Counted, GlidePath, Join, Pace, Pattern, Phrases, Speech, Timed):
        named = {one.name for one in fields(target)}
        can = {one.key for one in target.settables}
        assert named - can <= of_the_task, target
        assert can <= named, target
    shown = {one.name for one in fields(Presentation)}
    step = proposed("loudness_vowels", known=LOUD).program.steps
    can = {one.settable.key for each in step for one in settings_of(each)}
    assert {f"presented.{name}" for name in shown} <= can


def test_each_setting_says_its_unit_its_limits_and_reads_what_it_writes():
    for school in SCHOOLS:
        for step in proposed(school).program.steps:
            for one in settings_of(step):
                own = one.settable
                if own.sort == "number":
                    assert own.unit
                    assert own.low < own.high
                if one.value is not None:
                    assert own.read(one.text) == one.value or own.grid != 1, own.key


def test_a_glide_set_by_hand_is_no_longer_than_the_voice_shown(ladder):
    glide = ladder.steps[1]
    # the cook's “ah” is 9.4 s: 8 s glides fit, ten do not
    assert glide.target.seconds == 8
    longer = set_by_hand(ladder, glide.step_id, "seconds", "10")
    assert said(longer.problems(), "longer_than_shown").params["shown_s"] == 9.4
    assert set_by_hand(ladder, glide.step_id, "seconds", "9,0").problems() == ()
    power = ladder.steps[3].step_id
    assert said(move_hold(ladder, power, 0, seconds=4.0).problems(), "longer_than_shown")
    for odd in ("0", "-3", "900", "nan", "inf", "", "long", "1e400", "8\x00"):
        with pytest.raises(PlanError):
            set_by_hand(ladder, glide.step_id, "seconds", odd)


def test_the_path_of_a_glide_is_set_by_notes_and_turns_back(ladder):
    glide = ladder.steps[1]
    changed = set_by_hand(ladder, glide.step_id, "start", "Bb3").steps[1]
    assert changed.target.start.name == "B♭3"
    assert said(changed.target.reasons, "by_hand")
    back = set_by_hand(ladder, glide.step_id, "back", "yes").steps[1]
    assert back.target.said("oh") == "“oh” G3→G4 and back, 8 s"
    outside = set_by_hand(ladder, glide.step_id, "end", "C5")
    assert said(outside.problems(), "above_highest") or outside.problems()
    with pytest.raises(CoreError, match="note_unknown"):
        set_by_hand(ladder, glide.step_id, "end", "H4")
    with pytest.raises(PlanError, match="glide_without_span"):
        set_by_hand(ladder, glide.step_id, "end", "G3")


def test_notes_of_a_ladder_are_typed_and_keep_their_seconds_by_place(ladder):
    power = ladder.steps[3]
    assert text(power, "notes") == "B♭3 C4 D4 E♭4 F4"
    moved = move_hold(ladder, power.step_id, 1, seconds=1.0)
    # seconds that differ have no one number
    assert text(moved.steps[3], "seconds_each") == ""
    typed = set_by_hand(moved, power.step_id, "notes", "C4, D4 E4 F4 G4 A4").steps[3]
    assert [hold.seconds for hold in typed.holds] == [6.5, 7.5, 6.5, 6.5, 6.5, 6.5]
    all_eight = set_by_hand(ladder, power.step_id, "seconds_each", "8").steps[3]
    assert {hold.seconds for hold in all_eight.holds} == {8.0}
    for odd in ("", "C4 X9", " ".join(["C4"] * 13)):
        with pytest.raises(CoreError):
            set_by_hand(ladder, power.step_id, "notes", odd)


def test_depth_and_level_are_set_by_hand_within_what_home_and_the_client_allow(tube, loud, ladder):
    straw = tube.steps[0]
    deeper = set_by_hand(tube, straw.step_id, "tube.depth_cm", "2")
    # 1 cm more of water is 1 cmH₂O more
    before, after = straw.tube.back_pressure_cmh2o, deeper.steps[0].tube.back_pressure_cmh2o
    assert after - before == pytest.approx(1.0, abs=0.1)
    assert deeper.problems() == ()
    too_deep = said(set_by_hand(tube, straw.step_id, "tube.depth_cm", "3.5").problems(), "too_deep")
    assert too_deep.params["deepest_cm"] == 3
    narrow = set_by_hand(tube, straw.step_id, "tube.bore_mm", "3").steps[0]
    assert narrow.tube.back_pressure_cmh2o > straw.tube.back_pressure_cmh2o
    phrases = next(s for s in loud.steps if s.task == "own_phrases")
    assert set_by_hand(loud, phrases.step_id, "level.over_db", "5").problems() == ()
    louder = set_by_hand(loud, phrases.step_id, "level.over_db", "6.5")
    assert said(louder.problems(), "louder_than_shown")
    for key in ("tube.depth_cm", "level.over_db", "seconds", "kind", "because", ""):
        with pytest.raises(PlanError):
            set_by_hand(ladder, ladder.steps[3].step_id, key, "2")
    for odd in ("0", "-1", "99", "nan"):
        with pytest.raises(PlanError):
            set_by_hand(tube, straw.step_id, "tube.depth_cm", odd)


def test_the_sound_is_another_word_and_never_none(ladder):
    power = ladder.steps[3].step_id
    assert set_by_hand(ladder, power, "sound", " noh ").steps[3].sound == "noh"
    for odd in ("", "   ", "x" * 61):
        with pytest.raises(PlanError, match="setting_unreadable"):
            set_by_hand(ladder, power, "sound", odd)


def test_effort_is_set_from_and_to_and_never_over_nine():
    program = proposed("loudness_vowels", known=LOUD, options={"aim": "effort"}).program
    step = next(s for s in program.steps if s.level and s.level.effort_high)
    assert (
        set_by_hand(program, step.step_id, "level.effort_low", "6")
        .step(step.step_id)
        .level.effort_low
        == 6
    )
    for key, odd in (
        ("level.effort_high", "10"),
        ("level.effort_low", "9.5"),
        ("level.effort_high", "3"),
    ):
        with pytest.raises(PlanError):
            set_by_hand(program, step.step_id, key, odd)


def test_a_paced_breath_keeps_its_ladder_at_another_tempo_and_is_no_longer_than_the_own_s():
    program = proposed("breath_beats", known={"s_s": (8.0,)}).program
    step = of(program, Pace)
    # 8.0 s of /s/ at 100 beats/min: 13.3 beats; at 60: 8 beats
    slow = set_by_hand(program, step.step_id, "tempo_bpm", "60").step(step.step_id)
    assert slow.grade.shown == pytest.approx(8.0)
    assert slow.grade.words[0] == f"out {step.grade.rungs[0]:g} beats = {step.grade.rungs[0]:.1f} s"
    allowed = set_by_hand(program, step.step_id, "beats_out", "13")
    assert allowed.problems() == ()  # 13 beats at 100 = 7.8 s
    longer = set_by_hand(program, step.step_id, "beats_out", "14")  # 8.4 s
    assert said(longer.problems(), "air_longer_than_shown").params["most_s"] == 8.0
    # and the last rung: 12 beats at 60 are 12 s
    at_sixty = set_by_hand(program, step.step_id, "tempo_bpm", "60")
    assert said(at_sixty.problems(), "air_longer_than_shown")


def test_a_hiss_is_no_longer_than_110_percent_of_the_own_best():
    program = proposed("breath_hiss", known={"s_s": (20.0,)}).program
    step = of(program, Blow)
    assert set_by_hand(program, step.step_id, "seconds", "22").problems() == ()
    over = set_by_hand(program, step.step_id, "seconds", "22.5")
    assert said(over.problems(), "air_longer_than_shown").params["seconds"] == 22.5


def test_what_a_rung_of_targets_asks_for_stays_when_it_is_left_and_come_back_to(tube):
    straw = tube.steps[0]
    third = on_rung(tube, straw.step_id, 2)
    assert isinstance(third.steps[0].target, GlidePath)
    set_third = set_by_hand(third, straw.step_id, "seconds", "5")
    again = on_rung(on_rung(set_third, straw.step_id, 0), straw.step_id, 2)
    assert again.steps[0].target.seconds == 5


def test_a_setting_is_nudged_along_its_grid_and_never_past_its_limits(ladder, tube):
    glide, straw = ladder.steps[1], tube.steps[0]
    assert nudge(ladder, glide.step_id, "seconds", 2).steps[1].target.seconds == 9.0
    assert nudge(ladder, glide.step_id, "end", -2).steps[1].target.end.name == "F4"
    assert nudge(tube, straw.step_id, "tube.depth_cm", -99).steps[0].tube.depth_cm == 0.5
    whole = nudge(ladder, ladder.steps[3].step_id, "notes", 1).steps[3]
    assert [hold.note.name for hold in whole.holds] == ["B3", "C♯4", "E♭4", "E4", "F♯4"]
    with pytest.raises(PlanError, match="setting_unknown"):
        nudged(glide, "back", 1)


def test_keys_of_a_pattern_go_down_from_the_first_and_then_up():
    program = proposed("range_full", known={"speaking": "A3"}).program
    step = of(program, Pattern)
    first = step.target.keys[0]
    less = with_key(program, step.step_id, first.up(1).name).step(step.step_id)
    assert first.up(1) not in less.target.keys
    again = with_key(program.with_step(less), step.step_id, first.up(1).name).step(step.step_id)
    assert again.target.keys == step.target.keys
    # without its first key it begins at the nearest that is left
    begun = with_key(program, step.step_id, first.name).step(step.step_id)
    assert abs(begun.target.keys[0].number - first.number) == 1
    one = set_by_hand(program, step.step_id, "keys", first.name)
    with pytest.raises(PlanError, match="last_key_stays"):
        with_key(one, step.step_id, first.name)
    high = with_key(program, step.step_id, "C6")
    assert any("C6" in str(problem) or "above" in str(problem) for problem in high.problems())


def test_lying_down_touches_lying_flat_and_a_cue_is_bounded(ladder):
    glide = ladder.steps[1]
    lying = set_by_hand(ladder, glide.step_id, "presented.position", "lying").steps[1]
    assert Touch.LYING_FLAT in touches_of(lying)
    assert Touch.LYING_FLAT not in touches_of(glide)
    cued = set_by_hand(ladder, glide.step_id, "presented.cue", "  let the  jaw drop ").steps[1]
    assert cued.presented.cue == "let the jaw drop"
    for odd in ("x" * 121, "a\x00b"):
        with pytest.raises(PlanError):
            set_by_hand(ladder, glide.step_id, "presented.cue", odd)
    with pytest.raises(PlanError):
        set_by_hand(ladder, glide.step_id, "presented.position", "floating")
    with pytest.raises(PlanError, match="cue_too_long"):
        Presentation(cue="x" * 121)


@settings(max_examples=150)
@given(st.data())
def test_whatever_is_typed_either_holds_or_is_refused_and_no_problem_is_lost(data):
    program = proposed(data.draw(st.sampled_from(SCHOOLS))).program
    step = data.draw(st.sampled_from(program.steps))
    key = data.draw(st.sampled_from([one.settable.key for one in settings_of(step)]))
    typed = data.draw(
        st.one_of(
            st.text(max_size=12),
            st.floats().map(str),
            st.integers(-5, 700).map(str),
            st.sampled_from(["C4", "C4 D4", "1 2 3", "yes", "", "lying", "F♯5"]),
        )
    )
    try:
        changed = set_by_hand(program, step.step_id, key, typed)
    except CoreError:
        return
    assert Program(**{f.name: getattr(changed, f.name) for f in fields(Program)}) == changed
    longest = max(
        (s for one in changed.steps for s in one.target.voice_lengths_s(climbed=bool(one.rung))),
        default=0,
    )
    assert longest <= program.shown_s or said(changed.problems(), "longer_than_shown")
