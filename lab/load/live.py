"""The load of `./reed bench live`: practice sockets in real time against the running server.

Runs inside the environment. Every stream sends the same simulated hold in pieces of 100 ms, each
at its own moment, and notes when the answer to each piece came.
"""

import asyncio
import io
import json
import os
import struct
import sys
import time
import urllib.error
import urllib.request
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from urllib.parse import quote

import numpy as np
import soundfile
from websockets.asyncio.client import ClientConnection, connect
from websockets.exceptions import ConnectionClosed
from websockets.typing import Origin

from lab.simulate.voice import Voice, sing

PIECE = 1_600
PIECE_S = 0.1
RATE_HZ = 16_000
_TICKS_A_SECOND = os.sysconf("SC_CLK_TCK")


@dataclass(slots=True)
class Stream:
    """What came of one stream's attempts, one after the other; times in s."""

    waits_s: list[float] = field(default_factory=list)
    stops_s: list[float] = field(default_factory=list)
    closed: list[int] = field(default_factory=list)
    sent_whole: list[int] = field(default_factory=list)
    """What the door of whole attempts answered to those that were refused live."""


async def play(
    address: str, start: dict[str, str], pieces: list[bytes], delay_s: float, *, attempts: int
) -> Stream:
    """One client: so many attempts, each from start to kept; what is refused live is sent whole."""
    found = Stream()
    await asyncio.sleep(delay_s)
    for _ in range(attempts):
        offer = {**start, "attempt_id": str(uuid.uuid4())}
        try:
            await _live(address, offer, pieces, found)
        except ConnectionClosed as closed:
            found.closed.append(closed.rcvd.code if closed.rcvd else 1006)
            status = await asyncio.to_thread(send_whole, address, offer, pieces)
            found.sent_whole.append(status)
    return found


async def _live(address: str, offer: dict[str, str], pieces: list[bytes], found: Stream) -> None:
    async with connect(
        address.replace("http", "ws", 1) + "/live/", origin=Origin(address), compression=None
    ) as socket:
        await socket.send(json.dumps({**offer, "type": "start", "rate_hz": RATE_HZ}))
        await socket.recv()
        sent: list[float] = []
        reading = asyncio.create_task(_read(socket, sent, found, len(pieces)))
        began = time.perf_counter()
        try:
            for number, piece in enumerate(pieces):
                wait = began + number * PIECE_S - time.perf_counter()
                if wait > 0:
                    await asyncio.sleep(wait)
                sent.append(time.perf_counter())
                await socket.send(struct.pack("<I", number) + piece)
        finally:
            await reading
        stopped = time.perf_counter()
        await socket.send(json.dumps({"type": "stop", "samples": len(pieces) * PIECE}))
        json.loads(await socket.recv())
        found.stops_s.append(time.perf_counter() - stopped)


def send_whole(address: str, offer: dict[str, str], pieces: list[bytes]) -> int:
    """What the page does where nobody listens live: the whole recording after the hold; its HTTP status."""
    sound = io.BytesIO()
    soundfile.write(
        sound,
        np.frombuffer(b"".join(pieces), dtype="<i2"),
        RATE_HZ,
        format="WAV",
        subtype="PCM_16",
    )
    said = {name: offer[name] for name in ("attempt_id", "step_id")}
    request = urllib.request.Request(
        f"{address}/attempts/{offer['attempt_id']}/",
        data=sound.getvalue(),
        method="PUT",
        headers={
            "X-Ticket": offer["ticket"],
            "X-Attempt": quote(json.dumps(said)),
            "Content-Type": "audio/wav",
        },
    )
    try:
        with urllib.request.urlopen(request, timeout=120) as answer:
            return int(answer.status)
    except urllib.error.HTTPError as error:
        return error.code


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
            play(
                told["address"],
                start,
                pieces,
                told["spread_s"] * number / len(starts),
                attempts=told["attempts"],
            )
            for number, start in enumerate(starts)
        )
    )


def whole(pid: int) -> list[int]:
    """A process and every process it has begun."""
    found = [pid]
    for task in Path(f"/proc/{pid}/task").iterdir():
        for child in (task / "children").read_text().split():
            found += whole(int(child))
    return found


def cpu_s(pids: list[int]) -> float:
    """CPU seconds that these processes and those they began have used."""
    used = 0
    for one in {one for pid in pids for one in whole(pid)}:
        fields = Path(f"/proc/{one}/stat").read_text().rsplit(") ", 1)[1].split()
        used += int(fields[11]) + int(fields[12])
    return used / _TICKS_A_SECOND


def resident_mb(pids: list[int]) -> float:
    """Resident memory of these processes without those they began, MB."""
    lines = [
        line
        for pid in pids
        for line in Path(f"/proc/{pid}/status").read_text().splitlines()
        if line.startswith("VmRSS")
    ]
    return sum(int(line.split()[1]) for line in lines) / 1024


@dataclass(frozen=True, slots=True)
class Machine:
    """Processor time of the whole machine so far, in ticks: busy, taken by other machines on the same host
    (steal), and all."""

    busy: int
    stolen: int
    all: int

    @classmethod
    def now(cls) -> "Machine":
        user, nice, system, idle, waiting, irq, soft, steal, *_ = map(
            int, Path("/proc/stat").read_text().splitlines()[0].split()[1:]
        )
        busy = user + nice + system + irq + soft
        return cls(busy, steal, busy + idle + waiting + steal)

    def since(self, before: "Machine") -> tuple[float, float]:
        """Shares 0…1 of the time since then: busy, stolen."""
        total = max(self.all - before.all, 1)
        return (self.busy - before.busy) / total, (self.stolen - before.stolen) / total


async def _watched(told: dict, streams: list[Stream]) -> list[float]:
    """Resident memory of the servers, MB, every tenth of the run."""
    found = []
    async with asyncio.TaskGroup() as group:
        loading = group.create_task(load(told))
        every_s = (told["seconds"] * told["attempts"] + told["spread_s"]) / 10
        while not loading.done():
            found.append(resident_mb(told["servers"]))
            await asyncio.wait([loading], timeout=every_s)
    streams += loading.result()
    return found


def main(told: dict) -> int:
    """Run the load and print one table."""
    pids = told["servers"]
    before, began, machine = cpu_s(pids), time.perf_counter(), Machine.now()
    own = time.process_time()
    streams: list[Stream] = []
    memory = asyncio.run(_watched(told, streams))
    took = time.perf_counter() - began
    own = time.process_time() - own
    busy, stolen = Machine.now().since(machine)
    used = cpu_s(pids) - before
    waits = np.array([wait for stream in streams for wait in stream.waits_s]) * 1000
    stops = np.array([stop for stream in streams for stop in stream.stops_s]) * 1000
    refused = [code for stream in streams for code in stream.closed]
    if not len(waits):
        print(f"no stream was answered; refused: {refused}", file=sys.stderr)
        return 1
    afterwards = sum(status == 201 for stream in streams for status in stream.sent_whole)
    table = {
        "processes": len(pids),
        "streams": len(streams),
        "refused": f"{len(refused)} {sorted(set(refused)) or ''}".strip(),
        "of them kept when sent whole": afterwards,
        "answer p50, ms": f"{np.percentile(waits, 50):.0f}",
        "p95": f"{np.percentile(waits, 95):.0f}",
        "p99": f"{np.percentile(waits, 99):.0f}",
        "worst": f"{waits.max():.0f}",
        "stop p95, ms": f"{np.percentile(stops, 95):.0f}",
        "server CPU s per s and stream": f"{used / (len(waits) * PIECE_S):.4f}",
        "server cores": f"{used / took:.2f}",
        "generator cores": f"{own / took:.2f}",
        "machine busy": f"{busy:.0%}",
        "stolen by the host": f"{stolen:.0%}",
        "servers MB, after a third and at the end": f"{memory[len(memory) // 3]:.0f}, {memory[-1]:.0f}",
    }
    print("| " + " | ".join(table) + " |")
    print("|---" * len(table) + "|")
    print("| " + " | ".join(map(str, table.values())) + " |")
    return 0


if __name__ == "__main__":
    sys.exit(main(json.loads(Path(sys.argv[1]).read_text())))
