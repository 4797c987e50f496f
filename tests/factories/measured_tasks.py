"""What `tests/core/test_measured_tasks.py` and others make and look at."""

from core.kinds.live import measure_sound
from core.kinds.registry import findings
from core.sound.reading import Sound


def measured(played, task, target=None):
    return measure_sound(Sound(played.samples, played.rate_hz), task, target=target)


def codes(found):
    return [finding.code for finding in findings(found)]
