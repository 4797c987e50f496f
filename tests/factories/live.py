"""What `tests/web/test_live.py` and others make and look at."""

import json
import struct
import uuid

import numpy as np
from asgiref.testing import ApplicationCommunicator

from web.config.asgi import application


class Wire:
    """One connection driven frame by frame."""

    def __init__(self, origin="http://testserver"):
        self.raw = ApplicationCommunicator(
            application,
            {
                "type": "websocket",
                "path": "/live/",
                "headers": [(b"origin", origin.encode()), (b"host", b"testserver")],
            },
        )

    async def connect(self):
        await self.raw.send_input({"type": "websocket.connect"})
        return (await self.raw.receive_output(timeout=5))["type"] == "websocket.accept"

    async def __aenter__(self):
        assert await self.connect()
        return self

    async def __aexit__(self, *_):
        await self.raw.send_input({"type": "websocket.disconnect", "code": 1000})
        await self.raw.wait(timeout=5)

    async def frame(self, **data):
        await self.raw.send_input({"type": "websocket.receive", **data})

    async def say(self, **data):
        await self.frame(text=json.dumps(data))

    async def piece(self, number, samples):
        pcm = np.round(samples * 32767).astype("<i2").tobytes()
        await self.frame(bytes=struct.pack("<I", number) + pcm)

    async def hear(self):
        event = await self.raw.receive_output(timeout=5)
        if event["type"] == "websocket.close":
            return {"type": "closed", "code": event["code"]}
        return json.loads(event["text"])


def start_of(home, version, **changes):
    _session, ticket = home
    return {
        "type": "start",
        "ticket": ticket.signed(),
        "attempt_id": str(uuid.uuid4()),
        "step_id": version.content["routines"][0]["steps"][3]["step_id"],
        "place": 0,
        "rate_hz": 16_000,
    } | changes


async def sing_into(wire, samples, *, lose=None):
    states = []
    for number, at in enumerate(range(0, len(samples), 800)):
        if number == lose:
            continue
        await wire.piece(number, samples[at : at + 800])
        if lose is None or number < lose:
            states.append(await wire.hear())
    return states
