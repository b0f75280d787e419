"""What would hold a part up, as mends: glue, tabs through the boards that it stands against, ledges, a support from below."""

from __future__ import annotations

from typing import Any

from zygon.check.overlap import overlap_faults
from zygon.design.patch import patched
from zygon.design.pointer import pointer
from zygon.geometry.frame import FACES
from zygon.making.assembly.hold import Drop, drops
from zygon.making.joints.contact import find_contact
from zygon.making.pipeline import build
from zygon.making.result.built import Built, BuiltPart, FlatPart, MadePart
from zygon.making.result.fault import Mend
from zygon.measure.display import exact_length
from zygon.owner import part_id

__all__ = ["holding_mends", "joint_mends"]

#: A ledge is so high (mm), where there is room.
LEDGE = 30.0
#: Faces this near (mm) stand against one another.
TOUCHES = 0.05


def holding_mends(built: Built, part: MadePart, drop: Drop, with_it: list[str], *, tried: bool) -> tuple[Mend, ...]:
    """All that would hold a part; where it is copied, what holds its copies too, or else it alone, as far as that can be built (``tried``)."""
    found = [*_glued(built, (drop.part, *with_it))]
    flat = built.flats.get(part.key)
    if flat is None or not _upright(part):
        return tuple(found)
    alone = (*joint_mends(built, flat), *_ledges(built, flat, drop), *_support(built, flat, drop))
    if not any(part_id(part.key) in c.of for c in built.document.copies.values()):
        return (*found, *alone)
    for mend in alone:
        ways = (Mend(mend.label, [*mend.patch, *_copied_along(built, part, mend)]), mend)
        found += [m for m in ways if not tried or _works(built, part, m)][:1]
    return tuple(found)


def _works(built: Built, part: BuiltPart, mend: Mend) -> bool:
    """Whether a part is held once a mend is made, and nothing else is wrong for it."""
    after = build(patched(built.document.dump(), mend.patch), built.good)
    if part.key in {d.part for d in drops(after)} or len(after.faults) > len(built.faults):
        return False
    return len(overlap_faults(after)) <= len(overlap_faults(built))


def _entry(text: str, unit: str) -> dict[str, str]:
    return {"text": text, "unit": unit}


def _upright(part: MadePart) -> bool:
    """Whether a part stands as its own entries say, its group at most moved, so that a board written from its faces stands right."""
    return not part.made_by and part.place.shifts and not part.record.turns


def _beside(part: MadePart, other: MadePart) -> bool:
    """Whether another part is read in the same group's room as this one."""
    return other.key != part.key and _upright(other) and other.record.group == part.record.group


def joint_mends(built: Built, part: FlatPart) -> tuple[Mend, ...]:
    """Tabs through all boards that its edges stand against, where it has no joint with them yet."""
    if not _upright(part):
        return ()
    document = built.document
    joined = {frozenset((j.a, j.b)) for j in document.joints.values()}
    patch: list[dict[str, Any]] = []
    names = []
    for other in built.touching[part.key]:
        if not _beside(part, other) or frozenset((part.key, other.key)) in joined:
            continue
        contact = find_contact(part.span_box, part.frame.normal, part.path, other.span_box, other.frame.normal, other.path)
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
    near = built.joints_of.get(keys[0], []) if len(keys) == 1 else built.joints.values()
    for joint in near:
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


def _ledges(built: Built, part: FlatPart, drop: Drop) -> tuple[Mend, ...]:
    """A ledge under a lying board on each of two walls across from one another that its edges stand against."""
    document, unit, name = built.document, built.document.unit, part.path
    own = part.span_box
    if part.frame.normal != "z" or not part.record.stock:
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
            bottom, t = own.span("z")[0], part.flat.thickness
            deep = min(LEDGE, drop.height, bottom - wall.span_box.span("z")[0])
            inner = wall.span_box.span(axis)[not high]
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
                "kind": "board",
                "name": called,
                "stock": part.record.stock,
                "plane": "facing_side" if axis == "x" else "facing_front",
                "order": max(p.order for p in document.parts.values()) + 1 + len(names),
                "group": part.record.group,
                "position": {"face": face, "at": _entry(f"{wall.path}.{toward}", unit)},
                "spans": {
                    across: {"low": _entry(f"{name}.{words[0]}", unit), "high": _entry(f"{name}.{words[1]}", unit)},
                    "z": {"low": _entry(f"{name}.bottom - {exact_length(deep, unit)}", unit), "high": _entry(f"{name}.bottom", unit)},
                },
            }
            joint = {
                "kind": "face_glue",
                "a": key,
                "b": wall.key,
                "order": max((j.order for j in document.joints.values()), default=-1) + 1 + len(names),
            }
            patch += [
                {"op": "add", "path": pointer("parts", key), "value": value},
                {"op": "add", "path": pointer("joints", _fresh(document.joints, f"{key[:30]}-wall")), "value": joint},
            ]
            names.append(wall.path)
        return (Mend(f"Add ledges under {name} on {' and '.join(names)}", patch),)
    return ()


def _copied_along(built: Built, part: BuiltPart, mend: Mend) -> list[dict[str, Any]]:
    """The edits by which the boards of a mend are copied wherever a part is, so that what falls with it is held too."""
    made = [op["path"].removeprefix("/parts/") for op in mend.patch if op["path"].startswith("/parts/")]
    copies = [k for k, c in built.document.copies.items() if part_id(part.key) in c.of]
    return [{"op": "add", "path": pointer("copies", k, "of", "-"), "value": part_id(m)} for k in copies for m in made]


def _wall(built: Built, part: FlatPart, axis: str, *, high: bool) -> FlatPart | None:
    """The wall square to an axis that a lying board's edge stands against, along all of it."""
    across = "y" if axis == "x" else "x"
    box = part.span_box
    for other in built.touching[part.key]:
        wall = other.span_box
        if other.frame.normal != axis or not _beside(part, other):
            continue
        touches = abs(wall.span(axis)[not high] - box.span(axis)[high]) < TOUCHES
        (low, top), (wall_low, wall_top) = box.span(across), wall.span(across)
        bottom = box.span("z")[0]
        if touches and wall_low < low + TOUCHES and wall_top > top - TOUCHES and wall.span("z")[0] < bottom < wall.span("z")[1]:
            return other
    return None


def _empty(built: Built, part: MadePart, wall: MadePart, box: dict[str, tuple[float, float]]) -> bool:
    """Whether nothing stands in a box of a part's own room but the part and the wall."""
    shift = part.place.shift
    for other in built.made.values():
        if other.key in (part.key, wall.key) or other.body.empty:
            continue
        low, high = other.reaches
        if all(high[i] - shift[i] > box[a][0] + TOUCHES and low[i] - shift[i] < box[a][1] - TOUCHES for i, a in enumerate("xyz")):
            return False
    return True


def _support(built: Built, part: FlatPart, drop: Drop) -> tuple[Mend, ...]:
    """A board that stands under the part, from what it would land on."""
    document = built.document
    if not part.record.stock:  # nothing to make it from
        return ()
    unit, name = document.unit, part.path
    own_room = exact_length(part.reaches[0][2] - drop.height - part.place.shift[2], unit)
    if part.record.group:  # a group's places are counted from where it was moved to
        own_room = f"{name}.bottom - {exact_length(drop.height, unit)}"
    floor = f"{built.parts[drop.onto].path}.top" if drop.onto and _beside(part, built.made[drop.onto]) else own_room
    if drop.onto:
        under = built.flats.get(drop.onto)
        if under is None or under.made_by or not under.place.shifts:
            return ()
        if under.frame.normal != "z":
            return ()  # it would land on an edge, where a support finds no footing
    plane = "facing_side" if part.frame.normal == "y" else "facing_front"
    across, along = ("x", "y") if plane == "facing_side" else ("y", "x")
    words = {"x": ("left", "right"), "y": ("front", "back")}
    run = [f"{name}.{w}" for w in words[along]]
    if part.frame.normal == along:  # under an edge it reaches out to both sides
        run = [f"{run[0]} - 20 mm", f"{run[1]} + 20 mm"]
    key = _fresh(document.parts, f"{part.key}_support")
    taken = {r.name for r in (*document.parts.values(), *document.sizes.values())}
    own = next(n for n in (f"{name}_support", *(f"{name}_support_{i}" for i in range(2, 99))) if n not in taken)
    thickness = part.flat.thickness
    for share in (0.5, 0.25, 0.75, 0.1, 0.9):
        low, high = part.span_box.span(across)
        at = low + share * (high - low)
        if drop.onto and not _stands_on(built.flats[drop.onto], part, across, at):
            continue
        room = at + part.place.shift["xyz".index(across)]
        if _free(built, part, drop, across, (room - thickness / 2, room + thickness / 2)):
            a, b = (f"{name}.{w}" for w in words[across])
            text = f"mid({a}, {b})" if share == 0.5 else f"{a} + {share:g} * ({b} - {a})"
            value = {
                "kind": "board",
                "name": own,
                "stock": part.record.stock,
                "plane": plane,
                "order": max(p.order for p in document.parts.values()) + 1,
                "group": part.record.group,
                "position": {"face": "centre", "at": _entry(text, unit)},
                "spans": {
                    along: {"low": _entry(run[0], unit), "high": _entry(run[1], unit)},
                    "z": {"low": _entry(floor, unit), "high": _entry(f"{name}.bottom", unit)},
                },
            }
            return (
                Mend(
                    f"Add a support under {name}",
                    [{"op": "add", "path": pointer("parts", key), "value": value}],
                ),
            )
    return ()


def _stands_on(onto: MadePart, part: MadePart, across: str, at: float) -> bool:
    """Whether the middle of a support lies over what it would stand on, so that it does not tip."""
    low, high = onto.reaches
    i = "xyz".index(across)
    middle = (part.reaches[0][1 - i] + part.reaches[1][1 - i]) / 2
    return low[i] < at + part.place.shift[i] < high[i] and low[1 - i] < middle < high[1 - i]


def _free(built: Built, part: MadePart, drop: Drop, across: str, strip: tuple[float, float]) -> bool:
    """Whether no other part stands in the strip under a part."""
    i = "xyz".index(across)
    (low, high), bottom = part.reaches, part.reaches[0][2]
    for other in built.made.values():
        if other.key in (part.key, drop.onto) or other.body.empty:
            continue
        ol, oh = other.reaches
        if not (oh[2] > bottom - drop.height + 0.01 and ol[2] < bottom - 0.01):
            continue
        j = 1 - i
        if oh[i] > strip[0] + 0.01 and ol[i] < strip[1] - 0.01 and oh[j] > low[j] + 0.01 and ol[j] < high[j] - 0.01:
            return False
    return True
