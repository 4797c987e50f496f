"""`./reed bench settings`: finds a seeded sound whose figures depend on each setting of the detectors.

Halves and doubles every setting; a sound shows the setting if any of its figures changes. Reports settings
whose named sound no longer does, and writes `docs/measuring-settings.md`.
"""

import argparse
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np

from core.errors import CoreError
from core.kinds.live import Ended, LiveMeasurement, LiveState, figures_of
from core.kinds.registry import detectors, findings
from core.sound.settings.setting import AT_START, Setting, settings_in
from lab.bench.named_sounds import named_sound, names

PAGE = Path(__file__).parents[2] / "docs/measuring-settings.md"
BEFORE_FRAMES = ("sound/candidates", "sound/losses")
WHILE_IT_SOUNDS = ("kinds/live", "kinds/bubbles/live")
_HEAD = """# Settings of the detectors

`./reed bench settings` writes this page from the code: `core/sound/settings/`, `core/kinds/settings.py` and the
`settings.py` of each kind of task. The last column names a seeded sound from
`lab/bench/named_sounds.py` whose figures, findings or live states change when the setting is halved or doubled. A dash
means that no sound tried so far does: the setting limits cost, covers a rare case or still needs a sound. What is read
only when the module loads is not tried.
How the detectors work: [measuring](measuring.md)."""


def shows(detector: str, setting: Setting, name: str) -> bool:
    """Whether any figure of the named sound changes with the setting halved or doubled."""
    usual = _figures(detector, name)
    return any(
        changed != usual
        for value in other_values(setting)
        if (changed := _with(detector, setting.name, value, name)) is not None
    )


def other_values(setting: Setting) -> list[Any]:
    """Half and twice the value; counts stay whole numbers."""
    if isinstance(setting.value, tuple):
        return [tuple(one * times for one in setting.value) for times in (0.5, 2)]
    if setting.unit == "percentile":
        return [setting.value / 2, (100 + setting.value) / 2]
    if isinstance(setting.value, int):
        return [setting.value // 2, setting.value * 2]
    return [setting.value / 2, setting.value * 2]


def shown_by(detector: str, setting: Setting) -> str:
    """The sound named in the code if it shows the setting, otherwise the first one that does; "" if none does."""
    if setting.shown_by == AT_START:
        return AT_START
    likely = [setting.shown_by] if setting.shown_by in names() else []
    return next((name for name in [*likely, *names()] if shows(detector, setting, name)), "")


def page() -> str:
    """The settings of all detectors as Markdown."""
    parts = [_HEAD]
    for detector, settings in detectors().items():
        parts.append(f"\n## `{detector}.py`\n")
        parts.append(
            "| setting | value | unit | what it prevents | shown by |\n" + "|---" * 5 + "|"
        )
        parts += [_row(setting) for setting in settings_in(settings)]
    return "\n".join(parts) + "\n"


def _row(setting: Setting) -> str:
    value = setting.value
    numbers = value if isinstance(value, tuple) else (value,)
    told = ", ".join(f"{one:g}".replace("-", "−") for one in numbers)
    shown = setting.shown_by or "—"
    return f"| {setting.name} | {told} | {setting.unit} | {setting.prevents} | {shown} |"


@contextmanager
def altered(detector: str, name: str, value: Any) -> Iterator[None]:
    """Change one setting for a while. The objects are frozen for the product; only this benchmark bypasses that."""
    settings = detectors()[detector]
    usual = getattr(settings, name)
    object.__setattr__(settings, name, value)
    try:
        yield
    finally:
        object.__setattr__(settings, name, usual)


def _with(detector: str, name: str, value: Any, sound: str) -> str | None:
    """Figures of a sound with an altered setting, as text; None if measuring fails with it."""
    with altered(detector, name, value), np.errstate(all="ignore"):
        try:
            return _measured(detector, sound)
        except (ArithmeticError, CoreError, LookupError, RuntimeWarning, StopIteration, ValueError):
            return None


@cache
def _figures(detector: str, sound: str) -> str:
    return _measured(detector, sound)


def _measured(detector: str, sound: str) -> str:
    if detector in WHILE_IT_SOUNDS:
        return repr(_states(sound))
    fresh = detector in BEFORE_FRAMES
    found = figures_of(_ended.__wrapped__(sound) if fresh else _ended(sound))
    return repr((found, findings(found)))


@cache
def _ended(name: str) -> Ended:
    live, pieces = _played(name)
    for piece in pieces:
        live.follow(piece)
    return live.end()


def _states(name: str) -> list[LiveState]:
    live, pieces = _played(name)
    return [live.feed(piece) for piece in pieces]


def _played(name: str) -> tuple[LiveMeasurement, Iterator[np.ndarray]]:
    """An attempt that begins, and its sound in pieces of a second."""
    found, rate_hz = named_sound(name), named_sound(name).sound.rate_hz
    live = LiveMeasurement(rate_hz, found.task, target=found.aim)
    samples = found.sound.samples
    return live, (samples[at : at + rate_hz] for at in range(0, len(samples), rate_hz))


def run(arguments: list[str]) -> int:
    """Print each setting with a sound that shows it, and write the page from the code."""
    parser = argparse.ArgumentParser(prog="./reed bench settings")
    parser.add_argument("--only", help="one detector, as sound/held")
    given = parser.parse_args(arguments)
    PAGE.write_text(page())
    for detector, settings in detectors().items():
        if given.only not in (None, detector):
            continue
        for setting in settings_in(settings):
            found = shown_by(detector, setting)
            agrees = "" if found == setting.shown_by else f"  (the code says “{setting.shown_by}”)"
            print(f"{detector}.{setting.name}: {found or '—'}{agrees}", flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(run(sys.argv[1:]))
