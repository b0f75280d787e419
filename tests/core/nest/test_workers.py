"""The processes of a search: gone with the one that started them, and done without where one dies."""

import math
import os
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path

import pytest

from zygon.geometry.boolean import Region
from zygon.geometry.contour import rectangle
from zygon.nest import engine
from zygon.nest.bottom_left import first_layout
from zygon.nest.engine import nest
from zygon.nest.improve import score
from zygon.nest.legal import layout_faults
from zygon.nest.task import NestSheet, Shape, Task

ROOT = Path(__file__).parents[3]
SEARCH = """
import multiprocessing, os, sys
from zygon.geometry.boolean import Region
from zygon.geometry.contour import rectangle
from zygon.nest.engine import nest
from zygon.nest.task import NestSheet, Shape, Task

def told(*_):
    print(*(p.pid for p in multiprocessing.active_children()), flush=True)
    return True

if __name__ == "__main__":
    shapes = tuple(Shape(str(k), Region(rectangle(0, 0, 10.0 + 3 * k, 37.0 - 2 * k)), 4) for k in range(9))
    nest(Task(shapes, NestSheet(float("inf"), 140.0), seconds=60.0, workers=2), told)
"""


def test_processes_of_a_search_that_is_killed_are_gone_with_it(tmp_path):
    (tmp_path / "search.py").write_text(SEARCH)
    with subprocess.Popen(
        [sys.executable, str(tmp_path / "search.py")],
        stdout=subprocess.PIPE,
        text=True,
        cwd=ROOT,
        env=os.environ | {"PYTHONPATH": str(ROOT)},
    ) as search:
        assert search.stdout
        workers = next(pids for line in search.stdout if len(pids := line.split()) == 2)
        search.kill()
    deadline = time.monotonic() + 30
    while any(alive(int(pid)) for pid in workers):
        assert time.monotonic() < deadline, "they go on for nobody"


def alive(pid: int) -> bool:
    """Whether a process runs; one that ended and was not asked for does not."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except (FileNotFoundError, ProcessLookupError):
        return False


def died(*_a, **_k):
    os._exit(1)


def test_a_search_whose_worker_dies_goes_on_with_one(monkeypatch):
    real = engine.ProcessPoolExecutor

    class Dying(real):
        def submit(self, function, *a, **k):
            return super().submit(died) if function is not engine.cores else super().submit(function)

    monkeypatch.setattr(engine, "ProcessPoolExecutor", Dying)
    task = Task((Shape("plate", Region(rectangle(0, 0, 60, 30))),), NestSheet(900.0, 900.0, "s"), rounds=2)
    layout = nest(replace(task, workers=2))
    assert layout.sheets and layout.passes == 2


def shapes(n: int = 9) -> tuple[Shape, ...]:
    return tuple(Shape(str(k), Region(rectangle(0, 0, 10.0 + 3 * k, 37.0 - 2 * k)), 4, (0.0, math.pi / 2)) for k in range(n))


@pytest.mark.parametrize(("workers", "after"), [(1, 1), (1, 5), (1, 17), (2, 1), (2, 4)])
@pytest.mark.parametrize("sheet", [NestSheet(math.inf, 140.0), NestSheet(150.0, 120.0)], ids=["roll", "sheets"])
def test_a_search_that_is_stopped_at_any_moment_leaves_a_legal_best(workers, sheet, after):
    task = Task(shapes(), sheet, 1.0, seconds=30.0, workers=workers)
    first = len(first_layout(task).sheets)
    begun, told = [], []

    def on(_done, _of, best):
        told.append(best)
        begun.extend([best] if best.sheets else [])
        return len(begun) < after

    layout = nest(task, on)
    assert layout.stopped and not layout_faults(task, layout) and not layout.unplaced and len(layout.sheets) <= first
    scores = [score(task, b) for b in begun]
    assert scores == sorted(scores, reverse=True) and score(task, layout) <= scores[-1]


def test_something_better_is_told_within_a_quarter_of_the_time():
    """Rounds are broken off by the clock, so that what they have is seen; the search is stopped as soon as that is."""
    task = Task(shapes(), NestSheet(math.inf, 140.0), 1.0, seconds=40.0)
    lengths, shares = [], []

    def on(done, of, best):
        lengths.extend(s.used_length for s in best.sheets)
        shares.append(done / of)
        return not lengths or lengths[-1] == lengths[0]

    nest(task, on)
    assert lengths[-1] < lengths[0] and shares[-1] <= 0.25


@pytest.mark.parametrize("workers", [1, 2])
def test_what_is_no_better_is_not_told_as_something_new(workers):
    told = []
    nest(
        Task((Shape("plate", Region(rectangle(0, 0, 60, 30)), 2),), NestSheet(900.0, 900.0, "s"), rounds=4, workers=workers),
        lambda *a: told.append(a[2]) or True,
    )
    assert len({id(t) for t in told if t.sheets}) == len({t.sheets[0].used_length for t in told if t.sheets})
