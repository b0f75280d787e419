"""Edits of the layout that touch many records at once, each worked out here as one patch with a label: mirror, group, remove, change many."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator
from typing import Any

from zygon.design.document import Document
from zygon.design.layout import MirrorCopy, origin_of
from zygon.design.parts.kinds import PlateKind, is_framed
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.measure.entry import Entry
from zygon.measure.units import BARE_LENGTH_UNITS, name_fault
from zygon.owner import copy_id, group_id, part_id, read_owner

__all__ = [
    "change_many",
    "entry_of",
    "fresh_key",
    "fresh_name",
    "group_parts",
    "mirror",
    "next_order",
    "remove_copy",
    "remove_group",
    "without_part",
]

_SWAPS = (("left", "right"), ("front", "back"), ("top", "bottom"), ("upper", "lower"))


def _numbered(wish: str) -> Iterator[str]:
    yield wish
    for n in itertools.count(2):
        yield f"{wish}_{n}"


def fresh_key(records: dict[str, Any], wish: str) -> str:
    """A key that a map does not have yet, near to a wish."""
    base = "".join(c for c in wish if c.isalnum() or c in "_-")[:30] or "k"
    return next(k for k in _numbered(base) if k not in records)


def fresh_name(document: Document, wish: str, taken: set[str] | None = None) -> str:
    """A name that nothing has yet, near to a wish."""
    used = {r.name for g in (document.sizes, document.parts, document.groups, document.frames, document.moves) for r in g.values()} | (
        taken or set()
    )
    used |= {n for c in document.copies.values() if isinstance(c, MirrorCopy) for n in c.names.values()}
    return next(n for n in _numbered(wish) if n not in used)


def other_hand(name: str) -> str:
    """The usual name of a handed copy: left for right and the like, else with a word behind it."""
    words = name.split("_")
    for one, other in _SWAPS:
        if one in words or other in words:
            return "_".join({one: other, other: one}.get(w, w) for w in words)
    return f"{name}_handed"


def mirror(document: Document, of: list[str], axis: str, at: str, unit: str = "") -> tuple[str, Patch]:
    """Label and patch of handed copies of parts, groups or copies, on the other side of a plane; each part's copy gets a name of its own.

    Raises DocumentError where there is nothing to mirror.
    """
    names: dict[str, str] = {}
    if not of:
        raise DocumentError("There is nothing to mirror", entry="of", value=of, rule="at least one part, group or copy")
    for reference in of:
        kind, key = origin_of(reference)
        inside = (
            [key] if kind == "part" else [k for k, b in document.placed().items() if kind == "group" and key in document.within(b.group)]
        )
        for part in inside:
            if part in document.parts:
                names[part] = fresh_name(document, other_hand(document.parts[part].name), set(names.values()))
    shown = _named(document, of)
    key = fresh_key(document.copies, f"mirror_{axis}")
    record = {
        "kind": "mirror",
        "name": f"Mirror of {shown}"[:40],
        "order": next_order(document.copies),
        "of": of,
        "axis": axis,
        "at": {"text": at, "unit": unit or document.unit},
        "names": names,
    }
    return f"Mirror {shown}", [{"op": "add", "path": pointer("copies", key), "value": record}]


def entry_of(document: Document, text: str) -> dict[str, str]:
    """An entry as it is typed in a design's unit."""
    return {"text": text, "unit": document.unit}


def next_order(records: dict[str, Any]) -> int:
    """The order of what comes last."""
    return max((r.order for r in records.values()), default=-1) + 1


def _named(document: Document, of: list[str]) -> str:
    groups: dict[str, dict[str, Any]] = {"part": document.parts, "group": document.groups, "copy": document.copies}
    names = []
    for reference in of:
        kind, key = origin_of(reference)
        names.append(groups[kind][key].name.replace("_", " ") if kind and key in groups[kind] else reference)
    return names[0] if len(names) == 1 else f"{len(names)} things"


def group_parts(document: Document, parts: list[str], name: str) -> tuple[str, Patch]:
    """Label and patch that put parts, and the copies of them alone, into a new group. Raises DocumentError for a name that cannot be one."""
    fault = name_fault(name, part=True)
    if fault:
        raise DocumentError(f"{name or 'Name'}: {fault}", entry="name", value=name, rule=fault, code="bad_name")
    chosen = _with_frames(document, [p for p in dict.fromkeys(parts) if p in document.parts])
    if not chosen:
        raise DocumentError("There is nothing to group", entry="parts", value=parts, rule="at least one part")
    parents = {document.parts[p].group for p in chosen}
    parent = parents.pop() if len(parents) == 1 else ""
    for key, copy in document.copies.items():
        members = {origin_of(r) for r in copy.of}
        inside = {m for m in members if m[0] == "part" and m[1] in chosen}
        if inside and inside != {m for m in members if m[0] == "part"}:
            rule = "all that is copied together goes into one group"
            raise DocumentError(f"{copy.name} copies other parts too; {rule}", entry=f"/copies/{key}/of", value=copy.of, rule=rule)
    key = fresh_key(document.groups, name)
    patch: Patch = [
        {"op": "add", "path": pointer("groups", key), "value": {"name": name, "order": next_order(document.groups), "parent": parent}}
    ]
    frames = {p.frame for k in chosen if is_framed(p := document.parts[k])}
    patch += [{"op": "add", "path": pointer("frames", f, "group"), "value": key} for f in sorted(frames)]
    patch += [{"op": "add", "path": pointer("parts", p, "group"), "value": key} for p in chosen]
    return f"Group {name} of {len(chosen)} parts", patch


def _with_frames(document: Document, parts: list[str]) -> list[str]:
    """Parts, and behind the members and connectors among them all others of their frames: they move with the points that they share."""
    frames = {p.frame for k in parts if is_framed(p := document.parts[k])}
    return list(dict.fromkeys((*parts, *(k for k, p in document.parts.items() if is_framed(p) and p.frame in frames))))


def remove_group(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that dissolve a group; what lies in it stays, one level up, at its own place at rest."""
    if key not in document.groups:
        raise DocumentError(f"There is no group with the key {key!r}", entry=f"/groups/{key}", value=key, rule="a group of the design")
    group = document.groups[key]
    patch = _without_copies(document, {group_id(key)})
    patch += [
        {"op": "add", "path": pointer("parts", k, "group"), "value": group.parent} for k, p in document.parts.items() if p.group == key
    ]
    patch += [
        {"op": "add", "path": pointer("frames", k, "group"), "value": group.parent} for k, f in document.frames.items() if f.group == key
    ]
    patch += [
        {"op": "add", "path": pointer("groups", k, "parent"), "value": group.parent} for k, g in document.groups.items() if g.parent == key
    ]
    return f"Dissolve group {group.name}", _once([*patch, {"op": "remove", "path": pointer("groups", key)}])


def _once(patch: Patch) -> Patch:
    """The operations without repeated removals."""
    seen: set[str] = set()
    found = []
    for op in patch:
        if op["op"] == "remove" and op["path"] in seen:
            continue
        seen.add(op["path"])
        found.append(op)
    return found


def remove_copy(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that remove a copy with the joints to its parts and the copies of it. Entries that name its parts will say so."""
    if key not in document.copies:
        raise DocumentError(f"There is no copy with the key {key!r}", entry=f"/copies/{key}", value=key, rule="a copy of the design")
    return f"Remove {document.copies[key].name}", _without_copies(document, {copy_id(key)})


def _without_copies(document: Document, lost: set[str]) -> Patch:
    """What has to go once some references ('part:KEY', 'copy:KEY') stand for nothing: copies of them alone, and what is made of those."""
    lost = set(lost)
    while True:  # a copy whose every reference is lost is lost itself
        more = {copy_id(k) for k, c in document.copies.items() if set(c.of) <= lost} - lost
        if not more:
            break
        lost |= more
    gone = [k for k in document.copies if copy_id(k) in lost]
    patch: Patch = []
    for key, copy in document.copies.items():
        rest = [r for r in copy.of if r not in lost]
        if key not in gone and len(rest) < len(copy.of):
            patch.append({"op": "replace", "path": pointer("copies", key, "of"), "value": rest})
            names = getattr(copy, "names", {})
            patch += [{"op": "remove", "path": pointer("copies", key, "names", p)} for p in names if part_id(p) in lost]
    marks = tuple(f"@{k}." for k in gone)

    def hangs(*references: str) -> bool:
        return any(m in r for m in marks for r in references)

    patch += [{"op": "remove", "path": pointer("joints", k)} for k, j in document.joints.items() if hangs(j.a, j.b)]
    patch += [{"op": "remove", "path": pointer("clearances", k)} for k, c in document.clearances.items() if hangs(c.a.part, c.b.part)]
    patch += _without_moves_of(document, hangs)
    return [*patch, *({"op": "remove", "path": pointer("copies", k)} for k in gone)]


def without_moves(document: Document, lost: set[str]) -> Patch:
    """What is said of movements, by key, with what hangs on it: what follows them, and their places in positions."""
    patch: Patch = [
        {"op": "remove", "path": pointer("moves", k, "follows")}
        for k, m in document.moves.items()
        if k not in lost and m.follows is not None and m.follows.move in lost
    ]
    patch += [{"op": "remove", "path": pointer("positions", k, "at", m)} for k, p in document.positions.items() for m in p.at if m in lost]
    return [*patch, *({"op": "remove", "path": pointer("moves", k)} for k in document.moves if k in lost)]


def _without_moves_of(document: Document, gone: Callable[[str], bool]) -> Patch:
    """What is said of what moves by pieces that go."""
    patch = without_moves(document, {k for k, m in document.moves.items() if gone(m.part)})
    patch += [{"op": "remove", "path": pointer("ties", k)} for k, t in document.ties.items() if gone(t.a) or gone(t.b)]
    if gone(document.still):
        patch.append({"op": "replace", "path": "/still", "value": ""})
    return patch


def without_part(document: Document, part: str) -> Patch:
    """What has to go with a part: copies of it alone, its place in other copies, clearances and tracings of it."""
    patch = _without_copies(document, {part_id(part)})
    patch += [
        {"op": "remove", "path": pointer("clearances", k)}
        for k, c in document.clearances.items()
        if part in (c.a.part.partition("@")[0], c.b.part.partition("@")[0])
    ]
    patch += _without_moves_of(document, lambda piece: part == piece.partition("@")[0].partition("~")[0])
    patch += [
        {"op": "remove", "path": pointer("parts", k, "outline")}
        for k, b in document.plates(out=True).items()
        if k != part and getattr(b.outline, "part", "") == part
    ]
    return _once(patch)


def _feature_of(board: PlateKind | None, flange: str, key: str) -> tuple[Any, tuple[str, ...]]:
    """A board's feature, or that of one of its flanges, and where it stands in its record."""
    if board is None:
        return None, ()
    if not flange:
        return board.features.get(key), ("features", key)
    record = board.folding.flanges.get(flange) if board.folding else None
    return getattr(record, "features", {}).get(key), ("folding", "flanges", flange, "features", key)


def change_many(document: Document, owners: list[str], field: str, text: str, unit: str) -> tuple[str, Patch]:
    """Label and patch that write one entry into many features ('feature:PART:KEY'). Raises DocumentError where one has no such entry."""
    if unit not in BARE_LENGTH_UNITS:
        raise DocumentError(f"{unit!r} is no unit for a bare number", entry="unit", value=unit, rule="mm or in")
    patch: Patch = []
    boards = document.plates(out=True)
    for owner in dict.fromkeys(owners):
        _, key, part, flange = read_owner(owner)
        feature, path = _feature_of(boards.get(part), flange, key)
        if feature is None or not isinstance(getattr(feature, field, None), Entry):
            what = f"{boards[part].name}, {feature.name or feature.kind}" if feature is not None else owner
            rule = f"each of them has a {field.replace('_', ' ')}"
            raise DocumentError(f"{what} has no {field.replace('_', ' ')} to change", entry=owner, value=field, rule=rule)
        patch.append({"op": "replace", "path": pointer("parts", part, *path, field), "value": {"text": text, "unit": unit}})
    if not patch:
        raise DocumentError("There is nothing to change", entry="owners", value=owners, rule="at least one feature")
    return f"{field.replace('_', ' ').capitalize()} of {len(patch)} to {text}", patch
