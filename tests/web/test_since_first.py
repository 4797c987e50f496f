"""The latest baseline against the first on the Client page."""

import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from tests.conftest import NOW, baseline_of
from web.clients.models import Measure
from web.clients.usecases import baseline as measuring

pytestmark = pytest.mark.django_db
LATER = NOW + timedelta(hours=2)


def page_of(signed_in, person):
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    return page.replace("\u00a0", " ")


def measured_again(person, by, **seconds):
    row = measuring.open_baseline(person, by=by, now=LATER)
    for measure, values in {"probe_low": (8.0,), **seconds}.items():
        for value in values:
            measuring.type_attempt(
                row, attempt_id=uuid.uuid4(), measure=Measure(measure), seconds=value, now=LATER
            )
    measuring.record_baseline(row, now=LATER)


def test_one_baseline_is_compared_with_nothing(signed_in, person, clinician):
    baseline_of(person, clinician)
    assert "Since the first baseline" not in page_of(signed_in, person)


def test_the_best_tries_are_compared_with_the_spread_of_both(signed_in, person, clinician):
    baseline_of(person, clinician)
    # “ah” 9.4, 8.8, 8.1 s: variance 0.4233 (2 beyond the first); 11.3, 10.0: 0.845 (1);
    # (2 · 0.4233 + 0.845) / 3 = 0.5639, SD 0.7509, times 1.96 · √2 = 2.08
    measured_again(person, clinician, phonation=(11.6, 10.3), s=(17.0,), z=(9.0,))
    page = " ".join(page_of(signed_in, person).split())
    assert "Since the first baseline, 14 Jun 2026" in page
    assert (
        "9.4 s → 11.6 s<br><small><strong>+2.2 s</strong>, more than the spread of the tries (2.1 s)"
        in page
    )
    assert "17.6 s → 17.0 s<br><small>−0.6 s, too few tries to know their spread" in page
    assert "1.60 → 1.89<br><small>+0.29, too few tries" in page
    # 2727 mL ÷ 9.4 s = 290, ÷ 11.6 s = 235
    assert "290 mL/s → 235 mL/s" in page


def test_a_gain_within_the_spread_says_so(signed_in, person, clinician):
    baseline_of(person, clinician)
    measured_again(person, clinician, phonation=(11.1,))
    page = " ".join(page_of(signed_in, person).split())
    assert "+1.7 s, within the spread of the tries (1.8 s)" in page


def scored(person, by, **values):
    row = measuring.open_baseline(person, by=by, now=LATER)
    measuring.set_baseline(row, values)
    measured_again(person, by)


def test_what_is_said_and_scored_is_compared_on_the_same_scale_only(signed_in, person, clinician):
    first = {"effort": 6, "fatigue": 7, "discomfort": 3, "rating": 41.5, "rating_scale": "Severity"}
    row = measuring.open_baseline(person, by=clinician, now=NOW)
    measuring.set_baseline(row, {**first, "handicap": 52.0, "handicap_scale": "Long form"})
    baseline_of(person, clinician)
    scored(
        person,
        clinician,
        effort=4,
        rating=30.0,
        rating_scale="severity",
        handicap=14.0,
        handicap_scale="Short form",
    )
    page = " ".join(page_of(signed_in, person).split())
    assert "6/10 → 4/10<br><small>−2/10, too few tries" in page
    # not asked again: nothing to compare
    assert "Vocal fatigue" not in page
    assert "41.5 → 30<br><small>−11.5, too few tries" in page
    assert "52 → 14<br><small>−38, another scale: scores do not compare" in page


def test_a_score_without_its_scale_is_refused_and_nothing_is_kept(signed_in, person):
    address = reverse("clients:set_baseline", args=[person.pk])
    for wrong in ({"rating": "12"}, {"handicap": "201", "handicap_scale": "x"}, {"effort": "11"}):
        assert (
            signed_in.post(address, {"lowest": "G3", "highest": "G4", **wrong}).status_code == 422
        )
    page = signed_in.post(address, {"rating": "12"}).content.decode()
    assert "Name what the score is of." in page
    good = {"lowest": "G3", "highest": "G4", "rating": "12", "rating_scale": "Severity"}
    assert signed_in.post(address, good).status_code == 302
    assert (
        'value="12"'
        in signed_in.get(reverse("clients:baseline", args=[person.pk])).content.decode()
    )
