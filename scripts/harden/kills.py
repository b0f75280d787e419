"""Processes are killed while makers edit and searches run: what was acknowledged is there, and nothing was made twice."""

from __future__ import annotations

import os
import random
import signal
import threading
import time
import uuid
from dataclasses import dataclass, field

import httpx

from scripts.harden.application import Application, Maker, running

__all__ = ["kills"]

MAKERS = 4
VICTIMS = ("core-0", "core-1", "quick", "search-1", "search-2", "front", "reclaim")


@dataclass
class Worked:
    """What one maker did: how many edits were acknowledged, and how many were sent again since no answer came."""

    acknowledged: int = 0
    repeated: int = 0
    lost: list[str] = field(default_factory=list)
    twice: list[str] = field(default_factory=list)


def kills(times: int) -> str:
    """The line of the table."""
    with running() as application:
        stop = threading.Event()
        worked = [Worked() for _ in range(MAKERS)]
        makers = [threading.Thread(target=_edit, args=(application, w, stop, n)) for n, w in enumerate(worked)]
        for maker in makers:
            maker.start()
        chance = random.Random(1)
        for _ in range(times):
            time.sleep(chance.uniform(0.5, 2.5))
            pid = application.pids().get(chance.choice(VICTIMS))
            if pid:
                _kill(pid)
        time.sleep(3)
        stop.set()
        for maker in makers:
            maker.join()
        left = _left_over(application)
    lost, twice = sum(len(w.lost) for w in worked), sum(len(w.twice) for w in worked)
    done, again = sum(w.acknowledged for w in worked), sum(w.repeated for w in worked)
    return f"{times} kills in mid edit and run: {done} edits acknowledged, {again} sent again, {lost} lost, {twice} made twice, {left} runs left hanging"


def _kill(pid: int) -> None:
    try:
        os.kill(pid, signal.SIGKILL)
    except ProcessLookupError:
        return


def _edit(application: Application, worked: Worked, stop: threading.Event, number: int) -> None:
    maker = _patiently(lambda: Maker(application.base, timeout=20))
    design = _patiently(lambda: maker.copied("Brood box"))
    revision, notes = 1, []
    while not stop.is_set():
        token, note = uuid.uuid4().hex, f"{number} {len(notes)}"
        body = {"id": token, "label": "note", "patch": [{"op": "replace", "path": "/note", "value": note}], "have": []}
        while True:
            try:
                answer = maker.post(f"/designs/{design}/edits", body, **{"If-Match": f'"{revision}"'})
            except httpx.HTTPError:
                answer = None
            if answer is not None and answer.status_code == 200:
                break
            if answer is not None and answer.status_code not in (429, 499, 500, 502, 503, 504):
                raise SystemExit(f"{answer.status_code}: {answer.text[:300]}")
            worked.repeated += 1
            time.sleep(0.2)
        revision = answer.json()["revision"]
        notes.append(note)
        worked.acknowledged += 1
        if len(notes) % 10 == 0:
            _patiently(lambda: maker.post(f"/designs/{design}/nest", {"quick": False, "seconds": 3}))
    edits = _patiently(lambda: maker.client.get(f"/api/designs/{design}/edits", params={"after": 0}).json())
    head = _patiently(lambda: maker.client.get(f"/api/designs/{design}").json())
    if len(edits) > len(notes):
        worked.twice += ["an edit"] * (len(edits) - len(notes))
    if len(edits) < len(notes) or head["document"]["note"] != notes[-1] or head["revision"] != len(notes) + 1:
        worked.lost.append(f"{len(edits)} of {len(notes)}, {head['document']['note']} for {notes[-1]}")


def _patiently(work):
    """Until it is answered: what is killed is down for a moment."""
    until = time.monotonic() + 60
    while True:
        try:
            return work()
        except (httpx.HTTPError, KeyError, ValueError):
            if time.monotonic() > until:
                raise
            time.sleep(0.3)


def _left_over(application: Application) -> int:
    """Runs that are neither done, cancelled nor told to have failed once nobody asks for more."""
    until = time.monotonic() + 90
    while True:
        told = httpx.get(f"{application.base}/metrics", timeout=20, trust_env=False).text
        on = sum(
            float(line.split()[-1])
            for line in told.splitlines()
            if line.startswith(('zygon_runs{status="queued', 'zygon_runs{status="running'))
        )
        if not on or time.monotonic() > until:
            return int(on)
        time.sleep(1)
