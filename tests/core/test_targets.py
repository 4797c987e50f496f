"""What each fitter finds, worked out by hand, and what every target must have whoever finds it."""

from collections.abc import Mapping
from dataclasses import fields, is_dataclass, replace

import pytest

from core.catalogue.words import Growth
from core.editing.change_rung import step_on_rung
from core.errors import PlanError
from core.fitting.fit_breath import hiss, pace
from core.fitting.fit_counted import counted, warm_up_minutes
from core.fitting.known import Fitting, Limits
from core.fitting.schools import schools
from core.notes.range import VoiceGroup
from core.reason import Reason
from tests.core.fitted import baseline, proposed, said, step
from tests.factories.fitting import TASKS, fitting, line

NUMBERED = (Growth.SECONDS, Growth.BEATS_OUT, Growth.DECIBELS, Growth.TEMPO, Growth.COUNT)


def reasons_in(came):
    if isinstance(came, Reason):
        yield came
        yield from reasons_in(tuple(came.params.values()))
    elif is_dataclass(came):
        for one in fields(came):
            yield from reasons_in(getattr(came, one.name))
    elif isinstance(came, Mapping):
        yield from reasons_in(tuple(came.values()))
    elif isinstance(came, tuple | list | frozenset):
        for one in came:
            yield from reasons_in(one)


KNOWN = [
    {"speaking": "A3", "strong_s": (9.0,), "strong_over_db": 8.0, "transition": "E4"},
    {"probes_s": (), "s_s": (), "height_cm": None, "speaking": "A3"},
    {"phonation_s": (), "speaking": "A3", "strong_s": (9.0,)},
]


def programs():
    for key in schools():
        for known in KNOWN:
            for aim in ("effort", "decibel"):
                try:
                    yield proposed(key, known=known, options={"aim": aim}).program
                except PlanError as error:
                    assert error.code in ("nothing_fits", "option_unknown")


def test_every_target_grade_level_and_tube_says_why_with_all_its_values():
    count = 0
    for program in programs():
        for one in program.all_steps:
            parts = [one, *one.target.reasons, one.level, one.tube, one.grade]
            assert all(isinstance(why, Reason) for why in one.target.reasons)
            assert all(
                isinstance(part.because, Reason)
                for part in parts
                if part is not None and not isinstance(part, Reason)
            )
            targets = one.grade.targets if one.grade else ()
            assert all(isinstance(why, Reason) for target in targets for why in target.reasons)
        for reason in reasons_in(program):
            count += 1
            assert reason.code
            assert None not in reason.params.values()
            assert str(reason) == reason.words
            assert "None" not in str(reason)
            assert "{" not in str(reason)
    assert count > 1000


def test_every_grade_ends_at_its_goal_and_is_named():
    seen = set()
    for program in programs():
        for one in program.steps:
            grade = one.grade
            if grade is None:
                continue
            seen.add(grade.growth)
            assert isinstance(grade.key, str)
            assert grade.key
            assert list(grade.rungs) in (sorted(grade.rungs), sorted(grade.rungs, reverse=True))
            assert len(set(grade.rungs)) == len(grade.rungs)
            if grade.growth in NUMBERED and not (grade.goal is None and len(grade.rungs) == 1):
                # goals of holds lie within the grid of half a second of the last rung
                assert abs(grade.goal - grade.rungs[-1]) < 0.5
            if grade.growth is Growth.SEMITONES and grade.goal is not None:
                assert grade.goal == grade.rungs[-1]
    # counts climb only where a school chooses them (a strong sh, a balloon)
    assert seen == set(Growth) - {Growth.NONE, Growth.COUNT}


@pytest.mark.parametrize(
    ("best_s", "rungs"),
    [
        # 80 % of 20 = 16: the ladder's 15; then 20; 110 % = 22
        (20.0, (15, 20, 22)),
        # 80 % of 25 = 20, a step of the ladder; 110 % = 27.5
        (25.0, (20, 25, 27.5)),
        # 110 % of 22.8 = 25.08, floored to 25, a step of the ladder: once
        (22.8, (15, 20, 25)),
        # under the ladder: 80 % of 5 = 4 to 110 % = 5.5
        (5.0, (4, 5.5)),
        # the least there is
        (0.4, (0.5,)),
        # 110 % of 70 = 77: no hiss is longer than 60 s
        (70.0, (55, 60)),
    ],
)
def test_the_hiss_ladder_lies_within_the_own_best(best_s, rungs):
    found = hiss(fitting(s_s=(best_s,)), TASKS["hiss"], line("hiss", ladder=[*range(15, 61, 5)]))
    assert found.grade.rungs == rungs
    assert (found.grade.goal, found.grade.shown) == (rungs[-1], best_s)
    assert found.target.seconds == rungs[0]
    assert found.target.swell is False
    within = said([found.target.because], "within_s").params
    assert (within["seconds"], within["best_s"]) == (rungs[0], best_s)
    assert said([found.grade.because], "at_most_over_s").params == {"best_s": best_s}


def test_a_swelled_hiss_is_no_longer_than_its_task_allows():
    found = hiss(fitting(s_s=(70.0,)), TASKS["hiss_swell"], line("hiss_swell", swell=True))
    # the task allows 30 s; 80 % of 70 = 56 is more
    assert found.grade.rungs == (30,)
    assert found.target.swell is True


@pytest.mark.parametrize("swell", [False, True])
def test_without_an_s_a_short_hiss_is_assumed_and_the_s_asked_for(swell):
    made = fitting(s_s=())
    found = hiss(made, TASKS["hiss"], line("hiss", swell=swell))
    assert (found.target.seconds, found.target.swell, found.grade) == (4.0, swell, None)
    assert [one.code for one in made.notes.asked] == ["measure_s"]
    assert said(made.notes.assumed, "hiss_assumed").params == {"seconds": 4.0}
    assert said([found.target.because], "short_without_s").params == {"seconds": 4.0}


@pytest.mark.parametrize(
    ("best_s", "rungs", "code"),
    [
        # 8 beats at 100 a minute are 4.8 s: that just fits; 12 beats are 7.2 s
        (4.8, (4, 8), "beats_out"),
        (4.7, (4,), "beats_out"),
        # 3 whole beats of 0.6 s in 2 s; 2 in 1.2 s
        (2.0, (3,), "fewer_beats_out"),
        (1.2, (2,), "fewer_beats_out"),
    ],
)
def test_beats_out_lie_within_the_longest_s(best_s, rungs, code):
    # nothing set by a school: 4, 8, 12 beats out, 4 in, 4 breaths, at the task's own tempo
    tempo = TASKS["paced_breath"].setting("tempo").default
    assert tempo == 100
    found = pace(fitting(s_s=(best_s,)), TASKS["paced_breath"], line("paced_breath"))
    assert found.grade.rungs == rungs
    assert (found.target.beats_in, found.target.breaths, found.target.tempo_bpm) == (4, 4, 100)
    why = said([found.target.because], code).params
    assert (why["beats"], why["best_s"]) == (rungs[0], best_s)
    assert why["seconds"] == pytest.approx(rungs[0] * 0.6)
    assert found.grade.shown == pytest.approx(best_s / 0.6)


def test_a_school_sets_the_beats_and_an_unknown_s_keeps_them_short():
    made = fitting(s_s=())
    own = line("paced_breath", ladder=[10, 20], beats_in=10, breaths=3, tempo=120, puff=True)
    found = pace(made, TASKS["paced_breath"], own)
    # 4 s at 120 beats a minute are 8 beats: fewer than 10
    assert (found.grade.rungs, found.target.beats_in, found.target.breaths) == ((8,), 10, 3)
    assert found.target.last_puff is True
    assert said(made.notes.assumed, "out_assumed").params == {"seconds": 4.0}
    assert said(made.notes.asked, "measure_s")
    with pytest.raises(PlanError) as short:
        pace(fitting(s_s=(1.1,)), TASKS["paced_breath"], line("paced_breath"))
    assert (short.value.code, short.value.params) == ("breath_too_short", {"seconds": 1.1})


@pytest.mark.parametrize(
    ("task", "goal", "rungs"),
    [
        ("strong_sh", 8, (5, 6, 7, 8)),
        ("balloon", 4, (8, 7, 6, 5, 4)),
        ("strong_sh", None, (5,)),
        # no further than the task allows: 2–12 breaths
        ("strong_sh", 99, tuple(range(5, 13))),
        ("balloon", 1, (8, 7, 6, 5, 4, 3)),
    ],
)
def test_counts_climb_one_by_one_up_or_down_to_their_goal(task, goal, rungs):
    params = {} if goal is None else {"goal": goal}
    grade = counted(fitting(), TASKS[task], line(task, **params)).grade
    assert grade.rungs == rungs
    assert (grade.key, grade.goal) == (task, rungs[-1])
    assert grade.because.params["task"] == task


def test_tempo_climbs_by_a_tenth_to_eight_rungs_or_the_limit():
    chains = TASKS["consonant_chains"]
    grade = counted(fitting(), chains, line("consonant_chains")).grade
    # 60 · 1.1 = 66, 72.6, 80.3, 88, 96.8, 106.7, 117.7
    assert grade.rungs == (60, 66, 73, 80, 88, 97, 107, 118)
    assert (grade.key, grade.goal) == ("consonant_chains", 118)
    tempo = replace(chains.setting("tempo"), high=73)
    others = tuple(s for s in chains.settings if s.name != "tempo")
    slow = counted(fitting(), replace(chains, settings=(*others, tempo)), line("x")).grade
    assert slow.rungs == (60, 66, 73)


@pytest.mark.parametrize(
    ("said_min", "minutes"), [("3", 5), ("5", 5), ("5.5", 5.5), ("45", 45), ("99", 45), ("", 20)]
)
def test_a_warm_up_has_between_five_and_forty_five_minutes(said_min, minutes):
    assert warm_up_minutes(Fitting(baseline=baseline(), options={"minutes": said_min})) == minutes


@pytest.mark.parametrize(
    ("known", "rungs"),
    [
        # the first rung of the cook is 6.5 s: the ladder's 5 lies within
        ({}, (5, 8, 10, 12, 15, 20, 25, 30)),
        # 80 % of 10 = 8, a step of the ladder
        ({"probes_s": (10.0,)}, (8, 10, 12, 15, 20, 25, 30)),
        # 80 % of 2 = 1.6, floored to 1.5: under the ladder
        ({"probes_s": (2.0,)}, (1.5, 5, 8, 10, 12, 15, 20, 25, 30)),
        ({"age_years": 10, "voice_group": VoiceGroup.CHILDREN}, (5, 8, 10, 12, 15)),
        (
            {"age_years": 10, "voice_group": VoiceGroup.CHILDREN, "probes_s": (4.0,)},
            (3, 5, 8, 10, 12, 15),
        ),
    ],
)
def test_the_fixed_ladder_begins_within_reach(known, rungs):
    known = {"lowest": "G3", "highest": "A4"} | known
    grade = proposed("sustained", known=known, options={"goal": "time"}).program.main_step.grade
    assert grade.rungs == rungs
    assert grade.goal == rungs[-1]
    assert said([grade.because], "goal_time_ladder").params["rungs_s"] == rungs


def test_a_climb_changes_what_its_grade_is_about_and_says_the_rung():
    known = {"speaking": "A3", "strong_s": (9.0,), "strong_over_db": 9.0}
    loud = proposed("loudness_vowels", known=known, options={"aim": "decibel"})
    phrases = step(loud, "own_phrases")
    # + 3 dB at first, + 2 dB a rung
    moved = step_on_rung(phrases, 1)
    assert (phrases.level.over_db, moved.level.over_db) == (3.0, 5.0)
    assert dict(moved.level.because.params) == {
        "rung": 2,
        "rungs": len(phrases.grade.rungs),
        "asked": "+ 5 dB",
    }
    assert moved.target == phrases.target
    vowels = step(loud, "loud_vowels")
    longer = step_on_rung(vowels, 1)
    assert longer.level == vowels.level
    assert longer.holds[0].seconds == vowels.grade.rungs[1]
    assert said([longer.holds[0].because], "on_rung").params["rung"] == 2
    glides = step(loud, "loud_glides")
    higher = step_on_rung(glides, 1)
    assert higher.target == glides.grade.targets[1]
    assert higher.kind == glides.kind


def test_forms_in_water_and_in_air_are_measured_as_what_they_are():
    water = step(proposed("semi_shallow"), "straw_water")
    air = step(proposed("semi_fatigue"), "straw_air")
    kinds = {
        task.task: {
            code: step_on_rung(task, rung).kind for rung, code in enumerate(task.grade.codes)
        }
        for task in (water, air)
    }
    assert kinds["straw_water"]["air_only"] == "bubbles"
    assert kinds["straw_water"]["one_note"] == "bubbles"
    assert kinds["straw_water"]["glide_up"] == "bubbles"
    assert kinds["straw_air"]["air_only"] == "timed"
    assert kinds["straw_air"]["one_note"] == "hold"
    assert kinds["straw_air"]["glide_up"] == "glide"
    assert kinds["straw_air"]["phrase_then_open"] == "counted"


def test_a_breath_hold_climbs_by_fives_to_fifteen():
    held = step(proposed("breath_hiss", limits=Limits(breath_hold=True)), "breath_hold")
    assert (held.grade.key, held.grade.rungs, held.grade.goal) == ("breath_hold", (5, 10, 15), 15)
    assert said([held.target.because], "breath_hold_turned_on")
    assert said([held.grade.because], "breath_hold_turned_on")
