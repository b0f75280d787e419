"""What follows a path that is drawn: the points and lines of its frame, and the lines that its members lie on."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from zygon.design.document import Document
from zygon.design.frames import LineFrame
from zygon.design.layout_operations import fresh_key
from zygon.design.parts.kinds import is_member
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing, DrawnArc, DrawnLine
from zygon.errors import DocumentError
from zygon.making.datums.paths import lines_at

__all__ = ["frame_records", "path_followed"]


def frame_records(drawing: Drawing, frame: LineFrame) -> tuple[dict[str, dict[str, Any]], dict[str, dict[str, Any]]]:
    """The records of the points and lines of a frame whose path is drawn, by key: a line for each straight one, from corner to corner.

    What was a point before stays one under its key, also where its corner is rounded.
    """
    corners: dict[tuple[str, str], str] = {}
    for key, arc in drawing.curves.items():
        if isinstance(arc, DrawnArc) and not arc.helping and len(met := lines_at(drawing, key)) == 2:
            one, other = sorted(met)
            corners[met[0], arc.a] = corners[met[1], arc.b] = f"{one}/{other}"
    before = {p.drawn: k for k, p in frame.points.items() if p.drawn}
    points: dict[str, dict[str, Any]] = {}
    lines: dict[str, dict[str, Any]] = {}
    named: dict[str, str] = {}
    said = sorted(drawing.curves.items(), key=lambda kc: (kc[1].order, kc[0]))
    for key, line in said:
        if not isinstance(line, DrawnLine) or line.helping:
            continue
        ends = []
        for point in (line.a, line.b):
            of = corners.get((key, point), point)
            if of not in named:
                wish = before.get(of) or _met_in(frame, of) or of.replace("/", "-")
                named[of] = wish if wish not in points else fresh_key({**frame.points, **points}, wish)
                points[named[of]] = {"drawn": of, "order": len(points)}
            ends.append(named[of])
        lines[key] = {"a": ends[0], "b": ends[1], "order": len(lines)}
    return points, lines


def _met_in(frame: LineFrame, of: str) -> str:
    """The point in which two lines of a frame meet; '' for none."""
    one, _, other = of.partition("/")
    if one not in frame.lines or other not in frame.lines:
        return ""
    a, b = (frame.lines[k] for k in (one, other))
    return next(iter({a.a, a.b} & {b.a, b.b}), "")


def path_followed(document: Document, key: str, frame: LineFrame, drawing: Drawing) -> Patch:
    """What changes in the document as a frame's path is drawn otherwise. Raises DocumentError where a member would have no line left."""
    points, lines = frame_records(drawing, frame)
    # what is no part of the path stays
    beside = {k: x for k, x in frame.lines.items() if k not in (frame.drawing.curves if frame.drawing else ())}
    lines |= {k: {**x.model_dump(mode="json"), "order": len(lines) + n} for n, (k, x) in enumerate(beside.items()) if k not in lines}
    where = pointer("frames", key)
    kept = {k: p.model_dump(mode="json", exclude_none=True) for k, p in frame.points.items() if not p.drawn and (not p.on or p.on in lines)}
    patch: Patch = [
        {"op": "replace", "path": f"{where}/points", "value": {**kept, **points}},
        {"op": "replace", "path": f"{where}/lines", "value": lines},
    ]
    members = {k: p for k, p in document.parts.items() if is_member(p) and p.frame == key}
    for part, record in members.items():
        assert is_member(record)
        if len(members) == 1:
            follows = _in_a_row(record.lines, lines)
        else:
            follows = [k for k in record.lines if k in lines]
        if not follows:
            rule = "a line for each that lies on the path; take the part away first"
            raise DocumentError(f"{record.name} would have no line to lie on", entry="keys", value=part, rule=rule)
        if follows != record.lines:
            patch.append({"op": "replace", "path": f"{pointer('parts', part)}/lines", "value": follows})
    return patch


def _in_a_row(before: list[str], lines: Mapping[str, Mapping[str, Any]]) -> list[str]:
    """The lines along which a lone member goes on, from a line that it lies on as far as they do not branch; in the direction in which it went."""
    start = next((k for k in before if k in lines), next(iter(lines), None))
    if start is None:
        return []
    at: dict[str, list[str]] = {}
    for k, line in lines.items():
        for end in (line["a"], line["b"]):
            at.setdefault(end, []).append(k)

    def on(line: str, end: str) -> list[str]:
        """The lines that follow beyond an end."""
        found = [line]
        while len(at[end]) == 2:
            following = next(k for k in at[end] if k != found[-1])
            if following in found:
                break
            found.append(following)
            end = next(e for e in (lines[following]["a"], lines[following]["b"]) if e != end)
        return found[1:]

    ahead = on(start, lines[start]["b"])
    closed = len(ahead) > 1 and lines[start]["a"] in (lines[ahead[-1]]["a"], lines[ahead[-1]]["b"])
    # where it comes back to where it began it ends before that: a rod has two ends
    ahead, back = (ahead[:-1], []) if closed else (ahead, on(start, lines[start]["a"]))
    run = [*reversed(back), start, *ahead]
    places = [run.index(k) for k in before if k in run]
    return run[::-1] if len(places) > 1 and places[0] > places[-1] else run
