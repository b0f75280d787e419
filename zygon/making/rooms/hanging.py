"""Where hinges and slides of the catalogue fit between two parts as they stand: on which faces their leaves lie, and how deep they are let in."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from zygon.design.document import Document
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES
from zygon.making.result.built import Built, FlatPart
from zygon.making.rooms.named import figure
from zygon.stock.hardware.catalogue import FAMILIES, by_designation
from zygon.stock.hardware.piece import Hardware
from zygon.stock.hardware.shape import Leaf
from zygon.tolerance import CONTACT

__all__ = ["Fits", "Hanging", "hangings", "piece_called", "square_part", "that_fit"]

#: Faces that lie so near to one plane (mm) count as one.
FLUSH = 0.1
#: Parts that a hinge joins lie at most so far apart (mm).
APART = 12.0
#: How much a slide's room may differ from its width (mm, common practice).
SLIDE_PLAY = 0.6
#: A hinge is at most so long against what it hangs (common practice).
OF_RUN = 1 / 6


@dataclass(frozen=True)
class Hanging:
    """A way in which a hinge or a slide lies between two parts: ``words``, how it stands, where, and how far it is let in (mm)."""

    words: str
    looks: str
    along: str
    at: dict[str, str]
    by: dict[str, str]
    moved: str
    let_in: float
    run: tuple[str, float, float]
    #: names of the run's two ends
    ends: tuple[str, str]


def hangings(built: Built, designation: str, part: str, on: str) -> list[Hanging]:
    """The ways in which a hinge or a slide of the catalogue fits between two parts as they stand, the usual one first. Raises DocumentError for what is none."""
    piece = piece_called(designation)
    role = FAMILIES[piece.family].role
    if role not in ("hinge", "slide"):
        raise DocumentError(f"{piece.name} lets nothing move", entry="designation", value=designation, rule="a hinge or a slide")
    a, b = (square_part(built, key, field) for key, field in ((on, "on"), (part, "part")))
    if a.of == b.of:
        raise DocumentError("A hinge is between two parts", entry="on", value=on, rule="another part than the one that moves")
    return list(_slides(piece, a, b) if role == "slide" else _hinges(built.document, piece, a, b))


@dataclass(frozen=True)
class Fits:
    """A hinge or a slide that fits between two parts, and the words of its ways, the usual one first."""

    piece: Hardware
    ways: tuple[str, ...]


def that_fit(built: Built, part: str, on: str) -> list[Fits]:
    """Every hinge and slide of the catalogue that fits between two parts as they stand, the usual one first: of hinges one that needs not be let in, the longest that is no longer
    than a share of what the parts have in common; of slides the longest. Raises as ``hangings``."""
    found: list[tuple[tuple[bool, bool, bool, float], Fits]] = []
    for family in FAMILIES.values():
        if family.role not in ("hinge", "slide"):
            continue
        for size in family.rows:
            for length in reversed(family.lengths_of(size) or (0.0,)):
                piece = family.piece(size, length or None)
                ways = hangings(built, piece.designation, part, on)
                if ways:
                    long = piece.leaves[0].foot[2] - piece.leaves[0].foot[0]
                    most = (ways[0].run[2] - ways[0].run[1]) * OF_RUN if family.role == "hinge" else math.inf
                    rank = (family.role == "slide", ways[0].let_in > 0, long > most, -long if long <= most else long)
                    found.append((rank, Fits(piece, tuple(h.words for h in ways))))
    return [f for _, f in sorted(found, key=lambda rf: rf[0])]


def piece_called(designation: str) -> Hardware:
    """The piece of the catalogue with a designation. Raises DocumentError where there is none."""
    try:
        return by_designation(designation)
    except KeyError:
        rule = "a piece of the catalogue by its designation"
        raise DocumentError(f"There is no hardware called {designation!r}", entry="designation", value=designation, rule=rule) from None


def square_part(built: Built, key: str, field: str) -> FlatPart:
    """A part in a plane that stands along the axes and is no copy."""
    found = built.flats.get(key)
    if found is None or found.made_by or not found.place.square:
        name = found.path if found else key
        raise DocumentError(
            f"{name} takes no hinge", entry=field, value=key, rule="a board or a folded part that stands along the axes, and is no copy"
        )
    return found


def _faces(part: FlatPart) -> Iterator[tuple[int, int, float, str]]:
    """Axis, sign and place of each face of its box, and its word as the part has it."""
    low, high = part.reaches
    for i, axis in enumerate(AXES):
        yield i, -1, low[i], FACES[axis][0]
        yield i, 1, high[i], FACES[axis][1]


def _hinges(document: Document, piece: Hardware, a: FlatPart, b: FlatPart) -> Iterator[Hanging]:
    """Every pair of faces on which both leaves lie: flat beside one another, then between, in the corner, over the corner."""
    leaf_a, leaf_b = piece.leaves
    r = -leaf_a.lies
    found: list[tuple[int, Hanging]] = []
    for (i, s, pa, fa), (j, t, pb, fb) in product(_faces(a), _faces(b)):
        if i == j:
            ways = [(k, v) for k in range(3) if k != i for v in (1, -1)]
        else:
            ways = [(j, -t), (j, t)]
        for k, v in ways:
            u_axis = 3 - i - k
            one = _placed(document, a, b, (i, s, pa, fa), (j, t, pb, fb), (k, v), r)
            if one is None:
                continue
            rank, angle, w_at, v_at, at, by, let_in, words = one
            run = _common(a, b, u_axis)
            long = leaf_a.foot[2] - leaf_a.foot[0]
            if run[1] - run[0] < long - CONTACT:
                continue
            pin = np.zeros(3)
            pin[i], pin[k], pin[u_axis] = w_at, v_at, (run[0] + run[1]) / 2
            w, vv = np.zeros(3), np.zeros(3)
            w[i], vv[k] = s, v
            u = np.cross(vv, w)
            turned = _turn(u, angle)
            if not (_lies(a, leaf_a, pin, u, vv, w) and _lies(b, leaf_b, pin, u, turned @ vv, turned @ w)):
                continue
            along = ("+" if u[u_axis] > 0 else "-") + AXES[u_axis]
            moved = f"{180 - round(math.degrees(angle))} deg"
            ends = _run_names(a, b, u_axis)
            found.append(
                (rank, Hanging(words, ("+" if s > 0 else "-") + AXES[i], along, at, by, moved, let_in, (AXES[u_axis], *run), ends))
            )
    found.sort(key=lambda rh: rh[0])
    for _, h in found:
        alike = sum(o.words == h.words for _, o in found) > 1
        yield replace(h, words=f"{h.words}, looking {h.looks} along {h.along}") if alike else h


_Found = tuple[int, float, float, float, dict[str, str], dict[str, str], float, str]


def _placed(
    document: Document,
    a: FlatPart,
    b: FlatPart,
    face_a: tuple[int, int, float, str],
    face_b: tuple[int, int, float, str],
    way: tuple[int, int],
    r: float,
) -> _Found | None:
    """Where the pin lies whose leaves lie on two faces, v from the leaf on the first one outward: (rank, how far the other leaf is turned about u, the pin's places along w
    and v, the entries that say so, how deep it is let in, words); None where these faces do not go together."""
    (i, s, pa, fa), (j, t, pb, fb) = face_a, face_b
    k, v = way
    (a_low, a_high), (b_low, b_high) = ((p.reaches[0][k], p.reaches[1][k]) for p in (a, b))
    w_axis, v_axis = AXES[i], AXES[k]
    name_a, name_b = f"{a.path}.{fa}", f"{b.path}.{fb}"
    toward = FACES[v_axis][1] if v > 0 else FACES[v_axis][0]
    back = FACES[v_axis][0] if v > 0 else FACES[v_axis][1]
    near_a, near_b = (a_high, b_low) if v > 0 else (-a_low, -b_high)
    if i == j and s == t:
        gap = near_b - near_a
        if abs(pa - pb) > FLUSH or not -FLUSH <= gap <= APART:
            return None
        seam = f"mid({a.path}.{toward}, {b.path}.{back})"
        middle = (near_a + near_b) / 2 * v
        return (
            0,
            0.0,
            pa + s * r,
            middle,
            {w_axis: name_a, v_axis: seam},
            {w_axis: "lies_a"},
            0.0,
            f"flat on the {fa} of both" if fa == fb else f"flat on {name_a} and {name_b}",
        )
    if i == j:
        gap = (pb - pa) * s
        far_a, far_b = (a_high, b_high) if v > 0 else (-a_low, -b_low)
        if not -FLUSH <= gap <= 2 * r + FLUSH or abs(far_a - far_b) > APART:
            return None
        outer, name = max((far_a, f"{a.path}.{toward}"), (far_b, f"{b.path}.{toward}"), key=lambda x: x[0])
        place = f"{name} {'+' if v > 0 else '-'} {figure(r, document.unit)}"
        let_in = max(0.0, r - gap / 2)
        at = {w_axis: f"mid({name_a}, {name_b})", v_axis: place}
        return 1, math.pi, (pa + pb) / 2, (outer + r) * v, at, {}, let_in, f"between, pin at the {toward}"
    inside = t == -v
    at, by = {w_axis: name_a, v_axis: name_b}, {w_axis: "lies_a", v_axis: "lies_b"}
    angle = math.pi / 2 if inside else -math.pi / 2
    words = f"in the corner at {name_a}" if inside else f"over the corner at {name_a}"
    return (2 if inside else 3), angle, pa + s * r, pb - v * r if inside else pb + v * r, at, by, 0.0, words


def _turn(u: np.ndarray, angle: float) -> np.ndarray:
    """The turn about a direction (3, 3), right-handed."""
    c, s = math.cos(angle), math.sin(angle)
    cross = np.array([[0, -u[2], u[1]], [u[2], 0, -u[0]], [-u[1], u[0], 0]])
    return np.eye(3) * c + s * cross + (1 - c) * np.outer(u, u)


def _lies(part: FlatPart, leaf: Leaf, pin: np.ndarray, u: np.ndarray, v: np.ndarray, w: np.ndarray) -> bool:
    """Whether a leaf's foot lies within a part's box, as seen along its own w."""
    u0, v0, u1, v1 = leaf.foot
    low, high = (np.array(c) for c in part.reaches)
    for x, y in ((u0, v0), (u1, v1)):
        corner = pin + u * x + v * y + w * leaf.lies
        flat = np.abs(w) < CONTACT
        if ((corner < low - FLUSH) & flat).any() or ((corner > high + FLUSH) & flat).any():
            return False
    return True


def _common(a: FlatPart, b: FlatPart, axis: int) -> tuple[float, float]:
    return max(a.reaches[0][axis], b.reaches[0][axis]), min(a.reaches[1][axis], b.reaches[1][axis])


def _run_names(a: FlatPart, b: FlatPart, axis: int) -> tuple[str, str]:
    """The names of both ends of what two parts have in common along an axis."""
    low, high = FACES[AXES[axis]]
    return (
        f"{(a if a.reaches[0][axis] >= b.reaches[0][axis] else b).path}.{low}",
        f"{(a if a.reaches[1][axis] <= b.reaches[1][axis] else b).path}.{high}",
    )


def _slides(piece: Hardware, a: FlatPart, b: FlatPart) -> Iterator[Hanging]:
    """Between two faces that look at one another, drawn out to the front first."""
    wide, high, long = piece.leaves[1].lies, piece.leaves[0].foot[3] * 2, piece.length or 0.0
    for (i, s, pa, fa), (j, t, pb, fb) in product(_faces(a), _faces(b)):
        gap = (pb - pa) * s
        if i != j or s != -t or abs(gap - wide) > SLIDE_PLAY:
            continue
        for k, sign in ((1, -1), (0, -1), (0, 1), (1, 1)):
            across = 3 - i - k
            if k == i:
                continue
            run, tall = _common(a, b, k), _common(a, b, across)
            if run[1] - run[0] < long - CONTACT or tall[1] - tall[0] < high - CONTACT:
                continue
            low, top = _run_names(a, b, k)
            cross = _run_names(a, b, across)
            at = {AXES[i]: f"{a.path}.{fa}", AXES[k]: low if sign < 0 else top, AXES[across]: f"mid({cross[0]}, {cross[1]})"}
            words = f"between {a.path}.{fa} and {b.path}.{fb}, out to the {FACES[AXES[k]][sign > 0]}"
            out, along = ("+" if s > 0 else "-") + AXES[i], ("+" if sign > 0 else "-") + AXES[k]
            yield Hanging(words, out, along, at, {}, "0 mm", 0.0, (AXES[k], *run), (low, top))
