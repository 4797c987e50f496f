"""Debian's haproxy before several servers: least connections, asked for their health, what is away tried elsewhere."""

import shutil
import subprocess
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from ops.phases import ROOT, RUN, PhaseFailed

AWAY = """HTTP/1.1 {status}\r
Content-Type: text/html; charset=utf-8\r
Cache-Control: no-store\r
Retry-After: 3\r
Connection: close\r
\r
<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<style>body{{font:18px/1.5 sans-serif;max-width:40em;margin:2em auto;padding:0 1.2em;
color:#17312c;background:#f6f3ea}}</style>
<title>Still Reed is away for a moment</title>
<h1>Away for a moment</h1>
<p>Still Reed cannot be reached just now. What is on a page is kept there and sent by itself.
Try again in a few seconds.</p>
<p>If you had to stop, or breathing is hard, do not wait for this page: call your clinic, or the emergency number.</p>
<p><small>Still Reed supports, and does not replace, care by a licensed clinician. Local law and the clinic's policy
come first.</small></p></html>
"""
_STATUSES = {
    "502": "502 Bad Gateway",
    "503": "503 Service Unavailable",
    "504": "504 Gateway Timeout",
}
CONFIGURATION = """global
    maxconn 8000
    # an upload up to so many bytes can be sent again to another server; a larger one the page sends again
    tune.bufsize 131072

defaults
    mode http
    timeout connect 2s
    timeout check 2s
    timeout client 60s
    timeout http-request 60s
    timeout server 120s
    timeout tunnel 1h

frontend site
    bind {bind}
    # what a browser says of its own address is not believed
    http-request set-header X-Forwarded-For %[src]
    http-request set-header X-Forwarded-Proto {scheme}
    default_backend servers

backend servers
    balance leastconn
    option http-buffer-request
    retries 3
    option redispatch 1
    # what went out once and got no answer is sent again only where a repeat is harmless: reading, and PUT by its id
    retry-on conn-failure empty-response
    http-request disable-l7-retry if METH_POST
    option httpchk
    http-check send meth GET uri /healthz ver HTTP/1.1 hdr Host localhost hdr X-Forwarded-Proto https
    http-check expect status 200
    default-server check inter 500ms fall 3 rise 1
{errorfiles}
{servers}
"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Balancer:
    """What stands at `host`:`port` before servers on these loopback ports; certificate and key: where it ends TLS."""

    host: str
    port: int
    servers: Sequence[int]
    cert: Path | None = None
    key: Path | None = None

    @property
    def folder(self) -> Path:
        return RUN / f"balancer-{self.port}"

    def start(self) -> subprocess.Popen[bytes]:
        """Write its configuration and start it; PhaseFailed where it refuses that."""
        program = shutil.which("haproxy") or "/usr/sbin/haproxy"
        self.folder.mkdir(parents=True, exist_ok=True)
        self.folder.chmod(0o700)
        configuration = self.folder / "haproxy.cfg"
        configuration.write_text(self.configuration())
        checked = subprocess.run(
            [program, "-c", "-q", "-f", str(configuration)],
            capture_output=True,
            text=True,
            check=False,
        )
        if checked.returncode:
            raise PhaseFailed(f"haproxy refuses {configuration}.\n{checked.stderr[-800:]}")
        return subprocess.Popen(
            [program, "-db", "-f", str(configuration)],
            cwd=ROOT,
            start_new_session=True,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )

    def configuration(self) -> str:
        bind = f"{self.host}:{self.port}"
        if self.cert and self.key:
            both = self.folder / "site.pem"
            both.touch(mode=0o600)
            both.write_text(self.cert.read_text() + self.key.read_text())
            bind += f" ssl crt {both} alpn http/1.1"
        files = []
        for status, line in _STATUSES.items():
            file = self.folder / f"{status}.http"
            file.write_text(AWAY.format(status=line), newline="")
            files.append(f"    errorfile {status} {file}")
        return CONFIGURATION.format(
            bind=bind,
            scheme="https" if self.cert else "http",
            errorfiles="\n".join(files),
            servers="\n".join(
                f"    server s{number} 127.0.0.1:{port}"
                for number, port in enumerate(self.servers, 1)
            ),
        )
