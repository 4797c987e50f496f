"""Settings of the detectors: frozen, documented with unit and reason, and listed on a page that is up to date."""

import dataclasses

import pytest

from core.kinds.registry import detectors
from core.sound.settings.held import HELD
from core.sound.settings.setting import AT_START, settings_in
from lab.bench import settings as bench


def test_a_setting_cannot_be_changed_while_the_product_runs():
    with pytest.raises(dataclasses.FrozenInstanceError):
        HELD.longest_gap_s = 1.0  # type: ignore[misc]


@pytest.mark.parametrize("detector", detectors())
def test_every_setting_says_its_unit_and_what_goes_wrong_without_it(detector):
    for setting in settings_in(detectors()[detector]):
        assert setting.unit.strip(), setting.name
        assert setting.prevents.endswith("."), setting.name


def test_most_settings_have_a_sound_that_shows_them():
    every = [one for settings in detectors().values() for one in settings_in(settings)]
    assert sum(one.shown_by not in ("", AT_START) for one in every) > len(every) / 2


def test_the_page_of_settings_is_written_from_the_code():
    """`./reed bench settings` writes it."""
    assert bench.PAGE.read_text() == bench.page()
