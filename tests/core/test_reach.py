"""What lies within reach: seconds of voice, forms, tubes, hold goals, notes moved into a range."""

from dataclasses import replace

import pytest

from core.catalogue.tasks import shipped_tasks
from core.catalogue.touches import Touch
from core.editing.change_rung import step_on_rung
from core.errors import PlanError
from core.fitting.back_pressure import back_pressure
from core.fitting.fit_semi_occluded import forms
from core.fitting.fitted import reachable_s
from core.fitting.hold_goals import hold_goal
from core.fitting.known import Fitting
from core.fitting.pitches import PitchSchool, fit_pitches
from core.notes.note import Note
from core.notes.range import ComfortableRange, VoiceGroup
from core.safety.program_gate import touches_of
from tests.core.fitted import baseline, proposed, said, step
from tests.factories.fitting import line

TASKS = shipped_tasks()
WIDE = {"lowest": "C3", "highest": "C5", "speaking": "A3"}


def fitting(options=None, forbidden=frozenset(), **known):
    return Fitting(baseline=baseline(**known), options=options or {}, forbidden=forbidden)


@pytest.mark.parametrize(
    ("best", "wanted", "share", "seconds", "why"),
    [
        (10.0, 7.0, 0.8, 7.0, ("within_best", {"seconds": 7.0, "best_s": 10.0})),
        # 80 % of 10 = 8 is just enough for 8, not for 9
        (10.0, 8.0, 0.8, 8.0, ("within_best", {"seconds": 8.0, "best_s": 10.0})),
        (
            10.0,
            9.0,
            0.8,
            8.0,
            ("share_of_best", {"seconds": 8.0, "wanted_s": 9.0, "percent": 80.0, "best_s": 10.0}),
        ),
        (
            10.0,
            12.0,
            1.0,
            10.0,
            (
                "share_of_best",
                {"seconds": 10.0, "wanted_s": 12.0, "percent": 100.0, "best_s": 10.0},
            ),
        ),
        (
            0.4,
            7.0,
            0.8,
            0.4,
            ("share_of_best", {"seconds": 0.5, "wanted_s": 7.0, "percent": 80.0, "best_s": 0.4}),
        ),
    ],
)
def test_seconds_of_voice_within_the_best_phonation_time(best, wanted, share, seconds, why):
    found, because = reachable_s(fitting(phonation_s=(best,)), wanted, share=share)
    assert found == seconds
    assert (because.code, dict(because.params)) == why


def test_seconds_of_voice_where_no_phonation_time_is_known():
    shown = fitting(phonation_s=(), probes_s=(6.0,))
    # 80 % of the longest voice shown, 6 s, is 4.8, floored to 4.5
    assert reachable_s(shown, 7.0)[0] == 4.5
    assert said([reachable_s(shown, 7.0)[1]], "within_longest_voice").params == {
        "seconds": 4.5,
        "best_s": 6.0,
    }
    assert reachable_s(shown, 3.0)[0] == 3.0
    assert [one.code for one in shown.notes.asked] == ["measure_phonation"]
    assert reachable_s(fitting(phonation_s=(), probes_s=(0.4,)), 7.0)[0] == 0.4
    nothing = fitting(phonation_s=(), probes_s=())
    seconds, why = reachable_s(nothing, 7.0)
    assert (seconds, why.code, dict(why.params)) == (
        3.0,
        "short_without_phonation",
        {"seconds": 3.0},
    )
    assert said(nothing.notes.assumed, "short_voice_assumed").params == {"seconds": 3.0}
    assert said(nothing.notes.asked, "measure_phonation")
    assert reachable_s(fitting(phonation_s=(), probes_s=()), 2.0)[0] == 2.0


def test_each_form_asks_for_what_its_name_says():
    grade = forms(fitting(**WIDE), TASKS["lip_trill"], line("lip_trill")).grade
    asks = dict(zip(grade.codes, grade.targets, strict=True))
    # 80 % of a longest /s/ of 17.6 s are 14.08
    assert (asks["air_only"].seconds_a_side, asks["air_only"].air) == (14, True)
    assert asks["one_note"].swell is False
    assert asks["swell"].swell is True
    low, high = Note.named("D3"), Note.named("B♭4")  # two semitones inside
    assert (asks["glide_up"].start, asks["glide_up"].end) == (low, high)
    assert (asks["glide_down"].start, asks["glide_down"].end) == (high, low)
    assert (asks["up_and_down"].back, asks["glide_up"].back) == (True, False)
    assert (asks["three_rises"].times, asks["glide_up"].times) == (3, 1)
    assert asks["five_note_scale"].degrees == (1, 2, 3, 4, 5, 4, 3, 2, 1)
    assert max(asks["octave_and_ninth_scale"].degrees) == 9
    # D3 to B♭4 are 20 semitones: the widest tune spans an octave, and there is room for a second key
    tune = asks["tune"]
    assert (tune.tune, max(tune.degrees), len(tune.keys)) == ("Quay steps", 8, 2)
    assert abs(tune.keys[1].number - tune.keys[0].number) == 2
    assert low <= min(tune.notes)
    assert max(tune.notes) <= high
    phrase = asks["phrase_then_open"]
    assert (phrase.count, phrase.unit, phrase.seconds_each) == (5, "phrases", 8)
    water = forms(fitting(**WIDE), TASKS["straw_water"], line("straw_water"))
    assert (water.target.seconds, water.kind) == (5.0, "bubbles")


@pytest.mark.parametrize("task", ["lip_trill", "tongue_trill", "straw_air", "cheeks_puffed"])
@pytest.mark.parametrize(
    ("longest_s", "seconds"),
    [((9.0,), 7.0), ((30.0,), 15.0), ((4.0,), 3.0), ((), 4.0)],  # 7.2, 24, 3.2; none known
)
def test_air_alone_takes_at_most_four_fifths_of_the_longest_s(task, longest_s, seconds):
    found = forms(fitting(s_s=longest_s, **WIDE), TASKS[task], line(task))
    assert (found.target.air_only, found.target.seconds) == (True, seconds)
    assert found.grade.code == "air_only"


def test_air_alone_is_left_out_where_the_air_does_not_last():
    notes = fitting(s_s=(3.5,), **WIDE)  # 80 % are 2.8 s, under the 3 s of a clock
    found = forms(notes, TASKS["lip_trill"], line("lip_trill"))
    assert found.grade.code == "one_note"
    assert said(notes.notes.reasons, "air_left_out").params["seconds"] == 3.5


def test_a_school_says_with_which_form_it_begins():
    def begun(**params):
        return forms(fitting(**WIDE), TASKS["lip_trill"], line("lip_trill", **params)).grade.code

    assert begun() == "air_only"
    assert begun(start="glide_up") == "glide_up"
    assert begun(start="nothing known") == "air_only"
    seconds = forms(
        fitting(**WIDE), TASKS["lip_trill"], line("lip_trill", start="one_note", seconds=3)
    )
    assert seconds.target.holds[0].seconds == 3
    assert seconds.kind == "hold"


def test_a_scale_needs_its_span_between_the_margins():
    # a fifth is 7 semitones: D4–A4 between the margins of C4–B4 are just 7
    just = forms(fitting(lowest="C4", highest="B4"), TASKS["lip_trill"], line("lip_trill")).grade
    assert "five_note_scale" in just.codes
    scale = just.targets[just.codes.index("five_note_scale")]
    assert [key.name for key in scale.keys] == ["D4"]
    small = fitting(lowest="C4", highest="B♭4")
    codes = forms(small, TASKS["lip_trill"], line("lip_trill")).grade.codes
    assert "five_note_scale" not in codes
    left_out = said(small.notes.reasons, "form_left_out").params
    assert left_out["task"] == "Lip trill"


def test_the_tube_for_tension_is_shallow_for_insufficiency_deeper():
    def tube(task, **params):
        made = fitting(**params.pop("known", {}), forbidden=params.pop("forbidden", frozenset()))
        return forms(made, TASKS[task], line(task, **params)).tube

    shallow = tube("straw_water")
    assert (shallow.depth_cm, shallow.deepest_cm) == (1.0, 3.0)
    assert said([shallow.because], "tube_shallow").params["deepest_cm"] == 3
    deep = tube("wide_tube_water", purpose="insufficiency", depth=3)
    assert (deep.depth_cm, deep.deepest_cm) == (3.0, 5.0)
    assert said([deep.because], "tube_deep").params["deepest_cm"] == 5
    not_deep = frozenset({Touch.DEEP_WATER})
    assert tube("wide_tube_water", purpose="insufficiency", forbidden=not_deep).deepest_cm == 4.5
    air = tube("straw_air")
    assert (air.depth_cm, air.deepest_cm) == (0.0, 0.0)
    assert said([air.because], "tube_in_air")
    assert air.back_pressure_cmh2o == round(air.back_pressure_cmh2o, 1)
    assert tube_is_none()


def tube_is_none():
    return forms(fitting(), TASKS["lip_trill"], line("lip_trill")).tube is None


@pytest.mark.parametrize(
    ("known", "flow", "codes"),
    [
        # 2727 mL ÷ 9.4 s = 290 mL/s in 5 mm: Reynolds over 2300, so roughly
        ({}, 290, {"tube_resists_roughly", "own_quotient"}),
        ({"height_cm": None}, 150, {"tube_resists", "assumed"}),
        ({"vital_capacity_ml": 9000.0, "phonation_s": (1.0,)}, 1000, {"own_quotient"}),
        ({"vital_capacity_ml": 300.0, "phonation_s": (30.0,)}, 20, {"own_quotient"}),
    ],
)
def test_the_stream_is_the_clients_own_where_it_is_known(known, flow, codes):
    tube = forms(fitting(**known), TASKS["straw_water"], line("straw_water")).tube
    assert tube.flow_ml_s == flow
    assert all(said([tube.because], code) for code in codes)


def test_what_a_tube_resists_worked_out_by_hand():
    """5 mm, 20 cm, 2 cm deep. 150 mL/s: 7.639 m/s, Re 2292, ½ρv² 33.27 Pa = 0.3392 cmH₂O, friction
    64 ÷ Re, viscous 37.16 Pa = 0.3789 cmH₂O. 300 mL/s: Re 4584, 133.1 Pa = 1.3569, 0.316 ÷ Re^¼,
    204.4 Pa = 2.0844."""
    laminar = back_pressure(bore_mm=5, length_cm=20, depth_cm=2, flow_ml_s=150)
    assert laminar.laminar
    assert laminar.reynolds == pytest.approx(2291.8, rel=1e-4)
    assert laminar.kinetic == pytest.approx(0.33922, rel=1e-4)
    assert laminar.viscous == pytest.approx(0.37891, rel=1e-4)
    assert laminar.total == pytest.approx(2.71813, rel=1e-4)
    turbulent = back_pressure(bore_mm=5, length_cm=20, depth_cm=2, flow_ml_s=300)
    assert not turbulent.laminar
    assert turbulent.kinetic == pytest.approx(1.35687, rel=1e-4)
    assert turbulent.viscous == pytest.approx(2.08442, rel=1e-3)


def goal(options, **known):
    return hold_goal(fitting(options, **known))


def test_every_hold_goal_says_what_it_was_taken_from():
    assert goal({}).because.code == "goal_own_s"
    steady = goal({"goal": "steady"})
    assert (steady.seconds, steady.rungs_s) == (None, (6.5,))
    assert dict(steady.because.params) == {"seconds": 6.5}
    typed = goal({"goal": "typed", "goal_s": "12"})
    assert (typed.seconds, typed.because.code) == (12.0, "goal_typed")
    airflow = goal({"goal": "airflow"})
    # 2727 mL ÷ 80 mL/s = 34.1 s
    assert airflow.seconds == pytest.approx(34.09, abs=0.01)
    assert airflow.because.params["volume_ml"] == pytest.approx(2727, abs=1)
    assert airflow.because.params["source"].code == "capacity_estimated"
    half = goal({"goal": "share", "share": "0.5"})
    assert half.seconds == 4.7
    assert dict(half.because.params) == {"percent": 50.0, "best_s": 9.4}
    assert goal({"goal": "share", "share": "0.3"}).seconds == pytest.approx(2.82)
    assert goal({"goal": "share", "share": "2"}).seconds == 18.8
    for share in ("0.29", "2.01"):
        with pytest.raises(PlanError) as refused:
            goal({"goal": "share", "share": share})
        assert refused.value.params == {
            "which": "share of the own best",
            "came": float(share),
            "low": 0.3,
            "high": 2,
        }


def test_a_goal_ends_at_ninety_seconds_and_a_typed_one_is_refused_beyond():
    assert goal({}, s_s=(110.0,)).seconds == 90
    with pytest.raises(PlanError, match="hold_out_of_limits"):
        goal({"goal": "typed", "goal_s": "110"})
    assert goal({}, probes_s=(), phonation_s=(0.5,)).rungs_s[0] == 0.5


@pytest.mark.parametrize(
    ("ends", "school", "speaking", "code", "shift"),
    [
        (("G3", "G4"), PitchSchool.SHIFTED, None, "pitches_moved_down", -2),
        (("D4", "D5"), PitchSchool.SHIFTED, None, "pitches_moved_up", 4),
        (("A3", "A4"), PitchSchool.SHIFTED, None, "pitches_at_standard", 0),
        (("A3", "A4"), PitchSchool.SPEAKING, "B3", "pitches_as_it_is", 0),
        (("A3", "A4"), PitchSchool.SPEAKING, "F4", "pitches_moved_down", -5),
    ],
)
def test_notes_are_moved_by_the_fewest_semitones_and_it_is_said(
    ends, school, speaking, code, shift
):
    lowest, highest = map(Note.named, ends)
    comfort = ComfortableRange(
        lowest=lowest, highest=highest, speaking=Note.named(speaking) if speaking else None
    )
    found = fit_pitches(comfort, VoiceGroup.WOMEN, school)
    assert (found.shift_semitones, found.because.code) == (shift, code)
    count = said([found.because], "five_notes")
    assert count is not None
    built = said([found.because], "built_up")
    assert (built.params["speaking"] if built else None) == speaking
    params = found.because.params
    assert (params["margin"], params["lowest"], params["highest"]) == (2, *ends)
    if shift:
        assert params["semitones"] == f"{shift:+d}".replace("-", "−")
        root = Note.named(speaking or "C4")
        assert (params["first"], params["wanted"]) == (root.up(shift).name, root.name)


def test_three_notes_have_their_warm_up_in_the_middle():
    small = ComfortableRange(lowest=Note.named("C4"), highest=Note.named("F♯4"))
    found = fit_pitches(small, VoiceGroup.WOMEN, PitchSchool.SHIFTED)
    assert [note.name for note in found.notes] == ["C♯4", "E♭4", "F4"]
    assert found.warm_up.name == "E♭4"
    assert said([found.because], "only_three_notes")


def test_what_stands_in_the_way_of_a_program_begins_beyond_its_limit():
    program = proposed("semi_deep", "sustained").program
    tube = next(one for one in program.steps if one.tube)
    at_limit = program.with_step(replace(tube, tube=replace(tube.tube, depth_cm=5.0)))
    assert at_limit.problems() == ()
    over = program.with_step(replace(tube, tube=replace(tube.tube, depth_cm=5.5))).problems()
    assert (over[0].code, over[0].params["step"]) == ("of_step", tube.name)

    def too_long(shown_s):
        found = replace(program, shown_s=shown_s).problems()
        return {
            why.params["seconds"]
            for one in found
            if (why := one.params["why"]).code == "longer_than_shown"
        }

    # glides of 8 s, holds of 6.5 s on their first rung
    assert too_long(8.0) == set()
    assert too_long(7.9) == {8.0}
    assert too_long(6.5) == {8.0}
    assert too_long(6.4) == {6.5, 8.0}
    unknown = replace(program, comfort=None).problems()
    assert said(unknown, "range_unknown")
    assert proposed("release").program.problems() == ()


def test_a_hold_at_what_was_shown_is_no_notice_and_beyond_it_is():
    program = proposed("sustained").program
    power = program.main_step
    shown = power.grade.shown  # 8.4 s
    at = replace(
        power, target=replace(power.target, holds=(replace(power.holds[0], seconds=shown),))
    )
    assert not [n for n in program.with_step(at).notices() if n.params["step"] == power.name]
    beyond = replace(at, target=replace(at.target, holds=(replace(at.holds[0], seconds=9.0),)))
    (notice,) = [n for n in program.with_step(beyond).notices() if n.params["step"] == power.name]
    assert dict(notice.params) == {
        "step": power.name,
        "note": power.holds[0].note.name,
        "seconds": 9.0,
        "shown_s": 8.4,
    }


def test_the_present_and_later_places_of_a_breath_touch_what_they_touch():
    low = proposed("breath_beats").program.steps[0]
    assert (low.task, low.grade.codes[0]) == ("low_breath", "lying")
    touched = {
        code: touches_of(step_on_rung(low, rung)) & {Touch.LYING_FLAT, Touch.BENDING_FORWARD}
        for rung, code in enumerate(low.grade.codes)
    }
    assert touched["lying"] == {Touch.LYING_FLAT, Touch.BENDING_FORWARD}
    assert touched["bent_forward"] == {Touch.BENDING_FORWARD}
    assert touched["sitting"] == frozenset()
    # a rung nobody knows any more may be any of them
    grade = replace(low.grade, codes=("gone", *low.grade.codes[1:]), rung=0)
    unknown = touches_of(replace(low, grade=grade))
    assert {Touch.LYING_FLAT, Touch.BENDING_FORWARD} <= unknown


def test_only_a_form_of_air_alone_is_not_voiced():
    air = step(proposed("semi_fatigue"), "straw_air")
    assert Touch.VOICED not in touches_of(air)
    assert Touch.VOICED in touches_of(step_on_rung(air, 1))
    # air asked for by a step that is no form is voiced work all the same, where its task is voiced
    assert Touch.VOICED in touches_of(replace(air, grade=None))
