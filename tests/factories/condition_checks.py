"""What `tests/core/test_conditions.py` and others make and look at."""

from datetime import date, timedelta

from core.catalogue.touches import Touch
from core.safety.conditions import (
    GatedStep,
)

TODAY = date(2026, 6, 15)


def ago(days):
    return TODAY - timedelta(days=days)


def does(name="a step", minutes=0.0, *, sessions_a_day=1, short_day=False, touches=()):
    return GatedStep(
        name=name,
        touches=frozenset(map(Touch, touches)),
        minutes=minutes,
        sessions_a_day=sessions_a_day,
        short_day=short_day,
    )


GOOD = {
    "conditions": ["stroke"],
    "touches": ["balloon"],
    "effect": "block",
    "reason": "why",
    "source": "clinical default",
}
