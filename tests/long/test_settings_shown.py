"""Each setting of the detectors that names a sound changes what is measured of it."""

import pytest

from core.kinds.registry import detectors
from core.sound.settings.setting import AT_START, settings_in
from lab.bench import settings as bench


@pytest.mark.parametrize("detector", detectors())
def test_the_sound_named_beside_a_setting_shows_it(detector):
    """A setting nothing reads any more, or one that lost its effect, would pass unseen otherwise."""
    for setting in settings_in(detectors()[detector]):
        if setting.shown_by not in ("", AT_START):
            assert bench.shows(detector, setting, setting.shown_by), setting.name
