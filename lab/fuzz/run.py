"""`./reed bench fuzz`: so many odd inputs over all doors of the demo; exit 1 on a 500, a traceback, a hang, a page that
can no longer be read, or anything half-saved.
"""

import argparse
import collections
import json
import logging
import os
import random
import sys
import time
import traceback
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from ops.phases import ROOT, RUN, phase
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site

PERSON = "Maren Tidewell"
PASSWORD, PIN = "harrow-quay-demo", "246810"
HANG_S = 10.0
SESSION_EVERY = 30
"""After so many inputs a new home session is opened: the last may have been ended by one of them."""
COUNTED = (
    "clients_client",
    "clients_screening",
    "clients_baseline",
    "clients_attempt",
    "clients_tried",
    "programs_draft",
    "programs_programversion",
    "practice_homesession",
    "practice_attempt",
    "practice_entry",
    "measuring_measurement",
    "practice_correction",
    "practice_remark",
    "review_decision",
    "library_ownmaterial",
    "library_clinictask",
)
"""Rows of the record: a refused input adds none."""


@dataclass
class Found:
    """What went wrong, each with its number, so that it can be looked at again."""

    wrong: list[str] = field(default_factory=list)
    statuses: collections.Counter[str] = field(default_factory=collections.Counter)
    slowest_s: float = 0.0

    def note(self, number: int, what: str) -> None:
        self.wrong.append(f"{number}: {what}")
        print(f"  {number}: {what}", flush=True)


def _rows() -> dict[str, int]:
    from django.db import connection

    with connection.cursor() as cursor:
        there = set(connection.introspection.table_names(cursor))
        own = [table for table in COUNTED if table in there]
        cursor.execute(" UNION ALL ".join(f"SELECT count(*) FROM {table}" for table in own))
        return dict(zip(own, (row[0] for row in cursor.fetchall()), strict=True))


def _unreadable(world: Any) -> str:
    """The first page that no longer opens; "" where all do."""
    for browser, path in world.pages():
        status = browser.get(path).status_code
        if status >= 500:
            return f"{path} answers {status}"
    return ""


def fuzz(world: Any, *, inputs: int, seed: int, first: int) -> Found:
    """Every input seeded by its number."""
    from django.core.signals import got_request_exception

    from lab.fuzz import beyond, doors

    raised: list[str] = []

    def remember(**_: Any) -> None:
        last = traceback.extract_tb(sys.exc_info()[2])[-1]
        raised.append(f"{sys.exc_info()[1]!r} at {Path(last.filename).name}:{last.lineno}")

    got_request_exception.connect(remember, weak=False)
    every = (*doors.DOORS, (beyond.a_socket, 3), (beyond.a_command, 2))
    found = Found()
    for number in range(first, first + inputs):
        rng = random.Random(f"{seed} {number}")
        if number % SESSION_EVERY == 0:
            world.open_session()
        door = rng.choices([one for one, _ in every], [share for _, share in every])[0]
        before, began = _rows(), time.monotonic()
        raised.clear()
        try:
            answer = door(world, rng)
        except Exception as error:  # noqa: BLE001 - whatever it is, it is what is looked for
            last = traceback.extract_tb(error.__traceback__)[-1]
            found.note(number, f"{door.__name__}: {error!r:.300} at {last.filename}:{last.lineno}")
            continue
        took_s = time.monotonic() - began
        found.slowest_s = max(found.slowest_s, took_s)
        found.statuses[f"{answer.door} {answer.status}"] += 1
        about = f"{answer.door} {answer.asked}"
        if answer.status >= 500 or raised:
            found.note(number, f"{about}: {answer.status} {' '.join(raised)[:300]}")
        if took_s > HANG_S:
            found.note(number, f"{about}: {took_s:.1f} s")
        if 400 <= answer.status < 500 and (after := _rows()) != before:
            more = [table for table, count in after.items() if count != before[table]]
            found.note(number, f"{about}: refused with {answer.status}, yet rows in {more}")
        if answer.kept and (page := _unreadable(world)):
            found.note(number, f"{about}: {page} {' '.join(raised)[:300]}")
            break
    return found


def world_of(site: Site) -> Any:
    """Signed in and let in, with the examples that are broken."""
    import io

    import soundfile
    from django.test import Client as Browser

    from lab.fuzz.doors import FuzzWorld
    from lab.simulate.voice import Voice, sing
    from web.clients.models import Client, ClientAccess

    def signed_in(who: str) -> Browser:
        browser = Browser(raise_request_exception=False, headers={"host": "127.0.0.1"})
        browser.post(
            "/accounts/login/", {"login": f"{who}@harrow-quay.example", "password": PASSWORD}
        )
        return browser

    person = Client.objects.get(name=PERSON)
    access = ClientAccess.objects.get(client=person, revoked_at=None)
    home = Browser(raise_request_exception=False, headers={"host": "127.0.0.1"})
    home.post(f"/c/{access.pk}/", {"pin": PIN})
    sung, wav = sing(Voice(f0_hz=220.0, seconds=1.5)), io.BytesIO()
    soundfile.write(wav, sung.samples, sung.rate_hz, subtype="PCM_16", format="WAV")
    staff = signed_in("una")
    staff.post(f"/clients/{person.pk}/program/propose/", {"school": ["sustained"]})
    world = FuzzWorld(
        staff=staff,
        lead=signed_in("lead"),
        home=home,
        person=str(person.pk),
        link=str(access.pk),
        program=staff.get(f"/clients/{person.pk}/program/program.json").content,
        wav=wav.getvalue(),
    )
    world.open_session()
    world.look_for_forms()
    world.files = _files(world, person)
    return world


def _files(world: Any, person: Any) -> dict[str, tuple[Any, bytes]]:
    """Good files by where they are sent, and who sends them."""
    import io

    from web.clinic import clock
    from web.records.pack import write_record

    of_client = f"/clients/{person.pk}/"
    steps = json.loads(world.program)["routines"][0]["steps"]
    notes = next(step["step_id"] for step in steps if step["target"]["kind"] == "holds")
    archive = io.BytesIO()
    write_record(person, archive, now=clock.now())
    log = world.staff.get(f"{of_client}paper-log/log.csv").content
    return {
        f"{of_client}paper-log/file/": (world.staff, log),
        f"{of_client}music/{notes}/take-in/": (
            world.staff,
            world.staff.get(f"{of_client}music/{notes}.musicxml").content,
        ),
        f"{of_client}music/{notes}/take-in/?": (
            world.staff,
            world.staff.get(f"{of_client}music/{notes}.mid").content,
        ),
        "/records/take-in/": (world.lead, archive.getvalue()),
    }


def main(arguments: list[str]) -> int:
    """Odd input at every door of a demo of its own; leaves nothing running."""
    parser = argparse.ArgumentParser(prog="./reed bench fuzz")
    parser.add_argument("--inputs", type=int, default=2_000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--first", type=int, default=0, help="number of the first input")
    given = parser.parse_args(arguments)
    cluster = Cluster(RUN / "pg-fuzz", FAST_AND_LOOSE)
    with cluster.up():
        site = Site(cluster=cluster, port=free_port())
        with phase("database"):
            site.migrate()
            site.load_demo(fresh=True, only=[PERSON])
        os.environ.update(site.environment(APPLICATION))
        os.chdir(ROOT)
        import django

        django.setup()
        logging.disable(logging.CRITICAL)
        world = world_of(site)
        began = time.monotonic()
        found = fuzz(world, inputs=given.inputs, seed=given.seed, first=given.first)
        took_s = time.monotonic() - began
        from django.db import connection

        connection.close()
    for answer, count in sorted(found.statuses.items()):
        print(f"  {answer}: {count}")
    print(f"  {len(world.forms)} forms, slowest {found.slowest_s:.1f} s, {took_s:.0f} s in all")
    print(f"inputs {given.inputs} wrong {len(found.wrong)}")
    return 1 if found.wrong else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
