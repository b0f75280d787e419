"""A profile drawn square to an edge of a plate: begun as one length, or as the flange is that stands there."""

from __future__ import annotations

import math
from typing import Literal

from zygon.design.flange_words import flange_words
from zygon.design.folding import DrawnProfile, Flange, Folding, Profile
from zygon.design.layout_operations import fresh_key, next_order
from zygon.design.parts.kinds import is_plate
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Curve, Drawing, DrawnArc, DrawnLine, DrawnPoint, Reference, Relation, RelationKind
from zygon.errors import DocumentError
from zygon.making.asked.drawings.on_flange import OnFlange
from zygon.making.metal.drawn_profile import ProfilePlane
from zygon.making.metal.legs import Leg, legs_of, record_of
from zygon.making.result.built import Built
from zygon.measure.display import exact_length
from zygon.measure.entry import Entry
from zygon.measure.units import INCH
from zygon.owner import flange_id
from zygon.tolerance import CONTACT, SEEN

__all__ = ["begin_profile"]

#: The first length of a new one stands so far off the plate (mm).
FIRST = 25.0
Pair = tuple[float, float]


def begin_profile(built: Built, part: str, edge: str = "", flange: str = "", toward: Literal["a", "b"] = "a") -> tuple[str, Patch]:
    """Label and patch that draw a profile on an ``edge`` of a plate, ``toward`` face a or b, or in place of a ``flange`` as that is.

    Raises DocumentError where that cannot be.
    """
    record = built.document.parts.get(part)
    if not is_plate(record):
        raise DocumentError(f"{part} is no board", entry="part", value=part, rule="a part in a plane, of metal that bends")
    folding = record.folding or Folding()
    said = folding.flanges.get(flange) if flange else None
    standing = said if isinstance(said, Flange | Profile) else None
    if flange and standing is None:
        rule = "a flange or a profile"
        raise DocumentError(f"{record.name} has no flange {flange} to be drawn", entry="flange", value=flange, rule=rule)
    if standing is not None:
        return _drawn_as_it_is(built, part, folding, flange, standing)
    stock = built.document.stocks.get(record.stock)
    if not (stock and (stock.bends or stock.bending)):
        name = stock.name if stock else record.stock
        raise DocumentError(f"{name} does not bend", entry="part", value=part, rule="a stock that is bent")
    key = fresh_key(folding.flanges, edge or "profile")
    long = FIRST if built.document.unit == "mm" else INCH
    new = DrawnProfile(edge=edge, lies=toward, order=next_order(folding.flanges))
    place = OnFlange(built, part, flange_id(part, key), new)
    corners = [(0.0, 0.0), (0.0, long if toward == "a" else -long)]
    new = new.model_copy(update={"drawing": _drawing(place.profile, corners, [None], built.document.unit)})
    value = new.model_dump(mode="json", exclude_none=True)
    patch: Patch = []
    if record.folding is None:
        patch.append({"op": "add", "path": pointer("parts", part, "folding"), "value": {"flanges": {key: value}}})
        if record.kind != "folded":
            patch.append({"op": "replace", "path": pointer("parts", part, "kind"), "value": "folded"})
    else:
        patch.append({"op": "add", "path": pointer("parts", part, "folding", "flanges", key), "value": value})
    return f"Draw a profile on {record.name}, {edge.replace('_', ' ')}", patch


def _drawn_as_it_is(built: Built, part: str, folding: Folding, key: str, flange: Flange | Profile) -> tuple[str, Patch]:
    if flange.on:
        rule = "one that stands on an edge of the plate"
        raise DocumentError(f"{flange_words(key, folding.flanges)} stands on another one", entry="flange", value=key, rule=rule)
    if isinstance(flange, Flange) and flange.gussets is not None:
        raise DocumentError("a drawn profile has no gussets", entry="flange", value=key, rule="a flange without gussets")
    shared = {f: getattr(flange, f) for f in DrawnProfile.model_fields if f in type(flange).model_fields and f not in ("kind", "toward")}
    new = DrawnProfile(**shared)
    place = OnFlange(built, part, flange_id(part, key), new)
    legs = [leg for leg in legs_of(place.values, place.blank, place.edges) if record_of(leg.key) == key and not leg.image]
    if not legs:
        raise DocumentError("It cannot be bent as it is", entry="flange", value=key, rule="a flange that stands")
    # its outer face is drawn where lengths run outside
    said = folding.measured(flange)
    first = "b" if legs[0].angle > 0 else "a"
    lies = {"face_a": "a", "face_b": "b", "inner": "a" if first == "b" else "b"}.get(said, first)
    new = new.model_copy(update={"lies": lies})
    place = OnFlange(built, part, flange_id(part, key), new)
    corners, radii = _corners(legs, place.blank.thickness, lies)
    update: dict[str, object] = {"drawing": _drawing(place.profile, corners, radii, built.document.unit)}
    own = flange.legs[0].radius if isinstance(flange, Profile) else None
    new = new.model_copy(update=update | ({"radius": own} if own is not None else {}))
    value = new.model_dump(mode="json", exclude_none=True)
    where = pointer("parts", part, "folding", "flanges", key)
    return f"Draw {flange_words(key, folding.flanges)} freely", [{"op": "replace", "path": where, "value": value}]


def _corners(legs: list[Leg], thickness: float, lies: str) -> tuple[list[Pair], list[float | None]]:
    """The sharps of legs along a face of the sheet, out from the edge and towards face A, and the end; of each corner the radius of that face where it is
    bent by another one than the first."""
    at, way = (0.0, 0.0), 0.0
    found: list[Pair] = []
    radii: list[float | None] = []
    before = 0.0
    for n, leg in enumerate(legs):
        radius = leg.radius + (0.0 if (leg.angle > 0) == (lies == "a") else thickness)
        setback = radius * math.tan(abs(leg.angle) / 2)
        along = setback - leg.inset if not n else before + legs[n - 1].straight + setback
        at = at[0] + along * math.cos(way), at[1] + along * math.sin(way)
        found.append(at)
        radii.append(None if abs(leg.radius - legs[0].radius) < CONTACT else radius)
        way, before = way + leg.angle, setback
    long = before + legs[-1].straight
    return [*found, (at[0] + long * math.cos(way), at[1] + long * math.sin(way))], radii


def _drawing(plane: ProfilePlane, corners: list[Pair], radii: list[float | None], unit: Literal["mm", "in"]) -> Drawing:
    """A line through corners, seen out from the edge, with what holds it: its first corner on the edge and the face, lengths, ways and angles.

    ``radii`` are of the arcs in the corners from the second on; where there is none, the part's own radius bends it.
    """
    points: dict[str, DrawnPoint] = {}
    curves: dict[str, Curve] = {}
    relations: dict[str, Relation] = {}
    edge_x = plane.on.zeros[0] == "its edge"
    references = {
        "edge": Reference(kind="line", seen=[0, -50, 0, 50] if edge_x else [-50, 0, 50, 0]),
        "face": Reference(kind="line", seen=[-50, 0, 50, 0] if edge_x else [0, -50, 0, 50], order=1),
    }

    def point(p: Pair) -> str:
        x, y = plane.placed(p)
        key = f"p{len(points) + 1}"
        points[key] = DrawnPoint(x=round(x, 6) + 0.0, y=round(y, 6) + 0.0)
        return key

    def say(kind: RelationKind, of: list[str], value: float | None = None, angle: bool = False) -> None:
        text = "" if value is None else f"{round(math.degrees(value), 6):.9g} deg" if angle else exact_length(value, unit)
        entry = Entry(text=text, unit=unit) if value is not None else None
        relations[f"r{len(relations) + 1}"] = Relation(kind=kind, of=of, entry=entry, order=len(relations))

    ends = [point(p) for p in corners]
    say("on", [ends[0], "face"])
    if abs(corners[0][0]) <= SEEN:
        say("on", [ends[0], "edge"])
    else:
        say("distance", [ends[0], "edge"], abs(corners[0][0]))
    begins = ends[0]
    for n in range(len(corners) - 1):
        line, radius = f"line{n + 1}", radii[n + 1] if n + 1 < len(radii) else None
        arc = _arc(corners, n + 1, radius) if radius is not None else None
        ending = point(arc[0]) if arc else ends[n + 1]
        curves[line] = DrawnLine(a=begins, b=ending, order=len(curves))
        whole = line
        if begins != ends[n] or arc:  # its length is said from corner to corner
            whole = f"help{n + 1}"
            curves[whole] = DrawnLine(a=ends[n], b=ends[n + 1], order=len(curves), helping=True)
            for corner in {ends[n], ends[n + 1]} - {begins, ending}:
                say("on", [corner, line])
        (ax, ay), (bx, by) = ((points[k].x, points[k].y) for k in (ends[n], ends[n + 1]))
        if abs(ax - bx) <= SEEN or abs(ay - by) <= SEEN:
            say("upright" if abs(ax - bx) <= SEEN else "level", [line])
        else:
            say("angle", [f"line{n}" if n else "face", line], _between(corners, n, plane, shared=begins == ends[n]), angle=True)
        say("distance", [whole], math.dist(corners[n], corners[n + 1]))
        begins = ending
        if arc and radius is not None:
            begins = point(arc[1])
            left = _left(corners, n + 1) == (plane.handed > 0)
            made = f"arc{n + 1}"
            a, b = (ending, begins) if left else (begins, ending)
            curves[made] = DrawnArc(a=a, b=b, centre=point(arc[2]), order=len(curves))
            say("tangent", [line, made])
            say("tangent", [f"line{n + 2}", made])
            say("radius", [made], radius)
    return Drawing(points=points, curves=curves, references=references, relations=relations)


def _ways(corners: list[Pair], n: int) -> tuple[Pair, Pair]:
    """The directions into a corner and out of it."""
    found = []
    for p, q in ((corners[n - 1], corners[n]), (corners[n], corners[n + 1])):
        long = math.dist(p, q)
        found.append(((q[0] - p[0]) / long, (q[1] - p[1]) / long))
    return found[0], found[1]


def _left(corners: list[Pair], n: int) -> bool:
    """Whether a corner turns to the left."""
    a, b = _ways(corners, n)
    return a[0] * b[1] - a[1] * b[0] > 0


def _arc(corners: list[Pair], n: int, radius: float) -> tuple[Pair, Pair, Pair]:
    """Where an arc in a corner begins and ends, and its middle."""
    (x, y), (a, b) = corners[n], _ways(corners, n)
    turn = math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1])
    back, side = radius * math.tan(abs(turn) / 2), math.copysign(radius, turn)
    start, end = (x - back * a[0], y - back * a[1]), (x + back * b[0], y + back * b[1])
    return start, end, (start[0] - side * a[1], start[1] + side * a[0])


def _between(corners: list[Pair], n: int, plane: ProfilePlane, *, shared: bool) -> float:
    """The angle at a corner between the lines that meet there, or that an arc is between; at the first one from the way in which the plate's face is drawn."""
    (ax, ay), (bx, by) = corners[n], corners[n + 1]
    # what is referred to runs along the plane's own ways
    forth = (1.0 if sum(plane.out) > 0 else -1.0, 0.0)
    before = (corners[n - 1][0] - ax, corners[n - 1][1] - ay) if n else forth
    way = (bx - ax, by - ay)
    angle = abs(math.atan2(before[0] * way[1] - before[1] * way[0], before[0] * way[0] + before[1] * way[1]))
    return angle if shared or not n else math.pi - angle
