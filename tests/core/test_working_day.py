"""When a whole working day has passed; by hand on a calendar."""

from datetime import datetime
from zoneinfo import ZoneInfo

import pytest

from core.dose.working_day import a_working_day_after

DUBLIN = ZoneInfo("Europe/Dublin")


def at(text):
    return datetime.fromisoformat(text).replace(tzinfo=DUBLIN)


@pytest.mark.parametrize(
    ("said", "passed"),
    [
        # 15 June 2026 is a Monday
        ("2026-06-15T08:10", "2026-06-16T08:10"),
        ("2026-06-18T23:59", "2026-06-19T23:59"),
        ("2026-06-19T16:00", "2026-06-22T16:00"),
        ("2026-06-20T10:00", "2026-06-23T09:00"),
        ("2026-06-21T22:00", "2026-06-23T09:00"),
        # the clocks go back on Sunday 25 October: the hour on the wall counts
        ("2026-10-23T15:00", "2026-10-26T15:00"),
        ("2026-10-24T15:00", "2026-10-27T09:00"),
    ],
)
def test_a_working_day_later(said, passed):
    assert a_working_day_after(at(said)) == at(passed)
