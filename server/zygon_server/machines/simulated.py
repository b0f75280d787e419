"""The line to the simulated machine (``zygon machine``): a command a line over TCP, and an answer a line."""

from __future__ import annotations

import json
import socket
from collections.abc import Sequence
from contextlib import closing
from typing import Any, Literal, cast

from zygon_server.machines.link import About, LinkRefused, NoWord, Status

__all__ = ["SimulatedLink", "answered"]

#: So long (s) an answer is waited for.
PATIENCE = 3.0


class SimulatedLink:
    """A machine at an address. Each call is a line of its own, so that nothing is left half said."""

    def __init__(self, host: str, port: int, patience: float = PATIENCE) -> None:
        self._at, self._patience = (host, port), patience

    def about(self) -> About:
        """What it is."""
        told = self._ask("about")
        return About(told["name"], told["kind"], tuple(told["bed"]), told["speed"])

    def status(self) -> Status:
        """How it stands."""
        told = self._ask("status")
        last = told["last"]
        own = {k: told[k] for k in ("state", "reason", "x", "y", "z", "feed", "tool", "on", "run", "seconds", "of")}
        return Status(**own, last=last["run"], move=last["move"], share=last["share"])

    def known(self, run: str) -> Literal["no", "begun", "ended"]:
        """How far it ever came with a run."""
        return cast('Literal["no", "begun", "ended"]', self._ask(f"known {run}"))

    def load(self, run: str, text: str, waits: str) -> None:
        """Gives it a program; nothing moves yet."""
        lines = text.splitlines()
        self._say([f"take {run} {len(lines)} {waits}", *(f"line {n} {line}" for n, line in enumerate(lines, 1))])

    def start(self, run: str) -> None:
        """Begins a run that was loaded."""
        self._ask(f"start {run}")

    def hold(self) -> None:
        """Stands still."""
        self._ask("hold")

    def resume(self) -> None:
        """Goes on."""
        self._ask("resume")

    def stop(self) -> None:
        """Ends the run where it is."""
        self._ask("stop")

    def home(self) -> None:
        """Finds its zero."""
        self._ask("home")

    def _ask(self, line: str) -> Any:
        return self._say([line])[0]

    def _say(self, lines: Sequence[str]) -> list[Any]:
        """The answers to lines that are sent without waiting for each; ends at the first that says no."""
        found = []
        try:
            with closing(socket.create_connection(self._at, self._patience)) as line, line.makefile("rwb") as file:
                for first in range(0, len(lines), AT_ONCE):
                    part = lines[first : first + AT_ONCE]
                    file.write("".join(f"{x}\n" for x in part).encode())
                    file.flush()
                    found += [answered(file.readline()) for _ in part]
        except OSError as error:
            raise NoWord(str(error)) from error
        return found


#: Lines that are sent before their answers are read: few enough for what the system keeps of both.
AT_ONCE = 200


def answered(raw: bytes) -> Any:
    """What a line of the machine says. Raises LinkRefused where that is no, NoWord where it is broken off."""
    word, _, rest = raw.decode("utf-8", "replace").strip().partition(" ")
    if word == "ok":
        return json.loads(rest) if rest else None
    if word == "error":
        code, _, message = rest.partition(" ")
        raise LinkRefused(code, message)
    raise NoWord("the line was broken off")
