"""A drawing on a part for a screen: where it lies, what is loose, what contradicts, what may be referred to; and the same while it is led by hand."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from zygon.design.pointer import pointer
from zygon.drawing.anchored import anchored
from zygon.drawing.equations import beside
from zygon.drawing.freedoms import freedoms_of
from zygon.drawing.loops import spline_arcs, spline_ways, text_outlines
from zygon.drawing.measured import measured
from zygon.drawing.solver import Solved, solve_drawing
from zygon.drawing.words import relation_words, thing_words
from zygon.drawn.backdrop import Backdrop
from zygon.drawn.drawing import (
    DIMENSIONS,
    TAKES,
    Drawing,
    DrawnArc,
    DrawnCircle,
    DrawnLine,
    DrawnPoint,
    DrawnSpline,
    DrawnText,
    Reference,
    Relation,
)
from zygon.errors import DocumentError
from zygon.geometry.contour import Contour, circle
from zygon.making.asked.drawings.of import place_of
from zygon.making.asked.drawings.place import Place
from zygon.making.datums.drawings import Drawn, fast_words
from zygon.making.result.built import Built
from zygon.measure.display import format_angle, format_length
from zygon.screen.shown.drawing import (
    LedDrawing,
    ShownBackdrop,
    ShownCandidate,
    ShownClash,
    ShownCurve,
    ShownDrawing,
    ShownKind,
    ShownPoint,
    ShownReference,
    ShownRelation,
    ShownSaidAt,
    ShownText,
)
from zygon.tolerance import EPS, SEEN

__all__ = ["drawing_data", "led_drawing"]

#: Curves are shown as chords this near to them (mm).
NEAR = 0.02
KINDS: dict[str, str] = {
    "distance": "Distance",
    "across": "Distance across",
    "up": "Distance up",
    "angle": "Angle",
    "radius": "Radius",
    "diameter": "Diameter",
    "level": "Level",
    "upright": "Upright",
    "parallel": "Parallel",
    "square": "Square",
    "in_line": "In one line",
    "tangent": "Smooth, tangent",
    "equal": "Equal",
    "same_place": "On one place",
    "on": "On it",
    "middle": "In the middle",
    "mirrored": "Mirrored",
    "same_centre": "One centre",
    "held": "Held where it is",
}
Pair = tuple[float, float]
#: In a path of many runs: the pen is lifted.
LIFTED: Pair = ()  # type: ignore[assignment]


def drawing_data(built: Built, part: str, feature: str = "") -> ShownDrawing:
    """All that is told of a drawing while it is drawn. Raises DocumentError where there is none."""
    place, drawing = place_of(built, part, feature)
    drawn = place.drawn(drawing)
    solved, (du, dv) = drawn.solved, place.shift(drawn)
    free, called = freedoms_of(solved, place.adrift), fast_words(place.values, place.plane, drawing)
    clashing = {k for c in solved.clashes for k in c.relations}

    def moved(path: Sequence[Sequence[float]]) -> list[list[float]]:
        return [[round(p[0] + du, 4) + 0.0, round(p[1] + dv, 4) + 0.0] if p else [] for p in path]

    def said(key: str) -> str:
        return relation_words(drawing, drawing.relations[key], _figure(built, drawn, key), called)

    points: list[ShownPoint] = []
    for key in drawing.points:
        loose = free.points.get(key)
        state = "settled" if loose is None else "way" if loose.way else "free"
        points.append(
            {
                "key": key,
                "words": thing_words(drawing, key),
                "at": moved([solved.point(key)])[0],
                "state": state,  # type: ignore[typeddict-item]
                "way": list(loose.way) if loose and loose.way else None,
            }
        )
    curves: list[ShownCurve] = [
        {
            "key": k,
            "kind": c.kind,
            "words": thing_words(drawing, k),
            "name": c.name,
            "helping": c.helping,
            "points": list(c.points()),
            "path": moved(_path(solved, k)),
            "loose": k in free.radii,
            "text": _said(built, c) if isinstance(c, DrawnText) else None,
        }
        for k, c in sorted(drawing.curves.items(), key=lambda kc: (kc[1].order, kc[0]))
    ]
    references: list[ShownReference] = [
        {
            "key": k,
            "kind": r.kind,
            "words": thing_words(drawing, k, called),
            "path": moved(_fast_path(drawn.fast.get(k, tuple(r.seen)), r.kind, place)),
            "entries": _said_at(place, k, r),
            "follows": not r.stays,
        }
        for k, r in drawing.references.items()
    ]
    offered: list[ShownCandidate] = [
        {"id": c.id, "kind": c.reference.kind, "words": c.words, "path": _fast_path(tuple(c.reference.seen), c.reference.kind, place)}
        for c in place.candidates()
        if not any(r.alike(c.reference) for r in drawing.references.values())
    ]
    relations = [
        _relation(built, place, drawn, k, r, said(k), clashing, moved)
        for k, r in sorted(drawing.relations.items(), key=lambda kr: (kr[1].order, kr[0]))
    ]
    clashes: list[ShownClash] = [
        {
            "relations": [{"key": k, "words": said(k), "figure": k in drawn.figures} for k in c.relations],
            "left_out": c.left_out,
        }
        for c in solved.clashes
    ]
    return {
        "part": part,
        "feature": feature,
        "name": place.name,
        "title": place.title,
        "owner": place.owner,
        "side": place.side,
        "frame": [list(r) for r in place.motion.rows],
        "high": place.high,
        "low": list(place.low),
        "size": list(place.size),
        "shift": [du, dv],
        "ways": list(place.plane.ways),
        "where": place.where,
        "points": points,
        "curves": curves,
        "references": references,
        "candidates": offered,
        "relations": relations,
        "freedoms": free.count,
        "clashes": clashes,
        "twice": [{"key": f.relation, "words": said(f.relation), "figure": f.relation in drawn.figures} for f in free.twice],
        "faults": [{"words": f.message, "at": moved([f.at])[0]} for f in drawn.loops.faults],
        "kinds": [_kind(k) for k in KINDS],
        "backdrop": _backdrop(drawing.backdrop, (du, dv)) if drawing.backdrop else None,
        "solving": {
            "drawing": drawing.model_dump(mode="json", exclude_none=True),
            "figures": drawn.figures,
            "fast": {k: list(v) for k, v in drawn.fast.items()},
            "left_out": [c.left_out for c in solved.clashes],
            "adrift": list(place.adrift),
        },
    }


def _said_at(place: Place, key: str, reference: Reference) -> list[ShownSaidAt]:
    """The entries that say where a reference lies."""
    at, found = f"{place.where}{pointer('references', key)}", list[ShownSaidAt]()
    if reference.x is not None:
        found.append({"way": "x", "at": f"{at}/x", "axis": place.plane.ways[0]})
    if reference.y is not None:
        found.append({"way": "y", "at": f"{at}/y", "axis": place.plane.ways[1]})
    return found


def _backdrop(b: Backdrop, shift: Pair) -> ShownBackdrop:
    cos, sin = math.cos(math.radians(b.turned)) * b.scale, math.sin(math.radians(b.turned)) * b.scale
    return {
        "picture": b.picture,
        "name": b.name,
        "wide": b.wide,
        "high": b.high,
        "at": [b.at[0] + shift[0] - b.high * sin, b.at[1] + shift[1] + b.high * cos],
        "across": [cos, sin],
        "down": [sin, -cos],
        "crop": b.crop or [0.0, 0.0, 0.0, 0.0],
        "strength": b.strength,
        "locked": b.locked,
        "hidden": b.hidden,
    }


def _said(built: Built, c: DrawnText) -> ShownText:
    return {
        "text": c.text,
        "height": format_length(c.height, built.document.display),
        "turned": format_angle(math.radians(c.turned)),
        "font": c.font,
    }


def _kind(kind: str) -> ShownKind:
    return {"kind": kind, "words": KINDS[kind], "figure": kind in DIMENSIONS, "takes": list(TAKES[kind])}  # type: ignore[index]


def led_drawing(solving: Mapping[str, Any], to: Mapping[str, Pair], radii: Mapping[str, float], start: Mapping[str, Pair]) -> LedDrawing:
    """A drawing led by hand: ``solving`` is what ``drawing_data`` told, ``to`` where points are pulled, ``start`` where they were led before (mm, not shifted).

    Raises DocumentError where that is no drawing.
    """
    try:
        drawing = Drawing.model_validate(solving.get("drawing"))
        figures = {str(k): float(v) for k, v in dict(solving.get("figures") or {}).items()}
        fast = {str(k): tuple(float(x) for x in v) for k, v in dict(solving.get("fast") or {}).items()}
    except (ValidationError, TypeError, ValueError) as error:
        raise DocumentError(
            "This is no drawing that can be led", entry="solving", value=type(error).__name__, rule="what the drawing told"
        ) from None
    wrong = drawing.fault()
    lost = next((k for k in (*to, *start) if k not in drawing.points), None)
    if wrong or lost is not None:
        raise DocumentError("There is no such point in the drawing", entry="to", value=lost, rule="points of the drawing")
    out = set(solving.get("left_out") or ())
    kept = {k: r for k, r in drawing.relations.items() if k not in out}
    points = {**drawing.points, **{k: DrawnPoint(x=x, y=y) for k, (x, y) in start.items()}}
    curves = {
        k: c.model_copy(update={"radius": max(radii[k], SEEN)}) if isinstance(c, DrawnCircle) and k in radii else c
        for k, c in drawing.curves.items()
    }
    made = drawing.model_copy(update={"points": points, "relations": kept, "curves": curves})
    ways = [way for way in "xy" if way in (solving.get("adrift") or ())]
    solved = solve_drawing(anchored(made, ways, to), figures, fast, pulled=dict(to), rough=True)
    return {
        "points": {k: [round(x, 6) for x in solved.point(k)] for k in drawing.points},
        "radii": {k: round(solved.radius(k), 6) for k in solved.unknowns.radii},
        "paths": {k: [[round(x, 4) for x in p] for p in _path(solved, k)] for k in drawing.curves},
        "holds": solved.holds,
    }


def _path(solved: Solved, key: str) -> list[Pair]:
    """A curve as chords."""
    curve = solved.unknowns.drawing.curves[key]
    if isinstance(curve, DrawnLine):
        return [solved.point(curve.a), solved.point(curve.b)]
    if isinstance(curve, DrawnCircle):
        ring = circle(*solved.point(curve.centre), max(abs(solved.radius(key)), NEAR)).flatten(NEAR).tolist()
        return [*((x, y) for x, y in ring), (ring[0][0], ring[0][1])]
    if isinstance(curve, DrawnArc):
        a, b, c = (solved.point(k) for k in (curve.a, curve.b, curve.centre))
        return _arc(a, b, c)
    if isinstance(curve, DrawnText):
        return _letters(solved, key, curve)
    assert isinstance(curve, DrawnSpline)
    through = [solved.point(k) for k in curve.through]
    if any(math.dist(p, q) < NEAR for p, q in zip(through, through[1:], strict=False)) or (curve.closed and len(through) < 3):
        return through
    points, bulges = spline_arcs(through, curve.closed, spline_ways(solved, key))
    run = Contour(tuple(points), tuple(bulges), ("",) * len(bulges), closed=False)
    return [(x, y) for x, y in run.flatten(NEAR).tolist()]


def _letters(solved: Solved, key: str, curve: DrawnText) -> list[Pair]:
    """Outlines of letters one after another, each closed; between them is an empty place, where the pen is lifted."""
    found: list[Pair] = []
    for contour in text_outlines(solved, key, curve):
        ring = [(x, y) for x, y in contour.flatten(NEAR).tolist()]
        found += [*([LIFTED] if found else []), *ring, ring[0]]
    return found or [solved.point(curve.at)]


def _arc(a: Pair, b: Pair, c: Pair) -> list[Pair]:
    radius = math.dist(a, c)
    if radius < NEAR:
        return [a, b]
    start = math.atan2(a[1] - c[1], a[0] - c[0])
    sweep = (math.atan2(b[1] - c[1], b[0] - c[0]) - start) % (2 * math.pi)
    n = max(2, math.ceil(sweep / (2 * math.acos(max(0.0, 1 - NEAR / radius)))))
    return [(c[0] + radius * math.cos(start + sweep * i / n), c[1] + radius * math.sin(start + sweep * i / n)) for i in range(n + 1)]


def _fast_path(at: tuple[float, ...], kind: str, place: Place) -> list[Pair]:
    """What lies fast, as it is shown: a line across all of the part."""
    if kind == "circle":
        ring = circle(at[0], at[1], at[2]).flatten(NEAR).tolist()
        return [*((x, y) for x, y in ring), (ring[0][0], ring[0][1])]
    if kind == "point":
        return [(at[0], at[1])]
    (x, y), (w, h), past = place.low, place.size, 0.06 * max(place.size)
    if at[0] == at[2]:
        return [(at[0], min(y - past, at[1])), (at[0], max(y + h + past, at[3]))]
    if at[1] == at[3]:
        return [(min(x - past, at[0]), at[1]), (max(x + w + past, at[2]), at[1])]
    return [(at[0], at[1]), (at[2], at[3])]


def _figure(built: Built, drawn: Drawn, key: str) -> str:
    """What a dimension says, as it is shown; what it measures where it is only read."""
    relation = drawn.drawing.relations[key]
    if relation.kind not in DIMENSIONS:
        return ""
    value = drawn.figures[key] if key in drawn.figures else measured(drawn.solved, relation)
    return format_angle(value) if DIMENSIONS[relation.kind] == "angle" else format_length(value, built.document.display)


def _relation(
    built: Built, place: Place, drawn: Drawn, key: str, relation: Relation, words: str, clashing: set[str], moved: Any
) -> ShownRelation:
    state = "out" if relation.out else "measured" if relation.measured else "contradicts" if key in clashing else "holds"
    line = _measured_along(drawn, relation)
    at = _written_at(drawn, relation, line)
    return {
        "key": key,
        "kind": relation.kind,
        "words": words,
        "of": list(relation.of),
        "figure": _figure(built, drawn, key),
        "entry": f"{place.where}{pointer('relations', key, 'entry')}" if relation.entry is not None else "",
        "state": state,  # type: ignore[typeddict-item]
        "at": moved([at])[0],
        "line": moved(line),
    }


def _middle(drawn: Drawn, key: str) -> Pair:
    """Where a thing is, roughly: the middle of a line, a place on a circle, a point itself."""
    u, row = drawn.solved.unknowns, drawn.solved.row
    thing = drawn.drawing.thing(key)
    if thing == "l":
        ax, ay, bx, by = (float(row[i]) for i in u.line(key))
        return (ax + bx) / 2, (ay + by) / 2
    if thing == "c":
        curve = drawn.drawing.curves.get(key)
        if isinstance(curve, DrawnArc):
            path = _path(drawn.solved, key)
            return path[len(path) // 2]
        cx, cy, r = (float(row[i]) for i in u.round(key))
        return cx + abs(r) * math.sqrt(0.5), cy + abs(r) * math.sqrt(0.5)
    return drawn.solved.point(key)


def _measured_along(drawn: Drawn, relation: Relation) -> list[Pair]:
    """From where to where a dimension measures; an angle along its arc. Nothing of what has no figure."""
    kind, of, solved = relation.kind, relation.of, drawn.solved
    u, row = solved.unknowns, solved.row
    if kind not in DIMENSIONS:
        return []
    if kind in ("radius", "diameter"):
        cx, cy, _ = (float(row[i]) for i in u.round(of[0]))
        p = _middle(drawn, of[0])
        return [(cx, cy), p] if kind == "radius" else [(2 * cx - p[0], 2 * cy - p[1]), p]
    if kind == "angle":
        return _angle_arc(drawn, of)
    lines = [k for k in of if u.is_line(k)]
    if len(of) == 1:
        ax, ay, bx, by = (float(row[i]) for i in u.line(of[0]))
        p, q = (ax, ay), (bx, by)
    elif any(drawn.drawing.thing(k) == "c" for k in of):
        p, q = _nearest(drawn, *sorted(of, key=lambda k: drawn.drawing.thing(k) != "c"))
    elif not lines:
        p, q = solved.point(of[0]), solved.point(of[1])
    else:
        line, other = lines[0], next(k for k in of if k != lines[0])
        p = _middle(drawn, other)
        ax, ay, bx, by = (float(row[i]) for i in u.line(line))
        long = math.hypot(bx - ax, by - ay) or 1.0
        ex, ey = (bx - ax) / long, (by - ay) / long
        along = (p[0] - ax) * ex + (p[1] - ay) * ey
        q = ax + ex * along, ay + ey * along
    if kind == "across":
        return [(p[0], q[1]), q]
    return [(q[0], p[1]), q] if kind == "up" else [p, q]


def _nearest(drawn: Drawn, ring: str, other: str) -> tuple[Pair, Pair]:
    """Where a circle comes nearest to another thing, and that there."""
    u, row = drawn.solved.unknowns, drawn.solved.row
    cx, cy, r = (float(row[i]) for i in u.round(ring))
    thing, far = drawn.drawing.thing(other), 0.0
    if thing == "l":
        ax, ay, bx, by = (float(row[i]) for i in u.line(other))
        long = math.hypot(bx - ax, by - ay) or 1.0
        ex, ey = (bx - ax) / long, (by - ay) / long
        along = (cx - ax) * ex + (cy - ay) * ey
        at = ax + ex * along, ay + ey * along
    elif thing == "c":
        ox, oy, far = (float(row[i]) for i in u.round(other))
        at = ox, oy
    else:
        at = drawn.solved.point(other)
    apart = math.dist(at, (cx, cy))
    dx, dy = ((at[0] - cx) / apart, (at[1] - cy) / apart) if apart > SEEN else (1.0, 0.0)
    # beside one another the near sides; of one within the other those on the same side
    turn = -1.0 if beside(apart, max(abs(r), abs(far)), min(abs(r), abs(far))) else 1.0
    if thing == "c" and turn > 0 and abs(far) > abs(r):
        dx, dy = -dx, -dy
    if thing != "c":
        return (cx + dx * abs(r), cy + dy * abs(r)), at
    return (cx + dx * abs(r), cy + dy * abs(r)), (at[0] + turn * dx * abs(far), at[1] + turn * dy * abs(far))


def _angle_arc(drawn: Drawn, of: Sequence[str]) -> list[Pair]:
    u, row = drawn.solved.unknowns, drawn.solved.row
    (ax, ay, bx, by), (cx, cy, dx, dy) = ([float(row[i]) for i in u.line(k)] for k in of)
    cross = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx)
    if abs(cross) < EPS * math.hypot(bx - ax, by - ay) * math.hypot(dx - cx, dy - cy):
        return [_middle(drawn, of[0]), _middle(drawn, of[1])]
    s = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / cross
    at = ax + (bx - ax) * s, ay + (by - ay) * s
    far = [max(((x, y) for x, y in ends), key=lambda p: math.dist(p, at)) for ends in (((ax, ay), (bx, by)), ((cx, cy), (dx, dy)))]
    r = 0.35 * min(math.dist(f, at) for f in far)
    start, end = (math.atan2(f[1] - at[1], f[0] - at[0]) for f in far)
    sweep = math.remainder(end - start, 2 * math.pi)
    return [(at[0] + r * math.cos(start + sweep * i / 12), at[1] + r * math.sin(start + sweep * i / 12)) for i in range(13)]


def _written_at(drawn: Drawn, relation: Relation, line: list[Pair]) -> Pair:
    if relation.kind == "angle" and line:
        return line[len(line) // 2]
    if relation.kind == "radius" and line:
        return line[-1]
    if line:
        return (line[0][0] + line[-1][0]) / 2, (line[0][1] + line[-1][1]) / 2
    u = drawn.solved.unknowns
    if relation.kind in ("tangent", "square") and len(relation.of) == 2:
        shared = u.shared(*relation.of)
        if shared:
            return drawn.solved.point(shared)
    if relation.kind in ("on", "middle", "mirrored"):
        return _middle(drawn, relation.of[0])
    return _middle(drawn, relation.of[-1])
