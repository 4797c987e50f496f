"""The faults: what is done to a running attempt, and how it is made good again."""

import contextlib
import os
import random
import signal
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

from playwright.sync_api import Error, Page

from lab.faults.pages import Device, practice, shown, tap, to_ready
from lab.faults.wire import Wire
from ops.pair import Pair
from ops.phases import PhaseFailed
from ops.postgres import Cluster
from ops.servers import Servers

MOMENT_MS = 300
"""Between what breaks and what follows it, and until a tap has done its work."""
SHORT_HOLD_MS = 900
"""How long the other page's hold lasts."""


class FaultWorld(Protocol):
    """What can fail."""

    wire: Wire
    pair: Pair
    servers: Servers

    def second_device(self) -> Device:
        """Another browser of the same client."""

    def until_together(self) -> None:
        """Wait until what is confirmed stands in both databases again."""


Strike = Callable[[FaultWorld, Device, Page, random.Random], Page | None]


@dataclass(frozen=True, slots=True)
class Fault:
    """strikes: while the sound goes; the page may be gone after it (None). heals: once the attempt is over."""

    name: str
    strikes: Strike
    heals: Callable[[FaultWorld], None] = lambda world: world.wire.heal()


def _servers_killed(
    world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    for number in range(world.servers.processes):
        world.servers.kill(number)
    return page


def _one_server(how: signal.Signals) -> Strike:
    """One of the servers is killed, or ended in order as for a new version; the other goes on."""

    def strikes(world: FaultWorld, _device: Device, page: Page, rng: random.Random) -> Page | None:
        world.servers.end(rng.randrange(world.servers.processes), how)
        return page

    return strikes


def _balancer_killed(
    world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    world.servers.kill("balancer")
    return page


def _worker_killed(
    world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    world.servers.kill("worker")
    return page


def _start_servers(world: FaultWorld) -> None:
    world.servers.restart_ended()


def _down(cluster: Cluster) -> None:
    """A database's machine loses its power."""
    os.kill(cluster.postmaster, signal.SIGKILL)
    end = time.monotonic() + 20
    while cluster.running() and time.monotonic() < end:
        time.sleep(0.05)


def _database_down(which: str) -> Strike:
    """The "primary" or the "standby" of the pair is killed."""

    def strikes(world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
        _down(getattr(world.pair, which))
        return page

    return strikes


def _start_database(which: str) -> Callable[[FaultWorld], None]:
    def heals(world: FaultWorld) -> None:
        getattr(world.pair, which).start()
        world.until_together()

    return heals


def _promoted(world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    """The database is gone for good, and its standby takes its place."""
    _down(world.pair.primary)
    world.pair = world.pair.promote()
    return page


def _new_standby(world: FaultWorld) -> None:
    world.pair.make_standby()
    world.until_together()


def _standby_frozen(
    world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    """It hears and does not answer: the worst it can do to those who wait for it."""
    world.pair.standby.freeze()
    return page


def _thaw_standby(world: FaultWorld) -> None:
    world.pair.standby.thaw()
    world.until_together()


_TRIES = 5
_GROWING = ("practice_homesession", "practice_attempt", "practice_entry", "measuring_measurement")
_FULL = """
CREATE FUNCTION no_room() RETURNS trigger LANGUAGE plpgsql AS
$$ BEGIN RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = 'disk_full'; END $$;
""" + "".join(
    f"CREATE TRIGGER no_room BEFORE INSERT ON {table} EXECUTE FUNCTION no_room();"
    for table in _GROWING
)


def _disk_full(world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    """Nothing new finds room: the database says so as it does then (SQLSTATE 53100), and reads go on."""
    world.pair.primary.run("psql", "-Xqc", _FULL)
    return page


def _make_room(world: FaultWorld) -> None:
    for left in reversed(range(_TRIES)):
        try:
            world.pair.primary.run("psql", "-Xqc", "DROP FUNCTION IF EXISTS no_room() CASCADE")
            return
        except PhaseFailed:  # it and somebody who writes waited for each other
            if not left:
                raise


def _network_gone(
    world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    world.wire.cut()
    return page


def _half_open(world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    world.wire.freeze()
    return page


def _slow(world: FaultWorld, _device: Device, page: Page, rng: random.Random) -> Page | None:
    world.wire.ails.slow_s = rng.uniform(0.2, 0.8)
    return page


def _after_a_cut(**ails: int) -> Strike:
    """The live sound breaks, so that it is sent whole, and that upload fares ill."""

    def strikes(world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
        world.wire.cut()
        page.wait_for_timeout(MOMENT_MS)
        world.wire.heal()
        for name, value in ails.items():
            setattr(world.wire.ails, name, value)
        return page

    return strikes


def _reloaded(_world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    page.reload()
    return None


def _reloaded_without_network(
    world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    world.wire.cut()
    with contextlib.suppress(Error):
        page.reload(timeout=5000)
    return None


def _tab_closed(
    _world: FaultWorld, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    page.close()
    return None


def _battery_gone(
    _world: FaultWorld, device: Device, _page: Page, _rng: random.Random
) -> Page | None:
    device.kill()
    return None


def _second_tab(_world: FaultWorld, device: Device, page: Page, rng: random.Random) -> Page | None:
    """Another tab sends what waits, and practices too, while the first one's hold runs."""
    other = device.open()
    if practice(other, routine=0, skip=rng.randrange(2)):
        tap(other, "#hold")
        other.wait_for_timeout(SHORT_HOLD_MS)
        tap(other, "#hold")
        other.wait_for_timeout(MOMENT_MS)
    other.close()
    return page


def _second_device(
    world: FaultWorld, _device: Device, page: Page, rng: random.Random
) -> Page | None:
    other = world.second_device()
    tab = other.open()
    if practice(tab, routine=0, skip=rng.randrange(2)):
        tap(tab, "#hold")
        tab.wait_for_timeout(SHORT_HOLD_MS)
        with contextlib.suppress(Error):
            tap(tab, "#hold")
            tab.wait_for_timeout(MOMENT_MS)
    tab.close()
    return page


def _stop_sign(_world: FaultWorld, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    """The client thought of stopping and goes back: the hold it broke off stays, as interrupted."""
    tap(page, "#stop-sign")
    tap(page, "#not-stop")
    return page


def _finished_twice(
    _world: FaultWorld, device: Device, page: Page, _rng: random.Random
) -> Page | None:
    """Both tabs of one home session say that it is over."""
    tap(page, "#hold")
    other = device.open()
    for tab in (other, page):
        if tab is other and not practice(tab, routine=0, skip=0):
            continue
        for _ in range(40):
            if not to_ready(tab):
                break
            tap(tab, "#skip")
        if shown(tab) == "end":
            with contextlib.suppress(Error):
                tap(tab, "#finish")
    other.close()
    return None


FAULTS = (
    Fault("all servers killed", _servers_killed, _start_servers),
    Fault("one server killed", _one_server(signal.SIGKILL), _start_servers),
    Fault("one server ended in order", _one_server(signal.SIGTERM), _start_servers),
    Fault("balancer killed", _balancer_killed, _start_servers),
    Fault("worker killed", _worker_killed, _start_servers),
    Fault("database killed", _database_down("primary"), _start_database("primary")),
    Fault("database gone, standby promoted", _promoted, _new_standby),
    Fault("standby killed", _database_down("standby"), _start_database("standby")),
    Fault("standby frozen", _standby_frozen, _thaw_standby),
    Fault("disk full", _disk_full, _make_room),
    Fault("network gone", _network_gone),
    Fault("half-open socket", _half_open),
    Fault("slow wire", _slow),
    Fault("reply lost", _after_a_cut(lost=2)),
    Fault("upload doubled", _after_a_cut(doubled=2)),
    Fault("uploads out of order", _after_a_cut(held_back=1)),
    Fault("page reloaded", _reloaded),
    Fault("reloaded without network", _reloaded_without_network),
    Fault("tab closed", _tab_closed),
    Fault("battery gone", _battery_gone),
    Fault("second tab", _second_tab),
    Fault("second device", _second_device),
    Fault("stop sign taken back", _stop_sign),
    Fault("finished twice", _finished_twice),
)
