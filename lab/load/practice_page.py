"""How soon the practice page can be used: first visit on a slow line and machine, and again without the server.

Runs inside the environment; prints one table. Slow: 1.6 Mbit/s, 150 ms there and back, a processor four times slower.
"""

import argparse
import shutil
import sys
import tempfile
import time
from pathlib import Path
from statistics import median

from playwright.sync_api import BrowserContext, Page, sync_playwright

from lab.faults.pages import CHROMIUM, PIN
from ops.phases import RUN
from ops.postgres import FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site, end

BYTES_A_SECOND = 1_600_000 / 8
LATENCY_MS = 150
SLOWER = 4
LIMITS_S = {"first visit, slow": 4.0, "again, from the service worker": 1.0}
USABLE = "#nothing-new:enabled"


def entered(context: BrowserContext, address: str, link: str) -> Page:
    page = context.new_page()
    page.goto(f"{address}/c/{link}/")
    page.fill("input[name=pin]", PIN)
    page.click("button.main-action")
    page.wait_for_url("**/today/")
    return page


def slowed(page: Page) -> None:
    """Nothing of it from the browser's cache."""
    told = page.context.new_cdp_session(page)
    told.send("Network.enable")
    told.send("Network.setCacheDisabled", {"cacheDisabled": True})
    told.send(
        "Network.emulateNetworkConditions",
        {
            "offline": False,
            "latency": LATENCY_MS,
            "downloadThroughput": BYTES_A_SECOND,
            "uploadThroughput": BYTES_A_SECOND,
        },
    )
    told.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})


def usable_after(page: Page, address: str) -> float:
    began = time.perf_counter()
    page.goto(address, wait_until="commit")
    page.wait_for_selector(USABLE)
    return time.perf_counter() - began


def main(arguments: list[str]) -> int:
    """Exit code 1 where a limit is not kept."""
    parser = argparse.ArgumentParser(prog="./reed bench practice")
    parser.add_argument("--times", type=int, default=5)
    given = parser.parse_args(arguments)
    cluster = Cluster(RUN / "pg-bench", FAST_AND_LOOSE)
    found: dict[str, list[float]] = {name: [] for name in LIMITS_S}
    with cluster.up(), sync_playwright() as playwright:
        site = Site(cluster=cluster, port=free_port())
        site.migrate()
        site.load_demo(fresh=True, only=["Maren Tidewell"])
        sql = "SELECT id FROM clients_clientaccess WHERE revoked_at IS NULL"
        link = cluster.run("psql", "-XAtc", sql).strip()
        practice = f"{site.address}/c/{link}/practice/"
        for _ in range(given.times):
            folder = Path(tempfile.mkdtemp(prefix="reed-page-"))
            server = site.serve(log=RUN / "practice-server.log")
            context = playwright.chromium.launch_persistent_context(
                str(folder), executable_path=CHROMIUM
            )
            try:
                page = entered(context, site.address, link)
                slow = context.new_page()
                slowed(slow)
                found["first visit, slow"].append(usable_after(slow, practice))
                slow.close()
                page.goto(practice)
                page.wait_for_selector(USABLE)
                page.evaluate("() => navigator.serviceWorker.ready")
                page.reload()
                page.wait_for_selector(USABLE)
                page.wait_for_timeout(500)
                end(server)
                found["again, from the service worker"].append(usable_after(page, practice))
            finally:
                context.close()
                end(server)
                shutil.rmtree(folder, ignore_errors=True)
    print("| the practice page is usable | median, s | worst, s | limit, s |\n|---|---|---|---|")
    for name, times in found.items():
        print(f"| {name} | {median(times):.2f} | {max(times):.2f} | {LIMITS_S[name]:.0f} |")
    return int(any(median(times) > LIMITS_S[name] for name, times in found.items()))


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
