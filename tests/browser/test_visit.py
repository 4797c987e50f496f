"""The visit with a sound file as the microphone: the guided sequence, one attempt of each kind."""

import pytest

from core.notes.note import Note
from lab.kinds.breath import breathing
from lab.kinds.bubbles import bubbling
from lab.kinds.sz import joining
from lab.simulate.tasks import sing_pattern, speak
from lab.simulate.voice import Voice, sing
from tests.browser.conftest import sign_in, wait_until
from tests.factories.visit import wav_of
from web.clients.models import BaselineAttempt
from web.measuring.models import DeviceReference

SCALE = [Note.named(name) for name in ["C4", "D4", "E4", "F4", "G4", "F4", "E4", "D4", "C4"]]
SINGER = Voice(f0_hz=262.0, seconds=1.0, jitter_percent=0.2, tail_s=3.0)


def open_baseline(page, site, clinician):
    sign_in(page, site, clinician)
    page.goto(page.url)
    page.click("text=Maren Tidewell")
    page.click("nav >> text=Baseline")
    page.wait_for_selector("tr[aria-current=step]")


def hold(voice):
    return sing(voice).samples


EACH = {
    "bubbles": (lambda: bubbling(1).samples, "bubbles a second"),
    "s": (lambda: hold(Voice(f0_hz=200.0, seconds=3.0, hiss=True, tail_s=3.0)), "level SD"),
    "join": (lambda: joining(2).samples, "at the join"),
    "pattern": (
        lambda: sing_pattern(SINGER, SCALE, note_s=0.4).samples,
        "All 9 notes within 50 cents",
    ),
    "conversation": (lambda: speak(phrases=2, fade_db=-9.0).samples, "Phrases trail off"),
    "breath": (lambda: breathing(3).samples, "the pace"),
    "glide_up": (
        lambda: hold(Voice(f0_hz=190.0, glide_to_hz=380.0, seconds=4.0, tail_s=3.0)),
        "Glide over",
    ),
}


@pytest.mark.parametrize("measure", list(EACH))
def test_an_attempt_of_each_kind_by_microphone(
    browsers, site, person, clinician, tmp_path, measure
):
    make, finding = EACH[measure]
    page = browsers(wav=wav_of(make()), folder=tmp_path)
    open_baseline(page, site, clinician)
    row = f"tr[data-measure={measure}]"
    page.click(f"{row} button.hold")
    stopped = "() => /^[1-9]/.test(document.getElementById('live-words').textContent)"
    if measure in ("conversation", "breath"):
        page.wait_for_function(stopped)
        seconds = 4.0 if measure == "conversation" else 18.0
        page.wait_for_function(
            f"() => parseFloat(document.getElementById('live-words').textContent) > {seconds}",
        )
        page.click(f"{row} button.hold")
    page.wait_for_selector(f"{row} form.inline a")
    kept = BaselineAttempt.objects.select_related("measurement").get(measure=measure)
    assert kept.measurement.verdict in ("good", "usable")
    page.click(f"{row} form.inline a")
    page.wait_for_selector(".drawing")
    assert finding in page.inner_text("aside")
    assert page.errors == []


def test_the_sequence_goes_by_the_keyboard_with_its_words(
    browsers, site, person, clinician, tmp_path
):
    reference = hold(
        Voice(f0_hz=200.0, seconds=3.0, lead_s=2.0, tail_s=3.0, level_db=-30.0, noise_db=-60.0)
    )
    page = browsers(wav=wav_of(reference), folder=tmp_path)
    open_baseline(page, site, clinician)
    assert page.get_attribute("tr[aria-current=step]", "data-measure") == "reference"
    assert "hold ‘ah’ for four seconds" in page.inner_text("#asked")
    page.keyboard.press("Space")
    page.wait_for_selector("tr[data-measure=reference] form.inline a")
    page.wait_for_selector("tr[data-measure=conversation][aria-current=step]")
    assert "usual voice" in page.inner_text("#asked")
    page.keyboard.press("n")
    assert page.get_attribute("tr[aria-current=step]", "data-measure") == "reading"
    assert "Harrow Quay at ten past six" in page.inner_text("#asked")
    page.click("text=Device and level")
    page.click("#read-meter")
    page.wait_for_function("() => document.getElementById('id_meter_db').value !== ''")
    page.click("text=Keep level reference")
    page.wait_for_selector("text=calibrated")
    kept = wait_until(lambda: DeviceReference.objects.filter(client_id=person.pk).first())
    assert kept.meter_db == pytest.approx(kept.voice_dbfs + 96.0, abs=1.5)
    assert page.errors == []


def test_a_visit_is_typed_by_the_keyboard_alone_and_the_page_stays(
    browsers, site, person, clinician
):
    """Seven tries in three fields with one page load; the chosen input stays."""
    page = browsers()
    open_baseline(page, site, clinician)
    page.select_option("#input", "stopwatch")
    page.fill("#id_lowest", "G3")
    page.evaluate("window.here = true")
    page.evaluate("document.activeElement.blur()")
    for _ in range(20):
        if page.get_attribute("tr[aria-current=step]", "data-measure") == "phonation":
            break
        page.keyboard.press("n")
    page.keyboard.press("t")
    typed = {
        "phonation": "9.4 9,1 8.8",
        "s": "17.6 16.8",
        "z": "11.0 10.6",
    }
    for measure, seconds in typed.items():
        page.focus(f"tr[data-measure={measure}] input[name=seconds]")
        page.keyboard.type(seconds)
        page.keyboard.press("Enter")
        count = len(seconds.split())
        page.wait_for_function(
            f"() => document.querySelectorAll('tr[data-measure={measure}] form.inline a').length === {count}"
        )
    assert sorted(BaselineAttempt.objects.values_list("seconds", flat=True)) == [
        8.8, 9.1, 9.4, 10.6, 11.0, 16.8, 17.6
    ]  # fmt: skip
    # what was typed at the side and not saved yet, and the input, are as they were
    assert page.input_value("#id_lowest") == "G3"
    assert page.evaluate("window.here") is True
    assert "1.6" in page.inner_text("#computed")

    page.focus("tr[data-measure=s] input[name=seconds]")
    page.keyboard.type("twelve")
    page.keyboard.press("Enter")
    page.wait_for_selector("tr[data-measure=s] .wrong")
    assert page.input_value("tr[data-measure=s] input[name=seconds]") == "twelve"
    page.click("tr[data-measure=z] [data-strike] button >> nth=0")
    page.wait_for_selector("tr[data-measure=z] s")
    assert page.evaluate("window.here") is True
    page.reload()
    assert page.input_value("#input") == "stopwatch"
    assert page.errors == []


def test_what_could_not_be_measured_is_folded_and_the_page_stays(
    browsers, site, person, clinician, tmp_path
):
    page = browsers(wav=wav_of(hold(Voice(f0_hz=200.0, seconds=0.1, lead_s=2.0))), folder=tmp_path)
    open_baseline(page, site, clinician)
    page.evaluate("window.here = true")
    row = "tr[data-measure=phonation]"
    for count in (1, 2):
        page.click(f"{row} button.hold")
        page.wait_for_selector(f"{row} button.hold-on")
        page.click(f"{row} button.hold")
        page.wait_for_selector(f"{row} summary:has-text('{count} not measurable')")
    assert page.evaluate("window.here") is True
    assert not page.is_visible(f"{row} form.inline a")
    page.click(f"{row} summary")
    assert page.is_visible(f"{row} form.inline a")
    assert page.errors == []
