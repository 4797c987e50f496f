"""Numbers of the rules that a clinic or a client has otherwise: tried first, kept with a reason."""

from datetime import date

import pytest
from django.test import Client as Browser
from django.urls import reverse

from tests.conftest import NOW, activate_program, enrol, member
from tests.factories.deciding import climb_key, page_of, send
from tests.factories.practice import practice, ready
from web.review.caseload.rounds import rounds
from web.review.models import Decision, RuleNumber

pytestmark = pytest.mark.django_db
TODAY = date(2026, 6, 15)
NEED = "sustained.climb.need"
FIVE = {"path": NEED, "value": "5", "reason": "Frail after her cold."}


@pytest.fixture
def climbing(person, version):
    """A client whose ladder may climb: the goal met in each of the last home sessions but one."""
    practice(person, version, 11, 12, 13, 14)
    ready(person)
    return person


@pytest.fixture
def lead(clinic):
    browser = Browser()
    browser.force_login(member(clinic, "head@harrow-quay.example", role="lead"))
    return browser


def ask(browser, person=None, act="set", **values):
    where = (
        reverse("review:client_numbers", args=[person.pk])
        if person
        else reverse("review:clinic_numbers")
    )
    return browser.post(where, {"act": act, **values})


def needed(person):
    (line,) = rounds(person.clinic, clinician=None, today=TODAY, find=person.name).lines
    return line.reason


def test_a_number_of_a_client_changes_what_is_proposed_at_once(signed_in, climbing, version):
    assert "Climb one rung" in page_of(signed_in, climbing)
    kept = "common.kept_to_climb"
    answer = ask(signed_in, climbing, path=kept, value="1", reason="Practices too little.")
    assert answer.status_code == 302
    page = page_of(signed_in, climbing)
    assert "Climb one rung" not in page
    assert "1 otherwise" in page
    assert "Climb one rung" not in needed(climbing)
    row = RuleNumber.objects.get()
    assert (row.path, row.value, row.reason, row.client) == (
        kept,
        1.0,
        "Practices too little.",
        climbing,
    )
    listed = signed_in.get(reverse("review:client_numbers", args=[climbing.pk])).content.decode()
    assert "Practices too little." in listed
    # taken back: the number before
    ask(signed_in, climbing, path=kept, value="", reason="Better now.")
    assert "Climb one rung" in page_of(signed_in, climbing)
    assert RuleNumber.objects.count() == 2


def test_a_decision_keeps_the_numbers_it_was_made_with(signed_in, climbing, version):
    ask(signed_in, climbing, path="common.kept_to_climb", value="0.4", reason="Busy weeks.")
    send(signed_in, climbing, climb_key(version))
    assert Decision.objects.get().evidence["numbers"] == {"common.kept_to_climb": 0.4}


def test_trying_says_what_would_have_been_and_keeps_nothing(signed_in, climbing):
    tried = ask(signed_in, climbing, act="try", path="common.kept_to_climb", value="1")
    page = tried.content.decode()
    assert tried.status_code == 200
    assert "Climb one rung (Warm-up hold, Power notes): not proposed on" in page
    assert RuleNumber.objects.count() == 0
    same = ask(signed_in, climbing, act="try", path="common.kept_to_climb", value="0.5")
    assert "Nothing in the past eight weeks." in same.content.decode()


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({**FIVE, "reason": "  "}, "Say why"),
        ({**FIVE, "path": "sustained.climb.mood"}, "No rule has this number"),
        ({**FIVE, "path": ""}, "A number is missing or none"),
        ({**FIVE, "value": "many"}, "A number is missing or none"),
        ({**FIVE, "value": "1e308"}, "A number is missing or none"),
        ({**FIVE, "value": "nan"}, "A number is missing or none"),
        ({**FIVE, "value": "6"}, "more home sessions are needed than looked at"),
        ({**FIVE, "path": "sustained.climb.share", "value": "0"}, "greater than 0"),
        ({**FIVE, "path": "sustained.ease.when.share.under", "value": "101"}, "crosses"),
        ({**FIVE, "path": "common.flat_days", "value": "60"}, "examining again comes after"),
    ],
)
def test_what_cannot_be_is_said_and_nothing_is_kept(signed_in, climbing, values, words):
    answer = ask(signed_in, climbing, **values)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert RuleNumber.objects.count() == 0


def test_the_clinics_number_is_the_leads_and_a_clients_own_comes_before_it(
    signed_in, lead, climbing
):
    assert ask(signed_in, **FIVE).status_code == 403
    kept = {"path": "common.kept_to_climb", "reason": "All practice more here."}
    assert ask(lead, **kept, value="1").status_code == 302
    assert "Climb one rung" not in page_of(signed_in, climbing)
    ask(signed_in, climbing, **kept, value="0.5")
    assert "Climb one rung" in page_of(signed_in, climbing)


def test_rounds_follows_a_number_of_the_clinic_when_it_is_brought_up_to_date(lead, climbing):
    ask(lead, path="common.kept_to_climb", value="1", reason="All practice more here.")
    assert "Climb one rung" in needed(climbing)
    answer = lead.post(reverse("review:bring"), {"start": "0"})
    assert answer.json() == {"done": 1, "of": 1}
    assert "Climb one rung" not in needed(climbing)
    assert lead.post(reverse("review:bring"), {"start": "x"}).status_code == 422


def test_the_caseload_is_tried_window_by_window(lead, climbing, clinic, clinician):
    other = enrol(clinic, clinician, name="Bryony Sallow")
    activate_program(other, clinician)
    ready(other)
    enrol(clinic, clinician, name="Without a program")
    asked = {"path": "common.kept_to_climb", "value": "1", "start": "0"}
    said = lead.get(reverse("review:try_number"), asked).json()
    assert (said["done"], said["of"]) == (2, 2)
    (changed,) = said["clients"]
    assert changed["name"] == climbing.name
    assert "not proposed" in changed["lines"][0]
    beyond = lead.get(reverse("review:try_number"), {**asked, "start": "40"}).json()
    assert (beyond["done"], beyond["clients"]) == (40, [])
    for bad in ({"value": "many"}, {"start": "-1"}, {"path": "no.such"}):
        assert lead.get(reverse("review:try_number"), {**asked, **bad}).status_code == 422


def test_another_clinics_numbers_do_not_count(signed_in, climbing, other_clinic):
    RuleNumber.objects.create(
        clinic=other_clinic,
        path="common.kept_to_climb",
        value=1.0,
        reason="Theirs.",
        by=member(other_clinic, "else@tarn-mouth.example", role="lead"),
        at=NOW,
    )
    assert "Climb one rung" in page_of(signed_in, climbing)


def test_a_number_of_the_clinic_that_a_clients_own_contradicts_is_refused(
    signed_in, lead, climbing
):
    """Alone each fits; together they would leave the client without rules and the page broken."""
    ask(signed_in, climbing, path="common.flat_days", value="40", reason="Slow and glad of it.")
    answer = ask(lead, path="common.unchanged_days", value="30", reason="We look sooner.")
    assert answer.status_code == 422
    words = answer.content.decode()
    assert climbing.name in words
    assert "examining again comes after teaching again" in words
    assert RuleNumber.objects.count() == 1
    assert "Climb one rung" in page_of(signed_in, climbing)
    # the other way round the client's is refused
    ask(signed_in, climbing, path="common.flat_days", value="", reason="Usual again.")
    assert ask(lead, path="common.unchanged_days", value="30", reason="Sooner.").status_code == 302
    assert (
        ask(signed_in, climbing, path="common.flat_days", value="40", reason="x").status_code == 422
    )


def test_taking_a_clients_own_back_is_tried_against_the_clinics(signed_in, lead, climbing):
    ask(lead, path="common.kept_to_climb", value="1", reason="All practice more here.")
    ask(signed_in, climbing, path="common.kept_to_climb", value="0.5", reason="Busy weeks.")
    tried = ask(signed_in, climbing, act="try", path="common.kept_to_climb", value="")
    assert "not proposed on" in tried.content.decode()


def test_every_number_of_the_rules_has_words():
    from web.review.deciding.rule_numbers import RuleOverrides, number_lines

    words = [line.words for _rule, lines in number_lines(RuleOverrides()) for line in lines]
    assert "days before an event without an advance" in words
    assert all(words)
