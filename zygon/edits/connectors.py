"""Connectors put on the points of a frame: one of the catalogue that fits, or one made to measure."""

from __future__ import annotations

from typing import Any

import numpy as np

from zygon.design.connector_starts import CONNECTOR_STARTS, ConnectorStart, SocketStart
from zygon.design.document import Document
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.connector import TOWARD
from zygon.design.parts.kinds import is_connector, is_member
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.making.connector.seating import Run, Seating, SocketPlace, seated
from zygon.making.datums.connectors import runs_at
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.datums.values import Values
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built
from zygon.making.rooms.named import figure
from zygon.measure.evaluate import evaluate

__all__ = ["MEASURED", "add_connectors"]

#: What a connector is called that is none of the catalogue: its sockets look as the lines lie.
MEASURED = "measured"
#: So deep a socket takes a tube, and so much stands between the two of a clamp (mm); common practice.
DEEP, WALL = "30 mm", 3.0
#: Members meet in a point whose middles pass it nearer than this (mm).
BY_MIDDLE = 0.05


def add_connectors(built: Built, frame: str, points: list[str], shape: str = "", depth: str = "") -> tuple[str, Patch]:
    """Label and patch that put connectors on points of a frame; on all where members meet where none is named.

    With no ``shape`` each is the first of the catalogue that takes all that meets there with every socket, else made to measure. Joints between
    the members that it takes go. Raises DocumentError where nothing meets, or the shape takes nothing there.
    """
    document = built.document
    record = document.frames.get(frame)
    if record is None:
        raise DocumentError(f"There is no frame with the key {frame!r}", entry="frame", value=frame, rule="a frame of the design")
    if shape and shape != MEASURED and shape not in CONNECTOR_STARTS:
        rule = f"one of {', '.join((*CONNECTOR_STARTS, MEASURED))}"
        raise DocumentError(f"There is no connector {shape}", entry="shape", value=shape, rule=rule)
    for point in points:
        if point not in record.points:
            raise DocumentError(f"{record.name} has no point {point!r}", entry="points", value=point, rule="a point of the frame")
    values = solve(document, built.good, leg_face)
    if depth and evaluate(depth, document.unit, "length", EntryScope(values)).value <= 0:
        raise DocumentError("A socket is deeper than 0", entry="depth", value=depth, rule="a length greater than 0")
    stand = {p.point for p in document.placed().values() if is_connector(p) and p.frame == frame}
    wanted = points or [k for k in sorted(record.points, key=lambda k: (record.points[k].order, k)) if k not in stand]
    patch: Patch = []
    keys, names, gone = dict.fromkeys(document.parts), set[str](), set[str]()
    for point in wanted:
        if point in stand:
            raise DocumentError("A connector stands on this point already", entry="points", value=point, rule="one connector on a point")
        runs = _runs(values, frame, point)
        if not points and len(runs) < 2:
            continue
        if not runs:
            raise DocumentError("No member ends at this point or passes it", entry="points", value=point, rule="a point where members meet")
        title, made, taken = _made(document, runs, _lines_at(document, frame, point, runs), shape, depth or DEEP)
        name = fresh_name(document, title.lower().replace(" ", "_"), names)
        names.add(name)
        key = fresh_key(keys, name)
        keys[key] = None
        value = {
            "kind": "connector",
            "name": name,
            "frame": frame,
            "point": point,
            "group": record.group,
            "order": next_order(document.parts) + len(names) - 1,
            **made,
        }
        patch.append({"op": "add", "path": pointer("parts", key), "value": value})
        gone |= _joints_between(document, taken)
    if not patch:
        raise DocumentError(
            "No two members meet in a point of this frame", entry="points", value=points, rule="members that meet by their middles"
        )
    n = len(patch)
    patch += [{"op": "remove", "path": pointer("joints", k)} for k in document.joints if k in gone]
    return f"Put {n} {'connector' if n == 1 else 'connectors'} on {record.name}", patch


def _lines_at(document: Document, frame: str, point: str, runs: list[Run]) -> dict[str, str]:
    """Of each member the line on which it ends at a point, or passes it."""
    record, found = document.frames[frame], {}
    for run in runs:
        part = document.parts[run.part]
        assert is_member(part)
        lines = [k for k in part.lines if point in (record.lines[k].a, record.lines[k].b) or k == record.points[point].on]
        found[run.part] = next(iter(lines), part.lines[0])
    return found


def _runs(values: Values, frame: str, point: str) -> list[Run]:
    """What meets in a point by its middle."""
    try:
        return [r for r in runs_at(values, frame, point) if float(np.linalg.norm(r.beside)) <= BY_MIDDLE]
    except KeyError:
        return []


def _joints_between(document: Document, members: set[str]) -> set[str]:
    return {k for k, j in document.joints.items() if {j.a.partition("@")[0], j.b.partition("@")[0]} <= members}


def _made(document: Document, runs: list[Run], at: dict[str, str], shape: str, depth: str) -> tuple[str, dict[str, Any], set[str]]:
    """Title and record of the connector for what meets in a point, and the members that it takes; ``at`` are the lines on which they lie there."""
    start = CONNECTOR_STARTS.get(shape)
    if not shape:
        start = next((s for s in CONNECTOR_STARTS.values() if _fits(s, runs)), None)
    if start is None:
        sockets = {f"s{n + 1}": {"order": n, **_along(r, at[r.part]), "depth": entry_of(document, depth)} for n, r in enumerate(runs)}
        return "Connector", {"made": "printed", "sockets": sockets}, {r.part for r in runs}
    seating = _seating(start, runs)
    if not seating.seats:
        said = f"No socket of a {start.title.lower()} lies on what meets here"
        raise DocumentError(said, entry="shape", value=start.key, rule="sockets that lie on lines")
    solid = next((s.run.part for s in seating.seats if not s.run.section.hollow), None)
    if solid is not None and any(s.inside for s in start.sockets):
        said = f"{start.title}: it goes into tubes, and {document.parts[solid].name} is none"
        raise DocumentError(said, entry="shape", value=start.key, rule="tubes")
    wide = max(max(s.run.section.extents) for s in seating.seats)
    sockets = {}
    for n, s in enumerate(start.sockets):
        sockets[f"s{n + 1}"] = {
            "order": n,
            "toward": s.toward,
            "through": s.through,
            "swings": s.swings,
            "inside": s.inside,
            "depth": entry_of(document, depth),
        }
        if s.beside:
            sockets[f"s{n + 1}"] |= {"beside": entry_of(document, figure(wide + WALL, document.unit)), "beside_to": s.beside}
    plate = {"base": entry_of(document, figure(round(wide * start.plate), document.unit))} if start.plate else {}
    return start.title, {"sockets": sockets, **plate}, {s.run.part for s in seating.seats}


def _fits(start: ConnectorStart, runs: list[Run]) -> bool:
    """Whether every socket takes a member, and every member lies in one."""
    if len(start.sockets) != len(runs) or start.plate or any(s.beside for s in start.sockets):
        return False
    return len(_seating(start, runs).seats) == len(runs)


def _seating(start: ConnectorStart, runs: list[Run]) -> Seating:
    beside = max(max(r.section.extents) for r in runs) + WALL
    return seated([_place(f"s{n + 1}", s, beside) for n, s in enumerate(start.sockets)], runs)


def _place(key: str, start: SocketStart, beside: float) -> SocketPlace:
    aside = np.array(TOWARD[start.beside]) * beside if start.beside else np.zeros(3)
    swings = np.eye(3)["xyz".index(start.swings)] if start.swings else None
    return SocketPlace(key, np.array(TOWARD[start.toward]), aside, swings, start.through)


def _along(run: Run, line: str) -> dict[str, Any]:
    """What a socket says that looks along a line, and as the line lies now where that goes."""
    toward = max(TOWARD, key=lambda t: float(np.array(TOWARD[t]) @ run.way))
    return {"toward": toward, "line": line, "through": run.at == "through"}
