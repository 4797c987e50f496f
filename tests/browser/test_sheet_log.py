"""Two weeks of a five-note program typed back from paper with the keyboard alone."""

import time
from datetime import timedelta

from tests.browser.conftest import sign_in, wait_until
from tests.conftest import NOW, activate_program
from web.practice.models import Attempt, Entry, HomeSession

TODAY = NOW.date() + timedelta(days=1)
FIRST = TODAY - timedelta(days=13)
CELLS = ["7 6.5", "2", "2", "7 7", "6.5 7", "7 6", "6 7,5", "6 6.5", "2"]
"""Down one home session: warm-up, two glides, five notes, strain."""


def opened(page, site, person):
    page.goto(f"{site.url}/clients/{person.pk}/sheet/?first={FIRST.isoformat()}")
    page.wait_for_selector("#sheet input[data-cell]:focus")


def test_two_weeks_of_five_notes_in_under_two_minutes(browsers, site, person, clinician):
    activate_program(person, clinician, since_days=12)
    page = browsers()
    sign_in(page, site, clinician)
    opened(page, site, person)
    began, presses = time.monotonic(), 0
    for _session in range(28):
        for text in CELLS:
            page.keyboard.type(text)
            page.keyboard.press("Enter")
            presses += len(text) + 1
    page.click("text=Log sheet")
    page.wait_for_selector("text=Logged from paper: 28 home sessions, 448 attempts.")
    seconds = time.monotonic() - began
    print(f"\nSheet log: {presses} keys, 448 attempts, {seconds:.1f} s")
    assert seconds < 120
    sessions = HomeSession.objects.filter(client=person)
    assert set(sessions.values_list("outcome", "clock")) == {("kept", "paper")}
    held = Attempt.objects.filter(client=person, note="E♭4", seconds=7.5)
    assert held.count() == 28  # the decimal comma
    assert Entry.objects.filter(client=person, kind="strain", value=2).count() == 28 * 4


def test_a_cell_is_asked_about_while_it_is_typed_and_nothing_is_lost(
    browsers, site, person, clinician, version
):
    page = browsers()
    sign_in(page, site, clinician)
    opened(page, site, person)
    page.keyboard.type("650")
    page.keyboard.press("Enter")
    page.wait_for_selector("input[aria-invalid=true]")
    assert "a try lasts 0.1 to 120 s" in page.inner_text("#said")
    page.reload()
    page.wait_for_selector("text=Typed before")
    assert page.locator("input[data-cell]").first.input_value() == "650"
    page.click("text=Log sheet")
    page.wait_for_selector("text=Asked about before anything is logged")
    assert not HomeSession.objects.filter(client=person).exists()


def test_a_stop_sign_is_kept_before_the_sheet_is(browsers, site, person, clinician, version):
    page = browsers()
    sign_in(page, site, clinician)
    opened(page, site, person)
    page.locator("[data-sign]").first.focus()
    page.keyboard.press("Space")
    page.wait_for_selector("#which-sign[open]")
    page.keyboard.press("2")
    page.keyboard.press("Enter")
    page.wait_for_selector("text=Stop sign kept: light-headed")
    session = wait_until(lambda: HomeSession.objects.filter(client=person).first())
    assert session.stop_sign == "light_headed"
    page.goto(f"{site.url}/clients/{person.pk}/")
    assert "light-headed" in page.inner_text("main")


def test_a_sign_ticked_by_mistake_is_none(browsers, site, person, clinician, version):
    page = browsers()
    sign_in(page, site, clinician)
    opened(page, site, person)
    page.locator("[data-sign]").first.check(force=True)
    page.wait_for_selector("#which-sign[open]")
    page.click("text=It was a mistake")
    assert not page.locator("[data-sign]").first.is_checked()
    assert not HomeSession.objects.filter(client=person).exists()


def test_space_is_a_stopwatch(browsers, site, person, clinician, version):
    page = browsers()
    sign_in(page, site, clinician)
    opened(page, site, person)
    page.keyboard.press("Space")
    page.wait_for_function("() => parseFloat(document.getElementById('said').textContent) >= 0.3")
    page.keyboard.press("Space")
    seconds = float(page.locator("input[data-cell]").first.input_value())
    assert 0.3 <= seconds < 30
    page.click("text=Log sheet")
    page.wait_for_selector("text=Logged from paper: 1 home session, 1 attempt.")
    assert Attempt.objects.get(client=person).taken == "stopwatch"
