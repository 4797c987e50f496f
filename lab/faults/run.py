"""Runs the faults, each seeded by its number, and counts what came of every attempt that was begun.

Last line: `sent A kept B lost C doubled D`. Lost is also an attempt that was ended well in the page and is kept
as interrupted, or the other way round; doubled is any row that no page began, and any id that stands twice.
"""

import argparse
import collections
import contextlib
import json
import random
import shutil
import signal
import sys
import tempfile
import threading
import time
from dataclasses import dataclass, field, replace
from pathlib import Path

from playwright.sync_api import Error, Page, Playwright, sync_playwright

from lab.faults.kinds import FAULTS, Fault
from lab.faults.pages import Device, practice, shown, tap, to_ready
from lab.faults.wire import Wire
from ops.pair import Pair, Watch
from ops.phases import RUN
from ops.postgres import FOLLOWS, SENDS, Cluster, free_port
from ops.servers import Servers
from ops.site import Site
from ops.standby import keep_looking

CLIENTS = (
    "Maren Tidewell",
    "Fergal Dunmoor",
    "Idris Wharram",
    "Kester Boyle",
    "Petra Lindqvist",
    "Alwin Prewett",
    "Silas Merrow",
)
"""Of all kinds of task: held notes and glides, hiss, pattern, join, bubbles, talk, paced breath."""
HOURS_MS = 3_600_000
SENT_WITHIN_S = 45.0
FAULTS_A_PAGE = 4
TOGETHER_WITHIN_S = 60.0
ENDED = {"recorded": ("measured", "timed"), "timed": ("measured", "timed", "interrupted")}


@dataclass
class RunningWorld:
    """The site, the wire before it and the devices of its clients."""

    site: Site
    pair: Pair
    servers: Servers
    wire: Wire
    playwright: Playwright
    folder: Path
    links: list[str]
    rng: random.Random
    watch: Watch = field(init=False)
    link: str = ""
    over: bool = False
    devices: list[Device] = field(default_factory=list)

    def ask(self, sql: str) -> str:
        """Of the database at hand: for the watch, whichever of the two it is."""
        return self.pair.primary.ask(sql)

    def until_together(self) -> None:
        end = time.monotonic() + TOGETHER_WITHIN_S
        while self.watch.look() != "together":
            if time.monotonic() > end:
                raise RuntimeError("the standby does not follow")
            time.sleep(0.2)

    def __post_init__(self) -> None:
        self.watch = Watch(
            self, lambda words: print(f"  {words}", flush=True), self.folder / "state"
        )

    def enough(self, *_: object) -> None:
        """After the page at hand: count what was done so far."""
        self.over = True

    def device(self, *, off_ms: int = 0) -> Device:
        """A browser of its own for the client at hand."""
        folder = Path(tempfile.mkdtemp(dir=self.folder))
        device = Device(self.playwright, folder, self.site.address, self.link, clock_off_ms=off_ms)
        self.devices.append(device)
        return device

    def second_device(self) -> Device:
        return self.device()


def hold_with(
    world: RunningWorld, device: Device, page: Page, fault: Fault, rng: random.Random
) -> Page | None:
    """One attempt of 1–2 s with its fault; the page that is left, if it is."""
    tap(page, "#hold")
    with contextlib.suppress(Error):
        page.wait_for_selector("#hold.hold-on", timeout=8000)
    page.wait_for_timeout(rng.uniform(100, 900))
    try:
        left = fault.strikes(world, device, page, rng)
        if left is not None:
            left.wait_for_timeout(rng.uniform(200, 900))
            if shown(left) == "hold":
                tap(left, "#hold")
            left.wait_for_timeout(rng.uniform(0, 700))
    finally:
        fault.heals(world)
    return left


def ready(device: Device, page: Page | None, rng: random.Random) -> Page:
    """A page with an attempt about to begin: the one at hand, else a new one."""
    if page is not None and not page.is_closed():
        if shown(page) not in (None, "over", "trouble", "start") and to_ready(page):
            return page
        page.close()
    said = ""
    for _ in range(3):
        page = device.open()
        if practice(page, routine=rng.randrange(3), skip=rng.randrange(6)):
            return page
        said = f"{shown(page)} {page.inner_text('main')[:200]!r}"
        page.close()
    raise RuntimeError(f"no attempt to begin with: {said}")


def page_with(world: RunningWorld, numbers: list[int], seed: int) -> None:
    """Some faults on one page of one client, then everything that waits is sent."""
    rng = random.Random(f"{seed} {numbers[0]}")
    world.link = rng.choice(world.links)
    off_ms = rng.choice([0, 0, -7, 5, 30]) * HOURS_MS
    device = world.device(off_ms=off_ms)
    mine = len(world.devices) - 1
    page: Page | None = None
    for number in numbers:
        fault = FAULTS[number % len(FAULTS)]
        began = time.monotonic()
        own = random.Random(f"{seed} {number}")
        try:
            page = ready(device, page, own)
            page = hold_with(world, device, page, fault, own)
        except (Error, RuntimeError) as error:
            print(f"  {number}: {fault.name}: the page broke off: {str(error).splitlines()[0]}")
            page = None
        print(f"  {number}: {fault.name}, {time.monotonic() - began:.1f} s", flush=True)
    for one in world.devices[mine:]:
        if not one.all_sent(within_s=SENT_WITHIN_S):
            print(f"  {numbers}: something still waits in a browser after {SENT_WITHIN_S:.0f} s")
        one.close()
        shutil.rmtree(one.folder, ignore_errors=True)


def counted(world: RunningWorld) -> tuple[int, int, int, int]:
    """Sent, kept, lost, doubled: what the pages began against what the database holds."""
    sql = (
        "SELECT json_agg(json_build_array(id, state)) FROM ("
        "SELECT id::text, state FROM practice_attempt WHERE received_at >= (SELECT min(at) FROM faults_began)"
        " UNION ALL SELECT upload_id::text, 'set_aside' FROM practice_setaside) AS kept"
    )
    rows = json.loads(world.pair.primary.run("psql", "-XAtc", sql) or "null") or []
    there: dict[str, list[str]] = collections.defaultdict(list)
    for id_, state in rows:
        there[id_].append(state)
    begun = {id_: state for device in world.devices for id_, state in device.begun.items()}
    lost = [id_ for id_, state in begun.items() if not _as_it_was(there.get(id_, []), state)]
    doubled = [id_ for id_, states in there.items() if len(states) > 1 or id_ not in begun]
    for id_ in lost:
        print(f"  lost: {id_}, in the page {begun[id_]}, kept as {there.get(id_)}")
    for id_ in doubled:
        print(f"  doubled: {id_}, {there[id_]}")
    return len(begun), len(begun) - len(lost), len(lost), len(doubled)


def _as_it_was(states: list[str], in_page: str) -> bool:
    if "set_aside" in states:
        return True
    return bool(states) and (in_page not in ENDED or states[0] in ENDED[in_page])


def main(arguments: list[str]) -> int:
    """Exit code 1 unless nothing was lost and nothing doubled."""
    parser = argparse.ArgumentParser(prog="./reed bench faults")
    parser.add_argument("--faults", type=int, default=200)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--first", type=int, default=0, help="number of the first fault, to go on")
    parser.add_argument("--clients", type=int, default=len(CLIENTS))
    parser.add_argument("--processes", type=int, default=2, help="servers behind the balancer")
    given = parser.parse_args(arguments)
    if given.processes < 2:
        parser.error("--processes: at least 2, for one of them is killed")
    pair = Pair(
        *(Cluster(RUN / name, f"{SENDS} {FOLLOWS}") for name in ("pg-faults", "pg-faults-2"))
    )
    folder = Path(tempfile.mkdtemp(prefix="reed-faults-"))
    port, behind = free_port(), free_port()
    wire = Wire(port, behind)
    try:
        if pair.primary.follows:  # the run before ended the other way round
            shutil.rmtree(pair.primary.folder)
        pair.primary.start()
        alone = Site(cluster=pair.primary, port=port, behind=behind)
        alone.migrate()
        alone.load_demo(fresh=True, only=CLIENTS[: given.clients])
        pair.primary.ask("DROP TABLE IF EXISTS faults_began")
        pair.primary.ask("CREATE TABLE faults_began AS SELECT now() AS at")
        pair.make_standby()
        site = replace(alone, standby=pair.standby)
        links = pair.primary.ask(
            "SELECT id FROM clients_clientaccess WHERE revoked_at IS NULL ORDER BY id"
        )
        servers = Servers(site, given.processes, log=RUN / "faults-server.log")
        with sync_playwright() as playwright:
            world = RunningWorld(
                site,
                pair,
                servers,
                wire,
                playwright,
                folder,
                links.split(),
                random.Random(given.seed),
            )
            looking_ended = threading.Event()
            looking = threading.Thread(target=keep_looking, args=(world.watch, looking_ended))
            try:
                world.until_together()
                looking.start()
                servers.start()
                numbers = list(range(given.first, given.first + given.faults))
                signal.signal(signal.SIGTERM, world.enough)
                for at in range(0, len(numbers), FAULTS_A_PAGE):
                    if world.over:
                        print(f"  ended by SIGTERM after {at} faults")
                        break
                    page_with(world, numbers[at : at + FAULTS_A_PAGE], given.seed)
                sent, kept, lost, doubled = counted(world)
            finally:
                for device in world.devices:
                    device.close()
                looking_ended.set()
                servers.stop()
    finally:
        wire.close()
        for cluster in (pair.primary, pair.standby):
            if cluster.data.exists():
                cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)
    print(f"sent {sent} kept {kept} lost {lost} doubled {doubled}")
    return 0 if lost == doubled == 0 and sent else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
