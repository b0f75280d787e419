"""Where a face is pressed: an axle through all that stands in its way with the holes for it, or a bore alone, as one edit."""

from __future__ import annotations

import numpy as np

from zygon.design.document import Document
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.edits.hardware import usual_set
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, across, axis_of_face
from zygon.making.asked.questions import parts_along
from zygon.making.asked.stacks import behind
from zygon.making.datums.solving import solve
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built, FlatPart
from zygon.making.rooms.named import figure, named_places, written
from zygon.tolerance import EPS

__all__ = ["place_axle", "place_bore"]

#: What a bore begins with, until it is said otherwise.
DIAMETER = {"mm": "8 mm", "in": "5/16 in"}
#: What a screw begins with (mm).
SCREW = 5.0
#: What a shaft has in its hole to turn in, as common practice has it.
RUNS = {"mm": "0.2 mm", "in": "0.008 in"}


def place_axle(
    built: Built, stock: str, part: str, face: str, at: tuple[float, float, float], *, catch: float = 0.0, step: float = 1.0
) -> tuple[str, Patch]:
    """Label and patch of a rod of a bar ``stock`` that is square to a part's ``face`` at a point of it (mm), through every board that lies across its line.

    Its place is the middle of the face along each axis where that is within ``catch`` mm, else so far from the face's low end, in whole ``step``s.
    Raises DocumentError where there is no such bar, or nothing lies across.
    """
    document = built.document
    record = document.stocks.get(stock)
    if record is None or record.kind != "bar":
        raise DocumentError("An axle is cut from a bar of this design", entry="stock", value=stock, rule="a bar stock of the design")
    pressed = built.flats.get(part)
    axis = next((a for a in AXES if face in FACES[a]), None)
    if pressed is None or axis is None:
        raise DocumentError("An axle stands square to the face of a board", entry="face", value=f"{part}.{face}", rule="a face of a board")
    if pressed.place.square:  # a part that is turned by quarters keeps its words, and looks another way
        ways = pressed.place.vector([float(a == axis) for a in AXES])
        axis = AXES[max(range(3), key=lambda i: abs(ways[i]))]
    values = solve(document, built.good, leg_face)
    point = dict(zip(AXES, at, strict=True))
    places: dict[str, float] = {}
    entries: dict[str, dict[str, str]] = {}
    for other in (a for a in AXES if a != axis):
        named = {p.text: p.value for p in named_places(values, other)}
        places[other], text = _place(pressed, named, other, point[other], catch, step, document.unit)
        entries[other] = entry_of(document, text)
    k = AXES.index(axis)
    met = sorted((p for p in built.flats.values() if _across(p, axis, places)), key=lambda p: p.reaches[0][k])
    if not met:
        rule = "a board that lies across it"
        raise DocumentError("Nothing holds the axle there", entry="at", value=list(at), rule=rule)
    along = named_places(values, axis)
    ends = [(met[0], met[0].reaches[0][k]), (met[-1], met[-1].reaches[1][k])]
    low, high = (entry_of(document, written(along, value, document.unit, p.key)) for p, value in ends)
    name = fresh_name(document, "axle")
    bore_name = fresh_name(document, f"{name}_hole", {b.name for b in document.bores.values()})
    key = fresh_key(document.parts, name)
    rod = {
        "kind": "rod",
        "name": name,
        "stock": stock,
        "axis": axis,
        "at": entries,
        "order": next_order(document.parts),
        "span": {"low": low, "high": high},
    }
    # what is not round turns in round holes
    hole = {"action": "cut", "fit": entry_of(document, RUNS[document.unit]), **({"round": True} if record.shape != "round" else {})}
    bore = {
        "name": bore_name,
        "axis": axis,
        "member": key,
        "at": {},
        "order": next_order(document.bores),
        "diameter": _thick(document, built, stock),
        "parts": {p.of: hole for p in met},
    }
    through = f"{len(met)} boards" if len(met) > 1 else met[0].path
    return f"{name.capitalize()} through {through}", [
        {"op": "add", "path": pointer("parts", key), "value": rod},
        {"op": "add", "path": pointer("bores", fresh_key(document.bores, bore_name)), "value": bore},
    ]


def place_bore(
    built: Built, part: str, face: str, at: tuple[float, float, float], *, catch: float = 0.0, step: float = 1.0, screw: bool = False
) -> tuple[str, Patch]:
    """Label and patch of a bore square to a part's ``face`` at a point of it (mm), through all that lies behind or before it.

    What it meets square is cut, what it meets at an angle drilled along it; what it would enter by an edge is left alone. Where the part
    stands askew, the bore runs along the part's own axes and its places are said from the part's own ends. ``catch`` and ``step`` as for
    ``place_axle``. With ``screw`` it has the usual set along it, its head on the face; a board that it would enter by an edge is then drilled. Of a copy that stands askew it is the original that is bored. Raises DocumentError where the face is none of a board's.
    """
    document = built.document
    pressed = built.flats.get(part)
    named_face = face
    if pressed is not None and "." in face:
        face = _word_of_leg(built, pressed, face)
    axis = next((a for a in AXES if face in FACES[a]), None)
    if pressed is None or axis is None:
        raise DocumentError("A bore begins at the face of a board", entry="face", value=f"{part}.{face}", rule="a face of a board")
    askew = any(abs(pressed.place.rows[i][i]) < 1 - EPS for i in range(3))
    if askew and pressed.made_by:  # what is done to a copy is done to its original, in the copy's hand
        own = built.flats[pressed.of]
        at = own.place.point(pressed.place.inverse.point(at))
        face = across(face, pressed.mirrored)
        axis, pressed = axis_of_face(face), own
    values = solve(document, built.good, leg_face)
    point = dict(zip(AXES, pressed.place.inverse.point(at) if askew else at, strict=True))
    entries: dict[str, dict[str, str]] = {}
    for other in (a for a in AXES if a != axis):
        if askew:
            named = dict(zip((f"{pressed.path}.{word}" for word in FACES[other]), pressed.span_box.span(other), strict=True))
        else:
            named = {p.text: p.value for p in named_places(values, other)}
        entries[other] = entry_of(document, _place(pressed, named, other, point[other], catch, step, document.unit)[1])
    of = pressed.of if askew else ""
    through = {}
    ends: dict[str, dict[str, str]] = {}
    side = "high" if face == FACES[axis][1] else "low"
    if screw:
        found = behind(document, pressed.of, axis, entries, side, of)
        along, hardware = found.met, usual_set(built, found.met, side, SCREW)
        if found.until is not None:
            ends = {
                "low" if side == "high" else "high": entry_of(
                    document, f"{pressed.path}.{named_face} {'-' if side == 'high' else '+'} {figure(found.until, document.unit)}"
                )
            }
    else:
        along, hardware = parts_along(document, axis, entries, of=of), None
    for met in along:
        if met["how"] == "edge" and not (hardware and hardware["head"] == "wood"):
            continue
        folded = getattr(document.parts[met["part"]], "folding", None) is not None
        action = "cut" if met["how"] == "square" or (folded and met["how"] != "edge") else "drill"
        through[met["part"]] = {"action": action, "fit": entry_of(document, "0")}
    name = fresh_name(document, "bore", {b.name for b in document.bores.values()})
    record = {
        "name": name,
        "axis": axis,
        "of": of,
        "at": entries,
        "order": next_order(document.bores),
        "diameter": entry_of(document, DIAMETER[document.unit]),
        "parts": through,
        **ends,
        **({"hardware": hardware} if hardware else {}),
    }
    return f"Bore square to {pressed.path}.{named_face}", [
        {"op": "add", "path": pointer("bores", fresh_key(document.bores, name)), "value": record}
    ]


def _word_of_leg(built: Built, part: FlatPart, face: str) -> str:
    """The word of the way in which a flange's face looks, as ``flange.outer`` does. Raises DocumentError where it looks along no axis, or is a copy's."""
    rule = "a face of a flange that lies square to an axis, of an original that is not turned"
    flange, _, side = face.rpartition(".")
    if part.made_by or not part.place.shifts or side not in ("inner", "outer"):
        raise DocumentError(f"No bore begins at {part.path}.{face}", entry="face", value=face, rule=rule)
    values = solve(built.document, built.good, leg_face)
    try:
        corner, along, up = part.place.points(values.leg_face(part.key, flange, side))
        other = part.place.points(values.leg_face(part.key, flange, "outer" if side == "inner" else "inner"))[0]
    except KeyError as error:
        raise DocumentError(f"No bore begins at {part.path}.{face}: {error.args[0]}", entry="face", value=face, rule=rule) from None
    normal = np.cross(along - corner, up - corner)
    normal = normal / np.linalg.norm(normal)
    i = int(np.abs(normal).argmax())
    if abs(normal[i]) < 1 - EPS:
        raise DocumentError(f"{part.path}.{face} slopes here", entry="face", value=face, rule=rule)
    return FACES[AXES[i]][int((corner - other) @ np.eye(3)[i] > 0)]


def _thick(document: Document, built: Built, stock: str) -> dict[str, str]:
    """The rod's diameter, as it was measured where that is known."""
    found = built.values.get(pointer("stocks", stock, "measured")) or built.values[pointer("stocks", stock, "nominal")]
    return entry_of(document, figure(found.value, document.unit))


def _place(part: FlatPart, named: dict[str, float], axis: str, wanted: float, catch: float, step: float, unit: str) -> tuple[float, str]:
    """Where along an axis, and as an entry: the part's middle, or so far from its low end; from nought where its ends have no names."""
    low_name, high_name = (f"{part.path}.{face}" for face in FACES[axis])
    if low_name not in named or high_name not in named:
        at = round(wanted / step) * step
        return at, figure(at, unit)
    low, high = named[low_name], named[high_name]
    if abs(wanted - (low + high) / 2) <= catch:
        return (low + high) / 2, f"mid({low_name}, {high_name})"
    off = round((wanted - low) / step) * step
    return low + off, f"{low_name} {'-' if off < 0 else '+'} {figure(abs(off), unit)}"


def _across(part: FlatPart, axis: str, places: dict[str, float]) -> bool:
    """Whether a board lies square across the line."""
    if part.record.aside or not part.place.square:
        return False
    thin = AXES.index(axis)
    if abs(part.place.rows[thin][AXES.index(part.frame.normal)]) < 1 - EPS:
        return False
    low, high = part.reaches
    return all(low[AXES.index(a)] < x < high[AXES.index(a)] for a, x in places.items())
