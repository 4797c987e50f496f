"""`./reed bench changes`: how often a change of known truth is told, and how often one that is none."""

import argparse
import json
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from core.grading.course import Point, course_between

_START = date(2026, 1, 5)
_MOST_FALSE_PERCENT = 5.0
_LEVEL_S = 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Truth:
    """A course of known truth. at: seconds (of a level: dB) at so many weeks, before the day-to-day
    spread (SD, s or dB); changes: whether there is anything to tell; new_device: after six weeks a
    level is heard with another device, against the first home session on it."""

    name: str
    at: Callable[[float], float]
    changes: bool
    new_device: bool = False


def _slope(by_s: float) -> Callable[[float], float]:
    return lambda week: _LEVEL_S + by_s * week


def _bad_day(week: float) -> float:
    return _LEVEL_S - (4.0 if round(7 * week) == 40 else 0.0)


TRUTHS = (
    Truth(name="flat", at=_slope(0.0), changes=False),
    Truth(name="flat, one bad day (−4 s)", at=_bad_day, changes=False),
    Truth(name="+0.1 s a week", at=_slope(0.1), changes=True),
    Truth(name="+0.2 s a week", at=_slope(0.2), changes=True),
    Truth(name="+0.3 s a week", at=_slope(0.3), changes=True),
    Truth(name="+0.5 s a week", at=_slope(0.5), changes=True),
    Truth(name="−0.3 s a week", at=_slope(-0.3), changes=True),
    Truth(
        name="+1.5 s at once after 6 weeks", at=lambda w: _LEVEL_S + 1.5 * (w >= 6), changes=True
    ),
)
DEVICE_CHANGED = (
    Truth(name="level flat, new device", at=_slope(0.0), changes=False, new_device=True),
    Truth(name="level +0.5 dB a week, new device", at=_slope(0.5), changes=True, new_device=True),
)
SPREADS_S = (0.3, 0.7, 1.2)


def history(truth: Truth, spread_s: float, seed: int, *, weeks: int = 12) -> list[Point]:
    """Session bests of six days a week with a normal day-to-day spread."""
    random = np.random.default_rng(seed)
    days = [day for day in range(7 * weeks) if day % 7 < 6]
    values = [truth.at(day / 7) + float(random.normal(0, spread_s)) for day in days]
    device = ["b" if truth.new_device and day >= 42 else "a" for day in days]
    heard_first = {name: values[device.index(name)] for name in set(device)}
    return [
        Point(
            day=_START + timedelta(days=day),
            value=value - heard_first[name] if truth.new_device else value,
            rung=0,
            device=name,
        )
        for day, value, name in zip(days, values, device, strict=True)
    ]


def first_told(points: list[Point], *, code: str = "best_s", weeks: int = 12) -> int | None:
    """The first week, looked at weekly, at whose end a change is told; None for never."""
    for week in range(2, weeks + 1):
        until = _START + timedelta(days=7 * week)
        if course_between(code, [one for one in points if one.day < until]).real:
            return week
    return None


def rows(count: int) -> Iterator[dict[str, object]]:
    """One a truth and spread: how many of `count` histories are told of, %, and after how many weeks."""
    for truth in (*TRUTHS, *DEVICE_CHANGED):
        code = "over_db" if truth.new_device else "best_s"
        for spread_s in SPREADS_S:
            told = [first_told(history(truth, spread_s, seed), code=code) for seed in range(count)]
            weeks = [week for week in told if week is not None]
            yield {
                "truth": truth.name,
                "changes": truth.changes,
                "spread_s": spread_s,
                "told_percent": round(100 * len(weeks) / count, 1),
                "median_weeks": float(np.median(weeks)) if weeks else None,
            }


def main(arguments: list[str] | None = None) -> int:
    """Print figures as JSON Lines; exit code 1 if a change is told of more than 5 % of flat courses."""
    parser = argparse.ArgumentParser(prog="./reed bench changes")
    parser.add_argument("--count", type=int, default=1000)
    given = parser.parse_args(arguments)
    false_ones = 0
    for row in rows(given.count):
        print(json.dumps(row, ensure_ascii=False), flush=True)
        told = row["told_percent"]
        if not row["changes"] and isinstance(told, float) and told > _MOST_FALSE_PERCENT:
            false_ones += 1
    return 1 if false_ones else 0


if __name__ == "__main__":
    sys.exit(main())
