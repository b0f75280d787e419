"""A built design as plain data for screens: values, parts, joints, problems; flats and solids as resources under their hash."""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import partial
from typing import Any

import numpy as np

from zygon.build.built import Built, BuiltJoint, BuiltPart, Flat
from zygon.build.flat import mesh_of
from zygon.build.memo import Memo, digest
from zygon.check.problem import Problem
from zygon.cut.kerf import compensated, cut_on_the_line, kerf_of
from zygon.cut.reckon import Reckoning, cutting_order, reckon
from zygon.design.document import Board, Document
from zygon.errors import ExpressionError, ZygonError
from zygon.exchange.cutlist import CutRow, cut_list
from zygon.exchange.svg import path_data
from zygon.geometry.contour import Contour
from zygon.nest.design import StockNest, StockPlan, lying, placed_contours, plans

__all__ = ["built_data", "nest_data", "part_resources", "plan_data", "problem_data", "resource"]

_RESOURCES = Memo(6000)


def built_data(built: Built, problems: list[Problem]) -> dict[str, Any]:
    """Everything of a built design but its flats and solids."""
    rows = {r.key: r for r in cut_list(built)}
    return {
        "values": {k: {"value": v.value, "kind": v.kind, "stale": v.stale} for k, v in built.values.items()},
        "parts": [_part(built, p, rows[k]) for k, p in built.parts.items()],
        "joints": [_joint(built, j) for j in built.joints.values()],
        "problems": [problem_data(p) for p in problems],
        "totals": _totals(built),
        "plans": _plans(built),
    }


def _part(built: Built, part: BuiltPart, row: CutRow) -> dict[str, Any]:
    data: dict[str, Any] = {
        "key": part.key, "path": part.path, "number": row.number, "kind": part.record.kind, "made": part.record.made,
        "quantity": part.record.quantity, "stale": part.stale, "length": row.length, "width": row.width, "area": row.area, "mass": row.mass,
        "thickness": part.flat.thickness if part.flat else None, "stock": part.record.stock if isinstance(part.record, Board) else "",
        "solid": "", "flat": "", "matrix": part.matrix, "handed": part.handed, "low": None, "high": None,
    }  # fmt: skip
    if part.flat and part.flat.pieces and part.box:
        data |= {
            "solid": f"solid-{part.flat.digest}", "flat": _flat_id(built.document, part), "low": part.box.low, "high": part.box.high,
            "face_a": part.frame.face_a, "face_b": part.frame.face_b, "u": part.frame.u, "v": part.frame.v,  # type: ignore[union-attr]
            "origin": [part.span_box.span(a)[0] for a in (part.frame.u, part.frame.v)],  # type: ignore[union-attr]
        }  # fmt: skip
    return data


def _joint(built: Built, joint: BuiltJoint) -> dict[str, Any]:
    names = [built.parts[k].path for k in (joint.a, joint.b)]
    return {
        "key": joint.key, "kind": joint.kind, "a": joint.a, "b": joint.b, "title": "–".join(names), "contact": joint.contact, "axis": joint.axis,
        "run": joint.run, "fingers": [{"low": f.low, "high": f.high, "owner": f.owner} for f in joint.fingers], "fit": joint.fit,
        "refused": joint.refused, "details": joint.details,
    }  # fmt: skip


def problem_data(problem: Problem) -> dict[str, Any]:
    """A problem as plain data."""
    f = problem.fault
    return {
        "id": problem.id, "code": f.code, "severity": f.severity, "message": f.message, "rule": f.rule, "value": f.value, "source": f.source,
        "part": f.part, "other": f.other, "owner": f.owner, "entry": f.entry, "at": f.at, "reopened": problem.reopened,
        "kept": {"reason": problem.kept.reason, "by": problem.kept.by} if problem.kept else None,
        "mends": [{"label": m.label, "patch": m.patch} for m in f.mends],
    }  # fmt: skip


def _totals(built: Built) -> dict[str, Any]:
    """Mass in g and bought price over all copies, and cutting reckoned without the travel on sheets."""
    document = built.document
    mass = price = seconds = cost = 0.0
    known = True
    for row in cut_list(built):
        mass += (row.mass or 0.0) * row.quantity
        price += row.price * row.quantity if row.made == "bought" else 0.0
    for part in built.parts.values():
        if part.flat and part.flat.pieces and part.record.made == "cut":
            found = _part_reckoning(document, part)
            seconds += found.seconds * part.record.quantity
            cost += found.cost * part.record.quantity
            known &= found.known
    return {"mass": mass, "bought": price, "cut_seconds": seconds, "cut_cost": cost, "known": known}


def _part_reckoning(document: Document, part: BuiltPart) -> Reckoning:
    stock = part.record.stock  # type: ignore[union-attr]
    cutter = document.cutters.get(document.cutter)
    key = digest("reckon", part.flat.digest, stock, cutter)  # type: ignore[union-attr]
    return _RESOURCES.get(key, lambda: reckon(cutting_order([compensated(part.flat, _kerf(document, stock))]), cutter, stock))[0]  # type: ignore[arg-type]


def _kerf(document: Document, stock: str) -> float:
    try:
        return kerf_of(document, stock)
    except ExpressionError:
        return 0.0


def _plans(built: Built) -> list[dict[str, Any]]:
    """What is to be nested by stock, with a rough count of sheets from the area alone."""
    try:
        return [plan_data(p) for p in plans(built)]
    except ZygonError:  # a broken sheet size or gap is a problem already; there is nothing to nest until it is mended
        return []


def plan_data(plan: StockPlan) -> dict[str, Any]:
    """A stock's nesting work: its hash, how many copies, and the count of sheets that the area lets expect."""
    copies = sum(s.quantity for s in plan.tasks[0][2].shapes) if plan.tasks else 0
    area = sum(s.region.area * s.quantity for s in plan.tasks[0][2].shapes) if plan.tasks else 0.0
    sheets = 0
    if plan.tasks and math.isfinite(plan.tasks[0][2].sheet.length):
        sheet = plan.tasks[0][2].sheet
        sheets = math.ceil(area / (0.72 * sheet.length * sheet.width))
    return {"stock": plan.stock, "digest": plan.digest, "copies": copies, "area": area, "expected_sheets": sheets}


def _flat_id(document: Document, part: BuiltPart) -> str:
    return f"flat-{digest(part.flat.digest, part.record.up, _kerf(document, part.record.stock))}"  # type: ignore[union-attr]


def part_resources(built: Built, have: Iterable[str] = ()) -> dict[str, dict[str, Any]]:
    """The flats and solids of a design by their hash, but for those that the reader has."""
    known = set(have)
    found = {}
    for part in built.parts.values():
        if not (part.flat and part.flat.pieces and part.box):
            continue
        solid, flat = f"solid-{part.flat.digest}", _flat_id(built.document, part)
        if solid not in known:
            found[solid] = _RESOURCES.get(solid, partial(_solid_data, part.flat))[0]
        if flat not in known:
            kerf = _kerf(built.document, part.record.stock)  # type: ignore[union-attr]
            found[flat] = _RESOURCES.get(flat, lambda: _flat_data(lying(part), kerf))[0]  # noqa: B023 - called at once
    return found


def resource(key: str) -> dict[str, Any] | None:
    """A flat or solid by its hash while it is remembered."""
    return _RESOURCES.peek(key)


def _solid_data(flat: Flat) -> dict[str, Any]:
    """Positions (x, y, z runs), triangle corners, an owner a run of triangles, and ink edges."""
    positions: list[np.ndarray] = []
    triangles: list[np.ndarray] = []
    edges: list[np.ndarray] = []
    owners: list[str] = []
    n = 0
    for mesh in mesh_of(flat):
        positions.append(mesh.positions)
        triangles.append(mesh.triangles + n)
        n += len(mesh.positions)
        owners += mesh.owners
        edges.append(mesh.edges.reshape(-1, 3))
    names: list[str] = []
    counts: list[int] = []
    for owner in owners:
        if names and names[-1] == owner:
            counts[-1] += 1
        else:
            names.append(owner)
            counts.append(1)
    return {
        "positions": np.round(np.vstack(positions), 4).ravel().tolist(),
        "triangles": np.vstack(triangles).ravel().tolist(),
        "owners": names,
        "counts": counts,
        "edges": np.round(np.vstack(edges), 4).ravel().tolist(),
    }


def _flat_data(flat: Flat, kerf: float) -> dict[str, Any]:
    """A flat as paths (y turned down about 0), nominal and as cut, with what would come out if it were cut on the line."""
    plain, cut = compensated(flat, 0.0), compensated(flat, kerf)
    contours = []
    for operation, group, paths in (
        ("mark", plain.marks, cut.marks),
        ("inside", plain.inside, cut.inside),
        ("outside", plain.outside, cut.outside),
    ):
        for contour, path in zip(group, paths, strict=True):
            contours.append(_contour(operation, contour, path, kerf))
    x0, y0, x1, y1 = flat.bounds
    return {
        "bounds": [x0, y0, x1, y1],
        "kerf": kerf,
        "contours": contours,
        "thickness": flat.thickness,
        "narrow": [list(n.at) for n in cut.narrow],
    }


def _contour(operation: str, contour: Contour, path: Contour, kerf: float) -> dict[str, Any]:
    round_ = contour.as_circle
    width, height = cut_on_the_line(contour, kerf, operation == "outside") if operation != "mark" else (0.0, 0.0)
    return {
        "operation": operation, "d": path_data(contour), "cut": path_data(path), "bounds": contour.bounds, "circle": round_,
        "owners": [[o, path_data(Contour((s.p, s.q), (s.bulge,), (o,), closed=False))] for o, s in zip(contour.owners, contour.segments(), strict=True)]
        if len(set(contour.owners)) > 1 else [[contour.owners[0], ""]],
        "on_line": [width, height], "length": path.length,
    }  # fmt: skip


def nest_data(document: Document, found: StockNest) -> dict[str, Any]:
    """A stock's layout as plain data: sheets with placed paths, share of the area used, time and cost."""
    sheets = []
    for n, sheet in enumerate(found.layout.sheets):
        parts = [_placed(document, found.plan, p) for p in sheet.placements]
        reckoning = found.reckonings[n] if n < len(found.reckonings) else None
        length = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
        area = sum(found.plan.flats[p.shape].pieces[0].area for p in sheet.placements)
        sheets.append({
            "length": length, "width": sheet.sheet.width, "roll": sheet.sheet.roll, "used_length": round(sheet.used_length, 2), "share": area / (length * sheet.sheet.width),
            "parts": parts, "offcut": [round(x, 2) for x in (sheet.offcut.x, sheet.offcut.y, sheet.offcut.length, sheet.offcut.width)] if sheet.offcut else None,
            "cut_length": reckoning.cut_length if reckoning else 0.0, "pierces": reckoning.pierces if reckoning else 0,
            "seconds": reckoning.seconds if reckoning else 0.0, "cost": reckoning.cost if reckoning else 0.0, "known": bool(reckoning and reckoning.known),
        })  # fmt: skip
    task = next(t for name, _, t in found.plan.tasks if name == found.sheet)
    return {
        "stock": found.plan.stock, "digest": found.plan.digest, "sheet": found.sheet, "sheets": sheets, "share": found.layout.share,
        "sheet_cost": found.sheet_cost, "gap": task.gap, "margin": task.margin, "passes": found.layout.passes, "stopped": found.layout.stopped,
        "unplaced": {found.plan.parts[i]: n for i, n in found.layout.unplaced.items()}, "kerf": _kerf(document, found.plan.stock),
        "order": list(dict.fromkeys(found.plan.parts[p.shape] for s in found.layout.sheets for p in s.placements)),
        "placements": [[[p.shape, p.copy, p.x, p.y, p.angle, p.mirrored] for p in s.placements] for s in found.layout.sheets],
    }  # fmt: skip


def _placed(document: Document, plan: StockPlan, placement) -> dict[str, Any]:
    contours = placed_contours(document, plan, placement, 0.0)
    x0, y0, x1, y1 = contours.outside[0].bounds
    return {
        "part": plan.parts[placement.shape], "copy": placement.copy, "angle": placement.angle, "middle": [(x0 + x1) / 2, (y0 + y1) / 2],
        "size": [x1 - x0, y1 - y0], "outside": path_data(contours.outside[0]), "inside": [path_data(c) for c in contours.inside],
        "marks": [path_data(c) for c in contours.marks],
    }  # fmt: skip
