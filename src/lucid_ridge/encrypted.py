"""Serving with a certificate of one's own and no proxy before it: requests are taken in whole before anything is done for them, so that who sends slowly holds nobody up."""

from __future__ import annotations

import asyncio
from collections.abc import Awaitable, Callable, Iterable, Iterator
from pathlib import Path
from typing import Any, TypeAlias

from apiflask import APIFlask
from asgiref.sync import ThreadSensitiveContext
from asgiref.wsgi import WsgiToAsgi
from hypercorn.asyncio import serve
from hypercorn.config import Config

Message: TypeAlias = dict[str, Any]
Receive: TypeAlias = Callable[[], Awaitable[Message]]
Send: TypeAlias = Callable[[Message], Awaitable[None]]
# So many requests are worked on at once; others wait.
AT_ONCE = 12
# So long a client may stay silent within a request, and between two [s].
_SILENT_S, _IDLE_S = 30, 60


class GoneAway(Exception):
    """A client left before its request was whole, or sent more than any address takes."""


class WholeRequests:
    """An application of WSGI for a server of ASGI. Bodies are set aside, on the disk where they are long, until they are whole.

    largest_body_bytes: of any request; a longer one is answered with 413 unread.
    """

    def __init__(self, app: Callable[..., Iterable[bytes]], largest_body_bytes: int) -> None:
        self._app = WsgiToAsgi(_closing(app))
        self._largest = largest_body_bytes
        self._room = asyncio.Semaphore(AT_ONCE)

    async def __call__(self, scope: Any, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await _live(receive, send)
        elif scope["type"] == "http":
            await self._answer(scope, receive, send)

    async def _answer(self, scope: Any, receive: Receive, send: Send) -> None:
        taken, held = 0, False

        async def take() -> Message:
            nonlocal taken, held
            message = await receive()
            if message["type"] != "http.request":
                raise GoneAway
            taken += len(message.get("body", b""))
            if taken > self._largest:
                await send(
                    {"type": "http.response.start", "status": 413, "headers": [(b"content-length", b"0"), (b"connection", b"close")]}
                )
                await send({"type": "http.response.body", "body": b""})
                raise GoneAway
            if not message.get("more_body"):
                # Only now it takes room from others.
                await self._room.acquire()
                held = True
            return message

        try:
            async with ThreadSensitiveContext():
                await self._app(scope, take, send)
        except GoneAway:
            return
        finally:
            if held:
                self._room.release()


def _closing(app: Callable[..., Iterable[bytes]]) -> Callable[..., Iterator[bytes]]:
    """Return an application whose answers are closed when they are told, as WSGI asks."""

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


def serve_encrypted(app: APIFlask, address: str, port: int, certificate: Path, private_key: Path, largest_body_bytes: int) -> None:
    """Serve at an address of the network, in one process, until it is told to end."""
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
