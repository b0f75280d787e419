"""The supervisor with real processes: what dies comes again, later and later; nothing outlives it."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest

SERVER = Path(__file__).parents[2] / "server"
#: What its processes say they write at once: unbuffered, a line in pieces may have another one within it.
PROGRAM = """
import sys
sys.path.insert(0, {server!r})
from zygon_log import set_up
from zygon_supervisor.children import Child, keep_going
set_up()
keep_going([
    Child("steady", [sys.executable, "-c", "import os, time; print(f'steady {{os.getpid()}} {{os.getppid()}} {{os.nice(0)}}' + chr(10), end='', flush=True); time.sleep(600)"], nice=3),
    Child("parent", ["/bin/sh", "-c", "sleep 601 & echo parent $!; exec sleep 602"]),
    Child("falls", ["/bin/sh", "-c", "echo falls; exit 3"]),
    Child("stubborn", ["/bin/sh", "-c", "trap '' TERM; echo stubborn $$; while true; do sleep 0.1; done"]),
], patience=0.5)
"""


class Watched:
    """A supervisor, and what it and its processes have said so far."""

    def __init__(self) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-c", PROGRAM.format(server=str(SERVER))],
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            start_new_session=True,
        )
        self.lines: list[str] = []
        self.reader = threading.Thread(target=lambda: self.lines.extend(self.process.stdout), daemon=True)
        self.reader.start()

    def said(self, begin: str, count: int = 1) -> list[list[str]]:
        until = time.monotonic() + 30
        while len(found := [x.split() for x in list(self.lines) if x.startswith(begin)]) < count:
            assert time.monotonic() < until, self.lines
            threading.Event().wait(0.01)
        return found

    def logged(self, child: str) -> list[dict]:
        return [r for r in map(json.loads, [x for x in list(self.lines) if x.startswith("{")]) if r.get("child") == child]

    def pid_of(self, child: str) -> str:
        """Of the process that was started for a child, once the log tells it."""
        until = time.monotonic() + 30
        while (pid := next((str(r["pid"]) for r in self.logged(child) if "pid" in r), None)) is None:
            assert time.monotonic() < until, self.lines
            threading.Event().wait(0.01)
        return pid


@pytest.fixture
def watched(monkeypatch):
    made = Watched()
    yield made
    if made.process.poll() is None:
        made.process.terminate()
    made.process.wait(timeout=30)
    made.reader.join(timeout=30)  # all that it started is gone, and so is the other end of what they wrote to
    made.process.stdout.close()


def alive(pid: str) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


def gone(*pids: str) -> None:
    until = time.monotonic() + 30
    while any(alive(p) for p in pids):
        assert time.monotonic() < until
        threading.Event().wait(0.01)


def test_what_dies_is_started_again_with_all_that_it_left_swept_away(watched):
    _, first, parent, nice = watched.said("steady")[0]
    assert parent == str(watched.process.pid) and nice == str(os.nice(0) + 3)
    os.kill(int(first), signal.SIGKILL)
    assert watched.said("steady", 2)[1][1] != first
    died = [r for r in watched.logged("steady") if r["level"] == "error"]
    assert [(r["code"], r["wait"]) for r in died] == [(-9, 0.2)]
    helper = watched.said("parent")[0][1]
    leader = next(r["pid"] for r in watched.logged("parent") if "pid" in r)
    os.kill(leader, signal.SIGKILL)
    gone(helper)
    watched.said("parent", 2)


def test_what_falls_again_and_again_is_started_later_each_time(watched):
    watched.said("falls", 4)
    waits = [r["wait"] for r in watched.logged("falls") if r["level"] == "error"]
    assert waits[:3] == [0.2, 0.4, 0.8] and all(r["code"] == 3 for r in watched.logged("falls") if r["level"] == "error")


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGINT, signal.SIGHUP])
def test_it_stops_with_all_that_it_started(watched, how):
    pids = [watched.said(n)[0][1] for n in ("steady", "parent", "stubborn")]
    watched.process.send_signal(how)
    assert watched.process.wait(timeout=30) == 0
    gone(*pids)


def test_a_supervisor_that_is_killed_leaves_nobody_that_listens_behind(watched):
    steady = watched.said("steady")[0][1]
    leader = watched.pid_of("parent")
    watched.process.kill()
    watched.process.wait()
    gone(steady, leader)
    os.kill(int(watched.said("stubborn")[0][1]), signal.SIGKILL)  # what will not hear cannot be made to by one who is no more
    helper = watched.said("parent")[0][1]
    os.kill(int(helper), signal.SIGKILL)
