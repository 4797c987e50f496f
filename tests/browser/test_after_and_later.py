"""What is asked after a step, what is remembered on the device, what is done later in the day, what a zoom leaves."""

import io

import pytest
import soundfile
from playwright.sync_api import Error as PlaywrightError

from core.program.program import Chosen
from lab.simulate.tasks import speak
from tests.browser.conftest import (
    DONE,
    begin_practice,
    do_by_stopwatch,
    enter,
    go_on,
    tap,
    wait_until,
)
from tests.conftest import NOW, PIN, activate_program
from web.clients.usecases.link import make_link
from web.practice.models import Attempt, Entry, HomeSession

UP = {"gender_affirming": {"direction": "up"}}


def access_for(person, clinician, *schools, **measured):
    chosen = tuple(Chosen(school=key, options=UP.get(key, {})) for key in schools)
    version = activate_program(person, clinician, schools=chosen, **measured)
    return make_link(person, by=clinician, now=NOW, pin=PIN)[0], version


def skip_to(page, name):
    """Skipped until the step of that name, each tap away from the one before: near it none would count."""
    skip = "(x) => document.getElementById('skip').dispatchEvent(new MouseEvent('click', { clientX: x }))"
    for number in range(20):
        if name in page.inner_text("#step-name"):
            return
        page.evaluate(skip, 100 * (number % 2))
    pytest.fail(f"no step called {name}")


@pytest.mark.parametrize(("answer", "stopped"), [("#pain-gone", False), ("#pain-stays", True)])
def test_a_little_pain_that_stays_stops_and_one_that_goes_leaves_the_step_out(
    browsers, site, person, clinician, answer, stopped
):
    access, _version = access_for(person, clinician, "release")
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    do_by_stopwatch(page)
    page.click("#strain button >> nth=1")
    assert page.is_hidden("#strain")
    tap(page, answer)
    if stopped:
        page.wait_for_url("**/finished/**")
        assert "Well stopped" in page.inner_text("h1")
    else:
        page.wait_for_selector("#skip-rest:visible")
    assert wait_until(lambda: Entry.objects.filter(kind="pain", value=1).first())
    signs = wait_until(lambda: list(HomeSession.objects.values_list("stop_sign", flat=True)))
    assert signs == (["pain"] if stopped else [""])
    assert not page.errors


def test_how_the_client_wants_the_page_is_remembered_on_the_device(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    page.click("a.main-action")
    page.wait_for_selector("#nothing-new:enabled")
    page.select_option("#ticks", "felt")
    page.select_option("#input", "stopwatch")
    page.set_checked("#dark", True)
    page.goto(f"{site.url}/c/{access.pk}/practice/")
    page.wait_for_selector("#nothing-new:enabled")
    assert page.input_value("#ticks") == "felt"
    assert page.input_value("#input") == "stopwatch"
    assert page.is_checked("#dark")
    assert page.evaluate("() => document.documentElement.classList.contains('dark')")
    page.evaluate("() => localStorage.setItem('how the client wants it', '{broken')")
    page.reload()
    page.wait_for_selector("#nothing-new:enabled")
    assert page.input_value("#input") == "microphone"
    assert not page.errors


def test_what_is_for_the_day_is_left_and_ticked_off_on_today(browsers, site, person, clinician):
    access, _version = access_for(person, clinician, "carry_over")
    page = browsers()
    page.set_viewport_size({"width": 360, "height": 740})
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    while page.is_hidden("#later"):
        do_by_stopwatch(page)
        go_on(page)
    assert page.inner_text("#step-name") == "Talk with the new voice"
    tap(page, "#later")
    page.wait_for_function(
        "() => document.getElementById('step-name').textContent === 'In the real place'"
    )
    tap(page, "#later")
    tap(page, "#finish")
    page.wait_for_url("**/finished/**")
    assert "In the real place" in page.inner_text("main")
    page.click("text=Back to Today")
    place = page.locator("form", has_text="In the real place")
    place.get_by_label("2", exact=True).check()
    place.locator("select").select_option("3")
    place.get_by_role("button").click()
    page.wait_for_selector("#later-today")
    assert "In the real place" not in page.inner_text("#later-today")
    kept = Attempt.objects.get(count_asked=3)
    assert (kept.count, kept.taken) == (2, "typed")
    assert page.evaluate("() => document.documentElement.scrollWidth") <= 360
    assert not page.errors


def test_phrases_near_a_tone_are_heard_and_measured(browsers, site, person, clinician, tmp_path):
    access, version = access_for(person, clinician, "gender_affirming", speaking="B3")
    phrases = next(s for s in version.program.steps if s.task == "target_pitch_phrases")
    note = phrases.target.note
    spoken = speak(phrases=5, base_hz=note.hz(), movement=0.1, size="man", seed=4)
    file = io.BytesIO()
    soundfile.write(file, spoken.samples, spoken.rate_hz, subtype="PCM_16", format="WAV")
    page = browsers(wav=file.getvalue(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    skip_to(page, "Phrases near")
    assert page.inner_text("#line")
    tap(page, "#hold")
    page.wait_for_selector(DONE)  # it ends by its time, 25 s
    said = page.inner_text("[data-last-words]:visible")
    assert "5 of 5 came home to the tone." in said
    row = wait_until(lambda: Attempt.objects.select_related("measurement").first())
    assert (row.measurement.task, row.note) == ("near", note.name)
    assert len(row.measurement.own["near"]["phrases"]) == 5
    assert not page.errors


ZOOMED = [{"width": 640, "height": 400}, {"width": 320, "height": 256}]
"""A screen of 1280 × 800 CSS pixels at 200 % (WCAG 1.4.4), one of 1280 × 1024 at 400 % (1.4.10)."""
OUTSIDE = """() => [...document.querySelectorAll("a, button, input, select, label, p, h1, h2, li")]
  .filter((one) => one.checkVisibility())
  .filter((one) => one.getBoundingClientRect().right > document.documentElement.clientWidth + 1)
  .map((one) => one.id || one.textContent.trim().slice(0, 40))"""


@pytest.mark.parametrize("size", ZOOMED, ids=["200 %", "400 %"])
def test_nothing_is_lost_by_zoom(browsers, site, person, clinician, size):
    access, _version = access_for(person, clinician, "sustained", "carry_over")
    page = browsers()
    page.set_viewport_size(size)
    page.goto(f"{site.url}/c/{access.pk}/")
    assert page.evaluate(OUTSIDE) == []
    enter(page, site, access)
    for path in ("today/", "reeds/", "heard/"):
        page.goto(f"{site.url}/c/{access.pk}/{path}")
        assert page.evaluate(OUTSIDE) == [], path
    page.goto(f"{site.url}/c/{access.pk}/today/")
    page.click("a.main-action")
    assert page.evaluate(OUTSIDE) == []
    page.select_option("#input", "stopwatch")
    page.set_checked("#by-hand", True)
    tap(page, "#nothing-new")
    page.wait_for_selector("#hold:visible")
    assert page.evaluate(OUTSIDE) == []
    do_by_stopwatch(page)
    assert page.evaluate(OUTSIDE) == []
    tap(page, "#stop-sign")
    assert page.evaluate(OUTSIDE) == []
    page.click("[data-sign=light_headed]")
    page.wait_for_url("**/finished/**")
    assert page.evaluate(OUTSIDE) == []
    assert not page.errors


LEFT = """async () => {
  const opened = indexedDB.open("still-reed");
  await new Promise((done) => (opened.onsuccess = done));
  const of = async (name) => {
    const counted = opened.result.transaction(name).objectStore(name).count();
    await new Promise((done) => (counted.onsuccess = done));
    return counted.result;
  };
  const found = { bundles: await of("bundles"), attempts: await of("attempts"), pages: [] };
  opened.result.close();
  for (const name of await caches.keys())
    for (const kept of await (await caches.open(name)).keys())
      if (new URL(kept.url).pathname.startsWith("/c/")) found.pages.push(kept.url);
  return found;
}"""


def test_after_leaving_nothing_comes_back_without_the_pin_and_what_waits_is_sent_later(
    browsers, site, version, access
):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    page.context.route("**/attempts/**", lambda route: route.abort())
    do_by_stopwatch(page)
    page.goto(f"{site.url}/c/{access.pk}/today/")
    page.wait_for_selector("#unsent:not([hidden])")
    page.click("text=Leave")
    page.wait_for_selector("input[name=pin]")
    assert page.evaluate(LEFT) == {"bundles": 0, "attempts": 1, "pages": []}
    page.go_back()
    assert page.locator("input[name=pin]").is_visible()
    page.context.set_offline(True)
    with pytest.raises(PlaywrightError):
        page.goto(f"{site.url}/c/{access.pk}/practice/")
    page.context.set_offline(False)
    page.context.unroute("**/attempts/**")
    enter(page, site, access)
    kept = wait_until(lambda: Attempt.objects.first())
    assert kept.taken == "stopwatch"
    assert not page.errors
