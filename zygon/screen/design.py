"""A built design as plain data for screens: values, parts, joints, problems; flats and solids as resources under their hash."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np
import shapely

from zygon.check.clearance import clearance_of
from zygon.check.problem import Problem
from zygon.cut.kerf import ByHand, by_hand_of, compensated, cut_on_the_line, kerf_of
from zygon.cut.reckon import Reckoning, cutting_order, reckon
from zygon.design.document import Document
from zygon.design.parts.kinds import is_placed, is_plate
from zygon.errors import ExpressionError, ZygonError
from zygon.exchange.bundle import needs_turning
from zygon.exchange.cutlist import CutRow, cut_list
from zygon.exchange.svg import path_data
from zygon.exchange.to_buy import BuyRow, to_buy
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour
from zygon.making.asked.measured import Lost
from zygon.making.connector.body import ConnectorBody
from zygon.making.flats.face_words import bend_words, end_words, face_word, own_words
from zygon.making.flats.flat import edge_bore_axis, lying, turned_over
from zygon.making.hardware.body import HardwareBody
from zygon.making.kinds.registry import meshes_of, sizes_of
from zygon.making.metal.bend_table import bend_rows
from zygon.making.metal.rounding import sharp_corners
from zygon.making.metal.tapered import cut_back
from zygon.making.movement.pieces import moves_in_itself
from zygon.making.result.built import Built, BuiltJoint, BuiltPart, FlatPart, MadePart
from zygon.making.result.flat import Flat
from zygon.making.result.operations import EdgeBore, SkewBore
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.memo import Memo, digest
from zygon.nest.bars_of_design import bar_work
from zygon.nest.design import StockNest, StockPlan, placed_contours, plans, reckoned
from zygon.nest.left_over import reason_of
from zygon.nest.record import placements_data
from zygon.nest.remainder import largest_rectangle, rests_of
from zygon.nest.task import Placement
from zygon.screen.hardware import bought_data, fitted_data, hardware_solids, set_data
from zygon.screen.lying import lying_data
from zygon.screen.members import bent_data, connector_data, frame_data, member_data
from zygon.screen.shown.design import (
    ShownBuilt,
    ShownClearance,
    ShownFit,
    ShownJoint,
    ShownPart,
    ShownPlan,
    ShownPlate,
    ShownProblem,
    ShownTotals,
)
from zygon.screen.shown.shapes import ShownContour, ShownFlat, ShownOperation, ShownSkew, ShownSolid
from zygon.screen.shown.sheets import KeptLayout, ShownPlaced, ShownSheet
from zygon.screen.skin import skin_data
from zygon.stock.fit import fit_state

__all__ = ["built_data", "nest_data", "part_resources", "plan_data", "problem_data"]

_RESOURCES = Memo(6000)


def built_data(built: Built, problems: list[Problem]) -> ShownBuilt:
    """Everything of a built design but its flats and solids."""
    listed, bars, bought = cut_list(built), bar_work(built), to_buy(built)
    rows = {k: r for r in listed for k in r.keys}
    data: ShownBuilt = {
        "values": {k: {"value": v.value, "kind": v.kind, "stale": v.stale, "reading": v.reading} for k, v in built.values.items()},
        "parts": [_part(built, p, rows[k]) for k, p in built.parts.items()],
        "rows": [
            {
                "number": r.number,
                "code": r.code,
                "keys": list(r.keys),
                "name": r.part,
                "quantity": r.quantity,
                "handed_of": r.handed_of,
                "group": r.group,
            }
            for r in listed
        ],
        "joints": [_joint(built, j) for j in built.joints.values()],
        "clearances": _clearances(built),
        "problems": [problem_data(p) for p in problems],
        "totals": _totals(built, listed, bought),
        "bars": [{"stock": b.stock, "plan": b.plan, "refused": b.refused, "digest": b.digest} for b in bars],  # type: ignore[typeddict-item]
        "plans": _plans(built),
        "fits": _fits(built),
        "to_buy": [bought_data(r) for r in bought],
    }
    if built.document.frames:
        data["frames"] = [frame_data(built, k) for k in built.document.frames]
    if built.sets:
        data["sets"] = [set_data(built, k) for k in built.sets]
    fitted = fitted_data(built)
    if fitted:
        data["fitted"] = fitted
    return data


def _part(built: Built, part: BuiltPart, row: CutRow) -> ShownPart:
    record, made, flat = part.record, built.made.get(part.key), built.flats.get(part.key)
    body = made if made and not made.body.empty else None
    low, high = _reaches(body, flat) if body else (None, None)
    data: ShownPart = {
        **(_plate(built, flat) if flat else NO_PLATE),
        "key": part.key,
        "of": part.of,
        "path": part.path,
        "number": row.number,
        "code": row.code,
        "made_by": [list(m) for m in part.made_by],
        "kind": record.kind,
        "made": record.made,
        "quantity": record.quantity,
        "stale": part.stale,
        "length": row.length,
        "width": row.width,
        "area": row.area,
        "mass": row.mass,
        "thickness": sizes_of(made).thickness if made else None,
        "stock": record.stock if is_placed(record) else "",
        "nominal": row.nominal,
        "measured": row.measured,
        "note": row.note,
        "solid": f"solid-{body.body.digest}" if body else "",
        "matrix": [*made.matrix] if made else [],
        "handed": part.handed,
        "low": low,
        "high": high,
    }
    if body and isinstance(body.body, MemberBody):
        data["member"] = member_data(built, body, body.body)
    elif body and isinstance(body.body, BentBody):
        data["member"] = bent_data(built, body, body.body)
    elif body and isinstance(body.body, ConnectorBody):
        data["connector"] = connector_data(built, body, body.body)
    elif body and isinstance(body.body, HardwareBody):
        data["hardware"] = lying_data(built, body, body.body)
    return data


def _reaches(part: MadePart, flat: FlatPart | None) -> tuple[Sequence[float], Sequence[float]]:
    """The low and the high corner of what a part takes up in the room."""
    own = part.place.plain and not part.made_by and not (flat and flat.flat.fold)
    return (part.box.low, part.box.high) if own else part.reaches


#: Of what lies in no plane.
NO_PLATE: ShownPlate = {
    "has": [],
    "folded": False,
    "sharp": 0,
    "turns": False,
    "cut_back": {},
    "corners": [],
    "flat": "",
    "face_a": "",
    "face_b": "",
    "u": "",
    "v": "",
    "words": {},
    "bend_words": {},
    "ends": [],
    "origin": [],
}


def _plate(built: Built, part: FlatPart) -> ShownPlate:
    """What is told of a part that lies in a plane beside."""
    flat, fold = part.flat, part.flat.fold
    data: ShownPlate = {
        **NO_PLATE,
        "has": _has(flat),
        "folded": bool(fold),
        "sharp": len(sharp_corners(flat)),
        "turns": needs_turning(part),
    }
    if fold:
        data |= {"cut_back": {k: list(w) for k, w in cut_back(fold).items()}, "corners": [list(c) for c in fold.corners]}
    if not flat.empty:
        data |= {
            "flat": _flat_id(built.document, part),
            "face_a": face_word(part, "a"),
            "face_b": face_word(part, "b"),
            "u": part.frame.u,
            "v": part.frame.v,
            "words": own_words(part),
            "bend_words": {k: list(w) for k, w in bend_words(part).items()},
            "ends": [list(e) for e in end_words(part)],
            "origin": [part.span_box.span(a)[0] for a in (part.frame.u, part.frame.v)],
        }
    return data


def _has(flat: Flat) -> list[list[Any]]:
    """What a part has, to be searched for: words of the trade with a size in mm (0 for none)."""
    found = list[tuple[str, float]]()
    for contour in flat.inside:
        round_ = contour.as_circle
        found.append(("hole", 2 * round_[2]) if round_ else ("cut-out", 0.0))
    found += [
        ("hole" if p.what == "hole" and p.as_circle else p.what, 2 * p.as_circle[2] if p.as_circle else p.depth) for p in flat.pockets
    ]
    found += (
        [("bore", b.diameter) for b in flat.bores]
        + [("bore", d.diameter) for d in flat.skew_bores]
        + [("countersink", s.diameter) for s in flat.sinks]
    )
    found += [("bend", b.radius) for b in flat.fold.bends] if flat.fold else []
    found += [({"round": "round-over"}.get(e.shape, e.shape), e.width) for e in flat.edges] + [("band", b.thickness) for b in flat.bands]
    found += [("bevel", 0.0)] * bool(flat.bevels) + [("mark", 0.0)] * bool(flat.engraved)
    return [list(x) for x in dict.fromkeys((w, round(size, 4)) for w, size in found)]


def _clearances(built: Built) -> list[ShownClearance]:
    """The room that every stated clearance has now; None where a place of it is gone."""
    found: list[ShownClearance] = []
    for key, rule in built.document.clearances.items():
        try:
            room = None if rule.out else clearance_of(built, rule)
        except Lost:
            room = None
        found.append({"key": key, "room": room})
    return found


def _joint(built: Built, joint: BuiltJoint) -> ShownJoint:
    names = [built.parts[k].path for k in (joint.a, joint.b)]
    return {
        "key": joint.key,
        "kind": joint.kind,
        "a": joint.a,
        "b": joint.b,
        "title": "–".join(names),
        "contact": joint.contact,
        "axis": joint.axis,
        "run": joint.run,
        "fingers": [{"low": f.low, "high": f.high, "owner": f.owner} for f in joint.fingers],
        "fit": joint.fit,
        "refused": joint.refused,
        "details": joint.details,
        "across": joint.across,
        "form": joint.form,
        "fastened": joint.fastened,
        "ends": list(joint.ends),
        "sides": list(joint.sides),
        "copies": [list(p) for p in joint.copies],
    }


def problem_data(problem: Problem) -> ShownProblem:
    """A problem as plain data."""
    f = problem.fault
    return {
        "id": problem.id,
        "code": f.code,
        "severity": f.severity,
        "message": f.message,
        "rule": f.rule,
        "value": f.value,
        "source": f.source,
        "part": f.part,
        "other": f.other,
        "owner": f.owner,
        "entry": f.entry,
        "at": f.at,
        "reopened": problem.reopened,
        "lost": f.lost,
        "kept": {"reason": problem.kept.reason, "by": problem.kept.by} if problem.kept else None,
        "mends": [{"label": m.label, "patch": m.patch} for m in f.mends],
    }


def _totals(built: Built, listed: list[CutRow], bought: list[BuyRow]) -> ShownTotals:
    """Mass in g and bought price over all copies, and cutting reckoned without the travel on sheets."""
    document = built.document
    mass = price = seconds = cost = 0.0
    known = True
    cutter = digest(document.cutters.get(document.cutter))
    for row in listed:
        mass += (row.mass or 0.0) * row.quantity
        if row.made != "bought":  # what is bought is on the order, with what is spare
            price += row.price * row.quantity
    order = sum(one.total or 0.0 for one in bought)
    unpriced = sum(one.total is None for one in bought)
    for part in built.flats.values():
        if part.flat.pieces and part.record.cut_here:
            found = _part_reckoning(document, part, cutter)
            seconds += found.seconds * part.record.quantity
            cost += found.cost * part.record.quantity
            known &= found.known
    return {
        "mass": mass,
        "bought": price + order,
        "order": order,
        "unpriced": unpriced,
        "cut_seconds": seconds,
        "cut_cost": cost,
        "known": known,
    }


def _part_reckoning(document: Document, part: FlatPart, cutter: str) -> Reckoning:
    """What cutting a part takes; ``cutter`` is the digest of the document's."""
    stock = part.record.stock
    key = digest("reckon", part.flat.digest, part.record.up, stock, cutter)

    def make() -> Reckoning:
        flat = lying(part)
        sides = [compensated(flat, _kerf(document, stock), _left(document, stock))]
        if needs_turning(part):
            sides.append(replace(compensated(turned_over(flat), _kerf(document, stock), _left(document, stock)), inside=(), outside=()))
        return reckon(cutting_order(sides), document.cutters.get(document.cutter), stock, flat.thickness)

    return _RESOURCES.get(key, make)[0]


def _kerf(document: Document, stock: str) -> float:
    try:
        return kerf_of(document, stock)
    except ExpressionError:
        return 0.0


def _left(document: Document, stock: str) -> ByHand:
    try:
        return by_hand_of(document.cutters.get(document.cutter), stock)
    except ExpressionError:
        return ByHand()


def _fits(built: Built) -> list[ShownFit]:
    """Of every stock in use: whether its fits on the chosen cutter were tried, and with which kerf."""
    document = built.document
    found: list[ShownFit] = []
    for stock in dict.fromkeys(p.record.stock for p in built.parts.values() if is_plate(p.record) and p.record.cut_here):
        table = next((f for f in document.fits.values() if (f.stock, f.cutter) == (stock, document.cutter)), None)
        kerf = _kerf(document, stock)
        found.append({"stock": stock, "state": fit_state(table, kerf), "tested_kerf": table.tested_kerf if table else None, "kerf": kerf})
    return found


def _plans(built: Built) -> list[ShownPlan]:
    """What is to be nested by stock, with a rough count of sheets from the area alone."""
    try:
        return [plan_data(p) for p in plans(built)]
    except ZygonError:  # a broken sheet size or gap is a problem already; there is nothing to nest until it is mended
        return []


def plan_data(plan: StockPlan) -> ShownPlan:
    """A stock's nesting work: its hash, how many copies, and the count of sheets that the area lets expect."""
    area = sum(s.region.area * s.quantity for s in plan.task.shapes) if plan.task else 0.0
    sheets = 0
    if plan.task and not plan.task.sheet.roll:
        sheets = math.ceil(area / (0.72 * plan.task.sheet.area))
    return {
        "stock": plan.stock,
        "digest": plan.digest,
        "copies": plan.copies,
        "thickness": plan.flats[0].thickness if plan.flats else 0.0,
        "area": area,
        "expected_sheets": sheets,
    }


def _flat_id(document: Document, part: FlatPart) -> str:
    return f"flat-{digest(part.flat.digest, part.record.up, _kerf(document, part.record.stock), _left(document, part.record.stock))}"


def part_resources(built: Built, have: Iterable[str] = ()) -> dict[str, ShownSolid | ShownFlat]:
    """The flats and solids of a design by their hash, but for those that the reader has."""
    known = set(have)
    found: dict[str, ShownSolid | ShownFlat] = {}
    for part in built.made.values():
        if part.body.empty:
            continue
        solid = f"solid-{part.body.digest}"
        if solid not in known:
            found[solid] = _RESOURCES.get(solid, partial(_solid_data, part))[0]
        if part.key not in built.flats:
            continue
        own = built.flats[part.key]
        flat = _flat_id(built.document, own)
        if flat not in known:
            stock = own.record.stock
            found[flat] = _RESOURCES.get(flat, partial(_flat_data, lying(own), _kerf(built.document, stock), _left(built.document, stock)))[
                0
            ]
    return {**found, **hardware_solids(built, known)}


def _solid_data(part: MadePart) -> ShownSolid:
    """Positions (x, y, z runs), triangle corners, an owner a run of triangles, and ink edges."""
    positions: list[np.ndarray] = []
    triangles: list[np.ndarray] = []
    edges: list[np.ndarray] = []
    owners: list[str] = []
    n = 0
    for mesh in meshes_of(part):
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
    found: ShownSolid = {
        "skin": skin_data(part.flat) if isinstance(part, FlatPart) else None,
        "positions": np.round(np.vstack(positions), 4).ravel().tolist(),
        "triangles": np.vstack(triangles).ravel().tolist(),
        "owners": names,
        "counts": counts,
        "edges": np.round(np.vstack(edges), 4).ravel().tolist(),
    }
    if moves_in_itself(part):
        found["leaf"] = [len(triangles[0]), len(edges[0])]
    return found


def _flat_data(flat: Flat, kerf: float, left: ByHand) -> ShownFlat:
    """A flat as paths (y turned down about 0), nominal and as cut, with what would come out if it were cut on the line.

    ``under`` is the work on the face that lies down, as seen once the part is turned over.
    """
    under = turned_over(flat)
    x0, y0, x1, y1 = flat.bounds
    return {
        "bounds": [x0, y0, x1, y1],
        "kerf": kerf,
        "contours": _side_data(flat, kerf, left),
        "under": _side_data(under, kerf, left) if flat.worked(under.seen) or flat.fold else [],
        "bends": bend_rows(flat.fold) if flat.fold else [],
        "under_bends": bend_rows(under.fold) if under.fold else [],
        "seen": flat.seen,
        "thickness": flat.thickness,
        "narrow": [list(n.at) for n in compensated(flat, kerf, left).narrow],
        "bores": [
            {
                "edge": b.edge,
                "along": b.along,
                "w": b.w,
                "diameter": b.diameter,
                "depth": b.depth,
                "owner": b.owner,
                "line": _bore_line(flat, b),
            }
            for b in flat.bores
        ],
        "skew_bores": [_skew_data(flat, b) for b in flat.skew_bores],
        "edges": [
            {
                "path": path_data(c),
                "face": e.face,
                "shape": e.shape,
                "width": e.width,
                "height": e.height,
                "owner": e.owner,
                "spot": _spot_along(c),
            }
            for e in flat.edges
            for c in e.runs
        ],
        "bands": [
            {"path": path_data(c), "thickness": b.thickness, "of": b.of, "owner": b.owner, "spot": _spot_along(c)}
            for b in flat.bands
            for c in b.runs
        ],
    }


def _spot_along(run: Contour) -> list[float]:
    """The middle of a run's longest piece, and which way the board is from there."""
    longest = max(run.segments(), key=lambda s: s.length)
    (px, py), (qx, qy) = longest.p, longest.q
    dx, dy = qx - px, qy - py
    chord = math.hypot(dx, dy)
    # an arc to the left stands out to the right of its chord
    x, y = (px + qx) / 2 + longest.bulge * dy / 2, (py + qy) / 2 - longest.bulge * dx / 2
    return [x, y, -dy / chord, dx / chord]


def _skew_data(flat: Flat, bore: SkewBore) -> ShownSkew:
    """A hole drilled askew, seen from the face that lies up; its mouth there is among the notes."""
    up = flat.thickness if flat.seen == "a" else 0.0
    near, far = sorted((bore.start, bore.end), key=lambda p: abs(p[2] - up))
    return {
        "line": [*near[:2], *far[:2]],
        "diameter": bore.diameter,
        "lean": None if bore.along else math.degrees(math.acos(abs(bore.way[2]))),
        "under": "" if bore.along else path_data(bore.mouth(far)),
        "owner": bore.owner,
    }


def _bore_line(flat: Flat, bore: EdgeBore) -> list[float]:
    """An edge bore's axis on the flat as it lies: x0, y0, x1, y1."""
    (u0, v0, _), (u1, v1, _) = edge_bore_axis(bore)
    if flat.seen == "b":  # turned left to right about its own middle
        x0, _, x1, _ = flat.bounds
        u0, u1 = x0 + x1 - u0, x0 + x1 - u1
    return [u0, v0, u1, v1]


def _side_data(flat: Flat, kerf: float, left: ByHand) -> list[ShownContour]:
    plain, cut = compensated(flat, 0.0, left), compensated(flat, kerf, left)
    found: list[ShownContour] = []
    groups: tuple[tuple[ShownOperation, tuple[Contour, ...], tuple[Contour, ...]], ...] = (
        ("mark", plain.marks, cut.marks),
        ("note", plain.notes, cut.notes),
        ("inside", plain.inside, cut.inside),
        ("outside", plain.outside, cut.outside),
    )
    for operation, group, paths in groups:
        found += [_contour(operation, c, p, kerf, 0.0) for c, p in zip(group, paths, strict=True)]
    ground = shapely.Polygon()
    for (layer, contour), (_, path) in zip(plain.depths, cut.depths, strict=True):
        row = _contour("depth", contour, path, kerf, float(layer.rsplit("-", 1)[1]))
        if contour.closed and contour.area > 0:  # what stands inside a pocket belongs to it
            ground = shapely.difference(ground, to_polygon(contour, 0.05))
            found[-1] = _with_island(found[-1], row, ground)
        else:
            ground = to_polygon(contour, 0.05) if contour.closed else ground
            found.append(row)
    found += [_contour("drill", d.contour, d.contour, kerf, d.depth) for d in plain.drills]
    found += [_contour("bend-up" if way == "bend-up" else "bend-down", c, c, kerf, 0.0) for way, c in plain.bends]
    return found


def _with_island(pocket: ShownContour, row: ShownContour, ground: shapely.Geometry) -> ShownContour:
    """A pocket's row with an island in it; its label stands on the ``ground`` that is left of it."""
    owners = [o if o[1] else [o[0], pocket["d"]] for o in pocket["owners"]] + [o if o[1] else [o[0], row["d"]] for o in row["owners"]]
    spot = list(shapely.point_on_surface(ground).coords[0])
    return {
        **pocket,
        "d": pocket["d"] + row["d"],
        "cut": pocket["cut"] + row["cut"],
        "length": pocket["length"] + row["length"],
        "owners": owners,
        "spot": spot,
    }


def _contour(operation: ShownOperation, contour: Contour, path: Contour, kerf: float, depth: float) -> ShownContour:
    round_ = contour.as_circle
    cut = operation in ("inside", "outside")
    width, height = cut_on_the_line(contour, kerf, operation == "outside") if cut else (0.0, 0.0)
    x0, y0, x1, y1 = contour.bounds
    return {
        "operation": operation,
        "d": path_data(contour),
        "cut": path_data(path),
        "bounds": contour.bounds,
        "circle": round_,
        "depth": depth,
        "owners": [
            [o, path_data(Contour((s.p, s.q), (s.bulge,), (o,), closed=False))]
            for o, s in zip(contour.owners, contour.segments(), strict=True)
        ]
        if len(set(contour.owners)) > 1
        else [[contour.owners[0], ""]],
        "on_line": [width, height],
        "length": path.length,
        "spot": [(x0 + x1) / 2, (y0 + y1) / 2],
    }


def nest_data(document: Document, found: StockNest) -> KeptLayout:
    """A stock's layout as plain data: sheets with placed paths, share of the area used, time and cost; and what is needed to take it up again."""
    sheets: list[ShownSheet] = []
    found = reckoned(document, found)  # what a search tells on its way has its time and cost too
    task, hand = found.plan.task, found.plan.hand
    assert task
    locked = {(p.part, p.number) for s in hand.sheets.values() for p in s.placed.values() if p.locked or s.cut} if hand else set()
    cut = {(p.part, p.number) for s in hand.sheets.values() if s.cut for p in s.placed.values()} if hand else set()
    offcuts = {s.name for s in task.stock}
    for n, sheet in enumerate(found.layout.sheets):
        parts = [_placed(document, found.plan, p, locked) for p in sheet.placements]
        rest = max((r for r in map(largest_rectangle, rests_of(task, sheet)[:3]) if r), key=lambda r: r.length * r.width, default=None)
        reckoning = found.reckonings[n]
        length = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
        whole = length * sheet.sheet.width if sheet.sheet.roll else sheet.sheet.area
        area = sum(found.plan.flats[p.shape].pieces[0].area for p in sheet.placements)
        outline = sheet.sheet.outline
        sheets.append(
            {
                "size": sheet.sheet.name,
                "is_offcut": sheet.sheet.name in offcuts,
                "cut": any((p["part"], p["number"]) in cut for p in parts),
                "outline": "".join(path_data(c) for c in (outline.outer, *outline.inner)) if outline else "",
                "price": sheet.cost,
                "length": length,
                "width": sheet.sheet.width,
                "roll": sheet.sheet.roll,
                "used_length": round(sheet.used_length, 2),
                "share": area / whole,
                "parts": parts,
                "offcut": [round(x, 2) for x in (rest.x, rest.y, rest.length, rest.width)] if rest and not sheet.sheet.roll else None,
                "cut_length": reckoning.cut_length,
                "pierces": reckoning.pierces,
                "seconds": reckoning.seconds,
                "cost": reckoning.cost,
                "known": reckoning.known,
                "timed": "",
            }
        )
    return {
        "stock": found.plan.stock,
        "stock_name": document.stocks[found.plan.stock].name,
        "tint": document.stocks[found.plan.stock].tint,
        "currency": document.currency,
        "digest": found.digest,
        "hand": not found.found,
        "sheets": sheets,
        "share": found.layout.share,
        "sheet_cost": found.sheet_cost,
        "gap": task.gap,
        "margin": task.margin,
        "passes": found.layout.passes,
        "stopped": found.layout.stopped,
        "unplaced": {found.plan.parts[i]: n for i, n in found.layout.unplaced.items()},
        "reasons": {found.plan.parts[i]: reason_of(task, i) for i in found.layout.unplaced},
        "kerf": _kerf(document, found.plan.stock),
        "flats": {part: flat.digest for part, flat in zip(found.plan.parts, found.plan.flats, strict=True)},
        **placements_data(found),
    }


def _placed(document: Document, plan: StockPlan, placement: Placement, locked: set[tuple[str, int]]) -> ShownPlaced:
    contours = placed_contours(document, plan, placement, 0.0)
    x0, y0, x1, y1 = contours.outside[0].bounds
    part = plan.parts[placement.shape]
    return {
        "part": part,
        "number": placement.copy,
        "x": placement.x,
        "y": placement.y,
        "angle": math.degrees(placement.angle),
        "mirrored": placement.mirrored,
        "locked": (part, placement.copy) in locked,
        "middle": [(x0 + x1) / 2, (y0 + y1) / 2],
        "size": [x1 - x0, y1 - y0],
        "outside": path_data(contours.outside[0]),
        "inside": [path_data(c) for c in contours.inside],
        "marks": [path_data(c) for c in contours.marks],
        "depths": [path_data(c) for _, c in contours.depths],
    }
