"""A set along a bore, as it begins: what is usual for what the bore passes, or what was found in the catalogue."""

from __future__ import annotations

import re
from typing import Any

from zygon.design.document import Document
from zygon.design.features import Bore, Hole, Spot
from zygon.design.hardware import HardwareSet, OwnHardware
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_placed, is_plate
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES
from zygon.making.asked.questions import parts_along
from zygon.making.asked.stacks import behind
from zygon.making.flats.face_words import face_word
from zygon.making.result.built import Built, FlatPart
from zygon.measure.entry import Entry
from zygon.stock.engagement import is_wooden
from zygon.stock.hardware.catalogue import FAMILIES, by_designation
from zygon.stock.hardware.nuts import washer_size
from zygon.stock.hardware.price_list import read_hardware
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.threads import METRIC, diameter_of
from zygon.stock.hardware.wood import PILOT

__all__ = ["put_hardware", "screw_in_hole", "take_list", "usual_set"]

#: A screw in the edge of a board has a pilot hole of at most this share of its thickness.
EDGE = 0.5
#: What a bore without a usual diameter takes.
USUAL = "M5"


def put_hardware(built: Built, bore: str, designation: str) -> tuple[str, Patch]:
    """Label and patch by which a bore has a set: the usual one, or with the piece of a designation in it, whose other pieces then are of its size.

    Raises DocumentError for a bore or a piece that is not there, or a piece that no set has.
    """
    document = built.document
    record = document.bores.get(bore)
    if record is None:
        raise DocumentError(f"There is no bore with the key {bore!r}", entry="bore", value=bore, rule="a bore of the design")
    before = record.hardware
    said = before.model_dump(mode="json", exclude_none=True) if before else _usual_of(built, bore, record)
    label = f"Hardware along {record.name}"
    if designation:
        said = {**said, **_with(said, designation)}
        label = f"{by_designation(designation).name} along {record.name}"
    checked = HardwareSet.model_validate(said)
    found = checked.own_fault()
    if found:
        field, value, rule = found
        raise DocumentError(f"{record.name}: {rule}", entry=field, value=value, rule=rule, code="bad_hardware")
    patch: Patch = [{"op": "add", "path": pointer("bores", bore, "hardware"), "value": checked.model_dump(mode="json", exclude_none=True)}]
    return label, [*patch, *_drilled(built, bore, record, checked)]


def _with(said: dict[str, Any], designation: str) -> dict[str, Any]:
    """The fields of a set that has a piece in it; what else is in it becomes of its size."""
    try:
        h = by_designation(designation)
    except KeyError:
        rule = "a piece of the catalogue by its designation"
        raise DocumentError(f"There is no hardware called {designation!r}", entry="designation", value=designation, rule=rule) from None
    role = FAMILIES[h.family].role
    metric = said["head"] == "none" or (said["head"] in SCREWS and SCREWS[said["head"]].thread == "metric")
    if role in ("screw", "rivet"):
        return {"head": h.family, "size": h.size, "length": None, **_made_in(said, h.size)}
    if role not in ("nut", "washer", "insert") or not metric:
        rule = "screws, rivets, nuts, washers, inserts and rivet nuts lie along a bore"
        raise DocumentError(f"{h.name} is no part of a set", entry="designation", value=designation, rule=rule)
    fields = {
        "nut": {"nut": h.family, "into": "nut"},
        "washer": {"washer": h.family, "nut_washer": h.family},
        "insert": {"into": h.family},
    }[role]
    head = said["head"] if h.size in (SCREWS[said["head"]].rows if said["head"] in SCREWS else METRIC) else "socket"
    return {**_made_in(said, h.size), "head": head, "size": h.size, "length": None, **fields}


def _made_in(said: dict[str, Any], size: str) -> dict[str, Any]:
    """Washers and nuts of a set that are made in a size; those that are not are left away."""
    washers = {
        f: said[f] for f in ("washer", "nut_washer") if said.get(f, "none") != "none" and washer_size(size) in FAMILIES[said[f]].rows
    }
    nut = said.get("nut", "hexagon_nut")
    return {"washer": "none", "nut_washer": "none", **washers, "nut": nut if size in FAMILIES[nut].rows else "hexagon_nut"}


def _usual_of(built: Built, key: str, bore: Bore) -> dict[str, Any]:
    diameter = (
        built.values[pointer("bores", key, "diameter")].value if pointer("bores", key, "diameter") in built.values else diameter_of(USUAL)
    )
    if bore.member:
        return {"head": "none", "size": _size_for(diameter), "side": "low", "nut_washer": "plain_washer"}
    met = [m for m in _met(built.document, bore) if m["part"] not in bore.parts or bore.parts[m["part"]].action in ("cut", "drill")]
    return usual_set(built, met, "high", diameter)


def _met(document: Document, bore: Bore) -> list[dict[str, str]]:
    at: dict[str, dict[str, str]] = {a: e.model_dump() for a, e in bore.at.items()}
    lean, toward = (None if e is None else e.model_dump() for e in (bore.lean, bore.toward))
    return parts_along(document, bore.axis, at, of=bore.of, lean=lean, toward=toward, parts=tuple(bore.parts))


def usual_set(built: Built, met: list[dict[str, str]], side: str, diameter: float) -> dict[str, Any]:
    """What is usual for a bore of a diameter (mm) through what it meets, low end first, with the head at a side: a wood screw into an edge, else a screw with its nut,
    on washers where it bears on wood."""
    order = met if side == "low" else met[::-1]
    if order and order[0]["how"] == "edge":
        order, side = order[::-1], "high" if side == "low" else "low"
    document = built.document
    last = order[-1] if order else None
    if last and len(order) > 1 and last["how"] == "edge":
        thick = built.flats[last["part"]].flat.thickness if last["part"] in built.flats else 0.0
        sizes = [s for s, pilot in PILOT.items() if pilot <= EDGE * thick]
        size = min(sizes, key=lambda s: (diameter_of(s) > diameter, abs(diameter_of(s) - diameter)), default="3")
        return {"head": "wood", "size": size, "side": side}
    size = _size_for(diameter)

    def washer(part: str) -> str:
        record = document.parts[part]
        wooden = is_placed(record) and record.stock and is_wooden(document.stock_of(record))
        return "plain_washer" if wooden else "none"

    ends = [order[0]["part"], order[-1]["part"]] if order else []
    return {"head": "socket", "size": size, "side": side, **({"washer": washer(ends[0]), "nut_washer": washer(ends[1])} if ends else {})}


def _size_for(diameter: float) -> str:
    """The thickest metric thread that goes through a hole; the thinnest where none does."""
    return max(
        (s for s in METRIC if METRIC[s] and diameter_of(s) <= diameter + 0.05 and s in SCREWS["socket"].rows), key=diameter_of, default="M2"
    )


def _drilled(built: Built, key: str, bore: Bore, said: HardwareSet) -> Patch:
    """The last part is drilled by its edge, where it was left alone."""
    patch: Patch = []
    for m in _met(built.document, bore) if not bore.member else ():
        through = bore.parts.get(m["part"])
        if (
            said.holds_by == "wood"
            and m["how"] == "edge"
            and (through is None or through.action == "leave")
            and is_plate(built.document.parts[m["part"]])
        ):
            value = {"action": "drill", "fit": entry_of(built.document, "0")}
            patch.append({"op": "add", "path": pointer("bores", key, "parts", m["part"]), "value": value})
    return patch


def take_list(document: Document, text: str) -> tuple[str, Patch]:
    """Label and patch by which a design knows the prices of a shop's list, and the pieces of it that are in no catalogue. Raises DocumentError as ``read_hardware``."""
    own, prices = dict(document.hardware.own), dict(document.hardware.prices)
    known = 0
    for row in read_hardware(text):
        designation = row.known or row.designation
        if row.price is not None:
            prices[designation] = row.price
        if row.known:
            known += 1
        else:
            own[designation] = OwnHardware(name=row.name, mass=row.mass)
    new = len(own.keys() - document.hardware.own.keys())
    label = f"A list of hardware: {known} of the catalogue, {new} of the shop's own"
    return label, [
        {"op": "add", "path": "/hardware/prices", "value": prices},
        {"op": "add", "path": "/hardware/own", "value": {k: o.model_dump(mode="json", exclude_none=True) for k, o in own.items()}},
    ]


def screw_in_hole(built: Built, part: str, feature: str) -> tuple[str, Patch]:
    """Label and patch by which a round hole of a board becomes a bore in its place, in its rows, through what lies against the board, with the usual set along it.

    Raises DocumentError where it is no such hole, or where no bore can say where it lies.
    """
    document = built.document
    record, made = document.parts.get(part), built.flats.get(part)
    hole = record.features.get(feature) if is_plate(record) else None
    if not is_plate(record) or made is None or not isinstance(hole, Hole):
        raise DocumentError(
            "A screw goes into a round hole of a board", entry="feature", value=f"{part}/{feature}", rule="a hole of the design"
        )
    said = hole.name or "hole"
    if hole.depth is not None:
        raise DocumentError(
            f"{said} is blind", entry="feature", value=feature, rule="a screw goes through what it holds: make the hole straight through"
        )
    at: dict[str, dict[str, str]] = {}
    rows: dict[str, dict[str, Any]] = {}
    for way, (number, spacing) in (("u", (hole.number, hole.spacing)), ("v", (hole.rows, hole.apart))):
        axis = getattr(made.frame, way)
        at[axis], row = _along(document, made, axis, getattr(hole, way), number, spacing, doubled=hole.mirrored in (way, "both"), said=said)
        if row:
            rows[axis] = row
    axis = made.frame.normal
    of = part if not made.place.shifts else ""
    face = hole.face or face_word(made, record.up)
    side = "high" if face == FACES[axis][1] else "low"
    diameter = built.values[pointer("parts", part, "features", feature, "diameter")].value
    found = behind(document, part, axis, at, side, of, before=True)
    hardware = usual_set(built, found.met, side, diameter)
    names = {b.name for b in document.bores.values()}
    name = fresh_name(document, re.sub(r"\W+", "_", said), names)
    through = {
        m["part"]: {"action": "drill" if m["how"] == "edge" else "cut", "fit": entry_of(document, "0")}
        for m in found.met
        if m["how"] != "edge" or hardware["head"] == "wood"
    }
    key = fresh_key(document.bores, name)
    bore = {
        "name": name,
        "axis": axis,
        "of": of,
        "at": at,
        "rows": rows,
        "order": next_order(document.bores),
        "diameter": hole.diameter.model_dump(mode="json"),
        "parts": through,
        "hardware": hardware,
    }
    return f"{said} takes a screw", [
        {"op": "remove", "path": pointer("parts", part, "features", feature)},
        {"op": "add", "path": pointer("bores", key), "value": bore},
    ]


def _along(
    document: Document, part: FlatPart, axis: str, spot: Spot, number: Entry | None, spacing: Entry | None, *, doubled: bool, said: str
) -> tuple[dict[str, str], dict[str, Any] | None]:
    """Where a hole lies along an axis as a bore says it, and its row there."""
    low, high = (f"{part.path}.{word}" for word in FACES[axis])
    far = spot.origin == FACES[axis][1]
    text, unit = spot.offset.text, spot.offset.unit
    if spot.origin in FACES[axis]:
        place = f"{high if far else low} {'-' if far else '+'} ({text})"
    elif spot.origin == "centre":
        place = f"mid({low}, {high}) + ({text})"
    elif spot.origin == "room":
        place = text
    else:
        rule = "a place from an edge, from the middle or in the room, which a bore can say too"
        raise DocumentError(f"{said} is placed from the {spot.origin}", entry="feature", value=spot.origin, rule=rule)
    if doubled and number is not None:
        raise DocumentError(
            f"{said} is in a row, and there once more on the other half", entry="feature", value="mirrored", rule="one or the other"
        )
    if doubled:
        if spot.origin == "room":
            raise DocumentError(
                f"{said} is placed in the room and mirrored",
                entry="feature",
                value="mirrored",
                rule="a place from an edge or from the middle",
            )
        apart = f"2 * ({text})" if spot.origin == "centre" else f"{high} - {low} - 2 * ({text})"
        apart = f"-({apart})" if far or spot.origin == "centre" else apart
        return {"text": place, "unit": unit}, {"number": {"text": "2", "unit": unit}, "spacing": {"text": apart, "unit": unit}}
    if number is None:
        return {"text": place, "unit": unit}, None
    if spacing is None or spacing.unit != unit:
        raise DocumentError(
            f"{said} is in a row without a spacing", entry="feature", value=number.text, rule="a spacing, in the unit of its place"
        )
    if spot.origin == "centre":
        place = f"{place} - (({number.text}) - 1) * ({spacing.text}) / 2"
    step = f"-({spacing.text})" if far else spacing.text
    return {"text": place, "unit": unit}, {"number": number.model_dump(mode="json"), "spacing": {"text": step, "unit": unit}}
