"""The server as docs/running.md says to start it: what it writes holds nothing that lets somebody in."""

import os
import re
import shlex
import subprocess
import time
import urllib.error
import urllib.request
import uuid

import pytest

from ops.phases import ROOT
from ops.postgres import free_port

LINK = str(uuid.uuid4())
SECRETS = (LINK, "an-invitation-of-ours", "9-a-reset-key")
ADDRESSES = (
    f"/c/{LINK}/",
    "/invitation/an-invitation-of-ours/",
    "/accounts/password/reset/key/9-a-reset-key/",
)


def documented():
    """The command line of the guide, its settings as environment."""
    guide = (ROOT / "docs" / "running.md").read_text(encoding="utf-8")
    (line,) = re.findall(r"^(DJANGO_SETTINGS_MODULE=\S+ uvicorn .+)$", guide, re.M)
    first, *command = shlex.split(line)
    name, _, value = first.partition("=")
    return {name: value}, command


def asked(address):
    request = urllib.request.Request(address, headers={"X-Forwarded-Proto": "https"})
    try:
        with urllib.request.urlopen(request, timeout=20) as answer:
            return answer.status
    except urllib.error.HTTPError as error:
        return error.code
    except urllib.error.URLError:
        return None


@pytest.mark.parametrize("without", [None, "--no-access-log"])
def test_no_private_address_is_written_by_the_documented_server(tmp_path, without):
    environment, command = documented()
    if without is not None:  # somebody forgets the option: the settings turn it off all the same
        command.remove(without)
    port = free_port()
    command[command.index("--port") + 1] = str(port)
    command[0] = str(ROOT / ".venv" / "bin" / command[0])
    environment = {**os.environ, **environment, "REED_ALLOWED_HOSTS": "127.0.0.1"}
    output = tmp_path / "output.txt"
    with output.open("wb") as out:
        server = subprocess.Popen(
            command, cwd=ROOT, env=environment, stdout=out, stderr=subprocess.STDOUT
        )
    try:
        until = time.monotonic() + 60
        while asked(f"http://127.0.0.1:{port}/healthz") is None:
            assert server.poll() is None, output.read_text()
            assert time.monotonic() < until, output.read_text()
        answers = [asked(f"http://127.0.0.1:{port}{address}") for address in ADDRESSES]
    finally:
        server.terminate()
        server.wait(timeout=30)
    assert all(answers)
    written = output.read_text(encoding="utf-8")
    for secret in SECRETS:
        assert secret not in written
