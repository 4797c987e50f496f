"""The doors that are no pages: the socket, the commands with their files."""

import asyncio
import contextlib
import io
import json
import random
import struct
import tempfile
from pathlib import Path
from typing import Any

from asgiref.testing import ApplicationCommunicator

from lab.fuzz import odd
from lab.fuzz.doors import FuzzAnswer, FuzzWorld
from ops.terminal import decide, measure, propose

_ANSWERED_WITHIN_S = 10.0
_EXAMPLES = Path(__file__).parents[2] / "docs" / "examples"


def a_socket(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    """A few frames, some odd; closed with a code or answered, never broken."""
    from web.config.asgi import application

    bundle = world.bundle
    step = rng.choice(bundle.get("steps") or [{"step_id": "x"}])
    start = {
        "type": "start",
        "ticket": bundle.get("ticket", ""),
        "attempt_id": f"{rng.getrandbits(128):032x}",
        "step_id": step["step_id"],
        "place": 0,
        "repetition": 1,
        "input": "microphone",
        "device": {"label": "phone"},
        "elapsed_ms": 1,
        "rate_hz": 16000,
    }
    frames: list[dict[str, Any]] = []
    first = odd.body(rng, start) if rng.random() < 0.6 else json.dumps(start).encode()
    frames.append({"text": first.decode("utf-8", "replace")})
    for number in range(rng.randint(0, 3)):
        sound = struct.pack("<I", number) + bytes(3200)
        frames.append({"bytes": odd.file(rng, sound) if rng.random() < 0.5 else sound})
    stop = {"type": "stop", "samples": 1600 * (len(frames) - 1)}
    last = odd.body(rng, stop) if rng.random() < 0.6 else json.dumps(stop).encode()
    frames.append({"text": last.decode("utf-8", "replace")})
    status = asyncio.run(_talked(application, frames))
    return FuzzAnswer("socket", f"{first[:140]!r} then {last[:60]!r}", status, kept=True)


async def _talked(application: Any, frames: list[dict[str, Any]]) -> int:
    scope = {
        "type": "websocket",
        "path": "/live/",
        "headers": [],
        "query_string": b"",
        "subprotocols": [],
        "client": ["127.0.0.1", 1],
        "server": ["127.0.0.1", 80],
        "scheme": "ws",
    }
    talk = ApplicationCommunicator(application, scope)
    await talk.send_input({"type": "websocket.connect"})
    for frame in frames:
        await talk.send_input({"type": "websocket.receive", **frame})
    await talk.send_input({"type": "websocket.disconnect", "code": 1001})
    await talk.wait(timeout=_ANSWERED_WITHIN_S)
    while not talk.output_queue.empty():
        said = await talk.output_queue.get()
        if said["type"] == "websocket.close" and said.get("code") in (1011, 4503):
            return 500
    return 200


def a_command(world: FuzzWorld, rng: random.Random) -> FuzzAnswer:
    """A command with a file that is wrong: words and an exit code, no traceback."""
    good = sorted(_EXAMPLES.glob("*.json"))
    source = rng.choice(good)
    data = source.read_bytes()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "file"
        command, arguments = rng.choice(
            (
                (
                    measure.main,
                    [
                        str(path),
                        "--task",
                        rng.choice(("hold", "level", "pattern", "x", "near")),
                        "--target",
                        odd.text(rng)[:200],
                    ],
                ),
                (measure.main, [str(path), "--task", "hold", f"--a4={odd.text(rng)[:200]}"]),
                (measure.main, ["--jobs", str(path)]),
                (decide.main, [str(path)]),
                (propose.main, [str(path)]),
                (propose.main, [str(path), "--json"]),
            )
        )
        if command is measure.main and "--jobs" not in arguments:
            path.write_bytes(odd.file(rng, world.wav) if rng.random() < 0.6 else world.wav)
        elif rng.random() < 0.5:
            path.write_bytes(odd.body(rng, json.loads(data)))
        else:
            path.write_bytes(odd.file(rng, data))
        status, silent = 200, io.StringIO()
        with contextlib.redirect_stdout(silent), contextlib.redirect_stderr(silent):
            try:
                command([one.replace("\x00", "") for one in arguments])
            except SystemExit:
                status = 200
        asked = f"{command.__module__} {[one[:60] for one in arguments[1:]]} of {source.name}"
    return FuzzAnswer("command", asked, status, kept=False)
