"""The visit on one page: a task listened to while it is tried, taught, the note signed; nothing typed is lost."""

from lab.simulate.voice import Voice, sing
from tests.browser.conftest import sign_in
from tests.conftest import PASSWORD, activate_program, member
from tests.factories.accessibility import violations
from web.clients.models import Client
from web.measuring.models import Measurement
from web.programs.models import TriedTask
from web.review.models import OpenNote, SignedNote, Taught

NOTE = "textarea[name=text]"


def typed(page, words):
    """At the end of the note, key by key."""
    page.press(NOTE, "Control+End")
    page.type(NOTE, words)


def saved(page):
    page.wait_for_selector("#note-state >> text=/^Saved/")


def test_a_visit_from_the_first_try_to_the_signature(browsers, site, person, clinician, tmp_path):
    activate_program(person, clinician)
    sung = sing(Voice(f0_hz=262.0, seconds=5.0, lead_s=0.8, tail_s=3.0), 48_000)
    page = browsers(wav=sung.as_wav(), folder=tmp_path, bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/")
    page.click("text=Open today's visit")
    assert page.is_hidden("#trying")
    before = Measurement.objects.count()
    page.select_option("#tried-task", "shoulder_circle")
    page.wait_for_selector("#not-heard:visible")
    assert page.is_hidden("#trying")
    page.select_option("#tried-task", "hum")
    page.click("#try-it")
    page.wait_for_function(
        "() => parseFloat(document.getElementById('live-words').textContent) > 3"
    )
    page.wait_for_selector("#try-it >> text=Listen")
    page.wait_for_function(
        "() => document.getElementById('live-words').textContent.split(' ').length > 2"
    )
    assert Measurement.objects.count() == before
    page.click("button:text-is('better')")
    page.wait_for_selector("text=Hum: better")
    assert page.input_value("#tried-task") == ""  # chosen anew for the next one
    assert TriedTask.objects.get().task == "hum"
    power = page.locator("#t-step option", has_text="Power notes").get_attribute("value")
    page.select_option("#t-step", power)
    page.fill("#t-cue", "as if to somebody beside you")
    for field, chosen in (("level", "shown"), ("went", "partly"), ("back", "yes")):
        page.select_option(f"#t-{field}", chosen)
    page.click("text=Save what was taught")
    page.wait_for_selector("text=Cue that worked: ")
    assert Taught.objects.get().cue == "as if to somebody beside you"
    note = page.input_value("textarea[name=text]")
    assert "Tried Hum: better." in note
    assert violations(page) == {}
    page.fill("textarea[name=text]", f"{note}\nFeels easy.")
    page.click("button:text-is('Sign note')")
    page.wait_for_selector("text=signed by")
    assert page.input_value("textarea[name=text]") == ""
    assert SignedNote.objects.get().text.endswith("Feels easy.")
    assert not page.errors


def test_the_note_survives_whatever_else_is_pressed(browsers, site, person, clinician):
    activate_program(person, clinician)
    page = browsers(bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/in-visit/")
    typed(page, " Feels easy.")
    page.fill("#t-cue", "half a cue")
    page.select_option("#tried-task", "hum")
    page.click("button:text-is('worse')")  # at once: the pause after typing is not over
    page.wait_for_selector("[data-entry]:has-text('Tried Hum: worse.')")
    saved(page)
    assert page.input_value(NOTE).endswith("Feels easy.")
    assert page.input_value("#t-cue") == "half a cue"
    page.click("button:text-is('Save visit')")
    page.wait_for_selector("text=Visit saved.")
    assert page.input_value(NOTE).endswith("Feels easy.")
    assert OpenNote.objects.get().text.endswith("Feels easy.")
    # signing warns of what is missing, and keeps all that is typed
    page.click("button:text-is('Sign note')")
    page.wait_for_selector("[role=alert]:has-text('something recorded is not in the note')")
    assert page.input_value("#t-cue") == "half a cue"
    assert not SignedNote.objects.exists()
    page.click("[data-entry] >> button:text-is('Add')")
    page.wait_for_selector("[data-entry]", state="detached")
    assert page.locator("[role=alert]").count() == 0
    assert violations(page) == {}
    page.click("button:text-is('Sign note')")
    page.wait_for_selector("text=signed by")
    assert SignedNote.objects.get().text.endswith("Feels easy.\nTried Hum: worse.")
    assert page.input_value("#t-cue") == "half a cue"
    page.reload()
    assert page.input_value(NOTE) == ""
    assert not page.errors


def test_a_session_that_ends_while_someone_types_keeps_the_text(browsers, site, person, clinician):
    activate_program(person, clinician)
    page = browsers(bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/in-visit/")
    typed(page, " First.")
    saved(page)
    page.context.clear_cookies(name="sessionid")
    typed(page, " Second.")
    page.wait_for_selector("#note-state:has-text('signed out')")
    page.select_option("#tried-task", "hum")
    page.click("button:text-is('better')")
    page.wait_for_selector("[role=alert]:has-text('nothing else was sent')")
    assert TriedTask.objects.count() == 0
    assert page.input_value(NOTE).endswith("First. Second.")
    with page.context.expect_page() as opened:
        page.click("#note-state a")
    again = opened.value
    again.fill("input[name=login]", clinician.email)
    again.fill("input[name=password]", PASSWORD)
    again.click("button.main-action")
    again.wait_for_url("**/rounds/")
    again.close()
    typed(page, " Third.")
    saved(page)
    assert OpenNote.objects.get().text.endswith("First. Second. Third.")
    page.click("button:text-is('better')")
    page.wait_for_selector("text=Hum: better")
    assert not page.errors


def test_without_a_connection_the_note_is_saved_when_it_is_back(browsers, site, person, clinician):
    page = browsers(bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/in-visit/")
    page.context.set_offline(True)
    typed(page, "She feels well.")
    page.wait_for_selector("#note-state:has-text('cannot be reached')")
    assert not OpenNote.objects.exists()
    page.context.set_offline(False)
    saved(page)
    assert OpenNote.objects.get().text == "She feels well."


def test_a_colleague_who_writes_meanwhile_is_put_below(browsers, site, person, clinician, clinic):
    colleague = member(clinic, "ewan@quay.example")
    page, other = browsers(), browsers()
    for one, user in ((page, clinician), (other, colleague)):
        sign_in(one, site, user)
        one.goto(f"{site.url}/clients/{person.pk}/in-visit/")
    typed(other, "Theirs.")
    saved(other)
    typed(page, "Mine.")
    page.wait_for_selector("[role=alert]:has-text('ewan changed this note')")
    assert page.input_value(NOTE) == "Mine.\n\nTheirs."
    page.click("button:text-is('Save note')")
    saved(page)
    assert OpenNote.objects.get().text == "Mine.\n\nTheirs."


def test_add_client_survives_a_session_that_ended(browsers, site, clinician):
    page = browsers(bypass_csp=True)
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/new/")
    page.fill("[name=name]", "Osric Fendt")
    page.fill("[name=born_on]", "1974-03-01")
    page.select_option("[name=voice_group]", "men")
    page.fill("[name=occupation]", "Ferry pilot")
    page.context.clear_cookies(name="sessionid")
    page.click("button.main-action")
    page.wait_for_selector("text=What you typed is kept")
    page.fill("input[name=login]", clinician.email)
    page.fill("input[name=password]", PASSWORD)
    page.click("button.main-action")
    page.wait_for_selector("text=Ferry pilot")
    assert violations(page) == {}
    page.click("text=Save it now")
    page.wait_for_url("**/screening/")
    assert Client.objects.get().occupation == "Ferry pilot"
