"""Two colleagues edit the same: what one touched is taken, what both did is shown, nothing is lost unseen."""

import re

import pytest
from django.urls import reverse

from tests.factories.access import clinic_lead
from web.clients.models import Baseline, StoredScreening
from web.clinic.models import Clinic

pytestmark = pytest.mark.django_db


def form_of(client, address):
    """The form of a page as a browser would send it back."""
    page = client.get(address)
    form = page.context["form"]
    values = {name: form[name].value() for name in form.fields}
    sent = {name: value for name, value in values.items() if value not in (None, False)}
    sent["shown"] = re.search(r'name="shown" value="([^"]+)"', page.content.decode())[1]
    return sent


@pytest.fixture
def lead(client, clinic):
    client.force_login(clinic_lead(clinic))
    return client


CLINIC = "/clinic/"


def test_what_only_one_of_two_changed_stands_for_both(lead):
    mine, hers = form_of(lead, CLINIC), form_of(lead, CLINIC)
    assert lead.post(CLINIC, hers | {"telephone": "000 555 0177"}).status_code == 302
    assert lead.post(CLINIC, mine | {"a4_hz": "442"}).status_code == 302
    kept = Clinic.objects.get()
    assert (kept.telephone, kept.a4_hz) == ("000 555 0177", 442)


def test_what_both_changed_is_shown_and_kept_when_it_is_sent_again(lead):
    mine, hers = form_of(lead, CLINIC), form_of(lead, CLINIC)
    lead.post(CLINIC, hers | {"a4_hz": "443"})
    answer = lead.post(CLINIC, mine | {"a4_hz": "442", "telephone": "000 555 0101"})
    assert answer.status_code == 409
    page = answer.content.decode()
    assert "A colleague changed this meanwhile; now it is: 443" in page
    assert 'value="442"' in page  # nothing of what was typed is lost
    assert Clinic.objects.get().a4_hz == 443
    again = re.search(r'name="shown" value="([^"]+)"', page)[1]
    sent = mine | {"a4_hz": "442", "telephone": "000 555 0101", "shown": again}
    assert lead.post(CLINIC, sent).status_code == 302
    kept = Clinic.objects.get()
    assert (kept.a4_hz, kept.telephone) == (442, "000 555 0101")


def test_the_same_change_twice_is_no_quarrel(lead):
    mine, hers = form_of(lead, CLINIC), form_of(lead, CLINIC)
    lead.post(CLINIC, hers | {"a4_hz": "442"})
    assert lead.post(CLINIC, mine | {"a4_hz": "442"}).status_code == 302


def test_what_is_odd_is_odd_whoever_wrote_meanwhile(lead):
    mine = form_of(lead, CLINIC)
    assert lead.post(CLINIC, mine | {"a4_hz": "1"}).status_code == 422


def test_a_baseline_keeps_what_both_typed(signed_in, person):
    page = reverse("clients:baseline", args=[person.pk])
    keep = reverse("clients:set_baseline", args=[person.pk])
    mine, hers = form_of(signed_in, page), form_of(signed_in, page)
    assert signed_in.post(keep, hers | {"lowest": "G3", "highest": "G4"}).status_code == 302
    assert signed_in.post(keep, mine | {"throat_strain": "2"}).status_code == 302
    row = Baseline.objects.get()
    assert (row.lowest, row.highest, row.throat_strain) == ("G3", "G4", 2)
    stale = mine | {"throat_strain": "5", "lowest": "A3"}
    answer = signed_in.post(keep, stale)
    assert answer.status_code == 409
    shown = answer.content.decode()
    assert "now it is: G3" in shown
    assert "now it is: 2" in shown
    row.refresh_from_db()
    assert (row.lowest, row.throat_strain) == ("G3", 2)


def test_a_screening_that_a_colleague_recorded_meanwhile_is_not_written_over(signed_in, person):
    page = reverse("clients:screening", args=[person.pk])
    mine, hers = form_of(signed_in, page), form_of(signed_in, page)
    before = StoredScreening.objects.count()
    assert (
        signed_in.post(page, hers | {"hoarse_weeks": "9", "talking_hours": "5"}).status_code == 302
    )
    answer = signed_in.post(page, mine | {"hoarse_weeks": "8"})
    assert answer.status_code == 409
    assert "now it is: 9" in answer.content.decode()
    assert StoredScreening.objects.count() == before + 1
    again = re.search(r'name="shown" value="([^"]+)"', answer.content.decode())[1]
    assert (
        signed_in.post(
            page, mine | {"hoarse_weeks": "8", "talking_hours": "5", "shown": again}
        ).status_code
        == 302
    )
    newest = StoredScreening.objects.order_by("at").last()
    assert (newest.hoarse_weeks, newest.talking_hours) == (8, 5)


def test_a_page_of_a_former_version_is_kept_as_it_came(lead):
    sent = form_of(lead, CLINIC)
    sent.pop("shown")
    assert lead.post(CLINIC, sent | {"a4_hz": "441"}).status_code == 302
