"""What is said to the machine over its line: a command a line, and an answer a line: ``ok``, with what was asked for as JSON, or ``error CODE sentence``."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from zygon.errors import ZygonError
from zygon.machine.simulated import MachineError, Simulated

__all__ = ["answer"]


def answer(machine: Simulated, line: str, switched: Callable[[str, str], None] = lambda what, value: None, speed: float = 1.0) -> str:
    """The answer to a line. ``switched`` does what is no command of the machine itself: ``power off`` and ``speed N``, both for tries; it goes at ``speed``."""
    word, _, rest = line.strip().partition(" ")
    try:
        found = _do(machine, word, rest, switched)
        if word == "about":
            found["speed"] = speed
    except ZygonError as error:
        return f"error {error.code} {error.message}"
    return "ok" if found is None else f"ok {json.dumps(found)}"


def _do(machine: Simulated, word: str, rest: str, switched: Callable[[str, str], None]) -> Any:
    plain = {"hold": machine.hold, "resume": machine.resume, "stop": machine.stop, "home": machine.home}
    if word in plain:
        plain[word]()
        return None
    if word == "status":
        return machine.status()
    if word == "about":
        return machine.about()
    if word == "known":
        return machine.known(rest)
    if word == "take":
        run, lines, waits, *_ = [*rest.split(), "", "", ""]
        machine.take(run, _number(lines, "lines"), "ms" if waits == "ms" else "s")
        return None
    if word == "line":
        number, _, text = rest.partition(" ")
        machine.line(_number(number, "line"), text)
        return int(number)
    if word == "start":
        machine.start(rest)
        return None
    if word in ("power", "speed"):
        switched(word, rest)
        return None
    known = "about, status, known, take, line, start, hold, resume, stop, home"
    raise MachineError(f"“{word[:40]}” is not understood", entry="command", value=word[:40], rule=f"one of {known}", code="bad_command")


def _number(text: str, entry: str) -> int:
    if not text.isdecimal():
        raise MachineError(f"“{text[:40]}” is no number", entry=entry, value=text[:40], rule="a whole number", code="bad_command")
    return int(text)
