"""The running site: settings for its process, migrations, demo data, the ASGI server."""

import contextlib
import hashlib
import os
import secrets
import signal
import socket
import subprocess
import time
import urllib.request
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from ops.environment import PYTHON
from ops.former_tables import check_tables
from ops.phases import ROOT, RUN, PhaseFailed, call
from ops.postgres import APPLICATION, OWNER, Cluster


@dataclass(frozen=True, slots=True, kw_only=True)
class Site:
    """One site on one cluster; `today` (ISO date) fixes the day of the demo, None = the real one; `behind`: where
    the server itself listens, if something stands before it on `port`; standby: asked where the cluster is gone."""

    cluster: Cluster
    port: int
    host: str = "127.0.0.1"
    today: str | None = None
    cert: Path | None = None
    key: Path | None = None
    behind: int | None = None
    standby: Cluster | None = None

    @property
    def own_port(self) -> int:
        return self.behind or self.port

    @property
    def address(self) -> str:
        return f"{'https' if self.cert else 'http'}://{self.host}:{self.port}"

    def environment(self, role: str) -> dict[str, str]:
        """What web/config/env.py reads."""
        return {
            **os.environ,
            "DJANGO_SETTINGS_MODULE": "web.config.settings.dev",
            "REED_DATABASE_URL": self.cluster.url(role),
            "REED_DATABASE_STANDBY": f"127.0.0.1:{self.standby.port}" if self.standby else "",
            "REED_WORK_BESIDE": "light",
            "REED_SECRET_KEY": _secret_key(),
            "REED_ALLOWED_HOSTS": f"127.0.0.1,localhost,{self.host}",
            "REED_ORIGIN": self.address,
            "REED_TODAY": self.today or "",
            "REED_MAIL_FOLDER": str(RUN / "mail"),
        }

    def manage(self, *arguments: str, role: str = OWNER) -> str:
        """A Django command, by default as the owner of the tables."""
        return call(
            [str(PYTHON), "-m", "django", *arguments],
            todo="The lines above say what is wrong.",
            env=self.environment(role),
        )

    def migrate(self) -> None:
        """Bring the tables and what is worked out from them up to date; skipped when no migration or
        package changed since."""
        stamp = self.cluster.folder / "migrated"
        digest = digest_of_tables()
        if stamp.exists() and stamp.read_text() == digest:
            return
        check_tables(self.cluster, "reed", "The database")
        self.manage("migrate", "--verbosity=0")
        self.manage("rebuild_rows")
        stamp.write_text(digest)

    def load_demo(self, *, fresh: bool = False, only: Sequence[str] = ()) -> str:
        """Load the demo clinic once, as the application's own role. fresh: empty the database first; only: the
        clients to load by name, all of them if none is named."""
        if fresh:
            self.manage("flush", "--no-input", "--verbosity=0")
        chosen = [part for name in only for part in ("--only", name)]
        return self.manage("load_demo", *chosen, role=APPLICATION)

    def serve(
        self, *, log: Path | None = None, inner: int | None = None
    ) -> subprocess.Popen[bytes]:
        """Start the ASGI server and wait until it lives, whether its database answers or not; PhaseFailed if it
        does not. log: where it writes
        what it has to say, None = here; inner: a loopback port behind a balancer, without TLS."""
        if inner is None:
            self.must_be_free()
        host, port = ("127.0.0.1", inner) if inner else (self.host, self.own_port)
        command = [str(PYTHON), "-m", "uvicorn", "web.config.asgi:application"]
        command += ["--host", host, "--port", str(port), "--log-level", "warning"]
        command += ["--ws", "websockets-sansio", "--ws-per-message-deflate", "false"]
        command += ["--lifespan", "off"]
        command += ["--timeout-graceful-shutdown", "3"]
        if self.cert and self.key and inner is None:
            command += ["--ssl-certfile", str(self.cert), "--ssl-keyfile", str(self.key)]
        server = self._begin(command, log)
        try:
            self._wait_for(server, inner, "healthz")
        except BaseException:
            end(server)
            raise
        return server

    def work_beside(self, *, log: Path | None = None) -> subprocess.Popen[bytes]:
        """Start the worker: what takes the processor for a while is done there, away from the streams."""
        return self._begin([str(PYTHON), "-m", "django", "work_beside"], log)

    def _begin(self, command: list[str], log: Path | None) -> subprocess.Popen[bytes]:
        with contextlib.ExitStack() as opened:
            written = opened.enter_context(log.open("ab")) if log else None
            return subprocess.Popen(
                command,
                cwd=ROOT,
                env=self.environment(APPLICATION),
                start_new_session=True,
                stdout=written,
                stderr=written,
            )

    def must_be_free(self) -> None:
        """PhaseFailed where somebody listens at our place already."""
        if self.host in ("127.0.0.1", "localhost") and not _free(self.own_port):
            raise PhaseFailed(f"Port {self.own_port} is in use. Try ./reed start --port 8011")

    def must_answer(self) -> None:
        """Wait until the whole answers, its database too; PhaseFailed after 30 s."""
        self._wait_for(None, None, "readyz")

    def _wait_for(
        self, server: subprocess.Popen[bytes] | None, inner: int | None, asked: str
    ) -> None:
        for _ in range(150):
            if server is not None and server.poll() is not None:
                raise PhaseFailed("The server ended at once; the lines above say why.")
            if self._answers(inner, asked):
                return
            time.sleep(0.2)
        raise PhaseFailed("The server did not answer within 30 s.")

    def _answers(self, inner: int | None, asked: str) -> bool:
        if self.cert and inner is None:
            with socket.socket() as probe:
                return probe.connect_ex((self.host, self.port)) == 0
        host = "127.0.0.1" if inner else self.host
        try:
            with urllib.request.urlopen(
                f"http://{host}:{inner or self.own_port}/{asked}", timeout=2
            ) as answer:
                return bool(answer.status == 200)
        except OSError:
            return False


def end(server: subprocess.Popen[bytes]) -> None:
    """Stop one server by its own id."""
    if server.poll() is None:
        server.send_signal(signal.SIGTERM)
        try:
            server.wait(timeout=8)
        except subprocess.TimeoutExpired:
            server.kill()
            server.wait()


def digest_of_tables() -> str:
    """What the tables depend on: migrations, grants, installed packages."""
    whole = hashlib.sha256()
    migrations = sorted((ROOT / "web").rglob("migrations/*.py"))
    lock = ROOT / "requirements" / "base.txt"
    for path in [*migrations, ROOT / "web" / "clinic" / "grants.py", lock]:
        whole.update(path.read_bytes())
    return whole.hexdigest()


def _secret_key() -> str:
    path = RUN / "secret-key"
    if not path.exists():
        path.parent.mkdir(exist_ok=True)
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(48))
    return path.read_text().strip()


def _free(port: int) -> bool:
    with socket.socket() as probe:
        return probe.connect_ex(("127.0.0.1", port)) != 0
