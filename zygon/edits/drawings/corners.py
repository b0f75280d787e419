"""Corners of a drawing rounded or cut off: the lines end where the arc or the cut begins, and stay what they were."""

from __future__ import annotations

import math
from typing import Literal

from zygon.design.patch import Patch
from zygon.drawn.drawing import DrawnLine
from zygon.edits.drawings.draft import Draft, refused, way_of
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.measure.evaluate import evaluate
from zygon.tolerance import CONTACT, SEEN

__all__ = ["ease_corner"]


def ease_corner(built: Built, part: str, feature: str, points: list[str], how: Literal["round", "cut"], size: Entry) -> tuple[str, Patch]:
    """Label and patch that round corners by a radius, or cut them off by a length along both lines. Raises DocumentError where two lines do not meet there."""
    from zygon.making.datums.scope import EntryScope

    draft = Draft(built, part, feature)
    value = evaluate(size.text, size.unit, "length", EntryScope(draft.place.values)).value
    if value <= CONTACT:
        raise refused(f"A corner is eased by more than {size.text}", "size", size.text, "greater than 0")
    draft.points = dict(draft.kept(draft.drawn()).points)
    first = ""
    for point in points:
        arc = _ease(draft, point, how, value)
        if not first:
            first = arc
            draft.relate("radius" if how == "round" else "distance", [arc], size)
        else:
            draft.relate("equal", [first, arc])
    n = len(points)
    return f"{'Round' if how == 'round' else 'Cut off'} {'a corner' if n == 1 else f'{n} corners'}", draft.patch()


def _ease(draft: Draft, point: str, how: str, size: float) -> str:
    """The key of what the size is said of: the arc, or the length that is cut off one line."""
    there = [k for k, c in draft.curves.items() if point in c.points() and not c.helping]
    meeting = [k for k in there if isinstance(draft.curves[k], DrawnLine)]
    others = [k for k in there if k not in meeting]
    if len(meeting) != 2 or others:
        raise refused("A corner is where two lines meet", "points", point, "a point in which two straight lines end, and nothing else")
    at = draft.at(point)
    ways = []
    for k in meeting:
        line = draft.curves[k]
        assert isinstance(line, DrawnLine)
        far = draft.at(line.b if line.a == point else line.a)
        ways.append((way_of(at, far), math.dist(at, far)))
    angle = math.remainder(ways[1][0] - ways[0][0], 2 * math.pi)
    if abs(math.sin(angle)) < SEEN:
        raise refused("The two lines lie in one line there", "points", point, "lines that meet at an angle")
    back = size / math.tan(abs(angle) / 2) if how == "round" else size
    for _, long in ways:
        if back >= long - CONTACT:
            rule = f"less than the line is long, {long:.4g} mm"
            raise refused(f"{back:.4g} mm are taken off a line", "size", round(back, 4), rule)
    measured = [_measure_whole(draft, k) for k in meeting]
    ends = [draft.point(at[0] + back * math.cos(w), at[1] + back * math.sin(w)) for w, _ in ways]
    for k, end in zip(meeting, ends, strict=True):
        line = draft.curves[k]
        assert isinstance(line, DrawnLine)
        draft.curves[k] = line.model_copy(update={"a": end} if line.a == point else {"b": end})
    if how == "round":
        half = ways[0][0] + angle / 2
        out = size / math.sin(abs(angle) / 2)
        centre = draft.point(at[0] + out * math.cos(half), at[1] + out * math.sin(half))
        a, b = ends if angle < 0 else ends[::-1]
        made = draft.arc(a, b, centre)
        for k in meeting:
            draft.relate("tangent", [k, made])
    else:
        draft.line(*ends)
        made = draft.line(point, ends[0], helping=True)
        draft.relate("equal", [made, draft.line(point, ends[1], helping=True)])
    _keep_corner(draft, point, meeting, needed=how == "cut" or any(measured))
    return made


def _measure_whole(draft: Draft, line: str) -> bool:
    """What is said of a line's length stays said from corner to corner: of a helping line between them."""
    said = {
        key: r
        for key, r in draft.relations.items()
        if (r.kind in ("distance", "across", "up") and r.of == [line])
        or (r.kind == "equal" and line in r.of)
        or (r.kind == "middle" and r.of[1:] == [line])
    }
    if not said:
        return False
    record = draft.curves[line]
    assert isinstance(record, DrawnLine)
    whole = draft.line(record.a, record.b, helping=True)
    for key, r in said.items():
        draft.relations[key] = r.model_copy(update={"of": [whole if k == line else k for k in r.of]})
    return True


def _keep_corner(draft: Draft, point: str, lines: list[str], *, needed: bool) -> None:
    """The corner stays as a point on both lines where something is said of it, or measured from it; else it goes."""
    said = [
        k for k, r in draft.relations.items() if any(draft.drawing.point(o) == point for o in r.of if o.partition(".")[0] in _known(draft))
    ]
    if not said and not needed and not any(point in c.points() for c in draft.curves.values()):
        del draft.points[point]
        return
    for line in lines:
        draft.relate("on", [point, line])


def _known(draft: Draft) -> set[str]:
    return {*draft.drawing.points, *draft.drawing.curves}
