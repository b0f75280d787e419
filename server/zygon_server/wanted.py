"""Middleware: the core's work for a request ends when whoever asked hangs up, or types on, and when it takes too long; what is quick goes before what is not.

The front door closes its socket to this process when a browser hangs up; that is looked for between the pieces of the work (``zygon.patience``). Python computes one thing
at a time: requests take turns at it, since two that share a processor both end when the second one would have, and what goes on for long passes its turn on.
"""

from __future__ import annotations

import socket
import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from django.http import HttpRequest, HttpResponse, JsonResponse

from zygon.patience import GivenUp, asked_by

__all__ = ["EDIT_SECONDS", "LOOK_SECONDS", "HungUp", "TooLong", "Turns", "Wanted", "Work", "answer", "turn"]

#: So much of a processor's time an edit may take, or what tries one. What an edit may take can be looked at and exported for certain, so that may take longer.
EDIT_SECONDS, LOOK_SECONDS = 20.0, 60.0
#: The socket is looked at so often (s).
OFTEN = 0.02
#: Work that holds its turn for longer passes it on, and has it again after those that wait.
QUICK = 0.3
#: Who waits for a turn for longer goes on without: the one that holds it is in the middle of something that cannot be interrupted.
MOST_WAIT = 0.5
#: What writes nothing: whoever hung up wants none of it. An edit is finished, since it may have been the last word before a page was closed.
TRIED = (
    "/preview",
    "/operations",
    "/measure",
    "/weigh",
    "/along",
    "/possible",
    "/figure",
    "/room",
    "/rooms",
    "/touches",
    "/pulls",
    "/feature-pulls",
)


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
        work = Work(line, LOOK_SECONDS if reads else EDIT_SECONDS)
        token = _CURRENT.set(work)
        try:
            with asked_by(work.ask):
                return self.get_response(request)
        finally:
            _CURRENT.reset(token)


class Turns:
    """Whose turn it is: one at a time, first come, first served."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._waiting: deque[threading.Event] = deque()
        self._taken = False

    def take(self) -> bool:
        """Waits for a turn; whether it came before MOST_WAIT."""
        with self._lock:
            if not self._taken:
                self._taken = True
                return True
            mine = threading.Event()
            self._waiting.append(mine)
        if mine.wait(MOST_WAIT):
            return True
        with self._lock:
            if mine in self._waiting:
                self._waiting.remove(mine)
                return False
            return True  # it came just now

    def give(self) -> None:
        """Passes a turn on to whoever waits longest."""
        with self._lock:
            if self._waiting:
                self._waiting.popleft().set()
            else:
                self._taken = False

    def wanted(self) -> bool:
        """Whether somebody waits."""
        return bool(self._waiting)


class Work:
    """The work for one request. ``line`` is the socket to whoever asked, None where it is finished though nobody waits; ``seconds`` of a processor it may take."""

    def __init__(self, line: socket.socket | None, seconds: float, turns: Turns | None = None) -> None:
        self.line, self.seconds = line, seconds
        self.turns = turns or _TURNS
        self.looked = time.monotonic()
        self.spent_before = time.thread_time()
        self.since: float | None = None  # when its turn began

    def ask(self) -> None:
        """Raises HungUp or TooLong; passes its turn on where it has had it for long."""
        now = time.monotonic()
        if now - self.looked < OFTEN:
            return
        self.looked = now
        if self.line is not None and _closed(self.line):
            raise HungUp
        if time.thread_time() - self.spent_before > self.seconds:
            raise TooLong(self.seconds)
        if self.since is not None and now - self.since > QUICK and self.turns.wanted():
            self.end()
            self.begin()

    def begin(self) -> None:
        """Waits for its turn."""
        if self.turns.take():
            self.since = time.monotonic()

    def end(self) -> None:
        """Its turn is over, if it had one."""
        if self.since is not None:
            self.since = None
            self.turns.give()


_TURNS = Turns()
_CURRENT: ContextVar[Work | None] = ContextVar("work", default=None)


@contextmanager
def turn() -> Iterator[None]:
    """Computing that the others of this process wait for, one after another; outside a request, and within a turn, nobody waits."""
    work = _CURRENT.get()
    if work is None or work.since is not None:
        yield
        return
    work.begin()
    try:
        yield
    finally:
        work.end()


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
