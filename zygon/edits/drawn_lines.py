"""A line of a frame drawn in the picture: where it begins and ends, in words that follow what was pressed, and the member that lies on it."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Any

import numpy as np

from zygon.design.document import Document
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_framed
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.edits.frames import UPRIGHT, bar_of
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.motion import Vector
from zygon.making.datums.members import point_of
from zygon.making.datums.placing import frame_of_group
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.datums.values import Values
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built
from zygon.making.result.operations import Cut, Pocket
from zygon.making.rooms.named import NamedPlace, figure, named_places
from zygon.measure.evaluate import evaluate
from zygon.owner import is_of, read_owner
from zygon.tolerance import CONTACT, EPS, WITHIN

__all__ = ["Spot", "draw_line"]

_NOUGHT = re.compile(r"\s*0+(\.0*)?\s*(mm|cm|m|in)?\s*")


@dataclass(frozen=True)
class Spot:
    """Where a line begins or ends: a point of a frame, a place on one of its lines (mm from its first point), or a place in the room (mm), of a ``part``.

    On the wall of a hole, whose ``owner`` is a bore or a feature, its middle is meant.
    """

    point: str = ""
    line: str = ""
    at: tuple[float, float, float] | None = None
    off: float = 0.0
    part: str = ""
    owner: str = ""


def draw_line(
    built: Built,
    start: Spot,
    end: Spot,
    stock: str = "",
    *,
    axis: str = "",
    by: str = "",
    catch: float = 0.0,
    step: float = 1.0,
    clear: str = "",
) -> tuple[str, Patch]:
    """Label and patch of a line from one place to another, and of a member on it where a bar ``stock`` is said.

    A place in the room is written along each axis as the place that it is level with: of the line's start, of a part's face, of another point, of the
    middle of the part that was pressed, where one lies within ``catch`` mm; else as a figure in whole ``step``s. With ``axis`` the line runs along it
    ``by`` so much, which is an entry. What lies on it keeps ``clear``, an entry, of the faces that are pressed: the line stands off by that and half of
    its thickness. Raises DocumentError where there is no such place, or the line has no length.
    """
    document = built.document
    if stock:
        bar_of(document, stock)
    values = solve(document, built.good, leg_face)
    of = [s.partition(":")[0] for s in (start.point, start.line, end.point, end.line) if s]
    for key in of:
        if key not in document.frames:
            raise DocumentError(f"There is no frame with the key {key!r}", entry="start", value=key, rule="a frame of the design")
    frame = next(iter(of), "")
    drawing = _Drawing(built, values, frame, catch, step)
    if clear.strip():
        drawing.stand_off(clear, stock)
    a = drawing.point(start, None)
    b = drawing.along(a, axis, by) if axis else drawing.point(end, a)
    if a == b or float(np.linalg.norm(drawing.places[a] - drawing.places[b])) <= CONTACT:
        raise DocumentError("The line has no length", entry="end", value=b, rule="it ends away from where it begins")
    lines = document.frames[frame].lines if frame else {}
    if any({line.a, line.b} == {a, b} for line in lines.values()):
        raise DocumentError("There is a line between these two points", entry="end", value=b, rule="one line between two points")
    line = fresh_key(lines, "line")
    key = frame or fresh_key(document.frames, "frame")
    record = {"a": a, "b": b, "order": next_order(lines)}
    if frame:
        patch: Patch = [{"op": "add", "path": pointer("frames", frame, "points", k), "value": p} for k, p in drawing.made.items()]
        patch.append({"op": "add", "path": pointer("frames", frame, "lines", line), "value": record})
    else:
        own = {"name": fresh_name(document, "frame"), "order": next_order(document.frames), "points": drawing.made, "lines": {line: record}}
        patch = [{"op": "add", "path": pointer("frames", key), "value": own}]
    if not stock:
        return "Draw a line", patch
    way = drawing.places[b] - drawing.places[a]
    upright = abs(float(way[2])) > UPRIGHT * float(np.linalg.norm(way))
    name = fresh_name(document, "tube" if getattr(document.stocks[stock], "wall", None) else "bar")
    member = {
        "kind": "member",
        "name": name,
        "stock": stock,
        "frame": key,
        "lines": [line],
        "order": next_order(document.parts),
        "against": "y" if upright else "z",
        "group": document.frames[frame].group if frame else "",
    }
    patch.append({"op": "add", "path": pointer("parts", fresh_key(document.parts, name)), "value": member})
    return f"{name.replace('_', ' ').capitalize()} of {document.stocks[stock].name}", patch


class _Drawing:
    """The points of a frame while a line is drawn into it: those that are there, and those that it needs."""

    def __init__(self, built: Built, values: Values, frame: str, catch: float, step: float) -> None:
        document = built.document
        self.built, self.document, self.values, self.frame, self.catch, self.step = built, document, values, frame, catch, step
        self.made: dict[str, dict[str, Any]] = {}
        self.places: dict[str, np.ndarray] = {}
        self.taken: dict[str, Any] = {}
        #: how far its points stand off the faces that are pressed, as an entry and in mm
        self.off: tuple[str, float] | None = None
        group = ""
        if frame:
            record = document.frames[frame]
            group, self.taken = record.group, dict(record.points)
            for key in record.points:
                try:
                    self.places[key] = point_of(values, frame, key)
                except KeyError:
                    continue
        self.motion = frame_of_group(values, group)
        # what lies on its own lines follows its points, and they do not follow it
        own = {k for k, p in document.parts.items() if is_framed(p) and p.frame == frame}
        named = {a: named_places(values, a) if self.motion.plain else [] for a in AXES}
        self.named = {a: [p for p in places if p.part.partition("@")[0] not in own] for a, places in named.items()}

    def stand_off(self, clear: str, stock: str) -> None:
        """Points stand off the faces that are pressed by a clearance and half of a stock's thickness."""
        half = max(self.values.sections[stock].extents) / 2 if stock else 0.0
        try:
            wide = evaluate(clear, self.document.unit, "length", EntryScope(self.values)).value
        except ExpressionError as error:
            raise DocumentError(
                f"{clear}: {error.message}", entry="clear", value=clear, rule=error.reason, code="broken_expression"
            ) from error
        if wide < 0:
            raise DocumentError(f"{clear} is inside of what is pressed", entry="clear", value=clear, rule="a clearance of at least 0")
        text = f"{_closed(clear.strip())} + {figure(half, self.document.unit)}" if half else _closed(clear.strip())
        self.off = f"({text})" if half else text, wide + half

    def point(self, spot: Spot, start: str | None) -> str:
        """The key of the point at a spot, made where there is none; ``start`` is the line's first point."""
        frame, _, key = (spot.point or spot.line).partition(":")
        if key and frame == self.frame:
            if spot.point:
                if key not in self.places:
                    raise DocumentError(f"There is no point {key!r} with a place", entry="point", value=key, rule="a point of the frame")
                return key
            return self._on_line(key, spot.off)
        room = self._elsewhere(frame, spot) if key else spot.at
        if room is None:
            raise DocumentError("A line begins and ends somewhere", entry="at", value=None, rule="a point, a place on a line, or a place")
        wanted = np.array(self.motion.inverse.point(room))
        near = next((k for k, p in self.places.items() if float(np.abs(p - wanted).max()) <= WITHIN), None)
        if near is not None:
            return near
        entries, place = {}, np.zeros(3)
        middle = self._middle_of_hole(spot, room)
        for k, axis in enumerate(AXES):
            entries[axis], place[k] = middle.get(axis) or self._written(axis, float(wanted[k]), spot.part, start)
        return self._add({"at": entries}, place)

    def _middle_of_hole(self, spot: Spot, room: Vector) -> dict[str, tuple[dict[str, str], float]]:
        """Entry and place (mm) of a hole's middle along the axes that it does not go along; of nothing where no hole was pressed that goes along an axis."""
        part, flat = self.built.flats.get(spot.part), self.built.flats.get(spot.part.partition("@")[0])
        asked = flat.flat.asked if flat else None
        if part is None or flat is None or asked is None or not is_of(spot.owner, "bore", "feature") or not self.motion.plain:
            return {}
        m = np.array(flat.matrix)
        # a copy's holes are its original's, carried there with it
        carried = part.place @ flat.place.inverse
        u, v, _ = (np.linalg.inv(m) @ (*carried.inverse.point(room), 1.0))[:3]
        own = [o.contour.bounds for o in asked.operations if isinstance(o, Cut | Pocket) and o.owner == spot.owner]
        if not own or not part.place.square or not all(any(abs(abs(x) - 1) < EPS for x in column) for column in m[:3, :3].T):
            return {}
        x0, y0, x1, y1 = min(own, key=lambda b: math.hypot((b[0] + b[2]) / 2 - u, (b[1] + b[3]) / 2 - v))
        centre = self.motion.inverse.point(carried.point((m @ ((x0 + x1) / 2, (y0 + y1) / 2, 0.0, 1.0))[:3].tolist()))
        normal = int(np.abs(np.array(part.matrix)[:3, 2]).argmax())
        bore = self.document.bores.get(read_owner(spot.owner).key) if is_of(spot.owner, "bore") else None
        name = self.document.parts[part.of].name if part.key == part.of else ""
        found = {}
        for k, axis in enumerate(AXES):
            if k == normal:
                continue
            said = bore.at.get(axis) if bore and not bore.of else None  # type: ignore[call-overload]
            worth = self.built.values.get(pointer("bores", read_owner(spot.owner).key, "at", axis))
            low = next((p for p in self.named[axis] if name and p.text == f"{name}.{FACES[axis][0]}"), None)
            if said and worth and abs(worth.value - centre[k]) <= WITHIN:
                entry = said.model_dump()
            elif low:
                entry = entry_of(self.document, f"{low.text} + {figure(float(centre[k]) - low.value, self.document.unit)}")
            else:
                entry = entry_of(self.document, figure(float(centre[k]), self.document.unit))
            found[axis] = entry, float(centre[k])
        return found

    def _elsewhere(self, frame: str, spot: Spot) -> Vector:
        """Where a spot of another frame is in the room (mm), as the line takes its ends from one frame."""
        record, key = self.document.frames[frame], (spot.point or spot.line).partition(":")[2]
        line = record.lines.get(key) if spot.line else None
        points = [line.a, line.b] if line else [key]
        try:
            ends = [point_of(self.values, frame, p) for p in points]
        except KeyError:
            what = "line" if spot.line else "point"
            raise DocumentError(
                f"There is no {what} {key!r} with a place", entry=what, value=key, rule=f"a {what} of {record.name}"
            ) from None
        own = ends[0]
        if line:
            way = ends[1] - ends[0]
            own = ends[0] + way / np.linalg.norm(way) * spot.off
        return frame_of_group(self.values, record.group).point((float(own[0]), float(own[1]), float(own[2])))

    def along(self, start: str, axis: str, by: str) -> str:
        """The point that lies so far along an axis from another."""
        k = AXES.index(axis)
        sign = "-" if by.strip().startswith("-") else "+"
        text = by.strip().lstrip("+-").strip()
        entries = {}
        for i, other in enumerate(AXES):
            own = self._entry(start, other, i)
            if i == k and own["unit"] != self.document.unit:  # what is typed counts in the design's unit, and one entry has one unit
                own = entry_of(self.document, figure(float(self.places[start][k]), self.document.unit))
            begun = "" if _NOUGHT.fullmatch(own["text"]) else f"{own['text']} {sign} "
            alone = "-" if not begun and sign == "-" else ""
            entries[other] = own if i != k else {**own, "text": f"{begun}{alone}{_closed(text)}"}
        key = self._add({"at": entries}, self.places[start])
        data = self.document.dump()
        frame = self.frame or "drawn"
        if not self.frame:
            data["frames"][frame] = {"name": "drawn", "points": dict(self.made), "lines": {}}
        else:
            data["frames"][frame]["points"] |= self.made
        solved = solve(Document.model_validate(data), leg_faces=leg_face)
        where = pointer("frames", frame, "points", key, "at", axis)
        fault = next((f for f in solved.faults if f.entry == where), None)
        if fault:
            raise DocumentError(fault.message, entry="by", value=by, rule=fault.rule, code=fault.code)
        self.places[key] = point_of(solved, frame, key)
        return key

    def _entry(self, point: str, axis: str, k: int) -> dict[str, str]:
        """What a point says along an axis; its figure where it lies on a line."""
        record = self.made.get(point) or (self.document.frames[self.frame].points[point].model_dump() if self.frame else {})
        said = (record.get("at") or {}).get(axis)
        return dict(said) if said else entry_of(self.document, figure(float(self.places[point][k]), self.document.unit))

    def _on_line(self, line: str, off: float) -> str:
        frame = self.document.frames[self.frame]
        if line not in frame.lines:
            raise DocumentError(f"There is no line {line!r}", entry="line", value=line, rule="a line of the frame")
        ends = [self.places[p] for p in (frame.lines[line].a, frame.lines[line].b)]
        way = ends[1] - ends[0]
        long = float(np.linalg.norm(way))
        if abs(off - long / 2) <= self.catch:
            off, text = long / 2, f"{figure(long, self.document.unit)} / 2"
            text = self._half(frame.lines[line]) or text
        else:
            off = round(off / self.step) * self.step
            text = figure(off, self.document.unit)
        return self._add({"on": line, "end": "a", "off": entry_of(self.document, text)}, ends[0] + way / long * off)

    def _half(self, line: Any) -> str:
        """Half of a line that runs along an axis, by what says where its ends lie; '' where that is not said so simply."""
        points = self.document.frames[self.frame].points
        a, b = points[line.a], points[line.b]
        differs = [x for x in AXES if x in a.at and x in b.at and a.at[x] != b.at[x]]
        if len(differs) != 1 or a.on or b.on:
            return ""
        low, high = a.at[differs[0]], b.at[differs[0]]
        if self.places[line.a][AXES.index(differs[0])] > self.places[line.b][AXES.index(differs[0])]:
            low, high = high, low
        return f"(({high.text}) - ({low.text})) / 2" if low.unit == high.unit == self.document.unit else ""

    def _add(self, record: dict[str, Any], place: np.ndarray) -> str:
        key = fresh_key({**self.taken, **self.made}, f"p{len(self.taken) + len(self.made) + 1}")
        orders = [p.order for p in self.taken.values()]
        self.made[key] = {**record, "order": max(orders, default=-1) + 1 + len(self.made)}
        self.places[key] = place
        return key

    def _clear_of(self, place: NamedPlace, axis: str) -> tuple[str, float]:
        """A face of the part that is pressed as a place beside it: off its outside by what is to be clear of it."""
        out = dict(zip(FACES[axis], (-1, 1), strict=True)).get(place.text.partition(".")[2], 0)
        if self.off is None or not out:
            return place.text, place.value
        text, wide = self.off
        return f"{place.text} {'+' if out > 0 else '-'} {text}", place.value + out * wide

    def _written(self, axis: str, wanted: float, part: str, start: str | None) -> tuple[dict[str, str], float]:
        """Entry and place (mm) along an axis: what is level with something within the catch, the start before all else; else a figure."""
        k = AXES.index(axis)
        if start is not None and abs(self.places[start][k] - wanted) <= max(self.catch, WITHIN):
            return self._entry(start, axis, k), float(self.places[start][k])
        found: list[tuple[float, int, dict[str, str], float]] = []
        for place in self.named[axis]:
            text, value = self._clear_of(place, axis) if place.part == part else (place.text, place.value)
            found.append((abs(place.value - wanted), 0 if place.part == part else 1 + place.rank, entry_of(self.document, text), value))
        if part and self.named[axis]:
            low, high = (f"{self.document.parts[part.partition('@')[0]].name}.{face}" for face in FACES[axis])
            own = {p.text: p.value for p in self.named[axis]}
            if low in own and high in own:
                middle = (own[low] + own[high]) / 2
                found.append((abs(middle - wanted), 1, entry_of(self.document, f"mid({low}, {high})"), middle))
        for key, at in self.places.items():
            found.append((abs(float(at[k]) - wanted), 3, self._entry(key, axis, k), float(at[k])))
        near = [f for f in found if f[0] <= max(self.catch, WITHIN)]
        if near:
            _, _, entry, value = min(near, key=lambda f: (round(f[0], 3), f[1]))
            return entry, value
        value = round(wanted / self.step) * self.step
        return entry_of(self.document, figure(value, self.document.unit)), value


def _closed(text: str) -> str:
    """An entry as part of another."""
    return text if all(c.isalnum() or c in "._" or c == " " for c in text) else f"({text})"
