"""The rest of a program that was broken off: from a little before the place where the machine was last, with all in order that it was in before."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

from zygon.measure.units import INCH
from zygon.program.places import place_at
from zygon.program.read import Move, read_program
from zygon.tolerance import EPS

__all__ = ["backed", "resumed", "whole_place"]


def resumed(text: str, move: int, share: float, overlap: float, wait_in: Literal["s", "ms"] = "s") -> str:
    """The program that goes on where ``share`` of the ``move``-th move was done, begun ``overlap`` mm before that where it was cutting, but not before that cut began.

    ``text`` can be read, and its lines up to its first move are repeated. What had not begun is told from its beginning.
    """
    program = read_program(text, wait_in=wait_in)
    lines = text.splitlines()
    moves = program.moves
    k, part = backed(moves, move, share, overlap)
    if k >= len(moves):
        return "\n".join([*lines[: moves[0].line - 1], "M30"]) + "\n" if moves else text
    m = moves[k]
    units = INCH if program.inches else 1.0

    def word(letter: str, mm: float) -> str:
        return f"{letter}{round(mm / units, 6):.6f}".rstrip("0").rstrip(".")

    out = [*lines[: moves[0].line - 1], f"(goes on at line {m.line})"]
    heights = any(abs(x.p[2]) > EPS or abs(x.q[2]) > EPS for x in moves)
    if heights:
        out.append(f"G0 {word('Z', max(x.q[2] for x in moves))}")
    if m.tool:
        out += [f"T{m.tool}", *_change(lines)]
    x, y, z = place_at(m, part)
    out.append(f"G0 {word('X', x)} {word('Y', y)}")
    if not _cuts(m):  # it was between cuts: that move is made again, with what was on
        out.append(f"M3 S{m.power:g}" if m.on else "M5")
        return "\n".join([*out, *lines[m.line - 1 :]]) + "\n"
    if heights:
        down = min((v.feed for v in moves if v.kind == "line" and v.q[2] < v.p[2] and v.p[:2] == v.q[:2]), default=m.feed)
        out += [f"M3 S{m.power:g}", f"G1 {word('Z', z)} {word('F', down * 60)}"]
    else:
        out.append(f"M3 S{m.power:g}")
        pierce = _pierce(moves, k)
        out += [lines[pierce.line - 1]] if pierce else []
    out.append(f"{_rest(m, (x, y), word)} {word('F', m.feed * 60)}")
    return "\n".join([*out, *lines[m.line :]]) + "\n"


def backed(moves: Sequence[Move], move: int, share: float, overlap: float) -> tuple[int, float]:
    """The move and the share of it that lie ``overlap`` mm before a place, within the cut that it is in."""
    k, part = (move + 1, 0.0) if share >= 1.0 else (move, share)
    if k >= len(moves) or not _cuts(moves[k]):
        return k, 0.0 if k < len(moves) else part
    left = overlap
    while True:
        done = moves[k].length * part
        if done >= left or k == 0 or not _cuts(moves[k - 1]):
            back = max(0.0, done - left)
            return k, back / moves[k].length if moves[k].length else 0.0
        left -= done
        k, part = k - 1, 1.0


def _cuts(m: Move) -> bool:
    return m.on and m.kind in ("line", "arc")


def _pierce(moves: Sequence[Move], k: int) -> Move | None:
    """The wait that a cut began with."""
    while k > 0 and _cuts(moves[k - 1]):
        k -= 1
    before = moves[k - 1] if k else None
    return before if before is not None and before.kind == "wait" and before.on else None


def _change(lines: Sequence[str]) -> list[str]:
    """How the program changes bits."""
    return next(([word] for word in ("M6", "M0") if any(word in line.split() for line in lines)), [])


def _rest(m: Move, at: tuple[float, float], word: Callable[[str, float], str]) -> str:
    to = f"{word('X', m.q[0])} {word('Y', m.q[1])}{'' if m.p[2] == m.q[2] else ' ' + word('Z', m.q[2])}"
    if m.kind == "arc" and m.centre is not None:
        return f"G{3 if m.sweep > 0 else 2} {to} {word('I', m.centre[0] - at[0])} {word('J', m.centre[1] - at[1])}"
    return f"G1 {to}"


def whole_place(whole: int, run: int, move: int, share: float) -> tuple[int, float]:
    """Where in a program of ``whole`` moves the rest of it, of ``run`` moves, is at a place of its own: both end alike.

    While the rest gets ready it is a few moves before where it goes on, with nothing of them done.
    """
    at = whole - (run - move)
    return (at, share) if at >= 0 else (0, 0.0)
