"""A client practices: microphone, cut socket, stopped server, stopwatch, lost power."""

import struct
import uuid
from statistics import median

import numpy as np
import pytest

from core.kinds.live import measure_sound
from core.sound.reading import Sound
from lab.simulate.voice import Voice, sing
from tests.browser.conftest import (
    DONE,
    begin_practice,
    do_by_stopwatch,
    enter,
    go_on,
    tap,
    wait_until,
)
from web.practice.models import Attempt, Entry, HomeSession

KEPT = """async (expected) => {
  const opened = indexedDB.open("still-reed");
  await new Promise((done) => (opened.onsuccess = done));
  const counted = opened.result.transaction("%s").objectStore("%s").count();
  await new Promise((done) => (counted.onsuccess = done));
  opened.result.close();
  return counted.result === expected;
}"""
KEPT_ENTRIES, KEPT_ATTEMPTS = KEPT % ("entries", "entries"), KEPT % ("attempts", "attempts")
FORMER_BUNDLE = """async () => {
  const opened = indexedDB.open("still-reed");
  await new Promise((done) => (opened.onsuccess = done));
  const kept = opened.result.transaction("bundles", "readwrite").objectStore("bundles");
  const all = kept.getAll();
  await new Promise((done) => (all.onsuccess = done));
  for (const { format, ...former } of all.result) kept.put(former);
  await new Promise((done) => (kept.transaction.oncomplete = done));
  opened.result.close();
}"""
HOLD_S, HZ = 3.0, 311.127  # the warm-up note E♭4


@pytest.fixture(scope="module")
def sung():
    return sing(Voice(f0_hz=HZ, seconds=HOLD_S, lead_s=0.9, tail_s=3.0, seed=3), 48_000)


def record_wire(page):
    """The sound of every attempt as the page sent it, in order."""
    sent = []

    def opened(socket):
        sent.append([])
        socket.on(
            "framesent",
            lambda frame: sent[-1].append(frame) if isinstance(frame, bytes) else None,
        )

    page.on("websocket", opened)
    return sent


def sound_of(frames):
    numbers = [struct.unpack_from("<I", frame)[0] for frame in frames]
    assert numbers == list(range(len(frames)))
    return np.frombuffer(b"".join(frame[4:] for frame in frames), dtype="<i2") / 32768


def hold_once(page):
    tap(page, "#hold")
    page.wait_for_selector(DONE)


def hold_all_by_stopwatch(page):
    """All 16 attempts of the worked case; leaves the page at the last question about strain."""
    for number in range(16):
        do_by_stopwatch(page)
        if number < 15:
            go_on(page)


def test_three_holds_by_microphone_are_true_to_the_sound(
    browsers, site, version, access, sung, tmp_path
):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    sent = record_wire(page)
    enter(page, site, access)
    begin_practice(page)
    for number in range(3):
        hold_once(page)
        if number < 2:
            go_on(page)
    assert not page.errors
    rows = list(Attempt.objects.select_related("measurement").order_by("started_at"))
    assert len(rows) == 3
    assert [row.taken for row in rows] == ["live"] * 3
    assert median(row.seconds for row in rows) == pytest.approx(sung.hold_s, abs=0.1)
    heard = [row.measurement.f0_median_hz for row in rows]
    assert 1200 * np.log2(median(heard[:2]) / sung.f0_median_hz) == pytest.approx(0, abs=5)
    for row, frames, task in zip(rows, sent, ("hold", "hold", "glide"), strict=True):
        own = measure_sound(Sound(sound_of(frames), 16_000), task)
        assert row.seconds == pytest.approx(own.hold_s, abs=0.02)
    device = rows[0].measurement.device
    assert device["autoGainControl"] is False
    assert device["noiseSuppression"] is False
    assert device["echoCancellation"] is False
    assert Entry.objects.get(kind="strain").value == 2
    kept = page.evaluate("() => indexedDB.databases().then((all) => all.length)")
    assert kept == 1
    assert _left_in_page(page) == 0


def test_what_the_device_loses_is_never_a_finding_about_the_voice(
    browsers, site, version, access, sung, tmp_path
):
    """Chromium's own fake microphone, which a busy machine makes lose sound: either the hold is
    heard whole, or the client is told of the device."""
    page = browsers(wav=sung.as_wav(), folder=tmp_path, real_device=True)
    enter(page, site, access)
    begin_practice(page)
    hold_once(page)
    row = Attempt.objects.select_related("measurement").get()
    assert row.measurement.device["label"]
    said = page.inner_text("[data-last-words]:visible")
    assert "cut out" not in said
    assert "More than one voice" not in said
    if row.measurement.verdict == "not_measurable":
        assert "The device lost sound" in said
    else:
        assert row.seconds == pytest.approx(sung.hold_s, abs=0.2)


def _left_in_page(page, store="attempts"):
    return page.evaluate(
        """(name) => new Promise((done) => {
            const open = indexedDB.open("still-reed");
            open.onsuccess = () => {
                const store = open.result.transaction(name).objectStore(name);
                store.count().onsuccess = (event) => done(event.target.result);
            };
        })""",
        store,
    )


def _hear_all(page, sung):
    """Wait until the page has kept as much sound as the whole WAV holds, in pieces of 100 ms."""
    pieces = len(sung.samples) / sung.rate_hz / 0.1
    wait_until(lambda: _left_in_page(page, "pieces") >= pieces)


def test_a_socket_cut_in_the_middle_loses_nothing(browsers, site, version, access, sung, tmp_path):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)

    def cut(route):
        server = route.connect_to_server()
        pieces = []

        def passed(message):
            pieces.append(message)
            if len(pieces) == 40:
                route.close(code=1011)
            elif len(pieces) < 40:
                server.send(message)

        route.on_message(passed)

    page.route_web_socket("**/live/", cut)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) > 0.5")
    _hear_all(page, sung)
    tap(page, "#hold")
    row = wait_until(lambda: Attempt.objects.first())
    assert row.taken == "wav"
    assert row.seconds == pytest.approx(sung.hold_s, abs=0.1)
    page.wait_for_selector(DONE)
    wait_until(lambda: _left_in_page(page) == 0)
    assert Attempt.objects.count() == 1


def test_a_server_that_was_away_gets_the_hold_afterwards(
    browsers, site, version, access, sung, tmp_path
):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) > 0.5")
    site.stop()
    try:
        _hear_all(page, sung)
        tap(page, "#hold")
        page.wait_for_selector("#unsent:visible")
        assert "1 saved on this page" in page.inner_text("#unsent")
        assert not Attempt.objects.exists()
    finally:
        site.start()
    row = wait_until(lambda: Attempt.objects.first())
    assert row.taken == "wav"
    assert row.seconds == pytest.approx(sung.hold_s, abs=0.1)
    page.wait_for_selector("#unsent", state="hidden")
    assert page.inner_text("#last-seconds").startswith("3.")


def test_the_practice_page_opens_again_without_the_server(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    kept = "() => caches.open('still-reed-shell-1').then((c) => c.keys()).then((k) => k.length)"
    wait_until(lambda: page.evaluate(kept) > 8)
    practice = page.url
    shell = page.content()
    assert "Maren" not in shell
    page.goto("about:blank")
    site.stop()
    try:
        page.goto(practice)
        page.select_option("#input", "stopwatch")
        page.click("#nothing-new")
        page.wait_for_selector("#hold:visible")
        do_by_stopwatch(page)
        page.wait_for_selector("#unsent:visible")
    finally:
        site.start()
    row = wait_until(lambda: Attempt.objects.first())
    assert (row.taken, row.clock) == ("stopwatch", "estimated")
    assert row.home_session == HomeSession.objects.get()
    assert not page.errors


def test_what_a_former_version_kept_here_is_not_practiced_from(browsers, site, version, access):
    """It may lack what this page draws: then the page says that the server is needed, and breaks nowhere."""
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    kept = "() => caches.open('still-reed-shell-1').then((c) => c.keys()).then((k) => k.length)"
    wait_until(lambda: page.evaluate(kept) > 8)
    practice = page.url
    page.evaluate(FORMER_BUNDLE)
    page.goto("about:blank")
    site.stop()
    try:
        page.goto(practice)
        tap(page, "#nothing-new")
        page.wait_for_selector("#trouble:visible")
        assert "Nothing is lost" in page.inner_text("#trouble")
    finally:
        site.start()
    assert not page.errors


def test_without_a_microphone_the_stopwatch_does_the_same_job(browsers, site, version, access):
    page = browsers(deny=True)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_function(
        "() => document.getElementById('words').textContent.includes('stopwatch')"
    )
    page.focus("body")
    page.evaluate("() => document.activeElement.blur()")
    page.keyboard.press("Space")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) >= 1")
    page.keyboard.press("Space")
    page.wait_for_selector(DONE)
    shown = float(page.inner_text("#last-seconds").split()[0])
    row = wait_until(lambda: Attempt.objects.first())
    assert (row.taken, row.state, row.measurement) == ("stopwatch", "timed", None)
    assert row.seconds == pytest.approx(shown, abs=0.06)
    assert not page.errors


def test_power_lost_in_a_hold_is_told_as_interrupted(
    browsers, site, version, access, sung, tmp_path
):
    page = browsers(wav=sung.as_wav(), folder=tmp_path)
    enter(page, site, access)
    begin_practice(page)
    tap(page, "#hold")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) > 1")
    page.goto("about:blank")
    assert not Attempt.objects.exists()
    page.goto(f"{site.url}/c/{access.pk}/practice/")
    row = wait_until(lambda: Attempt.objects.first())
    assert (row.state, row.measurement) == ("interrupted", None)


def test_a_whole_session_with_the_simulated_voice_ends_on_finished(
    browsers, site, version, access, person
):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    hold_all_by_stopwatch(page)
    page.click("#strain button >> nth=1")
    page.click("#effort button >> nth=4")
    page.click("#discomfort button >> nth=0")
    page.click("#finish")
    page.wait_for_url("**/finished/**")
    assert "16 holds are kept" in page.inner_text("main")
    session = HomeSession.objects.get()
    assert (session.outcome, session.effort, session.discomfort) == ("kept", 4, 0)
    assert Attempt.objects.count() == 16
    person.caseload_row.refresh_from_db()
    assert person.caseload_row.last_session == session.practice_day


def test_a_stop_sign_ends_kindly_and_tells_whom_to_call(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="simulated voice")
    tap(page, "#hold")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) > 0.3")
    page.click("#stop-sign")
    page.click("[data-sign=light_headed]")
    page.wait_for_url("**/finished/**")
    shown = page.inner_text("main")
    assert "Stopping was right" in shown
    assert "000 555 0100" in shown
    assert "not watched around the clock" in shown
    assert HomeSession.objects.get().stop_sign == "light_headed"
    # what was being held is kept, marked, and is no short hold
    kept = wait_until(lambda: Attempt.objects.first())
    assert (kept.state, kept.measurement) == ("interrupted", None)


def test_the_practice_page_weighs_at_most_150_kb(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    weights = {}

    def weigh(answer):
        if answer.url.split("?")[0].endswith((".js", ".css")):
            weights[answer.url] = len(answer.body())

    page.on("response", weigh)
    page.click("a.main-action")
    page.wait_for_load_state("networkidle")
    assert len(weights) >= 8
    assert sum(weights.values()) <= 150_000, weights


@pytest.mark.parametrize("way", ["finish", "stop"])
def test_what_is_said_while_something_is_still_being_sent_is_sent_too(
    browsers, site, version, access, way
):
    """The strain answer hangs on a slow network when the client finishes or stops."""
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    hold_all_by_stopwatch(page)
    hanging = []
    page.route(
        "**/entries/**",
        lambda route: route.continue_() if hanging else hanging.append(route),
    )
    with page.expect_request("**/entries/**"):
        page.click("#strain button >> nth=1")
    if way == "finish":
        page.click("#finish")
    else:
        page.click("#stop-sign")
        page.click("[data-sign=light_headed]")
    page.wait_for_function(KEPT_ENTRIES, arg=2)
    hanging[0].continue_()
    page.wait_for_url("**/finished/**")
    assert HomeSession.objects.get().outcome == ("kept" if way == "finish" else "stopped")


def test_a_stop_sign_does_not_wait_behind_a_recording_that_cannot_be_sent(
    browsers, site, version, access
):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="stopwatch")
    page.route("**/attempts/**", lambda route: route.abort())
    do_by_stopwatch(page)
    page.wait_for_function(KEPT_ATTEMPTS, arg=1)
    page.click("#stop-sign")
    page.click("[data-sign=light_headed]")
    wait_until(lambda: Entry.objects.filter(kind="stop").exists())
    assert not Attempt.objects.exists()


def test_the_simulated_voice_goes_the_same_way(browsers, site, version, access):
    page = browsers()
    enter(page, site, access)
    begin_practice(page, listen_with="simulated voice")
    hold_once(page)
    row = Attempt.objects.select_related("measurement").get()
    assert row.taken == "live"
    assert row.measurement.input == "simulated voice"
    assert row.seconds == pytest.approx(6.5 * 1.06, abs=0.1)
    assert row.pk != uuid.UUID(int=0)
