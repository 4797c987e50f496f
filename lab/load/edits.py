"""How soon an edit on the Bench shows its new minutes, warnings and drawing: from the key or the click to the page.

Runs inside the environment, through Chromium on loopback; prints one table. Limit: 150 ms at the 95th percentile.
"""

import argparse
import sys
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, sync_playwright

from lab.faults.pages import CHROMIUM
from lab.sign_in import sign_in
from ops.phases import RUN
from ops.postgres import FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site, end

LIMIT_MS = 150.0
PROGRAMS = {
    "sustained": ["sustained"],
    "tube": ["semi_shallow", "semi_reset"],
    "loudness": ["loudness_vowels"],
    "range": ["range_full", "resonance"],
    "breath": ["breath_beats", "breath_hiss", "release"],
}
CLIENT, LOGIN, PASSWORD = "Maren Tidewell", "una@harrow-quay.example", "harrow-quay-demo"
SHOWN = """(act) => new Promise((done, refused) => {
  const bench = document.getElementById('bench');
  setTimeout(() => refused(new Error(`${act}: ${document.getElementById('bench-words').textContent}`)), 10000);
  const began = performance.now();
  new MutationObserver((_, seen) => {
    seen.disconnect();
    requestAnimationFrame(() => done(performance.now() - began));
  }).observe(bench, { attributes: true, characterData: true, childList: true, subtree: true });
  const find = (one) => bench.querySelector(one);
  if (act === 'look') find('.steps li:not([aria-current]) [data-pick]').click();
  if (act === 'later') find('[data-edit=order][data-by="1"]').click();
  if (act === 'earlier') find('[data-edit=order][data-by="-1"]').click();
  if (act === 'undo') find('[data-edit=undo]').click();
  if (act === 'duplicate') find('[data-edit=duplicate]').click();
  if (act === 'weekday') find('[data-weekday="7"]').dispatchEvent(new MouseEvent('click', { bubbles: true }));
  const key = (one, name) => one.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }));
  if (act === 'drawing') {
    const held = find('#bed .reed[data-key], #bed .grip');
    key(held, held.matches('.grip:not([data-up])') ? 'ArrowRight' : 'ArrowUp');
  }
  if (act === 'number') {
    const field = find('#f-rest_s');
    field.value = String((Number(field.value) + 5) % 60);
    field.dispatchEvent(new Event('change', { bubbles: true }));
  }
})"""
ACTS = ("look", "drawing", "number", "later", "earlier", "weekday", "duplicate", "undo")


def proposed(page: Page, address: str, schools: list[str]) -> None:
    page.goto(f"{address}/")
    page.click(f"text={CLIENT}")
    page.click("nav >> text=Bench")
    page.evaluate(
        "() => document.querySelectorAll('[name=school]').forEach((b) => { b.checked = false; })"
    )
    for school in schools:
        page.check(f"input[name=school][value={school}]")
    page.click("text=Propose program")
    page.wait_for_selector("#bench[data-ready]")


def main(arguments: list[str]) -> int:
    """Exit code 1 where the limit is not kept."""
    parser = argparse.ArgumentParser(prog="./reed bench bench")
    parser.add_argument("--times", type=int, default=8)
    given = parser.parse_args(arguments)
    cluster = Cluster(RUN / "pg-bench", FAST_AND_LOOSE)
    took: dict[str, list[float]] = {act: [] for act in ACTS}
    with cluster.up(), sync_playwright() as playwright:
        site = Site(cluster=cluster, port=free_port())
        site.migrate()
        site.load_demo(fresh=True, only=[CLIENT])
        server = site.serve(log=Path(RUN) / "bench-edits-server.log")
        browser = playwright.chromium.launch(executable_path=CHROMIUM)
        try:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            sign_in(page, site.address, LOGIN, PASSWORD)
            for schools in PROGRAMS.values():
                proposed(page, site.address, schools)
                page.evaluate(SHOWN, "number")  # warms up
                for _ in range(given.times):
                    for act in ACTS:
                        took[act].append(page.evaluate(SHOWN, act))
        finally:
            browser.close()
            end(server)
    print(
        "| an edit, until it is shown | edits | median, ms | p95, ms | worst, ms |\n|---|---|---|---|---|"
    )
    everything = [ms for times in took.values() for ms in times]
    for name, times in (*took.items(), ("all", everything)):
        middle, high = np.percentile(times, [50, 95])
        print(f"| {name} | {len(times)} | {middle:.0f} | {high:.0f} | {max(times):.0f} |")
    return int(float(np.percentile(everything, 95)) > LIMIT_MS)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
