"""A turned part as it is made: a half-profile round w, less bores, flats, cross holes and serrations."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, Literal

import manifold3d
import numpy as np

from zygon.geometry.contour import Contour, circle, polygon
from zygon.geometry.mesh import Mesh
from zygon.geometry.motion import Motion
from zygon.geometry.solid import Tool, prism, united
from zygon.making.result.body import Corners, Matrix
from zygon.making.tube.cuts import MIRROR
from zygon.memo import digest as digest_of
from zygon.owner import edge_id
from zygon.tolerance import CONTACT, DISPLAY_SAGITTA

__all__ = ["FINE", "Along", "Cross", "Flats", "Teeth", "TurnedBody"]

#: Chords round it, and of its rounds (mm).
ROUND, FINE = 96, 0.01
#: Tools reach so far past what they cut (mm).
PAST = 1.0


@dataclass(frozen=True)
class Along:
    """A bore along the axis: its section, from where to where."""

    shape: Literal["round", "square", "hexagon"]
    across: float
    low: float
    high: float

    @property
    def contour(self) -> Contour:
        """What it looks like across."""
        if self.shape == "round":
            return circle(0.0, 0.0, self.across / 2, edge_id("bore"))
        n = 4 if self.shape == "square" else 6
        reach = self.across / 2 / math.cos(math.pi / n)
        turns = [math.pi / n + 2 * math.pi * k / n for k in range(n)]
        return polygon([(reach * math.cos(t), reach * math.sin(t)) for t in turns], edge_id("bore"))


@dataclass(frozen=True)
class Flats:
    """So many flats evenly round, each so far ``off`` the axis, from where to where; ``around`` is where the first looks, in radians from u."""

    off: float
    low: float
    high: float
    number: int
    around: float


@dataclass(frozen=True)
class Cross:
    """A round hole square to the axis at a height, looking ``around`` (radians from u); from the axis on, or through ``both`` sides."""

    at: float
    across: float
    around: float
    both: bool


@dataclass(frozen=True)
class Teeth:
    """V-grooves of 90 degrees along a stretch of a radius, evenly round."""

    radius: float
    low: float
    high: float
    number: int
    deep: float


@dataclass(frozen=True)
class TurnedBody:
    """``profile`` is closed in (r, w), counter-clockwise, with the axis as one side, w from 0 at A."""

    profile: Contour
    bores: tuple[Along, ...] = ()
    flats: tuple[Flats, ...] = ()
    cross: tuple[Cross, ...] = ()
    teeth: tuple[Teeth, ...] = ()
    #: its steps in a lathe hand's words: radius, the one that it tapers to or None, from where to where
    steps: tuple[tuple[float, float | None, float, float], ...] = ()
    #: how much of an end, 'a' or 'b', is riveted over once it is in its place (mm)
    riveted: tuple[tuple[str, float], ...] = ()
    #: its half-profile is drawn freely, so that its steps are only what that comes to
    drawn: bool = False
    empty: bool = False
    layered: bool = False

    @cached_property
    def digest(self) -> str:
        """The hash of what it was made from."""
        return digest_of("turned", self.profile, self.bores, self.flats, self.cross, self.teeth, *self.riveted)

    @property
    def length(self) -> float:
        """From A to B, mm."""
        return self.profile.bounds[3]

    @property
    def radius(self) -> float:
        """The largest, mm."""
        return self.profile.bounds[2]

    def widest(self, low: float, high: float) -> float:
        """The largest radius of its steps between two heights, mm; 0 where it has none there."""
        found = [0.0]
        for first, last, start, end in self.steps:
            a, b = max(low, start), min(high, end)
            if a < b:
                last = first if last is None else last
                found += [first + (last - first) * (x - start) / (end - start) for x in (a, b)]
        return max(found)

    @cached_property
    def alike(self) -> str:
        """The same for bodies that are the same piece: also where one is turned end for end, as far as nothing looks one way round it."""
        if self.flats or self.cross:
            return self.digest
        back = self.turned_over
        return min(self._written, back._written)

    @property
    def other_hand(self) -> str:
        """What ``alike`` is of the mirror image."""
        return self.mirrored.alike

    @property
    def _written(self) -> str:
        rows = [(round(x, 4) + 0.0, round(y, 4) + 0.0) for x, y in self.profile.points]
        return digest_of("turned alike", rows, [round(b, 6) for b in self.profile.bulges], self.bores, self.teeth, *self.riveted)

    @property
    def turned_over(self) -> TurnedBody:
        """End for end."""
        long = self.length
        points = [(x, long - y) for x, y in self.profile.points][::-1]
        bulges = [*self.profile.bulges[:-1][::-1], self.profile.bulges[-1]]
        k = min(range(len(points)), key=lambda i: (round(points[i][1], 6), round(points[i][0], 6)))  # from the axis at A again
        points, bulges = [*points[k:], *points[:k]], [*bulges[k:], *bulges[:k]]
        profile = Contour(tuple(points), tuple(bulges), self.profile.owners)
        bores = tuple(replace(b, low=long - b.high, high=long - b.low) for b in self.bores)
        teeth = tuple(replace(t, low=long - t.high, high=long - t.low) for t in self.teeth)
        riveted = tuple(sorted(("b" if end == "a" else "a", over) for end, over in self.riveted))
        return replace(self, profile=profile, bores=bores, teeth=teeth, riveted=riveted)

    @property
    def mirrored(self) -> TurnedBody:
        """Left for right across u."""
        flats = tuple(replace(f, around=math.pi - f.around) for f in self.flats)
        return replace(self, flats=flats, cross=tuple(replace(c, around=math.pi - c.around) for c in self.cross))

    def reach(self, matrix: Matrix) -> Corners:
        """The room that it takes where ``matrix`` puts it."""
        m = np.array(matrix)
        w = m[:3, 2]
        ends = np.array([m[:3, 3], m[:3, 3] + w * self.length])
        beside = self.radius * np.sqrt(np.maximum(0.0, 1 - w**2))
        return tuple((ends.min(axis=0) - beside).tolist()), tuple((ends.max(axis=0) + beside).tolist())

    @cached_property
    def whole(self) -> float:
        """The volume of its profile drawn round, mm³: by Pappus, its arcs as the segments that lie over their chords."""
        volume = _swept(np.array(self.profile.points))
        for s in self.profile.segments():
            if s.bulge:
                angle = 4 * math.atan(abs(s.bulge))
                radius = math.dist(s.p, s.q) / 2 / math.sin(angle / 2)
                area = radius**2 / 2 * (angle - math.sin(angle))
                # from the chord's middle outward, to the right of the way along it where it bulges so
                chord = math.dist(s.p, s.q)
                out = (
                    4 * radius * math.sin(angle / 2) ** 3 / (3 * (angle - math.sin(angle))) - radius * math.cos(angle / 2)
                ) * math.copysign(1, s.bulge)
                at = (s.p[0] + s.q[0]) / 2 + (s.q[1] - s.p[1]) / chord * out
                volume += math.copysign(1, s.bulge) * 2 * math.pi * area * at
        return volume

    def mesh(self) -> Mesh:
        """Closed; round faces as chords."""
        outline = self.profile.flatten(FINE)
        solid = manifold3d.Manifold.revolve(manifold3d.CrossSection([outline]), ROUND)
        return united([Tool(solid, edge_id("turned"))], self._tools())

    def _tools(self) -> list[Tool]:
        found, far = [], 2 * self.radius + PAST
        for b in self.bores:
            low = b.low - (PAST if b.low <= CONTACT else 0.0)
            high = b.high + (PAST if b.high >= self.length - CONTACT else 0.0)
            found.append(prism([b.contour], low, high, edge_id("bore")))
        for f in self.flats:
            box = manifold3d.Manifold.cube((far, 2 * far, f.high - f.low)).translate((f.off, -far, f.low))
            found += [
                Tool(box.rotate((0, 0, math.degrees(f.around + 2 * math.pi * k / f.number))), edge_id("flat")) for k in range(f.number)
            ]
        for c in self.cross:
            start = -far if c.both else 0.0
            hole = manifold3d.Manifold.cylinder(far - start, c.across / 2, c.across / 2, 32).translate((0, 0, start)).rotate((0, 90, 0))
            found.append(Tool(hole.rotate((0, 0, math.degrees(c.around))).translate((0, 0, c.at)), edge_id("cross")))
        for t in self.teeth:
            groove = manifold3d.CrossSection([np.array(self._groove(t))]).extrude(t.high - t.low).translate((0, 0, t.low))
            found += [Tool(groove.rotate((0, 0, 360 * k / t.number)), edge_id("serration")) for k in range(t.number)]
        return found

    @staticmethod
    def _groove(t: Teeth) -> list[tuple[float, float]]:
        """A groove's triangle in (u, v), its ground at the radius less its depth, open outward."""
        r, out = t.radius - t.deep, t.deep + PAST
        return [(r, 0.0), (r + out, -out), (r + out, out)]

    @cached_property
    def volume(self) -> float:
        """In mm³: of the mesh, with what its chords leave away of the profile and of round bores."""
        drawn = self.mesh().moments()[0] + self.whole - _swept(self.profile.flatten(FINE), ROUND)
        return drawn - sum((abs(b.contour.area) - _area(b.contour.flatten(DISPLAY_SAGITTA / 2))) * (b.high - b.low) for b in self.bores)

    def exact(self) -> Any:
        """The exact solid, a shape of Open CASCADE."""
        from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
        from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
        from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

        from zygon.geometry.exact import drawn_round
        from zygon.geometry.exact import prism as straight

        solid, far = drawn_round(self.profile), 2 * self.radius + PAST
        tools: list[Any] = [straight([b.contour], b.low, b.high) for b in self.bores]
        for f in self.flats:
            for k in range(f.number):
                turn = f.around + 2 * math.pi * k / f.number
                x, y = gp_Dir(math.cos(turn), math.sin(turn), 0), (-math.sin(turn), math.cos(turn))
                corner = gp_Pnt(f.off * math.cos(turn) - far * y[0], f.off * math.sin(turn) - far * y[1], f.low)
                tools.append(BRepPrimAPI_MakeBox(gp_Ax2(corner, gp_Dir(0, 0, 1), x), far, 2 * far, f.high - f.low).Shape())
        for c in self.cross:
            start = -far if c.both else 0.0
            way = (math.cos(c.around), math.sin(c.around))
            axis = gp_Ax2(gp_Pnt(start * way[0], start * way[1], c.at), gp_Dir(*way, 0))
            tools.append(BRepPrimAPI_MakeCylinder(axis, c.across / 2, far - start).Shape())
        for t in self.teeth:
            grooves = [polygon(self._groove(t), edge_id("serration")).moved(0.0, 0.0, 2 * math.pi * k / t.number) for k in range(t.number)]
            shapes = [straight([g], t.low, t.high) for g in grooves]
            tools += (
                [_compound(shapes[n::2]) for n in (0, 1)] if t.number > 2 and t.number % 2 == 0 else shapes
            )  # every other one, which are apart
        for tool in tools:
            solid = BRepAlgoAPI_Cut(solid, tool).Shape()
        return solid


def _compound(shapes: list[Any]) -> Any:
    """Shapes that are apart as one, which is cut with at once."""
    from OCP.BRep import BRep_Builder
    from OCP.TopoDS import TopoDS_Compound

    made, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(made)
    for shape in shapes:
        builder.Add(made, shape)
    return made


def mirror_of(body: TurnedBody) -> tuple[TurnedBody, Motion]:
    """The mirror image, and the motion of it that undoes the mirror."""
    return body.mirrored, MIRROR


def _area(ring: np.ndarray) -> float:
    x, y = ring[:, 0], ring[:, 1]
    return abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2


def _swept(ring: np.ndarray, chords: int = 0) -> float:
    """The volume of a closed ring in (r, w) drawn round the axis; as so many ``chords`` where given."""
    r, w = ring[:, 0], ring[:, 1]
    r2, w2 = np.roll(r, -1), np.roll(w, -1)
    # twice the area's first moment about the axis
    moment = abs(float(((r + r2) * (r * w2 - r2 * w)).sum())) / 6
    whole = 2 * math.pi * moment
    return whole if not chords else whole * chords * math.sin(2 * math.pi / chords) / (2 * math.pi)
