"""The rule that something holds every part up, with a support or joints as its mends."""

from __future__ import annotations

from typing import Any

from zygon.build.assembly.hold import Drop, drops
from zygon.build.built import Built, BuiltPart, Fault, Mend
from zygon.build.contact import find_contact
from zygon.design.patch import pointer
from zygon.geometry.frame import FACES, frame_of
from zygon.measure.display import exact_length, format_length

__all__ = ["drop_faults"]

#: A ledge is so high (mm), where there is room.
LEDGE = 30.0
#: Faces this near (mm) stand against one another.
TOUCHES = 0.05


def drop_faults(built: Built) -> list[Fault]:
    """Parts that would drop."""
    faults = []
    display = built.document.display
    said: set[str] = set()
    for drop, with_it in _together(built, drops(built)):
        part = built.parts[drop.part]
        if part.made_by and part.of in said:
            continue  # a copy drops as its original does
        said |= {part.of, *(built.parts[k].of for k in with_it)}
        if drop.way:
            faults.append(_tips(built, part, drop))
            continue
        shown = format_length(drop.height, display)
        where = f"onto {built.parts[drop.onto].path}" if drop.onto else "to the ground"
        n = len(with_it)
        what = part.path if not n else f"{part.path} and what is joined to it ({n} more {'part' if n == 1 else 'parts'})"
        faults.append(Fault("drops", f"Nothing holds {what} up: it would drop {shown} {where}", "every part rests on something or is joined to what does", shown,
                            "geometry", "warning", drop.part, drop.onto, mends=(*_glued(built, (drop.part, *with_it)), *((*_joints(built, part), *_ledges(built, part, drop), *_support(built, part, drop)) if _upright(part) else ()))))  # fmt: skip
    return faults


def _together(built: Built, found: list[Drop]) -> list[tuple[Drop, list[str]]]:
    """What drops together, told once: the one that lands first of all that are joined, and the keys of the others."""
    falling = {d.part: d for d in found if not d.way}
    near: dict[str, set[str]] = {k: set() for k in falling}
    for joint in built.joints.values():
        for a, b in joint.pairs:
            if not joint.refused and a in near and b in near:
                near[a].add(b)
                near[b].add(a)
    told: list[tuple[Drop, list[str]]] = [(d, []) for d in found if d.way]
    left = dict.fromkeys(falling)
    while left:
        group, waiting = [], [next(iter(left))]
        while waiting:
            key = waiting.pop()
            if key in left:
                del left[key]
                group.append(key)
                waiting += near[key]
        first = min(group, key=lambda k: (falling[k].height, bool(built.parts[k].made_by), group.index(k)))
        told.append((falling[first], [k for k in group if k != first]))
    return told


def _tips(built: Built, part: BuiltPart, drop: Drop) -> Fault:
    """A part that lies on something at one side only."""
    shown = format_length(round(drop.beyond, 2), built.document.display)
    side = FACES[drop.way[0]][drop.way[1] > 0]  # type: ignore[index]
    where = {"front": "to the front", "back": "to the back"}.get(side, f"to the {side}")
    return Fault("tips", f"{part.path} tips {where}: its centre of gravity lies {shown} beyond what bears it", "what lies loose is borne under its centre of gravity, or joined",
                 shown, "geometry", "warning", drop.part, mends=_joints(built, part) if _upright(part) else ())  # fmt: skip


def _entry(text: str, unit: str) -> dict[str, str]:
    return {"text": text, "unit": unit}


def _upright(part: BuiltPart) -> bool:
    """Whether a part stands as its own entries say, its group at most moved, so that a board written from its faces stands right."""
    return not part.made_by and part.place.shifts and not part.record.turns  # type: ignore[union-attr]


def _beside(part: BuiltPart, other: BuiltPart) -> bool:
    """Whether another part is read in the same group's room as this one."""
    return other.key != part.key and bool(other.span_box) and _upright(other) and other.record.group == part.record.group


def _joints(built: Built, part: BuiltPart) -> tuple[Mend, ...]:
    """Tabs through all boards that its edges stand against, where it has no joint with them yet."""
    document = built.document
    joined = {frozenset((j.a, j.b)) for j in document.joints.values()}
    patch: list[dict[str, Any]] = []
    names = []
    for other in built.parts.values():
        if not _beside(part, other) or frozenset((part.key, other.key)) in joined:
            continue
        contact = find_contact(part.span_box, part.frame.normal, part.path, other.span_box, other.frame.normal, other.path)  # type: ignore[union-attr, arg-type]
        if contact.kind in ("tee", "corner") and contact.reach_a.how == "near" and contact.axis_b != "z":
            key = _fresh(document.joints, f"{part.key}-{other.key}")
            order = max((j.order for j in document.joints.values()), default=-1) + 1 + len(patch)
            patch.append(
                {"op": "add", "path": pointer("joints", key), "value": {"kind": "tab_slot", "a": part.key, "b": other.key, "order": order}}
            )
            names.append(other.path)
    return (Mend(f"Tab {part.path} through {' and '.join(names)}", patch),) if patch else ()


def _fresh(records: dict[str, Any], wish: str) -> str:
    key = wish[:36]
    n = 2
    while key in records:
        key, n = f"{wish[:34]}_{n}", n + 1
    return key


def _glued(built: Built, keys: tuple[str, ...]) -> tuple[Mend, ...]:
    """Gluing the joints that parts which drop have with those that stand."""
    document, falling = built.document, set(keys)
    found: dict[str, list[str]] = {}
    for joint in built.joints.values():
        for pair in joint.pairs:
            inside = [k for k in pair if k in falling]
            if len(inside) == 1 and not joint.refused and not joint.fastened and joint.key in document.joints:
                other = next(k for k in pair if k not in falling)
                found.setdefault(joint.key, []).append(built.parts[other].path)
    if not found:
        return ()
    patch = [{"op": "add", "path": pointer("joints", k, "held"), "value": "glued"} for k in found]
    names = list(dict.fromkeys(n for own in found.values() for n in own))
    return (Mend(f"Glue it to {' and '.join(names)}", patch),)


def _ledges(built: Built, part: BuiltPart, drop: Drop) -> tuple[Mend, ...]:
    """A ledge under a lying board on each of two walls across from one another that its edges stand against."""
    document, unit, name = built.document, built.document.unit, part.path
    own = part.span_box
    if own is None or part.frame is None or part.frame.normal != "z":
        return ()
    walls = {(axis, high): wall for axis in "xy" for high in (False, True) if (wall := _wall(built, part, axis, high=high))}
    for axis in "xy":
        if (axis, False) not in walls or (axis, True) not in walls:
            continue
        across = "y" if axis == "x" else "x"
        patch: list[dict[str, Any]] = []
        names: list[str] = []
        taken = {r.name for r in (*document.parts.values(), *document.sizes.values())}
        for high in (False, True):
            wall = walls[axis, high]
            face, toward = FACES[axis][high], FACES[axis][not high]  # the ledge's face against the wall, and the wall's towards the board
            bottom, t = own.span("z")[0], part.flat.thickness if part.flat else 0.0
            deep = min(LEDGE, drop.height, bottom - wall.span_box.span("z")[0])  # type: ignore[union-attr]
            inner = wall.span_box.span(axis)[not high]  # type: ignore[union-attr]
            box = {
                axis: (inner - t, inner) if high else (inner, inner + t),
                across: own.span(across),
                "z": (bottom - deep, bottom),
            }
            if deep < t or not _empty(built, part, wall, box):
                return ()
            called = next(n for i in range(1, 99) if (n := f"{name}_ledge{'' if i == 1 else f'_{i}'}".replace(".", "_")) not in taken)
            taken.add(called)
            key = _fresh(document.parts, f"{part.key}_ledge_{face}")
            words = FACES[across]
            value = {
                "kind": "board", "name": called, "stock": part.record.stock, "plane": "facing_side" if axis == "x" else "facing_front",  # type: ignore[union-attr]
                "order": max(p.order for p in document.parts.values()) + 1 + len(names), "group": part.record.group,
                "position": {"face": face, "at": _entry(f"{wall.path}.{toward}", unit)},
                "spans": {across: {"low": _entry(f"{name}.{words[0]}", unit), "high": _entry(f"{name}.{words[1]}", unit)},
                          "z": {"low": _entry(f"{name}.bottom - {exact_length(deep, unit)}", unit), "high": _entry(f"{name}.bottom", unit)}},
            }  # fmt: skip
            joint = {"kind": "face_glue", "a": key, "b": wall.key, "order": max((j.order for j in document.joints.values()), default=-1) + 1 + len(names)}  # fmt: skip
            patch += [{"op": "add", "path": pointer("parts", key), "value": value},
                      {"op": "add", "path": pointer("joints", _fresh(document.joints, f"{key[:30]}-wall")), "value": joint}]  # fmt: skip
            names.append(wall.path)
        return (Mend(f"Add ledges under {name} on {' and '.join(names)}", patch),)
    return ()


def _wall(built: Built, part: BuiltPart, axis: str, *, high: bool) -> BuiltPart | None:
    """The wall square to an axis that a lying board's edge stands against, along all of it."""
    across = "y" if axis == "x" else "x"
    box = part.span_box
    if box is None:
        return None
    for other in built.parts.values():
        wall = other.span_box
        if wall is None or other.frame is None or not _beside(part, other) or other.frame.normal != axis:
            continue
        touches = abs(wall.span(axis)[not high] - box.span(axis)[high]) < TOUCHES
        (low, top), (wall_low, wall_top) = box.span(across), wall.span(across)
        bottom = box.span("z")[0]
        if touches and wall_low < low + TOUCHES and wall_top > top - TOUCHES and wall.span("z")[0] < bottom < wall.span("z")[1]:
            return other
    return None


def _empty(built: Built, part: BuiltPart, wall: BuiltPart, box: dict[str, tuple[float, float]]) -> bool:
    """Whether nothing stands in a box of a part's own room but the part and the wall."""
    shift = part.place.shift
    for other in built.parts.values():
        if other.key in (part.key, wall.key) or not other.flat or not other.flat.pieces:
            continue
        low, high = other.reaches
        if all(high[i] - shift[i] > box[a][0] + TOUCHES and low[i] - shift[i] < box[a][1] - TOUCHES for i, a in enumerate("xyz")):
            return False
    return True


def _support(built: Built, part: BuiltPart, drop: Drop) -> tuple[Mend, ...]:
    """A board that stands under the part, from what it would land on."""
    document = built.document
    unit, name = document.unit, part.path
    own_room = exact_length(part.reaches[0][2] - drop.height - part.place.shift[2], unit)
    if part.record.group:  # a group's places are counted from where it was moved to
        own_room = f"{name}.bottom - {exact_length(drop.height, unit)}"
    floor = f"{built.parts[drop.onto].path}.top" if drop.onto and _beside(part, built.parts[drop.onto]) else own_room
    if drop.onto and (built.parts[drop.onto].made_by or not built.parts[drop.onto].place.shifts):
        return ()
    if drop.onto and frame_of(document.parts[drop.onto].plane).normal != "z":  # type: ignore[union-attr]
        return ()  # it would land on an edge, where a support finds no footing
    plane = "facing_side" if part.frame.normal == "y" else "facing_front"  # type: ignore[union-attr]
    across, along = ("x", "y") if plane == "facing_side" else ("y", "x")
    words = {"x": ("left", "right"), "y": ("front", "back")}
    run = [f"{name}.{w}" for w in words[along]]
    if part.frame.normal == along:  # type: ignore[union-attr]  # under an edge it reaches out to both sides
        run = [f"{run[0]} - 20 mm", f"{run[1]} + 20 mm"]
    key = _fresh(document.parts, f"{part.key}_support")
    taken = {r.name for r in (*document.parts.values(), *document.sizes.values())}
    own = next(n for n in (f"{name}_support", *(f"{name}_support_{i}" for i in range(2, 99))) if n not in taken)
    thickness = part.flat.thickness  # type: ignore[union-attr]
    for share in (0.5, 0.25, 0.75, 0.1, 0.9):
        low, high = part.span_box.span(across)  # type: ignore[union-attr]
        at = low + share * (high - low)
        if drop.onto and not _stands_on(built.parts[drop.onto], part, across, at):
            continue
        room = at + part.place.shift["xyz".index(across)]
        if _free(built, part, drop, across, (room - thickness / 2, room + thickness / 2)):
            a, b = (f"{name}.{w}" for w in words[across])
            text = f"mid({a}, {b})" if share == 0.5 else f"{a} + {share:g} * ({b} - {a})"
            value = {
                "kind": "board", "name": own, "stock": part.record.stock, "plane": plane, "order": max(p.order for p in document.parts.values()) + 1,  # type: ignore[union-attr]
                "group": part.record.group,
                "position": {"face": "centre", "at": _entry(text, unit)},
                "spans": {along: {"low": _entry(run[0], unit), "high": _entry(run[1], unit)},
                          "z": {"low": _entry(floor, unit), "high": _entry(f"{name}.bottom", unit)}},
            }  # fmt: skip
            return (Mend(f"Add a support under {name}", [{"op": "add", "path": pointer("parts", key), "value": value}]),)
    return ()


def _stands_on(onto: BuiltPart, part: BuiltPart, across: str, at: float) -> bool:
    """Whether the middle of a support lies over what it would stand on, so that it does not tip."""
    low, high = onto.reaches
    i = "xyz".index(across)
    middle = (part.reaches[0][1 - i] + part.reaches[1][1 - i]) / 2
    return low[i] < at + part.place.shift[i] < high[i] and low[1 - i] < middle < high[1 - i]


def _free(built: Built, part: BuiltPart, drop: Drop, across: str, strip: tuple[float, float]) -> bool:
    """Whether no other part stands in the strip under a part."""
    i = "xyz".index(across)
    (low, high), bottom = part.reaches, part.reaches[0][2]
    for other in built.parts.values():
        if other.key in (part.key, drop.onto) or not other.flat or not other.flat.pieces:
            continue
        ol, oh = other.reaches
        if not (oh[2] > bottom - drop.height + 0.01 and ol[2] < bottom - 0.01):
            continue
        j = 1 - i
        if oh[i] > strip[0] + 0.01 and ol[i] < strip[1] - 0.01 and oh[j] > low[j] + 0.01 and ol[j] < high[j] - 0.01:
            return False
    return True
