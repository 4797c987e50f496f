"""Whether home sessions meet a part of a rule; what is not known is neither yes nor no."""

import pytest

from core.grading.history import PastSession, StepDone, Trial
from core.grading.rule import Bound, RulePart
from core.grading.rule_match import (
    every,
    failing,
    matched,
    matched_by_clock,
    meets,
    most_allowed,
    some,
)
from tests.core.histories import ago

YES, NO, UNKNOWN = {"share": 100.0}, {"share": 60.0}, {"share": None}


def part(each="attempt", **more):
    given = {"each": each, "when": [{"figure": "share", "least": 100}], "of": 3, "need": 2}
    return RulePart.model_validate({**given, **more})


def step(*figures, notes=None, asked=None, said=None, heard=True, **whole):
    trials = tuple(
        Trial(note=(notes or [""] * len(figures))[n], figures=one, heard=heard)
        for n, one in enumerate(figures)
    )
    return StepDone(
        step_id="x",
        rung=0,
        asked=asked or max(len(figures), 1),
        notes=len(set(notes or [""])),
        trials=trials,
        figures=whole,
        said=said or {},
    )


def row(*days_and_steps):
    return [
        (PastSession(day=ago(day), routine="r", number=n), one)
        for n, (day, one) in enumerate(days_and_steps)
    ]


@pytest.mark.parametrize(
    ("figures", "asked", "met"),
    [
        # 80 % of five are four
        ([YES] * 4 + [NO], 5, True),
        ([YES] * 3 + [NO] * 2, 5, False),
        ([YES] * 3 + [NO, UNKNOWN], 5, None),
        # what was not done counts as asked for
        ([YES] * 3, 5, False),
        ([YES] * 4, 5, True),
        # 80 % of six are 4.8
        ([YES] * 4 + [NO] * 2, 6, False),
        # more than was asked: 80 % of six made are 4.8
        ([YES] * 4 + [NO] * 2, 5, False),
    ],
)
def test_a_share_of_the_attempts(figures, asked, met):
    assert meets(part(share=80), step(*figures, asked=asked), {}) is met


@pytest.mark.parametrize(
    ("figures", "met"),
    [
        ([YES] * 5 + [NO] * 5, True),
        ([YES] * 6 + [NO] * 4, False),
        ([YES] * 5 + [NO] * 4 + [UNKNOWN], None),
        ([YES] * 4 + [NO] * 5 + [UNKNOWN], True),
        ([], None),
    ],
)
def test_under_a_share_counts_the_attempts_that_were_made(figures, met):
    # under 60 %: what is not known could be either
    assert meets(part(under_share=60), step(*figures, asked=10), {}) is met


def test_a_note_is_met_by_one_attempt_or_where_said_by_all():
    notes = ["a", "a", "b"]
    done = step(NO, YES, NO, notes=notes)
    assert meets(part("note", count=1), done, {}) is True
    assert meets(part("note", count=2), done, {}) is False
    assert meets(part("note", count=1, every=True), done, {}) is False
    assert meets(part("note", count=1, every=True), step(YES, YES, NO, notes=notes), {}) is True


def test_a_session_by_its_figures_and_what_was_said():
    by = part("session", when=[{"figure": "done", "least": 80}])
    strain = part(
        "session", when=[{"figure": "done", "least": 80}], besides=[{"figure": "strain", "most": 2}]
    )
    assert meets(by, step(done=80.0), {}) is True
    assert meets(by, step(done=79.9), {}) is False
    assert meets(by, step(), {}) is None
    assert meets(strain, step(done=80.0, said={"strain": 2.0}), {}) is True
    assert meets(strain, step(done=80.0, said={"strain": 2.1}), {}) is False
    assert meets(strain, step(done=80.0), {}) is None
    # what falls short does so whatever is not known
    assert meets(strain, step(done=10.0), {}) is False


def test_a_bound_that_is_asked_for_only_where_the_task_has_it():
    only = part("session", when=[{"figure": "stops", "most": 1, "only_where": True}])
    assert meets(only, step(), {}) is True
    assert meets(only, step(stops=None), {}) is None
    assert meets(only, step(stops=2.0), {}) is False


@pytest.mark.parametrize(
    ("bound", "at", "beyond"),
    [
        ({"least": 5}, 5.0, 4.9),
        ({"most": 5}, 5.0, 5.1),
        ({"under": 5}, 4.9, 5.0),
        ({"over": 5}, 5.1, 5.0),
    ],
)
def test_bounds_at_their_edge(bound, at, beyond):
    own = part("session", when=[{"figure": "done", **bound}])
    assert meets(own, step(done=at), {}) is True
    assert meets(own, step(done=beyond), {}) is False


def test_with_a_tremor_the_larger_of_the_limit_and_the_own():
    bound = Bound(figure="pitch_sd", most=0.5, own=1.1)
    assert most_allowed(bound, {}) == 0.5
    assert most_allowed(bound, {"pitch_sd": 0.4}) == 0.5
    assert most_allowed(bound, {"pitch_sd": 0.6}) == pytest.approx(0.66)
    assert most_allowed(Bound(figure="pitch_sd", most=0.5), {"pitch_sd": 0.6}) == 0.5


GOOD, BAD, DARK = step(YES), step(NO), step(UNKNOWN)


def test_the_last_sessions_are_counted_with_their_days():
    by = part(share=100)
    found = matched(by, row((4, GOOD), (3, BAD), (2, GOOD), (2, DARK)), {})
    # the first of four is no longer looked at
    assert (found.met, found.unknown, found.looked, found.days, found.holds) == (1, 1, 3, 2, False)
    assert matched(by, row((4, GOOD), (3, GOOD), (2, BAD)), {}).holds
    assert not matched(part(share=100, days=3), row((3, GOOD), (3, GOOD), (2, BAD)), {}).holds
    assert not matched(part(share=100, on_days=2), row((3, GOOD), (3, GOOD), (2, BAD)), {}).holds
    assert matched(part(share=100, on_days=2), row((3, GOOD), (2, GOOD), (2, BAD)), {}).holds


def test_a_day_counts_where_every_session_of_it_does():
    by = part(share=100, by="day", of=2, need=2)
    assert matched(by, row((9, BAD), (2, GOOD), (2, GOOD), (1, GOOD)), {}).holds
    found = matched(by, row((2, GOOD), (2, BAD), (1, GOOD)), {})
    assert (found.met, found.looked, found.holds) == (1, 2, False)
    assert matched(by, row((2, GOOD), (2, DARK), (1, GOOD)), {}).unknown == 1


def test_ready_by_the_clock_only_where_something_was_not_heard():
    by = part(
        share=100, when=[{"figure": "share", "least": 100}, {"figure": "pitch_sd", "most": 0.5}]
    )
    timed, short = step(YES, heard=False), step(NO, heard=False)
    heard = step({**YES, "pitch_sd": 0.3})
    shaky = step({**YES, "pitch_sd": 0.9})
    assert matched_by_clock(by, row((3, timed), (2, timed), (1, timed)), {})
    assert matched_by_clock(by, row((3, timed), (2, heard), (1, short)), {})
    assert not matched_by_clock(by, row((3, timed), (2, shaky), (1, short)), {})
    assert not matched_by_clock(by, row((3, heard), (2, heard), (1, heard)), {})
    # heard sessions before those that are looked at do not matter
    assert not matched_by_clock(by, row((4, timed), (3, heard), (2, heard), (1, heard)), {})
    no_length = part(share=100, when=[{"figure": "pitch_sd", "most": 0.5}])
    assert not matched_by_clock(no_length, row((3, timed), (2, timed), (1, timed)), {})


def test_what_fails_most_often_is_named_first():
    by = part(
        share=100,
        when=[{"figure": "share", "least": 100}, {"figure": "pitch_sd", "most": 0.5}],
        besides=[{"figure": "strain", "most": 2}],
    )
    done = step(
        {"share": 100.0, "pitch_sd": 0.9},
        {"share": 60.0, "pitch_sd": 0.9},
        {"share": None, "pitch_sd": None},
        said={"strain": 5.0},
    )
    assert failing(by, done, {}) == ["pitch_sd", "share", "strain"]
    whole = part("session", when=[{"figure": "done", "least": 80}])
    assert failing(whole, step(done=10.0), {}) == ["done"]
    assert failing(whole, step(done=90.0), {}) == []
    assert failing(whole, step(), {}) == []


@pytest.mark.parametrize(
    ("found", "all_of", "one_of"),
    [
        ([], True, False),
        ([True, True], True, True),
        ([True, None], None, True),
        ([False, None], False, None),
        ([None], None, None),
        ([False, True], False, True),
        ([False], False, False),
    ],
)
def test_three_answers(found, all_of, one_of):
    assert every(found) is all_of
    assert some(found) is one_of
