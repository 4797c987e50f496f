"""What wants, age, strain and conditions may lead to (C1–C9): each rule with its opposite."""

from dataclasses import replace
from datetime import timedelta

import pytest

from core.errors import PlanError
from core.fitting.known import Limits
from core.program.program import Chosen
from core.proposing.aims import Want
from core.proposing.request import PitchDirection
from core.reference.values import STRAIN_HIGH
from core.safety.circumstances import Circumstance, Event, Living
from core.safety.condition import Condition
from tests.core.fitted import TODAY, propose_for, proposed, request, said, screened, step
from tests.factories.condition_checks import ago

WIDE = {"lowest": "E3", "highest": "C5", "speaking": "A3", "transition": "A4"}
SLOWED = Condition.SLOWED_MOVEMENT


def having(*conditions, schools=(), **changes):
    wanted = request(*schools, known=WIDE | changes.pop("known", {}), **changes)
    return screened(wanted, conditions=frozenset(conditions), trouble_began_on=ago(90))


def schools_of(proposal):
    return {one.school for one in proposal.program.schools}


def tasks_of(proposal):
    return {one.task for one in proposal.program.all_steps}


# C1


def test_another_speaking_pitch_is_never_moved_in_a_direction_nobody_asked_about():
    wanted = having(wants=(Want.PITCH,))
    found = propose_for(wanted)
    assert not {"target_pitch_hold", "target_pitch_phrases"} & tasks_of(found)
    assert "gender_affirming" not in schools_of(found)
    assert said(found.program.asked, "ask_pitch_direction")
    down = propose_for(replace(wanted, direction=PitchDirection.DOWN))
    rungs = step(down, "target_pitch_phrases").grade.rungs
    # from A3 (57) a semitone at a time, never under G3 (55), three over the lowest note E3
    assert rungs == (57, 56, 55)
    easy = propose_for(replace(wanted, direction=PitchDirection.COMFORTABLE))
    assert step(easy, "find_speaking_pitch")
    assert step(easy, "target_pitch_phrases") is None


def test_upward_on_testosterone_needs_a_reason_downward_does_not():
    def proposal(direction):
        options = {"direction": direction}
        wanted = having(Condition.TESTOSTERONE, schools=("gender_affirming",), options=options)
        return propose_for(wanted).gate

    assert not proposal("up").opens("")
    assert proposal("up").opens("the client's own wish, talked through")
    assert proposal("down").opens("")


@pytest.mark.parametrize(
    ("age", "changing", "blocked"),
    [(14, None, True), (14, True, True), (14, False, False), (9, None, False), (18, None, False)],
)
def test_no_target_pitch_while_a_voice_is_changing(age, changing, blocked):
    young = {"age_years": age, "height_cm": None, "lung_sex": None}
    wanted = having(schools=("gender_affirming", "release"), known=young)
    found = propose_for(screened(wanted, voice_changing=changing))
    assert (step(found, "target_pitch_phrases") is None) is blocked
    if not blocked:
        # a minor's target pitch is the clinician's own choice, with a reason
        assert found.gate.opens("") is (age >= 18)
    asked = propose_for(
        screened(
            replace(wanted, schools=(), wants=(Want.PITCH,), direction=PitchDirection.UP),
            voice_changing=changing,
        )
    )
    assert (step(asked, "target_pitch_phrases") is None) is (age < 18)


def test_while_the_voice_changes_its_comfortable_pitch_is_found_after_an_examination():
    young = {"age_years": 14, "height_cm": None, "lung_sex": None}
    options = {"direction": "comfortable"}
    wanted = having(schools=("speaking_pitch",), known=young, options=options)
    gate = propose_for(wanted).gate
    assert not gate.opens("")
    assert gate.opens("examined, the family wants to know")
    unseen = propose_for(screened(wanted, larynx_examined_on=None)).gate
    assert not unseen.opens("reason")


# C2 and C3


@pytest.mark.parametrize("want", [Want.LOUDER, Want.CARRIES, Want.CLEARER])
def test_strong_voice_comes_by_itself_only_with_slowed_movement(want):
    def strong(*conditions):
        found = propose_for(having(*conditions, wants=(want,)))
        return any(one.startswith("loudness") for one in schools_of(found))

    assert not strong()
    assert strong(SLOWED)


@pytest.mark.parametrize(
    ("hours", "want", "advised"),
    [
        *((8, want, True) for want in (Want.LOUDER, Want.CARRIES, Want.CLEARER)),
        (8, Want.LASTS, False),
        (1, Want.LOUDER, False),
    ],
)
def test_who_talks_a_lot_and_wants_to_be_heard_is_advised_on_an_amplifier(hours, want, advised):
    wanted = having(wants=(want,), living=Living(talking_hours=hours))
    codes = {one.code for one in propose_for(wanted).notices}
    assert ("consider_amplifier" in codes) is advised


@pytest.mark.parametrize(
    ("conditions", "known", "effect"),
    [
        ((), {"throat_strain": 4}, "reason"),
        ((), {"throat_strain": 3}, "open"),
        ((Condition.PARALYSIS,), {}, "reason"),
        ((Condition.MUSCLE_TENSION,), {}, "reason"),
        ((), {"age_years": 11, "height_cm": None, "lung_sex": None}, "reason"),
        ((), {"age_years": 12, "height_cm": None, "lung_sex": None}, "open"),
        ((Condition.FOLD_LESIONS,), {}, "reason"),
        ((Condition.FOLD_LESIONS,), {"throat_strain": 4}, "none"),
        ((Condition.MOTOR_NEURONE,), {}, "none"),
        ((Condition.MYASTHENIA,), {}, "none"),
    ],
)
def test_where_strong_voice_asks_a_reason_or_is_left_out(conditions, known, effect):
    loud = {"strong_s": (9.0,)} | known
    wanted = having(*conditions, schools=("loudness_vowels", "release"), known=loud)
    found = propose_for(wanted)
    if effect == "none":
        assert step(found, "loud_vowels") is None
        return
    assert step(found, "loud_vowels")
    assert found.gate.opens("") is (effect == "open")
    assert found.gate.opens("why it is right here")


@pytest.mark.parametrize(
    ("operated", "examined", "opens"),
    [(50, 10, True), (50, None, False), (50, 60, False), (41, 10, False), (42, 42, True)],
)
def test_after_thyroid_surgery_the_folds_movement_is_examined_and_six_weeks_pass(
    operated, examined, opens
):
    wanted = having(
        Condition.THROAT_SURGERY, schools=("loudness_vowels",), known={"strong_s": (9.0,)}
    )
    told = screened(
        wanted,
        throat_operated_on=ago(operated),
        movement_examined_on=None if examined is None else ago(examined),
    )
    assert propose_for(told).gate.opens("") is opens


def test_decibels_by_default_where_they_were_measured_else_effort_and_the_question():
    measured = {"strong_s": (9.0,), "strong_over_db": 9.0}
    by_level = step(proposed("loudness_vowels", known=measured), "loud_vowels").level
    assert (by_level.over_db, by_level.effort_low) == (7.0, None)  # 9 less 2 dB
    unknown = proposed("loudness_vowels", known={"strong_s": (9.0,)})
    assert step(unknown, "loud_vowels").level.over_db is None
    assert said(unknown.program.asked, "measure_levels")
    chosen = proposed("loudness_vowels", known=measured, options={"aim": "effort"})
    assert step(chosen, "loud_vowels").level.effort_low == 7


# C4


def test_a_progressive_condition_practices_30_minutes_a_day_for_four_weeks_in_six_voiced_steps():
    known = {"strong_s": (9.0,), "age_years": 74}
    wanted = having(
        Condition.PROGRESSIVE, SLOWED, schools=("loudness_vowels", "release"), known=known
    )
    found = propose_for(wanted)
    a_day = sum(
        load.session_min * one.dose.sessions_a_day
        for load, one in zip(found.load.routines, found.program.routines, strict=True)
    )
    assert a_day <= 30
    for one in found.program.routines:
        assert one.dose.weeks <= 4
        assert sum(s.voiced for s in one.steps) <= 6
    assert said(found.program.reasons, "voiced_steps_cut")
    forgetful = replace(wanted, living=Living(circumstances=frozenset({Circumstance.MEMORY})))
    for one in propose_for(forgetful).program.routines:
        assert sum(s.voiced for s in one.steps) <= 3
    well = propose_for(screened(wanted, conditions=frozenset({SLOWED}))).program
    assert max(sum(s.voiced for s in one.steps) for one in well.routines) > 6


@pytest.mark.parametrize(("remeasured", "weeks"), [(False, 4), (True, 2)])
def test_after_a_remeasurement_a_progressive_condition_gets_a_refresher_of_two_weeks(
    remeasured, weeks
):
    wanted = having(Condition.PROGRESSIVE, SLOWED, schools=("sustained",))
    program = propose_for(replace(wanted, refresher=remeasured)).program
    assert {one.dose.weeks for one in program.routines} == {weeks}
    assert bool(said(program.reasons, "progressive_refresher")) is remeasured
    # of anybody else a re-measurement changes no weeks
    well = screened(wanted, conditions=frozenset())
    first, again = (propose_for(replace(well, refresher=one)).program for one in (False, True))
    assert [one.dose for one in first.routines] == [one.dose for one in again.routines]


def test_for_good_a_progressive_condition_practices_in_short_sessions_of_15_minutes_together():
    chosen = Chosen(school="sustained", options={"dose": "for_good"})
    wanted = replace(having(Condition.PROGRESSIVE), schools=(chosen,))
    found = propose_for(wanted)
    (dose,) = (one.dose for one in found.program.routines)
    assert (dose.sessions_a_day, dose.weeks) == (2, 26)
    assert found.load.routines[0].session_min * 2 <= 15
    once = replace(wanted, limits=Limits(sessions_a_day=1))
    assert propose_for(once).program.routines[0].dose.sessions_a_day == 1


@pytest.mark.parametrize("name", ["motor_neurone", "myasthenia"])
def test_weak_muscles_practice_ten_minutes_a_day_and_are_offered_a_recording(name):
    found = propose_for(having(Condition(name), schools=("semi_fatigue", "resonance")))
    a_day = sum(
        load.session_min * one.dose.sessions_a_day
        for load, one in zip(found.load.routines, found.program.routines, strict=True)
    )
    assert a_day <= 10
    assert said(found.notices, "offer_voice_recording")
    assert said(found.notices, "stop_when_tired")


# C5


def test_hurt_folds_get_semi_occluded_work_few_low_patterns_and_no_puffs():
    hurt = {"throat_strain": int(STRAIN_HIGH.number)}
    wanted = having(
        Condition.FOLD_LESIONS,
        schools=("range_full", "breath_support"),
        known=hurt,
        limits=Limits(minutes_a_session=60, minutes_a_week=1000),
    )
    found = propose_for(wanted)
    assert "semi_shallow" in schools_of(found)
    assert not {"pulses", "paired_counting"} & tasks_of(found)
    for routine in found.program.routines:
        for one in routine.steps:
            if one.kind != "pattern" or one.phase != "range":
                continue
            assert routine.dose.sessions_a_day == 1
            for target in (one.target, *one.grade.targets):
                assert len(target.keys) <= 12
                # E3 to C5 are 20 semitones: the lower two thirds end 13 over E3, at F4
                assert max(note.number for note in target.notes) <= 65
    calm = propose_for(having(Condition.FOLD_LESIONS, schools=("range_full",)))
    assert "semi_shallow" not in schools_of(calm)


# C6


@pytest.mark.parametrize("name", ["dystonia", "tremor"])
def test_in_spasm_holds_and_deep_tubes_come_only_by_choice_and_sz_says_nothing(name):
    short = {"phonation_s": (8.0,), "s_s": (17.6,), "z_s": (11.0,)}
    by_itself = propose_for(having(Condition(name), wants=(Want.STEADIER,), known=short))
    assert not {"sustained", "semi_deep"} & schools_of(by_itself)
    assert said(by_itself.notices, "sz_ratio") is None
    assert said(by_itself.program.asked, "measure_own_tremor")
    chosen = propose_for(having(Condition(name), schools=("sustained",), known=short))
    assert not chosen.gate.opens("")
    assert chosen.gate.opens("the spasm is mild on held notes")
    well = propose_for(having(wants=(Want.STEADIER,), known=short))
    assert "sustained" in schools_of(well)
    assert said(well.notices, "sz_ratio")


# C8, C9


def test_an_event_in_laryngitis_is_called_off_in_words():
    living = Living(events=(Event(on=TODAY + timedelta(days=3), name="auction"),))
    well = propose_for(having(schools=("semi_fatigue",), living=living))
    assert said(well.notices, "event_in")
    assert said(well.notices, "event_called_off") is None
    ill = having(Condition.ACUTE_LARYNGITIS, schools=("semi_fatigue",), living=living)
    assert said(propose_for(ill).notices, "event_called_off")


def test_release_without_a_neck_is_jaw_shoulders_and_tongue():
    found = propose_for(having(Condition.CAROTID_DISEASE, schools=("release",)))
    tasks = tasks_of(found)
    assert not {"shoulder_circle", "skull_base_nods", "neck_side_stretch", "jaw_circles"} & tasks
    assert {"shoulder_rolls", "tongue_mobility"} <= tasks
    neck = propose_for(having(Condition.UNSTABLE_NECK, schools=("release",)))
    assert {"shoulder_rolls", "tongue_mobility"} <= tasks_of(neck)


def test_a_minors_semi_occluded_part_is_shortened_and_not_the_ladder():
    young = {"age_years": 11, "height_cm": None, "lung_sex": None}
    young |= {"phonation_s": (14.0,), "probes_s": (12.0, 12.0, 12.0)}
    schools = ("semi_shallow", "sustained")

    def ladder(**changes):
        found = propose_for(having(schools=schools, known=young | changes))
        assert max(one.session_min for one in found.load.routines) <= 10
        return sum(one.repetitions for one in found.program.steps if one.phase == "voice")

    assert ladder() == 8  # warm-up, two glides, power notes, each twice
    assert ladder(throat_strain=4) < 8


def test_who_cannot_read_is_asked_for_no_reading_rate():
    from core.catalogue.words import Skill

    unread = request(
        "loudness_vowels", known=WIDE | {"strong_s": (9.0,)}, cannot=frozenset({Skill.READING})
    )
    assert said(propose_for(unread).program.asked, "measure_reading_rate") is None
    reads = request("loudness_vowels", known=WIDE | {"strong_s": (9.0,)})
    assert said(propose_for(reads).program.asked, "measure_reading_rate")


def test_the_real_words_of_a_warm_up_never_vanish_without_a_word():
    for minutes in ("8", "15", "20"):
        found = proposed("warm_up", known=WIDE, options={"minutes": minutes})
        assert step(found, "real_words")
        left_out = {one.params["step"] for one in found.program.reasons if one.code == "cut_step"}
        usual = proposed("warm_up", known=WIDE, options={"minutes": "30"})
        gone = {one.name for one in usual.program.steps} - {one.name for one in found.program.steps}
        assert gone <= left_out


def test_a_school_that_is_named_twice_or_unknown_is_refused():
    with pytest.raises(PlanError):
        propose_for(replace(request(), schools=(Chosen(school="siesta"),)))
