"""What `tests/web/test_conditions.py` and others make and look at."""

from datetime import timedelta

from django.urls import reverse

from tests.conftest import NOW
from web.clients.models import StoredScreening
from web.clients.usecases.enrol import record_screening


def screen(person, clinician, **answers):
    record_screening(
        person,
        by=clinician,
        now=NOW + timedelta(minutes=StoredScreening.objects.filter(client=person).count()),
        **{
            "red_flags": [],
            "voice": "troubled",
            "airway": "larynx",
            "cold": False,
            "asked_on": NOW.date(),
            "larynx_examined_on": NOW.date(),
        }
        | answers,
    )


def practice_page(client, access):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": "135791"})
    return client.get(reverse("practice:practice", args=[access.pk])).content.decode()
