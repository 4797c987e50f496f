"""What other numbers would have proposed in the past weeks; by hand on the worked case."""

from datetime import timedelta

from core.editing.change_rung import on_rung
from core.grading.act import Act
from core.grading.history import Climbed, Decided, VisitHeld
from core.grading.rule import Changed, rules
from core.grading.rule_preview import as_of, differences
from tests.core.histories import TODAY, ago, history, sitting, soft, the_cook

COOK, POWER = the_cook()
SHIPPED = rules()
ALL_FIVE = rules([Changed("sustained.climb.need", 5)])


def daily(*met):
    """A home session a day up to yesterday, so many of five notes met in each."""
    days = range(len(met), 0, -1)
    return [sitting(COOK, ago(d), soft(POWER, n)) for d, n in zip(days, met, strict=True)]


def compared(record, now, other, programs=None, **more):
    given = programs or [(record.active_since, record.program)]
    return differences(record, given, now, other, until=TODAY, **more)


def test_a_stricter_number_would_not_have_proposed_the_climb():
    # the last five, 3 days ago: 5 5 3 5 5; 2 days ago: 5 3 5 5 5; since yesterday 3 5 5 5 3
    record = history(COOK, daily(5, 5, 3, 5, 5, 5, 3), active_since=ago(7))
    (found,) = compared(record, SHIPPED, ALL_FIVE)
    assert (found.act, found.about, found.more) == (
        Act.CLIMB,
        ("Warm-up hold", "Power notes"),
        False,
    )
    # four of five on two days, five of five on none
    assert (found.days, found.first, found.last) == (2, ago(3), ago(2))
    (back,) = compared(record, ALL_FIVE, SHIPPED)
    assert (back.more, back.days) == (True, 2)


def test_the_same_numbers_change_nothing():
    record = history(COOK, daily(5, 5, 3, 5, 5, 5, 3), active_since=ago(7))
    assert compared(record, SHIPPED, rules([Changed("sustained.climb.need", 4)])) == []


def test_it_looks_back_only_so_far_and_not_before_the_program():
    record = history(COOK, daily(5, 5, 3, 5, 5, 5, 3), active_since=ago(7))
    assert compared(record, SHIPPED, ALL_FIVE, days=2) == []
    (one,) = compared(record, SHIPPED, ALL_FIVE, days=3)
    assert (one.days, one.first) == (1, ago(2))
    later = [(TODAY, record.program)]
    assert compared(record, SHIPPED, ALL_FIVE, later) == []


def test_each_day_stands_as_it_stood():
    higher = on_rung(COOK, POWER.step_id, 2)
    up = Climbed(step_id=POWER.step_id, day=ago(2), rung=2, from_rung=1)
    decided = Decided(act=Act.CLIMB, day=ago(2), step_id=POWER.step_id)
    record = history(
        higher,
        daily(5, 5, 5, 5, 5, 5, 5),
        active_since=ago(7),
        climbs=(up,),
        decided=(decided,),
        visits=(VisitHeld(day=ago(1)),),
    )
    programs = [(ago(7), COOK), (ago(2), higher)]
    before, after = as_of(record, programs, ago(3)), as_of(record, programs, ago(2))
    assert (before.program, before.climbs, before.decided, before.changed_on) == (
        COOK,
        (),
        (),
        None,
    )
    assert (after.program, after.climbs, after.decided) == (higher, (up,), (decided,))
    assert (after.changed_on, after.visits) == (ago(2), ())
    assert as_of(record, programs, ago(7) - timedelta(days=1)) is None
