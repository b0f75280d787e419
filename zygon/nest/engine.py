"""The nesting engine: a first layout from the bottom left, then rounds of improving it, as long as there is time.

A seed fixes the sequence of layouts; time only decides how far it gets, so more time never gives a worse one. With ``rounds`` in the task the clock
does not count at all.
"""

from __future__ import annotations

import logging
import math
import multiprocessing
import os
import threading
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from dataclasses import replace

from zygon.nest.bottom_left import first_layout
from zygon.nest.legal import layout_faults
from zygon.nest.mend import mended
from zygon.nest.rectangles import packed
from zygon.nest.task import Layout, Task

__all__ = ["allowed_turns", "cores", "nest"]

log = logging.getLogger(__name__)
Told = Callable[[int, int, Layout], bool]
#: Rounds without anything better, a lot, that end a search.
FRUITLESS = 60
#: What a share of the time is told in.
WHOLE = 1000
#: A round is broken off after this share of the time, or after so many seconds, and gives what it has: so what is found is seen, and shared.
SLICE, LONGEST = 0.1, 1.0


def nest(task: Task, progress: Told | None = None, known: Layout | None = None) -> Layout:
    """Lays a task out. ``progress(done, of, best)`` is told again and again and may stop the search by returning False.

    ``known`` is a layout of this very task to go on from, where it is legal.
    """
    began = time.monotonic()
    pool = _ready(task.workers) if task.workers > 1 else None

    def first() -> bool:
        return progress(0, WHOLE, Layout(())) if progress else True

    try:
        best = known if known is not None and not layout_faults(task, known) else _begun(task, first)
        if not any(s.placements for s in best.sheets):
            return best
        deadline = math.inf if task.rounds else began + task.seconds
        return _rounds(task, best, began, deadline, progress, pool)
    finally:
        if pool:
            pool.shutdown(cancel_futures=True)


def cores() -> int:
    """The cores that this process may use: as many workers are worth having."""
    return len(os.sched_getaffinity(0))


def _ready(workers: int) -> ProcessPoolExecutor:
    """Processes that load the kernels while the first layout is made. They part from a server of their own, since whoever asks may have threads."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["zygon.nest.improve"])
    pool = ProcessPoolExecutor(workers, mp_context=context, initializer=_tied)
    for _ in range(workers):
        pool.submit(cores)
    return pool


def _tied() -> None:
    """A process that ends when the one that started it is gone, however that ended."""
    parent = multiprocessing.parent_process()

    def wait() -> None:
        if parent:
            parent.join()
            os._exit(1)

    threading.Thread(target=wait, name="tied", daemon=True).start()


def _begun(task: Task, going: Callable[[], bool]) -> Layout:
    """The layout that a search begins with; whatever breaks a rule is left out, so that it is legal whatever happens."""
    first = first_layout(task, going)
    if first.stopped:
        return first
    better = packed(task, first)
    if better is not first and not layout_faults(task, better):
        return better
    return first if not layout_faults(task, first) else mended(task, [(s.sheet, s.placements) for s in first.sheets], {})


def _rounds(task: Task, best: Layout, began: float, deadline: float, progress: Told | None, pool: ProcessPoolExecutor | None) -> Layout:
    from zygon.nest.improve import Memories, improved, joined, score  # compiled kernels load only where they are used

    number = fruitless = 0
    going = True
    memories: list[Memories] = [{} for _ in range(task.workers)]
    piece = math.inf if task.rounds else min(SLICE * task.seconds, LONGEST)

    def tell() -> bool:
        nonlocal going
        if progress and going:
            share = number / task.rounds if task.rounds else (time.monotonic() - began) / task.seconds
            going = progress(min(int(share * WHOLE), WHOLE), WHOLE, best)
        return going

    while tell() and time.monotonic() < deadline and (number < task.rounds or not task.rounds) and fruitless < FRUITLESS:
        until = min(deadline, time.monotonic() + piece)
        tried = None
        if pool is not None:  # every worker draws its own lot from the same layout; the best, or all together, is what they go on from
            try:
                lots = [pool.submit(improved, task, best, number, memories[lot], lot, until) for lot in range(task.workers)]
                tried = [f.result() for f in lots]
            except BrokenProcessPool:
                log.warning("a worker of a search died; it goes on with one")
                pool, task = None, replace(task, workers=1)
        if tried is None:
            tried = [improved(task, best, number, memories[0], 0, until, tell)]
        memories = [memory for _, memory in tried]
        found = joined(task, best, [layout for layout, _ in tried])
        # one that is no better comes back from another process as another object; who looks on is not told of it
        fruitless = 0 if score(task, found) < score(task, best) else fruitless + 1
        best = best if fruitless else found
        number += 1
    return _ended(best, number, stopped=not going)


def _ended(best: Layout, rounds: int, *, stopped: bool) -> Layout:
    return replace(best, passes=rounds, stopped=stopped)


def allowed_turns(turn: str) -> tuple[float, ...]:
    """The angles in radians that 'none', a step in degrees or 'free' allow; of free ones those that a search begins with, by 15 degrees."""
    if turn == "none":
        return (0.0,)
    step = 15 if turn == "free" else int(turn)
    return tuple(math.radians(step * k) for k in range(360 // step))
