"""A database and its synchronous standby: what was confirmed stands in both. PostgreSQL's own means throughout.

While the two are together a commit is confirmed when the standby has it on its disk. Where the standby is lost the
primary goes on alone, with an alarm, and they are together again once it has caught up. Only `Watch` lets the primary
go alone: one that comes back after its standby was promoted finds nobody to confirm with, so it confirms nothing."""

import json
import shutil
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Protocol

from ops.phases import PhaseFailed
from ops.postgres import OWNER, Cluster, as_server, tool_at

STANDBY = "still_reed_standby"
"""How the standby calls itself to the primary."""
LOST_AFTER_S = 3.0
"""A standby that has not answered for so long is gone; commits wait so long at most."""
CAUGHT_UP_BYTES = 1_000_000
"""So near behind, it may confirm again."""
_LOOK = f"""
SELECT json_build_object(
  'confirms_with', current_setting('synchronous_standby_names'),
  'near', coalesce(bool_or(pg_wal_lsn_diff(pg_current_wal_lsn(), flush_lsn) <= {CAUGHT_UP_BYTES}), false),
  'silent_s', min(extract(epoch FROM now() - coalesce(reply_time, now()))))
FROM pg_stat_replication WHERE application_name = '{STANDBY}' AND state = 'streaming'
"""


class Node(Protocol):
    """A server that can be asked; `ask` raises PhaseFailed where it does not answer."""

    def ask(self, sql: str) -> str:
        """What the owner's SQL answers, unaligned."""


@dataclass
class Watch:
    """Looks at a pair again and again. told: words of each change, for whoever runs the site; state: a file that
    says whether everything confirmed stands in both, read before a standby is promoted."""

    primary: Node
    told: Callable[[str], None]
    state: Path
    _looking: threading.Lock = field(default_factory=threading.Lock)
    _lost_since: float | None = None
    _away: bool = False

    def look(self) -> str:
        """One look: "together", "alone" (the standby does not follow) or "away" (the primary does not answer)."""
        with self._looking:
            return self._looked()

    def _looked(self) -> str:
        try:
            found = json.loads(self.primary.ask(_LOOK))
            together = self._acted(found)
        except PhaseFailed:
            if not self._away:
                self.told("The database does not answer.")
            self._away = True
            return "away"
        self._away = False
        words = "The standby follows: what is confirmed stands in both."
        self._note(together, words if together else "The database goes on without a standby.")
        return "together" if together else "alone"

    def _acted(self, found: dict) -> bool:
        """Whether it confirms with its standby, once what was found is acted on."""
        silent_s, confirms = found["silent_s"], bool(found["confirms_with"])
        if silent_s is not None and silent_s < LOST_AFTER_S:
            self._lost_since = None
            if not confirms and found["near"]:
                self._confirm_with(STANDBY)
                return True
            return confirms
        self._lost_since = self._lost_since or time.monotonic()
        gone = silent_s is not None or time.monotonic() - self._lost_since >= LOST_AFTER_S
        if confirms and gone:
            self._confirm_with("")
            return False
        return confirms

    def _confirm_with(self, name: str) -> None:
        self.primary.ask(f"ALTER SYSTEM SET synchronous_standby_names = '{name}'")
        self.primary.ask("SELECT pg_reload_conf()")

    def _note(self, together: bool, words: str) -> None:
        was = self.state.read_text() if self.state.exists() else ""
        now = json.dumps({"together": together, "words": words})
        if now != was:
            self.state.write_text(now)
            if was or not together:  # that all is well from the beginning is no news
                self.told(words)


def all_confirmed_stand_in_both(state: Path) -> bool:
    """What the watch last knew; False where it never looked."""
    return state.exists() and json.loads(state.read_text())["together"] is True


@dataclass
class Pair:
    """Two clusters of this machine. On two machines the same is done by hand: docs/running.md."""

    primary: Cluster
    standby: Cluster

    def make_standby(self) -> None:
        """Copy the running primary into the standby's folder, and start it where it was before; what was there
        is gone."""
        folder = self.standby.folder
        self.standby.stop()
        port = self.standby.port if (folder / "port").exists() else None
        shutil.rmtree(folder, ignore_errors=True)
        folder.mkdir(parents=True)
        for secret in self.primary.folder.glob("*.secret"):
            shutil.copy2(secret, folder / secret.name)
        self.standby.take_folder(port)
        self._drop_slot()
        where = f"host=127.0.0.1 port={self.primary.port} user={OWNER} application_name={STANDBY}"
        command = [tool_at("pg_basebackup"), "-D", str(self.standby.data), "-d", where]
        command += ["-R", "-X", "stream", "-C", "-S", STANDBY, "-c", "fast"]
        done = as_server(command, folder, password=self.primary.secret(OWNER))
        if done.returncode:
            raise PhaseFailed(f"pg_basebackup failed.\n{done.stderr[-800:]}")
        with (self.standby.data / "postgresql.auto.conf").open("a") as settings:
            # its own, once it is promoted: it must not wait for a standby that it does not have
            settings.write("synchronous_standby_names = ''\n")
        self.standby.start()

    def _drop_slot(self) -> None:
        """What the primary kept for a former standby; it may take a moment until that is seen to be gone."""
        slots = f"FROM pg_replication_slots WHERE slot_name = '{STANDBY}'"
        for _ in range(60):
            self.primary.ask(f"SELECT pg_drop_replication_slot(slot_name) {slots} AND NOT active")
            if self.primary.ask(f"SELECT count(*) {slots}") == "0":
                return
            time.sleep(0.2)
        raise PhaseFailed("Another standby follows this database. Stop it first.")

    def promote(self) -> "Pair":
        """Make the standby the primary, once the former one is down: two that both take what comes would part for
        good. The pair the other way round; its new standby is made by `make_standby`."""
        if self.primary.running():
            raise PhaseFailed(
                "The primary database still runs. Stop it before its standby is promoted."
            )
        self.standby.ask("SELECT pg_promote(true, 30)")
        return Pair(self.standby, self.primary)
