"""The load of `./reed bench live`: practice sockets in real time against the running server.

Runs inside the environment. Every stream sends the same simulated hold in pieces of 100 ms, each
at its own moment, and notes when the answer to each piece came.
"""

import asyncio
import json
import os
import struct
import sys
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from websockets.asyncio.client import ClientConnection, connect
from websockets.exceptions import ConnectionClosed
from websockets.typing import Origin

from core.simulate.voice import Voice, sing

PIECE = 1_600
PIECE_S = 0.1
RATE_HZ = 16_000
_TICKS_A_SECOND = os.sysconf("SC_CLK_TCK")


@dataclass(slots=True)
class Stream:
    """What came of one stream; times in s."""

    waits_s: list[float] = field(default_factory=list)
    stop_s: float | None = None
    closed: int | None = None


async def play(address: str, start: dict[str, str], pieces: list[bytes], delay_s: float) -> Stream:
    """One practice socket from start to the kept attempt."""
    found = Stream()
    await asyncio.sleep(delay_s)
    try:
        async with connect(
            address.replace("http", "ws", 1) + "/live/", origin=Origin(address), compression=None
        ) as socket:
            offer = {**start, "type": "start", "attempt_id": str(uuid.uuid4()), "rate_hz": RATE_HZ}
            await socket.send(json.dumps(offer))
            await socket.recv()
            sent: list[float] = []
            reading = asyncio.create_task(_read(socket, sent, found, len(pieces)))
            began = time.perf_counter()
            for number, piece in enumerate(pieces):
                wait = began + number * PIECE_S - time.perf_counter()
                if wait > 0:
                    await asyncio.sleep(wait)
                sent.append(time.perf_counter())
                await socket.send(struct.pack("<I", number) + piece)
            await reading
            stopped = time.perf_counter()
            await socket.send(json.dumps({"type": "stop", "samples": len(pieces) * PIECE}))
            json.loads(await socket.recv())
            found.stop_s = time.perf_counter() - stopped
    except ConnectionClosed as closed:
        found.closed = closed.rcvd.code if closed.rcvd else 1006
    return found


async def _read(socket: ClientConnection, sent: list[float], found: Stream, count: int) -> None:
    for number in range(count):
        await socket.recv()
        found.waits_s.append(time.perf_counter() - sent[number])


async def load(told: dict) -> list[Stream]:
    """All streams, their starts spread evenly over `spread_s`."""
    sung = sing(Voice(f0_hz=196.0, seconds=told["seconds"] - 1.4))
    whole = np.round(sung.samples * 32767).astype("<i2")
    pieces = [whole[at : at + PIECE].tobytes() for at in range(0, len(whole) - PIECE + 1, PIECE)]
    starts = told["starts"]
    return await asyncio.gather(
        *(
            play(told["address"], start, pieces, told["spread_s"] * number / len(starts))
            for number, start in enumerate(starts)
        )
    )


def cpu_s(pid: int) -> float:
    """CPU seconds a process has used."""
    fields = Path(f"/proc/{pid}/stat").read_text().rsplit(") ", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / _TICKS_A_SECOND


def peak_mb(pid: int) -> float:
    """Peak resident memory of a process, MB."""
    for line in Path(f"/proc/{pid}/status").read_text().splitlines():
        if line.startswith("VmHWM"):
            return int(line.split()[1]) / 1024
    return 0.0


def main(told: dict) -> int:
    """Run the load and print one table."""
    before, began = cpu_s(told["server_pid"]), time.perf_counter()
    own = time.process_time()
    streams = asyncio.run(load(told))
    took = time.perf_counter() - began
    own = time.process_time() - own
    used = cpu_s(told["server_pid"]) - before
    waits = np.array([wait for stream in streams for wait in stream.waits_s]) * 1000
    stops = np.array([s.stop_s for s in streams if s.stop_s is not None]) * 1000
    refused = [s.closed for s in streams if s.closed is not None]
    sound_s = len(waits) * PIECE_S
    print(
        "| streams | refused | answer p50, ms | p95 | p99 | worst | stop p95, ms "
        "| server CPU s per s and stream | server cores | generator cores | server MB |"
    )
    print("|---" * 11 + "|")
    p50, p95, p99 = np.percentile(waits, [50, 95, 99])
    print(
        f"| {len(streams)} | {len(refused)} {sorted(set(refused)) or ''} | {p50:.0f} | {p95:.0f} "
        f"| {p99:.0f} | {waits.max():.0f} | {np.percentile(stops, 95):.0f} | {used / sound_s:.4f} "
        f"| {used / took:.2f} | {own / took:.2f} | {peak_mb(told['server_pid']):.0f} |"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main(json.loads(Path(sys.argv[1]).read_text())))
