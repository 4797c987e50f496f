"""What `tests/core/test_gate.py` and others make and look at."""

from datetime import date, timedelta

from core.grading.need import ClientFacts

TODAY = date(2026, 6, 15)


def facts(**changes):
    usual = {
        "has_baseline": True,
        "active_since": TODAY - timedelta(days=14),
        "last_session": TODAY - timedelta(days=1),
        "kept_14_days": 22,
        "prescribed_14_days": 26,
    }
    return ClientFacts(**usual | changes)
