"""The figure of a joint, drawn to its real values: sections through the built boards, and the figures that matter.

Paths are in mm with y turned down, about the window's low corner; so that half a millimetre of clearance is half a millimetre here.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import manifold3d
import numpy as np
import shapely

from zygon.geometry.boolean import region_polygon, to_polygon
from zygon.geometry.frame import FACES
from zygon.geometry.motion import of_rows
from zygon.geometry.solid import manifold_of
from zygon.making.flats.flat import edge_bore_axis, mesh_of
from zygon.making.result.built import Built, BuiltJoint, FlatPart
from zygon.making.solids.places import placed_layers
from zygon.screen.shown.joints import Figure, FigureFact, FigureShape, FigureView
from zygon.tolerance import EPS, WITHIN

__all__ = ["joint_figure"]

#: Words for figures in effect, in the order in which they are shown.
WORDS = {
    "depth": "deep",
    "depth_a": "let into the first",
    "depth_b": "let into the second",
    "width": "wide",
    "tail": "tail, widest",
    "root": "tail at its root",
    "pin": "pin, narrowest",
    "diameter": "diameter",
    "depth_face": "deep in the face",
    "depth_edge": "deep in the edge",
    "length": "long",
    "clearance": "clearance hole",
    "pilot": "pilot hole",
    "head": "countersink",
    "thickness": "tenon thick",
    "notch_a": "notch in the first",
    "stop": "stops short by",
    "web": "left beyond the slots",
    "together": "thick together",
}
#: The boards of a joint.
ENDS: tuple[Literal["a", "b"], ...] = ("a", "b")
COUNTS = {
    "count": "fingers",
    "number": {
        "tab_slot": "tabs",
        "mortise_tenon": "tenons",
        "dovetail": "tails",
        "dowels": "dowels",
        "screws": "screws",
        "edge_key": "keys",
    },
}


def joint_figure(built: Built, key: str) -> Figure | None:
    """Views and facts of a joint; None where it is refused or its boards have no place."""
    joint = built.joints.get(key)
    if joint is None or joint.refused:
        return None
    a, b = built.flats.get(joint.a), built.flats.get(joint.b)
    if a is None or b is None or not (a.flat.pieces and b.flat.pieces):
        return None
    views = [v for v in _views(joint, a, b) if v["shapes"]]
    return {"views": views, "facts": _facts(joint), "title": f"{a.path}–{b.path}"}


def _facts(joint: BuiltJoint) -> list[FigureFact]:
    found: list[FigureFact] = []
    words = COUNTS["number"]
    if joint.kind == "finger":
        found.append({"label": "fingers", "value": float(len(joint.fingers)), "kind": "count"})
    elif joint.kind in words and joint.fingers:
        found.append({"label": words[joint.kind], "value": float(len(joint.fingers)), "kind": "count"})  # type: ignore[index]
    if joint.kind in ("finger", "tab_slot", "mortise_tenon") and joint.fingers:
        found.append({"label": "narrowest", "value": min(f.high - f.low for f in joint.fingers), "kind": "length"})
    if "angle" in joint.details:
        found.append({"label": "slope", "value": joint.details["angle"], "kind": "angle"})
    for name, label in WORDS.items():
        if name in joint.details and (name != "length" or joint.kind == "screws") and (name != "stop" or joint.details[name] > 0):
            found.append({"label": label, "value": joint.details[name], "kind": "length"})
    return found[:6]


def _views(joint: BuiltJoint, a: FlatPart, b: FlatPart) -> list[FigureView]:
    if joint.contact.startswith("angle") or a.made_by or b.made_by or joint.kind == "mitre":
        return [_askew(a, b)]
    if not a.place.plain:  # both lie along the same axes before they are turned
        a, b = (replace(p, matrix=(p.place.inverse @ of_rows(p.matrix[:3])).rounded().matrix) for p in (a, b))
    box_a, box_b = a.box, b.box
    na, nb = a.frame.normal, b.frame.normal
    own = [f for f in joint.fingers if f.owner == joint.a] or list(joint.fingers)
    at = (own[0].low + own[0].high) / 2 if own else sum(joint.run) / 2
    if na != nb:
        slab_a, slab_b = a.span_box.span(na), b.span_box.span(nb)
        room = 1.3 * max(slab_a[1] - slab_a[0], slab_b[1] - slab_b[0])
        across = {na: (slab_a[0] - room, slab_a[1] + room), nb: (slab_b[0] - room, slab_b[1] + room)}
        along = {na: (slab_a[0] - room, slab_a[1] + room), joint.axis: (joint.run[0] - 2, joint.run[1] + 2)}
        depth = joint.details.get("depth") or joint.details.get("depth_face") or (slab_b[1] - slab_b[0])
        low_side = a.span_box.span(nb)[0] + a.span_box.span(nb)[1] < sum(slab_b)
        level = slab_b[0] + depth / 2 if low_side else slab_b[1] - depth / 2
        if joint.kind in ("butt", "cross_lap", "notch"):
            level = sum(slab_b) / 2
        view = _view(f"Along the joint, {FACES[joint.axis][0]} to {FACES[joint.axis][1]}", nb, level, along, a, b)
        if joint.kind == "dovetail":  # their slope is seen on the face of the board that has the tails
            seen = {nb: (slab_b[0] - room / 2, slab_b[1] + room / 2), joint.axis: along[joint.axis]}
            view = _view(f"Tails, seen on the face of {a.path.replace('_', ' ')}", na, sum(slab_a) / 2, seen, a, b)
        return [view, _view("Section across", joint.axis, at, across, a, b)]
    slab = (max(box_a.span(na)[0], box_b.span(na)[0]), min(box_a.span(na)[1], box_b.span(na)[1]))
    axes = [x for x in "xyz" if x != na]
    if joint.contact == "faces":
        t = max(a.flat.thickness, b.flat.thickness)
        other = next(x for x in axes if x != joint.axis)
        ends = [box_a.span(other), box_b.span(other)]
        both = (box_a.span(na), box_b.span(na))
        window = {
            other: (min(e[0] for e in ends) - t, max(e[1] for e in ends) + t),
            na: (min(x[0] for x in both) - t, max(x[1] for x in both) + t),
        }
        return [_view("Section across", joint.axis, at, window, a, b)]
    if joint.contact == "edge":
        t = a.flat.thickness
        reach = joint.details.get("depth") or joint.details.get("depth_edge") or 2 * t
        edge = _edge_at(joint, a, b)
        window = {joint.axis: (joint.run[0] - 2, joint.run[1] + 2), joint.across: (edge - 1.6 * reach, edge + 1.6 * reach)}
        section = {joint.across: (edge - 1.6 * reach, edge + 1.6 * reach), na: (slab[0] - t, slab[1] + t)}
        return [_view("In the plane", na, sum(slab) / 2, window, a, b), _view("Section across", joint.axis, at, section, a, b)]
    window = {}
    for x in axes:
        low, high = max(box_a.span(x)[0], box_b.span(x)[0]), min(box_a.span(x)[1], box_b.span(x)[1])
        window[x] = (low - (high - low) * 0.4, high + (high - low) * 0.4)
    split = slab[0] + (slab[1] - slab[0]) * 0.5
    if "depth_b" in joint.details:
        low_b, high_b = box_b.span(na)
        parting = (low_b + joint.details["depth_b"], high_b - joint.details["depth_b"])
        split = next((s for s in parting if slab[0] < s < slab[1]), split)
    middle = sum(window[next(x for x in axes if x != joint.axis)]) / 2
    section_axis = next(x for x in axes if x != joint.axis)
    t = slab[1] - slab[0]
    section = {joint.axis: window[joint.axis], na: (slab[0] - t, slab[1] + t)}
    return [
        _view("Just under the parting", na, split - 0.05, window, a, b),
        _view("Just over it", na, split + 0.05, window, a, b),
        _view("Section", section_axis, middle, section, a, b),
    ]


def _askew(a: FlatPart, b: FlatPart) -> FigureView:
    """A section square to the line in which two boards at an angle meet, through the middle of it; or through their plane."""
    m, n = (np.array(p.matrix)[:3, :3] for p in (a, b))
    along = np.cross(m[:, 2], n[:, 2])
    in_plane = np.linalg.norm(along) < WITHIN
    along = m[:, 2] if in_plane else along / np.linalg.norm(along)
    right = m[:, 0] if in_plane else np.cross(m[:, 2], along)
    right /= np.linalg.norm(right)
    view = np.array((right, np.cross(along, right), along))
    if view[1][2] < -EPS:  # up stays up
        view[0], view[1] = -view[0], -view[1]
    solids = [_turned_mesh(p, view) for p in (a, b)]
    boxes = [s.bounding_box() for s in solids]
    low, high = max(boxes[0][2], boxes[1][2]), min(boxes[0][5], boxes[1][5])
    shapes: list[FigureShape] = []
    polygons = []
    for solid in solids:
        rings = solid.slice((low + high) / 2).to_polygons()
        polygons.append(
            shapely.union_all([shapely.make_valid(shapely.Polygon(r)) for r in rings if len(r) > 2]) if rings else shapely.Polygon()
        )
    t = max(a.flat.thickness, b.flat.thickness)
    near = shapely.intersection(shapely.buffer(polygons[0], t), shapely.buffer(polygons[1], t))
    if near.is_empty:
        return {"title": "", "width": 0.0, "height": 0.0, "shapes": []}
    x0, y0, x1, y1 = near.bounds
    window = shapely.box(x0 - 1.5 * t, y0 - 1.5 * t, x1 + 1.5 * t, y1 + 1.5 * t)
    x0, y0, x1, y1 = window.bounds
    for who, polygon in zip(ENDS, polygons, strict=True):
        seen = shapely.intersection(polygon, window)
        if not seen.is_empty and seen.area > WITHIN:
            shapes.append({"part": who, "d": "".join(_path(p, x0, y1) for p in shapely.get_parts(seen) if p.geom_type == "Polygon")})
    return {"title": "In the plane" if in_plane else "Section across", "width": x1 - x0, "height": y1 - y0, "shapes": shapes}


def _turned_mesh(part: FlatPart, view: np.ndarray) -> manifold3d.Manifold:
    m = np.array(part.matrix)
    turned = np.column_stack((view @ m[:3, :3], view @ m[:3, 3]))
    pieces = [manifold_of(mesh, list(dict.fromkeys(mesh.owners))) for mesh in mesh_of(part.flat)]
    return (pieces[0] if len(pieces) == 1 else manifold3d.Manifold.compose(pieces)).transform(turned)


def _edge_at(joint: BuiltJoint, a: FlatPart, b: FlatPart) -> float:
    """Where along ``across`` the two edges meet."""
    one, other = a.span_box.span(joint.across), b.span_box.span(joint.across)
    return one[1] if abs(one[1] - other[0]) < abs(one[0] - other[1]) else one[0]


def _view(title: str, axis: str, at: float, window: dict[str, tuple[float, float]], a: FlatPart, b: FlatPart) -> FigureView:
    """A section by the plane ``axis`` = ``at``, cut to a window given along the two other axes."""
    vertical = "z" if "z" in window else "y"
    horizontal = next(x for x in window if x != vertical)
    tall = (window[vertical][1] - window[vertical][0]) / (window[horizontal][1] - window[horizontal][0])
    if tall > (1.6 if vertical == "z" else 1.1):
        horizontal, vertical = vertical, horizontal  # a long run lies on its side
    (h0, h1), (v0, v1) = window[horizontal], window[vertical]
    frame = shapely.box(h0, v0, h1, v1)
    shapes: list[FigureShape] = []
    for who, part in zip(ENDS, (a, b), strict=True):
        solid = shapely.intersection(_section(part, axis, at, horizontal, vertical), frame)
        if not solid.is_empty and solid.area > WITHIN:
            shapes.append({"part": who, "d": "".join(_path(p, h0, v1) for p in shapely.get_parts(solid) if p.geom_type == "Polygon")})
    return {"title": title, "width": h1 - h0, "height": v1 - v0, "shapes": shapes}


def _path(polygon: shapely.Polygon, left: float, top: float) -> str:
    parts = []
    for ring in (polygon.exterior, *polygon.interiors):
        points = shapely.get_coordinates(ring)[:-1]
        parts.append("M" + "L".join(f"{x - left:.3f} {top - y:.3f}" for x, y in points) + "Z")
    return "".join(parts)


def _section(part: FlatPart, axis: str, at: float, horizontal: str, vertical: str) -> shapely.Geometry:
    """A part cut by a plane, as polygons with x along ``horizontal`` and y along ``vertical``."""
    found = []
    for layer in placed_layers(part):
        if layer.normal == axis:
            if layer.low <= at <= layer.high:
                outline = _true_level(part, at) if part.flat.bevels else layer.outline
                found.append(outline if layer.u == horizontal else shapely.transform(outline, lambda xy: xy[:, ::-1]))
                break
            continue
        x0, y0, x1, y1 = layer.outline.bounds
        across_u = layer.u == axis
        line = shapely.LineString([(at, y0 - 1), (at, y1 + 1)]) if across_u else shapely.LineString([(x0 - 1, at), (x1 + 1, at)])
        other = layer.v if across_u else layer.u
        for piece in shapely.get_parts(shapely.intersection(layer.outline, line)):
            bx0, by0, bx1, by1 = piece.bounds
            low, high = (by0, by1) if across_u else (bx0, bx1)
            if high - low > WITHIN:
                spans = {other: (low, high), layer.normal: (layer.low, layer.high)}
                found.append(shapely.box(spans[horizontal][0], spans[vertical][0], spans[horizontal][1], spans[vertical][1]))
    solid = shapely.union_all(shapely.set_precision(found, WITHIN)) if found else shapely.Polygon()
    holes = _holes(part, axis, at, horizontal, vertical)
    return shapely.difference(solid, shapely.union_all(holes)) if holes else solid


def _true_level(part: FlatPart, at: float) -> shapely.Geometry:
    """The outline of a part with sloping cuts at one height, in the room."""
    flat, frame = part.flat, part.frame
    row = part.matrix["xyz".index(frame.normal)]
    share = (at - row[3]) * row[2] / flat.thickness
    body = shapely.union_all([region_polygon(p, 0.01) for p in flat.pieces])
    cut = shapely.difference(body, shapely.union_all([to_polygon(b.at(share)) for b in flat.bevels]))
    origin = [part.matrix["xyz".index(x)][3] for x in (frame.u, frame.v)]
    return shapely.transform(cut, lambda xy: xy + np.array(origin))


def _holes(part: FlatPart, axis: str, at: float, horizontal: str, vertical: str) -> list[shapely.Geometry]:
    """Bores in edges and countersinks where the plane runs through their middle, near enough."""
    matrix = np.array(part.matrix)

    def room(u: float, v: float, w: float) -> dict[str, float]:
        return dict(zip("xyz", (matrix @ (u, v, w, 1.0))[:3].tolist(), strict=True))

    found = []
    for bore in part.flat.bores:
        start, end = (room(*p) for p in edge_bore_axis(bore))
        r = bore.diameter / 2
        if abs(start[axis] - at) < r and abs(start[axis] - end[axis]) < WITHIN:
            low = {x: min(start[x], end[x]) - (r if abs(start[x] - end[x]) < WITHIN else 0.0) for x in "xyz"}
            high = {x: max(start[x], end[x]) + (r if abs(start[x] - end[x]) < WITHIN else 0.0) for x in "xyz"}
            found.append(shapely.box(low[horizontal], low[vertical], high[horizontal], high[vertical]))
    for sink in part.flat.sinks:
        t = part.flat.thickness
        w0, w1 = (t, t - sink.depth) if sink.face == "a" else (0.0, sink.depth)
        top, bottom = room(sink.u, sink.v, w0), room(sink.u, sink.v, w1)
        normal = part.frame.normal
        if abs(top[axis] - at) > sink.hole / 2 or axis == normal:
            continue
        other = horizontal if vertical == normal else vertical
        corners = [(top, -sink.diameter / 2), (top, sink.diameter / 2), (bottom, sink.hole / 2), (bottom, -sink.hole / 2)]
        points = [{normal: p[normal], other: p[other] + d} for p, d in corners]
        found.append(shapely.Polygon([(p[horizontal], p[vertical]) for p in points]))
    return found
