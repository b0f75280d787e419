"""What carries one thing on another and lets it move: bores that something runs in, sets that a part runs on, bearings, leaves of hardware, sockets."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import manifold3d
import numpy as np
import shapely

from zygon.geometry.motion import Vector, three
from zygon.making.assembly.hold import is_riveted
from zygon.making.hardware.body import HardwareBody
from zygon.making.movement.pieces import Piece, leaf_of, runs_on, set_piece
from zygon.making.movement.twists import sliding_twist, turning_twist
from zygon.making.result.body import Prism
from zygon.making.result.built import Built, MadePart
from zygon.making.result.hardware import SetPlace
from zygon.making.solids.shafts import axis_of, is_round, thick_at, through
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.owner import read_owner
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.tolerance import CONTACT

__all__ = ["Link", "holes_round", "links_of"]

#: A hole that is longer than wide by so much (mm) is a slot, along which what lies in it slides.
SLOT = 0.5


@dataclass(frozen=True)
class Link:
    """Piece ``b`` on piece ``a``: it may turn about the line through ``at`` along ``way``, and slide along each of ``along``.

    ``least`` and ``most`` are how far it may go from where it is drawn, radians or mm, of hardware that says so. ``along`` of a slot is fixed in ``a``.
    """

    a: str
    b: str
    at: Vector
    way: Vector
    turns: bool
    along: tuple[Vector, ...] = ()
    least: float = -math.inf
    most: float = math.inf
    #: of hardware: the key of the part that carries; of a set: its piece
    by: str = ""
    through: str = ""

    def allowed(self, size: float) -> np.ndarray:
        """The twists (6, k) that it allows, with lengths in sizes of the design."""
        found = [turning_twist(np.array(self.way), np.array(self.at) / size)] if self.turns else []
        found += [sliding_twist(np.array(w)) for w in self.along]
        return np.column_stack(found) if found else np.zeros((6, 0))


def links_of(built: Built, pieces: Mapping[str, Piece]) -> list[Link]:
    """All that carries in a design."""
    return [
        *_shafts(built, pieces),
        *_in_holes(built, pieces),
        *_on_sets(built, pieces),
        *_bearings(pieces),
        *_leaves(pieces),
        *_sockets(built, pieces),
    ]


def _shafts(built: Built, pieces: Mapping[str, Piece]) -> Iterator[Link]:
    """What runs in the bores of others."""
    for pair, fit in built.bored.items():
        ends = [built.made[k] for k in pair if k in pieces]
        shaft = next((p for p in ends if isinstance(p.body, Prism | MemberBody | TurnedBody) and _bored_for(built, p, pair)), None)
        if shaft is None or len(ends) < 2 or fit <= CONTACT:
            continue
        other = next(p for p in ends if p is not shaft)
        way, at = _line(shaft)
        riveted = is_riveted(shaft)
        round_hole = any(
            b.member == shaft.of and other.of in b.parts and b.parts[other.of].round for b in built.document.bores.values() if not b.out
        )
        turns = is_round(shaft) or round_hole
        yield Link(other.key, shaft.key, at, way, turns, () if riveted else (way,))


def holes_round(built: Built, pieces: Mapping[str, Piece]) -> Iterator[tuple[str, str, float]]:
    """What is round and lies in a round hole of a plate that no bore was cut for it: the plate, it, and how much wider the hole is (mm)."""
    shafts = [p.part for p in pieces.values() if not p.is_set and is_round(p.part)]
    for plate in built.flats.values():
        if plate.key not in pieces or plate.flat.fold is not None:
            continue
        m = np.array(plate.matrix)
        for shaft in shafts:
            if frozenset((plate.key, shaft.key)) in built.bored:
                continue
            way, at = (np.array(v) for v in _line(shaft))
            if abs(abs(float(way @ m[:3, 2])) - 1) > CONTACT or not _within(pieces[plate.key], pieces[shaft.key]):
                continue
            u, v, _ = m[:3, :3].T @ (at - m[:3, 3])
            hole = next((c for c in plate.flat.inside if (d := c.as_circle) and math.dist((u, v), d[:2]) < d[2]), None)
            middle = m[:3, 3] + m[:3, 2] * plate.flat.thickness / 2
            thick = thick_at(shaft, float((middle - at) @ way))
            if hole is not None and hole.as_circle and thick is not None:
                kind, bore, *_ = read_owner(hole.owners[0])
                on_line = kind == "bore" and bore in built.document.bores
                wider = (built.hole_fit(bore, plate) or 0.0) - (built.hole_fit(bore, plate, drawn=True) or 0.0) if on_line else 0.0
                yield plate.key, shaft.key, 2 * hole.as_circle[2] - thick + wider


def _within(a: Piece, b: Piece) -> bool:
    (low, high), (other_low, other_high) = a.reaches, b.reaches
    return bool((low < other_high - CONTACT).all() and (high > other_low + CONTACT).all())


def _in_holes(built: Built, pieces: Mapping[str, Piece]) -> Iterator[Link]:
    """What is round and runs in holes that no bore was cut for it."""
    for plate, shaft, wider in holes_round(built, pieces):
        if wider > CONTACT:
            way, at = _line(built.made[shaft])
            yield Link(plate, shaft, at, way, True, (way,))


def _bored_for(built: Built, part: MadePart, pair: frozenset[str]) -> bool:
    """Whether it is what the bore of a pair lets through."""
    others = {built.made[k].of for k in pair if k in built.made and k != part.key}
    return any(b.member == part.of and others & set(b.parts) for b in built.document.bores.values() if not b.out)


def _line(part: MadePart) -> tuple[Vector, Vector]:
    """The direction of its axis, and a place on that, in the room."""
    way, at = axis_of(part)
    return three(way.tolist()), three(at.tolist())


def _on_sets(built: Built, pieces: Mapping[str, Piece]) -> Iterator[Link]:
    """Parts that run on a set: about it where their hole is round, along their slot too where it is one. They are kept along it by its head and its nut."""
    for key, one in built.sets.items():
        for n, place in enumerate(one.places):
            parts = [built.made[k] for k in place.parts if k in pieces]
            runs = [p for p in parts if runs_on(built, key, p)]
            held = [p for p in parts if p not in runs]
            carrier = held[0] if held else runs.pop(0) if runs else None
            for part in runs:
                assert carrier
                slot = _slot(pieces[part.key], place)
                yield Link(
                    part.key, carrier.key, place.at, place.way, turns=True, along=(slot,) if slot else (), through=set_piece(built, key, n)
                )


def _slot(piece: Piece, place: SetPlace) -> Vector | None:
    """Which way the hole of a piece is longer than wide where a set passes; None where it is round."""
    w = np.array(place.way)
    u = np.cross(np.eye(3)[int(np.abs(w).argmin())], w)
    u /= np.linalg.norm(u)
    v = np.cross(w, u)
    turned = np.column_stack((np.stack((u, v, w)), -np.stack((u, v, w)) @ np.array(place.at)))
    laid: manifold3d.Manifold = piece.solid.transform(turned)
    _, _, low, _, _, high = laid.bounding_box()
    low, high = max(low, place.stack[0]), min(high, place.stack[1])
    if high <= low:
        return None
    middle = shapely.Point(0.0, 0.0)
    for ring in laid.slice((low + high) / 2).to_polygons():
        hole = shapely.Polygon(ring)
        if not hole.contains(middle) or shapely.LinearRing(ring).is_ccw:
            continue
        corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(hole).exterior)
        sides = np.diff(corners[:3], axis=0)
        lengths = np.linalg.norm(sides, axis=1)
        if abs(float(lengths[0] - lengths[1])) < SLOT:
            return None
        x, y = sides[int(lengths.argmax())] / lengths.max()
        return three((u * x + v * y).tolist())
    return None


def _bearings(pieces: Mapping[str, Piece]) -> Iterator[Link]:
    """Shafts in ball bearings, which turn about their axis and let it slide where nothing keeps it."""
    shafts = [p.part for p in pieces.values() if not p.is_set and is_round(p.part)]
    for piece in pieces.values():
        body = piece.part.body
        if piece.is_set or not isinstance(body, HardwareBody) or body.piece is None or FAMILIES[body.piece.family].role != "bearing":
            continue
        way, at = _line(piece.part)
        for shaft in shafts:
            if through(piece.part, shaft) is not None:
                yield Link(piece.id, shaft.key, at, way, turns=True, along=(way,))


def _leaves(pieces: Mapping[str, Piece]) -> Iterator[Link]:
    """The second leaf of hardware on its first."""
    for piece in pieces.values():
        body = piece.part.body
        if piece.leaf != 0 or not isinstance(body, HardwareBody) or body.freedom is None:
            continue
        free, m = body.freedom, np.array(piece.part.matrix)
        hand = -1.0 if body.mirror else 1.0
        at = three(m[:3, :3] @ (np.array(free.at) * (hand, 1.0, 1.0)) + m[:3, 3])
        way = m[:3, free.axis]
        low, high = free.least - body.moved, free.most - body.moved
        turns = free.kind == "turns"
        # a leaf opens against the turn about its axis, which a mirror across that leaves as it is; a rail of a mirror image slides the other way
        goes = three(-way if turns else way * hand)
        yield Link(piece.id, leaf_of(piece.part, "b"), at, goes, turns, () if turns else (goes,), low, high, piece.part.key)


def _sockets(built: Built, pieces: Mapping[str, Piece]) -> Iterator[Link]:
    """Members in sockets that are wider and not fastened."""
    for seat in built.seats:
        if seat.fastened or seat.gap <= 0 or seat.member not in pieces or seat.connector not in pieces:
            continue
        member = built.made[seat.member]
        way, at = _line(member)
        yield Link(seat.connector, seat.member, at, way, is_round(member), (way,))
