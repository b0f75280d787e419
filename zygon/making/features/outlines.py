"""Blanks with outlines of their own: disc, ring, link, gear, drawn, traced. Sets each blank's outline and gives the openings inside as cuts."""

from __future__ import annotations

import math

from zygon.design.outlines import Drawn, Free, Gear, Link, Ring, Traced
from zygon.design.pointer import pointer
from zygon.geometry.boolean import subtract
from zygon.geometry.contour import Contour, circle, polygon
from zygon.geometry.gear import ADDENDUM, DEDENDUM, gear_contour, least_teeth
from zygon.geometry.motion import Motion
from zygon.geometry.offset import OffsetError, offset
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.carry import carrier
from zygon.making.blanks.instances import Instance
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.drawn import free_outline
from zygon.making.features.edges import edge_cuts
from zygon.making.features.holes import HolesOnPlane
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Cut, Operation
from zygon.measure.display import exact_length, format_length
from zygon.measure.entry import Entry
from zygon.tolerance import CONTACT, EPS, WITHIN

__all__ = ["link_contour", "shape_outlines"]

OWNER = "outline"
#: Pressure angles of teeth, in degrees: those of the trade are 14.5, 20 and 25 (common practice).
PRESSURES = (10.0, 30.0)


def shape_outlines(values: Values, blanks: dict[str, Blank], instances: dict[str, Instance]) -> dict[str, list[Operation]]:
    """Gives every blank that has one its outline; the openings that belong to it, by part key. What cannot be is a fault, and stays a rectangle."""
    found: dict[str, list[Operation]] = {}
    values.holes_on = HolesOnPlane(values, blanks, instances).of
    for key, blank in blanks.items():
        if isinstance(blank.record.outline, Free):
            found[key] = free_outline(values, blank, values.holes_on(key))
        elif blank.record.outline is not None and not isinstance(blank.record.outline, Traced):
            found[key] = _Shaper(values, blank).shape()
    for key, blank in blanks.items():
        if isinstance(blank.record.outline, Traced) and blank.outline is None:
            _trace(values, blanks, key, [])
    return found


class _Shaper:
    """Reads one outline's entries and draws it."""

    def __init__(self, values: Values, blank: Blank) -> None:
        self.values, self.blank, self.record = values, blank, blank.record.outline
        self.where = pointer("parts", blank.key, "outline")
        (u0, u1), (v0, v1) = blank.span.span(blank.frame.u), blank.span.span(blank.frame.v)
        self.width, self.height = u1 - u0, v1 - v0

    def read(self, entry: Entry | None, field: str, default: float = 0.0) -> float:
        if entry is None:
            return default
        scope = EntryScope(self.values, stock=self.blank.record.stock)
        return self.values.read(entry, f"{self.where}/{field}", "length", scope, part=self.blank.key, owner=OWNER, fallback=default)

    def fault(self, field: str, message: str, rule: str, value: float) -> None:
        shown = format_length(value, self.values.document.display)
        at = f"{self.where}/{field}" if field else self.where
        self.values.fault_entry(at, "bad_outline", f"{self.blank.record.name}: {message}", rule, shown, self.blank.key, OWNER)

    def shown(self, value: float) -> str:
        return format_length(value, self.values.document.display)

    def within(self, value: float, field: str, said: str, most: float, *, whole: bool = False) -> float:
        """A diameter above 0 and below ``most`` (or as large, where ``whole``); else it is said, and the last good one stands, or 0."""
        top = most + CONTACT if whole else most - CONTACT
        if CONTACT < value < top:
            return value
        self.fault(
            field, said.format(self.shown(value)), f"greater than 0, {'at most' if whole else 'less than'} {self.shown(most)}", value
        )
        where = f"{self.where}/{field}"
        good = self.values.values[where].value if where in self.values.values and self.values.stand(where) else 0.0
        return good if CONTACT < good < top else 0.0

    def shape(self) -> list[Operation]:
        match self.record:
            case Link():
                return self.link(self.record)
            case Gear():
                return self.gear(self.record)
            case Drawn():
                return self.drawn(self.record)
            case _:
                return self.disc()

    def disc(self) -> list[Operation]:
        if abs(self.width - self.height) > CONTACT:
            self.fault(
                "",
                f"a disc is as high as it is wide, and its spans are {self.shown(self.width)} and {self.shown(self.height)}",
                "equal spans",
                abs(self.width - self.height),
            )
        size, cu, cv = min(self.width, self.height), self.width / 2, self.height / 2
        self.blank.outline = circle(cu, cv, size / 2, "edge:round")
        if not isinstance(self.record, Ring):
            return []
        inner = self.within(self.read(self.record.inner, "inner"), "inner", f"an opening of {{}} in a ring of {self.shown(size)}", size)
        return [Cut(circle(cu, cv, inner / 2, OWNER), OWNER)] if inner else []

    def link(self, record: Link) -> list[Operation]:
        along_u = self.width >= self.height
        length, across = (self.width, self.height) if along_u else (self.height, self.width)
        low, high = (
            self.within(
                self.read(getattr(record, f), f, across), f, f"an end of {{}} in a link {self.shown(across)} wide", across, whole=True
            )
            for f in ("low", "high")
        )
        if not low or not high:
            return []
        apart = length - (low + high) / 2
        if apart <= abs(low - high) / 2 + CONTACT:
            self.fault("", "one end's circle lies within the other's", "a longer link, or ends less different in size", apart)
            return []
        middle = across / 2
        ends = [(low / 2, middle), (length - high / 2, middle)]
        points = ends if along_u else [(p[1], p[0]) for p in ends]
        self.blank.outline = link_contour(points[0], low / 2, points[1], high / 2, "edge:round")
        cuts: list[Operation] = []
        for field, entry, place, size in (("bore_low", record.bore_low, points[0], low), ("bore_high", record.bore_high, points[1], high)):
            if entry is None:
                continue
            bore = self.within(self.read(entry, field), field, f"a bore of {{}} in an end of {self.shown(size)}", size)
            if bore:
                cuts.append(Cut(circle(*place, bore / 2, OWNER), OWNER))
        return cuts

    def gear(self, record: Gear) -> list[Operation]:
        module, backlash = self.read(record.module, "module", 1.0), self.read(record.backlash, "backlash")
        scope = EntryScope(self.values, stock=self.blank.record.stock)
        pressure = self.values.read(
            record.pressure, f"{self.where}/pressure", "angle", scope, part=self.blank.key, owner=OWNER, fallback=math.radians(20)
        )
        degrees = math.degrees(pressure)
        if not PRESSURES[0] <= degrees <= PRESSURES[1]:
            at = f"{self.where}/pressure"
            self.values.fault_entry(
                at,
                "bad_outline",
                f"{self.blank.record.name}: a pressure angle of {degrees:g}°",
                f"from {PRESSURES[0]:g} to {PRESSURES[1]:g}°",
                f"{degrees:g}°",
                self.blank.key,
                OWNER,
            )
            return []
        tips = module * (record.teeth + 2)
        if module <= CONTACT:
            self.fault("module", f"a module of {self.shown(module)}", "a module is greater than 0", module)
            return []
        if record.teeth < least_teeth(pressure):
            self.values.fault_entry(
                f"{self.where}/teeth",
                "bad_outline",
                f"{self.blank.record.name}: {record.teeth} teeth would be undercut",
                f"at least {least_teeth(pressure)} teeth at {degrees:g}°",
                str(record.teeth),
                self.blank.key,
                OWNER,
            )
        if not 0 <= backlash < module * math.pi / 2:
            self.fault(
                "backlash",
                f"a backlash of {self.shown(backlash)}",
                f"from 0, and less than a tooth is thick, {self.shown(module * math.pi / 2)}",
                backlash,
            )
            return []
        if max(abs(self.width - tips), abs(self.height - tips)) > WITHIN:
            self._as_wide_as(tips)
            return []
        self.blank.outline = gear_contour(module, record.teeth, pressure, backlash, "edge:tooth").moved(tips / 2, tips / 2)
        if record.bore is None:
            return []
        ground = tips - 2 * (ADDENDUM + DEDENDUM) * module
        bore = self.within(
            self.read(record.bore, "bore"), "bore", f"a bore of {{}} in a gear of {self.shown(ground)} at its ground", ground
        )
        return [Cut(circle(tips / 2, tips / 2, bore / 2, OWNER), OWNER)] if bore else []

    def _as_wide_as(self, tips: float) -> None:
        """Says that a gear's spans are not as its teeth have them, and offers to make them so."""
        record, patch = self.blank.record, []
        for axis in (self.blank.frame.u, self.blank.frame.v):
            low = record.spans[axis].low  # type: ignore[index]
            value = {"text": f"({low.text}) + {exact_length(tips, low.unit)}", "unit": low.unit}
            patch.append({"op": "replace", "path": pointer("parts", self.blank.key, "spans", axis, "high"), "value": value})
        self.values.fault_entry(
            f"{self.where}/module",
            "bad_outline",
            f"{record.name}: it is {self.shown(tips)} over its tips, and its spans are {self.shown(self.width)} and {self.shown(self.height)}",
            f"spans of module × (teeth + 2), {self.shown(tips)}",
            self.shown(tips),
            self.blank.key,
            OWNER,
            (Mend(f"Make it {self.shown(tips)} wide and high", patch),),
        )

    def drawn(self, record: Drawn) -> list[Operation]:
        outer = _loop(record.outer, "edge:drawn")
        if abs(outer.area) <= CONTACT:
            self.fault("outer", "its outline encloses nothing", "a closed outline with an area", abs(outer.area))
            return []
        x0, y0, x1, y1 = outer.bounds
        for size, span, name in ((x1 - x0, self.width, self.blank.frame.u), (y1 - y0, self.height, self.blank.frame.v)):
            if abs(size - span) > 0.01:
                self.fault(
                    "outer",
                    f"its drawing is {self.shown(size)} along {name}, and its span {self.shown(span)}",
                    "spans as long as the drawing",
                    size - span,
                )
        self.blank.outline = outer.moved(-x0, -y0).wound(ccw=True)
        return [Cut(_loop(loop, OWNER).moved(-x0, -y0), OWNER) for loop in record.inner]


def _loop(vertices: list[list[float]], owner: str) -> Contour:
    return Contour(tuple((v[0], v[1]) for v in vertices), tuple(v[2] for v in vertices), (owner,) * len(vertices))


def link_contour(a: tuple[float, float], ra: float, b: tuple[float, float], rb: float, owner: str) -> Contour:
    """The outline of two circles and the tangents that join them, counter-clockwise; neither circle lies within the other."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    apart = math.hypot(dx, dy)
    heading, lean = math.atan2(dy, dx), math.acos((ra - rb) / apart)
    top, bottom = heading + lean, heading - lean
    points = [
        (a[0] + ra * math.cos(bottom), a[1] + ra * math.sin(bottom)),
        (b[0] + rb * math.cos(bottom), b[1] + rb * math.sin(bottom)),
        (b[0] + rb * math.cos(top), b[1] + rb * math.sin(top)),
        (a[0] + ra * math.cos(top), a[1] + ra * math.sin(top)),
    ]
    # the arc round b turns by 2 lean, that round a by the rest of a whole turn
    return Contour(tuple(points), (0.0, math.tan(lean / 2), 0.0, math.tan((math.pi - lean) / 2)), (owner,) * 4)


def _trace(values: Values, blanks: dict[str, Blank], key: str, asked: list[str]) -> None:
    """Draws a traced outline after the one it follows."""
    blank = blanks[key]
    record = blank.record.outline
    assert isinstance(record, Traced)
    name, where = blank.record.name, pointer("parts", key, "outline")

    def fault(message: str, rule: str) -> None:
        values.faults.append(Fault("bad_outline", f"{name}: {message}", rule, part=key, owner=OWNER, entry=f"{where}/part"))

    other = blanks.get(record.part)
    if other is None:
        lost = values.document.parts[record.part].name
        fault(f"it is traced from {lost}, which is left out or has no place", "a board that is there")
        return
    if record.part == key or record.part in asked:
        names = [*(blanks[k].record.name for k in [*asked, key]), other.record.name]
        fault(f"it is traced from itself: {' → '.join(names)}", "no outline may follow itself")
        return
    if isinstance(other.record.outline, Traced) and other.outline is None:
        _trace(values, blanks, record.part, [*asked, key])
    parallel = _onto(other, blank)
    if parallel is None:
        fault(f"{other.record.name} does not lie parallel to it", "the board that is traced lies parallel")
        return
    out = values.read(record.offset, f"{where}/offset", "length", EntryScope(values, stock=blank.record.stock), part=key, owner=OWNER)
    outline = parallel.contour(_outer_edges(values, other)).wound(ccw=True)
    try:
        grown = offset(outline, out)
    except OffsetError:
        shown = format_length(out, values.document.display)
        values.fault_entry(
            f"{where}/offset",
            "bad_outline",
            f"{name}: an offset of {shown} leaves nothing of {other.record.name}'s outline",
            "an offset that leaves one outline",
            shown,
            key,
            OWNER,
        )
        return
    blank.outline = Contour(grown.points, grown.bulges, ("edge:traced",) * len(grown.points))
    _follow(blank)


def _outer_edges(values: Values, blank: Blank) -> Contour:
    """A board's outline with its corners, tapers and curved edges, before any joint."""
    start = blank.outline or _rectangle(blank)
    known = len(values.faults)
    cuts = edge_cuts(values, blank)
    del values.faults[known:]  # they are said where the board's own features are read
    pieces = subtract([start], cuts) if cuts else []
    return pieces[0].outer if pieces else start


def _rectangle(blank: Blank) -> Contour:
    (u0, u1), (v0, v1) = blank.span.span(blank.frame.u), blank.span.span(blank.frame.v)
    return polygon([(0.0, 0.0), (u1 - u0, 0.0), (u1 - u0, v1 - v0), (0.0, v1 - v0)], "edge:traced")


def _onto(other: Blank, blank: Blank):
    """How one board's (u, v) comes to lie on a parallel one's, dropped square onto it; None where they are not parallel."""
    q = blank.in_room.inverse @ other.in_room
    if abs(abs(q.rows[2][2]) - 1) > EPS:
        return None
    # as if both were equally thick and lay in one plane: only the way within it counts
    flat = Motion((q.rows[0], q.rows[1], (0.0, 0.0, q.rows[2][2], 0.0 if q.rows[2][2] > 0 else other.thickness)))
    stand_in = Blank(other.key, other.record, other.frame, other.span, other.extents)
    room = stand_in.frame_motion
    return carrier(stand_in, stand_in, room @ flat @ room.inverse)


def _follow(blank: Blank) -> None:
    """The blank's boxes take the extents of its traced outline."""
    outline = blank.outline
    if outline is None:
        return
    x0, y0, x1, y1 = outline.bounds
    ou, ov = blank.origin
    span = blank.span.with_span(blank.frame.u, round(ou + x0, 7), round(ou + x1, 7))
    span = span.with_span(blank.frame.v, round(ov + y0, 7), round(ov + y1, 7))
    blank.span = blank.extents = blank.grown = span
    blank.outline = outline.moved(-x0, -y0)
