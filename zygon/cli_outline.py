"""The command line's drawings: a file with one, solved on its own."""

from __future__ import annotations

import argparse
import json
import math
from pathlib import Path
from typing import Any

__all__ = ["add_outline"]


def add_outline(commands) -> None:
    """Adds ``zygon outline``."""
    add = commands.add_parser("outline", help="solve a drawing: where its points lie, what can still move, what contradicts, its outlines")
    add.add_argument("file", type=Path, help="JSON with points, curves, references and relations, as the document has them")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_outline)


def _outline(a: argparse.Namespace) -> None:
    from zygon.drawing.freedoms import freedoms_of
    from zygon.drawing.loops import loops_of
    from zygon.drawing.measured import measured
    from zygon.drawing.read import figures_alone, read_drawing
    from zygon.drawing.solver import solve_drawing
    from zygon.drawing.words import relation_words, thing_words

    drawing = read_drawing(a.file)
    figures = figures_alone(drawing)
    solved = solve_drawing(drawing, figures)
    free, loops = freedoms_of(solved), loops_of(solved)

    def said(key: str) -> str:
        relation = drawing.relations[key]
        return relation_words(drawing, relation, relation.entry.text if relation.entry else "")

    def shown(value: float, kind: str) -> float:
        return round(math.degrees(value) if kind == "angle" else value, 6) + 0.0

    if a.json:
        told: dict[str, Any] = {
            "points": {k: _two(solved.point(k)) for k in drawing.points},
            "radii": {k: round(solved.radius(k), 6) for k in solved.unknowns.radii},
            "freedoms": {
                "count": free.count,
                "points": {k: {"way": list(f.way) if f.way else None} for k, f in free.points.items()},
                "radii": list(free.radii),
            },
            "twice": [{"relation": f.relation, "by": list(f.by), "words": said(f.relation)} for f in free.twice],
            "contradictions": [
                {"relations": list(c.relations), "left_out": c.left_out, "words": [said(k) for k in c.relations]} for c in solved.clashes
            ],
            "dimensions": {k: shown(measured(solved, r), r.kind) for k, r in drawing.relations.items() if r.entry or r.measured},
            "outlines": [
                {"area": round(c.area, 6), "points": [_two(p) for p in c.points], "bulges": list(c.bulges), "curves": list(c.owners)}
                for c in loops.closed
            ],
            "problems": [{"code": f.code, "words": f.message, "at": _two(f.at), "curves": list(f.curves)} for f in loops.faults],
        }
        print(json.dumps(told, ensure_ascii=False))
        return
    left = "nothing is loose" if not free.count else f"{free.count} {'freedom' if free.count == 1 else 'freedoms'} left"
    print(f"{len(drawing.points)} points, {len(drawing.curves)} lines and arcs; {left}")
    for key, loose in free.points.items():
        way = f" along {loose.way[0]:.3g}, {loose.way[1]:.3g}" if loose.way else ""
        print(f"  {thing_words(drawing, key)} can move{way}")
    for key in free.radii:
        print(f"  {thing_words(drawing, key)} can change its radius")
    for clash in solved.clashes:
        print("contradict: " + "; ".join(said(k) for k in clash.relations))
    for f in free.twice:
        print(f"said twice: {said(f.relation)}")
    for c in loops.closed:
        print(f"outline of {len(c.points)} pieces, {c.area:.3f} mm²")
    for fault in loops.faults:
        print(f"{fault.message} (at {fault.at[0]:.2f}, {fault.at[1]:.2f})")


def _two(p: tuple[float, float]) -> list[float]:
    return [round(p[0], 6) + 0.0, round(p[1], 6) + 0.0]
