"""Bores that lean, or run along a part's own axes, written down anew where copies of their parts are made into parts of their own."""

from __future__ import annotations

import math
from typing import Any

from zygon.design.layout_operations import fresh_key, fresh_name
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, of_rows, three
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import BoreLine, line_of, rows_of
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built, FlatPart
from zygon.measure.display import exact_length
from zygon.tolerance import EPS, WITHIN

__all__ = ["askew_bores", "is_askew"]


def is_askew(bore: Any) -> bool:
    """Whether a bore's places say less than where it runs in the room."""
    return bool(bore.of or bore.lean is not None)


def askew_bores(built: Built, keys: dict[str, str], key: str, through: list[str], bores: dict[str, Any], names: set[str]) -> Patch:
    """The patch of one such bore: copies on its own line are added to it, those beside it get one of their own, in figures.

    ``keys`` give each copy's own key, ``through`` are the copies that it goes through; ``bores`` and ``names`` grow by what is new.
    """
    document, patch = built.document, []
    bore = document.bores[key]
    values = solve(document, built.good, leg_face)
    line = line_of(values, key, bore)
    places: list[tuple[BoreLine, list[str]]] = []
    # in a row each becomes one of its own: its row may run along no axis any more
    lines = rows_of(values, key, bore, line) if line else ()
    for copied in through:
        for moved in (_moved(one, built.made[copied].place) for one in lines):
            same = next((ks for other, ks in places if _same(moved, other)), None)
            if same is None:
                places.append((moved, same := []))
            same.append(copied)
    for moved, there in places:
        ends = {keys[k]: bore.parts[built.parts[k].of].model_dump(mode="json") for k in there}
        if len(lines) == 1 and bore.owned_by_set is None and _same(moved, lines[0]):
            patch += [{"op": "add", "path": pointer("bores", key, "parts", part), "value": end} for part, end in ends.items()]
            continue
        copied_too = {built.parts[k].of for k in keys}
        stays = [k for k in bore.parts if k in built.flats and k not in copied_too and _passes(built.flats[k], moved)]
        ends |= {k: bore.parts[k].model_dump(mode="json") for k in stays}
        name = fresh_name(document, bore.name[:36], names)
        names.add(name)
        new = fresh_key(bores, name)
        record = bore.model_dump(mode="json", exclude_none=True)
        if bore.hardware is not None:
            record["hardware"] = bore.hardware.turned(max(moved.way, key=abs) < 0).model_dump(mode="json", exclude_none=True)
        bores[new] = {**record, **_written(moved, document.unit), "of": "", "rows": {}, "name": name, "parts": ends, "order": len(bores)}
        patch.append({"op": "add", "path": pointer("bores", new), "value": bores[new]})
    return patch


def _moved(line: BoreLine, motion: Motion) -> BoreLine:
    return BoreLine(motion.point(line.point), motion.vector(line.way), line.low, line.high)


def _same(a: BoreLine, b: BoreLine) -> bool:
    """Whether two lines are one, either way round."""
    turned = sum(x * y for x, y in zip(a.way, b.way, strict=True))
    apart = [x - y for x, y in zip(a.point, b.point, strict=True)]
    along = sum(x * y for x, y in zip(apart, a.way, strict=True))
    return abs(turned) > 1 - EPS and math.dist(apart, [along * x for x in a.way]) < WITHIN


def _passes(part: FlatPart, line: BoreLine) -> bool:
    """Whether a line goes through a part that lies flat."""
    t = part.flat.thickness
    seen = of_rows(part.matrix[:3]).inverse
    start, way = seen.point(line.point), seen.vector(line.way)
    if abs(way[2]) < EPS:
        return 0 < start[2] < t
    along = (t / 2 - start[2]) / way[2]
    u, v = (start[i] + way[i] * along for i in (0, 1))
    x0, y0, x1, y1 = part.flat.bounds
    return x0 < u < x1 and y0 < v < y1


def _written(line: BoreLine, unit: str) -> dict[str, Any]:
    """A line in the room as a bore's fields: the axis that it lies nearest to, how it leans from that, and a place on it."""

    def entry(value: float) -> dict[str, str]:
        return {"text": exact_length(value, unit).strip("()"), "unit": unit}

    def angle(value: float) -> dict[str, str]:
        return {"text": f"{round(math.degrees(value), 9):.12g} deg", "unit": unit}

    k = max(range(3), key=lambda i: abs(line.way[i]))
    back = line.way[k] < 0
    way = three(-x for x in line.way) if back else line.way
    ends = (-line.high, -line.low) if back else (line.low, line.high)
    one, other = (i for i in range(3) if i != k)
    found: dict[str, Any] = {"axis": AXES[k], "at": {AXES[i]: entry(line.point[i]) for i in (one, other)}, "lean": None, "toward": None}
    if way[k] < 1 - EPS:
        found["lean"], found["toward"] = angle(math.acos(way[k])), angle(math.atan2(way[other], way[one]))
        found["at"][AXES[k]] = entry(line.point[k])
    for name, end in zip(("low", "high"), ends, strict=True):
        found[name] = entry(line.point[k] + way[k] * end) if math.isfinite(end) else None
    return found
