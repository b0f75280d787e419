"""Rules of where cuts and marks lie: on their part, clear of its edges, of one another, of joints and of bends."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import shapely

from zygon.check.called import called
from zygon.design.document import Document
from zygon.geometry.boolean import to_polygon
from zygon.making.result.built import FlatPart
from zygon.making.result.fault import Fault
from zygon.making.result.flat import Asked, Flat
from zygon.making.result.fold import Fold
from zygon.making.result.operations import Band, Cut, EdgeWork, Mark, Pocket, SkewBore
from zygon.measure.display import format_area, format_length
from zygon.owner import is_of, read_owner
from zygon.tolerance import EPS, SEEN, SLACK, WITHIN

__all__ = ["placed_faults"]

#: Shapes overlap, or lie outside, from this area on (mm²): less is rounding.
AREA = 1e-3
#: Chords this near to arcs (mm) are measured on.
SAGITTA = 0.005
#: What only just breaks out of an edge, by less than this (mm), was hardly meant as a notch.
JUST = 1.0
SOURCE = "geometry"
#: Cuts that belong inside a part; a slot or a rectangle may be meant as a notch.
CLOSED = ("hole", "hand_hold", "perforation", "fan")
NOTCHES = ("slot", "rectangle")
#: A board cut round a member that passes through it, or by it.
PASSAGE = "passage"


def placed_faults(document: Document, part: FlatPart) -> list[Fault]:
    """What is asked to be cut or marked where it cannot be, or where it spoils what is there."""
    flat = part.flat
    if flat.asked is None or flat.empty:
        return []
    outline = shapely.union_all([shapely.make_valid(to_polygon(c, SAGITTA)) for c in flat.asked.outline])
    own = _by_owner(part, flat.asked)
    cuts = {o: s for o, s in own.items() if _kind(document, part, o) in (*CLOSED, *NOTCHES, PASSAGE)}
    found = []
    half = bool(part.record.folding and part.record.folding.split)
    for owner, shapes in own.items():
        fault = _off(document, part, owner, shapes, outline, half=half or owner not in cuts)
        if fault:
            found.append(fault)
    found += _nothing_along(document, part, flat)
    gone = {f.owner for f in found}
    inside = {o: _together(s) for o, s in cuts.items() if o not in gone}
    return [
        *found,
        *_marks(document, part, flat.asked, outline),
        *_over_joints(document, part, flat.asked, inside),
        *_over(document, part, inside),
        *(_in_bends(document, part, flat.fold, inside) if flat.fold else []),
    ]


def _nothing_along(document: Document, part: FlatPart, flat: Flat) -> list[Fault]:
    """What should run along an edge of which nothing is left."""
    meant = dict.fromkeys(o.owner for o in (flat.asked.operations if flat.asked else ()) if isinstance(o, EdgeWork | Band))
    there = {e.owner for e in flat.edges} | {b.owner for b in flat.bands}
    rule = "an edge of which something is left"
    return [
        Fault("misses", f"{part.path}: {called(document, owner)} finds nothing of its edge", rule, "", SOURCE, part=part.key, owner=owner)
        for owner in meant
        if owner not in there
    ]


def _by_owner(part: FlatPart, asked: Asked) -> dict[str, list[shapely.Polygon]]:
    """The cuts and pockets of features and bores; joints and flanges place their own."""
    found: dict[str, list[shapely.Polygon]] = {}
    for o in asked.operations:
        if isinstance(o, Cut | Pocket) and is_of(o.owner, "feature", "bore"):
            found.setdefault(o.owner, []).append(to_polygon(o.contour, SAGITTA))
        elif isinstance(o, SkewBore) and not o.along:
            found.setdefault(o.owner, []).append(to_polygon(o.footprint, SAGITTA))
    return found


def _kind(document: Document, part: FlatPart, owner: str) -> str:
    """The kind of the feature that owns a cut; 'hole' for a bore, 'passage' for one round a member, '' for what is not told apart."""
    if is_of(owner, "bore"):
        bore = document.bores.get(read_owner(owner).key)
        return PASSAGE if bore and bore.member else "hole"
    board = part.record
    _, key, _, flange = read_owner(owner)
    features = board.features
    if flange and board.folding and flange in board.folding.flanges:
        features = getattr(board.folding.flanges[flange], "features", {})
    feature = features.get(key)
    return feature.kind if feature else ""


def _off(
    document: Document, part: FlatPart, owner: str, shapes: list[shapely.Polygon], outline: shapely.Geometry, *, half: bool
) -> Fault | None:
    """A cut beside its part, or one that breaks out of it."""
    kind = _kind(document, part, owner)
    valid = [s for s in shapes if s.is_valid]
    if sum(s.area for s in valid) < AREA:
        return None
    shapely.prepare(outline)
    clear = shapely.contains_properly(outline, np.array(shapes)) & (shapely.distance(np.array(shapes), outline.boundary) >= SLACK)
    if clear.all():
        return None
    what = called(document, owner)
    covered = [s.area if c else shapely.area(shapely.intersection(s, outline)) for s, c in zip(shapes, clear.tolist(), strict=True)]
    if sum(covered) < AREA:
        rule, at = "a cut lies on its part", _middle(_together(valid))
        return Fault(
            "off_part", f"{part.path}: {what} lies beside the part, and cuts nothing", rule, "", SOURCE, part=part.key, owner=owner, at=at
        )
    if half:
        return None
    deepest, at = 0.0, (0.0, 0.0)
    for shape, inside in zip(shapes, covered, strict=True):
        deep = 0.0
        if shape.area - inside > AREA:
            corners = shapely.points(shapely.get_coordinates(shapely.difference(shape, outline)))
            deep = float(shapely.distance(corners, outline).max())
        elif shape.boundary.distance(outline.boundary) < SLACK:
            deep = 2 * EPS
        if deep > deepest + EPS:
            deepest, at = deep, _middle(shape)
    # a board's corner or edge that a leg stands in, flush or not, is notched round it on purpose
    notch = kind == PASSAGE or (kind in NOTCHES and deepest >= JUST)
    if deepest == 0 or notch:
        return None
    shown = format_length(round(deepest, 3), document.display)
    how = f"breaks out of an edge by {shown}" if deepest > SLACK else "lies on an edge"
    return Fault(
        "breaks_out",
        f"{part.path}: {what} {how}",
        "a cut stays inside its part, or is a notch",
        shown,
        SOURCE,
        "warning" if kind in NOTCHES else "error",
        part.key,
        owner=owner,
        at=at,
    )


def _together(shapes: list[shapely.Polygon]) -> shapely.Geometry:
    """The union of cuts; those that lie apart from one another, as the holes of a field do, are taken as they are."""
    if not shapely.is_valid(shapes).all():
        return shapely.union_all(shapely.make_valid(shapes))
    pairs = shapely.STRtree(shapes).query(np.array(shapes), predicate="intersects")
    return shapely.MultiPolygon(shapes) if pairs.shape[1] == len(shapes) else shapely.union_all(shapes)


def _marks(document: Document, part: FlatPart, asked: Asked, outline: shapely.Geometry) -> list[Fault]:
    """Engraved lines and texts lie on the part."""
    lines: dict[str, list[shapely.Geometry]] = {}
    for o in asked.operations:
        if isinstance(o, Mark) and is_of(o.owner, "feature") and len(o.contour.points) > 1:
            points = o.contour.flatten(SAGITTA)
            lines.setdefault(o.owner, []).append(shapely.LineString([*points, points[0]] if o.contour.closed else points))
    found = []
    grown = shapely.buffer(outline, SEEN)
    shapely.prepare(grown)
    for owner, own in lines.items():
        beside = [line for line in own if not grown.covers(line)]
        if not beside:
            continue
        whole = shapely.union_all(own)
        corners = shapely.points(shapely.get_coordinates(whole))
        shown = format_length(round(float(shapely.distance(corners, outline).max()), 3), document.display)
        found.append(
            Fault(
                "mark_off",
                f"{part.path}: {called(document, owner)} runs {shown} beyond the part",
                "a mark lies on its part",
                shown,
                SOURCE,
                part=part.key,
                owner=owner,
                at=_middle(whole),
            )
        )
    return found


def _over_joints(document: Document, part: FlatPart, asked: Asked, cuts: dict[str, shapely.Geometry]) -> list[Fault]:
    """A cut over a joint's slot, or through a tab."""
    joints = [(o.owner, o.contour) for o in asked.operations if isinstance(o, Cut | Pocket) and is_of(o.owner, "joint")]
    joints += [(c.owners[0], c) for c in asked.outline if is_of(c.owners[0], "joint")]
    found: dict[tuple[str, str], Fault] = {}
    for joint, contour in joints:
        shape = to_polygon(contour, SAGITTA)
        for owner, cut in cuts.items():
            shared = shapely.intersection(cut, shape)
            if (owner, joint) in found or shared.area < AREA:
                continue
            shown = format_area(shared.area, document.display)
            found[owner, joint] = Fault(
                "over_joint",
                f"{part.path}: {called(document, owner)} runs into {called(document, joint)}",
                "a cut stays clear of joints",
                shown,
                SOURCE,
                part=part.key,
                owner=owner,
                at=_middle(shared),
            )
    return list(found.values())


def _over(document: Document, part: FlatPart, cuts: dict[str, shapely.Geometry]) -> list[Fault]:
    """Two cuts over each other."""
    found = []
    for (one, p), (other, q) in combinations(cuts.items(), 2):
        if not p.intersects(q):
            continue
        shared = shapely.intersection(p, q)
        if shared.area < AREA:
            continue
        shown = format_area(shared.area, document.display)
        found.append(
            Fault(
                "cuts_overlap",
                f"{part.path}: {called(document, one)} and {called(document, other)} lie over each other",
                "each cut has a place of its own",
                shown,
                SOURCE,
                "warning",
                part.key,
                owner=one,
                at=_middle(shared),
            )
        )
    return found


def _in_bends(document: Document, part: FlatPart, fold: Fold, cuts: dict[str, shapely.Geometry]) -> list[Fault]:
    """A cut that reaches into a bend without going across it."""
    found = []
    for owner, cut in cuts.items():
        for bend in fold.bends:
            strip = to_polygon(bend.outline, SAGITTA)
            shared = shapely.intersection(cut, strip)
            if shared.area < AREA:
                continue
            across = [
                (shapely.get_coordinates(g) - np.array(bend.start)) @ np.array(bend.outward)
                for g in shapely.get_parts(shared)
                if g.area > AREA
            ]
            if all(a.min() < SEEN and a.max() > bend.width - SEEN for a in across):
                continue  # it goes across the whole bend, and relieves it
            reach = max(min(a.max(), bend.width) - max(a.min(), 0.0) for a in across)
            shown = format_length(round(float(reach), 3), document.display)
            found.append(
                Fault(
                    "in_bend",
                    f"{part.path}: {called(document, owner)} reaches {shown} into {called(document, bend.owner)}'s bend, and is drawn out of shape",
                    "a cut stays clear of a bend, or goes right across it",
                    shown,
                    "common practice",
                    part=part.key,
                    owner=owner,
                    at=_middle(shared),
                )
            )
            break
    return found


def _middle(shape: shapely.Geometry) -> tuple[float, float]:
    """The middle of a shape; where that lies outside of it, a place in its largest piece."""
    x0, y0, x1, y1 = shape.bounds
    middle = shapely.Point((x0 + x1) / 2, (y0 + y1) / 2)
    if shape.distance(middle) > WITHIN:
        largest = max(shapely.get_parts(shape), key=lambda g: (g.area, g.length))
        middle = shapely.point_on_surface(largest)
    return middle.x, middle.y
