"""Hardware as solids in the room: what it runs into, and how much room there is over a head for the tool that turns it."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import manifold3d
import numpy as np

from zygon.geometry.solid import manifold_of
from zygon.making.hardware.pieces import OWNER, mesh_of_hardware
from zygon.making.result.built import MadePart
from zygon.making.result.hardware import SetPiece, SetPlace
from zygon.making.solids.solids import solid_in_room
from zygon.stock.hardware.piece import Hardware
from zygon.tolerance import WITHIN

__all__ = ["bitten", "box_of_piece", "box_of_room", "box_of_tool", "placed_piece", "room_before", "room_for_tool"]

#: Chords round the room that a tool takes.
ROUND = 16


@lru_cache(maxsize=1024)
def _loose(hardware: Hardware) -> manifold3d.Manifold:
    return manifold_of(mesh_of_hardware(hardware), [OWNER])


def _placed(piece: SetPiece, *, head: bool = False) -> manifold3d.Manifold:
    """Where it lies; of its head alone an empty solid where it has none over what it bears on."""
    hardware = piece.hardware
    if head:
        hardware = replace(hardware, slices=tuple(s for s in hardware.slices if s.high <= 0))
        if not hardware.slices:
            return manifold3d.Manifold()
    return _loose(hardware).transform(np.array(piece.motion.rows))


def placed_piece(piece: SetPiece) -> manifold3d.Manifold:
    """A piece as a solid where it lies in the room."""
    return _placed(piece)


def box_of_piece(piece: SetPiece) -> tuple[np.ndarray, np.ndarray]:
    """Low and high corner (3,) in the room of a round of its greatest width about its axis."""
    low, high = piece.hardware.span
    ends = np.array([piece.motion.point((0.0, 0.0, low)), piece.motion.point((0.0, 0.0, high))])
    return _round_box(ends, np.array(piece.motion.vector((0.0, 0.0, 1.0))), piece.hardware.reach)


def _round_box(ends: np.ndarray, way: np.ndarray, radius: float) -> tuple[np.ndarray, np.ndarray]:
    beside = radius * np.sqrt(np.maximum(0.0, 1 - way**2))
    return ends.min(axis=0) - beside, ends.max(axis=0) + beside


def bitten(piece: SetPiece, other: MadePart | SetPiece, *, head: bool = False) -> float:
    """About how thick (mm) what a piece has in common with a part or another piece is, or only its ``head``; 0 for nothing."""
    own = _placed(piece, head=head)
    both = own ^ (_placed(other) if isinstance(other, SetPiece) else solid_in_room(other))
    volume = both.volume()
    if both.is_empty() or volume < WITHIN:
        return 0.0
    area = both.surface_area()
    return float(2 * volume / area) if area else 0.0


def _tool(place: SetPlace) -> tuple[np.ndarray, np.ndarray, float]:
    """Over the top of the head outward: where the tool's room begins, its way, its length."""
    way = -np.array(place.way)
    head = place.pieces[0].hardware
    top = -min(0.0, head.span[0])
    return np.array(place.at) + way * top, way, place.tool[1]


def box_of_tool(place: SetPlace) -> tuple[np.ndarray, np.ndarray]:
    """Low and high corner (3,) of the room that the tool over a head takes."""
    start, way, long = _tool(place)
    return _round_box(np.array([start, start + way * long]), way, place.tool[0] / 2)


def box_of_room(place: SetPlace, wide: float, long: float) -> tuple[np.ndarray, np.ndarray]:
    """Low and high corner (3,) of a round over a head, so wide and long (mm)."""
    start, way, _ = _tool(place)
    return _round_box(np.array([start, start + way * long]), way, wide / 2)


def room_for_tool(place: SetPlace, part: MadePart) -> float:
    """How far over a head (mm) a part leaves room for its tool; the tool's length where it is not in its way."""
    return room_before(place, *place.tool, part)


def room_before(place: SetPlace, wide: float, long: float, part: MadePart) -> float:
    """How far over a head (mm) a part leaves a round so ``wide`` free, up to ``long``."""
    start, way, _ = _tool(place)
    u = np.cross(np.eye(3)[int(np.abs(way).argmin())], way)
    u /= np.linalg.norm(u)
    rows = np.column_stack((u, np.cross(way, u), way, start))
    room = manifold3d.Manifold.cylinder(long, wide / 2, wide / 2, ROUND).transform(rows)
    both = room ^ solid_in_room(part)
    if both.is_empty() or both.volume() < WITHIN:
        return long
    corners = np.asarray(both.to_mesh64().vert_properties, np.float64)[:, :3]
    return max(0.0, float(((corners - start) @ way).min()))
