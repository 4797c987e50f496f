"""Contraindications where they bite: the gate, home sessions, the visit, every prompt to drink."""

import json
import uuid

import pytest
from django.urls import reverse

from lab.kinds.bubbles import bubbling
from tests.conftest import NOW
from tests.factories.screening_pages import practice_page, screen
from tests.factories.visit import kept, send
from web.clients.models import Measure, StoredScreening
from web.clients.usecases import baseline as measuring
from web.clinic.refusal import UsecaseRefused
from web.practice.usecases.open_session import open_session
from web.review.models import CaseloadRow


@pytest.mark.parametrize(
    "answers",
    [
        {"conditions": ["unsafe_swallowing"]},
        {"conditions": ["fluid_limits"]},
        {"red_flags": ["trouble_swallowing"]},
    ],
)
def test_no_water_in_the_visit_where_swallowing_is_unsafe(person, clinician, signed_in, answers):
    baseline = measuring.open_baseline(person, by=clinician, now=NOW)
    sound = bubbling(1).samples
    kept(baseline, clinician, Measure.BUBBLES, sound)
    screen(person, clinician, **answers)
    _id, answer = send(baseline, clinician, Measure.BUBBLES, sound)
    assert answer.status_code == 403
    assert "swallowing" in answer.json()["error"]["message"]
    page = signed_in.get(reverse("clients:baseline", args=[person.pk])).content.decode()
    assert "no water" in page
    assert 'data-step="bubbles"' not in page
    assert 'data-step="phonation"' in page


def test_no_sip_is_prompted_where_swallowing_is_unsafe(person, clinician, version, access, client):
    assert "sip of water" in practice_page(client, access)
    screen(person, clinician, conditions=["unsafe_swallowing"])
    assert "sip" not in practice_page(client, access)


def test_acute_laryngitis_rests_the_program_until_it_is_screened_away(
    person, clinician, version, access, signed_in
):
    screen(person, clinician, conditions=["acute_laryngitis"])
    with pytest.raises(UsecaseRefused, match="rests for now"):
        open_session(access, session_id=uuid.uuid4(), now=NOW)
    row = CaseloadRow.objects.get(client=person)
    assert row.screening["stands"]["conditions"] == ["acute_laryngitis"]
    shown = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "Acute laryngitis" in shown
    bench = signed_in.get(reverse("programs:bench", args=[person.pk])).content.decode()
    assert "swollen folds rest" in bench
    screen(person, clinician)
    assert open_session(access, session_id=uuid.uuid4(), now=NOW)[0].pk


def test_conditions_are_asked_and_kept_with_the_screening(person, signed_in):
    address = reverse("clients:screening", args=[person.pk])
    assert "Contraindications and precautions" in signed_in.get(address).content.decode()
    values = {"asked_on": "2026-06-14", "conditions": ["stroke", "glaucoma"]}
    assert signed_in.post(address, values).status_code == 302
    row = StoredScreening.objects.filter(client=person).latest("at")
    assert row.conditions == ["glaucoma", "stroke"]
    answer = signed_in.post(address, values | {"conditions": ["hiccups"]})
    assert answer.status_code == 422
    with pytest.raises(ValueError, match="hiccups"):
        screen(person, row.by, conditions=["hiccups"])
    assert json.dumps(row.conditions)
