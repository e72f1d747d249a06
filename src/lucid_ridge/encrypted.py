"""Serving with a certificate and no proxy: requests are received whole before they are handled, so that slow clients
block no one.
"""

from __future__ import annotations

import asyncio
from collections.abc import Awaitable, Callable, Iterable, Iterator
from contextlib import AsyncExitStack
from pathlib import Path
from tempfile import SpooledTemporaryFile
from typing import IO, Any, TypeAlias

from apiflask import APIFlask
from asgiref.sync import ThreadSensitiveContext
from asgiref.wsgi import WsgiToAsgi
from hypercorn.asyncio import serve
from hypercorn.config import Config

Message: TypeAlias = dict[str, Any]
Receive: TypeAlias = Callable[[], Awaitable[Message]]
Send: TypeAlias = Callable[[Message], Awaitable[None]]
# Requests handled at once; others wait.
AT_ONCE = 12
# At most this much of a response is held in memory; it is sent in pieces.
_IN_MEMORY_BYTES, _PIECE_BYTES = 1_000_000, 1 << 16
_TOO_LARGE: Message = {
    "type": "http.response.start",
    "status": 413,
    "headers": [(b"content-length", b"0"), (b"connection", b"close")],
}
# How long a client may stay silent within a request, and between two [s].
_SILENT_S, _IDLE_S = 30, 60


class GoneAway(Exception):
    """A client disconnected before its request was complete, or sends more than any address takes."""


class WholeRequests:
    """Runs a WSGI application on an ASGI server. Requests are buffered until complete, and responses until made, on
    disk if they are long, so that slow clients affect no one else.

    largest_body_bytes: of any request; a longer one gets 413, at once if it declares its length.
    """

    def __init__(self, app: Callable[..., Iterable[bytes]], largest_body_bytes: int) -> None:
        self._app = WsgiToAsgi(_closing(app))
        self._largest = largest_body_bytes
        self._room = asyncio.Semaphore(AT_ONCE)

    async def __call__(self, scope: Any, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await _live(receive, send)
        elif scope["type"] == "http":
            with SpooledTemporaryFile(max_size=_IN_MEMORY_BYTES) as made:
                start = await self._answer(scope, receive, made)
                if start is not None:
                    await send(start)
                    made.seek(0)
                    while piece := made.read(_PIECE_BYTES):
                        await send({"type": "http.response.body", "body": piece, "more_body": True})
                    await send({"type": "http.response.body", "body": b""})

    async def _answer(self, scope: Any, receive: Receive, made: IO[bytes]) -> Message | None:
        """Write a response's content to a file and return its start; None if the client has disconnected."""
        said = dict(scope["headers"]).get(b"content-length", b"")
        if said.isdigit() and int(said) > self._largest:
            return _TOO_LARGE
        taken = 0
        start: Message | None = None

        async def take() -> Message:
            nonlocal taken
            message = await receive()
            if message["type"] != "http.request":
                raise GoneAway
            taken += len(message.get("body", b""))
            if taken > self._largest:
                raise GoneAway
            if not message.get("more_body"):
                # Only now it takes a slot from others.
                await room.enter_async_context(self._room)
            return message

        async def hold(message: Message) -> None:
            nonlocal start
            if message["type"] == "http.response.start":
                start = message
            else:
                made.write(message.get("body", b""))

        try:
            async with AsyncExitStack() as room, ThreadSensitiveContext():
                await self._app(scope, take, hold)
        except GoneAway:
            return _TOO_LARGE if taken > self._largest else None
        return start


def _closing(app: Callable[..., Iterable[bytes]]) -> Callable[..., Iterator[bytes]]:
    """Return an application that closes its responses, as WSGI requires."""

    def run(environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterator[bytes]:
        answer = app(environ, start_response)
        try:
            yield from answer
        finally:
            getattr(answer, "close", lambda: None)()

    return run


async def _live(receive: Receive, send: Send) -> None:
    while True:
        message = await receive()
        await send({"type": f"{message['type']}.complete"})
        if message["type"] == "lifespan.shutdown":
            return


def serve_encrypted(
    app: APIFlask, address: str, port: int, certificate: Path, private_key: Path, largest_body_bytes: int
) -> None:
    """Serve at a network address, in one process, until it is stopped."""
    config = Config()
    config.bind = [f"[{address}]:{port}" if ":" in address else f"{address}:{port}"]
    config.certfile, config.keyfile = str(certificate), str(private_key)
    config.alpn_protocols = ["http/1.1"]
    config.include_server_header = False
    config.read_timeout, config.keep_alive_timeout = _SILENT_S, _IDLE_S
    config.ssl_handshake_timeout = 10
    config.graceful_timeout = 3
    config.accesslog = None
    config.loglevel = "WARNING"

    async def work() -> None:
        whole: Any = WholeRequests(app, largest_body_bytes)
        await serve(whole, config, mode="asgi")

    asyncio.run(work())
