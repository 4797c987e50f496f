"""Takes the pictures of `./reed shots`; runs inside the environment, driving Debian's Chromium."""

import base64
import io
import json
import re
import sys
from pathlib import Path

import pypdfium2
from playwright.sync_api import Browser, Page, ViewportSize, sync_playwright

from lab.sign_in import sign_in

DESKTOP: ViewportSize = {"width": 1280, "height": 800}
PHONE: ViewportSize = {"width": 360, "height": 740}


KINDS = (
    ("Idris Wharram", "Three-note pattern", 3.5),
    ("Silas Merrow", "Paced breath", 3.2),
    ("Alwin Prewett", "Three vowels", 7.0),
    ("Alwin Prewett", "own everyday phrases", 4.0),
    ("Kester Boyle", "Hiss turns", 5.5),
    ("Petra Lindqvist", "Wide tube", 4.5),
    ("Sorrel Vane", "Phrases near", 12.0),
    ("Kester Boyle", "before the entry", 5.3),
)
"""Client, the name of a step, how long it has gone, s."""


class Camera:
    """One browser page that knows where pictures go."""

    def __init__(self, browser: Browser, folder: Path, size: ViewportSize) -> None:
        self.page: Page = browser.new_context(
            viewport={"width": size["width"], "height": size["height"]}
        ).new_page()
        self.folder = folder

    def take(self, name: str) -> None:
        self.page.wait_for_load_state("networkidle")
        self.page.evaluate("() => document.fonts.ready.then(() => true)")
        self.snap(name)

    def snap(self, name: str) -> None:
        self.page.screenshot(path=self.folder / f"{name}.png")


def clinician(camera: Camera, address: str, password: str) -> None:
    """Clinic, Rounds, Client, an attempt, Bench, the visit, Results, Sheet log, papers, Library, Screening, Device and
    level, Baseline."""
    page = camera.page
    sign_in(page, address, "lead@harrow-quay.example", password)
    page.goto(f"{address}/clinic/")
    camera.take("clinic")
    page.click("text=Sign out")
    sign_in(page, address, "una@harrow-quay.example", password)
    camera.take("rounds")
    page.click("text=Maren Tidewell")
    camera.take("client")
    client = page.url
    page.click("td a[href*='/held/'] >> nth=7")
    camera.take("attempt")
    page.goto(f"{client}program/")
    power = page.locator(".reed[aria-label*='Power notes F4']")
    power.focus()
    page.keyboard.press("ArrowUp")
    page.wait_for_function("() => document.querySelector('[data-edit=undo]:not(:disabled)')")
    camera.take("bench")
    page.click("[data-edit=undo]")
    page.goto(client)
    _visit(camera)
    page.goto(f"{client}results/")
    camera.take("results")
    _sheet_log(camera, client)
    papers(camera, client)
    page.goto(f"{address}/library/?family=C")
    camera.take("library")
    page.goto(f"{client}screening/")
    camera.take("screening")
    page.goto(f"{client}baseline/")
    page.select_option("#input", "simulated voice")
    page.click("tr[data-measure=reference] button.hold")
    page.wait_for_selector("tr[data-measure=reference] form.inline a", timeout=40_000)
    page.click("text=Device and level")
    page.click("#read-meter")
    page.wait_for_function("() => document.getElementById('id_meter_db').value !== ''")
    camera.take("level")
    page.click("text=Keep level reference")
    page.wait_for_selector("text=To change it")
    page.goto(f"{client}baseline/")
    for measure, seconds in (
        ("phonation", "10.8 10.1 9.9"),
        ("s", "18.2 17.5"),
        ("z", "12.9 12.1"),
        ("probe_low", "9.0 8.6"),
    ):
        row = f"tr[data-measure={measure}]"
        page.fill(f"{row} input[name=seconds]", seconds)
        page.press(f"{row} input[name=seconds]", "Enter")
        page.wait_for_selector(f"{row} form.inline")
    page.select_option("#input", "simulated voice")
    page.click("tr[data-measure=probe_middle] button.hold")
    page.wait_for_function(
        "() => parseFloat(document.getElementById('live-words').textContent) > 4"
    )
    camera.snap("baseline")


def _sheet_log(camera: Camera, client: str) -> None:
    """A paper sheet typed back: two home sessions, the second with a cell that is asked about."""
    page = camera.page
    page.goto(f"{client}paper-log/?first=2026-06-01")
    page.wait_for_selector("#sheet input[data-cell]:focus")
    for cells in (
        ("7 7.5", "2", "2", "7 6.5", "7.5 7", "7 7", "6.5 7", "7 6", "3"),
        ("7 7", "2", "x", "6.5 7", "7 75"),
    ):
        for text in cells:
            page.keyboard.type(text)
            page.keyboard.press("Enter")
    page.wait_for_selector("input[aria-invalid]")
    camera.take("sheet-log")


def papers(camera: Camera, client: str) -> None:
    """Handout, the same in large type, a practice sheet and a report, first pages, in one picture."""
    page = camera.page
    page.goto(f"{client}print/")
    token = page.locator("[name=csrfmiddlewaretoken]").first.get_attribute("value") or ""
    printed: tuple[tuple[str, dict[str, str]], ...] = (
        ("print/handout/", {}),
        ("print/handout/", {"large": "1"}),
        ("report/progress/", {"parts": "baseline", "to": "Dr. Ruan Pell"}),
        ("print/sheet/", {"first": "2026-06-15"}),
    )
    images = ""
    for where, form in printed:
        sent: dict[str, str | float | bool] = {"csrfmiddlewaretoken": token, "pdf": "1", **form}
        answer = page.request.post(f"{client}{where}", form=sent, headers={"Referer": client})
        images += f"<img height=840 src='data:image/png;base64,{_first_page(answer.body())}'>"
    size: ViewportSize = {"width": 3 * 594 + 1188 + 40, "height": 856}
    montage = page.context.browser.new_context(viewport=size).new_page()  # type: ignore[union-attr]
    style = "margin:0;padding:8px;display:flex;gap:8px;background:#d9d4c4"
    montage.set_content(f"<body style='{style}'>{images}")
    montage.screenshot(path=camera.folder / "papers.png")


def _first_page(pdf: bytes) -> str:
    """The first page as PNG, base64."""
    picture = io.BytesIO()
    pypdfium2.PdfDocument(pdf)[0].render(scale=1.0).to_pil().save(picture, "PNG")
    return base64.b64encode(picture.getvalue()).decode()


def _visit(camera: Camera) -> None:
    """What is due; a step taught with its cue; a hum listened to; the note from the record."""
    page = camera.page
    page.click("text=Open today's visit")
    power = page.locator("#t-step option", has_text="Power notes").get_attribute("value")
    page.select_option("#t-step", power)
    page.fill("#t-cue", "as if to somebody beside you")
    page.select_option("#t-level", "word")
    page.select_option("#t-went", "yes")
    page.select_option("#t-back", "yes")
    page.fill("#t-fade", "every second time from next week")
    page.click("text=Save what was taught")
    page.wait_for_selector("text=Cue that worked: ")
    page.press("textarea[name=text]", "Control+End")
    page.type("textarea[name=text]", "\nShe feels well and says that talking is easier.")
    page.wait_for_selector("#note-state >> text=/^Saved/")
    page.select_option("#tried-task", "hum")
    page.click("button:text-is('better')")
    page.wait_for_selector("[data-entry]")
    page.select_option("#tried-task", "hum")
    page.select_option("#input", "simulated voice")
    page.click("#try-it")
    page.wait_for_function(
        "() => parseFloat(document.getElementById('live-words').textContent) > 3"
    )
    camera.snap("visit")


def client(camera: Camera, link: str, pin: str, suffix: str) -> None:
    """Today, Practice, the stop page, My reeds, Finished."""
    page = camera.page
    page.goto(link)
    page.fill("input[name=pin]", pin)
    page.click("button.main-action")
    page.wait_for_url("**/today/")
    if suffix:
        camera.take(f"today{suffix}")
    page.click("a.main-action")
    page.select_option("#input", "simulated voice")
    page.click("#nothing-new")
    page.wait_for_selector("#hold:visible")
    page.click("#hold")
    page.wait_for_function("() => parseFloat(document.getElementById('seconds').textContent) > 4")
    if not suffix:
        camera.take("practice")
    page.wait_for_selector("#skip-rest:visible, #strain:visible")
    if suffix:
        page.click("#stop-sign")
        camera.take("stop-phone")
        page.click("[data-sign=light_headed]")
        page.wait_for_url("**/finished/**")
        camera.take("finished-phone")
    if suffix:
        page.goto(f"{link}progress/")
        camera.take(f"reeds{suffix}")


def kinds(browser: Browser, folder: Path, address: str, links: dict[str, str], pin: str) -> None:
    """Eight kinds of task while they are done, on a phone, in one picture."""
    shots = [
        _doing(browser, f"{address}/c/{links[name]}/", pin, step, after_s)
        for name, step, after_s in KINDS
    ]
    images = "".join(
        f"<img width={PHONE['width']} src='data:image/png;base64,{base64.b64encode(one).decode()}'>"
        for one in shots
    )
    size: ViewportSize = {"width": 4 * PHONE["width"] + 24, "height": 2 * PHONE["height"] + 8}
    sheet = browser.new_context(viewport=size).new_page()
    style = "margin:0;display:flex;flex-wrap:wrap;gap:8px;background:#d9d4c4"
    sheet.set_content(f"<body style='{style}'>{images}")
    sheet.screenshot(path=folder / "practice-kinds.png")


def _doing(browser: Browser, link: str, pin: str, step: str, after_s: float) -> bytes:
    """The step of that name a while after it began."""
    page = browser.new_context(viewport=PHONE).new_page()
    page.goto(link)
    page.fill("input[name=pin]", pin)
    page.click("button.main-action")
    page.wait_for_url("**/today/")
    page.click("a.main-action")
    page.select_option("#input", "simulated voice")
    page.click("#nothing-new")
    page.wait_for_selector("#hold:visible")
    while step not in page.inner_text("#step-name"):
        page.wait_for_timeout(400)
        page.click("#skip")
        page.wait_for_selector("#hold:visible")
    page.wait_for_timeout(400)
    page.click("#hold")
    page.wait_for_selector("#hold.hold-on")
    page.wait_for_timeout(after_s * 1000)
    return page.screenshot()


def main(told: dict[str, str]) -> int:
    """Take all pictures."""
    sign_ins = told["sign_ins"]
    link = re.search(r"(http\S+/c/\S+)\s+PIN (\d+)", sign_ins)
    password = re.search(r"password (\S+)", sign_ins)
    if link is None or password is None:
        raise SystemExit("the demo named no sign-ins")
    folder = Path(told["folder"])
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium")
        clinician(Camera(browser, folder, DESKTOP), told["address"], password[1])
        client(Camera(browser, folder, DESKTOP), link[1], link[2], "")
        client(Camera(browser, folder, PHONE), link[1], link[2], "-phone")
        kinds(browser, folder, told["address"], json.loads(told["links"]), link[2])
        browser.close()
    return 0


if __name__ == "__main__":
    sys.exit(main(json.loads(sys.argv[1])))
