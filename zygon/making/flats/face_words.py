"""What the faces and ends of a part are called as it stands: its own words at rest, exchanged across the planes of mirrors.

A flat may be a mirror image or lie turned on its like, so that its own low end is not always where the record's is: what a direction
on the flat is called is asked of where the part really lies.
"""

from __future__ import annotations

from functools import lru_cache

from zygon.geometry.frame import AXES, FACES, across
from zygon.geometry.motion import Vector
from zygon.making.result.body import Matrix
from zygon.making.result.built import FlatPart
from zygon.making.result.fold import face_motions
from zygon.making.result.operations import EdgeBore, Side

__all__ = ["at_rest", "bend_words", "bore_word", "end_words", "face_word", "own_words", "way_at_rest", "word_toward"]


def at_rest(part: FlatPart, point: Vector) -> Vector:
    """A place of the flat (u, v, w) in mm, in the board's own room before it was turned, moved or copied."""
    m, back = part.matrix, part.place.inverse
    return back.point([sum(r[i] * point[i] for i in range(3)) + r[3] for r in m[:3]])


def way_at_rest(part: FlatPart, way: Vector) -> tuple[str, bool]:
    """The axis, and whether its high end, that a direction of the flat along u, v or w looks to."""
    return _looks_to(part.matrix, part.place.rows, way)


@lru_cache(maxsize=10_000)
def _looks_to(matrix: Matrix, place: Matrix, way: Vector) -> tuple[str, bool]:
    now = [sum(r[i] * way[i] for i in range(3)) for r in matrix[:3]]
    found = [sum(place[j][i] * now[j] for j in range(3)) for i in range(3)]  # a motion's way back is its transpose
    k = max(range(3), key=lambda i: abs(found[i]))
    return AXES[k], found[k] > 0


def word_toward(part: FlatPart, way: Vector) -> str:
    """The word of the face to which a direction of the flat looks."""
    axis, high = way_at_rest(part, way)
    return across(FACES[axis][high], part.mirrored)


def face_word(part: FlatPart, side: Side) -> str:
    """What face A or B of the flat is called."""
    return word_toward(part, (0.0, 0.0, 1.0 if side == "a" else -1.0))


def end_words(part: FlatPart) -> tuple[tuple[str, str], tuple[str, str]]:
    """The words at the low and at the high end of the flat's u and v."""
    return (
        (word_toward(part, (-1.0, 0.0, 0.0)), word_toward(part, (1.0, 0.0, 0.0))),
        (word_toward(part, (0.0, -1.0, 0.0)), word_toward(part, (0.0, 1.0, 0.0))),
    )


def bore_word(part: FlatPart, bore: EdgeBore) -> str:
    """The word of the edge that a bore enters."""
    out = -1.0 if bore.side == "low" else 1.0
    return word_toward(part, (out, 0.0, 0.0) if bore.across == "u" else (0.0, out, 0.0))


def bend_words(part: FlatPart) -> dict[str, tuple[str, str]]:
    """The words at the low and at the high end of every bend, by the key of its leg, as the folded part stands."""
    fold = part.flat.fold
    if fold is None:
        return {}
    found = {}
    motions = face_motions(fold)
    for bend in fold.bends:
        x, y, z = motions[bend.parent].vector((*bend.along, 0.0))
        found[bend.key] = word_toward(part, (-x, -y, -z)), word_toward(part, (x, y, z))
    return found


def own_words(part: FlatPart) -> dict[str, str]:
    """From the words that the flat's edges and faces carry (the record's own) to those of the part as it stands."""
    frame, ends = part.frame, end_words(part)
    us = ends[0][::-1] if part.handed < 0 else ends[0]  # a mirror image's edges keep their owners
    words = {FACES[frame.u][i]: us[i] for i in (0, 1)} | {FACES[frame.v][i]: ends[1][i] for i in (0, 1)}
    return words | {frame.face_a: face_word(part, "a"), frame.face_b: face_word(part, "b")}
