"""A client practices what is timed, counted, breathed and sung in groups; the clinic sees it."""

import io

import pytest
import soundfile

from lab.simulate.tasks import sing_pattern
from lab.simulate.voice import Voice
from tests.browser.conftest import (
    DONE,
    begin_practice,
    do_by_stopwatch,
    enter,
    go_on,
    sign_in,
    tap,
    wait_until,
)
from tests.factories.browser_access import access_for
from web.practice.models import Attempt, HomeSession


def test_steps_by_the_clock_and_by_counting(browsers, site, person, clinician):
    access, _version = access_for(person, clinician, "release", "articulation")
    page = browsers()
    enter(page, site, access)
    assert "Shoulder circle: for 60 seconds" in page.inner_text("main")
    begin_practice(page)
    assert page.inner_text("#step-name") == "Shoulder circle"
    assert page.is_hidden("#tone")
    assert page.is_hidden("#counter")
    do_by_stopwatch(page)
    first = wait_until(lambda: Attempt.objects.first())
    assert (first.state, first.count) == ("timed", None)
    go_on(page)
    while page.inner_text("#step-name") != "Easy sigh":
        do_by_stopwatch(page)
        go_on(page)
    tap(page, "#hold")
    page.wait_for_selector("#hold.hold-on")
    for button in ("#one-more", "#one-more", "#one-more", "#one-less"):
        tap(page, button)
    assert page.inner_text("#count") == "2 of 4"
    tap(page, "#hold")
    page.wait_for_selector(DONE)
    sigh = wait_until(lambda: Attempt.objects.filter(count__isnull=False).first())
    assert (sigh.count, sigh.count_asked) == (2, 4)
    assert not page.errors


def test_a_group_of_notes_is_heard_sung_and_measured(browsers, site, person, clinician, tmp_path):
    access, version = access_for(person, clinician, "range_full")
    key = version.program.steps[0].target.keys[0]
    notes = version.program.steps[0].target.in_key(key)
    sung = sing_pattern(Voice(f0_hz=key.hz(), seconds=4.0, lead_s=0.9, tail_s=3.0), notes)
    file = io.BytesIO()
    soundfile.write(file, sung.samples, sung.rate_hz, subtype="PCM_16", format="WAV")
    page = browsers(wav=file.getvalue(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    assert page.inner_text("#note").startswith("Group 1 of")
    tap(page, "#hold")
    page.wait_for_selector(DONE)
    row = wait_until(lambda: Attempt.objects.select_related("measurement").first())
    assert row.note == key.name
    assert row.measurement.task == "pattern"
    assert [note["name"] for note in row.measurement.own["notes"]] == [n.name for n in notes]
    clinic = browsers()
    sign_in(clinic, site, clinician)
    clinic.goto(f"{site.url}/clients/{person.pk}/")
    assert "Three-note pattern" in clinic.inner_text("section table")
    clinic.click("td a[href*='/held/'] >> nth=0")
    clinic.wait_for_selector("svg")
    assert not page.errors + clinic.errors


@pytest.mark.parametrize("size", [{"width": 360, "height": 740}])
def test_breathing_is_paced_and_ends_by_itself(browsers, site, person, clinician, size):
    access, _version = access_for(person, clinician, "breath_counts")
    page = browsers()
    page.set_viewport_size(size)
    enter(page, site, access)
    begin_practice(page)
    do_by_stopwatch(page)
    go_on(page)
    assert page.inner_text("#note") == "Breath 1 of 3"
    tap(page, "#hold")
    page.wait_for_selector("#words:text('Breathe in')")
    page.wait_for_selector("#words:text('Breathe out')")
    page.wait_for_selector(DONE)
    assert page.evaluate("() => document.documentElement.scrollWidth") <= 360
    kept = wait_until(lambda: Attempt.objects.filter(measurement__task="breath").first())
    assert kept.target_s == 10.0
    assert HomeSession.objects.count() == 1
    assert not page.errors


def test_the_library_is_searched_and_a_task_adapted_by_keyboard(browsers, site, person, clinician):
    page = browsers()
    sign_in(page, site, clinician)
    page.keyboard.press("g")
    page.keyboard.press("l")
    page.wait_for_url("**/library/")
    page.keyboard.press("/")
    page.keyboard.type("hum")
    page.keyboard.press("Enter")
    page.wait_for_url("**find=hum**")
    page.click("main >> text='Hum'")
    page.click("text=Adapt task")
    page.fill("#id_name", "Harbour hum")
    page.fill("#id_instruction", "Hum like the ferry far away. Keep it soft.")
    page.click("text=Save task")
    page.wait_for_url("**/own_harbour_hum/")
    assert "Hum like the ferry" in page.inner_text("main")
    page.click("text=Hide task")
    page.wait_for_selector("text=Use task again")
    assert not page.errors
