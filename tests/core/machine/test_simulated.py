"""The simulated machine: what it takes and refuses, and that after any number of deaths everything is cut whole, and nothing twice beyond a lead."""

from __future__ import annotations

import json
import random
import socket
import subprocess
import sys
import time

import pytest
import shapely

from tests.core.program.milled import moves_of
from tests.core.program.test_routed import milled
from tests.core.program.test_write import CONTROLLERS, controlled
from tests.core.toolpath.sheets import laid
from zygon.machine.journal import Journal
from zygon.machine.protocol import answer
from zygon.machine.simulated import Simulated
from zygon.program.of_design import program_of
from zygon.program.places import place_at
from zygon.program.read import read_program
from zygon.program.resumed import resumed
from zygon.program.timed import Machine, durations

BED = Machine(350.0, 3000.0, (1300.0, 1250.0))
SHORT = "G21\nG90 G94\nG17 G40 G54\nG0 X10 Y10\nM3 S1000\nG1 X60 Y10 F600\nG2 X70 Y20 I0 J10\nM5\nG0 X0 Y0\nM30\n"


def fed(machine: Simulated, run: str, text: str) -> None:
    lines = text.splitlines()
    assert answer(machine, f"take {run} {len(lines)}") == "ok"
    for n, line in enumerate(lines, 1):
        assert answer(machine, f"line {n} {line}") == f"ok {n}"
    assert answer(machine, f"start {run}") == "ok"


@pytest.fixture
def machine(tmp_path):
    one = Simulated(BED, Journal(tmp_path / "log"))
    one.home()
    return one


def test_a_program_runs_in_its_time_and_is_reported_on_the_way(machine):
    fed(machine, "a", SHORT)
    whole = machine.status()["of"]
    assert 6.5 < whole < 11
    machine.advance(whole / 2)
    told = machine.status()
    assert told["state"] == "running" and told["on"] and told["feed"] == 10.0 and 10 < told["x"] < 70
    assert told["seconds"] == pytest.approx(whole / 2)
    machine.advance(whole)
    told = machine.status()
    assert (told["state"], told["run"], told["x"], told["y"], told["ended"]) == ("idle", "", 0.0, 0.0, True)


def test_held_it_stands_and_goes_on_from_there(machine):
    fed(machine, "a", SHORT)
    machine.advance(2.0)
    assert answer(machine, "hold") == "ok"
    place = machine.place
    machine.advance(50.0)
    assert machine.place == place and machine.status()["state"] == "held"
    assert answer(machine, "hold").startswith("error not_now")
    assert answer(machine, "resume") == "ok"
    machine.advance(0.5)
    assert machine.place != place


def test_stopped_it_ends_and_the_same_run_is_never_begun_again(machine):
    fed(machine, "a", SHORT)
    machine.advance(2.0)
    assert answer(machine, "stop") == "ok" and machine.status()["state"] == "idle"
    assert answer(machine, "take a 3").startswith("error known_run")
    fed(machine, "b", SHORT)
    assert answer(machine, "start b").startswith("error known_run")
    assert answer(machine, "take c 3").startswith("error busy")


@pytest.mark.parametrize(
    ("said", "code"),
    [
        ("dance", "bad_command"),
        ("", "bad_command"),
        ("take a", "bad_command"),
        ("take a 0", "bad_command"),
        ("line x G0", "bad_command"),
        ("line 1 G0", "out_of_order"),
        ("start a", "not_whole"),
        ("resume", "not_now"),
        ("hold", "not_now"),
        ("stop", "not_now"),
    ],
)
def test_what_it_does_not_understand_or_cannot_do_now_is_refused(machine, said, code):
    assert answer(machine, said).startswith(f"error {code} ")
    assert machine.status()["state"] == "idle"


def test_lines_out_of_order_and_words_that_it_does_not_know(machine):
    assert answer(machine, "take a 3") == "ok"
    assert answer(machine, "line 2 G21").startswith("error out_of_order")
    assert answer(machine, "line 1 G21") == "ok 1"
    assert answer(machine, "start a").startswith("error not_whole")
    told = answer(machine, "line 2 G91")
    assert told.startswith("error broken_program") and "Line 2" in told and "G91" in told
    assert answer(machine, "start a").startswith("error not_whole")


def test_before_it_is_homed_it_does_not_start_and_beyond_its_bed_it_alarms(tmp_path):
    one = Simulated(BED, Journal(tmp_path / "log"))
    lines = SHORT.splitlines()
    assert answer(one, f"take a {len(lines)}") == "ok"
    for n, line in enumerate(lines, 1):
        answer(one, f"line {n} {line}")
    assert answer(one, "start a").startswith("error not_ready it is unhomed")
    assert answer(one, "home") == "ok"
    assert answer(one, "start a") == "ok"
    one.advance(100)
    fed(one, "b", SHORT.replace("X60", "X1400"))
    one.advance(3)
    told = one.status()
    assert told["state"] == "alarm" and "Line 6 leaves the bed of 1300 × 1250 mm" in told["reason"] and not told["on"]
    assert not told["ended"] and answer(one, "start c").startswith("error not_whole")
    assert answer(one, "home") == "ok" and one.status()["state"] == "idle"


def test_where_bits_are_changed_by_hand_it_waits_for_each(machine):
    fed(machine, "a", "G21\nG0 Z10\nT2\nM0\nM3 S9000\nG0 X5\nG1 Z-1 F300\nG0 Z10\nM5\nT1\nM0\nM3 S9000\nG0 X9\nG1 Z-1\nG0 Z10\nM5\nM30")
    for bit in (2, 1):
        machine.advance(100)
        assert machine.status()["state"] == "held" and machine.status()["reason"] == f"Put in bit T{bit}, then go on"
        assert answer(machine, "resume") == "ok"
    machine.advance(100)
    assert machine.status()["state"] == "idle" and machine.status()["ended"]


# deaths


def runs_of(journal, texts: dict[str, str]) -> list[tuple[shapely.LineString, float, float]]:
    """What was cut, from the log alone: stretches with their heights."""
    moves = {run: read_program(text).moves for run, text in texts.items()}
    found = []
    for r in journal.records():
        if r["what"] == "cut" and r["on"]:
            m = moves[r["run"]][r["move"]]
            n = 2 if m.kind == "line" else 12
            places = [place_at(m, r["from"] + (r["to"] - r["from"]) * k / (n - 1)) for k in range(n)]
            found.append((shapely.LineString([p[:2] for p in places]), places[0][2], places[-1][2]))
    return found


def died(text: str, deaths: int, seed: int, folder, overlap: float) -> tuple[list, dict[str, str]]:
    chance = random.Random(seed)
    texts = {"run0": text}
    whole = sum(durations(read_program(text).moves, BED))
    path = folder / f"log{seed}"
    one = Simulated(BED, Journal(path))
    one.home()
    fed(one, "run0", text)
    for n in range(deaths):
        left = chance.uniform(0, 2 * whole / deaths)
        while left > 0 and one.status()["run"]:
            one.advance(min(0.05, left))
            left -= 0.05
        if not one.status()["run"]:
            break
        one = Simulated(BED, Journal(path))  # another life: it knows what its log says
        assert one.status()["state"] == "unhomed"
        last = one.last
        assert last["run"] == f"run{n}" and not one.status()["ended"]
        texts[f"run{n + 1}"] = resumed(texts[f"run{n}"], last["move"], last["share"], overlap)
        one.home()
        fed(one, f"run{n + 1}", texts[f"run{n + 1}"])
    for _ in range(100_000):
        if not one.status()["run"]:
            break
        one.advance(0.5)
    assert one.status()["ended"]
    return runs_of(Journal(path), texts), texts


@pytest.mark.parametrize(("seed", "controller"), list(enumerate(sorted(CONTROLLERS))))
def test_killed_thirty_times_a_laser_has_cut_all_and_nothing_twice_beyond_a_lead(tmp_path, seed, controller):
    document, nest = laid("brood-box", "ply6")
    text = program_of(controlled(document, controller), nest, 1).text
    cut, texts = died(text, 30, seed, tmp_path, 3.0)
    wanted = [
        shapely.LineString([m.p[:2], m.q[:2]]) if m.kind == "line" else None
        for m in read_program(text).moves
        if m.on and m.kind in ("line", "arc")
    ]
    planned = sum(m.length for m in read_program(text).moves if m.on and m.kind in ("line", "arc"))
    done = sum(c[0].length for c in cut)
    deaths = len(texts) - 1
    assert deaths >= 20
    gone = shapely.union_all([c[0] for c in cut]).buffer(0.01)
    missed = [w for w in wanted if w is not None and w.length > 0.05 and not gone.covers(w)]
    assert missed == [], "every contour is cut whole"
    assert planned * 0.999 <= done <= planned * 1.001 + 3.0 * deaths, "and nothing twice beyond a lead"


@pytest.mark.parametrize("seed", range(2))
def test_killed_a_router_has_milled_all_at_every_height(tmp_path, seed):
    text = milled("inner-cover", "ply12").text
    cut, texts = died(text, 30, 10 + seed, tmp_path, 2.0)
    assert len(texts) > 15
    gone = shapely.union_all([c[0].buffer(0.02) for c in cut if max(c[1], c[2]) < -11.5])
    for m in moves_of(text):
        if m.cuts and max(m.z0, m.z1) < -11.6 and m.line.length > 0.1:
            assert gone.covers(m.line)
    for run, one in texts.items():
        moves = read_program(one).moves
        assert all(m.on for m in moves if m.kind in ("line", "arc") and min(m.p[2], m.q[2]) < 0), run
        assert all(min(m.p[2], m.q[2]) > 0 or (m.p[:2] == m.q[:2] and m.q[2] > m.p[2]) or m.p == m.q for m in moves if m.kind == "rapid"), (
            run
        )


def test_a_settled_log_tells_the_same_in_fewer_records(tmp_path):
    document, nest = laid("brood-box", "ply6")
    text = program_of(document, nest, 1).text
    journal = Journal(tmp_path / "log")
    one = Simulated(BED, journal)
    one.home()
    fed(one, "a", text)
    while one.status()["seconds"] < 60:
        one.advance(0.02)
    before, last = runs_of(journal, {"a": text}), list(journal.records())
    journal.settle()
    after = runs_of(journal, {"a": text})
    assert len(after) < len(before) / 5 and list(journal.records())[-1]["to"] == last[-1]["to"]

    def shares(records):
        found = {}
        for r in records:
            if r["what"] == "cut":
                found.setdefault((r["move"], r["on"]), []).append((r["from"], r["to"]))
        return {k: (v[0][0], v[-1][1], sum(b - a for a, b in v)) for k, v in found.items()}

    told, settled = shares(last), shares(journal.records())
    assert told.keys() == settled.keys() and all(told[k] == pytest.approx(settled[k]) for k in told)
    again = Simulated(BED, journal)
    assert again.last == one.last and again.known("a") == "begun" and again.known("b") == "no"


# as a process


def said(port: int, *lines: str) -> list[str]:
    with socket.create_connection(("127.0.0.1", port), 10) as s, s.makefile("rw", encoding="utf-8") as f:
        found = []
        for line in lines:
            f.write(line + "\n")
            f.flush()
            found.append(f.readline().strip())
        return found


def started(port: int, journal) -> subprocess.Popen:
    args = ["machine", "--port", str(port), "--journal", str(journal), "--bed", "1300x1250", "--speed", "20"]
    child = subprocess.Popen([sys.executable, "-m", "zygon.cli", *args])
    for _ in range(200):
        try:
            said(port, "status")
            return child
        except OSError:
            time.sleep(0.05)
    raise AssertionError("the machine does not listen")


def test_a_process_that_loses_its_power_knows_where_it_was(tmp_path):
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    text = SHORT.replace("F600", "F300")
    child = started(port, tmp_path / "log")
    try:
        lines = text.splitlines()
        told = said(port, "home", f"take a {len(lines)}", *(f"line {n} {x}" for n, x in enumerate(lines, 1)), "start a")
        assert all(t.startswith("ok") for t in told)
        for _ in range(400):
            state = json.loads(said(port, "status")[0][3:])
            if state["on"]:
                break
            time.sleep(0.01)
        assert state["state"] == "running"
        assert said(port, "power off") == [""]
        assert child.wait(10) == 70
        child = started(port, tmp_path / "log")
        after = json.loads(said(port, "status")[0][3:])
        assert after["state"] == "unhomed" and after["last"]["run"] == "a" and not after["ended"]
        assert (after["last"]["move"], after["last"]["share"]) >= (state["last"]["move"], state["last"]["share"])
        assert said(port, "home", "take a 3")[1].startswith("error known_run")
    finally:
        child.kill()
        child.wait()
