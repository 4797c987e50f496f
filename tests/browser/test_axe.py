"""Every page of a client without a violation of WCAG 2.2 A and AA, on a phone and on a desk, light and dark."""

import contextlib

import pytest
from playwright.sync_api import TimeoutError as NotInTime

from core.program.program import Chosen
from tests.browser.conftest import begin_practice, do_by_stopwatch, enter, go_on, sign_in, tap
from tests.conftest import NOW, PIN, activate_program
from tests.factories.accessibility import violations
from web.clients.usecases.link import make_link
from web.clinic.models import User

SIZES = [{"width": 360, "height": 740}, {"width": 1280, "height": 800}]


@pytest.fixture
def link(person, clinician):
    schools = (Chosen(school="loudness_longest"), Chosen(school="release"))
    activate_program(person, clinician, schools=schools)
    return make_link(person, by=clinician, now=NOW, pin=PIN)[0]


@pytest.mark.parametrize("size", SIZES, ids=["phone", "desk"])
def test_pages_of_a_client(browsers, site, link, size):
    page = browsers(bypass_csp=True)
    page.set_viewport_size(size)
    page.goto(f"{site.url}/c/{link.pk}/")
    assert violations(page) == {}
    enter(page, site, link)
    assert violations(page) == {}
    for path in ("reeds/", "hearing/"):
        page.goto(f"{site.url}/c/{link.pk}/{path}")
        assert violations(page) == {}, path


def test_pages_of_papers_and_records(browsers, site, person, version, clinic):
    lead = User.objects.get(membership__clinic=clinic, membership__role="lead")
    page = browsers(bypass_csp=True)
    sign_in(page, site, lead)
    own = f"/clients/{person.pk}"
    for path in (f"{own}/sheet/", f"{own}/papers/", f"{own}/report/progress/", "/records/"):
        page.goto(f"{site.url}{path}")
        assert violations(page) == {}, path
    page.goto(f"{site.url}{own}/sheet/")
    page.locator("[data-sign]:enabled").first.check(force=True)
    page.wait_for_selector("#which-sign[open]")
    assert violations(page) == {}
    assert not page.errors


@pytest.mark.parametrize("dark", [False, True], ids=["light", "dark"])
@pytest.mark.parametrize("size", SIZES, ids=["phone", "desk"])
def test_every_screen_of_practice(browsers, site, link, size, dark):
    page = browsers(bypass_csp=True)
    page.set_viewport_size(size)
    enter(page, site, link)
    page.click("a.main-action")
    page.wait_for_selector("#nothing-new:enabled")
    page.set_checked("#dark", dark)
    assert violations(page) == {}
    tap(page, "#something-new")
    assert violations(page) == {}
    tap(page, "#not-stop")
    page.select_option("#input", "stopwatch")
    page.set_checked("#by-hand", True)
    tap(page, "#nothing-new")
    page.wait_for_selector("#hold:visible")
    assert violations(page) == {}
    tap(page, "#hold")
    page.wait_for_selector("#hold.hold-on")
    assert violations(page) == {}
    tap(page, "#hold")
    page.wait_for_selector("#skip-rest:visible, #strain:visible")
    assert violations(page) == {}


def test_the_end_and_what_was_kept(browsers, site, access, version):
    page = browsers(bypass_csp=True)
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    for number in range(16):
        do_by_stopwatch(page)
        if page.is_visible("#strain"):
            assert violations(page) == {}
        if number < 15:
            go_on(page)
    page.click("#strain button >> nth=1")
    if page.is_visible("[data-asked=effort]"):
        page.click("#strain button >> nth=8")
    page.wait_for_selector("#finish:visible")
    assert violations(page) == {}
    tap(page, "#finish")
    page.wait_for_url("**/finished/**")
    assert violations(page) == {}


def test_practice_is_complete_by_keyboard(browsers, site, access, version):
    """From the first question to the first rest without a pointer."""
    page = browsers()
    enter(page, site, access)
    page.focus("a.main-action")
    page.keyboard.press("Enter")
    page.wait_for_selector("#nothing-new:enabled")
    page.focus("#input")
    page.keyboard.type("stop")
    page.focus("#by-hand")
    page.keyboard.press("Space")
    page.focus("#nothing-new")
    page.keyboard.press("Enter")
    page.wait_for_selector("#hold:visible")
    page.keyboard.press("Escape")
    page.wait_for_selector("#go-on:visible")
    page.keyboard.press("n")
    page.wait_for_selector("#hold:visible")
    # what comes within a moment after "n" is taken for the same stroke twice: then it is pressed again
    for _ in range(5):
        page.focus("#hold")
        page.keyboard.press("Enter")
        with contextlib.suppress(NotInTime):
            page.wait_for_selector("#hold.hold-on", timeout=3000)
            break
    page.wait_for_selector("#hold.hold-on")
    page.wait_for_selector("#seconds:text-matches('^(0.[5-9]|[1-9])')")
    page.focus("#hold")
    page.keyboard.press("Enter")
    page.wait_for_selector("#skip-rest:visible")
    assert not page.errors
