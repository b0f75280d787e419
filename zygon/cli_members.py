"""The command line's tubes and rods: the cope of a branch, with its template, and the bends of a rod."""

from __future__ import annotations

import argparse
import json
import math
from pathlib import Path

from zygon.errors import MemberError

__all__ = ["add_members"]

#: Degrees between two lengths that are told of a cope.
STEP = 5


def add_members(commands) -> None:
    """Adds ``zygon cope`` and ``zygon rod``."""
    add = commands.add_parser("cope", help="length of a branch's wall at each angle round it, where it lies on a round main")
    add.add_argument("--main", type=float, required=True, help="outer diameter of what it lies on, mm")
    add.add_argument("--branch", type=float, required=True, help="outer diameter of the branch, mm")
    add.add_argument("--angle", type=float, required=True, help="between the axes, degrees up to 90")
    add.add_argument("--offset", type=float, default=0.0, help="how far the axes pass one another, mm, towards 90 degrees round the branch")
    add.add_argument("--wall", type=float, default=0.0, help="of the branch, mm, where its end is cut square to the wall")
    add.add_argument("--out", type=Path, help="DXF file for the template to wrap round the branch, 1 : 1")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_cope)
    add = commands.add_parser("rod", help="straight length of a bent rod, and what is fed, turned and bent for each bend")
    add.add_argument("--diameter", type=float, required=True, help="mm")
    add.add_argument("--radius", type=float, required=True, help="of the bends' centre line, mm")
    add.add_argument("--points", required=True, help='corners as "x,y,z x,y,z ...", mm')
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_rod)


def _cope(a: argparse.Namespace) -> None:
    from zygon.making.tube.cope import Cope

    cope = Cope(a.main, a.branch, a.angle, a.offset, a.wall)
    points = [[phi, round(cope.length(phi), 6)] for phi in range(0, 361, STEP)]
    if a.out:
        _write_template(a, cope)
    if a.json:
        print(json.dumps({"points": points, "unit": "mm"}))
        return
    print(f"{'round the branch':>18}  {'length from the axes':>22}")
    for phi, length in points:
        print(f"{phi:14.0f} deg  {length:19.3f} mm")


def _write_template(a: argparse.Namespace, cope) -> None:
    from zygon.exchange.dxf import write_dxf
    from zygon.making.tube.unrolled import template, template_marks
    from zygon.stock.cutter import Layers

    outline, floor = template(cope)
    notes = [
        f"branch {a.branch:g} on main {a.main:g} mm, {a.angle:g} degrees, offset {a.offset:g} mm; 1 : 1",
        f"lower edge: {floor:.2f} mm along the branch from where the axes pass one another",
        "left and right edge: 0 degrees, the side of the acute angle; lines at 90, 180 and 270",
    ]
    marks = [("mark", c) for c in template_marks(cope, floor)]
    text = write_dxf([*marks, ("outside", outline)], Layers(), notes)
    a.out.parent.mkdir(parents=True, exist_ok=True)
    a.out.write_text(text, encoding="utf-8")


def _rod(a: argparse.Namespace) -> None:
    from zygon.making.tube.bent_path import bent_path

    path = bent_path(_points(a.points), a.radius, a.diameter)
    if a.json:
        rows = [{"feed": round(b.feed, 6), "turn": round(b.turn, 6), "bend": round(b.bend, 6)} for b in path.bends]
        print(json.dumps({"length": round(path.length, 6), "rows": rows, "end": round(path.end, 6), "unit": "mm"}))
        return
    print(f"straight length {path.length:.3f} mm")
    print(f"{'bend':>6} {'feed':>14} {'turn':>14} {'bend':>14} {'begins at':>14}")
    for n, (b, at) in enumerate(zip(path.bends, path.marks, strict=True), 1):
        print(f"{n:6} {b.feed:11.3f} mm {b.turn:10.2f} deg {b.bend:10.2f} deg {at:11.3f} mm")
    print(f"{'then':>6} {path.end:11.3f} mm")


def _points(text: str) -> list[list[float]]:
    found = []
    for n, word in enumerate(text.split(), 1):
        try:
            found.append([float(x) for x in word.split(",")])
        except ValueError:
            rule = "x,y,z in mm, points with a space between"
            raise MemberError(f"--points: {word} is not a point; {rule}", entry="--points", value=word, rule=rule) from None
        if len(found[-1]) != 3 or not all(math.isfinite(x) for x in found[-1]):
            rule = "x, y and z"
            raise MemberError(f"--points: point {n}, {word}, has {len(found[-1])} figures; {rule}", entry="--points", value=word, rule=rule)
    return found
