"""Machines in the test's own process: they stand still until they are told that time passes, and can fall silent."""

from __future__ import annotations

from zygon_server.machines.link import NoWord
from zygon_server.machines.simulated import SimulatedLink, answered

from zygon.machine.journal import Journal
from zygon.machine.protocol import answer
from zygon.machine.simulated import Simulated
from zygon.program.timed import Machine


class Near(SimulatedLink):
    """A simulated machine behind the same line, without its socket. ``silent``: it gets nothing; ``deaf_after`` so many lines more, their answers are lost."""

    def __init__(self, folder, name="laser", kind="beam", rapid=350.0, acceleration=3000.0, bed=(1300.0, 1250.0)):
        super().__init__("127.0.0.1", 1)
        self.built = Machine(rapid, acceleration, bed), name.capitalize(), kind
        self.journal = Journal(folder / f"{name}.jsonl")
        self.silent, self.lost, self.heard = False, False, []
        self.power_on()

    def power_on(self):
        self.machine = Simulated(self.built[0], self.journal, self.built[1], self.built[2])

    def _say(self, lines):
        if self.silent:
            raise NoWord("silent")
        found = []
        for line in lines:
            self.heard.append(line)
            found.append(answered((answer(self.machine, line) + "\n").encode()))
        if self.lost and any(line.startswith("start") for line in lines):
            raise NoWord("the answer was lost")
        return found

    def goes(self, seconds):
        self.machine.advance(seconds)

    def starts(self):
        return [line for line in self.heard if line.startswith("start")]
