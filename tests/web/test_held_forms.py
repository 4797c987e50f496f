"""A form sent after its sender was signed out: held for them, shown to nobody else, sent again by a press."""

import re
from datetime import timedelta

import pytest
from django.conf import settings as site
from django.test import Client as Browser

from tests.conftest import member
from tests.factories.pages import url
from web.clients.models import Client
from web.clinic import held_forms
from web.review.models import OpenNote

pytestmark = pytest.mark.django_db
NEW = {
    "name": "Osric Fendt",
    "born_on": "1974-03-01",
    "voice_group": "men",
    "time_zone": "Europe/Dublin",
    "occupation": "Ferry pilot, talks all day",
}


@pytest.fixture
def browser(clinician):
    """Somebody who worked here and was signed out by time."""
    browser = Browser()
    browser.force_login(clinician)
    assert browser.get(url("review:rounds")).status_code == 200
    ended(browser)
    return browser


def ended(browser):
    """The session is over; the browser keeps its other cookies."""
    browser.session.flush()
    del browser.cookies[site.SESSION_COOKIE_NAME]


def fields_in(page: str) -> dict[str, str]:
    found = re.findall(r'<input type="hidden" name="([^"]+)" value="([^"]*)"', page)
    return {name: value for name, value in found if name != "csrfmiddlewaretoken"}


def test_add_client_is_kept_through_signing_in(browser, clinician):
    answer = browser.post(url("clients:enrol"), NEW)
    assert answer.status_code == 302
    assert "What you typed is kept" in browser.get(answer["Location"]).content.decode()
    assert not Client.objects.exists()
    browser.force_login(clinician)
    page = browser.get(url("clinic:held_form")).content.decode()
    assert "Ferry pilot, talks all day" in page
    assert f'action="{url("clients:enrol")}"' in page
    sent = fields_in(page)
    assert browser.post(url("clients:enrol"), sent).status_code == 302
    assert Client.objects.get().occupation == "Ferry pilot, talks all day"
    assert browser.get(url("clinic:held_form")).status_code == 302  # let go once it was taken


def test_a_note_sent_too_late_is_kept_and_can_be_saved(browser, person, clinician):
    address = url("review:note", person.pk)
    browser.post(address, {"text": "Two lines\nof a note", "revision": "0", "act": "keep"})
    browser.force_login(clinician)
    page = browser.get(url("clinic:held_form")).content.decode()
    assert "Two lines\nof a note" in page
    assert browser.post(address, fields_in(page)).status_code == 302
    assert OpenNote.objects.get().text == "Two lines\nof a note"


def test_nobody_else_is_shown_what_was_typed(browser, clinic, other_clinic, clinician):
    for other in (member(clinic, "ewan@quay.example"), member(other_clinic, "ada@shore.example")):
        ended(browser)
        browser.force_login(clinician)
        browser.get(url("review:rounds"))
        ended(browser)
        browser.post(url("clients:enrol"), NEW)
        browser.force_login(other)
        answer = browser.get(url("clinic:held_form"), follow=True)
        assert "Ferry pilot" not in answer.content.decode()
        # and not to its sender either after that: it is gone from this browser
        browser.force_login(clinician)
        assert browser.get(url("clinic:held_form")).status_code == 302


def test_of_a_browser_nobody_worked_in_nothing_is_held(clinician):
    stranger = Browser()
    answer = stranger.post(url("clients:enrol"), NEW)
    assert answer.status_code == 302
    assert "held-form" not in answer["Location"]
    stranger.force_login(clinician)
    assert stranger.get(url("clinic:held_form")).status_code == 302


def test_a_forged_cookie_holds_nothing(clinician):
    stranger = Browser()
    stranger.cookies[held_forms.COOKIE] = f"{clinician.pk}:1abcde:forged"
    assert "held-form" not in stranger.post(url("clients:enrol"), NEW)["Location"]


@pytest.mark.parametrize(
    "form",
    [{"note": "x" * 70_000}, {"password": "harbour"}, {"new_password": "harbour", "note": "hello"}],
)
def test_what_is_endless_or_secret_is_not_held(browser, form):
    answer = browser.post(
        url("clients:enrol"), form, headers={"Referer": "http://testserver/rounds/"}
    )
    assert answer["Location"].endswith("next=/rounds/")
    # of another site no address is taken
    answer = browser.post(url("clients:enrol"), form, headers={"Referer": "http://far.example/x"})
    assert answer["Location"].endswith("next=/")


def test_what_is_held_is_gone_after_an_hour(browser, clinician, monkeypatch):
    browser.post(url("clients:enrol"), NEW)
    late = held_forms.clock.now() + held_forms.HELD_FOR + timedelta(minutes=1)
    browser.force_login(clinician)
    monkeypatch.setattr(held_forms.clock, "now", lambda: late)
    assert browser.get(url("clinic:held_form")).status_code == 302


def test_it_can_be_thrown_away(browser, clinician):
    browser.post(url("clients:enrol"), NEW)
    browser.force_login(clinician)
    assert browser.post(url("clinic:held_form")).status_code == 302
    assert browser.get(url("clinic:held_form")).status_code == 302
    assert not Client.objects.exists()


def test_a_script_is_told_in_words_that_its_reader_is_signed_out(browser, person):
    address = url("review:note", person.pk)
    answer = browser.post(address, {"text": "x"}, headers={"Accept": "application/json"})
    assert answer.status_code == 401
    assert answer.json()["error"]["code"] == "signed_out"


def test_a_page_from_before_signing_in_again_loses_nothing(clinician):
    browser = Browser(enforce_csrf_checks=True)
    browser.force_login(clinician)
    browser.get(url("clients:enrol"))
    old = {**NEW, "csrfmiddlewaretoken": "x" * 32}
    own = {"Origin": site.CSRF_TRUSTED_ORIGINS[0]}
    answer = browser.post(url("clients:enrol"), old, headers=own)
    assert answer["Location"] == url("clinic:held_form")
    page = browser.get(answer["Location"]).content.decode()
    assert "Ferry pilot" in page
    # a form from elsewhere is refused as before
    for origin in ({"Origin": "http://far.example"}, {}):
        assert browser.post(url("clients:enrol"), old, headers=origin).status_code == 403
    assert not Client.objects.exists()
