"""The rows of the Season: what was held, home session by home session; by hand on the worked case."""

from core.editing.change_rung import on_rung
from core.grading.history import Trial
from core.grading.rule import rules
from core.grading.season import main_course, season_of, step_courses
from core.safety.stop import StopSign
from tests.core.fitted import proposed
from tests.core.histories import (
    TODAY,
    ago,
    done,
    held,
    history,
    loud_program,
    sitting,
    soft,
    step_of,
    the_cook,
)

COOK, POWER = the_cook()
NOTES = [f"{n} {hold.note.name}" for n, hold in enumerate(POWER.holds)]


def hold_all(*bests, sd=0.3, rung=None, strain=2.0):
    """A session of the five notes, one attempt each, with these bests."""
    trials = tuple(
        Trial(note=note, figures={**held(sd=sd), "best_s": best})
        for note, best in zip(NOTES, bests, strict=True)
    )
    return done(POWER, trials, over_db=1.0, rung=rung, strain=strain)


FOUR_WEEKS = ago(27)


def season(sittings, program=COOK, *, first=FOUR_WEEKS, last=TODAY):
    return season_of(history(program, sittings), rules(), first=first, last=last)


def test_a_row_a_note_with_the_best_of_each_session():
    twice = done(
        POWER,
        (
            Trial(note=NOTES[0], figures={**held(), "best_s": 5.0}),
            Trial(note=NOTES[0], figures={**held(), "best_s": 7.5}),
            Trial(note=NOTES[1], figures={**held(), "best_s": None}),
        ),
    )
    found = season(
        [
            sitting(COOK, ago(3), hold_all(6, 6.5, 7, 7.5, 8), key="a"),
            sitting(COOK, ago(2), twice, key="b"),
        ]
    )
    assert [(row.name, row.of, row.code) for row in found.rows] == [
        ("Power notes", name, "best_s") for name in ("B♭3", "C4", "D4", "E♭4", "F4")
    ]
    first, second = found.rows[0], found.rows[1]
    assert [(reed.sitting, reed.day, reed.value) for reed in first.reeds] == [
        ("a", ago(3), 6.0),
        ("b", ago(2), 7.5),
    ]
    # a note that was not held has no reed
    assert [reed.sitting for reed in second.reeds] == ["a"]
    assert first.course.missing == 6


def test_the_target_is_that_of_the_rung_it_was_done_on():
    found = season(
        [
            sitting(COOK, ago(3), hold_all(6, 6, 6, 6, 6, rung=0), key="a"),
            sitting(COOK, ago(2), hold_all(7, 7, 7, 7, 7), key="b"),
            sitting(COOK, ago(1), hold_all(7, 7, 7, 7, 7, rung=40), key="c"),
        ]
    )
    assert [reed.target for reed in found.rows[0].reeds] == [6.5, 7.0, None]


def test_pressed_or_unsteady_is_not_calm():
    found = season(
        [
            sitting(COOK, ago(3), hold_all(7, 7, 7, 7, 7), key="calm"),
            sitting(COOK, ago(2), hold_all(7, 7, 7, 7, 7, sd=0.6), key="shaky"),
            # too short, but as it should be beside that
            sitting(COOK, ago(1), hold_all(3, 3, 3, 3, 3), key="short"),
        ]
    )
    assert [reed.calm for reed in found.rows[0].reeds] == [True, False, True]


def test_only_what_lies_within_the_days_is_drawn():
    days = [
        sitting(COOK, ago(day), hold_all(7, 7, 7, 7, 7), key=str(day)) for day in (28, 27, 1, 0)
    ]
    found = season(days)
    assert [one.key for one in found.sittings] == ["27", "1", "0"]
    earlier = season(days, last=ago(1))
    assert [one.key for one in earlier.sittings] == ["27", "1"]
    assert (earlier.first, earlier.last) == (ago(27), ago(1))


def test_strain_is_the_mean_of_what_was_answered():
    warm = COOK.steps[0]
    found = season(
        [
            sitting(COOK, ago(3), done(warm, strain=1.0), hold_all(7, 7, 7, 7, 7, strain=4.0)),
            sitting(COOK, ago(2), hold_all(7, 7, 7, 7, 7, strain=None)),
        ]
    )
    assert found.strain == ((ago(3), 2.5),)


def test_a_week_and_more_without_a_session_is_away():
    found = season([sitting(COOK, ago(day), hold_all(7, 7, 7, 7, 7)) for day in (20, 10, 3)])
    # from the day after the 20th day back to the day before the 10th: nine whole days
    assert found.away == ((ago(19), ago(11)),)
    lapsed = season([sitting(COOK, ago(8), hold_all(7, 7, 7, 7, 7))])
    assert lapsed.away == ((ago(7), TODAY),)
    assert season([sitting(COOK, ago(7), hold_all(7, 7, 7, 7, 7))]).away == ((ago(6), TODAY),)
    assert season([sitting(COOK, ago(6), hold_all(7, 7, 7, 7, 7))]).away == ()


def test_away_begins_no_earlier_than_what_is_drawn():
    found = season(
        [sitting(COOK, ago(day), hold_all(7, 7, 7, 7, 7)) for day in (40, 20, 19)],
        first=ago(27),
    )
    assert found.away[0] == (ago(27), ago(21))


def test_a_step_without_notes_is_one_row_by_its_figure():
    program = loud_program()
    talk = next(step for step in program.steps if step.kind == "level")
    found = season([sitting(program, ago(1), done(talk, over_db=7.0, over_target=60.0))], program)
    (row,) = [one for one in found.rows if one.step_id == talk.step_id]
    assert (row.of, row.code) == ("", "over_db")
    (reed,) = row.reeds
    assert reed.value == 7.0
    assert reed.target == talk.grade.rungs[talk.rung]


def test_a_figure_with_a_rule_stands_to_what_the_rule_asks():
    program = proposed("resonance").program
    hum = step_of(program, "hum_to_words")
    found = season([sitting(program, ago(1), done(hum, done=70.0))], program)
    (row,) = found.rows
    assert (row.code, row.reeds[0].value, row.reeds[0].target) == ("done", 70.0, 80.0)


def test_stopped_and_short_sessions_stand_in_it():
    found = season(
        [
            sitting(COOK, ago(2), sign=StopSign.PAIN, key="stop"),
            sitting(COOK, ago(1), soft(POWER, 5), short=True, key="short"),
        ]
    )
    assert [one.key for one in found.sittings] == ["stop", "short"]


def test_the_course_that_leads_is_the_mean_of_its_notes():
    found = season(
        [
            sitting(COOK, ago(2), hold_all(7, 8, 6, 7, 7), key="b"),
            sitting(COOK, ago(3), hold_all(6, 6, 6, 6, 6, rung=0), key="a"),
        ]
    )
    main = main_course(found, COOK)
    assert (main.name, main.code) == ("Power notes", "best_s")
    assert main.points == ((ago(3), 6.0, 6.5, True), (ago(2), 7.0, 7.0, True))


def test_of_steps_that_climb_together_the_one_with_the_most_notes_leads():
    warm = step_of(COOK, "sustained_warm_up")
    note = f"0 {warm.holds[0].note.name}"
    warmed = done(warm, (Trial(note=note, figures=held()),))
    found = season([sitting(COOK, ago(1), warmed, hold_all(7, 7, 7, 7, 7))])
    assert found.rows[0].name == warm.name
    assert main_course(found, COOK).name == "Power notes"


def test_a_ladder_leads_before_what_has_none():
    program = proposed("release", "sustained").program
    power = step_of(program, "sustained_power")
    power = on_rung(program, power.step_id, 0).step(power.step_id)
    clock = next(step for step in program.steps if step.grade is None and not step.measured)
    ungraded = done(clock, done=100.0)
    trials = tuple(
        Trial(note=f"{n} {hold.note.name}", figures=held()) for n, hold in enumerate(power.holds)
    )
    found = season([sitting(program, ago(1), ungraded, done(power, trials))], program)
    assert {row.name for row in found.rows} == {clock.name, power.name}
    assert main_course(found, program).name == power.name
    only = season([sitting(program, ago(1), ungraded)], program)
    assert main_course(only, program).name == clock.name
    assert main_course(season([], program), program) is None


def test_a_step_over_its_notes_is_their_mean_and_mostly_calm():
    found = season(
        [
            sitting(COOK, ago(3), hold_all(6, 6.5, 7, 7.5, 8, rung=0), key="a"),
            sitting(COOK, ago(2), hold_all(6, 6, 6, 6, 6, sd=0.9, rung=0), key="b"),
        ]
    )
    (course,) = step_courses(found)
    # (6 + 6.5 + 7 + 7.5 + 8) / 5 = 7.0; the first rung asks for 6.5 s; SD 0.9 is over 0.5
    assert course.points == ((ago(3), 7.0, 6.5, True), (ago(2), 6.0, 6.5, False))
    assert (course.name, course.course.way) == ("Power notes", None)


def days_of(values):
    return [
        sitting(COOK, ago(len(values) - n), hold_all(*[value] * 5), key=str(n))
        for n, value in enumerate(values)
    ]


def test_it_is_told_up_down_or_neither():
    def way(*values):
        return step_courses(season(days_of(values)))[0].course.way

    rough = [0.0, 0.3, -0.3, 0.2, -0.2] * 2
    assert way(*(5 + 0.4 * n + r for n, r in enumerate(rough))) == 1
    assert way(*(9 - 0.4 * n + r for n, r in enumerate(rough))) == -1
    assert way(*(7 + r for r in rough)) == 0
    assert way(7, 7.1, 7) is None
