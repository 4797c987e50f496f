"""What lies between the browser and the server, and can fail: cut, half-open, slow, replies lost, uploads
doubled or held back. Real TCP on loopback, in a thread of its own."""

import asyncio
import contextlib
import re
import threading
from dataclasses import dataclass

_LENGTH = re.compile(rb"\r\ncontent-length: *(\d+)", re.IGNORECASE)
_UPLOAD = re.compile(rb"^PUT /(?:attempts|entries)/")
_PIECE = 65_536


@dataclass(slots=True)
class Ails:
    """What ails the wire now. slow_s: before each piece; lost, doubled, held_back: so many of the next uploads."""

    cut: bool = False
    frozen: bool = False
    slow_s: float = 0.0
    lost: int = 0
    doubled: int = 0
    held_back: int = 0


class Wire:
    """Listens on one port of loopback and passes everything on to another."""

    def __init__(self, port: int, server_port: int) -> None:
        self.ails = Ails()
        self._port, self._server_port = port, server_port
        self._loop = asyncio.new_event_loop()
        self._open: set[asyncio.StreamWriter] = set()
        self._frozen: set[int] = set()
        ready = threading.Event()
        self._thread = threading.Thread(target=self._run, args=(ready,), daemon=True)
        self._thread.start()
        ready.wait(10)

    def cut(self) -> None:
        """Everything open breaks; nothing new is taken until `heal`."""
        self.ails.cut = True
        self._loop.call_soon_threadsafe(self._break)

    def freeze(self) -> None:
        """What is open stays open and says nothing more; new connections work."""
        self._loop.call_soon_threadsafe(lambda: self._frozen.update(id(w) for w in self._open))

    def heal(self) -> None:
        """Nothing ails it any more; what was frozen breaks at last."""
        self.ails = Ails()
        self._loop.call_soon_threadsafe(self._thaw)

    def close(self) -> None:
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join(5)

    def _run(self, ready: threading.Event) -> None:
        asyncio.set_event_loop(self._loop)
        self._loop.run_until_complete(
            asyncio.start_server(self._taken, "127.0.0.1", self._port, limit=2**20)
        )
        ready.set()
        self._loop.run_forever()

    def _break(self) -> None:
        for writer in self._open:
            writer.transport.abort()

    def _thaw(self) -> None:
        for writer in self._open:
            if id(writer) in self._frozen:
                writer.transport.abort()
        self._frozen.clear()

    async def _taken(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        if self.ails.cut:
            writer.transport.abort()
            return
        self._open.add(writer)
        try:
            await self._serve(reader, writer)
        except (OSError, asyncio.IncompleteReadError, asyncio.LimitOverrunError):
            pass
        finally:
            self._open.discard(writer)
            self._frozen.discard(id(writer))
            writer.transport.abort()

    async def _serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        while True:
            head = await reader.readuntil(b"\r\n\r\n")
            if b"upgrade: websocket" in head.lower():
                await self._pipe(head, reader, writer)
                return
            found = _LENGTH.search(head)
            request = head + await reader.readexactly(int(found[1]) if found else 0)
            reply = await self._answered(request)
            await self._told(writer, reply)

    async def _answered(self, request: bytes) -> bytes:
        """The server's whole reply to one request; connections to the server are not kept."""
        upload = bool(_UPLOAD.match(request))
        if upload and self.ails.held_back:
            self.ails.held_back -= 1
            await asyncio.sleep(1.5)
        if upload and self.ails.doubled:
            self.ails.doubled -= 1
            await asyncio.gather(self._ask(request), self._ask(request))
        reply = await self._ask(request)
        if upload and self.ails.lost:
            self.ails.lost -= 1
            raise ConnectionResetError("the reply is lost")
        return reply

    async def _ask(self, request: bytes) -> bytes:
        reader, writer = await asyncio.open_connection("127.0.0.1", self._server_port)
        try:
            head, rest = request.split(b"\r\n", 1)
            writer.write(head + b"\r\nConnection: close\r\n" + _without_connection(rest))
            await writer.drain()
            return await reader.read(-1)
        finally:
            writer.close()

    async def _told(self, writer: asyncio.StreamWriter, reply: bytes) -> None:
        while id(writer) in self._frozen:
            await asyncio.sleep(0.1)
        if self.ails.slow_s:
            await asyncio.sleep(self.ails.slow_s)
        writer.write(reply)
        await writer.drain()
        if b"\r\nconnection: close" in reply.split(b"\r\n\r\n", 1)[0].lower():
            raise ConnectionResetError("one reply a connection")

    async def _pipe(
        self, head: bytes, reader: asyncio.StreamReader, writer: asyncio.StreamWriter
    ) -> None:
        there, back = await asyncio.open_connection("127.0.0.1", self._server_port)
        back.write(head)
        ways = [self._pass(reader, back, writer), self._pass(there, writer, writer)]
        running = [asyncio.create_task(way) for way in ways]
        await asyncio.wait(running, return_when=asyncio.FIRST_COMPLETED)
        for task in running:
            task.cancel()
            with contextlib.suppress(asyncio.CancelledError, OSError):
                await task
        back.transport.abort()

    async def _pass(
        self, reader: asyncio.StreamReader, to: asyncio.StreamWriter, whose: asyncio.StreamWriter
    ) -> None:
        while piece := await reader.read(_PIECE):
            if self.ails.slow_s:
                await asyncio.sleep(self.ails.slow_s)
            while id(whose) in self._frozen:
                await asyncio.sleep(0.1)
            to.write(piece)
            await to.drain()


def _without_connection(head_and_body: bytes) -> bytes:
    head, body = head_and_body.split(b"\r\n\r\n", 1)
    lines = [one for one in head.split(b"\r\n") if not one.lower().startswith(b"connection:")]
    return b"\r\n".join(lines) + b"\r\n\r\n" + body
