"""How long papers, files and whole records take, from the request to the last byte, on a served demo.

Runs inside the environment, through Chromium's own requests on loopback; prints one table. Limit: 3 s for a report.
"""

import argparse
import csv
import io
import sys
import time
import uuid
from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from playwright.sync_api import APIResponse, Page, sync_playwright

from lab.faults.pages import CHROMIUM
from lab.sign_in import sign_in
from ops.phases import RUN
from ops.postgres import FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site, end

LIMIT_S = 3.0
TODAY = "2026-06-15"
LEAD, PASSWORD = "lead@harrow-quay.example", "harrow-quay-demo"
SUNG, TYPED = "Alwin Prewett", "Maren Tidewell"
ROWS = 10_000
LONG_AGO = (
    "UPDATE programs_programversion SET active_from = '2025-07-01' WHERE number = 1 AND client_id = "
    f"(SELECT id FROM clients_client WHERE name = '{TYPED}')"
)
"""So many rows are of more days than the demo's program has."""


def main(arguments: list[str]) -> int:
    """Exit code 1 where a report takes over 3 s or anything fails."""
    parser = argparse.ArgumentParser(prog="./reed bench papers")
    parser.add_argument("--times", type=int, default=3)
    given = parser.parse_args(arguments)
    cluster = Cluster(RUN / "pg-bench", FAST_AND_LOOSE)
    with cluster.up(), sync_playwright() as playwright:
        site = Site(cluster=cluster, port=free_port(), today=TODAY)
        site.migrate()
        site.load_demo(fresh=True)
        cluster.run("psql", "-XAtc", LONG_AGO)
        server = site.serve()
        try:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=["--no-sandbox"])
            page = browser.new_page()
            took = measured(page, site.address, given.times)
            browser.close()
        finally:
            end(server)
    print("| what | s | kB |\n|---|---|---|")
    for name, (seconds, size) in took.items():
        print(f"| {name} | {seconds:.2f} | {size / 1000:.0f} |")
    late = [name for name, (s, _kb) in took.items() if "report" in name and s > LIMIT_S]
    print(
        f"Limit: a report within {LIMIT_S:g} s. {'Over it: ' + ', '.join(late) if late else 'Kept.'}"
    )
    return 1 if late else 0


def measured(page: Page, address: str, times: int) -> dict[str, tuple[float, int]]:
    """Seconds (the slowest of so many) and bytes of everything that leaves, then of what comes back once."""
    sign_in(page, address, LEAD, PASSWORD)
    client = opened(page, address, SUNG)
    token = page.locator("[name=csrfmiddlewaretoken]").first.get_attribute("value") or ""

    def post(where: str, **form: str) -> Callable[[], APIResponse]:
        sent: dict[str, Any] = {**form, "csrfmiddlewaretoken": token}
        return lambda: page.request.post(f"{where}", form=sent, headers={"Referer": address})

    def get(where: str) -> Callable[[], APIResponse]:
        return lambda: page.request.get(where)

    out = {
        "handout": post(f"{client}print/handout/"),
        "handout in large type": post(f"{client}print/handout/", large="1"),
        "words to say": post(f"{client}print/words/"),
        "practice sheet, two weeks": post(f"{client}print/sheet/", first=TODAY),
        "calendar": get(f"{client}calendar.ics"),
        "FHIR bundle, 12 weeks": get(f"{client}fhir.json?weeks=12"),
        "whole record": get(f"{client}record.zip"),
        "whole clinic, 24 records": get(f"{address}/records/clinic.zip"),
    }
    took = {name: slowest(ask, times) for name, ask in out.items()}
    for sort in ("progress", "discharge"):
        page.goto(f"{client}report/{sort}/")
        took[f"{sort} report"] = report(page, times)
    return took | typed_back(page, address, token)


def opened(page: Page, address: str, name: str) -> str:
    page.goto(f"{address}/rounds/?whose=all&find={name.split()[0]}")
    href = page.locator(".lines tbody tr a").first.get_attribute("href")
    page.goto(f"{address}{href}print/")
    return f"{address}{href}"


def slowest(ask: Callable[[], APIResponse], times: int) -> tuple[float, int]:
    found = [once(ask) for _ in range(times)]
    return max(seconds for seconds, _size in found), found[-1][1]


def once(ask: Callable[[], APIResponse]) -> tuple[float, int]:
    began = time.perf_counter()
    answer = ask()
    size = len(answer.body())
    if answer.status != 200:
        raise SystemExit(f"{answer.url}: {answer.status} {answer.text()[:400]}")
    return time.perf_counter() - began, size


def report(page: Page, times: int) -> tuple[float, int]:
    """As the form sends it, with the parts it begins with."""
    where = page.url
    boundary = uuid.uuid4().hex
    fields = page.evaluate("() => [...new FormData(document.querySelector('main form'))]")
    body = "".join(
        f'--{boundary}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'
        for name, value in [*fields, ("pdf", "1")]
    )
    headers = {"Content-Type": f"multipart/form-data; boundary={boundary}", "Referer": where}
    sent = f"{body}--{boundary}--\r\n".encode()
    return slowest(lambda: page.request.post(where, data=sent, headers=headers), times)


def typed_back(page: Page, address: str, token: str) -> dict[str, tuple[float, int]]:
    """A file of 10,000 rows: answered row by row (one row is wrong), then logged knowingly."""
    client = opened(page, address, TYPED)
    data = rows_of(page.request.get(f"{client}paper-log/log.csv").text())
    file: Any = {"name": "log.csv", "mimeType": "text/csv", "buffer": data}
    sent: dict[str, Any] = {"csrfmiddlewaretoken": token, "file": file}
    where, headers = f"{client}paper-log/file/", {"Referer": address}
    began = time.perf_counter()
    asked = page.request.post(where, multipart=sent, headers=headers)
    checked = time.perf_counter() - began
    if asked.status != 422 or f"{ROWS - 1} of {ROWS} rows fit" not in asked.text():
        raise SystemExit(f"the file was not answered row by row: {asked.status}")
    known: dict[str, Any] = {"csrfmiddlewaretoken": token, "knowingly": "1"}
    logged = once(lambda: page.request.post(where, form=known, headers=headers))
    return {
        f"CSV of {ROWS:,} rows, answered": (checked, len(data)),
        f"CSV of {ROWS:,} rows, logged": (logged[0], len(data)),
    }


def rows_of(sample: str) -> bytes:
    """The rows of a day, over and over for other days and home sessions, the last one with a wrong note."""
    reader = csv.DictReader(io.StringIO(sample))
    names, day_rows = list(reader.fieldnames or ()), list(reader)
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, names)
    writer.writeheader()
    last = date.fromisoformat(TODAY)
    for number in range(ROWS):
        sitting, place = divmod(number, len(day_rows))
        row = dict(day_rows[place])
        row["date"] = (last - timedelta(days=sitting // 6)).isoformat()
        row["session"] = str(sitting % 6 + 1)
        row["seconds"] = "6,5" if row["note"] else ""
        row["note"] = "A7" if number == ROWS - 1 else row["note"]
        writer.writerow(row)
    return out.getvalue().encode()


if __name__ == "__main__":
    print(Path(__file__).name, file=sys.stderr)
    sys.exit(main(sys.argv[1:]))
