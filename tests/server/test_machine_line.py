"""The line to a simulated machine over TCP; where machines are, as the environment says; and that the demo starts them."""

from __future__ import annotations

import socket
import subprocess
import sys
import time

import pytest
from zygon_server.machine_addresses import read_machines
from zygon_server.machines.link import LinkRefused, NoWord
from zygon_server.machines.simulated import AT_ONCE, SimulatedLink, answered
from zygon_supervisor.processes import SIMULATED, processes, simulated_machines

LINES = ["G21", "G90 G94", *(f"G1 X{n % 50} Y{n % 7} F60000" for n in range(3 * AT_ONCE)), "G0 X0 Y0", "M30"]


@pytest.fixture
def line(tmp_path):
    """A machine of its own, a hundred times as fast as in truth."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    args = ["machine", "--port", str(port), "--journal", str(tmp_path / "log"), "--bed", "1300x900", "--speed", "100"]
    child = subprocess.Popen([sys.executable, "-m", "zygon.cli", *args, "--name", "Mill", "--kind", "bit"])
    link = SimulatedLink("127.0.0.1", port)
    for _ in range(300):
        try:
            link.status()
            break
        except NoWord:
            time.sleep(0.05)
    yield link
    child.kill()
    child.wait()


def test_a_machine_is_told_and_tells_over_its_line(line):
    about = line.about()
    assert (about.name, about.kind, about.bed, about.speed) == ("Mill", "bit", (1300.0, 900.0), 100.0)
    assert line.status().state == "unhomed" and line.known("a") == "no"
    line.load("a", "\n".join(LINES), "ms")
    with pytest.raises(LinkRefused, match="Home it first") as refused:
        line.start("a")
    assert refused.value.code == "not_ready"
    line.home()
    line.start("a")
    assert line.known("a") == "begun"
    line.hold()
    held = line.status()
    assert held.state == "held" and held.run == "a" and held.of > 0
    line.resume()
    for _ in range(600):
        if line.known("a") == "ended":
            break
        time.sleep(0.02)
    now = line.status()
    assert (now.state, now.run, now.last) == ("idle", "", "a") and (now.x, now.y) == (0.0, 0.0)
    with pytest.raises(LinkRefused) as refused:
        line.load("a", "M30", "s")
    assert refused.value.code == "known_run"


def test_a_program_that_is_not_understood_is_refused_with_its_line(line):
    with pytest.raises(LinkRefused, match=r"Line 3.*G91") as refused:
        line.load("b", "G21\nG90\nG91\nM30", "s")
    assert refused.value.code == "broken_program"


def test_where_nobody_listens_there_is_no_word():
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    with pytest.raises(NoWord):
        SimulatedLink("127.0.0.1", port, 0.5).status()


def test_one_that_takes_the_line_and_says_nothing_is_not_waited_for_forever():
    with socket.socket() as mute:
        mute.bind(("127.0.0.1", 0))
        mute.listen()
        begun = time.monotonic()
        with pytest.raises(NoWord):
            SimulatedLink("127.0.0.1", mute.getsockname()[1], 0.3).status()
        assert time.monotonic() - begun < 5


@pytest.mark.parametrize("raw", [b"", b"o", b"yes", b"okay 1\n"])
def test_what_is_broken_off_is_no_answer(raw):
    with pytest.raises(NoWord):
        answered(raw)


def test_machines_are_read_from_the_environment():
    assert read_machines("") == {}
    assert read_machines("laser=127.0.0.1:8701, router=mill.shop:80") == {"laser": ("127.0.0.1", 8701), "router": ("mill.shop", 80)}


@pytest.mark.parametrize("text", ["laser", "laser=host", "laser=host:0", "laser=host:70000", "Laser=host:1", "a=h:1,a=h:2", "a=h:1;b=h:2"])
def test_what_is_no_machine_is_said(text):
    with pytest.raises(ValueError, match="ZYGON_MACHINES"):
        read_machines(text)


def test_the_simulated_machines_are_started_where_they_are_asked_for(monkeypatch, tmp_path):
    monkeypatch.setenv("ZYGON_MACHINES", "laser=127.0.0.1:8701,router=127.0.0.1:8702,other=127.0.0.1:8703")
    monkeypatch.delenv("ZYGON_SIMULATED", raising=False)
    names = [c.name for c in processes(8000, tmp_path)]
    assert "watch" in names and not any(n.startswith("machine-") for n in names)
    monkeypatch.setenv("ZYGON_SIMULATED", "1")
    children = {c.name: c for c in simulated_machines()}
    assert children.keys() == {"machine-laser", "machine-router"} and set(SIMULATED) == {"laser", "router"}
    assert "8702" in children["machine-router"].command and "bit" in children["machine-router"].command
    monkeypatch.setenv("ZYGON_MACHINES", "")
    assert "watch" not in [c.name for c in processes(8000, tmp_path)]
