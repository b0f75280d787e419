"""Frames as one edit each: one to begin with, a line drawn in the picture with what lies on it, the joints where members meet; lines and frames removed."""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass
from itertools import combinations
from typing import Any

import numpy as np

from zygon.design.document import Document
from zygon.design.frame_starts import FRAME_STARTS, Started
from zygon.design.frames import LineFrame
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.operations import remove_part
from zygon.design.parts.kinds import is_connector, is_framed, is_member, is_placed
from zygon.design.patch import Patch, patched, pointer
from zygon.edits.connectors import add_connectors
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.motion import Vector
from zygon.making.asked.questions import Meeting
from zygon.making.datums.members import point_of
from zygon.making.datums.placing import frame_of_group
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.datums.values import Values
from zygon.making.kinds.base import Sizes
from zygon.making.kinds.registry import sizes_of
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import build
from zygon.making.result.built import CHORDS, Built
from zygon.making.rooms.named import NamedPlace, figure, named_places
from zygon.making.solids.solids import depth_in_common
from zygon.making.tube.meeting import MemberMeeting
from zygon.measure.evaluate import evaluate
from zygon.stock.bar import BarStock
from zygon.stock.kinds import is_bar
from zygon.stock.section import OPEN
from zygon.tolerance import CONTACT, WITHIN

__all__ = ["Spot", "add_frame", "bar_of", "bend_members", "draw_line", "join_members", "remove_frame", "remove_line"]

_NOUGHT = re.compile(r"\s*0+(\.0*)?\s*(mm|cm|m|in)?\s*")
#: A line nearer to upright than this (as a cosine) has its side at 0 degrees toward the back.
UPRIGHT = 0.9


@dataclass(frozen=True)
class Spot:
    """Where a line begins or ends: a point of a frame, a place on one of its lines (mm from its first point), or a place in the room (mm), of a ``part``."""

    point: str = ""
    line: str = ""
    at: tuple[float, float, float] | None = None
    off: float = 0.0
    part: str = ""


def add_frame(
    built: Built, kind: str, stock: str, places: dict[str, tuple[str, str]], *, count: int = 0, name: str = "", ends: str = "cut"
) -> tuple[str, Patch]:
    """Label and patch of a frame to begin with, between places along x, y and z that are entries.

    With ``ends`` 'cut' its outside lies between them and its ends are joined; with 'connectors' the middles of its members do, and connectors hold them. Raises DocumentError for what cannot be."""
    document, start = built.document, FRAME_STARTS.get(kind)
    if start is None:
        rule = f"one of {', '.join(FRAME_STARTS)}"
        raise DocumentError(f"There is no frame {kind} to begin with", entry="kind", value=kind, rule=rule)
    if set(places) != set(AXES):
        raise DocumentError("A frame has a low and a high place along x, y and z", entry="places", value=sorted(places), rule="three pairs")
    if start.count and not 1 <= count <= 100:
        raise DocumentError(f"{start.title}: {count} {start.count.lower()}", entry="count", value=count, rule="from 1 to 100")
    bar = bar_of(document, stock)
    if kind == "box" and ends == "cut" and bar.shape in OPEN:
        why = f"{bar.name} is open, and the rails of a box would meet between the legs of its posts"
        rule = "a tube or a solid bar, or ends in connectors"
        raise DocumentError(why, entry="stock", value=stock, rule=rule)
    started = start.make(places, count)
    called = fresh_name(document, name or kind)
    key = fresh_key(document.frames, called)
    taken = {called}
    names: dict[str, str] = {}
    for member in started.members:
        names[member] = fresh_name(document, member, taken)
        taken.add(names[member])
    patch: Patch = [{"op": "add", "path": pointer("frames", key), "value": _frame_record(document, called, started, names)}]
    keys: dict[str, str] = {}
    for n, (member, said) in enumerate(started.members.items()):
        keys[member] = fresh_key({**document.parts, **dict.fromkeys(keys.values())}, names[member])
        said = {**said, "lies": "middle"} if ends == "connectors" else said
        record = {"kind": "member", "name": names[member], "stock": stock, "frame": key, "order": next_order(document.parts) + n, **said}
        patch.append({"op": "add", "path": pointer("parts", keys[member]), "value": record})
    if ends == "connectors":
        after = build(patched(document.dump(), patch))
        return f"{start.title} of {document.stocks[stock].name}, with connectors", patch + add_connectors(after, key, [])[1]
    joints: dict[str, Any] = dict(document.joints)
    round_ = usual_on(document, stock) == "member_cope"
    rounded = [(one, other, "on") for one, other in started.rounded] if round_ else []
    for n, (one, other, how) in enumerate([*started.joined, *rounded]):
        joint = "member_mitre" if how == "mitre" else usual_on(document, stock)
        at = fresh_key(joints, f"{keys[one]}-{keys[other]}")
        joints[at] = True
        record = {"kind": joint, "a": keys[one], "b": keys[other], "order": next_order(document.joints) + n}
        patch.append({"op": "add", "path": pointer("joints", at), "value": record})
    if bar.shape in OPEN:
        made = build(patched(document.dump(), patch)).joints
        refused = next((made[k].refused for k in joints if k not in document.joints and k in made and made[k].refused), "")
        if refused:
            raise DocumentError(
                f"{start.title} of {bar.name}: {refused}", entry="stock", value=stock, rule="a tube or a solid bar, or ends in connectors"
            )
    return f"{start.title} of {bar.name}", patch


def _frame_record(document: Document, name: str, started: Started, names: dict[str, str]) -> dict[str, Any]:
    def said(point: dict[str, Any]) -> dict[str, Any]:
        if "off" in point:
            return {**point, "off": entry_of(document, point["off"].format(**names))}
        return {**point, "at": {a: entry_of(document, text.format(**names)) for a, text in point["at"].items()}}

    points = {k: said(p) for k, p in started.points.items()}
    return {"name": name, "order": next_order(document.frames), "points": points, "lines": started.lines}


def bar_of(document: Document, stock: str) -> BarStock:
    """A bar stock by its key. Raises DocumentError where it is none."""
    record = document.stocks.get(stock)
    if not is_bar(record):
        rule = "a bar stock of the design"
        raise DocumentError("A member is cut from a bar or tube of this design", entry="stock", value=stock, rule=rule)
    return record


def usual_on(document: Document, main: str) -> str:
    """How an end is usually cut that lies on a side of a main of a stock."""
    record = document.stocks[main]
    return "member_cope" if record.kind == "bar" and record.shape == "round" else "member_butt"


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
    drawing = _Drawing(document, values, frame, catch, step)
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
        "kind": "member", "name": name, "stock": stock, "frame": key, "lines": [line], "order": next_order(document.parts),
        "against": "y" if upright else "z", "group": document.frames[frame].group if frame else "",
    }  # fmt: skip
    patch.append({"op": "add", "path": pointer("parts", fresh_key(document.parts, name)), "value": member})
    return f"{name.replace('_', ' ').capitalize()} of {document.stocks[stock].name}", patch


class _Drawing:
    """The points of a frame while a line is drawn into it: those that are there, and those that it needs."""

    def __init__(self, document: Document, values: Values, frame: str, catch: float, step: float) -> None:
        self.document, self.values, self.frame, self.catch, self.step = document, values, frame, catch, step
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
        for k, axis in enumerate(AXES):
            entries[axis], place[k] = self._written(axis, float(wanted[k]), spot.part, start)
        return self._add({"at": entries}, place)

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


def usual_joint(document: Document, contact: str, main: str, corner: str = "") -> list[str]:
    """The kinds of joint that are usual where a member meets a main so, the best first; ``corner`` is what is wished where two ends meet."""
    part = document.parts[main.partition("@")[0]]
    on = usual_on(document, part.stock) if is_placed(part) else "member_cope"
    cut = [on, "member_cope", "member_butt"]
    if contact == "corner":
        wished = {"mitre": "member_mitre", "butt": on}.get(corner)
        return [wished, "member_mitre", *cut] if wished else ["member_mitre", *cut]
    return cut if contact == "tee" else ["member_passage", "member_notch"]


def join_members(
    built: Built, of: Collection[str] = (), corner: str = "", *, first: str = "", pairs: Collection[frozenset[str]] = ()
) -> tuple[str, Patch]:
    """Label and patch that join members where they meet and are not joined yet, each pair as is usual; ``of`` names those that are meant, else all,
    and ``pairs`` the only ones that are.

    Where an end meets a side it is the end that is cut. Where three or more ends meet, ``first``, or the one that comes first in the order of the parts,
    is cut by none, the others lie on it, and on one another where they would take up the same room. Raises DocumentError where no two of them meet.
    """
    document, asked = built.document, Meeting(built.document)
    members = sorted((k for k, p in document.placed().items() if is_member(p)), key=lambda k: k != first)
    meetings = {(a, b): m for a, b in combinations(members, 2) if (m := asked.of_members(a, b)) and m.kind in ("corner", "tee")}
    done = {frozenset((j.a.partition("@")[0], j.b.partition("@")[0])) for j in document.joints.values()}
    done |= built.in_one_connector
    meant = [(pair, m) for pair, m in meetings.items() if (not of or set(pair) & set(of)) and frozenset(pair) not in done]
    wanted = [(pair, m) for pair, m in meant if not pairs or frozenset(pair) in pairs]
    patch: Patch = []
    keys: dict[str, Any] = dict(document.joints)

    def join(pair: tuple[str, str], corner: str) -> None:
        offers = [o for o in asked.offers(*pair) if not o["refused"]]
        offer = _best(document, offers, *pair, corner)
        if offer is None:
            return
        a, b = pair if offer["order"] == "ab" else pair[::-1]
        key = fresh_key(keys, f"{a}-{b}")
        keys[key] = True
        record = {"kind": offer["kind"], "a": a, "b": b, "order": next_order(document.joints) + len(patch)}
        patch.append({"op": "add", "path": pointer("joints", key), "value": record})

    later = []
    for pair, meeting in wanted:
        main = _main_of(members, meetings, pair, meeting)
        if main not in (None, pair[0]):
            later.append(pair)
        else:
            join(pair, "butt" if main else corner)
    for pair in later:
        made = build(patched(document.dump(), patch)).made
        if pair[0] in made and pair[1] in made and depth_in_common(made[pair[0]], made[pair[1]], CHORDS):
            join(pair, "butt")
    if not patch:
        raise DocumentError("No two members meet that are not joined", entry="of", value=list(of), rule="members that meet")
    return f"Join {len(patch)} {'pair' if len(patch) == 1 else 'pairs'} of members", patch


def _main_of(
    members: list[str], meetings: dict[tuple[str, str], MemberMeeting], pair: tuple[str, str], meeting: MemberMeeting
) -> str | None:
    """Where the ends of a pair meet others too, the first of all that meet there; None where they are alone."""
    if meeting.kind != "corner":
        return None
    at = dict(zip(pair, (meeting.at_one, meeting.at_other), strict=True))
    found = set(pair)
    for (a, b), m in meetings.items():
        ends = {a: m.at_one, b: m.at_other}
        for mine, other in ((a, b), (b, a)):
            if mine in pair and other not in pair and ends[mine] == at[mine]:
                found.add(other)
    return min(found, key=members.index) if len(found) > 2 else None


def _best(document: Document, offers: list[dict[str, str]], one: str, other: str, corner: str) -> dict[str, str] | None:
    """The offer that is usual; the later member is the one that is cut, where both could be."""
    ranked = []
    for o in offers:
        main = other if o["order"] == "ab" else one
        kinds = usual_joint(document, o["contact"], main, corner)
        if o["kind"] in kinds:
            ranked.append((kinds.index(o["kind"]), o["order"] != "ba", o))
    return min(ranked, key=lambda r: r[:2])[2] if ranked else None


def bend_members(built: Built, of: Collection[str], radius: str = "") -> tuple[str, Patch]:
    """Label and patch that make members whose lines follow one another one that is bent by a radius, an entry; twice as thick as it is where not said.

    The first of them stays, of its own stock and name. Raises DocumentError where they lie on no lines in a row of one frame.
    """
    document = built.document
    named = {k: p for k in of if is_member(p := document.parts.get(k))}
    keys, chosen = list(named), list(named.values())
    rule = "members of one frame and stock whose lines follow one another"
    if len(chosen) < 2 or len({(p.frame, p.stock) for p in chosen}) > 1:
        raise DocumentError("These cannot be bent from one bar", entry="of", value=list(of), rule=rule)
    frame = document.frames[chosen[0].frame]
    lines = _in_a_row(frame, [line for p in chosen for line in p.lines])
    if lines is None:
        raise DocumentError("Their lines do not follow one another", entry="of", value=list(of), rule=rule)
    first, rest = keys[0], keys[1:]
    own = [k for k, j in document.joints.items() if {j.a.partition("@")[0], j.b.partition("@")[0]} & set(keys)]
    patch = _without(document, rest, [{"op": "remove", "path": pointer("joints", k)} for k in own])
    sizes = sizes_of(built.made[first]) if first in built.made else Sizes()
    text = radius or figure(2 * max(sizes.thickness or 0.0, sizes.width or 0.0, 1.0), document.unit)
    where = pointer("parts", first)
    patch += [
        {"op": "add", "path": f"{where}/lines", "value": lines},
        {"op": "add", "path": f"{where}/radius", "value": entry_of(document, text)},
        {"op": "add", "path": f"{where}/lies", "value": "middle"},
        {"op": "add", "path": f"{where}/against", "value": _across_of(built, chosen[0].frame, lines)},
    ]
    return f"Bend {document.parts[first].name} from one bar", patch


def _in_a_row(frame: LineFrame, lines: list[str]) -> list[str] | None:
    """Lines in the order in which they follow one another; None where they do not."""
    at: dict[str, list[str]] = {}
    for key in lines:
        for p in (frame.lines[key].a, frame.lines[key].b):
            at.setdefault(p, []).append(key)
    ends = [p for p, keys in at.items() if len(keys) == 1]
    if len(ends) != 2 or any(len(keys) > 2 for keys in at.values()):
        return None
    start = min(ends, key=lambda p: lines.index(at[p][0]))
    found, point = [at[start][0]], start
    while len(found) < len(lines):
        line = frame.lines[found[-1]]
        point = line.b if line.a == point else line.a
        more = [k for k in at[point] if k != found[-1]]
        if not more:
            return None
        found.append(more[0])
    return found


def _across_of(built: Built, frame: str, lines: list[str]) -> str:
    """An axis that the first of lines in a row does not run along: up, or to the back."""
    record = built.document.frames[frame]
    points = [
        np.array(built.points[frame][p]) for p in (record.lines[lines[0]].a, record.lines[lines[0]].b) if p in built.points.get(frame, {})
    ]
    way = points[1] - points[0] if len(points) == 2 else np.array((1.0, 0.0, 0.0))
    return "y" if abs(float(way[2])) > UPRIGHT * float(np.linalg.norm(way)) else "z"


def remove_line(document: Document, frame: str, line: str) -> tuple[str, Patch]:
    """Label and patch that remove a line with the members on it, and the points that nothing uses any more with what stands on them. Raises DocumentError where there is none."""
    record = document.frames.get(frame)
    if record is None or line not in record.lines:
        raise DocumentError(f"There is no line {line!r}", entry="line", value=line, rule="a line of a frame")
    if len(record.lines) == 1:
        return remove_frame(document, frame)
    rest = {k: ln for k, ln in record.lines.items() if k != line}
    ends = {p for ln in rest.values() for p in (ln.a, ln.b)}
    held = [k for k, p in record.points.items() if p.on == line and k in ends]
    if held:
        rule = "no other line begins on it"
        raise DocumentError("Another line begins on this one; remove that first", entry="line", value=line, rule=rule)
    lost = [k for k, p in record.points.items() if k not in ends and (p.on == line or k in (record.lines[line].a, record.lines[line].b))]
    of = {k: p for k, p in document.parts.items() if is_framed(p) and p.frame == frame}
    gone = [k for k, p in of.items() if (is_member(p) and line in p.lines) or (is_connector(p) and p.point in lost)]
    patch = _without(document, gone)
    patch.append({"op": "remove", "path": pointer("frames", frame, "lines", line)})
    patch += [{"op": "remove", "path": pointer("frames", frame, "points", k)} for k in lost]
    return f"Remove a line of {record.name}", patch


def remove_frame(document: Document, frame: str) -> tuple[str, Patch]:
    """Label and patch that remove a frame with all its members. Raises DocumentError where there is none."""
    if frame not in document.frames:
        raise DocumentError(f"There is no frame with the key {frame!r}", entry="frame", value=frame, rule="a frame of the design")
    gone = [k for k, p in document.parts.items() if is_framed(p) and p.frame == frame]
    patch = _without(document, gone)
    return f"Remove {document.frames[frame].name}", [*patch, {"op": "remove", "path": pointer("frames", frame)}]


def _without(document: Document, parts: list[str], patch: Patch | None = None) -> Patch:
    """What goes with parts, one after the other, behind a patch."""
    patch = patch or []
    after = patched(document.dump(), patch) if patch else document
    for key in parts:
        patch += remove_part(after, key)[1]
        after = patched(document.dump(), patch)
    return patch
