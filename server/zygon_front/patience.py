"""How long the front door waits for a request's head: a connection that sends half of one, or nothing, is closed and costs nobody else anything."""

from __future__ import annotations

import asyncio
from typing import Any

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

__all__ = ["HEAD_SECONDS", "Patient"]

#: From a connection's beginning, or the first byte of its next request, to the end of the head.
HEAD_SECONDS = 10.0


class Patient(H11Protocol):
    """HTTP/1.1 as uvicorn speaks it, with an end to waiting for heads."""

    _waiting: asyncio.TimerHandle | None = None

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self._wait()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.conn.their_state is not h11.IDLE:
            self._heard()
        elif self._waiting is None:
            self._wait()

    def connection_lost(self, exc: Exception | None) -> None:
        self._heard()
        super().connection_lost(exc)

    def _wait(self) -> None:
        self._waiting = self.loop.call_later(HEAD_SECONDS, self._give_up)

    def _heard(self) -> None:
        if self._waiting is not None:
            self._waiting.cancel()
            self._waiting = None

    def _give_up(self) -> None:
        self._waiting = None
        if not self.transport.is_closing():
            self.transport.close()
