"""Independent copies: a mirror's or a row's copies made into boards of their own, which no longer stay in step with their originals."""

from __future__ import annotations

from typing import Any

from zygon.design.features import Bore
from zygon.design.layout_operations import fresh_key, fresh_name, remove_copy
from zygon.design.parts.kinds import PlateKind, is_framed, is_hardware, is_plate
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing
from zygon.edits.askew_bores import askew_bores, is_askew
from zygon.edits.independent_round import mirrored_round, moved_references
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.making.blanks.instances import spared_by
from zygon.making.result.built import Built, BuiltJoint, FlatPart, MadePart
from zygon.measure.display import exact_length
from zygon.measure.entry import Entry
from zygon.owner import bore_id, copy_id, feature_id, joint_id
from zygon.stock.hardware.catalogue import by_designation
from zygon.tolerance import EPS

__all__ = ["make_independent"]


def make_independent(built: Built, key: str) -> tuple[str, Patch]:
    """Label and patch that put boards of their own, with all their features and joints, in place of a copy.

    Raises DocumentError for copies that are turned, of groups, or copied again: their boards have no place along the axes to be written down.
    """
    document = built.document
    copy = document.copies.get(key)
    if copy is None:
        raise DocumentError(f"There is no copy with the key {key!r}", entry=f"/copies/{key}", value=key, rule="a copy of the design")
    made = [p for p in built.made.values() if p.made_by and p.made_by[-1][0] == key]
    again = any(copy_id(key) in c.of for c in document.copies.values())
    if again or not made or not all(_can_be_written(p) for p in made):
        rule = "a mirror, row or grid of boards that stand along the axes, outside groups, are not copied again, are no mirror images of folded parts, hinges and slides, and lie on no lines of a frame"
        said = f"{copy.name} cannot be made independent: it has to be {rule}"
        raise DocumentError(said, entry=f"/copies/{key}", value=copy.name, rule=rule)
    own_names = set(getattr(copy, "names", {}).values())
    names: dict[str, str] = {}
    keys: dict[str, str] = {}
    for part in made:
        # a handed copy keeps the name that entries use
        names[part.key] = part.path if part.path in own_names else fresh_name(document, part.path.replace(".", "_"), set(names.values()))
        keys[part.key] = fresh_key({**document.parts, **dict.fromkeys(keys.values())}, names[part.key])
    patch = remove_copy(document, key)[1]
    axis = copy.axis if copy.kind == "mirror" else ""
    last = max(p.order for p in document.parts.values()) + 1
    for n, part in enumerate(made):
        record = {**_record(built, part, axis, names[part.key]), "name": names[part.key], "order": last + n}
        patch.append({"op": "add", "path": pointer("parts", keys[part.key]), "value": record})
    return f"Make {copy.name} independent", [*patch, *_joints(built, keys, axis), *_bores(built, keys)]


def _can_be_written(part: MadePart) -> bool:
    """Whether a copy is moved or mirrored and no more: a turn, also a half one, has no place in the record of a board."""
    record = part.record
    if is_framed(record):  # it would need a frame of its own
        return False
    ways = [part.place.rows[i][i] for i in range(3)]
    along = all(abs(w) > 1 - EPS for w in ways) and sum(w < 0 for w in ways) < 2
    if is_plate(record) and record.folding and part.place.handed < 0:  # its flanges would have to stand on other edges
        return False
    if is_hardware(record) and part.place.handed < 0 and (record.shape or by_designation(record.designation).leaves):
        return False  # nothing of its record says that it is a mirror image
    return len(part.made_by) == 1 and not record.group and not record.turns and along


def _joints(built: Built, keys: dict[str, str], axis: str) -> Patch:
    """The copies of joints at boards that are now on their own, as joints of their own."""
    document, patch = built.document, []
    joints: dict[str, Any] = {**document.joints}
    for joint in built.joints.values():
        record = document.joints[joint.key].model_dump(mode="json", exclude_none=True)
        for pair in joint.copies:
            a, b = (keys.get(x, x) for x in pair)
            spared = any(joint_id(joint.key) in _spared(built, x) for x in pair)
            if joint.refused or spared or not keys.keys() & set(pair) or "@" in a + b:
                continue
            new = fresh_key(joints, f"{a}-{b}")
            joints[new] = True
            value = {**_mirrored_joint(record, joint, built, axis), "a": a, "b": b, "order": len(joints)}
            patch.append({"op": "add", "path": pointer("joints", new), "value": value})
    return patch


def _bores(built: Built, keys: dict[str, str]) -> Patch:
    """The copies' bores: boards on a bore's own axis are added to it, those beside it get one of their own through what stays too."""
    document, patch = built.document, []
    bores: dict[str, Any] = {**document.bores}
    names = {b.name for b in document.bores.values()}
    for key, bore in document.bores.items():
        if bore.member:  # its member's copies are let through where they are; what is set free gets no bore for it
            continue
        if is_askew(bore):
            if not bore.out:
                through = [k for k in keys if built.parts[k].of in bore.parts and bore_id(key) not in _spared(built, k)]
                patch += askew_bores(built, keys, key, through, bores, names)
            continue
        places: dict[tuple[tuple[str, float], ...], list[str]] = {}
        at = {a: built.values[pointer("bores", key, "at", a)].value for a in AXES if a != bore.axis and not bore.out}
        ends_at = {
            n: built.values[pointer("bores", key, n)].value for n in ("low", "high") if getattr(bore, n) is not None and not bore.out
        }
        own = tuple((n, round(x, 6)) for n, x in (*at.items(), *ends_at.items()))
        through = [k for k in keys if built.parts[k].of in bore.parts and bore_id(key) not in _spared(built, k)]
        for copied in through if at else []:
            place = {a: round(_moved(built.made[copied], a, x), 6) for a, x in at.items()}
            place |= _moved_ends(built.made[copied], bore.axis, ends_at)
            places.setdefault(tuple(place.items()), []).append(copied)
        for spot, copied_there in places.items():
            ends = {keys[k]: bore.parts[built.parts[k].of].model_dump(mode="json") for k in copied_there}
            if spot == own and bore.owned_by_set is None:  # a set on one axis with another is one of its own
                patch += [{"op": "add", "path": pointer("bores", key, "parts", part), "value": end} for part, end in ends.items()]
                continue
            moved = {a: x for a, x in spot if a in AXES}
            ends |= {k: end.model_dump(mode="json") for k, end in bore.parts.items() if _stays_under(built, keys, k, moved)}
            name = fresh_name(document, bore.name[:36], names)
            names.add(name)
            new = fresh_key(bores, name)
            bores[new] = {
                **bore.model_dump(mode="json"),
                **_turned_set(bore, built.made[copied_there[0]]),
                "name": name,
                "at": {a: _entry(built, x) for a, x in moved.items()},
                **{n: _entry(built, x) for n, x in spot if n not in AXES},
                "parts": ends,
                "order": len(bores),
            }
            patch.append({"op": "add", "path": pointer("bores", new), "value": bores[new]})
    return patch


def _turned_set(bore: Bore, part: MadePart) -> dict[str, Any]:
    """The set and the rows of a bore where its copy looks the other way along an axis: the head at the other end, the row the other way."""
    turned = {
        a: {"number": r.number.model_dump(mode="json"), "spacing": _against(r.spacing)}
        for a, r in bore.rows.items()
        if part.place.rows[AXES.index(a)][AXES.index(a)] < 0
    }
    rows = {"rows": {**bore.model_dump(mode="json")["rows"], **turned}} if turned else {}
    if bore.hardware is None:
        return rows
    i = AXES.index(bore.axis)
    return {**rows, "hardware": bore.hardware.turned(part.place.rows[i][i] < 0).model_dump(mode="json", exclude_none=True)}


def _against(spacing: Entry) -> dict[str, str]:
    """A spacing the other way."""
    return {"text": f"-({spacing.text})", "unit": spacing.unit}


def _moved_ends(part: MadePart, axis: str, ends: dict[str, float]) -> dict[str, float]:
    """Where the ends of a bore come to lie with a copy; mirrored along its axis, the low one becomes the high one."""
    i = AXES.index(axis)
    names = {"low": "high", "high": "low"} if part.place.rows[i][i] < 0 else {"low": "low", "high": "high"}
    found = {names[n]: round(_moved(part, axis, x), 6) for n, x in ends.items()}
    return {n: found[n] for n in ("low", "high") if n in found}


def _stays_under(built: Built, keys: dict[str, str], part: str, at: dict[str, float]) -> bool:
    """Whether a bore's board was not copied and lies under a copy of the bore."""
    box = built.made[part].span_box if part in built.made else None
    if box is None or part in {built.parts[k].of for k in keys}:
        return False
    return all(box.span(a)[0] < x < box.span(a)[1] for a, x in at.items())


def _spared(built: Built, key: str) -> frozenset[str]:
    """What an instance does without; a copy that is now on its own does not get it either."""
    return spared_by(built.document, key, built.parts[key].made_by)


def _mirrored_joint(record: dict[str, Any], joint: BuiltJoint, built: Built, axis: str) -> dict[str, Any]:
    """A joint's record with low and high exchanged where they lie along the axis that is mirrored."""
    found = dict(record)
    swap = {"low": "high", "high": "low", "open_low": "open_high", "open_high": "open_low"}
    first = built.flats.get(joint.a)
    if first and axis == first.frame.normal and "keeps" in found:
        found["keeps"] = swap[found["keeps"]]
    if axis and axis == joint.axis:
        for field in ("side", "ends"):
            found[field] = swap.get(found.get(field, ""), found.get(field))
        if joint.kind == "finger" and len(joint.fingers) % 2 == 0:
            found["starts"] = "b" if found["starts"] == "a" else "a"
        run = exact_length(joint.run[1] - joint.run[0], built.document.unit)
        for tab in found.get("tabs", {}).values():
            tab["at"] = {**tab["at"], "text": f"{run} - ({tab['at']['text']})"}
    return {k: v for k, v in found.items() if v is not None}


def _record(built: Built, part: MadePart, axis: str, name: str) -> dict[str, Any]:
    """A copy's record written down: its place in numbers, what is worked into it moved with it, and mirrored along ``axis`` ('' for none)."""
    record, original = part.record, built.made[part.of]
    data = record.model_dump(mode="json", exclude_none=True)
    for end in record.ends():
        low, high = sorted(_moved(part, end.axis, x) for x in original.span_box.span(end.axis))
        held = data
        centred = end.face == "centre" or is_hardware(record)
        for step in end.where[:-1]:
            held = held[step]
        held[end.where[-1]] = _entry(built, (low + high) / 2 if centred else high if end.side == "high" else low)
    if is_hardware(record):
        data["by"] = dict.fromkeys(data["at"], "centre")
        for field in ("looks", "along"):
            if axis and data[field][1] == axis:
                data[field] = ("-" if data[field][0] == "+" else "+") + axis
        return data
    if part.key in built.flats:
        return _worked(built, built.flats[part.key], data, axis, name)
    return mirrored_round(built, part, data, axis, name)


def _worked(built: Built, part: FlatPart, data: dict[str, Any], axis: str, name: str) -> dict[str, Any]:
    """The record of a copy that lies in a plane, with its features, outline and upper face."""
    board = part.record
    normal = part.frame.normal
    low = min(_moved(part, normal, x) for x in built.flats[part.of].span_box.span(normal))
    data["position"] = {"face": FACES[normal][0], "at": _entry(built, low)}
    spared = _spared(built, part.key)
    kept = {k: f for k, f in data["features"].items() if feature_id(part.of, k) not in spared}
    data["features"] = {k: _feature(built, part, k, f, axis) for k, f in kept.items()}
    if axis == normal:
        data["up"] = "b" if board.up == "a" else "a"
    elif axis and "outline" in data:
        data["outline"] = _mirrored_outline(data["outline"], part, axis)
    outline = pointer("parts", part.of, "outline", "drawing")
    if data.get("outline", {}).get("kind") == "free":
        data["outline"] = {**data["outline"], "drawing": _drawing(built, part, name, data["outline"]["drawing"], axis, outline)}
    for key, f in data["features"].items():
        if f["kind"] == "shape":
            at = pointer("parts", part.of, "features", key, "drawing")
            data["features"][key] = {**f, "drawing": _drawing(built, part, name, f["drawing"], axis, at)}
    _profiles(built, part, data, name)
    return data


def _drawing(built: Built, part: FlatPart, name: str, drawing: dict[str, Any], axis: str, where: str) -> dict[str, Any]:
    """A drawing on the copy: mirrored along ``axis`` where that lies in its plane; its own sides stay those, what else it refers to is a figure."""
    frame, box = frame_of(part.record.plane), part.span_box
    made = Drawing.model_validate(drawing)
    if axis in (frame.u, frame.v):
        made = made.mirrored("x" if axis == frame.u else "y", box.span(axis)[1] - box.span(axis)[0])
    return moved_references(built, part, name, made, axis, where, (frame.u, frame.v))


def _profiles(built: Built, part: FlatPart, data: dict[str, Any], name: str) -> None:
    """The profiles that are drawn on a folded part's edges, whose places in the room go along."""
    folding = part.record.folding
    for key, flange in folding.flanges.items() if folding else ():
        if flange.kind == "drawn":
            where = pointer("parts", part.of, "folding", "flanges", key, "drawing")
            run = next((a for a in AXES if flange.edge not in FACES[a] and a != part.frame.normal), "")
            ways = tuple(a for a in AXES if a != run)
            ways = (ways[0], ways[1]) if len(ways) == 2 else ("", part.frame.normal)
            data["folding"]["flanges"][key]["drawing"] = moved_references(built, part, name, flange.drawing, "", where, ways)


def _mirrored_outline(outline: dict[str, Any], part: FlatPart, axis: str) -> dict[str, Any]:
    """An outline's record mirrored along one of the board's two axes; a disc and a ring are their own mirror images."""
    frame, box = frame_of(part.record.plane), part.span_box
    if outline["kind"] == "link":
        (u0, u1), (v0, v1) = box.span(frame.u), box.span(frame.v)
        if axis == (frame.u if u1 - u0 >= v1 - v0 else frame.v):
            swap = {"low": "high", "high": "low", "bore_low": "bore_high", "bore_high": "bore_low"}
            return {swap.get(k, k): v for k, v in outline.items()}
    if outline["kind"] == "drawn":
        ku, kv = (-1 if axis == frame.u else 1), (-1 if axis == frame.v else 1)

        def turned(loop: list[list[float]]) -> list[list[float]]:
            return [[ku * x, kv * y, -bulge] for x, y, bulge in loop]

        return {**outline, "outer": turned(outline["outer"]), "inner": [turned(loop) for loop in outline["inner"]]}
    return outline


def _entry(built: Built, value: float) -> dict[str, str]:
    return {"text": exact_length(value, built.document.unit).strip("()"), "unit": built.document.unit}


def _moved(part: MadePart, axis: str, value: float) -> float:
    """Where a place along an axis comes to lie with a copy."""
    i = AXES.index(axis)
    return part.place.rows[i][i] * value + part.place.rows[i][3]


def _feature(built: Built, part: FlatPart, key: str, feature: dict[str, Any], axis: str) -> dict[str, Any]:
    """A feature's record on the copy: places in the room moved along, and all that runs along ``axis`` turned round."""
    board = part.record
    frame = frame_of(board.plane)
    found = dict(feature)

    def in_room(along: str, *path: str) -> dict[str, str]:
        value = built.values[pointer("parts", part.of, "features", key, *path)].value
        return _entry(built, _moved(part, along, value))

    for name in ("u", "v"):
        if feature[name]["origin"] == "room":
            found[name] = {**feature[name], "offset": in_room(getattr(frame, name), name, "offset")}
    if feature["kind"] == "trim":
        found["at"] = in_room(feature["axis"], "at")
    return _turned_round(found, board, axis) if axis else found


def _turned_round(feature: dict[str, Any], board: PlateKind, axis: str) -> dict[str, Any]:
    swap = dict(zip(FACES[axis], reversed(FACES[axis]), strict=True))
    frame, found = frame_of(board.plane), dict(feature)
    for field in ("edge", "face"):
        if field in feature:
            found[field] = swap.get(feature[field], feature[field])
    if feature.get("corner", "all") != "all":
        found["corner"] = "-".join(swap.get(w, w) for w in feature["corner"].split("-"))
    if feature["kind"] == "trim" and feature["axis"] == axis:
        found["side"] = "low" if feature["side"] == "high" else "high"
    for name in ("u", "v"):
        if getattr(frame, name) != axis:
            continue
        spot = feature[name]
        if spot["origin"] in swap:
            found[name] = {**spot, "origin": swap[spot["origin"]]}
        elif spot["origin"] != "room":  # from a middle: to the other side of it
            found[name] = {**spot, "offset": {**spot["offset"], "text": f"-({spot['offset']['text']})"}}
        if "angle" in feature:
            found["angle"] = {**feature["angle"], "text": f"-({feature['angle']['text']})"}
    if "edge" in feature and feature["edge"] not in swap and axis in (frame.u, frame.v):  # the edge runs along the axis
        for low, high in (("low", "high"), ("stop_low", "stop_high")):
            if low in feature and high in feature:
                found[low], found[high] = feature[high], feature[low]
    return found
