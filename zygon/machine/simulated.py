"""A simulated machine: takes a program line by line, runs it in its own time, and knows what it cut, also after it lost its power."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from zygon.errors import ZygonError
from zygon.machine.journal import Journal
from zygon.program.looked_through import box_of
from zygon.program.places import place_at
from zygon.program.read import Move, Program, ProgramError, Reader
from zygon.program.timed import Machine, durations

__all__ = ["Kind", "MachineError", "Simulated", "State", "Waits"]

State = Literal["unhomed", "idle", "running", "held", "alarm"]
#: What it cuts with: a beam, or a bit.
Kind = Literal["beam", "bit"]
#: What a wait of a program (G4 P) is in.
Waits = Literal["s", "ms"]
#: Over its limits by less than this (mm) is on them.
OVER = 1e-3


class MachineError(ZygonError):
    """What a machine refuses."""

    code = "machine"


@dataclass
class _Taken:
    run: str
    lines: int
    reader: Reader
    came: int = 0


@dataclass
class _Run:
    run: str
    program: Program
    times: list[float]
    move: int = 0
    #: seconds of that move that are done
    done: float = 0.0
    #: stops (M0) that were gone over
    passed: set[int] = field(default_factory=set)


class Simulated:
    """The machine without its socket. Time passes only in ``advance``. After it was switched on it has to be homed."""

    def __init__(self, machine: Machine, journal: Journal, name: str = "Machine", kind: Kind = "beam") -> None:
        self.machine, self.journal, self.name, self.kind = machine, journal, name, kind
        self.state: State = "unhomed"
        self.reason = "Home it first"
        self.place = (0.0, 0.0, 0.0)
        self.feed, self.tool, self.on = 0.0, 0, False
        self._taken: _Taken | None = None
        self._run: _Run | None = None
        self._begun: dict[str, bool] = {}
        #: of the last run: its name, and the move that it came to, with that move's line and how much of it is done
        self.last: dict[str, Any] = {"run": "", "line": 0, "move": 0, "share": 0.0}
        for r in journal.records():
            self._remember(r)

    def _remember(self, r: dict[str, Any]) -> None:
        if r["what"] == "begin":
            self._begun[r["run"]] = False
            self.last = {"run": r["run"], "line": 0, "move": 0, "share": 0.0}
        elif r["what"] == "end":
            self._begun[r["run"]] = True
        elif r["what"] == "cut":
            self.last = {"run": r["run"], "line": r["line"], "move": r["move"], "share": r["to"]}

    # what it is told

    def status(self) -> dict[str, Any]:
        """How it stands. ``last`` is how far the last run came: its program's move and the share of it that is done; ``ended`` whether that run is over."""
        now = self._run
        return {
            "state": self.state,
            "reason": self.reason,
            "x": round(self.place[0], 4),
            "y": round(self.place[1], 4),
            "z": round(self.place[2], 4),
            "feed": self.feed,
            "tool": self.tool,
            "on": self.on,
            "run": now.run if now else "",
            "seconds": sum(now.times[: now.move]) + now.done if now else 0.0,
            "of": sum(now.times) if now else 0.0,
            "last": self.last,
            "ended": self._begun.get(self.last["run"], False),
        }

    def about(self) -> dict[str, Any]:
        """What it is: its name, what it cuts with, its bed in mm (0, 0 for any)."""
        return {"name": self.name, "kind": self.kind, "bed": list(self.machine.bed)}

    def known(self, run: str) -> str:
        """How far it ever came with a run: ``no`` where it was never begun, ``begun``, ``ended``."""
        return "no" if run not in self._begun else "ended" if self._begun[run] else "begun"

    def take(self, run: str, lines: int, waits: Waits = "s") -> None:
        """Begins to take a program. Raises MachineError while one runs, and for a run that was begun before: no program runs twice."""
        if self._run:
            raise MachineError(f"it is busy with {self._run.run}", entry="run", value=run, rule="one program at a time", code="busy")
        if run in self._begun:
            raise MachineError(f"{run} was begun before", entry="run", value=run, rule="a run is begun once", code="known_run")
        if lines < 1:
            raise MachineError(f"a program of {lines} lines", entry="lines", value=lines, rule="1 or more", code="bad_command")
        self._taken = _Taken(run, lines, Reader(waits))

    def line(self, number: int, text: str) -> None:
        """Takes the next line. Raises MachineError for one that is out of order or not understood."""
        t = self._taken
        if t is None or number != t.came + 1 or number > t.lines:
            wanted = t.came + 1 if t else 0
            raise MachineError(
                f"line {number}, where {wanted} is next", entry="line", value=number, rule="lines in order", code="out_of_order"
            )
        try:
            t.reader.line(text)
        except ProgramError as error:
            self._taken = None
            raise MachineError(error.message, entry=f"line {number}", value=error.value, rule=error.rule, code="broken_program") from error
        t.came = number

    def start(self, run: str) -> None:
        """Runs what was taken. Raises MachineError where that is not whole, or the machine is not ready."""
        t = self._taken
        if run in self._begun:
            raise MachineError(f"{run} was begun before", entry="run", value=run, rule="a run is begun once", code="known_run")
        if t is None or t.run != run or t.came != t.lines:
            raise MachineError(f"{run} is not here whole", entry="run", value=run, rule="all of its lines", code="not_whole")
        if self.state != "idle":
            raise MachineError(f"it is {self.state}: {self.reason}", entry="state", value=self.state, rule="idle", code="not_ready")
        program = t.reader.program()
        self.journal.write("begin", run=run)
        self._remember({"what": "begin", "run": run})
        self._taken, self._run = None, _Run(run, program, durations(program.moves, self.machine))
        self.state, self.reason = "running", ""

    def hold(self) -> None:
        """Stands still with the beam off, to be resumed."""
        self._wanted("running")
        self.state, self.reason = "held", "Held"

    def resume(self) -> None:
        """Goes on."""
        self._wanted("held")
        self.state, self.reason = "running", ""

    def stop(self) -> None:
        """Ends the run where it is."""
        self._wanted("running", "held", "alarm")
        if self._run:
            self.journal.write("stop", run=self._run.run)
        self._run, self.on, self.feed = None, False, 0.0
        if self.state != "alarm":
            self.state, self.reason = "idle", "Stopped"

    def home(self) -> None:
        """Goes to its zero, and knows where it is."""
        self._wanted("unhomed", "idle", "alarm")
        self._run = None
        self.place, self.on, self.feed = (0.0, 0.0, 0.0), False, 0.0
        self.state, self.reason = "idle", ""

    def _wanted(self, *states: State) -> None:
        if self.state not in states:
            rule = " or ".join(states)
            raise MachineError(f"it is {self.state}", entry="state", value=self.state, rule=rule, code="not_now")

    # what it does

    def advance(self, seconds: float) -> None:
        """Lets time pass."""
        while seconds > 0 and self.state == "running" and self._run:
            seconds = self._go(self._run, seconds)

    def _go(self, run: _Run, seconds: float) -> float:
        moves = run.program.moves
        if run.move not in run.passed and (bit := next((b for i, b in run.program.stops if i == run.move), None)) is not None:
            run.passed.add(run.move)
            self.state, self.reason = "held", f"Put in bit T{bit}, then go on"
            return 0.0
        if run.move >= len(moves):
            self.journal.write("end", run=run.run)
            self._remember({"what": "end", "run": run.run})
            self._run, self.on, self.feed = None, False, 0.0
            self.state, self.reason = "idle", ""
            return 0.0
        m, whole = moves[run.move], run.times[run.move]
        if run.done == 0.0 and self._beyond(m):
            self.state = "alarm"
            self.reason = f"Line {m.line} leaves the bed of {self.machine.bed[0]:g} × {self.machine.bed[1]:g} mm"
            self._run, self.on = None, False
            return 0.0
        first = run.done / whole if whole else 0.0
        step = min(seconds, whole - run.done)
        run.done += step
        over = run.done >= whole
        share = 1.0 if over else run.done / whole
        self.place, self.tool, self.feed = place_at(m, share), m.tool, m.feed
        self.on = m.on and m.kind != "rapid"
        self.journal.write(
            "cut", run=run.run, move=run.move, line=m.line, **{"from": first, "to": share}, at=[round(v, 5) for v in self.place], on=self.on
        )
        self.last = {"run": run.run, "line": m.line, "move": run.move, "share": share}
        if over:
            run.move, run.done = run.move + 1, 0.0
        return seconds - step

    def _beyond(self, m: Move) -> bool:
        long, wide = self.machine.bed
        if not (long and wide):
            return False
        x0, y0, x1, y1 = box_of(m)
        return x0 < -OVER or y0 < -OVER or x1 > long + OVER or y1 > wide + OVER
