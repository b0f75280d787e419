"""A reader of RS-274 programs: what the machine does, block by block. It shares nothing with what writes them, and refuses what it does not understand with its line.

After NIST's RS274/NGC interpreter (Kramer, Proctor, Messina: The NIST RS274NGC Interpreter, version 3, 2000), of which it knows a part.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field, replace
from typing import Literal

from zygon.errors import ZygonError

__all__ = ["Move", "Program", "ProgramError", "Reader", "read_program"]

#: Longer programs are refused (blocks).
MOST = 2_000_000
#: Both radii of an arc differ by no more than this (mm).
CLOSES = 0.002
INCHES = 25.4
_WORD = re.compile(r"([A-Za-z])\s*([+-]?\s*(?:\d+\.?\d*|\.\d+))")
_COMMENT = re.compile(r"\([^()]*\)|;.*$")

_GROUPS: dict[str, str] = {
    **dict.fromkeys(("G0", "G1", "G2", "G3"), "motion"),
    **dict.fromkeys(("G17",), "plane"),
    **dict.fromkeys(("G20", "G21"), "units"),
    **dict.fromkeys(("G40",), "compensation"),
    **dict.fromkeys(("G54",), "coordinates"),
    **dict.fromkeys(("G90",), "distance"),
    **dict.fromkeys(("G94",), "feed"),
    **dict.fromkeys(("G4",), "wait"),
    **dict.fromkeys(("M0", "M30"), "stop"),
    **dict.fromkeys(("M3", "M4", "M5"), "spindle"),
    **dict.fromkeys(("M6",), "tool"),
    **dict.fromkeys(("M8", "M9"), "coolant"),
}
#: Letters with a value of their own.
_LETTERS = frozenset("FGIJKMNPSTXYZ")


class ProgramError(ZygonError):
    """A program that cannot be understood; ``line`` counts from 1."""

    code = "broken_program"

    def __init__(self, line: int, reason: str, word: str = "", rule: str = "") -> None:
        super().__init__(f"Line {line}: {reason}", entry=f"line {line}", value=word, rule=rule or reason)
        self.line = line


@dataclass(frozen=True, slots=True)
class Move:
    """From p to q (mm, x y z), or a wait. ``centre`` of an arc, ``sweep`` in radians, over 0 counter-clockwise. ``feed`` in mm/s, ``power`` is the S word.

    ``on``: the beam or spindle was on. ``line`` is that of the program, ``wait`` in s.
    """

    kind: Literal["rapid", "line", "arc", "wait"]
    p: tuple[float, float, float]
    q: tuple[float, float, float]
    line: int
    on: bool = False
    feed: float = 0.0
    power: float = 0.0
    tool: int = 0
    centre: tuple[float, float] | None = None
    sweep: float = 0.0
    wait: float = 0.0

    @property
    def length(self) -> float:
        """How far it is, mm."""
        if self.kind != "arc" or self.centre is None:
            return math.dist(self.p, self.q)
        flat = math.dist(self.p[:2], self.centre) * abs(self.sweep)
        return math.hypot(flat, self.q[2] - self.p[2])


@dataclass(frozen=True)
class Program:
    """What it does in order, its comments, and sentences on what is wrong with it though it can be read."""

    moves: tuple[Move, ...]
    comments: tuple[tuple[int, str], ...] = ()
    ended: bool = False
    #: whether the beam or spindle was still on at its end
    left_on: bool = False
    faults: tuple[str, ...] = ()
    #: where it stops until it is told to go on (M0): before which move, with which bit
    stops: tuple[tuple[int, int], ...] = ()
    #: whether it ends in inches
    inches: bool = False


@dataclass
class _State:
    at: tuple[float, float, float] = (0.0, 0.0, 0.0)
    motion: str = ""
    unit: float = 1.0
    feed: float = 0.0
    power: float = 0.0
    tool: int = 0
    on: bool = False
    ended: bool = False
    moves: list[Move] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)
    stops: list[tuple[int, int]] = field(default_factory=list)


class Reader:
    """Reads a program line by line, as it comes."""

    def __init__(self, wait_in: Literal["s", "ms"] = "s") -> None:
        self._state, self._comments, self._n = _State(), list[tuple[int, str]](), 0
        self._second = 0.001 if wait_in == "ms" else 1.0

    def line(self, raw: str) -> None:
        """Takes the next line. Raises ProgramError, with its number, for a word or a combination that it does not know."""
        self._n += 1
        if self._n > MOST:
            raise ProgramError(MOST, "a program of more lines is too long", rule=f"at most {MOST} lines")
        self._comments += [(self._n, c.strip("(); ")) for c in _COMMENT.findall(raw)]
        bare = _COMMENT.sub("", raw).strip()
        if not bare or bare == "%" or self._state.ended:
            return
        _block(self._n, _words(self._n, bare.lstrip("/").strip()), self._state, self._second)

    def program(self) -> Program:
        """What came so far."""
        s = self._state
        return Program(tuple(s.moves), tuple(self._comments), s.ended, s.on, tuple(s.faults), tuple(s.stops), s.unit != 1.0)


def read_program(text: str, *, wait_in: Literal["s", "ms"] = "s") -> Program:
    """The program's moves. Raises ProgramError, with the line, for a word or a combination that it does not know."""
    lines = text.splitlines()
    if len(lines) > MOST:
        raise ProgramError(MOST, f"a program of {len(lines)} lines is too long", rule=f"at most {MOST} lines")
    reader = Reader(wait_in)
    for raw in lines:
        reader.line(raw)
    return reader.program()


def _words(n: int, block: str) -> list[tuple[str, float]]:
    rest = _WORD.sub("", block).strip()
    if rest:
        raise ProgramError(n, f"“{rest[:40]}” is no word of a program", rest[:40], "a letter and a number, as X12.5")
    found = [(letter.upper(), float(value.replace(" ", ""))) for letter, value in _WORD.findall(block)]
    for letter, value in found:
        if not math.isfinite(value):
            raise ProgramError(n, f"{letter} is beyond all figures", letter, "a number that can be had")
        if letter not in _LETTERS:
            raise ProgramError(n, f"{letter} is not understood", letter, f"one of {', '.join(sorted(_LETTERS))}")
    return found


def _code(letter: str, value: float) -> str:
    return f"{letter}{value:g}"


def _block(n: int, words: list[tuple[str, float]], state: _State, second: float) -> None:
    codes: dict[str, str] = {}
    values: dict[str, float] = {}
    for letter, value in words:
        if letter in "GM":
            code = _code(letter, value)
            group = _GROUPS.get(code)
            if group is None:
                raise ProgramError(n, f"{code} is not understood", code, f"one of {', '.join(_GROUPS)}")
            if group in codes and codes[group] != code:
                raise ProgramError(n, f"{codes[group]} and {code} in one block", code, "one of a group in a block")
            codes[group] = code
        elif letter in values:
            raise ProgramError(n, f"{letter} twice in one block", letter, "each letter once in a block")
        else:
            values[letter] = value
    if "units" in codes:
        state.unit = INCHES if codes["units"] == "G20" else 1.0
    if "F" in values:
        state.feed = values["F"] * state.unit / 60
        if state.feed <= 0:
            raise ProgramError(n, f"a feed of {values['F']:g}", "F", "a feed over 0")
    state.power = values.get("S", state.power)
    if "T" in values:
        state.tool = int(values["T"])
    if "spindle" in codes:
        state.on = codes["spindle"] != "M5"
    if "wait" in codes:
        _wait(n, values, state, second)
    elif any(k in values for k in "XYZ"):
        state.motion = codes.get("motion", state.motion)
        _move(n, values, state)
    elif "motion" in codes:
        state.motion = codes["motion"]
        if state.motion in ("G2", "G3") and ("I" in values or "J" in values):
            _move(n, values, state)
    if codes.get("stop") == "M30":
        state.ended = True
    elif "stop" in codes:
        state.stops.append((len(state.moves), state.tool))


def _wait(n: int, values: dict[str, float], state: _State, second: float) -> None:
    if values.get("P", -1.0) < 0:
        raise ProgramError(n, "G4 without a time", "G4", "P of 0 or more")
    state.moves.append(Move("wait", state.at, state.at, n, state.on, power=state.power, tool=state.tool, wait=values["P"] * second))


def _move(n: int, values: dict[str, float], state: _State) -> None:
    p = state.at
    q = tuple(values[k] * state.unit if k in values else p[i] for i, k in enumerate("XYZ"))
    assert len(q) == 3
    if not state.motion:
        raise ProgramError(n, "a place without a motion", "", "G0, G1, G2 or G3 before it")
    if state.motion != "G0" and state.feed <= 0:
        raise ProgramError(n, f"{state.motion} without a feed", state.motion, "an F word before it")
    plain = Move("line", p, q, n, state.on, state.feed, state.power, state.tool)
    if state.motion == "G0":
        state.moves.append(replace(plain, kind="rapid", feed=0.0))
    elif state.motion == "G1":
        state.moves.append(plain)
    else:
        if "I" not in values and "J" not in values:
            raise ProgramError(n, f"{state.motion} without a centre", state.motion, "I and J, from the arc's start")
        x, y = p[0] + values.get("I", 0.0) * state.unit, p[1] + values.get("J", 0.0) * state.unit
        first, last = math.dist(p[:2], (x, y)), math.dist(q[:2], (x, y))
        if abs(first - last) > CLOSES:
            state.faults.append(f"Line {n}: the arc does not close: its radius is {first:.4f} mm at its start and {last:.4f} mm at its end")
        turn = math.atan2(q[1] - y, q[0] - x) - math.atan2(p[1] - y, p[0] - x)
        sweep = turn % (2 * math.pi) if state.motion == "G3" else -(-turn % (2 * math.pi))
        if math.dist(p[:2], q[:2]) == 0:
            sweep = 2 * math.pi if state.motion == "G3" else -2 * math.pi
        state.moves.append(replace(plain, kind="arc", centre=(x, y), sweep=sweep))
    state.at = q
