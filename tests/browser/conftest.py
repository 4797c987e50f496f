"""Real browser, real server, real database: uvicorn in a thread, Debian's Chromium."""

import base64
import contextlib
import io
import socket
import threading
import time
import urllib.request

import django.utils.asyncio
import numpy as np
import pytest
import soundfile
import soxr
import uvicorn
from playwright.sync_api import sync_playwright

from tests.conftest import PASSWORD, PIN

CHROMIUM = "/usr/bin/chromium"
QUIET = [
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-quic",
    "--use-fake-device-for-media-stream",
]
GRANTED = "--use-fake-ui-for-media-stream"
PATIENCE_MS = 60_000
"""How long a test waits for what never comes; a slow machine alone must not reach it."""
FIRST_TIME_MS = 180_000
"""The first page after a start loads the application, the first browser itself from the disk."""


@pytest.fixture(autouse=True, scope="session")
def _playwright_loop_is_no_reason():
    """Playwright's sync loop runs in the main thread; the tests' own queries there are sync."""
    real = django.utils.asyncio.get_running_loop

    def for_others():
        if threading.current_thread() is threading.main_thread():
            raise RuntimeError("the main thread of the tests is synchronous")
        return real()

    django.utils.asyncio.get_running_loop = for_others
    yield
    django.utils.asyncio.get_running_loop = real


class Site:
    """The served application; can be stopped and started again on the same port."""

    def __init__(self) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self._server: uvicorn.Server | None = None
        self._thread: threading.Thread | None = None

    def start(self) -> None:
        from web.config.asgi import application

        config = uvicorn.Config(
            application,
            host="127.0.0.1",
            port=self.port,
            lifespan="off",
            log_level="error",
            timeout_graceful_shutdown=1,
            ws_per_message_deflate=False,
        )
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(target=self._server.run, daemon=True)
        self._thread.start()
        wait_until(lambda: self._server and self._server.started)

    def stop(self) -> None:
        if self._server and self._thread:
            self._server.should_exit = True
            self._thread.join(10)

    def quiet(self) -> None:
        """Wait until no request of the last test is still at work."""
        wait_until(lambda: not (self._server and self._server.server_state.tasks))


def wait_until(true, *, within_s: float = 45.0):
    """Poll until true() is truthy and give it back; fails after `within_s`."""
    end = time.monotonic() + within_s
    pause = threading.Event()
    while time.monotonic() < end:
        if value := true():
            return value
        pause.wait(0.05)
    raise AssertionError(f"not within {within_s} s")


@pytest.fixture(scope="session")
def _site(django_db_setup, django_db_blocker):
    site = Site()
    site.start()
    with django_db_blocker.unblock():
        urllib.request.urlopen(f"{site.url}/rounds/", timeout=FIRST_TIME_MS / 1000).close()
    yield site
    site.stop()


@pytest.fixture
def site(_site, transactional_db):
    yield _site
    _site.quiet()


@pytest.fixture(scope="session")
def playwright():
    with sync_playwright() as running:
        yield running


@pytest.fixture(scope="session")
def _shared(playwright):
    """Two browsers for all tests: one gives every page a microphone, one refuses it. Each test has
    contexts of its own, which share no cookie, cache, storage or service worker."""
    running = {}

    def browser(*, deny):
        if deny not in running:
            running[deny] = _launched(playwright, *([] if deny else [GRANTED]))
        return running[deny]

    yield browser
    for one in running.values():
        one.close()


def _launched(playwright, *flags):
    return playwright.chromium.launch(
        executable_path=CHROMIUM, args=[*QUIET, *flags], timeout=FIRST_TIME_MS
    )


@pytest.fixture
def browsers(playwright, site, _shared):
    """A page of a new context; `wav` bytes become its microphone, `deny` refuses the microphone.

    The sound comes sample by sample from a buffer inside the page's own audio context, so that a
    busy machine cannot lose any of it. `real_device`: Chromium's own fake microphone plays it, with
    whatever the machine loses.
    """
    with contextlib.ExitStack() as opened:

        def launch(*, wav=None, deny=False, folder=None, real_device=False, **context):
            if real_device:
                path = folder / f"{len(wav)}.wav"
                path.write_bytes(wav)
                fake = f"--use-file-for-fake-audio-capture={path}%noloop"
                browser = _launched(playwright, GRANTED, fake)
                opened.callback(browser.close)
            else:
                browser = _shared(deny=deny)
            ctx = browser.new_context(viewport={"width": 1280, "height": 800}, **context)
            opened.callback(ctx.close)
            ctx.set_default_timeout(PATIENCE_MS)
            if wav is not None and not real_device:
                ctx.add_init_script(fed_with(wav))
            page = ctx.new_page()
            page.errors = []
            page.on("pageerror", lambda error: page.errors.append(str(error)))
            return page

        yield launch


FED = """
(() => {
  const bytes = Uint8Array.from(atob("%s"), (c) => c.charCodeAt(0));
  const samples = new Float32Array(bytes.buffer);
  window.MediaStreamAudioSourceNode = function (context) {
    const buffer = new AudioBuffer({ length: samples.length, sampleRate: 16000 });
    buffer.copyToChannel(samples, 0);
    const source = new AudioBufferSourceNode(context, { buffer });
    source.start();
    return source;
  };
})();
"""


def fed_with(wav):
    """A script that puts the sound, then a quiet room, in place of what the microphone gives."""
    samples, rate_hz = soundfile.read(io.BytesIO(wav), dtype="float32")
    room = np.random.default_rng(1).normal(0, 1e-4, 20 * 16_000)
    own = np.concatenate([soxr.resample(samples, rate_hz, 16_000), room]).astype("<f4")
    return FED % base64.b64encode(own.tobytes()).decode()


def sign_in(page, site, user, *, password=PASSWORD):
    page.goto(f"{site.url}/rounds/")
    page.fill("input[name=login]", user.email)
    page.fill("input[name=password]", password)
    page.click("button.main-action")
    page.wait_for_url("**/rounds/")


def enter(page, site, access):
    page.goto(f"{site.url}/c/{access.pk}/")
    page.fill("input[name=pin]", PIN)
    page.click("button.main-action")
    page.wait_for_url("**/today/")


def begin_practice(page, *, listen_with="microphone", by_hand=True):
    page.click("a.main-action")
    page.select_option("#input", listen_with)
    page.set_checked("#by-hand", by_hand)
    tap(page, "#nothing-new")
    page.wait_for_selector("#hold:visible")


DONE = "#skip-rest:visible, #strain:visible, #finish:visible"


def tap(page, button):
    """A tap of its own: now at the left end of a button, now at the right, for a second one at the same
    place within a moment does not count."""
    page.at_left = not getattr(page, "at_left", False)
    box = page.locator(button).bounding_box()
    page.click(
        button, position={"x": 8 if page.at_left else box["width"] - 8, "y": box["height"] / 2}
    )


def do_by_stopwatch(page):
    """One attempt started and stopped by hand."""
    tap(page, "#hold")
    page.wait_for_selector("#hold.hold-on")
    tap(page, "#hold")
    page.wait_for_selector(DONE)


def go_on(page):
    """Through the strain question and the rest to the next attempt."""
    if page.is_visible("#strain"):
        page.click("#strain button >> nth=2")
        if page.is_visible("[data-asked=effort]"):
            page.click("#strain button >> nth=8")
        if page.is_visible("#pain-gone"):
            tap(page, "#pain-gone")
        page.wait_for_selector("#skip-rest:visible, #finish:visible")
    tap(page, "#skip-rest")
    page.wait_for_selector("#hold:visible")
