"""One half of a folded part that was split: the whole is folded, then what lies beyond the line is taken away, face by face and bend by bend.

What stands on the cut edge itself (the overlap under the other half) is left whole. A hole of the plate beyond the line goes through the
overlap that lies under it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import shapely

from zygon.design.folding import CUT_EDGES
from zygon.geometry.boolean import Region, intersect, subtract, to_polygon
from zygon.geometry.contour import Contour, polygon
from zygon.geometry.motion import Motion
from zygon.making.result.fold import Fold, FoldBend, FoldFace, bend_points, face_motions
from zygon.making.result.operations import Cut, Mark, Operation
from zygon.owner import is_of, read_owner
from zygon.tolerance import CONTACT, EPS

__all__ = ["Half", "edge_at", "halved"]

#: Owner of the edges that the cut leaves.
CUT = "split"
#: Farther than any part reaches (mm).
FAR = 1e6
Say = Callable[[str, str, str], None]


@dataclass(frozen=True)
class Half:
    """Where a plate was cut, in its own (u, v): along ``k`` (0 for u), kept from ``low`` to ``high`` (mm, infinite where it was not).

    ``over`` are the outlines of what stands on the cut edges, and ``lifts`` take a place of the plate beyond the line to the overlap under it.
    """

    k: int
    low: float
    high: float
    over: tuple[Contour, ...] = ()
    lifts: tuple[tuple[Contour, float], ...] = ()
    mine: frozenset[str] = frozenset()

    def keeps(self, x: float) -> bool:
        """Whether a place along the axis lies on this side of the line."""
        return self.low - CONTACT < x < self.high + CONTACT

    def beyond(self) -> list[Contour]:
        """What is taken away of the flat."""
        return [_band(self.k, *ends) for ends in ((-FAR, self.low), (self.high, FAR)) if math.isfinite(sum(ends))]

    def operations(self, found: list[Operation]) -> list[Operation]:
        """What is done to the half of what is done to the whole."""
        kept: list[Operation] = []
        for o in found:
            if not isinstance(o, Cut | Mark) or self._own(o.owner):
                kept.append(o)
            elif isinstance(o, Mark):
                xs = [p[self.k] for p in o.contour.points]
                kept += [o] if self.keeps(sum(xs) / len(xs)) else []
            else:
                kept += self._cuts(o)
        return kept

    def _own(self, owner: str) -> bool:
        """Whether something belongs to the overlap."""
        flange = read_owner(owner).flange
        return owner in self.mine or (bool(flange) and any(read_owner(m).key == flange for m in self.mine))

    def _cuts(self, cut: Cut) -> list[Operation]:
        """A cut off the overlap that lies where the plate went on; and through the overlap where it lies under the cut."""
        inside = [replace(cut, contour=c) for c in (_outers([cut.contour], self.beyond()) if self.over else [cut.contour])]
        found: list[Operation] = list(inside)
        if is_of(cut.owner, "feature") and not read_owner(cut.owner).flange:
            for face, by in self.lifts:
                there = cut.contour.moved(*((by, 0.0) if self.k == 0 else (0.0, by)))
                found += [Cut(r.outer, cut.owner) for r in intersect(Region(there), face)]
        return found


def _band(k: int, low: float, high: float) -> Contour:
    corners = [(low, -FAR), (high, -FAR), (high, FAR), (low, FAR)]
    return polygon([p if k == 0 else (p[1], p[0]) for p in corners], CUT).wound(ccw=True)


def _outers(contours: list[Contour], gone: list[Contour]) -> list[Contour]:
    return [r.outer for r in subtract(contours, gone)] if gone else contours


def halved(fold: Fold, half: Half, roots: dict[str, str], thickness: float, say: Say) -> tuple[Fold, Half]:
    """The fold of a half, and the half with what is known of its overlap.

    ``roots`` gives the plate's edge from which each leg comes, by its key. ``say`` is told (leg, message, rule) where the line runs through
    a face that slopes to it or a bend that does not run along it.
    """
    motions = face_motions(fold)
    own = {key for key, edge in roots.items() if edge in CUT_EDGES}
    faces = [_face(f, m, half, thickness, say) if f.key not in own else f for f, m in zip(fold.faces, motions, strict=True)]
    bends = [_bend(b, motions[b.parent], half, say) if b.key not in own else b for b in fold.bends]
    number: dict[int, int] = {0: 0}
    kept_faces, kept_bends = [faces[0]], []
    for i, (bend, face) in enumerate(zip(bends, faces[1:], strict=True)):
        if bend is None or not face.outline or bend.parent not in number:
            if face.outline and bend is None and face.key not in own:
                rule = "the line runs beside what stands on the other half"
                say(face.key, "reaches over the line from what stands beyond it", rule)
            continue
        number[i + 1] = len(kept_faces)
        kept_faces.append(face)
        kept_bends.append(replace(bend, parent=number[bend.parent]))
    keys = {f.key for f in kept_faces}
    over = [c for f in kept_faces if f.key in own for c in f.outline] + [b.outline for b in kept_bends if b.key in own]
    lifts = [
        (c, _shift(motion, half.k))
        for f, motion in zip(fold.faces, motions, strict=True)
        if f.key in own & keys and abs(abs(motion.rows[2][2]) - 1) < EPS
        for c in f.outline
    ]
    owners = {f.owner for f in kept_faces if f.key in own} | {b.owner for b in kept_bends if b.key in own}
    slits = tuple(s for s in fold.slits if s.owners[0] in owners or half.keeps(sum(p[half.k] for p in s.points) / 2))
    return Fold(tuple(kept_faces), tuple(kept_bends), fold.corners, slits), replace(
        half, over=tuple(over), lifts=tuple(lifts), mine=frozenset(owners)
    )


def _shift(motion: Motion, k: int) -> float:
    """How far along the flat a level face lies from where it stands."""
    return -motion.rows[k][3]


def _face(face: FoldFace, motion: Motion, half: Half, thickness: float, say: Say) -> FoldFace:
    if not face.outline:
        return face
    row = motion.rows[half.k]
    points = np.vstack([np.array(c.points) for c in face.outline])
    flat = points @ np.array(row[:2]) + row[3]
    reach = sorted((0.0, row[2] * thickness))
    low, high = float(flat.min()) + reach[0], float(flat.max()) + reach[1]
    if half.low - CONTACT <= low and high <= half.high + CONTACT:
        return face
    if high <= half.low + CONTACT or low >= half.high - CONTACT:
        return replace(face, outline=())
    if abs(row[2]) > EPS or abs(abs(row[half.k]) - 1) > EPS:
        say(face.key, "stands askew to the line", "the line runs square through what it crosses, or beside it")
        middle = (low + high) / 2
        return face if half.keeps(middle) else replace(face, outline=())
    gone = [
        _band(half.k, *sorted((x - row[3]) * row[half.k] for x in ends))
        for ends in ((-FAR, half.low), (half.high, FAR))
        if math.isfinite(sum(ends))
    ]
    return replace(face, outline=tuple(_outers(list(face.outline), gone)))


def _bend(bend: FoldBend, parent: Motion, half: Half, say: Say) -> FoldBend | None:
    """A bend as long as it is on this side of the line; None where it lies beyond it."""
    length = math.dist(bend.start, bend.end)
    way = parent.vector((*bend.along, 0.0))[half.k]
    ends = [parent.point((*p, 0.0))[half.k] for p in (bend.start, bend.end)]
    if abs(abs(way) - 1) < EPS:
        inside = sorted((min(max(x, half.low), half.high) - ends[0]) * way for x in ends)
        first, last = max(inside[0], 0.0), min(inside[1], length)
        if last - first <= CONTACT:
            return None
        if first <= CONTACT and last >= length - CONTACT:
            return bend
        return _shortened(bend, first, last)
    across = [bend.start, bend.end]
    strip = np.array([(p[0] + bend.outward[0] * s, p[1] + bend.outward[1] * s) for p in across for s in np.linspace(0, bend.width, 5)])
    xs = np.concatenate([bend_points(bend, parent, strip, w)[:, half.k] for w in (0.0, bend.thickness)])
    if half.low - CONTACT <= xs.min() and xs.max() <= half.high + CONTACT:
        return bend
    if xs.min() < half.high - CONTACT and xs.max() > half.low + CONTACT:
        say(bend.key, "is bent where the line runs", "the line runs beside its bend")
        return bend if half.keeps(float(xs.mean())) else None
    return None


def _shortened(bend: FoldBend, first: float, last: float) -> FoldBend:
    d, n = bend.along, bend.outward
    start, end = ((bend.start[0] + d[0] * x, bend.start[1] + d[1] * x) for x in (first, last))
    corners = [start, end, *((p[0] + n[0] * bend.width, p[1] + n[1] * bend.width) for p in (end, start))]
    owners = _side_owners(bend.outline)
    gussets = tuple((x - first, w, depth) for x, w, depth in bend.gussets if first + w / 2 < x < last - w / 2)
    outline = polygon(corners, (owners[0], CUT, owners[0], CUT)).wound(ccw=True)
    return replace(bend, start=start, end=end, outline=outline, gussets=gussets)


def _side_owners(outline: Contour) -> tuple[str, ...]:
    """The owner of a strip's two long sides."""
    sides = sorted(outline.segments(), key=lambda s: -s.length)
    return tuple(s.owner for s in sides[:1])


def edge_at(outline: list[Contour], k: int, at: float, *, high: bool) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """The cut edge of a plate, its outside on the right; None where the line does not cross the plate."""
    plate = shapely.union_all([to_polygon(c) for c in outline])
    line = shapely.LineString([(at, -FAR), (at, FAR)] if k == 0 else [(-FAR, at), (FAR, at)])
    found = shapely.intersection(plate, line)
    if found.is_empty or found.length <= CONTACT:
        return None
    x0, y0, x1, y1 = found.bounds
    p, q = ((at, y0), (at, y1)) if k == 0 else ((x1, at), (x0, at))
    return (p, q) if high else (q, p)
