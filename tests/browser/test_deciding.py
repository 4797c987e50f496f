"""From home practice to Rounds, a decision by keyboard, and what the client finds on Today; a family each."""

import pytest

from lab.demo.load import LEAD, PASSWORD, load_demo
from lab.demo.takes import Takes
from tests.browser.conftest import enter, sign_in
from tests.conftest import NOW, PIN
from web.clients.models import Client
from web.clients.usecases.link import make_link
from web.clinic import clock
from web.clinic.models import User
from web.programs.queries import active_version
from web.review.models import Decision, RuleNumber


@pytest.mark.parametrize(
    ("name", "title"),
    [
        ("Maren Tidewell", "Climb one rung"),
        ("Petra Lindqvist", "Climb one rung"),
        ("Jory Penhale", "Climb one rung"),
        ("Alwin Prewett", "Review the program"),
    ],
    ids=["sustained", "tube", "patterns", "loudness"],
)
def test_a_decision_is_practiced_the_same_evening(browsers, site, name, title):
    load_demo(clock.now(), Takes.shipped(), only=[name])
    person = Client.objects.get(name=name)
    before = active_version(person.pk)
    access = make_link(person, by=person.clinician, now=NOW, pin=PIN)[0]
    client = browsers()
    enter(client, site, access)
    asked = client.inner_text("main")
    clinic = browsers()
    sign_in(clinic, site, User.objects.get(pk=person.clinician_id), password=PASSWORD)
    line = clinic.locator("tr", has_text=name)
    needed = line.inner_text()
    assert title in needed
    line.locator("a").first.click()
    clinic.wait_for_selector("section.decide")
    clinic.keyboard.press("y")
    clinic.keyboard.press("Enter")
    clinic.wait_for_selector(".said.success")
    decision = Decision.objects.get()
    assert decision.verdict == "accepted"
    assert decision.evidence["reasons"]
    after = active_version(person.pk)
    rungs = {step.step_id: step.grade.rung for step in before.program.steps if step.grade}
    up = {after.program.step(step).grade.rung - rungs[step] for step in decision.steps}
    client.reload()
    client.wait_for_selector("main")
    if title == "Climb one rung":
        assert (after.number, up) == (before.number + 1, {1})
        assert client.inner_text("main") != asked
    else:
        # done in the visit: a task with a date, and the program stays
        assert after == before
        assert up <= {0}
        assert title in clinic.inner_text("section[aria-label='To do']")
        assert client.inner_text("main") == asked
    clinic.goto(f"{site.url}/rounds/?whose=all")
    assert clinic.locator("tr", has_text=name).inner_text() != needed
    assert not client.errors + clinic.errors


def test_a_number_of_the_clinic_is_tried_on_the_caseload_and_rounds_follow(browsers, site):
    load_demo(clock.now(), Takes.shipped(), only=["Maren Tidewell"])
    page = browsers()
    sign_in(page, site, User.objects.get(email=LEAD), password=PASSWORD)
    page.goto(f"{site.url}/rounds/?whose=all")
    assert "Climb one rung" in page.inner_text("main")
    page.goto(f"{site.url}/rules/?path=common.kept_to_climb")
    page.fill("input[name=value]", "1")
    page.click("button[value=try]")
    page.wait_for_selector("#caseload .count:has-text('1 / 1')")
    assert "Maren Tidewell: Climb one rung" in page.inner_text("#caseload li")
    assert not RuleNumber.objects.exists()
    page.fill("input[name=reason]", "Here everybody practices more.")
    page.click("button[value=set]")
    page.wait_for_selector("#bring .count:has-text('1 / 1')")
    assert RuleNumber.objects.get().value == 1.0
    page.goto(f"{site.url}/rounds/?whose=all")
    assert "Climb one rung" not in page.inner_text("main")
    assert not page.errors
