"""Processes that are kept going. One that dies is started again, at once the first time and later each time it dies again soon."""

from __future__ import annotations

import asyncio
import contextlib
import ctypes
import logging
import os
import signal
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

__all__ = ["Child", "keep_going"]

#: Before a process is started again: at first, at most; one that ran for a while begins anew.
FIRST_WAIT, LONGEST_WAIT, STEADY = 0.2, 30.0, 60.0
#: From being asked to stop to being stopped.
STOP_SECONDS = 10.0
_PR_SET_PDEATHSIG = 1

log = logging.getLogger("zygon.supervisor")


@dataclass(frozen=True)
class Child:
    """A process to keep going. ``nice`` as the system counts it."""

    name: str
    command: Sequence[str | Path]
    env: Mapping[str, str] = field(default_factory=dict)
    cwd: Path | None = None
    nice: int = 0


def _part(nice: int) -> None:
    """In the child, before it is what it shall be: it ends when its supervisor does, however that comes about."""
    ctypes.CDLL(None, use_errno=True).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
    if nice:
        os.nice(nice)


async def _kept(child: Child, stop: asyncio.Event, patience: float) -> None:
    wait = FIRST_WAIT
    while not stop.is_set():
        began = time.monotonic()
        process = await asyncio.create_subprocess_exec(
            *map(str, child.command),
            env={**os.environ, **child.env},
            cwd=child.cwd,
            start_new_session=True,
            preexec_fn=lambda: _part(child.nice),
        )
        log.info("%s started", child.name, extra={"child": child.name, "pid": process.pid})
        ended, stopped = asyncio.ensure_future(process.wait()), asyncio.ensure_future(stop.wait())
        await asyncio.wait({ended, stopped}, return_when=asyncio.FIRST_COMPLETED)
        stopped.cancel()
        if stop.is_set():
            await _stopped(process, ended, patience)
            return
        _signal(process.pid, signal.SIGKILL)  # what it may have left behind
        wait = FIRST_WAIT if time.monotonic() - began > STEADY else wait
        log.error(
            "%s died and is started again in %g s", child.name, wait, extra={"child": child.name, "code": ended.result(), "wait": wait}
        )
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(stop.wait(), wait)
        wait = min(2 * wait, LONGEST_WAIT)


async def _stopped(process: asyncio.subprocess.Process, ended: asyncio.Future[int], patience: float) -> None:
    _signal(process.pid, signal.SIGTERM)
    await asyncio.wait({ended}, timeout=patience)
    _signal(process.pid, signal.SIGKILL)
    await ended


def _signal(group: int, what: signal.Signals) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.killpg(group, what)


async def _all(children: Sequence[Child], patience: float) -> None:
    stop = asyncio.Event()
    for what in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        asyncio.get_running_loop().add_signal_handler(what, stop.set)
    await asyncio.gather(*(_kept(child, stop, patience) for child in children))


def keep_going(children: Sequence[Child], patience: float = STOP_SECONDS) -> None:
    """Keeps all of them going until it is told to stop (INT, TERM or HUP), and stops them then; what has not ended after ``patience`` s is killed."""
    asyncio.run(_all(children, patience))
