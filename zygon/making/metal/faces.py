"""Faces and bends of a folded part from its plate and legs: where each leg runs along its edge, its corners, its reliefs, its outline.

A face is worked out with all that stands on it: what bends up is cut back from its outline as far as the start of the bend, the strip of
the bend and the next face follow beyond, in one flat.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from zygon.design.folding import CUT_EDGES
from zygon.geometry.boolean import subtract
from zygon.geometry.contour import Contour, circle, polygon, polyline, rounded_rectangle
from zygon.geometry.motion import IDENTITY, Motion
from zygon.making.metal.flange_corners import Half, Meeting, clipped, coplanar_halves, halves_of, skew_halves
from zygon.making.metal.legs import Leg
from zygon.making.result.fault import Fault
from zygon.making.result.fold import SLIT, Fold, FoldBend, FoldFace
from zygon.making.result.operations import Cut
from zygon.measure.display import Display, format_length
from zygon.owner import bend_id, read_owner
from zygon.tolerance import CONTACT, EPS

__all__ = ["FaceFrame", "fold_of"]

Point = tuple[float, float]
Edge = tuple[Point, Point]
#: Segments of this owner are shared by a face and a bend.
BEND = "bend"
_NOTHING_LEFT = ("flange_cut_away", "its flanges leave nothing of what they stand on", "a larger plate or smaller radii")


@dataclass(frozen=True)
class FaceFrame:
    """Where a flange's own coordinates start on the flat (x along from its low end, y from the end of the bend), and its length and height, mm."""

    origin: Point
    heading: float
    length: float
    height: float

    def placed(self, contour: Contour) -> Contour:
        """A contour in the flange's coordinates, on the flat."""
        return contour.moved(*self.origin, self.heading + math.pi, mirrored=True)


@dataclass
class Placed:
    """A leg in its place on the flat: ``at`` is the edge's first corner, x runs along it to ``length``, y outward from it; ``low`` to ``high`` along x.

    ``ends`` says which of its ends reach the ends of the edge. ``motion`` takes the flat to where the leg stands.
    """

    leg: Leg
    face: int
    at: Point
    along: Point
    length: float
    low: float
    high: float
    ends: tuple[bool, bool]
    halves: dict[str, list[Half]] = field(default_factory=lambda: {"low": [], "high": []})
    strip: tuple[float, float] = (0.0, 0.0)
    motion: Motion = IDENTITY
    edges: dict[str, Edge] = field(default_factory=dict)
    number: int = -1

    @property
    def outward(self) -> Point:
        return self.along[1], -self.along[0]

    def flat(self, x: float, y: float) -> Point:
        """From along and outward of the edge to the flat."""
        d, n = self.along, self.outward
        return self.at[0] + d[0] * x + n[0] * y, self.at[1] + d[1] * x + n[1] * y

    @property
    def root(self) -> float:
        """y where its face begins: behind the bend."""
        return self.width - self.leg.inset

    width: float = 0.0
    region: list[Contour] = field(default_factory=list)


Pair = tuple[Placed, Placed, str, float]


class _Folder:
    """Builds the fold face by face, from the plate outward."""

    def __init__(
        self,
        part: str,
        name: str,
        thickness: float,
        legs: list[Leg],
        corner: Callable[[str, str], tuple[str, float]],
        crossing: tuple[str, float],
        display: Display,
    ) -> None:
        self.part, self.name, self.thickness, self.crossing, self.display = part, name, thickness, crossing, display
        self.children: dict[str, list[Leg]] = {}
        for leg in legs:
            self.children.setdefault(leg.on, []).append(leg)
        self.corner = corner
        self.faces: list[FoldFace] = []
        self.bends: list[FoldBend] = []
        self.cuts: list[Cut] = []
        self.slits: list[Contour] = []
        self.frames: dict[str, FaceFrame] = {}
        self.faults: list[Fault] = []
        self.motions: list[Motion] = [IDENTITY]
        #: the leg that made each face, by the face's number
        self.placed: dict[int, Placed] = {}

    def fault(self, code: str, leg: Leg, message: str, rule: str, value: str = "", field_: str = "") -> None:
        entry = f"/parts/{self.part}/folding/flanges/{leg.record}" + (f"/{field_}" if field_ else "")
        self.faults.append(Fault(code, f"{self.name}: {message}", rule, value, part=self.part, owner=leg.owner, entry=entry))

    def shown(self, value: float) -> str:
        return format_length(value, self.display)

    def fold(self, outline: list[Contour], edges: dict[str, Edge]) -> Fold:
        level = self._stand("", 0, edges, outline)
        pairs = self._pairs(level)
        corners = list(pairs)  # what stands on far edges follows them
        self.faces.append(FoldFace("", "", ()))
        self._finish(0, outline, level)
        while level:
            for a, b, style, gap in pairs:
                self._meet(a, b, style, gap)
            nexts: list[Placed] = []
            outlines = [self._region(p) if p.leg.line else [self._face(p)] for p in level]
            groups = [self._stand(p.leg.key, p.number, p.edges, outer) for p, outer in zip(level, outlines, strict=True)]
            for p, contours, group in zip(level, outlines, groups, strict=True):
                self._finish(p.number, contours, group)
                nexts += group
            own = [x for group in groups for x in self._pairs(group)]
            corners += own
            pairs = own + self._cousins(pairs, groups, level)
            level = nexts
        met = {frozenset((a.leg.record, b.leg.record)): (a.leg.record, b.leg.record) for a, b, *_ in reversed(corners)}
        return Fold(tuple(self.faces), tuple(self.bends), tuple(sorted(met.values())), tuple(self.slits))

    def _stand(self, on: str, face: int, edges: dict[str, Edge], outline: list[Contour]) -> list[Placed]:
        """The legs that stand on a face, each along its edge; a line bend along what the face is wide there."""
        found: list[Placed] = []
        for leg in self.children.get(on, []):
            if leg.edge not in edges:
                self.fault(
                    "no_edge",
                    leg,
                    f"its {leg.edge.replace('_', ' ')} edge is not there, or is not straight, and cannot be bent",
                    "a straight edge that is there",
                    leg.edge.replace("_", " "),
                    "edge",
                )
                continue
            p, q = edges[leg.edge]
            length = math.dist(p, q)
            along = ((q[0] - p[0]) / length, (q[1] - p[1]) / length)
            if leg.line:
                line = self._across(leg, face, p, along, length, outline)
                if line and not any(o.leg.edge == leg.edge for o in found):
                    found.append(line)
                elif line:
                    self.fault(
                        "flanges_overlap", leg, f"another flange stands on {leg.edge} already", "bend what stands there, or one of both"
                    )
                continue
            low, high = _range(leg, length, p, along)
            if high - low <= CONTACT or low < -CONTACT or high > length + CONTACT:
                self.fault(
                    "off_edge",
                    leg,
                    f"a flange from {self.shown(low)} to {self.shown(high)} on an edge of {self.shown(length)}",
                    f"it lies between 0 and {self.shown(length)}",
                    self.shown(high - low),
                    "first",
                )
                low, high = max(low, 0.0), min(high, length)
                if high - low <= CONTACT:
                    low, high = 0.0, length
            ends = (low <= CONTACT, high >= length - CONTACT)
            low, high, ends = self._off_its_root(leg, face, (p, q), low, high, ends)
            placed = Placed(leg, face, p, along, length, low, high, ends)
            placed.width = abs(leg.angle) * (leg.radius + leg.k * self.thickness)
            other = next((o for o in found if o.leg.edge == leg.edge and o.low < high - CONTACT and low < o.high - CONTACT), None)
            if other:
                self.fault("flanges_overlap", leg, f"two flanges take the same stretch of {leg.edge}", "one flange a stretch of an edge")
                continue
            placed.strip = (low, high)
            found.append(placed)
        return found

    def _off_its_root(
        self, leg: Leg, face: int, edge: Edge, low: float, high: float, ends: tuple[bool, bool]
    ) -> tuple[float, float, tuple[bool, bool]]:
        """A flange on the side of another stays off the bend at its root by a relief, else both bends would be one piece of sheet."""
        style, width, _ = leg.relief
        parent = self.placed.get(face)
        if parent is None or leg.inset <= CONTACT or style == "none":
            return low, high, ends
        width = SLIT if style == "tear" else width
        n = parent.outward
        at_root = [abs((e[0] - parent.at[0]) * n[0] + (e[1] - parent.at[1]) * n[1] - parent.root) < width for e in edge]
        if high - low <= (at_root[0] + at_root[1]) * width + CONTACT:
            return low, high, ends
        length = math.dist(*edge)
        if at_root[0] and low < width - CONTACT:
            low, ends = width, (False, ends[1])
        if at_root[1] and high > length - width + CONTACT:
            high, ends = length - width, (ends[0], False)
        return low, high, ends

    def _across(self, leg: Leg, face: int, p: Point, along: Point, length: float, outline: list[Contour]) -> Placed | None:
        """A line bend across a face: the region beyond its strip, on the flat as it lies."""
        placed = Placed(leg, face, p, along, length, 0.0, length, (True, True))
        placed.width = abs(leg.angle) * (leg.radius + leg.k * self.thickness)
        far = 10 * max(length, leg.inset) + 1000.0
        strip = polygon(
            [
                placed.flat(x, y)
                for x, y in ((-far, -leg.inset), (far, -leg.inset), (far, -leg.inset + placed.width), (-far, -leg.inset + placed.width))
            ],
            BEND,  # what it leaves of the sheet beyond ends at a bend there: no exposed corners
        )
        behind = polygon([placed.flat(x, y) for x, y in ((-far, -far), (far, -far), (far, -leg.inset), (-far, -leg.inset))])
        beyond = polygon(
            [placed.flat(x, y) for x, y in ((-far, -leg.inset + placed.width), (far, -leg.inset + placed.width), (far, far), (-far, far))]
        )
        within = subtract(outline, [behind.wound(ccw=True), beyond.wound(ccw=True)])
        placed.region = [r.outer for r in subtract(outline, [behind.wound(ccw=True), strip.wound(ccw=True)])]
        if not within or not placed.region or not subtract(outline, [beyond.wound(ccw=True), strip.wound(ccw=True)]):
            self.fault(
                "off_edge",
                leg,
                f"its bend line, {self.shown(leg.straight + placed.width / 2)} from {leg.edge}, does not lie across what is flat",
                "flat sheet on both sides of it",
                self.shown(leg.straight),
                "at",
            )
            return None
        xs = [(x - p[0]) * along[0] + (y - p[1]) * along[1] for r in within for x, y in r.outer.points]
        placed.low, placed.high = min(xs), max(xs)
        placed.strip = (placed.low, placed.high)
        return placed

    def _region(self, p: Placed) -> list[Contour]:
        """The outline of what lies beyond a line bend, with the edges that others may stand on."""
        bend = self._bend(p, *p.strip)
        self.bends.append(bend)
        self.faces.append(FoldFace(p.leg.key, p.leg.owner, ()))
        p.number = len(self.faces) - 1
        self.placed[p.number] = p
        p.motion = self.motions[p.face] @ bend.motion()
        self.motions.append(p.motion)
        self.frames[p.leg.key] = FaceFrame(p.flat(p.low, p.root), math.atan2(p.along[1], p.along[0]), p.high - p.low, p.leg.straight)
        outward, along = p.outward, p.along
        for name, way in (("end", outward), ("low", (-along[0], -along[1])), ("high", along)):
            runs = [
                (s.p, s.q)
                for c in p.region
                for s in c.wound(ccw=True).segments()
                if not s.bulge and s.tangents()[0][1] * way[0] - s.tangents()[0][0] * way[1] > 0.999
            ]
            if runs:
                p.edges[name] = max(runs, key=lambda r: math.dist(*r))
        return p.region

    def _pairs(self, level: list[Placed]) -> list[Pair]:
        """Legs on neighbouring edges of one face that reach their common corner, the one that ends there first."""
        found = []
        for a in level:
            for b in level:
                if a is not b and a.face == b.face and a.ends[1] and b.ends[0] and not (a.leg.line or b.leg.line):
                    q = a.flat(a.length, 0.0)
                    if math.dist(q, b.at) < CONTACT:
                        style, gap = self.corner(a.leg.record, b.leg.record)
                        found.append((a, b, style, gap))
        return found

    def _cousins(self, pairs: list[Pair], groups: list[list[Placed]], level: list[Placed]) -> list[Pair]:
        """Legs on the far edges of legs that meet in a corner meet there too."""
        by_parent = {id(p): g for p, g in zip(level, groups, strict=True)}
        found = []
        for a, b, style, gap in pairs:
            for one in by_parent.get(id(a), []):
                for other in by_parent.get(id(b), []):
                    if one.leg.edge == other.leg.edge == "end" and one.ends[1] and other.ends[0]:
                        found.append((one, other, style, gap))
        return found

    def _meet(self, a: Placed, b: Placed, style: str, gap: float) -> None:
        one, other = (self._meeting(p) for p in (a, b))
        if a.face == b.face:  # strips end where the other bend begins
            for p, o, end in ((a, b, "high"), (b, a, "low")):
                x = _crossing(p, o)
                if x is not None and p is a:
                    self._cut_crossing(a, x)
                if x is not None:
                    p.strip = (p.strip[0], min(p.strip[1], x)) if end == "high" else (max(p.strip[0], x), p.strip[1])
        flat = coplanar_halves(one, other, style, gap)
        if flat is None and a.face != b.face:
            walls = [np.array(self.motions[p.face].vector((0.0, 0.0, 1.0))) for p in (a, b)]
            corner = np.cross(walls[0], walls[1])
            length = float(np.linalg.norm(corner))
            flat = skew_halves(one, other, corner / length, style, gap) if length > EPS else None
        pair = flat if flat is not None else halves_of(one, other, style, gap)
        if pair is None:  # open: no farther than the bend
            a.halves["high"].append(Half(1.0, 0.0, a.strip[1]))
            b.halves["low"].append(Half(-1.0, 0.0, -b.strip[0]))
            return
        a.halves["high"] += pair[0]
        b.halves["low"] += pair[1]

    def _cut_crossing(self, p: Placed, x: float) -> None:
        """Cuts out where two bends meet in a corner of the plate, as far as that is wanted."""
        style, size = self.crossing
        if style == "none" or size <= CONTACT:
            return
        u, v = p.flat(x, -p.leg.inset)
        heading = math.atan2(p.along[1], p.along[0])
        shape = circle(u, v, size / 2, p.leg.owner) if style == "round" else rounded_rectangle(u, v, size, size, 0.0, heading, p.leg.owner)
        self.cuts.append(Cut(shape, p.leg.owner))

    def _meeting(self, p: Placed) -> Meeting:
        """Where a leg stands: its frame in the room of the plate."""
        if p.motion is IDENTITY:
            p.motion = self._motion(p)
        m = p.motion
        origin = m.point((*p.flat(0.0, p.root), 0.0))
        return Meeting(
            origin, m.vector((*p.along, 0.0)), m.vector((*p.outward, 0.0)), m.vector((0.0, 0.0, 1.0)), self.thickness, p.leg.straight
        )

    def _motion(self, p: Placed) -> Motion:
        parent = self.motions[p.face] if p.face else IDENTITY
        return parent @ self._bend(p, *p.strip).motion()

    def _bend(self, p: Placed, low: float, high: float) -> FoldBend:
        leg, y = p.leg, -p.leg.inset
        start, end = p.flat(low, y), p.flat(high, y)
        corners = [start, end, p.flat(high, y + p.width), p.flat(low, y + p.width)]
        outline = polygon(corners, (BEND, leg.owner, BEND, leg.owner)).wound(ccw=True)
        if _slants(p):  # where it reaches past its face's corners
            outline = _with_corners(outline, [q for c in self.faces[p.face].outline for q in c.points])
        flange = read_owner(leg.owner)
        owner = bend_id(flange.part, flange.key)
        return FoldBend(
            leg.key,
            owner,
            p.face,
            start,
            end,
            leg.angle,
            leg.radius,
            leg.k,
            self.thickness,
            outline,
            _gussets(leg, high - low),
            leg.pressed,
        )

    def _face(self, p: Placed) -> Contour:
        """The outline of a leg's flat face; gives the leg its strip, its number and the edges that others may stand on."""
        h, reach = p.leg.straight, 3 * (self.thickness + p.leg.radius) + 2 * p.leg.straight
        x0 = p.low - (reach if p.halves["low"] else 0.0)
        x1 = p.high + (reach if p.halves["high"] else 0.0)
        sides = [((x0, 0.0), "low"), ((x0, h), "end"), ((x1, h), "high"), ((x1, 0.0), BEND)]
        for name in ("low", "high"):
            for half in p.halves[name]:
                sides = clipped(sides, half, name)
        roots = [s[0][0] for i, s in enumerate(sides) if s[1] == BEND for s in (sides[i], sides[(i + 1) % len(sides)])]
        if len(sides) < 3 or not roots or min(p.strip[1], max(roots)) - max(p.strip[0], min(roots)) < CONTACT:
            self.fault(
                "flange_cut_away", p.leg, "its corners leave nothing of a flange", "a shorter neighbour, a smaller gap or an open corner"
            )
            p.halves = {"low": [], "high": []}
            sides, roots = [((p.low, 0.0), "low"), ((p.low, h), "end"), ((p.high, h), "high"), ((p.high, 0.0), BEND)], [p.low, p.high]
        p.strip = max(p.strip[0], min(roots)), min(p.strip[1], max(roots))
        points: list[tuple[Point, str]] = []
        for i, (point, name) in enumerate(sides):
            if name != BEND:
                points.append((point, name))
                continue
            nxt = sides[(i + 1) % len(sides)][0]
            for x, owner in ((point[0], "root"), (p.strip[1], BEND), (p.strip[0], "root")):
                if not points or math.dist(points[-1][0], (x, 0.0)) > CONTACT:
                    points.append(((x, 0.0), owner))
                else:
                    points[-1] = (points[-1][0], owner)
            if math.dist(points[-1][0], nxt) < CONTACT:
                points.pop()
        y = p.root
        for name in ("low", "end", "high"):
            runs = [(points[i][0], points[(i + 1) % len(points)][0]) for i in range(len(points)) if points[i][1] == name]
            if runs:
                a, b = max(runs, key=lambda r: math.dist(*r))
                p.edges[name] = (p.flat(a[0], a[1] + y), p.flat(b[0], b[1] + y))
        bend = self._bend(p, *p.strip)
        if p.leg.gussets and not bend.gussets:
            number, width, _ = p.leg.gussets
            self.fault(
                "gussets_crowd",
                p.leg,
                f"{number} gussets of {self.shown(width)} have no room on a bend of {self.shown(p.strip[1] - p.strip[0])}",
                "all of them side by side on their bend",
                str(number),
                "gussets/number",
            )
        self.bends.append(bend)
        self.faces.append(FoldFace(p.leg.key, p.leg.owner, ()))
        p.number = len(self.faces) - 1
        self.placed[p.number] = p
        self.frames[p.leg.key] = FaceFrame(p.flat(p.low, p.root), math.atan2(p.along[1], p.along[0]), p.high - p.low, h)
        parent = self.motions[p.face]
        p.motion = parent @ bend.motion()
        self.motions.append(p.motion)
        owners = [BEND if name == BEND else p.leg.owner for _, name in points]
        return polygon([p.flat(x, v + y) for (x, v), _ in points], owners).wound(ccw=True)

    def _finish(self, number: int, outline: list[Contour], level: list[Placed]) -> None:
        """Cuts a face back to where the bends on it begin, and its reliefs beside them."""
        backs: list[Contour] = []
        for p in level:
            inset = p.leg.inset
            if p.leg.line:
                far = 10 * p.length + 1000.0
                beyond = [p.flat(x, y) for x, y in ((-far, far), (-far, -inset), (far, -inset), (far, far))]
                backs.append(polygon(beyond, (p.leg.owner, BEND, p.leg.owner, p.leg.owner)).wound(ccw=True))
                continue
            if all(p.ends) and len(outline) == 1 and _convex(outline[0]):
                left = _cut_off(outline[0], p)
                if left is None:
                    self.fault(_NOTHING_LEFT[0], p.leg, *_NOTHING_LEFT[1:])
                else:
                    outline = [left]
                continue
            if inset > CONTACT:
                over = [inset * _lean(outline, p, k) if end else 0.0 for k, end in enumerate(p.ends)]
                low, high = p.low - over[0], p.high + over[1]
                # at the edge of a half the whole goes on, as far as it is
                past = 1e5 if p.leg.edge in CUT_EDGES else 1.0
                corners = [p.flat(low, past), p.flat(low, -inset), p.flat(high, -inset), p.flat(high, past)]
                backs.append(polygon(corners, (p.leg.owner, BEND, p.leg.owner, p.leg.owner)).wound(ccw=True))
            backs += self._reliefs(p)
        face = self.faces[number]
        if backs:
            regions = subtract(outline, backs)
            if not regions:
                self.fault(
                    "flange_cut_away", level[0].leg, "its flanges leave nothing of what they stand on", "a larger plate or smaller radii"
                )
                regions = subtract(outline, [])
            pieces = tuple(r.outer for r in regions)
        else:
            pieces = tuple(outline)
        # a slanting bend meets its face corner on corner, so that rounding leaves no gap between them
        ends = [p.flat(x, -p.leg.inset) for p in level if _slants(p) for x in p.strip]
        self.faces[number] = FoldFace(face.key, face.owner, tuple(_with_corners(c, ends) for c in pieces) if ends else pieces)

    def _reliefs(self, p: Placed) -> list[Contour]:
        style, width, depth = p.leg.relief
        found = []
        for inside, x, way in ((not p.ends[0], p.low, -1.0), (not p.ends[1], p.high, 1.0)):
            if not inside:
                continue
            inset = p.leg.inset
            if style in ("tear", "none"):
                if style == "none" and inset > CONTACT:
                    self.fault(
                        "missing_relief",
                        p.leg,
                        f"a flange ends inside its edge without a relief, and its bend starts {self.shown(inset)} inside",
                        "a relief, or a bend that starts at the edge",
                        "none",
                        "relief/style",
                    )
                if inset <= CONTACT:
                    continue
                width, depth = SLIT, 0.0
                middle = x + way * SLIT / 2
                self.slits.append(polyline([p.flat(middle, 0.0), p.flat(middle, -inset)], p.leg.owner))
            shape = self._relief_shape(p, x, way, width, depth, round_=style == "round")
            self.cuts.append(Cut(shape, p.leg.owner))
            found.append(shape)
        return found

    def _relief_shape(self, p: Placed, x: float, way: float, width: float, depth: float, *, round_: bool) -> Contour:
        """The slot beside a bend, from past the edge to ``depth`` behind the start of the bend; round-ended where so said."""
        bottom = -p.leg.inset - depth
        points = [(x, 0.0), (x, bottom), (x + way * width, bottom), (x + way * width, 0.0)]
        bulges = [0.0, 0.0, 0.0, 0.0]
        if round_ and p.leg.inset + depth > width / 2:
            points[1], points[2] = (x, bottom + width / 2), (x + way * width, bottom + width / 2)
            # outward lies to the right of along, so what turns left beside the edge turns right on the flat
            bulges[1] = -way
        flat = tuple(p.flat(*q) for q in points)
        return Contour(flat, tuple(bulges), (p.leg.owner,) * 4).wound(ccw=True)


def _gussets(leg: Leg, length: float) -> tuple[tuple[float, float, float], ...]:
    """Stiffeners spread evenly over a bend; none where they have no room side by side (which is said)."""
    if leg.gussets is None:
        return ()
    number, width, depth = leg.gussets
    if number * width > length:
        return ()
    return tuple((length * (i + 0.5) / number, width, depth) for i in range(number))


def _range(leg: Leg, length: float, at: Point, along: Point) -> tuple[float, float]:
    kind, first, second = leg.extent
    match kind:
        case "inset":
            return first, length - second
        case "centred":
            return length / 2 + second - first / 2, length / 2 + second + first / 2
        case "between":
            return min(first, second), max(first, second)
        case "from_high":
            return length - max(first, second), length - min(first, second)
        case "room":
            k = 0 if abs(along[0]) > 0.5 else 1
            ends = sorted((x - at[k]) * along[k] for x in (first, second))
            return ends[0], ends[1]
        case _:
            return 0.0, length


def _convex(contour: Contour) -> bool:
    """Whether a counter-clockwise contour is of straight lines and turns left alone."""
    if any(contour.bulges):
        return False
    ways = [s.tangents()[0] for s in contour.segments()]
    return all(u[0] * v[1] - u[1] * v[0] > -EPS for u, v in zip(ways, ways[1:] + ways[:1], strict=True))


def _slants(p: Placed) -> bool:
    return min(abs(p.along[0]), abs(p.along[1])) > EPS


def _with_corners(contour: Contour, places: list[Point]) -> Contour:
    """The contour with a corner at each place that lies on one of its straight edges."""
    points: list[Point] = []
    bulges: list[float] = []
    owners: list[str] = []
    for s in contour.segments():
        points.append(s.p)
        bulges.append(s.bulge)
        owners.append(s.owner)
        if s.bulge:
            continue
        d = ((s.q[0] - s.p[0]) / s.length, (s.q[1] - s.p[1]) / s.length)
        inside = []
        for x, y in places:
            along, off = (x - s.p[0]) * d[0] + (y - s.p[1]) * d[1], (x - s.p[0]) * d[1] - (y - s.p[1]) * d[0]
            if abs(off) < CONTACT < along < s.length - CONTACT:
                inside.append((along, (x, y)))
        for _, place in sorted(inside):
            points.append(place)
            bulges.append(0.0)
            owners.append(s.owner)
    return Contour(tuple(points), tuple(bulges), tuple(owners), contour.closed)


def _cut_off(contour: Contour, p: Placed) -> Contour | None:
    """A convex face cut back to where a bend along a whole edge of it begins; the new edge is shared with the bend. None where nothing is left."""
    n = p.outward
    half = Half(n[0], n[1], n[0] * p.at[0] + n[1] * p.at[1] - p.leg.inset)
    sides = clipped([(q, o) for q, o in zip(contour.points, contour.owners, strict=True)], half, BEND)
    if len(sides) < 3:
        return None
    if p.leg.inset <= CONTACT:  # nothing to cut: the edge itself is the line
        sides = [(q, BEND if math.dist(q, p.at) < CONTACT else o) for q, o in sides]
    return polygon([q for q, _ in sides], [o for _, o in sides])


def _lean(outline: list[Contour], p: Placed, end: int) -> float:
    """How far past an end of the edge the face goes on at a depth of 1: the tangent by which its corner there is over a right angle, else 0."""
    corner = p.flat(p.length, 0.0) if end else p.at
    for s in (s for c in outline for s in c.segments()):
        near, far = (s.p, s.q) if end else (s.q, s.p)
        if math.dist(near, corner) > CONTACT or s.bulge:
            continue
        dx, dy = far[0] - near[0], far[1] - near[1]
        past = (dx * p.along[0] + dy * p.along[1]) * (1 if end else -1)
        deep = -(dx * p.outward[0] + dy * p.outward[1])
        if deep > CONTACT:
            return max(past / deep, 0.0)
    return 0.0


def _crossing(p: Placed, o: Placed) -> float | None:
    """x along p's edge where the lines on which both bends start cross."""
    d, e, n = p.along, o.along, o.outward
    start = p.flat(0.0, -p.leg.inset)
    other = o.flat(0.0, -o.leg.inset)
    slope = d[0] * n[0] + d[1] * n[1]
    if abs(d[0] * e[1] - d[1] * e[0]) < EPS or abs(slope) < EPS:
        return None
    return ((other[0] - start[0]) * n[0] + (other[1] - start[1]) * n[1]) / slope


def fold_of(
    part: str,
    name: str,
    thickness: float,
    outline: list[Contour],
    edges: dict[str, Edge],
    legs: list[Leg],
    corner: Callable[[str, str], tuple[str, float]],
    crossing: tuple[str, float] = ("none", 0.0),
    display: Display = "mm",
) -> tuple[Fold, list[Cut], dict[str, FaceFrame], list[Fault]]:
    """The fold of a part, the reliefs as cuts, the frames of its flanges by leg key, and what is wrong with it.

    ``outline`` is the plate's, counter-clockwise in (u, v); ``edges`` its straight edges by face word, each from its first corner to its last with the
    outside on the right. ``corner`` gives style and gap of the corner between two flanges, ``crossing`` is what is cut out where bends meet in one, and how wide.
    """
    folder = _Folder(part, name, thickness, legs, corner, crossing, display)
    fold = folder.fold(outline, edges)
    return fold, folder.cuts, folder.frames, folder.faults
