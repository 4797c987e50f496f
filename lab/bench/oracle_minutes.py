"""How long a home session takes, worked out a second time from nothing but a program's data."""

from typing import Any

Data = dict[str, Any]


def minutes_of(step: Data) -> float:
    """Doing, a rest between two starts, six seconds for tone and breath before a measured start."""
    target, times = step["target"], step["repetitions"]
    kind = target["kind"]
    each = {
        "holds": lambda: sum(hold["seconds"] for hold in target["holds"]),
        "join": lambda: target["hiss_s"] + target["buzz_s"],
        "pattern": lambda: (
            len(target["keys"]) * (len(target["degrees"]) + 2) * 60 / target["tempo_bpm"]
        ),
        "pace": lambda: (
            (target["breaths"] * (target["beats_in"] + target["beats_out"]) * 60)
            / target["tempo_bpm"]
        ),
        "timed": lambda: target["seconds_a_side"] * target["sides"],
        **dict.fromkeys(("counted", "phrases"), lambda: target["count"] * target["seconds_each"]),
    }.get(kind, lambda: target["seconds"])()
    each_starts = {
        "holds": lambda: len(target["holds"]),
        "phrases": lambda: -(-target["count"] // 5),
    }
    starts = times * each_starts.get(kind, lambda: 1)()
    tones = 6 * starts if kind not in ("pace", "speech", "timed", "counted") else 0
    return float(each * times + step["rest_s"] * (starts - 1) + tones) / 60


def session_minutes(steps: list[Data]) -> float:
    rests = sum(step["rest_s"] for step in steps[:-1]) / 60
    return sum(map(minutes_of, steps)) + rests
