"""Damaged data is told from broken code; packed data unfolds only so far; nobody swaps an address by themselves."""

import logging
import zlib

import pytest
from django.urls import reverse

from core.formats.fhir_bundle import meaning_of
from core.formats.packed import TooLarge, unfolded
from tests.factories.unreadable import spoil
from web.clients.intake import screenings
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import StoredScreening
from web.clinic.records import Unreadable, reading
from web.measuring import store
from web.measuring.models import Measurement, StoredContour

pytestmark = pytest.mark.django_db


def test_a_damaged_row_is_said_and_logged_with_its_traceback(person, caplog):
    from tests.conftest import NOW

    row = StoredScreening.objects.get(client=person)
    spoil("clients_storedscreening", "red_flags", '{"blood": 3}', row)
    with caplog.at_level(logging.ERROR), pytest.raises(Unreadable, match=str(row.pk)):
        IntakeFile(person, NOW.date()).screening  # noqa: B018
    (record,) = [one for one in caplog.records if str(row.pk) in one.getMessage()]
    assert record.exc_info
    assert "ValidationError" in logging.Formatter().format(record)


@pytest.mark.parametrize("slip", [AttributeError, TypeError, KeyError, IndexError, ValueError])
def test_a_slip_of_the_code_is_an_error_and_no_damaged_record(person, monkeypatch, slip):
    from tests.conftest import NOW

    def typo(*_args, **_kwargs):
        raise slip("a typo")

    monkeypatch.setattr(screenings, "Screening", typo)
    with pytest.raises(slip, match="a typo"):
        IntakeFile(person, NOW.date()).screening  # noqa: B018
    with pytest.raises(slip), reading(StoredScreening.objects.get(client=person)):
        typo()


@pytest.mark.parametrize("slip", [AttributeError, TypeError, KeyError, ValueError])
def test_a_slip_of_the_code_is_no_damaged_measurement_either(monkeypatch, slip):
    def typo(*_args, **_kwargs):
        raise slip("a typo")

    row = Measurement(task="hold", verdict="good", reasons=[], breaks=[], hold_s=7.0)
    assert store.figures_of(row).hold_s == 7.0
    monkeypatch.setattr(store, "Figures", typo)
    with pytest.raises(slip, match="a typo"):
        store.figures_of(row)


@pytest.mark.parametrize(
    "spoilt",
    [{"task": "juggling"}, {"verdict": "fine"}, {"breaks": [{"when": 1}]}, {"reasons": [{}]}],
)
def test_a_damaged_measurement_is_not_measurable_and_says_so(spoilt, caplog):
    row = Measurement(**{"task": "hold", "verdict": "good", "reasons": [], "breaks": [], **spoilt})
    with caplog.at_level(logging.ERROR):
        found = store.figures_of(row)
    assert str(row.pk) in found.quality.reasons[0].words
    assert any(one.exc_info for one in caplog.records)


def test_what_is_packed_unfolds_only_so_far():
    bomb = zlib.compress(bytes(1_000_001))
    assert len(bomb) < 2_000
    with pytest.raises(TooLarge):
        unfolded(bomb, most=1_000_000)
    assert len(unfolded(bomb, most=1_000_001)) == 1_000_001
    with pytest.raises(zlib.error):
        unfolded(bomb[:-20], most=1_000_001)


def test_a_contour_that_unfolds_without_end_is_refused_before_it_does():
    packed = zlib.compress(bytes(50_000_000))
    with pytest.raises(ValueError, match="packed data"):
        StoredContour(f0=packed, level=packed).curve()
    usual = zlib.compress(bytes(2 * 100 * 60))  # a minute
    assert len(StoredContour(f0=usual, level=usual).curve().level_db) == 6_000


def test_there_is_no_page_to_add_or_swap_an_address(signed_in, clinician):
    page = reverse("account_email")
    assert signed_in.get(page).status_code == 404
    for act in ("action_add", "action_primary", "action_remove", "action_send"):
        answer = signed_in.post(page, {"email": "somebody@else.example", act: ""})
        assert answer.status_code == 404
    clinician.refresh_from_db()
    assert clinician.email != "somebody@else.example"


@pytest.mark.parametrize(
    ("code", "says", "never"),
    [
        ("bubbling", "Bubbles a second", "time"),
        ("rate", "Words a minute", "ubbles"),
        ("joined", "both hiss and buzz", "without a stop"),
        ("low_clean", "in tune", "without a break"),
        ("lags", "percent", "The note that reached least"),
        ("near", "semitone", "near the note asked for"),
    ],
)
def test_what_a_published_code_means_is_what_is_measured(code, says, never):
    _name, meaning = meaning_of(code)
    assert says in meaning
    assert never not in meaning
