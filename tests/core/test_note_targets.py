"""Notes, glides, patterns and strong holds as the fitters find them, worked out by hand."""

import pytest

from core.errors import PlanError
from core.fitting.fit_range import pattern
from core.fitting.known import Fitting
from core.fitting.pitches import PitchSchool, fit_pitches
from core.notes.note import Note
from core.notes.range import ComfortableRange, VoiceGroup
from tests.core.fitted import baseline, proposed, said, step
from tests.factories.fitting import TASKS, fitting, line


def test_the_target_pitch_goes_a_semitone_at_a_time_from_where_the_client_speaks():
    known = {"lowest": "E3", "highest": "E4", "speaking": "A3"}
    up = proposed("gender_affirming", known=known).program
    hold, phrases = (
        next(s for s in up.steps if s.task == key)
        for key in ("target_pitch_hold", "target_pitch_phrases")
    )
    # A3 is number 57; six semitones up are 63, E♭4, under the top
    assert hold.grade.rungs == tuple(float(n) for n in range(57, 64))
    assert hold.grade.key == phrases.grade.key == "target pitch"
    first, third = hold.grade.targets[0], hold.grade.targets[2]
    assert said([first.holds[0].because], "speaks_now").params == {"note": "A3"}
    moved = said([third.holds[0].because], "moved_from_speaking").params
    assert moved == {"note": "B3", "semitones": 2, "start": "A3"}
    assert said([third.holds[0].because], "within_best")
    spoken = phrases.grade.targets[2]
    assert (spoken.count, spoken.seconds_each, spoken.note.name) == (20, 5, "B3")
    # five an attempt, with the tone before each five
    assert [spoken.asked(place).aim for place in range(spoken.attempts)] == ["B3, 5 phrases"] * 4
    assert said([spoken.because], "moved_from_speaking").params["semitones"] == 2
    assert said([spoken.because], "usual").params == {"amount": 20, "unit": "phrases"}
    down = proposed("gender_affirming", known=known, options={"direction": "down"}).program
    # never within three semitones of the lowest: G3, number 55
    lower = next(s for s in down.steps if s.task == "target_pitch_hold")
    assert lower.grade.rungs == (57, 56, 55)
    wish = proposed("gender_affirming", known=known, options={"target": "B3"}).program
    assert next(s for s in wish.steps if s.task == "target_pitch_hold").grade.rungs == (57, 58, 59)


def test_a_target_pitch_outside_the_range_and_an_unknown_speaking_pitch_are_said():
    known = {"lowest": "E3", "highest": "E4", "speaking": "A3"}
    high = proposed("gender_affirming", "release", known=known, options={"target": "C5"})
    # nothing else stands in the place of a target pitch
    outside = said((one.why for one in high.left_out), "above_comfort")
    assert outside.params["note"] == "C5"
    unknown = proposed("gender_affirming", "release")
    assert said((one.why for one in unknown.left_out), "speaking_missing")
    unasked = proposed("speaking_pitch", "release", known=known, options={"direction": "unasked"})
    assert said((one.why for one in unasked.left_out), "direction_unasked")
    assert said(unasked.program.asked, "ask_pitch_direction")
    assert said(unknown.program.asked, "measure_speaking")


def test_standard_notes_lie_a_margin_inside_or_are_refused_with_those_outside():
    wide = ComfortableRange(lowest=Note.named("A3"), highest=Note.named("A4"))
    found = fit_pitches(wide, VoiceGroup.WOMEN, PitchSchool.STANDARD)
    assert (found.shift_semitones, found.margin_semitones) == (0, 2)
    assert dict(found.because.params) == {
        "group": "women",
        "margin": 2,
        "lowest": "A3",
        "highest": "A4",
    }
    narrow = ComfortableRange(lowest=Note.named("B3"), highest=Note.named("A♭4"))
    assert fit_pitches(narrow, VoiceGroup.WOMEN, PitchSchool.STANDARD).margin_semitones == 1
    low = ComfortableRange(lowest=Note.named("G3"), highest=Note.named("G4"))
    with pytest.raises(PlanError) as refused:
        fit_pitches(low, VoiceGroup.WOMEN, PitchSchool.STANDARD)
    assert refused.value.params == {"notes": ["G4"], "margin": 1}
    with pytest.raises(PlanError) as small:
        fit_pitches(
            ComfortableRange(lowest=Note.named("C4"), highest=Note.named("F4")),
            VoiceGroup.WOMEN,
            PitchSchool.SHIFTED,
        )
    assert small.value.params == {"semitones": 5, "needed": 6}


def test_a_falling_hum_goes_from_the_middle_of_the_range_to_its_foot():
    known = {"lowest": "G3", "highest": "G4"}
    glide = step(proposed("cool_down", known=known), "cool_down_glides").target
    # G3 + 6 = C♯4; the foot is two semitones above the lowest
    assert (glide.start.name, glide.end.name) == ("C♯4", "A3")
    falls = said([glide.because], "falls_from_the_middle").params
    assert (falls["middle"], falls["low"]) == ("C♯4", "A3")
    two = step(proposed("cool_down", known={"lowest": "C4", "highest": "D4"}), "cool_down_glides")
    assert (two.target.start.name, two.target.end.name) == ("C♯4", "C4")


def test_hiss_to_buzz_begins_a_third_of_the_way_up_and_moves_two_and_four_semitones():
    made = proposed("breath_beats", known={"lowest": "G3", "highest": "G4", "s_s": (2.5,)})
    found = step(made, "hiss_to_buzz")
    # A3–F4 are 8 semitones: a third is 2: B3, C♯4, E♭4
    assert [target.note.name for target in found.grade.targets] == ["B3", "C♯4", "E♭4"]
    assert found.grade.rungs == (59, 61, 63)
    # 80 % of an /s/ of 2.5 s
    assert found.target.hiss_s == 2.0
    third = said([found.target.because], "third_of_the_way").params
    assert (third["note"], third["low"], third["high"]) == ("B3", "A3", "F4")
    small = step(proposed("breath_beats", known={"lowest": "C4", "highest": "F4"}), "hiss_to_buzz")
    # C♯4–E4 are 3 semitones: D4, and two up is E4, the top; four up are too many
    assert [target.note.name for target in small.grade.targets] == ["D4", "E4"]
    shortest = proposed("breath_beats", known={"s_s": (1.3,)})
    assert step(shortest, "hiss_to_buzz").target.hiss_s == 1.0


def test_a_pattern_too_wide_for_the_range_is_refused_with_its_numbers():
    with pytest.raises(PlanError) as refused:
        pattern(fitting(lowest="C4", highest="G4"), TASKS["pattern_five"], line("pattern_five"))
    # C4–G4 less a semitone at each end: C♯4–F♯4 are 5 semitones, a fifth is 7
    assert (refused.value.code, refused.value.params) == (
        "pattern_too_wide",
        {"span": 7, "semitones": 5, "ceiling": "F♯4"},
    )
    # seven semitones between the margins are just enough: one key
    just = pattern(fitting(lowest="C4", highest="B4"), TASKS["pattern_five"], line("pattern_five"))
    assert [key.name for key in just.target.keys] == ["D4"]
    through = said([just.target.because], "through_the_keys").params
    assert (through["keys"], through["start"], through["floor"]) == (1, "D4", "D4")
    assert (through["top_key"], through["top"]) == ("D4", "A4")


def test_speaking_voice_patterns_stop_at_the_transition_known_or_two_thirds_up():
    options = {"ceiling": "transition"}
    made = Fitting(baseline=baseline(lowest="C4", highest="C5"), options=options)
    found = pattern(made, TASKS["pattern_three"], line("pattern_three"))
    # 12 semitones: two thirds are 8, A♭4; the first rung stays a semitone under it
    assert said(made.notes.assumed, "transition_assumed").params == {"note": "A♭4"}
    assert said(made.notes.asked, "note_transition")
    assert max(note.number for note in found.target.notes) == Note.named("G4").number
    assert max(found.grade.targets[-1].notes).name == "A♭4"
    known = Fitting(baseline=baseline(lowest="C4", highest="C5", transition="G4"), options=options)
    stopped = pattern(known, TASKS["pattern_three"], line("pattern_three"))
    assert said([stopped.grade.because], "ceiling_transition").params == {"transition": "G4"}
    assert max(stopped.grade.targets[0].notes).name == "F♯4"
    assert max(stopped.grade.targets[-1].notes).name == "G4"
    assert not said(known.notes.assumed, "transition_assumed")


def test_strong_holds_of_several_vowels_and_of_one():
    options = {"known": {"speaking": "A3", "strong_s": (45.0,)}}
    one = step(proposed("loudness_longest", **options), "loud_ah").grade
    # toward the own longest, at most 40 s
    assert (one.goal, one.shown) == (40.0, 45.0)
    several = step(proposed("loudness_vowels", **options), "loud_vowels").grade
    assert (several.goal, several.shown) == (10.0, 45.0)
    assert said([one.because], "own_longest_strong")
    assert said([several.because], "fixed_holds")
