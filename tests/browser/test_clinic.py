"""The clinician's part of the loop, and the whole loop from baseline to the Client page."""

import json

import pytest
from axe_playwright_python.sync_playwright import Axe

from core.kinds.live import measure_sound
from core.sound.reading import Sound
from lab.demo.save_session import WholeAttempt, save_session
from lab.simulate.voice import Voice, sing
from tests.browser.conftest import begin_practice, enter, sign_in, wait_until
from tests.conftest import NOW, PIN, baseline_of, enrol
from web.clients.models import BaselineAttempt, ClientAccess
from web.practice.models import Attempt, Correction
from web.programs.models import Draft, ProgramVersion

HZ = 311.127


def test_the_whole_loop(browsers, site, person, clinician, tmp_path):
    sung = sing(Voice(f0_hz=HZ, seconds=7.0, lead_s=0.8, tail_s=3.0), 48_000)
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    sign_in(page, site, clinician)
    page.click("text=Maren Tidewell")
    page.click("text=Measure a baseline in the visit.")
    page.fill("#id_lowest", "G3")
    page.fill("#id_highest", "g4")
    page.click("text=Save values")
    for measure, seconds in (
        ("phonation", "9.4 8.8 8.1"),
        ("s", "17.6"),
        ("z", "11.0"),
        ("probe_low", "8.2"),
        ("probe_middle", "8.4"),
    ):
        row = f"tr[data-measure={measure}]"
        page.fill(f"{row} input[name=seconds]", seconds)
        page.press(f"{row} input[name=seconds]", "Enter")
        page.wait_for_selector(f"{row} form.inline")
    page.click("tr[data-measure=probe_top] button.hold")
    page.wait_for_selector("tr[data-measure=probe_top] form.inline")
    held = BaselineAttempt.objects.select_related("measurement").get(measure="probe_top")
    assert held.seconds == pytest.approx(sung.hold_s, abs=0.1)
    assert held.measurement.f0_median_hz == pytest.approx(HZ, rel=0.003)
    assert "1.60" in page.inner_text("aside")
    page.click("text=Record baseline")
    page.wait_for_url("**/program/")
    page.click("text=Propose program")
    page.wait_for_selector(".reed[data-key]")
    page.click("text=Activate program")
    page.wait_for_url(f"**/clients/{person.pk}/")
    page.click("text=Make a link")
    pin = page.inner_text(".said.success strong")
    link = page.inner_text(".said.success p >> nth=0")
    assert ClientAccess.objects.filter(client=person, revoked_at=None).count() == 1

    home = browsers(wav=sung.as_wav(), folder=tmp_path)
    home.goto(link)
    home.fill("input[name=pin]", pin)
    home.click("button.main-action")
    begin_practice(home)
    home.click("#hold")
    home.wait_for_selector("#skip-rest:visible")
    assert "Target reached" in home.inner_text("[data-last-words]:visible")
    attempt = wait_until(lambda: Attempt.objects.first())
    assert attempt.seconds == pytest.approx(sung.hold_s, abs=0.1)

    page.reload()
    table = page.inner_text("section details table")
    assert "E♭4, 1" in table
    assert f"{attempt.seconds:.1f} s ✓" in table
    assert page.locator(".reed-bed circle").count() == 1
    home.goto(f"{link}reeds/")
    assert "grow" in home.inner_text("main")
    assert not page.errors + home.errors


@pytest.fixture
def bench(browsers, site, person, clinician):
    baseline_of(person, clinician)
    page = browsers()
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{person.pk}/program/")
    page.click("text=Propose program")
    page.wait_for_selector("#bench[data-ready] .reed[data-key]")
    return page


def holds():
    return [(h.note.name, h.seconds) for h in Draft.objects.get().program.steps[3].holds]


def revision(page, number):
    page.wait_for_selector(f"[data-revision='{number}']")


def test_arrow_keys_and_drag_move_a_head_and_undo_brings_it_back(bench):
    start = holds()
    last = bench.locator(".reed[data-key$=':4']")
    last.focus()
    bench.keyboard.press("ArrowRight")
    revision(bench, 2)
    bench.keyboard.press("ArrowUp")
    revision(bench, 3)
    bench.keyboard.press("Shift+ArrowUp")
    revision(bench, 4)
    assert holds()[4] == ("F♯4", 12.0)
    box = bench.locator(".reed[aria-label*='Power notes B♭3'] .head").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    bench.mouse.move(x, y)
    bench.mouse.down()
    bench.mouse.move(x, y - 60, steps=5)
    bench.mouse.up()
    revision(bench, 5)
    assert holds()[0][0] == "B♭3"
    assert 8.5 <= holds()[0][1] <= 13
    for number in range(6, 10):
        bench.click("text=Undo")
        revision(bench, number)
    assert holds() == start


def test_a_note_pulled_out_of_the_range_bends_and_says_why(bench):
    bench.locator(".reed[data-key$=':4']").focus()
    bench.keyboard.press("Shift+ArrowRight")
    revision(bench, 2)
    assert "above the highest comfortable note G4" in bench.inner_text("#bench")
    bench.click("text=Activate program")
    assert "above the highest comfortable note" in bench.inner_text(".said.error")
    assert not ProgramVersion.objects.exists()


def test_a_change_by_somebody_else_is_shown_beside_your_own(bench, person, clinician):
    from web.programs.usecases.drafts import undo_edit

    bench.locator(".reed[aria-label*='Power notes B♭3']").focus()
    bench.keyboard.press("ArrowUp")
    revision(bench, 2)
    undo_edit(person, revision=2, by=clinician, now=NOW)
    bench.keyboard.press("ArrowUp")
    revision(bench, 3)
    assert "was not saved" in bench.inner_text("#bench-words")
    assert bench.is_visible("#yours svg")
    assert bench.locator("#bed svg").count() == 1


def test_removing_a_step_and_having_it_back(bench):
    bench.click(".steps a >> text=Stretch glide")
    bench.wait_for_selector(".steps [aria-current] >> text=Stretch glide")
    bench.click("#step button >> text=Remove")
    revision(bench, 2)
    assert len(Draft.objects.get().program.steps) == 3
    bench.evaluate("() => document.activeElement.blur()")
    bench.keyboard.press("u")
    revision(bench, 3)
    assert len(Draft.objects.get().program.steps) == 4


def test_keys_of_rounds(browsers, site, person, clinician, clinic):
    enrol(clinic, clinician, name="Osric Fendt")
    page = browsers()
    sign_in(page, site, clinician)
    page.keyboard.press("j")
    page.keyboard.press("j")
    page.keyboard.press("k")
    chosen = page.inner_text("tr[aria-selected=true] a")
    page.keyboard.press("Enter")
    page.wait_for_url("**/clients/**")
    assert page.inner_text("h1") == chosen
    page.keyboard.press("g")
    page.keyboard.press("p")
    page.wait_for_url("**/program/")
    page.keyboard.press("?")
    assert page.is_visible("#keys")


def violations(page):
    found = Axe().run(page).response["violations"]
    serious = [v for v in found if v["impact"] in ("serious", "critical")]
    return json.dumps([(v["id"], [n["html"][:120] for n in v["nodes"]]) for v in serious])


def test_pages_hold_up_to_the_accessibility_rules(
    browsers, site, person, clinician, version, access
):
    page = browsers(bypass_csp=True)
    sign_in(page, site, clinician)
    for path in ("", "baseline/", "bench/", "screening/"):
        page.goto(f"{site.url}/clients/{person.pk}/{path}")
        assert violations(page) == "[]", path
    page.goto(f"{site.url}/rounds/")
    assert violations(page) == "[]"
    for path in ("", "schools/", "add/", "tasks/straw_water/", "tasks/straw_water/change/"):
        page.goto(f"{site.url}/library/{path}")
        assert violations(page) == "[]", path
    enter(page, site, access)
    for path in ("today/", "practice/", "reeds/"):
        page.goto(f"{site.url}/c/{access.pk}/{path}")
        assert violations(page) == "[]", path
    assert PIN not in page.content()


def test_the_end_of_a_hold_is_moved_by_keys_and_by_hand(browsers, site, version, access, clinician):
    sung = sing(Voice(f0_hz=HZ, seconds=4.0))
    figures = measure_sound(Sound(sung.samples, 16_000), "hold")
    whole = WholeAttempt(
        step=version.program.steps[3], place=0, repetition=1, figures=figures, after_s=0
    )
    save_session(
        version.client,
        version,
        access=access,
        started_at=NOW,
        attempts=[whole],
        strain=None,
        input_name="microphone",
        measured_by="kernel",
    )
    attempt = Attempt.objects.get()
    page = browsers()
    sign_in(page, site, clinician)
    page.goto(f"{site.url}/clients/{attempt.client_id}/held/{attempt.pk}/")
    end = page.locator(".hold-end[data-end=offset]")
    end.focus()
    page.keyboard.press("Shift+ArrowLeft")
    page.keyboard.press("ArrowLeft")
    assert float(page.input_value("#offset")) == pytest.approx(figures.offset_s - 0.11, abs=0.011)
    box = end.locator("rect").bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 120)
    page.mouse.down()
    page.mouse.move(box["x"] - 150, box["y"] + 120, steps=5)
    page.mouse.up()
    moved = float(page.input_value("#offset"))
    assert moved < figures.offset_s - 0.6
    page.fill("#reason", "A chair moved")
    page.click("text=Keep correction")
    page.wait_for_selector("text=Correction kept")
    assert Correction.objects.get().offset_s == pytest.approx(moved)
    assert page.locator(".measured").count() == 2
    assert not page.errors
