"""Every refusal names what came, what was expected and, where there is one, a value that works."""

from dataclasses import replace
from datetime import date, time

import pytest

from core.catalogue.words import Growth
from core.dose.calendar import planned_sessions, times_of_day, zone_of
from core.editing.change_rung import on_rung, step_on_rung
from core.errors import CoreError, PlanError
from core.fitting.back_pressure import back_pressure
from core.fitting.baseline_arithmetic import (
    LungSex,
    airflow_goal_s,
    phonation_quotient_ml_per_s,
    sz_ratio,
    vital_capacity_ml,
)
from core.program.asked import asked_of
from core.program.dosing import Away, Dose
from core.program.rungs import checked_hold, rungs_from
from core.program.step import Grade
from core.reason import written
from tests.core.fitted import proposed

WHY = written("for a test")
TUBE = {"bore_mm": 5, "length_cm": 20, "depth_cm": 2, "flow_ml_s": 150}
DAY, LATER = date(2026, 6, 15), date(2026, 6, 16)


def ladder():
    return proposed("sustained").program


def speech():
    """The short day's reading climbs in nothing; given a grade of beats, it cannot climb there."""
    step = proposed("loudness_vowels", known={"strong_s": (9.0,)}).program.routines[0].short_day
    grade = Grade(
        key="odd", growth=Growth.BEATS_OUT, rungs=(4.0, 8.0), words=("4", "8"), because=WHY
    )
    return replace(step, grade=grade)


REFUSED = [
    (lambda: sz_ratio(0, 9), "seconds_not_positive", {"s": 0, "z": 9}),
    (lambda: sz_ratio(9, 0), "seconds_not_positive", {"s": 9, "z": 0}),
    (lambda: vital_capacity_ml(LungSex.MALE, 17, 170), "capacity_not_for_minors", {"age": 17}),
    *(
        (
            lambda cm=cm: vital_capacity_ml(LungSex.MALE, 40, cm),
            "height_out_of_limits",
            {"height_cm": cm, "low": 120, "high": 220},
        )
        for cm in (119, 221)
    ),
    *(
        (
            lambda ml=ml, s=s: phonation_quotient_ml_per_s(ml, s),
            "seconds_not_positive",
            {"capacity_ml": ml, "phonation_s": s},
        )
        for ml, s in ((0, 10), (2700, 0))
    ),
    (lambda: airflow_goal_s(0), "seconds_not_positive", {"volume_ml": 0}),
    (
        lambda: checked_hold(0.4),
        "hold_out_of_limits",
        {"seconds": 0.4, "low": 0.5, "high": 90},
    ),
    (
        lambda: checked_hold(90.5),
        "hold_out_of_limits",
        {"seconds": 90.5, "low": 0.5, "high": 90},
    ),
    (lambda: rungs_from((), 10.0), "probes_missing", {}),
    *(
        (
            lambda name=name, came=came: back_pressure(**TUBE | {name: came}),
            "tube_out_of_limits",
            {"which": name, "came": came, "low": low, "high": high},
        )
        for name, came, low, high in (
            ("bore_mm", 1.9, 2, 15),
            ("bore_mm", 15.1, 2, 15),
            ("length_cm", 2.9, 3, 60),
            ("length_cm", 60.1, 3, 60),
            ("depth_cm", -0.1, 0, 15),
            ("depth_cm", 15.1, 0, 15),
            ("flow_ml_s", 19, 20, 1000),
            ("flow_ml_s", 1001, 20, 1000),
        )
    ),
    (lambda: ladder().step("nobody"), "step_unknown", {"step": "nobody"}),
    (lambda: ladder().routine_of("nobody"), "step_unknown", {"step": "nobody"}),
    (
        lambda: ladder().routine("reset"),
        "routine_unknown",
        {"came": "reset", "known": ["ladder"]},
    ),
    (lambda: on_rung(ladder(), "step-1", 0), "step_not_graded", {"step": "step-1"}),
    (lambda: step_on_rung(ladder().steps[1], 0), "step_not_graded", {"step": "step-1"}),
    (
        lambda: step_on_rung(ladder().steps[0], 99),
        "rung_unknown",
        {"rung": 99, "rungs": 10},
    ),
    (
        lambda: step_on_rung(speech(), 1),
        "grade_broken",
        {"growth": "beats_out", "rungs": 2},
    ),
    (
        lambda: asked_of(ladder().steps[1], 1),
        "place_unknown",
        {"place": 1, "places": 1},
    ),
    (
        lambda: Away(first=LATER, last=DAY),
        "calendar_upside_down",
        {"first": "2026-06-16", "last": "2026-06-15"},
    ),
    (
        lambda: planned_sessions(Dose(), zone=zone_of("UTC"), first=LATER, last=DAY, start=DAY),
        "calendar_upside_down",
        {"first": "2026-06-16", "last": "2026-06-15"},
    ),
    (
        lambda: zone_of("Nowhere/Land"),
        "zone_unknown",
        {"came": "Nowhere/Land", "example": "Europe/Dublin"},
    ),
    (
        lambda: times_of_day(Dose(spacing_h=5), 6),
        "day_too_full",
        {"wanted": 6, "fit": 3, "spacing_h": 5},
    ),
    (
        lambda: Dose(weeks=27),
        "dose_out_of_limits",
        {"which": "weeks", "came": 27, "low": 1, "high": 26},
    ),
    (
        lambda: Dose(days_a_week=2, weekdays=(1, 1)),
        "weekday_unknown",
        {"which": "weekdays", "came": [1, 1], "low": 1, "high": 7},
    ),
    (
        lambda: Dose(visit_weekdays=(8,)),
        "weekday_unknown",
        {"which": "visit days", "came": [8], "low": 1, "high": 7},
    ),
    (
        lambda: Dose(days_a_week=3, weekdays=(1, 2)),
        "weekdays_not_days_a_week",
        {"came": 2, "expected": 3},
    ),
    (
        lambda: Dose(work_from=time(9)),
        "work_hours_upside_down",
        {"came": ["09:00:00", "None"]},
    ),
]


@pytest.mark.parametrize(("refused", "code", "params"), REFUSED)
def test_a_refusal_names_what_came_and_what_would_do(refused, code, params):
    with pytest.raises(PlanError) as error:
        refused()
    assert (error.value.code, error.value.params) == (code, params)


@pytest.mark.parametrize(
    ("schools", "changes", "code", "asked"),
    [
        # the fitter of each school says what it lacks and what to measure
        ("sustained", {"probes_s": (), "phonation_s": ()}, "probes_missing", "measure_probes"),
        ("sustained", {"s_s": ()}, "goal_missing", "measure_s"),
        ("sustained", {"lowest": None, "highest": None}, "range_missing", "measure_range"),
        ("breath_beats", {"s_s": (0.8,)}, "breath_too_short", None),
    ],
)
def test_what_is_missing_is_named_and_asked_for(schools, changes, code, asked):
    with pytest.raises(CoreError) as error:
        proposed(schools, known=changes)
    assert error.value.code == "nothing_fits"
    assert error.value.params["why"].params["why"].code == code
    if asked is not None:
        assert asked in {one.code for one in error.value.params["asked"]}


@pytest.mark.parametrize(
    ("options", "known", "code", "asked"),
    [
        ({"goal": "airflow"}, {"height_cm": None}, "goal_missing", "measure_capacity"),
        ({"goal": "share"}, {"phonation_s": ()}, "goal_missing", "measure_phonation"),
        ({"goal": "typed", "goal_s": "soon"}, {}, "goal_missing", None),
        ({"goal": "share", "share": "2.5"}, {}, "target_out_of_limits", None),
        ({"goal": "share", "share": "0.2"}, {}, "target_out_of_limits", None),
        ({"pitches": "standard"}, {}, "standard_outside", None),
        ({"pitches": "speaking"}, {}, "speaking_missing", "measure_speaking"),
    ],
)
def test_each_hold_goal_and_pitch_school_says_what_it_lacks(options, known, code, asked):
    with pytest.raises(CoreError) as error:
        proposed("sustained", options=options, known=known)
    assert error.value.params["why"].params["why"].code == code
    if asked is not None:
        assert asked in {one.code for one in error.value.params["asked"]}


def test_the_edges_of_every_limit_are_allowed():
    assert checked_hold(0.5) == 0.5
    assert checked_hold(90.0) == 90.0
    for name, edges in (
        ("bore_mm", (2, 15)),
        ("length_cm", (3, 60)),
        ("depth_cm", (0, 15)),
        ("flow_ml_s", (20, 1000)),
    ):
        for edge in edges:
            assert back_pressure(**TUBE | {name: edge}).total > 0
    assert phonation_quotient_ml_per_s(0.5, 0.5) == 1.0
    assert airflow_goal_s(0.8) == pytest.approx(0.01)
    assert sz_ratio(0.5, 0.5) == 1.0
