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

from ops.faults.pages import Device, practise, shown, tap, to_ready
from ops.faults.wire import Wire
from ops.postgres import Cluster

MOMENT_MS = 300
"""Between what breaks and what follows it, and until a tap has done its work."""
SHORT_HOLD_MS = 900
"""How long the other page's hold lasts."""


class World(Protocol):
    """What can fail."""

    wire: Wire
    cluster: Cluster

    def kill_server(self) -> None: ...
    def start_server(self) -> None: ...
    def second_device(self) -> Device: ...


Strike = Callable[[World, Device, Page, random.Random], Page | None]


@dataclass(frozen=True, slots=True)
class Fault:
    """strikes: while the sound goes; the page may be gone after it (None). heals: once the attempt is over."""

    name: str
    strikes: Strike
    heals: Callable[[World], None] = lambda world: world.wire.heal()


def _server_killed(world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    world.kill_server()
    return page


def _database_killed(world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    pid = int((world.cluster.data / "postmaster.pid").read_text().split()[0])
    os.kill(pid, signal.SIGQUIT)
    return page


def _start_database(world: World) -> None:
    end = time.monotonic() + 20
    while world.cluster.running() and time.monotonic() < end:
        time.sleep(0.1)
    world.cluster.start()


_GROWING = ("practice_homesession", "practice_attempt", "practice_entry", "measuring_measurement")
_FULL = """
CREATE FUNCTION no_room() RETURNS trigger LANGUAGE plpgsql AS
$$ BEGIN RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = 'disk_full'; END $$;
""" + "".join(
    f"CREATE TRIGGER no_room BEFORE INSERT ON {table} EXECUTE FUNCTION no_room();"
    for table in _GROWING
)


def _disk_full(world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    """Nothing new finds room: the database says so as it does then (SQLSTATE 53100), and reads go on."""
    world.cluster.run("psql", "-Xqc", _FULL)
    return page


def _make_room(world: World) -> None:
    world.cluster.run("psql", "-Xqc", "DROP FUNCTION no_room() CASCADE")


def _network_gone(world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    world.wire.cut()
    return page


def _half_open(world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    world.wire.freeze()
    return page


def _slow(world: World, _device: Device, page: Page, rng: random.Random) -> Page | None:
    world.wire.ails.slow_s = rng.uniform(0.2, 0.8)
    return page


def _after_a_cut(**ails: int) -> Strike:
    """The live sound breaks, so that it is sent whole, and that upload fares ill."""

    def strikes(world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
        world.wire.cut()
        page.wait_for_timeout(MOMENT_MS)
        world.wire.heal()
        for name, value in ails.items():
            setattr(world.wire.ails, name, value)
        return page

    return strikes


def _reloaded(_world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    page.reload()
    return None


def _reloaded_without_network(
    world: World, _device: Device, page: Page, _rng: random.Random
) -> Page | None:
    world.wire.cut()
    with contextlib.suppress(Error):
        page.reload(timeout=5000)
    return None


def _tab_closed(_world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    page.close()
    return None


def _battery_gone(_world: World, device: Device, _page: Page, _rng: random.Random) -> Page | None:
    device.kill()
    return None


def _second_tab(_world: World, device: Device, page: Page, rng: random.Random) -> Page | None:
    """Another tab sends what waits, and practises too, while the first one's hold runs."""
    other = device.open()
    if practise(other, routine=0, skip=rng.randrange(2)):
        tap(other, "#hold")
        other.wait_for_timeout(SHORT_HOLD_MS)
        tap(other, "#hold")
        other.wait_for_timeout(MOMENT_MS)
    other.close()
    return page


def _second_device(world: World, _device: Device, page: Page, rng: random.Random) -> Page | None:
    other = world.second_device()
    tab = other.open()
    if practise(tab, routine=0, skip=rng.randrange(2)):
        tap(tab, "#hold")
        tab.wait_for_timeout(SHORT_HOLD_MS)
        with contextlib.suppress(Error):
            tap(tab, "#hold")
            tab.wait_for_timeout(MOMENT_MS)
    tab.close()
    return page


def _stop_sign(_world: World, _device: Device, page: Page, _rng: random.Random) -> Page | None:
    """The client thought of stopping and goes back: the hold it broke off stays, as interrupted."""
    tap(page, "#stop-sign")
    tap(page, "#not-stop")
    return page


def _finished_twice(_world: World, device: Device, page: Page, _rng: random.Random) -> Page | None:
    """Both tabs of one home session say that it is over."""
    tap(page, "#hold")
    other = device.open()
    for tab in (other, page):
        if tab is other and not practise(tab, routine=0, skip=0):
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
    Fault("server killed", _server_killed, lambda world: world.start_server()),
    Fault("database killed", _database_killed, _start_database),
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
