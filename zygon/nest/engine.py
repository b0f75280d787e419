"""The nesting engine: a first layout from the bottom left, then rounds of improving it, as long as there is time.

A seed fixes the sequence of layouts; time only decides how far it gets, so more time never gives a worse one. With ``rounds`` in the task the clock
does not count at all.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor

from zygon.nest.bottom_left import first_layout
from zygon.nest.legal import layout_faults
from zygon.nest.mend import mended
from zygon.nest.rectangles import packed
from zygon.nest.task import Layout, Task

__all__ = ["allowed_turns", "nest"]

Told = Callable[[int, int, Layout], bool]
#: Rounds without anything better, a lot, that end a search.
FRUITLESS = 60
#: What a share of the time is told in.
WHOLE = 1000


def nest(task: Task, progress: Told | None = None, known: Layout | None = None) -> Layout:
    """Lays a task out. ``progress(done, of, best)`` is told again and again and may stop the search by returning False.

    ``known`` is a layout of this very task to go on from, where it is legal.
    """
    began = time.monotonic()

    def first() -> bool:
        return progress(0, WHOLE, Layout(())) if progress else True

    best = known if known is not None and not layout_faults(task, known) else _begun(task, first)
    if not any(s.placements for s in best.sheets):
        return best
    deadline = math.inf if task.rounds else began + task.seconds
    pool = ProcessPoolExecutor(task.workers) if task.workers > 1 else None
    try:
        return _rounds(task, best, began, deadline, progress, pool)
    finally:
        if pool:
            pool.shutdown(cancel_futures=True)


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
    from zygon.nest.improve import Memories, improved, score  # compiled kernels load only where they are used

    number = fruitless = 0
    going = True
    memories: list[Memories] = [{} for _ in range(task.workers)]

    def tell() -> bool:
        nonlocal going
        if progress and going:
            share = number / task.rounds if task.rounds else (time.monotonic() - began) / task.seconds
            going = progress(min(int(share * WHOLE), WHOLE), WHOLE, best)
        return going

    while tell() and time.monotonic() < deadline and (number < task.rounds or not task.rounds) and fruitless < FRUITLESS:
        if pool is None:
            tried = [improved(task, best, number, memories[0], 0, deadline, tell)]
        else:  # every worker draws its own lot from the same layout; the best is what all go on from
            lots = [pool.submit(improved, task, best, number, memories[lot], lot, deadline) for lot in range(task.workers)]
            tried = [f.result() for f in lots]
        memories = [memory for _, memory in tried]
        found = min((layout for layout, _ in tried), key=score)
        fruitless = fruitless + 1 if score(found) >= score(best) else 0
        best = found
        number += 1
    return _ended(best, number, stopped=not going)


def _ended(best: Layout, rounds: int, *, stopped: bool) -> Layout:
    return Layout(best.sheets, best.unplaced, best.share, rounds, stopped)


def allowed_turns(turn: str) -> tuple[float, ...]:
    """The angles in radians that 'none', a step in degrees or 'free' allow; of free ones those that a search begins with, by 15 degrees."""
    if turn == "none":
        return (0.0,)
    step = 15 if turn == "free" else int(turn)
    return tuple(math.radians(step * k) for k in range(360 // step))
