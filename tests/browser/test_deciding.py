"""From home practice to Rounds, a decision by keyboard, and what the client finds on Today; a family each."""

import pytest

from tests.browser.conftest import enter, sign_in
from tests.conftest import NOW, PIN
from web.clients.models import Client
from web.clients.usecases.link import make_link
from web.clinic import clock
from web.clinic.models import User
from web.demo.load import PASSWORD, load_demo
from web.demo.takes import Takes
from web.programs.queries import active_version
from web.review.models import Decision


@pytest.mark.parametrize(
    ("name", "title"),
    [
        ("Maren Tidewell", "Climb one rung"),
        ("Petra Lindqvist", "Climb one rung"),
        ("Jory Penhale", "Climb one rung"),
        ("Alwin Prewett", "Teach it again"),
    ],
    ids=["sustained", "tube", "patterns", "loudness"],
)
def test_a_decision_is_practised_the_same_evening(browsers, site, name, title):
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
        # taught in the visit: a task with a date, and the program stays
        assert (after, up) == (before, {0})
        assert title in clinic.inner_text("section[aria-label='To do']")
        assert client.inner_text("main") == asked
    clinic.goto(f"{site.url}/rounds/?whose=all")
    assert clinic.locator("tr", has_text=name).inner_text() != needed
    assert not client.errors + clinic.errors
