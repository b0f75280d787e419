"""Measuring a built design: distances, gaps and angles between places, with holes and copies; mass and centre of gravity."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zygon.design.layout import Place
from zygon.geometry.frame import AXES, across
from zygon.geometry.motion import three
from zygon.making.datums.measuring import Spot, angle_between, placed_spot, rectangle_spot, shortest
from zygon.making.features.opening import opening
from zygon.making.kinds.registry import density_of, sizes_of
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.result.fold import leg_rectangle
from zygon.making.solids.solids import gap_between, mass_centre, solid_volume
from zygon.owner import feature_id
from zygon.tolerance import EPS

__all__ = ["About", "Lost", "Measurement", "about", "measure", "place_of", "weigh"]

#: Rooms larger than this (mm) are not looked for between solids; the boxes' distance is given instead.
FAR = 5000.0


class Lost(Exception):
    """What is to be measured is not there; the message is a sentence's end."""


@dataclass(frozen=True)
class Measurement:
    """``along`` (3,) the distance along x, y, z in mm, at least 0; ``straight`` the shortest way between both places; ``gap`` the room
    between two whole parts (the shortest way for other places); ``angle`` in radians, None where a place has no direction; ``points`` the
    two ends of the shortest way.
    """

    along: tuple[float, float, float]
    straight: float
    gap: float
    angle: float | None
    points: tuple[tuple[float, float, float], tuple[float, float, float]]


def place_of(built: Built, place: Place) -> Spot:
    """A place in the room. Raises Lost where it is not there."""
    part = built.made.get(place.part)
    if part is None:
        key = place.part.partition("@")[0]
        record = built.document.parts.get(key)
        raise Lost(f"{record.name if record else key} is left out, gone or broken")
    flat = built.flats.get(place.part)
    if place.what == "feature":
        if flat is None:
            raise Lost(f"{part.path} has no holes")
        return _feature(flat, place.name)
    if place.what == "face" and "." in place.name:
        if flat is None:
            raise Lost(f"{part.path} has no flanges")
        return _leg_face(flat, place.name)
    try:
        return placed_spot(list(part.span_box.low), list(part.span_box.high), place.across(part.mirrored), part.place)
    except KeyError as error:
        raise Lost(str(error.args[0])) from None


def _feature(part: FlatPart, key: str) -> Spot:
    """The middle of a round hole or cut-out, with the board's normal as its direction."""
    flat = part.flat
    owner = feature_id(part.of, key) if ":" not in key else key
    contours = [*flat.inside, *(p.contour for p in flat.pockets)]
    found = next((c for c in contours if owner in c.owners), None)
    if found is None:
        raise Lost(f"{part.path} has no such hole any more")
    x0, y0, x1, y1 = found.bounds
    m = np.array(part.matrix)
    centre = m @ np.array(((x0 + x1) / 2, (y0 + y1) / 2, flat.thickness / 2, 1.0))
    return Spot(centre[:3], np.zeros((3, 3)), m[:3, 2])


def _leg_face(part: FlatPart, name: str) -> Spot:
    """The inner or outer face of a leg of a folded part, as the rectangle along its bend that encloses it."""
    key, _, side = name.rpartition(".")
    fold = part.flat.fold
    i = next((i for i, f in enumerate(fold.faces) if i and f.key == key), 0) if fold else 0
    if fold is None or not i or side not in ("inner", "outer"):
        raise Lost(f"{part.path} has no such flange any more")
    m = np.array(part.matrix)
    return rectangle_spot(leg_rectangle(fold, part.flat.thickness, i, side) @ m[:3, :3].T + m[:3, 3])


def measure(built: Built, a: Place, b: Place) -> Measurement:
    """What lies between two places. Raises Lost where one is not there."""
    one, other = place_of(built, a), place_of(built, b)
    straight, p, q = shortest(one, other)
    gap = straight
    if a.what == b.what == "part" and a.part != b.part:
        x, y = built.made[a.part], built.made[b.part]
        if not (x.body.empty or y.body.empty):
            gap = gap_between(x, y, FAR)
    along = _along(one, other, a.what == "part" and b.what == "part")
    return Measurement(along, straight, gap, angle_between(one, other), (_tuple(p), _tuple(q)))


@dataclass(frozen=True)
class About:
    """What one place has to tell: mm, mm², mm³, g; None where it does not apply. ``opening`` is the clear rectangle on a face, along u and v."""

    length: float | None = None
    area: float | None = None
    mass: float | None = None
    volume: float | None = None
    centre: tuple[float, float, float] | None = None
    opening: tuple[float, float] | None = None
    angle: float | None = None


def about(built: Built, place: Place) -> About:
    """One place by itself. Raises Lost where it is not there."""
    spot = place_of(built, place)
    part = built.flats.get(place.part)
    if place.what == "edge":
        return About(length=float(np.linalg.norm(spot.sides.sum(axis=0))), centre=_tuple(spot.centre))
    if part and place.what == "face" and "." in place.name:
        faces = part.flat.fold.faces if part.flat.fold else ()
        outline = next(f.outline for f in faces if f.key == place.name.rpartition(".")[0])
        tilt = float(np.arccos(np.clip(abs(spot.direction[2]), 0.0, 1.0))) if spot.direction is not None else None
        return About(area=sum(c.area for c in outline), centre=_tuple(spot.centre), angle=tilt)
    if place.what == "face" and part is None:
        return About(centre=_tuple(spot.centre))
    if part and place.what == "face":
        tilt = None if spot.direction is None else float(np.arccos(np.clip(abs(spot.direction[2]), 0.0, 1.0)))
        broad = across(place.name, part.mirrored) in (part.frame.face_a, part.frame.face_b)
        sides = [float(np.linalg.norm(s)) for s in spot.sides if np.linalg.norm(s) > EPS]
        area = part.flat.area if broad else float(np.prod(sides)) if len(sides) == 2 else None
        return About(
            area=area,
            centre=_tuple(spot.centre),
            opening=_opening(built, part, across(place.name, part.mirrored)) if broad else None,
            angle=tilt,
        )
    if place.what == "part":
        return weigh(built, [place.part])
    return About(centre=_tuple(spot.centre))


def _opening(built: Built, part: FlatPart, face: str) -> tuple[float, float] | None:
    """The opening that neighbours leave on a broad face, where they stand along the same axes."""
    others = [(p.span_box, p.frame.normal) for p in built.flats.values() if p.key != part.key and p.place.same(part.place)]
    found = opening(part.span_box, part.frame, face, others)
    u, v = found[part.frame.u], found[part.frame.v]
    return u[1] - u[0], v[1] - v[0]


def weigh(built: Built, keys: list[str]) -> About:
    """Area of the flats, volume, mass and common centre of gravity of parts. Raises Lost where one is not there."""
    parts: list[tuple[MadePart, float]] = []
    area = 0.0
    for key in keys:
        part = built.made.get(key)
        if part is None or part.body.empty:
            raise Lost(f"{built.parts[key].path if key in built.parts else key} has no solid to weigh")
        own = part.record.mass  # a bought block's own
        density = density_of(part, built.document.stock_of(part.record))
        parts.append((part, density if own is None else own * 1000 / solid_volume(part)))
        area += sizes_of(part).area or 0.0
    found = mass_centre(parts)
    volume = sum(solid_volume(p) for p, _ in parts)
    return About(area=area, volume=volume, mass=found[0] if found else 0.0, centre=found[1] if found else None)


def _along(a: Spot, b: Spot, parts: bool) -> tuple[float, float, float]:
    """Along each axis: from one middle to the other, or the room between two parts' extents (0 where they cover each other)."""
    if not parts:
        return three(abs(float(d)) for d in b.centre - a.centre)
    found = []
    for i in range(len(AXES)):
        (a0, a1), (b0, b1) = _extent(a, i), _extent(b, i)
        found.append(max(0.0, max(a0, b0) - min(a1, b1)))
    return found[0], found[1], found[2]


def _extent(spot: Spot, i: int) -> tuple[float, float]:
    reach = spot.sides[:, i]
    return float(spot.low[i] + reach[reach < 0].sum()), float(spot.low[i] + reach[reach > 0].sum())


def _tuple(p: np.ndarray) -> tuple[float, float, float]:
    return float(p[0]), float(p[1]), float(p[2])
