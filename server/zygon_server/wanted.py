"""Middleware: the core's work for a request ends when whoever asked hangs up, or types on, and when it takes too long; what is quick goes before what is not.

The front door closes its socket to this process when a browser hangs up; that is looked for between the pieces of the work (``zygon.patience``).
"""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

from zygon.patience import GivenUp, asked_by

__all__ = ["EDIT_SECONDS", "LOOK_SECONDS", "HungUp", "TooLong", "Wanted", "answer"]

#: So much of a processor's time an edit may take, or what tries one. What an edit may take can be looked at and exported for certain, so that may take longer.
EDIT_SECONDS, LOOK_SECONDS = 20.0, 60.0
#: The socket is looked at so often (s).
OFTEN = 0.02
#: Work that goes on for longer makes room for what is younger, a piece of this many seconds at a time.
QUICK, ROOM = 0.4, 0.01
#: What writes nothing: whoever hung up wants none of it. An edit is finished, since it may have been the last word before a page was closed.
TRIED = ("/preview", "/operations", "/measure", "/figure")


class HungUp(GivenUp):
    """Nobody waits for the answer."""


class TooLong(GivenUp):
    """More of a processor's time than a request has; ``seconds`` of it."""

    def __init__(self, seconds: float) -> None:
        super().__init__(seconds)
        self.seconds = seconds


class Wanted:
    """Watches over the work of every request of the API."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return self.get_response(request)
        reads = request.method in ("GET", "HEAD")
        line = request.META.get("gunicorn.socket") if reads or request.path.endswith(TRIED) else None
        work = _Work(line, LOOK_SECONDS if reads else EDIT_SECONDS)
        with _LOCK:
            _GOING_ON.add(work)
        try:
            with asked_by(work.ask):
                return self.get_response(request)
        finally:
            with _LOCK:
                _GOING_ON.discard(work)


class _Work:
    def __init__(self, line: socket.socket | None, seconds: float) -> None:
        self.line, self.seconds = line, seconds
        self.began = self.looked = time.monotonic()
        self.spent_before = time.thread_time()

    def ask(self) -> None:
        """Raises HungUp or TooLong; makes room for quick work where this is not quick itself."""
        now = time.monotonic()
        if now - self.looked < OFTEN:
            return
        self.looked = now
        if self.line is not None and _closed(self.line):
            raise HungUp
        if time.thread_time() - self.spent_before > self.seconds:
            raise TooLong(self.seconds)
        if now - self.began > QUICK and any(now - other.began < QUICK for other in tuple(_GOING_ON)):
            time.sleep(ROOM)


_GOING_ON: set[_Work] = set()
_LOCK = threading.Lock()


def _closed(line: socket.socket) -> bool:
    """Whether the other end of a socket is closed, without taking anything from it."""
    try:
        return line.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT) == b""
    except BlockingIOError:
        return False
    except OSError:
        return True


def answer(error: GivenUp) -> HttpResponse:
    """What a request is told whose work was given up."""
    if isinstance(error, TooLong):
        told = f"This takes longer than {error.seconds:g} s to work out, and was given up; nothing was changed. Fewer copies, holes or flanges make it quicker."
        rule = f"at most {error.seconds:g} s of work"
        return JsonResponse({"code": "too_slow", "message": told, "entry": "design", "value": None, "rule": rule}, status=422)
    return JsonResponse({"code": "hung_up", "message": "Nobody waits for this any more."}, status=499)
