"""What is drawn freely on a part: its outline with openings, and shapes that are cut out, sunk or engraved."""

from __future__ import annotations

from zygon.design.outlines import Free
from zygon.design.pointer import pointer
from zygon.drawing.loops import NotClosed
from zygon.geometry.boolean import to_polygons
from zygon.geometry.contour import Contour
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.plane import on_blank
from zygon.making.datums.drawings import Drawn, Holes, drawn_on, says_how_far, shift_of, solved_again
from zygon.making.datums.values import Values
from zygon.making.features.reader import Reader
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Cut, Mark, Operation, Pocket, Side
from zygon.measure.display import exact_length, format_length
from zygon.owner import edge_id
from zygon.tolerance import SEEN

__all__ = ["drawn_shape", "free_outline"]

OUTLINE = "outline"


def free_outline(values: Values, blank: Blank, holes: Holes | None) -> list[Operation]:
    """Gives a blank the outline that is drawn for it; the openings that lie in it. What is wrong with it is said, and a rectangle stands where there is none."""
    record, key = blank.record.outline, blank.key
    assert isinstance(record, Free)
    where = pointer("parts", key, "outline", "drawing")
    known = values.drawings.get(key)
    if known is None or solved_again(values, key):
        known = drawn_on(values, on_blank(values, blank), record.drawing, where, OUTLINE, holes=holes)
    for fault in known.loops.faults:
        _tell(values, blank, fault, where, OUTLINE, blank.record.name)
    shift = shift_of(known)
    loops = [c.moved(*shift) for c in known.loops.closed]
    if not loops:
        if not known.loops.faults:
            rule = "a closed outline"
            values.faults.append(Fault("bad_outline", f"{blank.record.name}: nothing is drawn", rule, part=key, owner=OUTLINE, entry=where))
        return []
    if any(f.code in ("crosses_itself", "outlines_cross") for f in known.loops.faults):
        return []
    outer, inner = _nested(values, blank, loops, where)
    _as_far_as_its_spans(values, blank, outer, where)
    blank.outline = Contour(outer.points, outer.bulges, tuple(edge_id(record.drawing.edge_of(o)) for o in outer.owners))
    return [Cut(_by(c, OUTLINE), OUTLINE) for c in inner]


def _nested(values: Values, blank: Blank, loops: list[Contour], where: str) -> tuple[Contour, list[Contour]]:
    """The outermost loop and those that lie in it; any other is said."""
    polygons = to_polygons(loops, 0.01)
    inner: list[Contour] = []
    for n, contour in enumerate(loops[1:], 1):
        at = contour.points[0]
        if not polygons[0].contains(polygons[n]):
            said, rule = "a loop lies beside the outline", "one outline, with openings in it"
        elif any(polygons[k].contains(polygons[n]) for k in range(1, n)):
            said, rule = "a loop lies in an opening", "openings that lie apart"
        else:
            inner.append(contour)
            continue
        message = f"{blank.record.name}: {said}"
        values.faults.append(Fault("bad_outline", message, rule, part=blank.key, owner=OUTLINE, entry=where, at=at))
    return loops[0], inner


def _as_far_as_its_spans(values: Values, blank: Blank, outer: Contour, where: str) -> None:
    """Says where an outline does not reach to the ends of a span that has its own, or goes beyond them."""
    x0, y0, x1, y1 = outer.bounds
    display = values.document.display
    for axis, low, high in ((blank.frame.u, x0, x1), (blank.frame.v, y0, y1)):
        start, end = blank.span.span(axis)
        long = end - start
        if abs(low) <= SEEN and abs(high - long) <= SEEN:
            continue
        span = blank.record.spans[axis]  # type: ignore[index]
        drawn = format_length(high - low, display)
        if abs(low) > SEEN:
            what = f"begins {format_length(abs(low), display)} {'within' if low > 0 else 'outside'} its span along {axis}"
        else:
            what = f"is {drawn} long along {axis}, and its span {format_length(long, display)}"
        mends: list[Mend] = []
        if not says_how_far(blank.record, axis) and abs(low) <= SEEN:
            to = {"text": f"({span.low.text}) + {exact_length(high, span.low.unit)}", "unit": span.low.unit}
            at = pointer("parts", blank.key, "spans", axis, "high")
            mends.append(Mend(f"Make its span {drawn}", [{"op": "replace", "path": at, "value": to}]))
            follow = {"text": f"({span.low.text}) + drawn", "unit": span.low.unit}
            mends.append(Mend("Let its span reach as far as is drawn", [{"op": "replace", "path": at, "value": follow}]))
        message = f"{blank.record.name}: its outline {what}"
        rule = "an outline that reaches from one end of each span to the other"
        values.faults.append(
            Fault("bad_outline", message, rule, drawn, part=blank.key, owner=OUTLINE, entry=where, at=(x0, y0), mends=tuple(mends))
        )


def _tell(values: Values, blank: Blank, fault: NotClosed, where: str, owner: str, title: str) -> None:
    entry = f"{where}{pointer('curves', fault.curves[0])}" if fault.curves else where
    message = f"{title}: {fault.message}"
    values.faults.append(Fault("bad_outline", message, fault.rule, part=blank.key, owner=owner, entry=entry, at=fault.at))


def drawn_shape(r: Reader, face: Side) -> list[Operation]:
    """What a shape that is drawn freely cuts, sinks or engraves; loops in loops are what stays."""
    blank, feature = r.blank, r.feature
    where = r.where("drawing")
    plane = on_blank(r.values, blank)
    found: Drawn = drawn_on(r.values, plane, feature.drawing, where, r.owner, holes=r.values.holes_on(blank.key))
    mark = feature.does == "mark"
    for fault in found.loops.faults:
        if not (mark and fault.code in ("open", "branches", "outlines_cross", "crosses_itself")):
            _tell(r.values, blank, fault, where, r.owner, r.title)
    closed = [_by(c, r.owner) for c in found.loops.closed]
    if mark:
        return [Mark(c, r.owner, face) for c in (*closed, *(_by(c, r.owner) for c in found.loops.open))]
    if not closed or any(f.code in ("crosses_itself", "outlines_cross") for f in found.loops.faults):
        if not found.loops.faults:
            r.fault("drawing", "nothing is drawn", "a closed outline", "")
        return []
    if feature.does == "cut":
        return [Cut(c, r.owner) for c in _outermost(r, closed)]
    depth = r.depth()
    return [Pocket(c, r.owner, face, depth, islands=i) for c, i in _with_islands(closed)] if depth else []


def _by(contour: Contour, owner: str) -> Contour:
    return Contour(contour.points, contour.bulges, (owner,) * len(contour.owners), contour.closed)


def _with_islands(closed: list[Contour]) -> list[tuple[Contour, tuple[Contour, ...]]]:
    """Loops that are sunk, each with those that lie next within it, which stay; what lies within those is sunk again."""
    polygons = to_polygons(closed, 0.01)
    within = [[k for k in range(len(closed)) if k != n and polygons[k].contains(polygons[n])] for n in range(len(closed))]
    found = []
    for n, contour in enumerate(closed):
        if len(within[n]) % 2 == 0:
            islands = [closed[k] for k in range(len(closed)) if n in within[k] and len(within[k]) == len(within[n]) + 1]
            found.append((contour.wound(ccw=True), tuple(c.wound(ccw=False) for c in islands)))
    return found


def _outermost(r: Reader, closed: list[Contour]) -> list[Contour]:
    polygons = to_polygons(closed, 0.01)
    kept = []
    for n, contour in enumerate(closed):
        if any(polygons[k].contains(polygons[n]) for k in range(n)):
            r.fault("drawing", "a loop lies in another, and would fall out", "loops that lie apart, where they are cut out", "")
        else:
            kept.append(contour)
    return kept
