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
