"""Reading DXF entities as runs of lines and arcs in mm; blocks are unfolded, text, marks and notes left out."""

from __future__ import annotations

import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import ezdxf
from ezdxf import recover
from ezdxf.entities import DXFEntity

from zygon.errors import ImportFileError
from zygon.exchange.chain import Run
from zygon.geometry.arc import bulge_from_angle
from zygon.measure.units import INCH

__all__ = ["dxf_segments"]

#: $INSUNITS to mm; a file without a unit is read in mm.
UNITS = {0: 1.0, 1: INCH, 2: 12 * INCH, 4: 1.0, 5: 10.0, 6: 1000.0, 8: INCH * 1e-6, 9: INCH * 1e-3, 13: 1e-3, 14: 100.0}
#: Curves that are no arcs are divided to this (mm).
FLATTEN = 0.01
SKIPPED_LAYERS = ("MARK", "NOTE")
DEPTH = 8


def dxf_segments(path: Path) -> list[Run]:
    """Runs of all curves in model space. Raises ImportFileError for a file that is no DXF or has an unknown unit."""
    try:
        doc, _ = recover.readfile(path)
    except (ezdxf.DXFError, UnicodeDecodeError, ValueError) as error:
        raise ImportFileError(f"{path.name}: not a DXF that can be read ({error})", entry=str(path), rule="a valid DXF") from error
    unit = doc.header.get("$INSUNITS", 0)
    if unit not in UNITS:
        raise ImportFileError(f"{path.name}: its unit number {unit} is not known", entry=str(path), value=unit, rule="$INSUNITS")
    scale = UNITS[unit]
    runs: list[Run] = []
    for entity in _unfolded(doc.modelspace(), DEPTH):
        if entity.dxf.layer.upper() in SKIPPED_LAYERS:
            continue
        run = _run(entity)
        if run and len(run[1]):
            runs.append(([(x * scale, y * scale) for x, y in run[0]], run[1]))
    return runs


def _unfolded(entities, depth: int) -> Iterator[DXFEntity]:
    for entity in entities:
        if entity.dxftype() == "INSERT" and depth:
            yield from _unfolded(entity.virtual_entities(), depth - 1)
        else:
            yield entity


def _run(entity: Any) -> Run | None:
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
            rows = [tuple(r) for r in entity.get_points("xyb")]
            return _polyline(rows, entity.closed, entity.dxf.extrusion.z < 0)
        case "POLYLINE" if entity.is_2d_polyline:
            rows = [(v.dxf.location.x, v.dxf.location.y, v.dxf.get("bulge", 0.0)) for v in entity.vertices]
            return _polyline(rows, entity.is_closed, entity.dxf.extrusion.z < 0)
        case "ELLIPSE" | "SPLINE":
            points = [tuple(p)[:2] for p in entity.flattening(FLATTEN)]
            return points, [0.0] * (len(points) - 1)
    return None


def _polyline(rows: list[tuple[float, float, float]], closed: bool, mirrored: bool) -> Run | None:
    if len(rows) < 2:
        return None
    sign = -1.0 if mirrored else 1.0
    points = [(sign * x, y) for x, y, _ in rows]
    bulges = [sign * b for _, _, b in rows]
    if closed:
        return [*points, points[0]], bulges
    return points, bulges[:-1]
