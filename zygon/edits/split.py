"""Splitting a folded part in two along a line across its plate: both halves fold the whole and keep their side of it, and what holds both together.

The first half steps under the second by an overlap; rivets go through both, or tabs of the first through slots of the second. Where the
line runs is a size, which both halves and the rivets follow.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
import shapely

from zygon.design.document import Document
from zygon.design.folding import Folding
from zygon.design.layout_operations import fresh_key, fresh_name
from zygon.design.parts.kinds import PlateKind
from zygon.design.patch import Patch, patched
from zygon.design.plain import copied
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.boolean import to_polygon
from zygon.geometry.frame import FACES, Frame, frame_of
from zygon.making.metal.legs import record_of
from zygon.making.pipeline import build
from zygon.making.result.built import Built, FlatPart
from zygon.owner import feature_id, part_id
from zygon.tolerance import WITHIN

__all__ = ["Hold", "split_part"]

Hold = Literal["rivets", "tabs", "none"]
#: The step's steepest angle, and how far before the line it has levelled out (mm).
STEP_ANGLE, LEVEL = math.radians(30.0), 0.3
#: Room about a tab in its slot (mm).
PLAY = 0.3


@dataclass(frozen=True)
class _Step:
    """How the overlap steps under the other half: where its bend begins before the line, its radius, angle, length after it and room at both ends."""

    inset: float
    radius: float
    angle: float
    length: float
    margins: tuple[float, float]


def split_part(
    built: Built,
    key: str,
    axis: str,
    at: float,
    *,
    overlap: float = 16.0,
    hold: Hold = "rivets",
    diameter: float = 3.2,
    number: int = 4,
) -> tuple[str, Patch]:
    """Label and patch that make two parts of a folded one, split at a place ``at`` (mm in its own room) along an axis of its plate.

    ``overlap`` is how far the first half reaches under the second. Raises DocumentError where it cannot be.
    """
    document, built_part = built.document, built.flats.get(key)
    part = document.plates().get(key)
    if part is None or part.folding is None or built_part is None:
        raise DocumentError("Only a folded part is split", entry="part", value=key, rule="a folded part of the design")
    frame = frame_of(part.plane)
    if axis not in (frame.u, frame.v):
        raise DocumentError(f"{part.name} does not run along {axis}", entry="axis", value=axis, rule=f"{frame.u} or {frame.v}")
    if part.folding.split and part.folding.split.axis != axis:
        rule = f"a half is split along {part.folding.split.axis} again"
        raise DocumentError(f"{part.name} cannot be split along {axis}: {rule}", entry="axis", value=axis, rule=rule)
    low, high = _kept(built, key, part, built_part, axis)
    thickness = built_part.flat.thickness
    step = _step(built_part, part.folding, frame, axis, thickness, overlap)
    room = step.inset + thickness
    if not low + room < at < high - overlap - room:
        rule = f"between {low + room:g} and {high - overlap - room:g} mm, with room for the overlap on both sides"
        raise DocumentError(f"{part.name} cannot be split at {at:g} mm: {rule}", entry="at", value=at, rule=rule)
    if not 2 <= number <= 50 or not 0 < diameter < overlap / 2:
        rule = "2 to 50 of them, less than half as wide as the overlap"
        raise DocumentError(f"What holds both halves: {rule}", entry="number", value=[number, diameter], rule=rule)
    draft = _Draft(built, key, part, built_part, axis, at, overlap, step)
    patch = draft.patch(hold, diameter, number)
    _must_build(document, patch, key, draft.second)
    return f"{part.name}: split in two at {at:g} mm", draft.pruned(patch)


def _rest(built: Built, key: str, axis: str) -> tuple[float, float]:
    """From where to where a plate runs along an axis, as its spans say: at rest, in its own group."""
    low, high = (built.values[pointer("parts", key, "spans", axis, side)].value for side in ("low", "high"))
    return low, high


def _kept(built: Built, key: str, part: PlateKind, built_part: FlatPart, axis: str) -> tuple[float, float]:
    """From where to where a part's plate reaches along the axis; a half's no farther than it was cut."""
    low, high = _rest(built, key, axis)
    split = part.folding.split if part.folding else None
    for name in ("low", "high"):
        if split and getattr(split, name) is not None:
            at = built.values[pointer("parts", key, "folding", "split", name)].value
            low, high = (max(low, at), high) if name == "low" else (low, min(high, at))
    return low, high


def _step(part: FlatPart, folding: Folding, frame: Frame, axis: str, t: float, overlap: float) -> _Step:
    """The step of the overlap: as steep as it may be, level before the line, and clear of the bends of what the line crosses."""
    fold = part.flat.fold
    flanges = folding.flanges
    own = [b.radius for b in (fold.bends if fold else ()) if abs(b.angle) < math.pi - WITHIN and flanges[record_of(b.key)].radius is None]
    radius = own[0] if own else t
    radius = max(radius, 0.05)
    angle = min(STEP_ANGLE, math.acos(1 - 0.8 * t / (2 * radius + t)))
    straight = (t - (2 * radius + t) * (1 - math.cos(angle))) / math.sin(angle)
    run = (2 * radius + t) * math.sin(angle) + straight * math.cos(angle)
    room = 3 * t  # the relief, and a strip of plate beside the bend
    margins = [room, room]
    k = 1 if axis == frame.u else 0
    low, high = part.span_box.span(frame.v if k else frame.u)
    for b in fold.bends if fold else ():
        if b.parent or abs(b.along[1 - k]) < 0.999:
            continue
        across = b.start[k]
        side = 0 if across < (high - low) / 2 else 1
        margins[side] = max(margins[side], (across if side == 0 else high - low - across) + room)
    return _Step(run + LEVEL, radius, math.degrees(angle), overlap + LEVEL, (round(margins[0], 4), round(margins[1], 4)))


def _must_build(document: Document, patch: Patch, key: str, second: str) -> None:
    """Raises DocumentError where the line runs through what cannot be cut."""
    after = build(patched(document.dump(), patch))
    for fault in after.faults:
        if fault.code in ("split_crosses", "bad_split") and fault.part in (key, second):
            raise DocumentError(f"{fault.message}. {fault.rule[0].upper()}{fault.rule[1:]}", entry="at", value=fault.value, rule=fault.rule)


def _mm(value: float) -> dict[str, str]:
    return {"text": f"{round(value, 4):g} mm", "unit": "mm"}


def _text(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


class _Draft:
    """The records of both halves."""

    def __init__(
        self, built: Built, key: str, part: PlateKind, built_part: FlatPart, axis: str, at: float, overlap: float, step: _Step
    ) -> None:
        self.built, self.document, self.key, self.part, self.built_part = built, built.document, key, part, built_part
        self.axis, self.at, self.overlap, self.step = axis, at, overlap, step
        self.frame = frame_of(part.plane)
        self.across = self.frame.v if axis == self.frame.u else self.frame.u
        self.other = fresh_name(self.document, f"{part.name}_2")
        self.second = fresh_key(self.document.parts, self.other)
        self.line = fresh_name(self.document, f"{part.name}_split", {self.other})
        self.size = fresh_key(self.document.sizes, self.line)

    def patch(self, hold: Hold, diameter: float, number: int) -> Patch:
        """Both halves with the overlap and what holds it, bores that go on through the second, and joints that it has too."""
        first, second = self._halves()
        spots = self._spots(diameter, number)
        patch: Patch = []
        if hold == "rivets":
            patch = self._rivets(spots, diameter)
        elif hold == "tabs":
            self._tabs(first, second, spots, number)
        order = max((s.order for s in self.document.sizes.values()), default=-1) + 1
        return [
            {
                "op": "add",
                "path": pointer("sizes", self.size),
                "value": {"name": self.line, "entry": _mm(self.at), "order": order, "note": f"where {self.part.name} is split"},
            },
            {"op": "replace", "path": pointer("parts", self.key), "value": first},
            {"op": "add", "path": pointer("parts", self.second), "value": second},
            *self._bores(),
            *self._joints(),
            *self._copies(),
            *patch,
        ]

    def _halves(self) -> tuple[dict[str, Any], dict[str, Any]]:
        data = self.part.model_dump(mode="json", exclude_none=True)
        halves = copied(data), copied(data)
        halves[1]["name"], halves[1]["order"] = self.other, max(p.order for p in self.document.parts.values()) + 1
        for half, end, gone in zip(halves, ("high", "low"), ("cut_high", "cut_low"), strict=True):
            folding = half["folding"]
            folding["split"] = {**folding.get("split", {}), "axis": self.axis, end: _text(self.line)}
            folding["sequence"] = []
            _drop(folding, {k for k, f in folding["flanges"].items() if not f.get("on") and f["edge"] == gone})
        step, margins = self.step, self.step.margins
        if self.axis == self.frame.v:  # that edge is walked from its high end
            margins = margins[::-1]
        halves[0]["folding"]["flanges"][self._overlap_key()] = {
            "kind": "offset",
            "name": "overlap",
            "edge": "cut_high",
            "toward": "b",
            "height": _text(f"{self.part.name}.thickness"),
            "angle": _text(f"{step.angle:.4g} deg"),
            "radius": _mm(step.radius),
            "inset": _mm(step.inset),
            "length": _mm(step.length),
            "extent": "inset",
            "first": _mm(margins[0]),
            "second": _mm(margins[1]),
            "order": 900,
        }
        return halves

    def _overlap_key(self) -> str:
        return fresh_key(self.built_part.folding.flanges, "overlap")

    def _ends(self) -> tuple[float, float]:
        """Where the overlap lies across the line, in the plate's own room."""
        low, high = _rest(self.built, self.key, self.across)
        return low + self.step.margins[0], high - self.step.margins[1]

    def _spots(self, diameter: float, number: int) -> list[float]:
        """Places spread over the overlap, each moved aside where a hole lies under it."""
        t = self.built_part.flat.thickness
        low, high = self._ends()
        taken = self._cut_outs()
        k = 0 if self.axis == self.frame.u else 1
        ou, ov = (_rest(self.built, self.key, a)[0] for a in (self.frame.u, self.frame.v))
        found = []
        for i in range(number):
            wanted = low + (high - low) * (i + 0.5) / number
            reach = (high - low) / number / 2 - diameter
            for off in sorted(np.linspace(-max(reach, 0.0), max(reach, 0.0), 21), key=abs):
                along, aside = self.at + self.overlap / 2, wanted + float(off)
                u, v = (along, aside) if k == 0 else (aside, along)
                if taken.is_empty or taken.distance(shapely.Point(u - ou, v - ov)) >= diameter / 2 + t:
                    found.append(round(aside, 3))
                    break
            else:
                rule = "somewhere along the overlap without holes for each of them"
                raise DocumentError(
                    f"{self.part.name}: no room for rivet {i + 1} between its holes near {wanted:.4g} mm",
                    entry="number",
                    value=number,
                    rule=rule,
                )
        return found

    def _cut_outs(self) -> shapely.Geometry:
        flat = self.built_part.flat
        holes = [to_polygon(c, 0.05) for c in flat.inside] if flat else []
        return shapely.union_all(holes) if holes else shapely.Polygon()

    def _rivets(self, spots: list[float], diameter: float) -> Patch:
        patch: Patch = []
        name, (low_face, high_face) = self.part.name, FACES[self.across]
        a0, a1 = _rest(self.built, self.key, self.across)
        taken: dict[str, Any] = {**self.document.bores}
        for i, spot in enumerate(spots, 1):
            share = (spot - a0) / (a1 - a0)
            place = _text(f"{name}.{low_face} + {share:.5g}*({name}.{high_face} - {name}.{low_face})")
            faces = FACES[self.frame.normal]
            bore = {
                "name": f"{name} rivet {i}"[:40],
                "axis": self.frame.normal,
                "at": {self.axis: _text(f"{self.line} + {self.overlap / 2:g} mm"), self.across: place},
                "diameter": _mm(diameter),
                "order": 900 + i,
                # no farther than the overlap, so that a lip over it is not drilled
                "low": _text(f"{name}.{faces[0]} - 1.5*{name}.thickness"),
                "high": _text(f"{name}.{faces[1]} + 1.5*{name}.thickness"),
                "parts": {self.key: {"action": "cut"}, self.second: {"action": "cut"}},
            }
            own = fresh_key(taken, f"rivet_{self.key}_{i}")
            taken[own] = bore
            patch.append({"op": "add", "path": pointer("bores", own), "value": bore})
        return patch

    def _tabs(self, first: dict[str, Any], second: dict[str, Any], spots: list[float], number: int) -> None:
        """Tabs that stand up from the overlap's far edge, and slots for them in the second half."""
        t, r = self.built_part.flat.thickness, self.step.radius
        low, high = self._ends()
        width = min((high - low) / number / 2, 20.0)
        key, k = self._overlap_key(), 0 if self.axis == self.frame.u else 1
        names = ("u", "v") if k == 0 else ("v", "u")
        # the tab's outer face is flush with the overlap's end; at its root the bend's inside fills the slot
        end, deep = self.at + self.overlap, t + r + 2 * PLAY
        along0, across0 = (_rest(self.built, self.key, a)[0] for a in (self.axis, self.across))
        for i, spot in enumerate(spots, 1):
            off = (spot - (low + high) / 2) * (1 if k == 0 else -1)
            first["folding"]["flanges"][f"{key}_tab_{i}"] = {
                "kind": "flange",
                "name": f"tab {i}",
                "on": key,
                "edge": "end",
                "toward": "a",
                "length": _mm(3 * t + r + 2),
                "radius": _mm(r),
                "extent": "centred",
                "first": _mm(width),
                "second": _mm(off),
                "order": 901 + i,
                "where": "outside",
            }
            sizes = {"width": _mm(deep), "height": _mm(width + 2 * PLAY)}
            if k:
                sizes = {"width": sizes["height"], "height": sizes["width"]}
            second["features"][fresh_key(second["features"], f"slot_{i}")] = {
                "kind": "rectangle",
                "name": f"slot {i}",
                "order": 900 + i,
                "radius": _text("0"),
                **sizes,
                names[0]: {
                    "origin": FACES[self.axis][0],
                    "offset": _text(f"{self.line} + {end + PLAY - deep / 2 - self.at - along0:.6g} mm"),
                },
                names[1]: {"origin": FACES[self.across][0], "offset": _mm(spot - across0)},
            }

    def _bores(self) -> Patch:
        """A bore through the whole goes through whichever half it meets; through both where it meets the overlap too."""
        return [
            {"op": "add", "path": pointer("bores", k, "parts", self.second), "value": b.parts[self.key].model_dump(mode="json")}
            for k, b in self.document.bores.items()
            if self.key in b.parts
        ]

    def _copies(self) -> Patch:
        """The second half is copied wherever the whole was."""
        copies = self.document.copies.items()
        return [
            {"op": "add", "path": pointer("copies", k, "of", "-"), "value": part_id(self.second)}
            for k, c in copies
            if part_id(self.key) in c.of
        ]

    def _joints(self) -> Patch:
        """The second half is joined as the whole was; each half has what of it lies on its side."""
        patch: Patch = []
        taken: dict[str, Any] = {**self.document.joints}
        for joint in self.document.joints.values():
            ends = {n: getattr(joint, n) for n in ("a", "b")}
            own = {n: part.partition("@") for n, part in ends.items() if part.partition("@")[0] == self.key}
            if not own:
                continue
            data = joint.model_dump(mode="json", exclude_none=True)
            data |= {n: f"{self.second}{at}{copy}" for n, (_, at, copy) in own.items()}
            new = fresh_key(taken, f"{data['a']}-{data['b']}".replace("@", "_").replace(".", "_"))
            taken[new] = data
            patch.append({"op": "add", "path": pointer("joints", new), "value": data})
        return patch

    def pruned(self, patch: Patch) -> Patch:
        """The patch without what is wholly on the other side of the line: flanges, holes, and the ends of bores."""
        after = build(patched(self.document.dump(), patch))
        halves = {k: op["value"] for op in patch if op["path"].startswith("/parts/") for k in (op["path"].rpartition("/")[2],)}
        for key, half in halves.items():
            flat = after.flats[key].flat if key in after.flats else None
            if flat is None or flat.fold is None:
                continue
            bent = {record_of(b.key) for b in flat.fold.bends}
            folding = half["folding"]
            whole = {record_of(b.key) for b in self.built_part.fold.bends}
            _drop(folding, {k for k, f in folding["flanges"].items() if k in whole - bent and not f.get("out")})
            there = {o for p in flat.pieces for c in (p.outer, *p.inner) for o in c.owners} | {m.owner for m in flat.engraved}
            was = self._owners()
            half["features"] = {
                k: f for k, f in half["features"].items() if self._stays(feature_id(key, k), feature_id(self.key, k), there, was)
            }
            for name, flange in folding["flanges"].items():
                own = flange.get("features", {})
                for k in [k for k in own if not self._stays(feature_id(key, k, name), feature_id(self.key, k, name), there, was)]:
                    del own[k]
        missed = {f.entry for f in after.faults if f.code == "bore_misses"} - {f.entry for f in self.built.faults}
        kept: Patch = []
        for op in patch:
            if op["path"] in missed:
                continue
            kept.append(op)
        kept += [{"op": "remove", "path": entry} for entry in sorted(missed) if not any(op["path"] == entry for op in patch)]
        return kept

    def _owners(self) -> set[str]:
        """Whose cuts and marks the whole's flat has."""
        flat = self.built_part.flat
        if flat is None:
            return set()
        return {o for p in flat.pieces for c in (p.outer, *p.inner) for o in c.owners} | {m.owner for m in flat.engraved}

    @staticmethod
    def _stays(now: str, before: str, there: set[str], was: set[str]) -> bool:
        return now in there or before not in was


def _drop(folding: dict[str, Any], gone: set[str]) -> None:
    """Takes flanges away, with all that stands on them and their corners."""
    flanges = folding["flanges"]
    while True:
        more = {k for k, f in flanges.items() if f.get("on") in gone} - gone
        if not more:
            break
        gone = gone | more
    for k in gone & flanges.keys():
        del flanges[k]
    folding["corners"] = {k: c for k, c in folding.get("corners", {}).items() if not {c["a"], c["b"]} & gone}
