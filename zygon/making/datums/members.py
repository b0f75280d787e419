"""Where the points of frames and the members on their lines lie, once the entries that say so are worked out.

A member's own coordinates: w along it from A, u and v across, its section's width along u and its height along v; the side at 0 degrees is v's high one.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zygon.design.parts.kinds import is_member
from zygon.design.parts.member import LIES
from zygon.errors import MemberError
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion
from zygon.making.datums.ids import member_entry, point_at
from zygon.making.datums.paths import drawn_point, round_of
from zygon.making.datums.placing import frame_of_group
from zygon.making.result.box import Box
from zygon.making.tube.bent_path import bent_path
from zygon.measure.display import format_length
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS, SEEN

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["BENDS", "Lying", "NoPlace", "axis_of", "box_of_member", "lying_of", "point_of", "points_of"]

#: Lines in a row are one straight line up to this angle (radians).
BENDS = 1e-7


class NoPlace(KeyError):
    """Why a member has no place: the field of its record, the sentence and the rule."""

    def __init__(self, field: str, said: str, rule: str) -> None:
        super().__init__(said)
        self.field, self.said, self.rule = field, said, rule


@dataclass(frozen=True)
class Lying:
    """How a member lies at rest: ``motion`` takes its (u, v, w) there, w from 0 at A to ``length`` mm at B of a straight one.

    Of a bent one ``points`` are the corners of its centre line in its own coordinates, rounded by ``radius`` mm; w runs along the first of its runs.
    """

    motion: Motion
    length: float
    points: tuple[tuple[float, float, float], ...] = ()
    radius: float = 0.0

    @property
    def way(self) -> tuple[float, float, float]:
        """The direction from A to B."""
        return self.motion.vector((0.0, 0.0, 1.0))


def point_of(values: Values, frame: str, key: str) -> np.ndarray:
    """A point of a frame at rest, (3,) in mm. KeyError where it is not worked out."""
    record = values.document.frames[frame]
    point = record.points[key]
    if point.drawn:
        return drawn_point(values, frame, key)
    if not point.on:
        return np.array([values.solved[point_at(frame, key, a)] for a in AXES])
    if (frame, key) in values.on_lines:
        return values.on_lines[frame, key]
    line = record.lines[point.on]
    start, end = (point_of(values, frame, k) for k in ((line.a, line.b) if point.end == "a" else (line.b, line.a)))
    way = end - start
    long = float(np.linalg.norm(way))
    if long <= CONTACT:
        raise KeyError("its line has no length")
    values.on_lines[frame, key] = start + way / long * values.solved[point_at(frame, key, "off")]
    return values.on_lines[frame, key]


def points_of(values: Values) -> dict[str, dict[str, tuple[float, float, float]]]:
    """The points of each frame in the room, by key; without those whose place is not known."""
    found: dict[str, dict[str, tuple[float, float, float]]] = {}
    for key, frame in values.document.frames.items():
        motion, found[key] = frame_of_group(values, frame.group), {}
        for point in frame.points:
            try:
                found[key][point] = motion.point(point_of(values, key, point).tolist())
            except KeyError:
                continue
    return found


def lying_of(values: Values, key: str) -> Lying:
    """How a member lies, its ends as deep in the sockets of connectors as those say. KeyError where a point of its lines is not worked out; NoPlace
    where it cannot lie so."""
    member, section = values.boards[key], values.section_of(key)
    assert is_member(member) and section
    points, bent = _corners(values, key)
    if bent:
        return _bent(values, key, points)
    start, w, long = _axis(values, key, points)
    u, v = _across(values, key, w)
    past_a, past_b = _past(values, key)
    length = long + past_a + past_b
    if length <= CONTACT and any(values.kept_back(key, end) > 0 for end in ("a", "b")):
        said = f"{member.name} is too short for the sockets at its ends"
        raise NoPlace("lines", said, "something of a member is left between its connectors")
    if length <= CONTACT:
        said = f"{member.name} is cut back by more than its line's length"
        raise NoPlace("past_a" if past_a < past_b else "past_b", said, "something of a member is left")
    start = start - w * past_a
    rows = tuple((float(u[i]), float(v[i]), float(w[i]), float(start[i])) for i in range(3))
    return Lying(Motion(rows).rounded(), round(length, 7))


def axis_of(values: Values, key: str) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The corners (n, 3) of the axis of a member from its line's start to its end, whatever is cut off, and how its section's u and v look at A; mm.

    KeyError and NoPlace as ``lying_of``.
    """
    points, bent = _corners(values, key)
    if bent:
        way = points[1] - points[0]
        return points, *_across(values, key, way / np.linalg.norm(way))
    start, w, long = _axis(values, key, points)
    return np.array((start, start + w * long)), *_across(values, key, w)


def _corners(values: Values, key: str) -> tuple[np.ndarray, bool]:
    """The points (n, 3) of a member's lines, and whether it is bent there."""
    member = values.boards[key]
    assert is_member(member)
    chain = values.document.frames[member.frame].chain(member.lines)
    assert chain
    points = np.array([point_of(values, member.frame, p) for p in chain])
    ways = np.diff(points, axis=0)
    runs = np.linalg.norm(ways, axis=1)
    if runs.min() <= CONTACT:
        raise NoPlace("lines", f"{member.name} lies on a line without length", "the points of a line lie apart")
    rounds = round_of(values, member.frame, member.lines)
    if (member.radius is not None or any(rounds)) and _bends(ways / runs[:, None]):
        return points, True
    way = points[-1] - points[0]
    long = float(np.linalg.norm(way))
    if long <= CONTACT or any(np.linalg.norm(np.cross(w / r, way / long)) > BENDS or w @ way < 0 for w, r in zip(ways, runs, strict=True)):
        said = f"{member.name} lies on lines that are not straight in a row"
        raise NoPlace("radius", said, "a straight member lies on straight lines; a bent one has a radius")
    return points, False


def _axis(values: Values, key: str, points: np.ndarray) -> tuple[np.ndarray, np.ndarray, float]:
    """Where the axis of a straight member starts (3,), its way (3,) and how long its line is."""
    member, section = values.boards[key], values.section_of(key)
    assert is_member(member) and section
    way = points[-1] - points[0]
    long = float(np.linalg.norm(way))
    w = way / long
    u, v = _across(values, key, w)
    width, height = section.extents
    side, up_by = LIES[member.lies]
    return points[0] - u * (side * width / 2) - v * (up_by * height / 2), w, long


def _past(values: Values, key: str) -> tuple[float, float]:
    """How far a member runs on beyond its line's ends (mm): as is said, less what a socket there keeps it back."""
    a, b = (values.solved[member_entry(key, f)] for f in ("past_a", "past_b"))
    return a - values.kept_back(key, "a"), b - values.kept_back(key, "b")


def _across(values: Values, key: str, w: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The directions of u and v of a member that runs along w."""
    member = values.boards[key]
    assert is_member(member)
    up = np.eye(3)[AXES.index(member.against)]
    across = np.cross(up, w)
    if np.linalg.norm(across) <= EPS**0.5:
        said = f"{member.name} runs along {member.against}, toward which its side at 0° should look"
        raise NoPlace("against", said, "0° looks along an axis that the member does not run along")
    u = across / np.linalg.norm(across)
    v = np.cross(w, u)
    c, s = _cos_sin(values.solved[member_entry(key, "turn")])
    return c * u + s * v, c * v - s * u


def _bends(ways: np.ndarray) -> bool:
    """Whether runs (n, 3) are not one straight line."""
    return any(float(np.linalg.norm(np.cross(a, b))) > BENDS or float(a @ b) < 0 for a, b in zip(ways, ways[1:], strict=False))


def _bent(values: Values, key: str, points: np.ndarray) -> Lying:
    """How a bent member lies; NoPlace where its radius does not go between its points."""
    member, section = values.boards[key], values.section_of(key)
    assert is_member(member) and section
    if member.lies != "middle":
        raise NoPlace("lies", f"{member.name} is bent, and lies by a side of it on its lines", "a bent member lies by its middle")
    radius, (past_a, past_b) = _radius(values, key, points), _past(values, key)
    ends = [points[i] - points[j] for i, j in ((0, 1), (-1, -2))]
    path = points.copy()
    for i, way, past in ((0, ends[0], past_a), (-1, ends[1], past_b)):
        path[i] = points[i] + way / np.linalg.norm(way) * past
    try:
        found = bent_path(path.tolist(), radius, section.height)
    except MemberError as error:
        raise NoPlace("radius" if error.entry == "radius" else "lines", f"{member.name}: {error.message}", error.rule) from None
    w = path[1] - path[0]
    w = w / np.linalg.norm(w)
    u, v = _across(values, key, w)
    rows = tuple((float(u[i]), float(v[i]), float(w[i]), float(path[0][i])) for i in range(3))
    motion = Motion(rows).rounded()
    own = np.round(motion.inverse.points(path), 7) + 0.0
    return Lying(motion, round(found.length, 7), tuple((float(x), float(y), float(z)) for x, y, z in own), radius)


def _radius(values: Values, key: str, points: np.ndarray) -> float:
    """By how much a member is bent: as is drawn in its corners, else as it says. NoPlace where that is not one radius."""
    member = values.boards[key]
    assert is_member(member)
    said = values.solved[member_entry(key, "radius")] if member.radius is not None else None
    ways = np.diff(points, axis=0)
    ways = ways / np.linalg.norm(ways, axis=1)[:, None]
    turns = [_bends(ways[k : k + 2]) for k in range(len(ways) - 1)]
    drawn = round_of(values, member.frame, member.lines)
    found = [r if r is not None else said for r, turned in zip(drawn, turns, strict=True) if turned]
    rounds = [r for r in found if r is not None]
    if len(rounds) < len(found):
        raise NoPlace("radius", f"{member.name} is drawn with a sharp corner", "an arc in each corner, or a radius for those without")
    if max(rounds) - min(rounds) > SEEN:
        low, high = (format_length(r, values.document.display) for r in (min(rounds), max(rounds)))
        raise NoPlace("lines", f"{member.name} is drawn with rounds of {low} and {high}", "one radius, as one tool bends it")
    return rounds[0]


def _cos_sin(turn: float) -> tuple[float, float]:
    """Exact at quarter turns."""
    quarter = turn / (math.pi / 2)
    if abs(quarter - round(quarter)) < EPS:
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarter) % 4]
    return math.cos(turn), math.sin(turn)


def box_of_member(lying: Lying, section: Section) -> Box:
    """The room that a member takes at rest, cut off square; mm."""
    width, height = section.extents
    if lying.points:  # about its corners: none of it lies farther out
        places, half = lying.motion.points(np.array(lying.points)), math.hypot(width, height) / 2
        lows, highs = (np.round(x, 7).tolist() for x in (places.min(axis=0) - half, places.max(axis=0) + half))
        return Box((lows[0], lows[1], lows[2]), (highs[0], highs[1], highs[2]))
    low, high = [], []
    for a, b, c, d in lying.motion.rows:
        across = abs(a) * width / 2 + abs(b) * height / 2 if section.shape != "round" else math.hypot(a, b) * height / 2
        low.append(round(d + min(0.0, c * lying.length) - across, 7))
        high.append(round(d + max(0.0, c * lying.length) + across, 7))
    return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))
