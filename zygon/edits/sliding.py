"""A panel that slides in grooves and comes out at one end: a pencil box's lid, a dust panel, a door that is drawn aside; as one edit."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.drawers import PLAY
from zygon.design.layout_operations import entry_of, fresh_key, next_order
from zygon.design.operations import entries, renamed_face
from zygon.design.parts.kinds import is_plate
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.edits.independent import make_independent
from zygon.edits.placing import place_board
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, Plane, across, axis_of_face, frame_of
from zygon.making.asked.questions import Meeting
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.owner import part_id
from zygon.tolerance import WITHIN

__all__ = ["sliding_panel"]


def sliding_panel(
    built: Built,
    stock: str,
    plane: Plane,
    spans: dict[str, tuple[str, str]],
    face: str,
    at: str,
    out: str,
    walls: dict[str, str],
    *,
    play: str = "",
) -> tuple[str, Patch]:
    """Label and patch of a panel that runs in grooves of three walls and comes out through the fourth.

    ``spans``, ``face`` and ``at`` are as for any board. ``walls`` are the parts (instance keys) that it ends at, by the word of its end ('left', ...);
    ``out`` is the end at which it comes out: a wall there is cut down to the panel, which reaches to that wall's outer face. A panel that lies at the very end
    of a wall is let in by its own thickness. A copy that has to be cut down becomes a board of its own. Raises DocumentError where it cannot slide so.
    """
    frame = frame_of(plane)
    ends = (*FACES[frame.u], *FACES[frame.v])
    if out not in ends:
        rule = f"one of {', '.join(ends)}"
        raise DocumentError(f"A panel that lies so slides out at {rule}", entry="out", value=out, rule=rule)
    missing = [end for end in ends if end != out and not walls.get(end)]
    if missing:
        rule = "a wall with a face along the axes at each of the three other ends"
        raise DocumentError(f"Nothing holds the panel at its {missing[0]}: it needs {rule}", entry="walls", value=missing[0], rule=rule)
    document, patch, keys = _on_its_own(built, walls.get(out, ""))
    walls = {end: keys.get(key, key) for end, key in walls.items()}
    through = walls.get(out, "")
    names = {end: _name(built, document, key) for end, key in walls.items() if key}
    if through:
        axis, side = axis_of_face(out), FACES[axis_of_face(out)].index(out)
        span = list(spans[axis])
        span[side] = f"{names[out]}.{out}"
        spans = {**spans, axis: (span[0], span[1])}
        handed = _handed_over(document, through, walls.get(across(out, (axis,)), ""), frame.normal, at)
        document, patch = patched(document.dump(), handed[1]), patch + handed[1]
        at = handed[0]
    now = build(document)
    name, placed = _placed(now, stock, plane, spans, face, at, [walls[end] for end in ends if end != out])
    document = patched(document.dump(), placed)
    patch += placed
    patch += _lowered(document, through, name, frame.normal) if through else []
    patch += _grooves(document, name, {end: walls[end] for end in ends if end != out}, out, play or PLAY[document.unit])
    _check_stands(built, patch, out)
    return f"Panel {name}, slides out at {out}", patch


def _check_stands(built: Built, patch: Patch, out: str) -> None:
    """Nothing that stood comes apart by it: a joint of the wall that is cut down, a copy, an entry that would follow itself."""
    known = {(f.code, f.entry) for f in built.faults}
    made = build(patched(built.document.dump(), patch))
    fault = next((f for f in made.faults if f.severity == "error" and (f.code, f.entry) not in known), None)
    if fault is not None:
        raise DocumentError(f"The panel cannot slide out at its {out}: {fault.message}", entry="out", value=out, rule=fault.rule)


def _name(built: Built, document: Document, key: str) -> str:
    if key in document.parts:
        return document.parts[key].name
    part = built.parts.get(key)
    if part is None:
        raise DocumentError(f"There is no part {key} with a place", entry="walls", value=key, rule="a part of the design")
    return part.path


def _on_its_own(built: Built, key: str) -> tuple[Document, Patch, dict[str, str]]:
    """The document in which a part is neither a copy nor copied, the patch to it, and what instances became which parts."""
    document = built.document
    of = key.partition("@")[0]
    copies = [k for k, c in document.copies.items() if part_id(of) in c.of] if key else []
    if not copies:
        if "@" in key:
            rule = "a board of its own, or a mirror image, row or grid of one"
            raise DocumentError(
                f"{built.parts[key].path} cannot be cut down alone: it has to be {rule}", entry="walls", value=key, rule=rule
            )
        return document, [], {}
    _, patch = make_independent(built, copies[0])
    document = patched(document.dump(), patch)
    # a handed copy keeps its name, one of a row has its number behind it
    by_name = {p.name: k for k, p in document.parts.items() if k not in built.document.parts}
    made = {p.key: by_name.get(p.path) or by_name.get(p.path.replace(".", "_")) for p in built.parts.values() if "@" in p.key}
    keys = {instance: part for instance, part in made.items() if part}
    if keys.get(key, key) not in document.parts or any(part_id(keys.get(key, of)) in c.of for c in document.copies.values()):
        rule = "a board of its own, or copied once"
        raise DocumentError(f"{built.parts[key].path} cannot be cut down alone: it has to be {rule}", entry="walls", value=key, rule=rule)
    return document, patch, keys


def _handed_over(document: Document, wall: str, opposite: str, normal: str, at: str) -> tuple[str, Patch]:
    """What reads an end of the wall that may be cut down reads the same end of the opposite wall from now on: the panel's place, and the patch.

    The panel would follow itself else, and what stands as high as the wall would come down with it.
    """
    record, other = document.parts[wall], document.parts.get(opposite)
    patch: Patch = []
    if not is_plate(record) or not is_plate(other) or normal not in record.spans or normal not in other.spans:
        return at, patch
    parts = build(document).flats
    for side, face in zip(("low", "high"), FACES[normal], strict=True):
        i = side == "high"
        if abs(parts[wall].span_box.span(normal)[i] - parts[opposite].span_box.span(normal)[i]) > WITHIN:
            continue
        own = pointer("parts", opposite, "spans", normal, side)
        changed = {w: renamed_face(text, record.name, face, other.name) for w, text in entries(document.dump())}
        read = {w: text for w, text in entries(document.dump()) if changed[w] != text}
        place = renamed_face(at, record.name, face, other.name)
        if not read and place == at:
            continue
        at = place
        patch += [{"op": "replace", "path": f"{w}/text", "value": changed[w]} for w in read if w != own]
        kept = getattr(record.spans[normal], side).model_dump(mode="json", exclude_none=True)
        patch.append({"op": "replace", "path": own, "value": kept})
    return at, patch


def _placed(
    built: Built, stock: str, plane: Plane, spans: dict[str, tuple[str, str]], face: str, at: str, held: list[str]
) -> tuple[str, Patch]:
    """The panel's key and the patch that places it where a groove has wood on both sides."""
    low, high = FACES[frame_of(plane).normal]
    inward = {low: "+", high: "-"}
    refused = ""
    for way in ("", inward.get(face, "")):
        _, patch = place_board(built, stock, plane, spans, face, at)
        record = patch[0]["value"]
        if way:
            record["position"]["at"] = entry_of(built.document, f"{at} {way} {record['name']}.thickness")
        key = patch[0]["path"].split("/")[2]
        meeting = Meeting(patched(built.document.dump(), patch))
        refused = ""
        for wall in held:
            offer = next((o for o in meeting.offers(key, wall) if o["kind"] == "groove" and o["order"] == "ab"), None)
            refused = refused or ("no groove for it" if offer is None else offer["refused"])
        if not refused:
            return key, patch
        if face not in inward:
            break
    raise DocumentError(f"The panel cannot slide there: {refused}", entry="at", value=at, rule=refused)


def _lowered(document: Document, wall: str, panel: str, normal: str) -> Patch:
    """The wall that the panel comes out through ends where the panel begins: at the end that is nearer to it."""
    record, board = document.parts[wall], document.parts[panel]
    if not is_plate(record) or normal not in record.spans:
        rule = "a board that stands across it"
        raise DocumentError(f"{record.name} cannot be cut down to the panel: it has to be {rule}", entry="walls", value=wall, rule=rule)
    parts = build(document).flats
    middle = {k: sum(parts[k].span_box.span(normal)) / 2 for k in (wall, panel)}
    side = "high" if middle[panel] > middle[wall] else "low"
    reached = FACES[normal][0 if side == "high" else 1]
    value = entry_of(document, f"{board.name}.{reached}")
    return [{"op": "replace", "path": pointer("parts", wall, "spans", normal, side), "value": value}]


def _grooves(document: Document, panel: str, walls: dict[str, str], out: str, play: str) -> Patch:
    """Grooves in the walls: those along the way out are open there."""
    axis = axis_of_face(out)
    patch: Patch = []
    keys: dict[str, object] = dict(document.joints)
    for end, wall in walls.items():
        along = axis_of_face(end) != axis
        side = "low" if out == FACES[axis][0] else "high"
        key = fresh_key(keys, f"{panel}-{wall}".replace("@", "_"))
        keys[key] = None
        record = {
            "kind": "groove",
            "a": panel,
            "b": wall,
            "order": next_order(document.joints) + len(patch),
            "fit": entry_of(document, play),
            "end_play": entry_of(document, play),
            "ends": f"open_{side}" if along else "through",
            "held": "dry",
        }
        patch.append({"op": "add", "path": pointer("joints", key), "value": record})
    return patch
