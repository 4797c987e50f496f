"""One device of a client: a real browser with its own store, driven as a hand would."""

import contextlib
import os
import signal
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Error, Page, Playwright

CHROMIUM = "/usr/bin/chromium"
PIN = "246810"
_FLAGS = ["--disable-background-networking", "--disable-component-update", "--disable-quic"]
_WATCHED = """
(() => {
  const put = IDBObjectStore.prototype.put;
  IDBObjectStore.prototype.put = function (one, ...rest) {
    if (this.name === "attempts" || this.name === "entries") window.reedPut(this.name, one.id, one.state ?? "");
    return put.call(this, one, ...rest);
  };
})();
"""
_OFF = """
(() => {
  const real = Date, off = %d;
  window.Date = class extends real {
    constructor(...given) { given.length ? super(...given) : super(real.now() + off); }
    static now() { return real.now() + off; }
  };
})();
"""
_WAITING = """async () => {
  const opened = indexedDB.open("still-reed");
  const db = await new Promise((done) => (opened.onsuccess = () => done(opened.result)));
  if (!db.objectStoreNames.contains("attempts")) { db.close(); return 0; }
  let waits = 0;
  for (const name of ["attempts", "entries"]) {
    const counted = db.transaction(name).objectStore(name).count();
    waits += await new Promise((done) => (counted.onsuccess = () => done(counted.result)));
  }
  db.close();
  return waits;
}"""
TAP_APART_S = 0.4


@dataclass
class Device:
    """A browser with a folder of its own. begun: what the page put into its store, by id, with its last state."""

    playwright: Playwright
    folder: Path
    address: str
    link: str
    begun: dict[str, str] = field(default_factory=dict)
    entries: set[str] = field(default_factory=set)
    clock_off_ms: int = 0
    _context: BrowserContext | None = None

    def open(self) -> Page:
        """Today, entered with the PIN where that is asked for."""
        if self._context is None:
            self._context = self._launched()
        page = self._context.new_page()
        for _ in range(5):
            with contextlib.suppress(Error):
                page.goto(f"{self.address}/c/{self.link}/", timeout=10_000)
                if page.is_visible("input[name=pin]"):
                    page.fill("input[name=pin]", PIN)
                    page.click("button.main-action")
                page.wait_for_url("**/today/", timeout=10_000)
                return page
            time.sleep(1)
        raise RuntimeError("Today does not open")

    def _launched(self) -> BrowserContext:
        context = self.playwright.chromium.launch_persistent_context(
            str(self.folder),
            executable_path=CHROMIUM,
            args=[*_FLAGS, "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream"],
            viewport={"width": 360, "height": 740},
        )
        context.set_default_timeout(20_000)
        context.expose_function("reedPut", self._put)
        context.add_init_script(_WATCHED)
        if self.clock_off_ms:
            context.add_init_script(_OFF % self.clock_off_ms)
        return context

    def _put(self, store: str, id_: str, state: str) -> None:
        if store == "attempts":
            self.begun[id_] = state
        else:
            self.entries.add(id_)

    def kill(self) -> None:
        """The battery is empty: every process of this browser ends at once."""
        for entry in Path("/proc").iterdir():
            if not entry.name.isdigit():
                continue
            with contextlib.suppress(OSError):
                command = (entry / "cmdline").read_bytes()
                if b"chrom" in command and str(self.folder).encode() in command:
                    os.kill(int(entry.name), signal.SIGKILL)
        with contextlib.suppress(Error):
            if self._context:
                self._context.close()
        self._context = None
        for lock in self.folder.glob("Singleton*"):
            lock.unlink(missing_ok=True)

    def close(self) -> None:
        with contextlib.suppress(Error):
            if self._context:
                self._context.close()
        self._context = None

    def all_sent(self, *, within_s: float) -> bool:
        """Whether nothing waits in the store of this browser any more, with Today open."""
        page = self.open()
        end = time.monotonic() + within_s
        try:
            while time.monotonic() < end:
                with contextlib.suppress(Error):
                    if page.evaluate(_WAITING) == 0:
                        return True
                page.wait_for_timeout(250)
            return False
        finally:
            with contextlib.suppress(Error):
                page.close()


def practice(page: Page, *, routine: int, skip: int) -> bool:
    """From Today to an attempt that is about to begin; False where there is none."""
    links = page.locator("a.button[href*='/practice/']")
    if not links.count():
        return False
    href = links.nth(routine % links.count()).get_attribute("href")
    page.goto(page.url.split("/c/")[0] + str(href))
    page.select_option("#input", "simulated voice")
    page.set_checked("#by-hand", True)
    tap(page, "#nothing-new")
    page.wait_for_selector(
        "#player[data-shown=ready], #player[data-shown=trouble], #player[data-shown=strain], #player[data-shown=end]"
    )
    for _ in range(skip):
        if shown(page) != "ready":
            break
        tap(page, "#skip")
    begins = to_ready(page)
    if shown(page) == "end":
        # All of it was done already: it is finished, and the next one begins anew.
        tap(page, "#finish")
        page.wait_for_url("**/finished/**")
    return begins


def to_ready(page: Page) -> bool:
    """Through rest and strain to the next attempt; False at the end."""
    for _ in range(6):
        now = shown(page)
        if now == "ready":
            return True
        if now == "rest":
            tap(page, "#skip-rest")
        elif now == "strain":
            tap(page, "#no-strain")
        else:
            return False
        page.wait_for_timeout(60)
    return False


def shown(page: Page) -> Any:
    """What the practice page shows; None on any other page."""
    player = page.locator("#player")
    return player.get_attribute("data-shown") if player.count() else None


def tap(page: Page, button: str) -> None:
    """A second tap at the same place within a moment does not count: a moment is waited."""
    page.wait_for_timeout(TAP_APART_S * 1000)
    page.click(button)
