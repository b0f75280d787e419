"""The application of the front door (ASGI): bodies are taken in with limits of size and time, and handed on with the request over a socket of the process it is for.

A design is always worked on by the same process, where what was built of it is remembered; all else goes by the session.
"""

from __future__ import annotations

import asyncio
import json
import logging
import re
import secrets
import time
from collections.abc import AsyncIterator, Awaitable, Callable, MutableMapping
from tempfile import SpooledTemporaryFile
from typing import Any
from zlib import crc32

import httpx

from zygon_front.metrics import Metrics

__all__ = ["BODY_SECONDS", "MOST_BODY", "Door"]

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]

#: An upload of the largest file, and what a form says round it.
MOST_BODY = 13_000_000
#: From a request's head to the end of its body, and from one piece of it to the next.
BODY_SECONDS, PIECE_SECONDS = 60.0, 10.0
#: Bodies that are longer wait on disk.
IN_MEMORY = 256_000
#: A process that is down is being started again: so long a request waits for it.
START_SECONDS = 15.0
#: The dearest answer, with room.
ANSWER_SECONDS = 120.0
#: Requests that a process has at once; more wait here.
AT_ONCE = 16
#: Said between two hops only.
HOPS = {b"connection", b"keep-alive", b"proxy-authenticate", b"proxy-authorization", b"te", b"trailer", b"transfer-encoding", b"upgrade"}
_DESIGN = re.compile(rb"^/api/(?:designs|batches)/([0-9a-fA-F-]{32,36})(?:/|$)")
_SESSION = re.compile(rb"(?:^|;\s*)sessionid=([^;]+)")

log = logging.getLogger("zygon.front")


class Refusal(Exception):
    """A request that is not handed on: status, code and sentence."""

    def __init__(self, status: int, code: str, message: str) -> None:
        super().__init__(message)
        self.status, self.code, self.message = status, code, message


class Gone(Exception):
    """Whoever asked has hung up."""


class Door:
    """``sockets`` are those of the processes behind. ``behind_proxy`` where another proxy stands before, whose word on the client's address is taken."""

    def __init__(self, sockets: list[str], *, behind_proxy: bool = False) -> None:
        self.sockets = sockets
        self.behind_proxy = behind_proxy
        self.metrics = Metrics()
        self.clients = [
            httpx.AsyncClient(
                transport=httpx.AsyncHTTPTransport(
                    uds=path, limits=httpx.Limits(max_connections=AT_ONCE, max_keepalive_connections=AT_ONCE)
                ),
                timeout=httpx.Timeout(ANSWER_SECONDS, connect=5.0),
                base_url="http://core",
                trust_env=False,
            )
            for path in sockets
        ]

    async def __call__(self, scope: MutableMapping[str, Any], receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await self._lifespan(receive, send)
            return
        if scope["type"] != "http":
            return
        began, name = time.monotonic(), secrets.token_hex(8)
        status = 0
        self.metrics.open += 1

        async def told(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
            await send(message)

        try:
            await self._answer(scope, receive, told, name)
        except Refusal as refused:
            if not status:
                await _say(told, refused.status, {"code": refused.code, "message": refused.message, "request": name})
        except Gone:
            status = status or 499
        finally:
            self.metrics.open -= 1
            taken = time.monotonic() - began
            self.metrics.count(scope["method"], status, taken)
            level = logging.ERROR if status >= 500 else logging.WARNING if status == 499 or taken > 2 else logging.INFO
            log.log(
                level,
                "%s %s",
                scope["method"],
                scope["path"],
                extra={"request": name, "status": status, "ms": round(1000 * taken), "slow": taken > 2},
            )

    async def _lifespan(self, receive: Receive, send: Send) -> None:
        while True:
            message = await receive()
            if message["type"] == "lifespan.shutdown":
                for client in self.clients:
                    await client.aclose()
                await send({"type": "lifespan.shutdown.complete"})
                return
            await send({"type": "lifespan.startup.complete"})

    async def _answer(self, scope: MutableMapping[str, Any], receive: Receive, send: Send, name: str) -> None:
        if scope["raw_path"] == b"/metrics":
            await self._measured(scope, send, name)
            return
        with SpooledTemporaryFile(max_size=IN_MEMORY) as body:
            length = await self._take_in(scope, receive, body)
            headers = self._headers(scope, length, name)
            answered = asyncio.Event()

            async def told(message: Message) -> None:
                if message["type"] == "http.response.body" and not message.get("more_body"):
                    answered.set()
                await send(message)

            gone = asyncio.ensure_future(_hung_up(receive))
            handed = asyncio.ensure_future(self._hand_on(scope, headers, body, told))
            try:
                await asyncio.wait({gone, handed}, return_when=asyncio.FIRST_COMPLETED)
                # an answer that went out whole ends the request too: only one that did not was hung up on
                if not handed.done() and not answered.is_set():
                    raise Gone
                await handed
            finally:
                gone.cancel()
                if not answered.is_set():
                    handed.cancel()
                await asyncio.gather(gone, handed, return_exceptions=True)

    async def _measured(self, scope: MutableMapping[str, Any], send: Send, name: str) -> None:
        """What the database knows and what came through this door; whether it may be told is for the application to say."""
        try:
            answer = await self.clients[0].get("/metrics", headers=self._headers(scope, 0, name))
        except httpx.TransportError:
            raise Refusal(503, "starting", "Zygon is being started again; try again in a moment.") from None
        if answer.status_code == 200:
            await _say(send, 200, answer.text + self.metrics.text())
        else:
            await _say(send, answer.status_code, answer.json())

    async def _take_in(self, scope: MutableMapping[str, Any], receive: Receive, body: SpooledTemporaryFile) -> int:
        """The body's length, once it is here whole."""
        said = dict(scope["headers"]).get(b"content-length", b"0")
        too_large = Refusal(413, "too_large", f"This is more than {MOST_BODY // 1_000_000} MB, which is the most that is taken at once.")
        if not said.isdigit() or len(said) > 12 or int(said) > MOST_BODY:
            raise too_large
        length, until = 0, time.monotonic() + BODY_SECONDS
        more = True
        while more:
            left = min(PIECE_SECONDS, until - time.monotonic())
            try:
                message = await asyncio.wait_for(receive(), max(left, 0.0))
            except TimeoutError:
                raise Refusal(408, "too_slow", "The request did not come through in time; try again.") from None
            if message["type"] == "http.disconnect":
                raise Gone
            piece = message.get("body", b"")
            length += len(piece)
            if length > MOST_BODY:
                raise too_large
            body.write(piece)
            more = message.get("more_body", False)
        return length

    def _headers(self, scope: MutableMapping[str, Any], length: int, name: str) -> list[tuple[bytes, bytes]]:
        kept = [(k, v) for k, v in scope["headers"] if k not in HOPS and k not in (b"content-length", b"x-request-id", b"expect")]
        if not self.behind_proxy:
            kept = [(k, v) for k, v in kept if not k.startswith(b"x-forwarded-") and k != b"forwarded"]
            kept.append((b"x-forwarded-for", (scope.get("client") or ("", 0))[0].encode("latin-1")))
        if length or scope["method"] in ("POST", "PUT", "PATCH"):
            kept.append((b"content-length", str(length).encode()))
        return [*kept, (b"x-request-id", name.encode())]

    def number(self, scope: MutableMapping[str, Any]) -> int:
        """Which process a request is for."""
        path = scope["raw_path"]
        if found := _DESIGN.match(path):
            key = found[1].replace(b"-", b"").lower()
        else:
            cookie = b";".join(v for k, v in scope["headers"] if k == b"cookie")
            key = found[1] if (found := _SESSION.search(cookie)) else path
        return crc32(key) % len(self.clients)

    async def _hand_on(
        self, scope: MutableMapping[str, Any], headers: list[tuple[bytes, bytes]], body: SpooledTemporaryFile, send: Send
    ) -> None:
        client = self.clients[self.number(scope)]
        target = scope["raw_path"] + (b"?" + scope["query_string"] if scope["query_string"] else b"")
        url = client.base_url.copy_with(raw_path=target)
        until = time.monotonic() + START_SECONDS
        while True:
            body.seek(0)
            asked = httpx.Request(scope["method"], url, headers=headers, content=_pieces(body))
            try:
                answer = await client.send(asked, stream=True)
                break
            except httpx.ConnectError:
                # it has not seen the request yet, so it may be handed on again
                if time.monotonic() > until:
                    raise Refusal(
                        503, "starting", "Zygon is being started again; try again in a moment. Nothing that was saved is lost."
                    ) from None
                await asyncio.sleep(0.2)
            except httpx.TimeoutException:
                raise Refusal(504, "too_slow", f"This took longer than {ANSWER_SECONDS:g} s.") from None
            except httpx.TransportError:
                if scope["method"] in ("GET", "HEAD") and time.monotonic() < until:
                    await asyncio.sleep(0.2)
                    continue
                raise Refusal(
                    502,
                    "interrupted",
                    "The process that worked on this went down and is being started again. Nothing that was saved is lost; try again.",
                ) from None
        try:
            kept = [(k.lower(), v) for k, v in answer.headers.raw if k.lower() not in HOPS]
            await send({"type": "http.response.start", "status": answer.status_code, "headers": kept})
            async for piece in answer.aiter_raw():
                await send({"type": "http.response.body", "body": piece, "more_body": True})
            await send({"type": "http.response.body", "body": b""})
        finally:
            await answer.aclose()


async def _pieces(body: SpooledTemporaryFile) -> AsyncIterator[bytes]:
    while piece := body.read(64_000):
        yield piece


async def _hung_up(receive: Receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass


async def _say(send: Send, status: int, what: dict[str, Any] | str) -> None:
    body = what.encode() if isinstance(what, str) else json.dumps(what).encode()
    kind = b"text/plain; version=0.0.4" if isinstance(what, str) else b"application/json"
    headers = [(b"content-type", kind), (b"content-length", str(len(body)).encode()), (b"cache-control", b"no-store")]
    if status in (408, 413):
        headers.append((b"connection", b"close"))  # what of the body is still to come is not waited for
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
