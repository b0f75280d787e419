"""Hardware that lies by itself, put where it goes as one edit: hinges and slides between two parts, what stands on a face, and the holes that it brings."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import product
from typing import Any

import numpy as np

from zygon.design.document import Document
from zygon.design.features import Bore
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.bought import Solid
from zygon.design.parts.kinds import is_hardware, is_placed
from zygon.design.patch import Patch, patched, pointer
from zygon.errors import DocumentError
from zygon.geometry.found import names_kept
from zygon.geometry.frame import AXES, FACES
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import instances_of
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import BoreLine, OwnHole, lines_of_holes, meetings
from zygon.making.hardware.body import body_of
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.result.built import Built, FlatPart
from zygon.making.rooms.named import figure
from zygon.stock.engagement import is_wooden
from zygon.stock.hardware.catalogue import FAMILIES, by_designation
from zygon.stock.hardware.holes import CLEARANCE
from zygon.stock.hardware.piece import Hardware
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.shape import Leaf
from zygon.stock.hardware.threads import diameter_of
from zygon.tolerance import CONTACT

__all__ = ["Fits", "Hanging", "hang", "hangings", "replace_shape", "stand_on", "take_holes", "that_fit"]

#: Faces that lie so near to one plane (mm) count as one.
FLUSH = 0.1
#: Parts that a hinge joins lie at most so far apart (mm).
APART = 12.0
#: How much a slide's room may differ from its width (mm, common practice).
SLIDE_PLAY = 0.6
#: A hinge is at most so long against what it hangs (common practice).
OF_RUN = 1 / 6
#: A hinge's middle lies so many of its lengths from the end, as common practice has it.
FROM_END = 1.5
#: A screw holds so many of its diameters in the face of a board (common practice), and leaves so much of it behind its tip (mm).
ENGAGED, LEFT = 4.0, 2.0
#: A hole's screw is so much thinner (mm) at least.
LOOSE = 0.2


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
    piece = _piece(designation)
    role = FAMILIES[piece.family].role
    if role not in ("hinge", "slide"):
        raise DocumentError(f"{piece.name} lets nothing move", entry="designation", value=designation, rule="a hinge or a slide")
    a, b = (_square(built, key, field) for key, field in ((on, "on"), (part, "part")))
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


def _piece(designation: str) -> Hardware:
    try:
        return by_designation(designation)
    except KeyError:
        rule = "a piece of the catalogue by its designation"
        raise DocumentError(f"There is no hardware called {designation!r}", entry="designation", value=designation, rule=rule) from None


def _square(built: Built, key: str, field: str) -> FlatPart:
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


def hang(built: Built, designation: str, part: str, on: str, number: int = 2, way: str = "") -> tuple[str, Patch]:
    """Label and patch by which a part hangs ``on`` another by so many hinges, evenly, or runs on a slide; with their screws. ``way`` are the words of one of ``hangings``.

    Raises DocumentError where it does not fit between them, with what is missing.
    """
    piece = _piece(designation)
    found = hangings(built, designation, part, on)
    hinge = FAMILIES[piece.family].role == "hinge"
    chosen = next((h for h in found if not way or h.words == way), None)
    if chosen is None:
        raise _no_room(built, piece, part, on)
    document = built.document
    axis, low, high = chosen.run
    name = fresh_name(document, piece.title.split()[-1])
    key = fresh_key(document.parts, name)
    at = dict(chosen.at)
    patch: Patch = []
    if hinge:
        long = piece.leaves[0].foot[2] - piece.leaves[0].foot[0]
        off = min(FROM_END * long, (high - low) / 4)
        first, last = chosen.ends
        inset = figure(round(off, 1), document.unit)
        at[axis] = f"mid({first}, {last})" if number == 1 else f"{first} + {inset}"
        if number > 1:
            if (high - low - 2 * off) / (number - 1) < long:
                rule = f"hinges beside one another: each is {long:g} mm long, on {round(high - low, 1):g} mm"
                raise DocumentError(f"{number} hinges have no room", entry="number", value=number, rule=rule)
            together = fresh_name(document, f"{name}s", {c.name for c in document.copies.values()})
            row = {
                "kind": "row",
                "name": together,
                "order": next_order(document.copies),
                "of": [f"part:{key}"],
                "axis": axis,
                "number": entry_of(document, str(number)),
                "spacing": entry_of(document, f"({last} - {first} - 2 * {inset}) / {number - 1}"),
            }
            patch.append({"op": "add", "path": pointer("copies", fresh_key(document.copies, together)), "value": row})
    record = {
        "kind": "hardware",
        "name": name,
        "order": next_order(document.parts),
        "designation": designation,
        "looks": chosen.looks,
        "along": chosen.along,
        "at": {a: entry_of(document, t) for a, t in at.items()},
        "by": chosen.by,
        "moved": entry_of(document, chosen.moved),
        "on": {"a": on, "b": part},
        "group": document.parts[on].group if document.parts[on].group == document.parts[part].group else "",
        **({"let_in": entry_of(document, figure(chosen.let_in, document.unit))} if chosen.let_in > CONTACT else {}),
    }
    patch.insert(0, {"op": "add", "path": pointer("parts", key), "value": record})
    patch += _holes_of(patched(document.dump(), patch), built, key)
    names = built.made[part].path, built.made[on].path
    if hinge:
        return f"{names[0]} hangs on {names[1]} by {number} {piece.title}{'' if number == 1 else 's'}", patch
    return f"{names[0]} runs on {names[1]}", patch


def _no_room(built: Built, piece: Hardware, part: str, on: str) -> DocumentError:
    """Why no leaf lies there, in words."""
    a, b = built.flats[on].path, built.flats[part].path
    if FAMILIES[piece.family].role == "slide":
        rule = f"{piece.leaves[1].lies:g} mm between two faces that look at one another, {piece.leaves[0].foot[3] * 2:g} mm high and {piece.length:g} mm deep"
    else:
        reach, long = piece.leaves[1].foot[3], piece.leaves[0].foot[2] - piece.leaves[0].foot[0]
        rule = f"a face of each beside the other's, {reach:g} mm wide and {long:g} mm long, as they stand closed"
    return DocumentError(
        f"{piece.name} has no room between {a} and {b}", entry="designation", value=piece.designation, rule=rule, code="no_room"
    )


def stand_on(built: Built, designation: str, part: str, face: str, at: tuple[float, float, float]) -> tuple[str, Patch]:
    """Label and patch of a piece of hardware that stands on a part's face at a point of it (mm), in whole millimetres from the face's low corner: a foot on it,
    a magnet or a bearing let in flush. Raises DocumentError where that is no face along the axes, or hardware that lies along a bore."""
    document, piece = built.document, _piece(designation)
    role = FAMILIES[piece.family].role
    if role not in ("foot", "magnet", "bearing", "pin", "dowel"):
        rule = "a foot, a magnet, a bearing or a pin; hinges and slides lie between two parts, screws along a bore"
        raise DocumentError(f"{piece.name} does not stand on a face by itself", entry="designation", value=designation, rule=rule)
    pressed = _square(built, part, "part")
    i = next((n for n, a in enumerate(AXES) if face in FACES[a]), None)
    if i is None:
        raise DocumentError("Hardware stands on a face", entry="face", value=face, rule="a face of the part")
    high = face == FACES[AXES[i]][1]
    entries = {AXES[i]: f"{pressed.path}.{face}"}
    for n, axis in enumerate(AXES):
        if n == i:
            continue
        low, top = pressed.reaches[0][n], pressed.reaches[1][n]
        ends = [f"{pressed.path}.{word}" for word in FACES[axis]]
        if abs(at[n] - (low + top) / 2) < 0.02 * (top - low):
            entries[axis] = f"mid({ends[0]}, {ends[1]})"
        else:
            entries[axis] = f"{ends[0]} + {figure(round(at[n] - low), document.unit)}"
    flush = role in ("magnet", "bearing")
    name = fresh_name(document, piece.title.split()[-1])
    key = fresh_key(document.parts, name)
    deep = piece.span[1] - piece.span[0]
    record = {
        "kind": "hardware",
        "name": name,
        "order": next_order(document.parts),
        "designation": designation,
        "looks": ("+" if high else "-") + AXES[i],
        "along": "+" + AXES[(i + 1) % 3],
        "at": {a: entry_of(document, t) for a, t in entries.items()},
        "on": {"a": part},
        "group": document.parts[part].group,
        **({"by": {AXES[i]: face}, "let_in": entry_of(document, figure(deep, document.unit))} if flush else {}),
        **({"by": {AXES[i]: "centre"}, "let_in": entry_of(document, figure(deep / 2, document.unit))} if role in ("pin", "dowel") else {}),
    }
    patch: Patch = [{"op": "add", "path": pointer("parts", key), "value": record}]
    if role == "foot":
        patch += _holes_of(patched(document.dump(), patch), built, key)
    return f"{piece.name} on {pressed.path}", patch


def take_holes(built: Built, key: str) -> tuple[str, Patch]:
    """Label and patch of bores, with the usual screws, through the holes of a piece of hardware into what it lies on; holes that a bore has taken over are left.

    Raises DocumentError where it is no hardware, or none of its holes lies on a part.
    """
    record = built.document.parts.get(key)
    if not is_hardware(record):
        raise DocumentError("Holes are taken over from hardware", entry="part", value=key, rule="a piece of hardware of the design")
    patch = _holes_of(built.document, built, key)
    if not patch:
        rule = "a hole that no bore has taken over, on the face or the edge of a part"
        raise DocumentError(f"{record.name} has no hole that lies on a part", entry="part", value=key, rule=rule, code="no_hole")
    return f"Holes of {record.name}", patch


def replace_shape(built: Built, key: str, shape: Solid) -> tuple[str, Patch]:
    """Label and patch by which a part has the shape of a newer file: holes and faces that lie where they lay keep their names, so that what is built on them stands.

    Raises DocumentError where the part has no shape that was read from a file.
    """
    record = built.document.parts.get(key)
    if not is_hardware(record) or record.shape is None:
        raise DocumentError(
            "A newer file takes the place of one that was read", entry="part", value=key, rule="a part that was read from a file"
        )
    made = names_kept(record.shape.model_dump(mode="json"), shape.model_dump(mode="json"))
    checked = Solid.model_validate(made).model_dump(mode="json", exclude_defaults=True)
    return f"{record.name}: {shape.source}", [{"op": "replace", "path": pointer("parts", key, "shape"), "value": checked}]


def _holes_of(document: Document, built: Built, key: str) -> Patch:
    """A bore for each leaf and part that its holes lie on, and for each width of hole."""
    values = solve(document, built.good, leg_face)
    instances = instances_of(values)
    blanks = blanks_of(values, instances)
    fold_blanks(values, blanks)
    taken = {h for b in document.bores.values() if b.member == key for h in (b.holes or ["*"])}
    whole = {"name": "holes", "axis": "z", "member": key, "at": {}, "diameter": entry_of(document, "1 mm")}
    lines, own = lines_of_holes(values, Bore.model_validate(whole), instances)
    record = document.parts[key]
    assert is_hardware(record)
    body = body_of(record.designation, record.shape, None)
    let_in = (
        0.0
        if record.let_in is None
        else values.read(record.let_in, pointer("parts", key, "let_in"), "length", EntryScope(values), part=key)
    )
    role = FAMILIES[body.piece.family].role if body.piece else ""
    leaf_of, sinks = {h.name: h.leaf for h in body.holes}, {h.name: h.sink for h in body.holes}
    groups: dict[tuple[str, str, str, float], list[BoreLine]] = {}
    for line in lines[:own]:
        hole = line.hole
        assert hole
        met = _lies_on(blanks, line)
        if met and hole.name not in taken and "*" not in taken and (hole.name != "bore" or role == "foot"):
            groups.setdefault((leaf_of[hole.name], *met, hole.across), []).append(line)
    patch: Patch = []
    names = {b.name for b in document.bores.values()}
    keys: dict[str, Any] = dict(document.bores)
    for n, ((leaf, part, how, _), own_lines) in enumerate(groups.items()):
        name = fresh_name(document, f"screws_{record.name}_{leaf}"[:38], names)
        names.add(name)
        first = own_lines[0].hole
        assert first
        thick = blanks[part].thickness - let_in
        bore = {
            **whole,
            "name": name,
            "order": next_order(document.bores) + n,
            "holes": [x.hole.name for x in own_lines if x.hole],
            "diameter": entry_of(document, figure(first.across, document.unit)),
            "parts": {part: {"action": "drill" if how == "edge" else "cut", "fit": entry_of(document, "0")}},
            "hardware": _screw_for(document, part, first, thick, sunk=sinks[first.name] > 0, edge=how == "edge"),
        }
        own_key = fresh_key(keys, name)
        keys[own_key] = None
        patch.append({"op": "add", "path": pointer("bores", own_key), "value": bore})
    return patch


def _lies_on(blanks: dict[str, Blank], line: BoreLine) -> tuple[str, str] | None:
    """The part that begins where a hole's axis leaves the hardware, and how it is met."""
    for key, blank in blanks.items():
        for m in meetings(blank, line):
            half = math.dist(m.start, m.end) / 2
            if m.how != "angle" and -FLUSH - half < m.along - half < APART / 2:
                return key, m.how
    return None


def _holds_in(head: str, size: str, own: float, thick: float) -> bool:
    """Whether a wood screw that is sold goes through what is ``own`` mm thick and holds in a board without coming out of it."""
    return any(
        own + diameter_of(size) * ENGAGED <= x + CONTACT and x <= own + thick - LEFT + CONTACT for x in SCREWS[head].lengths_of(size)
    )


def _screw_for(document: Document, part: str, hole: OwnHole, thick: float, *, sunk: bool, edge: bool) -> dict[str, Any]:
    """What goes through a hole into a part as a rule, of which so much (mm) lies behind it: a wood screw into wood, else a metric one with its nut."""
    across, screw, own = hole.across, hole.screw, hole.thick
    record = document.parts[part]
    if is_placed(record) and record.stock and is_wooden(document.stock_of(record)):
        head = "wood" if sunk else "wood_round"
        most = diameter_of(screw[1]) if screw[1] else across - LOOSE
        sizes = [s for s in SCREWS[head].rows if diameter_of(s) <= most + CONTACT and SCREWS[head].head(s)[0] > across]
        # what is thin takes a thinner screw, which holds in it
        sizes = [s for s in sizes if edge or _holds_in(head, s, own, thick)] or sizes[:1]
        return {"head": head, "size": max(sizes, key=diameter_of, default="2.5"), "side": "low"}
    for head in ("countersunk", "pan") if sunk else ("pan",):
        fine = [s for s in SCREWS[head].rows if CLEARANCE[s[1:]][0] <= across + CONTACT and SCREWS[head].head(s)[0] > across]
        if fine:
            return {"head": head, "size": max(fine, key=diameter_of), "side": "low"}
    return {"head": "pan", "size": "M2", "side": "low"}
