"""The visit on one page: a task listened to while it is tried, taught, the note signed."""

from core.simulate.voice import Voice, sing
from tests.browser.conftest import sign_in
from tests.browser.test_axe import violations
from tests.conftest import activate_program
from web.measuring.models import Measurement
from web.programs.models import TriedTask
from web.review.models import SignedNote, Taught


def test_a_visit_from_the_first_try_to_the_signature(browsers, site, person, clinician, tmp_path):
    activate_program(person, clinician)
    sung = sing(Voice(f0_hz=262.0, seconds=5.0, lead_s=0.8, tail_s=3.0), 48_000)
    page = browsers(wav=sung.as_wav(), folder=tmp_path, bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/")
    page.click("text=Open today's visit")
    page.wait_for_selector("#trying:not([hidden]), #not-heard:not([hidden])")
    before = Measurement.objects.count()
    page.select_option("#tried-task", "shoulder_circle")
    assert page.is_visible("#not-heard")
    assert page.is_hidden("#trying")
    page.select_option("#tried-task", "hum")
    page.click("#try-it")
    page.wait_for_function(
        "() => parseFloat(document.getElementById('live-words').textContent) > 3"
    )
    page.wait_for_selector("#try-it >> text=Listen", timeout=30_000)
    page.wait_for_function(
        "() => document.getElementById('live-words').textContent.split(' ').length > 2"
    )
    assert Measurement.objects.count() == before
    page.click("text=Log better")
    page.wait_for_selector("text=Hum: better")
    assert TriedTask.objects.get().task == "hum"
    power = page.locator("#t-step option", has_text="Power notes").get_attribute("value")
    page.select_option("#t-step", power)
    page.fill("#t-cue", "as if to somebody beside you")
    page.click("text=Keep what was taught")
    page.wait_for_selector("text=Cue that worked")
    assert Taught.objects.get().cue == "as if to somebody beside you"
    note = page.input_value("textarea[name=text]")
    assert "Tried Hum: better." in note
    assert violations(page) == {}
    page.fill("textarea[name=text]", f"{note}\nFeels easy.")
    page.click("text=Sign note")
    page.wait_for_selector("text=signed by")
    assert SignedNote.objects.get().text.endswith("Feels easy.")
    assert not page.errors
