"""A stop sign on Today and on paper, a screening left blank, a reference tone that is not heard."""

import io

import pypdfium2

from tests.browser.conftest import begin_practice, enter, sign_in, tap
from tests.conftest import NOW, baseline_of
from tests.factories.accessibility import violations
from web.clients.models import StoredScreening
from web.clients.usecases.enrol import enrol_client
from web.practice.models import HomeSession
from web.programs.models import ProgramVersion


def paper(page, address):
    """The words of a PDF that the signed-in clinician prints, without line ends."""
    cookies = {one["name"]: one["value"] for one in page.context.cookies()}
    answer = page.request.post(address, form={"csrfmiddlewaretoken": cookies["csrftoken"]})
    assert answer.ok, answer.status
    pages = pypdfium2.PdfDocument(io.BytesIO(answer.body()))
    words = " ".join(one.get_textpage().get_text_range() for one in pages)
    return " ".join(words.split())


def test_after_a_stop_sign_today_and_paper_give_the_same_rule(
    browsers, site, version, access, person, clinician
):
    page = browsers(bypass_csp=True)
    page.set_viewport_size({"width": 360, "height": 740})
    enter(page, site, access)
    begin_practice(page, listen_with="simulated voice")
    tap(page, "#hold")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) > 0.3")
    page.click("#stop-sign")
    page.click("[data-sign=light_headed]")
    page.wait_for_url("**/finished/**")
    page.goto(f"{site.url}/c/{access.pk}/today/")
    pause = page.locator(".paused")
    assert "Stop for now." in pause.inner_text()
    assert "You told us that you felt light-headed." in pause.inner_text()
    assert pause.locator("a[href='tel:0005550100']").is_visible()
    # it stands on top: nothing that starts practice is above it or on the first screen beside it
    top = pause.bounding_box()["y"]
    starts = [one.bounding_box()["y"] for one in page.locator("a.button").all()]
    assert all(y > top for y in starts)
    assert violations(page) == {}
    rule = " ".join(page.locator(".stop-signs:not(.paused)").inner_text().split())
    assert "Stop at once if you feel pain" in rule
    clinic = browsers()
    sign_in(clinic, site, clinician)
    words = paper(clinic, f"{site.url}/clients/{person.pk}/papers/handout/")
    assert "Stop at once if you feel pain" in words
    assert "Then call 000 555 0100" in words
    assert "These rest until your clinic has spoken with you" in words
    assert HomeSession.objects.get().stop_cleared_at is None
    assert not page.errors


def test_a_screening_nobody_touched_opens_nothing_and_says_what_was_not_asked(
    browsers, site, clinic, clinician
):
    person = enrol_client(
        clinic,
        clinician=clinician,
        name="Osric Fendt",
        born_on=NOW.date().replace(year=1974),
        voice_group="men",
        time_zone="Europe/Dublin",
    )
    page = browsers(bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/screening/")
    assert page.locator("input[type=radio]:checked").count() == 0
    page.click("text=Save screening")
    page.wait_for_url(f"**/clients/{person.pk}/")
    row = StoredScreening.objects.get()
    assert len(row.unasked) == 12
    assert row.red_flags == []
    assert "12 red flags have not been asked about yet." in page.inner_text("main")
    baseline_of(person, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/program/")
    page.check("input[name=want][value=lasts]")
    page.click("button:text-is('Propose from these goals')")
    page.wait_for_load_state("networkidle")
    gate = page.inner_text("main")
    assert "red flag" in gate.lower()
    assert "not asked" in gate.lower() or "nobody has asked" in gate.lower()
    assert violations(page) == {}
    assert not ProgramVersion.objects.exists()


def test_a_note_that_is_not_heard_is_shown_and_felt(browsers, site, version, access):
    page = browsers(bypass_csp=True)
    page.add_init_script("navigator.vibrate = (ms) => { window.felt = ms; return true; };")
    enter(page, site, access)
    page.click("a.main-action")
    page.select_option("#tone-loud", "felt")
    page.set_checked("#by-hand", True)
    tap(page, "#nothing-new")
    page.wait_for_selector("#tone:visible")
    page.evaluate(
        "window.shown = []; new MutationObserver(() => window.shown.push(document.getElementById('note').className))"
        ".observe(document.getElementById('note'), { attributes: true })"
    )
    tap(page, "#tone")
    page.wait_for_function("() => window.felt === 1400 && window.shown.length === 2")
    assert "tone-shown" in page.evaluate("window.shown[0]")
    assert "tone-shown" not in page.evaluate("window.shown[1]")
    assert not page.errors
