"""The rooms before a face: where a board of some thickness would lie between what is there, for every place that may be pressed on the face.

Asked once when the pointer comes to a face; within a room nothing has to be asked again while the hand moves.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, Frame, Plane, frame_of
from zygon.making.datums.solving import solve
from zygon.making.datums.values import Values
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.rooms.named import NamedPlace, named_places, written
from zygon.making.rooms.taken import Taken, taken
from zygon.measure.display import format_length
from zygon.patience import still_wanted
from zygon.tolerance import EPS

__all__ = ["Bound", "Room", "Rooms", "free_rooms"]

#: Overlaps smaller than this (mm) are joints that meet, and rounding.
TOUCH = 0.02
#: A board is at least this long and wide (mm).
LEAST = 5.0
#: How far a board reaches from a face before which nothing stands (mm).
OPEN = 200.0
#: So many places of a depth are tried; where there are more, each second or third of them.
MOST_PLACES = 3000
#: Half as wide a place is taken to be before it grows (mm).
LINE = 2 * TOUCH
#: A box too far from anything to be met (mm).
FAR = 1e7


@dataclass(frozen=True)
class Bound:
    """Where a room ends along an axis: its place in mm, as an entry writes it, the part there ('' where nothing bounds it), and whether that slopes."""

    value: float
    entry: str
    part: str = ""
    slopes: bool = False


@dataclass(frozen=True)
class Room:
    """A free box: by axis from where to where; ``open`` are the axes along which nothing bounds its far end."""

    bounds: dict[str, tuple[Bound, Bound]]
    open: tuple[str, ...] = ()

    def span(self, axis: str) -> tuple[float, float]:
        """From and to in mm."""
        low, high = self.bounds[axis]
        return low.value, high.value


@dataclass(frozen=True)
class Rooms:
    """The rooms before a face that lies ``at`` mm along ``axis`` and looks ``outward`` (1 or -1): those that touch it, then those behind them.

    ``why`` says why there is none elsewhere.
    """

    rooms: tuple[Room, ...]
    axis: str
    at: float
    outward: int
    why: str


@dataclass(frozen=True)
class _Face:
    """A face along the axes: axis ``k``, its place, the way out, and its rectangle's ends along all axes."""

    k: int
    at: float
    out: int
    low: np.ndarray
    high: np.ndarray


def free_rooms(built: Built, part: str, face: str, plane: Plane, thickness: float) -> Rooms:
    """The rooms before a part's face (a word, or ``flange.inner``) for a board of a thickness (mm) that stands in a plane.

    Raises DocumentError, with why, where there is none.
    """
    values = solve(built.document, built.good, leg_face)
    found = taken(built)
    pressed = _face(built, values, found, part, face)
    search = _Search(found, pressed, frame_of(plane), thickness, part)
    boxes = search.rooms()
    if not boxes:
        raise DocumentError(
            search.why_not(built.parts[part].path), entry="face", value=f"{part}.{face}", rule=f"room for {format_length(thickness)}"
        )
    places = {a: named_places(values, a) for a in AXES}
    rooms = tuple(_told(search, places, built.document.unit, box) for box in boxes)
    return Rooms(rooms, AXES[pressed.k], pressed.at, pressed.out, search.why_not(built.parts[part].path))


def _face(built: Built, values: Values, found: Taken, key: str, word: str) -> _Face:
    part = built.made.get(key)
    if part is None:
        raise DocumentError(f"There is no part {key} with a place", entry="part", value=key, rule="a part of the design")
    name = part.path
    own = found.of(key)
    if "." in word:
        return _leg(built, values, part, word)
    axis = next((a for a in AXES if word in FACES[a]), None)
    if axis is None:
        raise DocumentError(f"{name} has no face {word}", entry="face", value=word, rule="left, right, front, back, bottom or top")
    k, high_side = AXES.index(axis), word == FACES[axis][1]
    along = isinstance(part, FlatPart) and part.place.square
    plate = along and k == AXES.index(part.frame.normal)  # type: ignore[attr-defined]
    if not own.any() or not (plate or (along and found.exact[own].all()) or not isinstance(part, FlatPart)):
        rule = "a face along the axes"
        raise DocumentError(f"{name} slopes here, is bent or is round: nothing stands flat against it", entry="face", value=word, rule=rule)
    low, high = found.low[own].min(0), found.high[own].max(0)
    if isinstance(part, FlatPart) and part.flat.fold:  # the plate, which comes first, and not the box round all flanges
        low, high = found.low[own][0], found.high[own][0]
    return _Face(k, float(high[k] if high_side else low[k]), 1 if high_side else -1, low, high)


def _leg(built: Built, values: Values, part: MadePart, word: str) -> _Face:
    leg, _, side = word.rpartition(".")
    record = part.record
    try:
        corners = np.array(leg_face(values, part.of, leg, side))
    except KeyError as error:
        raise DocumentError(
            f"{record.name} has no place there: {error.args[0]}", entry="face", value=word, rule="a flange's face"
        ) from None
    if part.key != part.of:
        raise DocumentError(f"{part.path} is a copy; press its original", entry="part", value=part.key, rule="an original")
    corner, along, up = (np.array(part.place.point(c)) for c in corners)
    normal = np.cross(along - corner, up - corner)
    normal /= np.linalg.norm(normal)
    k = int(abs(normal).argmax())
    if abs(normal[k]) < 1 - EPS:
        raise DocumentError(
            f"{record.name} slopes here: nothing stands flat against it", entry="face", value=word, rule="a face along the axes"
        )
    other = np.array(part.place.point(leg_face(values, part.of, leg, "inner" if side == "outer" else "outer")[0]))
    points = np.vstack([corner, along, up, along + up - corner])
    return _Face(k, float(corner[k]), 1 if corner[k] > other[k] else -1, points.min(0), points.max(0))


@dataclass
class _Box:
    low: np.ndarray
    high: np.ndarray
    open: tuple[int, ...] = ()


class _Search:
    """Looks for free boxes: between two depths at which another part begins or ends, from each place on the face as far as nothing is met."""

    def __init__(self, found: Taken, face: _Face, frame: Frame, thickness: float, pressed: str) -> None:
        self.face, self.thickness, self.pressed = face, thickness, pressed
        self.n = AXES.index(frame.normal)
        self.across = [a for a in range(3) if a != self.n]
        self.low, self.high, self.parts, self.exact = found.low, found.high, found.parts, found.exact
        self.first, self.last = found.low.min(0), found.high.max(0)
        self.thin = 0.0  # the widest gap that was too thin

    def rooms(self) -> list[_Box]:
        """Free boxes that hold a board, none within another one."""
        found: dict[tuple, _Box] = {}
        for slab in self._slabs():
            still_wanted()
            for rectangle in self._rectangles(slab):
                box = self._deep(self._closed(rectangle), slab)
                if box is not None:
                    found.setdefault(tuple(np.round([*box.low, *box.high], 4)), box)
        lows, highs = (np.array([getattr(b, end) for b in found.values()]).reshape(-1, 3) for end in ("low", "high"))
        inside = (lows[:, None] >= lows[None] - TOUCH).all(2) & (highs[:, None] <= highs[None] + TOUCH).all(2)
        return sorted((b for b, within in zip(found.values(), inside.sum(1), strict=True) if within == 1), key=self._rank)

    def _rank(self, box: _Box) -> tuple[float, float, float]:
        """What touches the face comes first, then what is larger."""
        k, size = self.face.k, box.high - box.low
        apart = box.low[k] - self.face.at if self.face.out > 0 else self.face.at - box.high[k]
        return round(max(apart, 0.0), 1), -float(np.prod(np.delete(size, self.n))), -float(np.prod(size))

    def _slabs(self) -> list[tuple[float, float]]:
        """Depths along the board's normal between which nothing begins or ends before the face."""
        n, f = self.n, self.face
        if n == f.k:
            end = (self.last if f.out > 0 else self.first)[n]
            first, last = sorted((f.at, end))
        else:
            first, last = f.low[n], f.high[n]
        met = self._before()
        cuts = np.concatenate([self.low[met, n], self.high[met, n], [first, last]])
        cuts = np.unique(np.round(cuts[(cuts >= first - TOUCH) & (cuts <= last + TOUCH)], 6))
        slabs = [(a, b) for a, b in zip(cuts[:-1], cuts[1:], strict=True) if b - a > TOUCH]
        if n == f.k:  # and outside of everything
            slabs.append((end, end + self.thickness) if f.out > 0 else (end - self.thickness, end))
        return slabs

    def _before(self) -> np.ndarray:
        """Which boxes lie in front of the face's plane."""
        k, f = self.face.k, self.face
        return self.high[:, k] > f.at + TOUCH if f.out > 0 else self.low[:, k] < f.at - TOUCH

    def _rectangles(self, slab: tuple[float, float]) -> np.ndarray:
        """(r, 2, 2) low and high along both axes across the board's normal: from each place on the face as far as nothing is met, along one axis
        and then the other, both ways round. Places are tried between any two at which something begins or ends."""
        met = self._met({self.n: slab})
        low, high = (x[met][:, self.across] for x in (self.low, self.high))
        places = self._places(low, high)
        taken_up = ((low < places[:, None]) & (high > places[:, None])).all(2).any(1)
        places = places[~taken_up]
        if not len(places):
            return np.empty((0, 2, 2))
        both = [self._grown(low, high, places, first) for first in (0, 1)]
        return np.unique(np.round(np.concatenate(both), 6), axis=0)

    def _places(self, low: np.ndarray, high: np.ndarray) -> np.ndarray:
        """(p, 2): one place on the face for each pair of neighbouring ends."""
        f, cuts = self.face, []
        for i, a in enumerate(self.across):
            if a == f.k:
                cuts.append(np.array([f.at + f.out * TOUCH]))
                continue
            ends = np.concatenate([low[:, i], high[:, i], [f.low[a], f.high[a]]])
            ends = np.unique(np.round(ends[(ends >= f.low[a]) & (ends <= f.high[a])], 4))
            middles = (ends[:-1] + ends[1:]) / 2
            cuts.append(middles[np.diff(ends) > TOUCH])
        places = np.array(np.meshgrid(*cuts)).reshape(2, -1).T
        return places[:: max(1, math.ceil(len(places) / MOST_PLACES))]

    @staticmethod
    def _grown(low: np.ndarray, high: np.ndarray, places: np.ndarray, first: int) -> np.ndarray:
        """(p, 2, 2): what each place grows to, along one axis as a line and then along the other as wide as that."""
        grown = np.empty((len(places), 2, 2))
        reach = (places[:, 1 - first] - LINE, places[:, 1 - first] + LINE)
        for a in (first, 1 - first):
            b, x = 1 - a, places[:, a, None]
            beside = (low[:, b] < reach[1][:, None] - TOUCH) & (high[:, b] > reach[0][:, None] + TOUCH)
            below = np.where(beside & (high[:, a] <= x + TOUCH), high[:, a], -FAR)
            above = np.where(beside & (low[:, a] >= x - TOUCH), low[:, a], FAR)
            reach = (below.max(1, initial=-FAR), above.min(1, initial=FAR))
            grown[:, a, 0], grown[:, a, 1] = reach
        return grown

    def _met(self, spans: dict[int, tuple[float, float]]) -> np.ndarray:
        """Which boxes reach into spans along some axes."""
        met = np.ones(len(self.low), bool)
        for a, (x, y) in spans.items():
            met &= (self.low[:, a] < y - TOUCH) & (self.high[:, a] > x + TOUCH)
        return met

    def _reach(self, beside: np.ndarray, a: int, x: float) -> tuple[float, float]:
        below = self.high[beside & (self.high[:, a] <= x + TOUCH), a]
        above = self.low[beside & (self.low[:, a] >= x - TOUCH), a]
        return (float(below.max()) if below.size else -FAR), (float(above.min()) if above.size else FAR)

    def _closed(self, rectangle: np.ndarray) -> _Box:
        """Where nothing is met it ends with the design; before a face that looks out of it, after a hand's breadth or two."""
        box, open_ = _Box(np.zeros(3), np.zeros(3)), []
        for a, (low, high) in zip(self.across, rectangle, strict=True):
            if low <= -FAR:
                low = self.first[a] if self.first[a] < high - LEAST else self._below(a, high)
                open_ += [a] if low < self.first[a] - TOUCH else []
            if high >= FAR:
                high = self.last[a] if self.last[a] > low + LEAST else low + OPEN
                open_ += [a] if high > self.last[a] + TOUCH else []
            box.low[a], box.high[a] = low, high
        box.open = tuple(open_)
        return box

    def _below(self, a: int, high: float) -> float:
        """Where a room ends below (along z) that nothing bounds: on the ground, as far as all stands over it."""
        if AXES[a] == "z" and self.first[a] >= -TOUCH and high > LEAST:
            return 0.0
        return high - OPEN

    def _deep(self, box: _Box, slab: tuple[float, float]) -> _Box | None:
        """As far along the board's normal as nothing is met by all of it; None where it is too small, or too thin."""
        n, f = self.n, self.face
        before = box.high[f.k] - f.at if f.out > 0 else f.at - box.low[f.k]
        if any(box.high[a] - box.low[a] < LEAST for a in self.across) or (n != f.k and before < LEAST):
            return None
        beside = self._met({a: (box.low[a], box.high[a]) for a in self.across})
        low, high = self._reach(beside, n, sum(slab) / 2)
        outside = n == self.face.k and (slab[1] <= self.first[n] + TOUCH or slab[0] >= self.last[n] - TOUCH)
        if low <= -FAR:
            low = slab[1] - OPEN - self.thickness if outside and self.face.out < 0 else min(self.first[n], slab[0])
            box.open = (*box.open, n) if low < self.first[n] - TOUCH else box.open
        if high >= FAR:
            high = slab[0] + OPEN + self.thickness if outside and self.face.out > 0 else max(self.last[n], slab[1])
            box.open = (*box.open, n) if high > self.last[n] + TOUCH else box.open
        if outside:  # what lies within the design is a room of its own
            low, high = (low, min(high, slab[1])) if self.face.out < 0 else (max(low, slab[0]), high)
        if n != self.face.k:  # not farther than the face that it stands against
            low, high = max(low, self.face.low[n]), min(high, self.face.high[n])
        if high - low < self.thickness - TOUCH:
            self.thin = max(self.thin, high - low)
            return None
        box.low[n], box.high[n] = low, high
        return box

    def bounding(self, box: _Box, a: int, *, high: bool) -> tuple[str, bool]:
        """The part that a box ends at along an axis, '' where it is none, and whether it slopes there; the pressed one first, originals before copies."""
        met = self._met({b: (box.low[b], box.high[b]) for b in range(3) if b != a})
        ends = self.low[:, a] - box.high[a] if high else self.high[:, a] - box.low[a]
        at = np.flatnonzero(met & (abs(ends) <= TOUCH))
        if not at.size:
            return "", False
        i = min(at, key=lambda i: (self.parts[i] != self.pressed, "@" in self.parts[i], not self.exact[i]))
        return self.parts[i], not self.exact[i]

    def why_not(self, name: str) -> str:
        """Why there is no room, in words."""
        if self.thin > 0:
            return f"Only {format_length(self.thin)} are free before {name}, and the board is {format_length(self.thickness)} thick"
        return f"Nothing is free before {name}"


def _told(search: _Search, places: dict[str, list[NamedPlace]], unit: str, box: _Box) -> Room:
    bounds = {}
    for a, axis in enumerate(AXES):
        low, high = (_bound(search, places[axis], unit, box, a, high=h) for h in (False, True))
        bounds[axis] = (low, high)
    return Room(bounds, tuple(AXES[a] for a in box.open))


def _bound(search: _Search, places: list[NamedPlace], unit: str, box: _Box, a: int, *, high: bool) -> Bound:
    part, slopes = search.bounding(box, a, high=high)
    value = float((box.high if high else box.low)[a])
    # what is there is named, and lies where its name says to the last digit
    value = min((p.value for p in places if abs(p.value - value) <= TOUCH), key=lambda v: abs(v - value), default=value)
    return Bound(value, written(places, value, unit, part or search.pressed), part, slopes)
