"""Reading DXF entities as runs of lines and arcs in mm; blocks are unfolded, text is left out."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path
from typing import Any

import ezdxf
from ezdxf import recover
from ezdxf.entities import DXFEntity

from zygon.errors import ImportFileError
from zygon.exchange.chain import LayeredRun, Run
from zygon.geometry.arc import bulge_from_angle
from zygon.limits import FARTHEST, MAX_VERTICES
from zygon.measure.units import INCH

__all__ = ["dxf_segments"]

#: $INSUNITS to mm; a file without a unit is read in mm.
UNITS = {0: 1.0, 1: INCH, 2: 12 * INCH, 4: 1.0, 5: 10.0, 6: 1000.0, 8: INCH * 1e-6, 9: INCH * 1e-3, 13: 1e-3, 14: 100.0}
#: Curves that are no arcs are divided to this (mm).
FLATTEN = 0.01
#: So often blocks are inserted, those in blocks counted each time: each costs as much as some thirty lines.
MOST_INSERTED = 10_000


def dxf_segments(path: Path) -> list[LayeredRun]:
    """Runs of all curves in model space, each with its layer. Raises ImportFileError for an unknown unit and for what is too much; and whatever the library does in a file that is no DXF."""
    doc = _opened(path)
    unit = doc.header.get("$INSUNITS", 0)
    if unit not in UNITS:
        raise ImportFileError(f"its unit number {unit} is not known", value=unit, rule="$INSUNITS")
    return _scaled(doc, UNITS[unit])


def _opened(path: Path) -> Any:
    """The document; a sound one is read in half the time that one takes which has to be mended."""
    try:
        return ezdxf.readfile(path)
    except (ezdxf.DXFError, UnicodeDecodeError, ValueError):
        return recover.readfile(path)[0]


def _scaled(doc: Any, scale: float) -> list[LayeredRun]:
    runs: list[LayeredRun] = []
    corners = 0
    for entity in _unfolded(doc.modelspace(), ()):
        run = _run(entity, scale)
        if run and len(run[1]):
            corners += len(run[1])
            if corners > MAX_VERTICES:
                raise ImportFileError(f"it has more than {MAX_VERTICES} corners", value=corners, rule="vertices")
            runs.append((str(entity.dxf.layer), ([(x * scale, y * scale) for x, y in run[0]], run[1])))
    return runs


def _unfolded(entities, within: tuple[str, ...]) -> Iterator[DXFEntity]:
    """Entities, and those of the blocks that are inserted. Raises ImportFileError where a block inserts itself, or there are too many."""
    counted = inserted = 0
    waiting = [(iter(entities), within)]
    while waiting:
        some, within = waiting[-1]
        entity = next(some, None)
        if entity is None:
            waiting.pop()
            continue
        counted += 1
        if counted > MAX_VERTICES:
            raise ImportFileError(f"it has more than {MAX_VERTICES} entities", value=counted, rule="entities")
        if entity.dxftype() != "INSERT":
            yield entity
            continue
        name = str(entity.dxf.name).upper()
        if name in within:
            raise ImportFileError(f"the block {entity.dxf.name} inserts itself", value=entity.dxf.name, rule="blocks of others")
        inserted += 1
        if inserted > MOST_INSERTED:
            raise ImportFileError(f"its blocks are inserted more than {MOST_INSERTED} times", value=inserted, rule="inserted blocks")
        waiting.append((iter(entity.virtual_entities()), (*within, name)))


def _run(entity: Any, scale: float) -> Run | None:
    match entity.dxftype():
        case "LINE":
            return [tuple(entity.dxf.start)[:2], tuple(entity.dxf.end)[:2]], [0.0]
        case "CIRCLE":
            (x, y, _), r = entity.dxf.center, entity.dxf.radius
            flip = -1.0 if entity.dxf.extrusion.z < 0 else 1.0
            return [(x * flip - r, y), (x * flip + r, y), (x * flip - r, y)], [1.0, 1.0]
        case "ARC":
            sweep = math.radians((entity.dxf.end_angle - entity.dxf.start_angle) % 360) or 2 * math.pi
            p, q = tuple(entity.start_point)[:2], tuple(entity.end_point)[:2]
            return [p, q], [bulge_from_angle(sweep) * (-1 if entity.dxf.extrusion.z < 0 else 1)]
        case "LWPOLYLINE":
            rows = [(x, y, bulge) for x, y, _, _, bulge in entity.lwpoints]
            return _polyline(rows, entity.closed, entity.dxf.extrusion.z < 0)
        case "POLYLINE" if entity.is_2d_polyline:
            rows = [(v.dxf.location.x, v.dxf.location.y, v.dxf.get("bulge", 0.0)) for v in entity.vertices]
            return _polyline(rows, entity.is_closed, entity.dxf.extrusion.z < 0)
        case "ELLIPSE" | "SPLINE":
            around = _longest(entity) * scale
            if not around <= FARTHEST:
                raise ImportFileError(
                    f"a curve is {around:g} mm long; at most {FARTHEST:g} mm are read", value=around, rule="length of curves"
                )
            points = [tuple(p)[:2] for p in entity.flattening(FLATTEN)]
            return points, [0.0] * (len(points) - 1)
    return None


def _longest(curve: Any) -> float:
    """What a curve is at most as long as: a circle round an ellipse, the polygon of a spline's control or fit points (three times, for what fits)."""
    if curve.dxftype() == "ELLIPSE":
        return 2 * math.pi * curve.dxf.major_axis.magnitude
    fit, control = list(curve.fit_points), list(curve.control_points)
    return sum(math.dist(p, q) for p, q in pairwise(control)) + 3 * sum(math.dist(p, q) for p, q in pairwise(fit))


def _polyline(rows: list[tuple[float, float, float]], closed: bool, mirrored: bool) -> Run | None:
    if len(rows) < 2:
        return None
    sign = -1.0 if mirrored else 1.0
    points = [(sign * x, y) for x, y, _ in rows]
    bulges = [sign * b for _, _, b in rows]
    if closed:
        return [*points, points[0]], bulges
    return points, bulges[:-1]
