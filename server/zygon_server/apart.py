"""Work on files, foreign ones that are read and large ones that are written, in a process of its own with limits of time and memory: what hangs or falls there takes nothing
else along, and nobody else waits for it.

A small pool keeps processes ready; each does one piece of work and is replaced. What is sent there and back is pickled, so functions are the core's own.
"""

from __future__ import annotations

import gc
import multiprocessing
import os
import resource
import threading
from collections.abc import Callable
from concurrent.futures import CancelledError
from concurrent.futures import TimeoutError as TooSlow
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessPool

from zygon_server.errors import Refused

T = TypeVar("T")

__all__ = ["MEGABYTES", "SECONDS", "WRITE_SECONDS", "apart"]

#: What is written of a design may take as long as looking at it.
WRITE_SECONDS = 60.0
#: A piece of work may take so long, and so much memory beside what its process has to begin with.
SECONDS = 20.0
MEGABYTES = 500
#: So many at once.
PROCESSES = 2
#: Loaded once, before the pool's processes part from it.
LOADED = [
    "zygon.exchange.outline_in",
    "zygon.exchange.step",
    "zygon.exchange.picture_in",
    "OCP.STEPControl",
    "OCP.BRepMesh",
    "zygon.paper.hidden",
    "OCP.HLRBRep",
]

#: By process: one that parted from another starts its own.
_pools: dict[int, ProcessPool] = {}
_making = threading.Lock()


def apart(
    function: Callable[..., T], *arguments: Any, what: str, writes: bool = False, seconds: float = SECONDS, megabytes: int = MEGABYTES
) -> T:
    """What a function gives, worked out elsewhere. Refused with the limit that it passed; errors of its own come through as they are.

    ``what`` is the file as it is told of; ``writes`` where it is made and not read.
    """
    doing, done, by = ("write", "written", "writing it") if writes else ("read", "read", "its reader")
    future = _ready().schedule(_within, (function, megabytes, *arguments), timeout=seconds)
    try:
        return future.result()
    except (TooSlow, CancelledError):
        raise Refused(
            f"{what} takes longer than {seconds:g} s to {doing}; make it simpler.",
            code="too_slow",
            entry=what,
            value=None,
            rule=f"at most {seconds:g} s",
        ) from None
    except (MemoryError, ProcessExpired):
        raise Refused(
            f"{what} cannot be {done}: {by} needed more than {megabytes} MB, or fell.",
            code="too_heavy",
            entry=what,
            value=None,
            rule=f"at most {megabytes} MB",
        ) from None


def _ready() -> ProcessPool:
    with _making:
        pool = _pools.get(os.getpid())
        if pool is None or not pool.active:
            context = multiprocessing.get_context("forkserver")
            context.set_forkserver_preload(LOADED)
            pool = _pools[os.getpid()] = ProcessPool(max_workers=PROCESSES, max_tasks=1, context=context)
        return pool


def _within(function: Callable[..., Any], megabytes: int, *arguments: Any) -> Any:
    """In the other process: anonymous memory is bounded, and as it does nothing else later, nothing is collected."""
    with open("/proc/self/status", encoding="ascii") as status:
        has = next((int(line.split()[1]) for line in status if line.startswith("VmData")), 0) * 1024
    most = has + megabytes * 1_000_000
    resource.setrlimit(resource.RLIMIT_DATA, (most, most))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    gc.disable()
    return function(*arguments)
