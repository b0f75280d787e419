"""A program looked through before it leaves: how much is cut, how long it takes, how far it reaches, and what is wrong with it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from zygon.program.read import Move, Program
from zygon.program.timed import Machine, durations

__all__ = ["OFF_BED", "Looked", "box_of", "look_through"]

#: Over the bed by less than this (mm) is on it.
OVER = 1e-3
#: Stands in what is said of a head that leaves the bed.
OFF_BED = "the head leaves the bed"


@dataclass(frozen=True)
class Looked:
    """Lengths in mm, times in s; ``extents`` are low x, low y, high x, high y of all moves. ``starts`` are when each move begins."""

    cut: float
    rapid: float
    seconds: float
    pierces: int
    extents: tuple[float, float, float, float]
    starts: tuple[float, ...]
    faults: tuple[str, ...]


def look_through(program: Program, machine: Machine) -> Looked:
    """What a program does on a machine. A cut is a move at a feed with the beam or spindle on."""
    times = durations(program.moves, machine)
    starts, done = [], 0.0
    for t in times:
        starts.append(done)
        done += t
    cuts = [m for m in program.moves if m.kind in ("line", "arc") and m.on]
    pierces = _entered(program.moves, machine)
    extents = _extents(program.moves)
    faults = [*program.faults, *_faults(program, machine)]
    rapid = sum(m.length for m in program.moves if m.kind == "rapid")
    return Looked(sum(m.length for m in cuts), rapid, done, pierces, extents, tuple(starts), tuple(faults))


def _entered(moves: Sequence[Move], machine: Machine) -> int:
    """How often the beam goes on, or a bit goes down."""
    before = [None, *moves][: len(moves)]
    if machine.face is not None:
        return sum(m.on and m.kind != "rapid" and (b is None or b.kind == "rapid") for b, m in zip(before, moves, strict=True))
    return sum(m.on and m.kind != "rapid" and (b is None or not b.on) for b, m in zip(before, moves, strict=True))


def _extents(moves: Sequence[Move]) -> tuple[float, float, float, float]:
    boxes = [box_of(m) for m in moves]
    if not boxes:
        return 0.0, 0.0, 0.0, 0.0
    return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)


def box_of(m: Move) -> tuple[float, float, float, float]:
    """Low x, low y, high x, high y of a move, mm."""
    xs, ys = [m.p[0], m.q[0]], [m.p[1], m.q[1]]
    if m.kind == "arc" and m.centre is not None:
        r = math.dist(m.p[:2], m.centre)
        start = math.atan2(m.p[1] - m.centre[1], m.p[0] - m.centre[0])
        for k in range(4):
            turn = (k * math.pi / 2 - start) * math.copysign(1.0, m.sweep) % (2 * math.pi)
            if turn <= abs(m.sweep):
                xs.append(m.centre[0] + r * (1, 0, -1, 0)[k])
                ys.append(m.centre[1] + r * (0, 1, 0, -1)[k])
    return min(xs), min(ys), max(xs), max(ys)


def _faults(program: Program, machine: Machine) -> list[str]:
    found = []
    if not program.ended:
        found.append("The program does not end: M30 is missing")
    if program.left_on:
        found.append("The program ends with the beam or spindle on")
    if machine.face is None:
        burned = next((m for m in program.moves if m.kind == "rapid" and m.on and m.length > 0), None)
        if burned:
            found.append(f"Line {burned.line}: a rapid move with the beam on goes through material")
    else:
        found += _in_material(program.moves, machine.face)
    long, wide = machine.bed
    if long and wide:
        for m in program.moves:
            x0, y0, x1, y1 = box_of(m)
            if x0 < -OVER or y0 < -OVER or x1 > long + OVER or y1 > wide + OVER:
                found.append(f"Line {m.line}: {OFF_BED} of {long:g} × {wide:g} mm, at X{m.q[0]:.1f} Y{m.q[1]:.1f}")
                break
    return found


def _in_material(moves: Sequence[Move], face: float) -> list[str]:
    """Sentences on a bit that is moved in the sheet without cutting, and one that cuts while it stands."""
    found = []
    for m in moves:
        low = min(m.p[2], m.q[2])
        if m.kind == "rapid" and low < face - OVER and m.length > 0 and not (m.p[:2] == m.q[:2] and m.q[2] > m.p[2]):
            found.append(f"Line {m.line}: a rapid move goes through material, {face - low:.1f} mm under the face")
            break
    still = next((m for m in moves if m.kind in ("line", "arc") and not m.on and min(m.p[2], m.q[2]) < face - OVER), None)
    if still:
        found.append(f"Line {still.line}: the bit cuts while the spindle stands")
    return found
