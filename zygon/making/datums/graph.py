"""The graph of datums: which entry reads which, and the order they are worked out in. Nodes are datums, never parts."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from zygon.design.document import Document, Measured, MeasuredDrawn, mirrored_axes, scope_of
from zygon.design.drawn_in import drawing_at
from zygon.design.entries import entries_of
from zygon.design.flange_names import BESIDES, flange_called, flange_name, flanges_placed_together
from zygon.design.frames import LineFrame
from zygon.design.layout import Group, MirrorCopy, Turn
from zygon.design.outlines import drawing_of, gear_of
from zygon.design.parts.kinds import PlacedKind, PlateKind, is_connector, is_hardware, is_member, is_placed, is_plate
from zygon.design.parts.placed import End
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES, FACES, across, frame_of
from zygon.making.datums.ids import (
    connector_entry,
    copy_plane,
    end_of,
    face_at,
    group_move,
    hardware_moved,
    member_entry,
    moved_to,
    point_at,
)
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind
from zygon.measure.syntax import Name, parse, references
from zygon.owner import flange_id, group_id, is_of, part_id, read_owner, size_id
from zygon.stock.hardware.catalogue import by_designation

__all__ = [
    "Datum",
    "FACE_SIDES",
    "Naming",
    "box_datums",
    "chain_of",
    "datums_of",
    "followed_through",
    "followers",
    "graph_order",
    "naming_of",
    "node_label",
    "placing_datums",
    "read_by",
]

#: What says how a member lies on its line, and what kind of value it is.
MEMBER_ENTRIES: tuple[tuple[str, Kind], ...] = (("turn", "angle"), ("past_a", "length"), ("past_b", "length"), ("radius", "length"))
#: The same of a connector, and of each of its sockets.
CONNECTOR_ENTRIES: tuple[tuple[str, Kind], ...] = (("turn", "angle"), ("wall", "length"), ("base", "length"), ("base_thick", "length"))
SOCKET_ENTRIES: tuple[tuple[str, Kind], ...] = (
    ("lean", "angle"),
    ("depth", "length"),
    ("out", "length"),
    ("across", "length"),
    ("fit", "length"),
    ("beside", "length"),
)
#: Face word to (axis, side).
FACE_SIDES = {FACES[axis][i]: (axis, ("low", "high")[i]) for axis in AXES for i in (0, 1)}


@dataclass(frozen=True)
class Datum:
    """One entry that others may read: a size, one end of a span, a board's position across its plane, a turn, a group's move, a copy's plane.

    Of a flange it is what says where its face lies: ``entry``, ``others``, and the node that it comes ``behind``. A frame's point ``follows`` those
    of the line that it lies on.

    ``group`` is the group whose inside it is read from; ``own`` the part or group whose own faces it reads as they are at rest.
    """

    id: str
    entry: Entry
    pointer: str
    label: str
    kind: Kind = "length"
    part: str = ""
    axis: str = ""
    group: str = ""
    own: str = ""
    others: tuple[Entry, ...] = ()
    behind: str = ""
    follows: tuple[str, ...] = ()


@lru_cache(maxsize=4096)
def entry_references(text: str) -> tuple[tuple[str, str], ...]:
    """(name, '') for sizes and (part, face) for faces; empty where the text cannot be read."""
    try:
        found = list(references(parse(text)))
    except ExpressionError:
        return ()
    return tuple((r.name, "") if isinstance(r, Name) else (r.part, r.face) for r in found)


def datums_of(document: Document) -> dict[str, Datum]:
    """Every datum of a document by node id.

    'size:KEY', 'part:KEY:AXIS:low|high|at', 'turn:part|group:KEY:TURN:angle|AXIS', 'flange:PART:KEY', 'group:KEY:move:AXIS', 'copy:KEY:at',
    'hardware:PART:moved', 'move:KEY:to', 'point:FRAME:KEY:AXIS|off|drawn', 'member:PART:turn|past_a|past_b|radius', 'connector:PART:SOCKET:FIELD' (of no socket what is said of all of it).
    """
    nodes: dict[str, Datum] = {}
    for key, size in document.sizes.items():
        node = Datum(size_id(key), size.entry, pointer("sizes", key, "entry"), size.name, size.kind)
        nodes[node.id] = node
    for key, board in document.placed().items():
        for end in board.ends():
            i = end_of(key, end.axis, end.side)
            label = f"{board.name}.{end.face}"
            drawn, follows = _drawn_with(document, key, board, end)
            where = pointer("parts", key, *end.where)
            nodes[i] = Datum(i, end.entry, where, label, "length", key, end.axis, board.group, part_id(key), others=drawn, follows=follows)
        _turn_datums(nodes, part_id(key), board.turns, pointer("parts", key, "turns"), board.name, key, board.group)
        if is_member(board):
            _member_datums(nodes, key, board)
        if is_connector(board):
            _connector_datums(nodes, key, board)
        if is_hardware(board) and board.moved is not None:
            i, kind = hardware_moved(key), moved_kind(board.designation)
            nodes[i] = Datum(i, board.moved, pointer("parts", key, "moved"), f"{board.name}, moved", kind, key, "", board.group)
        if is_plate(board) and board.folding is not None:
            _flange_datums(nodes, key, board, document)
    for key, frame in document.frames.items():
        _point_datums(nodes, key, frame, document)
    for key, group in document.groups.items():
        for axis, entry in group.move.items():
            i, where, label = group_move(key, axis), pointer("groups", key, "move", axis), f"{group.name}, move along {axis}"
            nodes[i] = Datum(i, entry, where, label, "length", "", "", group.parent)
        _turn_datums(nodes, group_id(key), group.turns, pointer("groups", key, "turns"), group.name, "", group.parent)
    for key, copy in document.copies.items():
        if isinstance(copy, MirrorCopy):
            i, where = copy_plane(key), pointer("copies", key, "at")
            nodes[i] = Datum(i, copy.at, where, f"{copy.name}, plane", "length", "", copy.axis, scope_of(document, copy.of[0]) or "")
    for key, move in document.moves.items():
        if move.to is not None and not move.out:
            i, where = moved_to(key), pointer("moves", key, "to")
            nodes[i] = Datum(i, move.to, where, f"{move.name}, moved", "angle" if move.kind == "turns" else "length")
    return nodes


def _drawn_with(document: Document, key: str, board: PlacedKind, end: End) -> tuple[tuple[Entry, ...], tuple[str, ...]]:
    """What a part's drawing reads, and the nodes behind which it is solved, where an end of its span lies as far as it is drawn."""
    drawing = drawing_of(board)
    if drawing is None or ("drawn", "") not in entry_references(end.entry.text):
        return (), ()
    # what it refers to is seen from where its plane begins
    stand = ("low",) if is_plate(board) else ("low", "at")
    begins = [end_of(key, e.axis, e.side) for e in board.ends() if e.side in stand and e.where != end.where] if drawing.references else []
    return tuple(e for _, e in entries_of(drawing)), (*begins, *_bodies_drawn_by(document, drawing))


def _bodies_drawn_by(document: Document, drawing: Drawing | None) -> tuple[str, ...]:
    """Node ids of what says where the round parts lie that a drawing refers to."""
    bodies = {r.body for r in drawing.references.values() if r.body} if drawing else ()
    placed = [b for b in bodies if is_placed(document.parts.get(b))]
    return tuple(i for b in sorted(placed) for i in box_datums(document, b, "", "", every=True))


def _flange_datums(nodes: dict[str, Datum], part: str, record: PlateKind, document: Document) -> None:
    """A node for each flange, behind that of what it stands on; one for all of them, behind which those are whose place hangs on corners."""
    folding, stock = record.folding, document.stocks.get(record.stock)
    if folding is None or not folding.flanges:
        return
    said = {k: list(entries_of(f, skip=BESIDES, at=pointer("flanges", k))) for k, f in folding.flanges.items()}
    of_all = [folding.radius, folding.gap, getattr(getattr(stock, "bending", None), "radius", None)]
    of_all += [e for _, e in entries_of(record.outline)] if record.outline is not None else []

    def node(key: str, found: list[tuple[str, Entry]], behind: str) -> None:
        # a circle is told at what names something
        own, *others = sorted(found, key=lambda we: not entry_references(we[1].text))
        i, where = flange_id(part, key), pointer("parts", part, "folding") + own[0]
        label = f"{record.name}.{flange_name(key)}" if key else record.name
        rest = (*(e for _, e in others), *(e for e in of_all if e is not None and not behind))
        drawn = [folding.flanges[key]] if key else list(folding.flanges.values())
        follows = tuple(i for f in drawn for i in _bodies_drawn_by(document, getattr(f, "drawing", None)))
        nodes[i] = Datum(i, own[1], where, label, "length", part, "", record.group, others=rest, behind=behind, follows=follows)

    together = flanges_placed_together(folding)
    if together:
        node("", [we for found in said.values() for we in found], "")
    for key, flange in folding.flanges.items():
        node(key, said[key], flange_id(part, "" if key in together else flange.on) if key in together or flange.on in said else "")


def _member_datums(nodes: dict[str, Datum], key: str, member: PlacedKind) -> None:
    for field, kind in MEMBER_ENTRIES:
        if getattr(member, field) is None:
            continue
        i, where, label = member_entry(key, field), pointer("parts", key, field), f"{member.name}, {field.replace('_', ' ')}"
        nodes[i] = Datum(i, getattr(member, field), where, label, kind, key, "", member.group)


def _connector_datums(nodes: dict[str, Datum], key: str, connector: PlacedKind) -> None:
    assert is_connector(connector)
    numbered = sorted(connector.sockets, key=lambda k: (connector.sockets[k].order, k))
    said: list[tuple[str, str, Entry | None, Kind, str, str]] = [
        ("", f, getattr(connector, f), kind, pointer("parts", key, f), f.replace("_", " ")) for f, kind in CONNECTOR_ENTRIES
    ]
    said += [("", f"middle_{a}", e, "length", pointer("parts", key, "middle", a), f"middle along {a}") for a, e in connector.middle.items()]
    said += [
        (s, f, getattr(connector.sockets[s], f), kind, pointer("parts", key, "sockets", s, f), f"socket {n}, {f}")
        for n, s in enumerate(numbered, 1)
        for f, kind in SOCKET_ENTRIES
    ]
    for socket, field, entry, kind, where, words in said:
        if entry is not None:
            i = connector_entry(key, field, socket)
            nodes[i] = Datum(i, entry, where, f"{connector.name}, {words}", kind, key, "", connector.group)


def _point_datums(nodes: dict[str, Datum], key: str, frame: LineFrame, document: Document) -> None:
    for n, (point, record) in enumerate(sorted(frame.points.items(), key=lambda kp: (kp[1].order, kp[0])), 1):
        where, label = pointer("frames", key, "points", point), f"{frame.name}, point {n}"
        if record.drawn and frame.drawing and frame.plane and frame.across:
            i, read = point_at(key, point, "drawn"), tuple(e for _, e in entries_of(frame.drawing))
            axis, follows = frame_of(frame.plane).normal, _bodies_drawn_by(document, frame.drawing)
            at = pointer("frames", key, "across")
            nodes[i] = Datum(i, frame.across, at, label, "length", "", axis, frame.group, others=read, follows=follows)
            continue
        if record.on and record.off:
            i = point_at(key, point, "off")
            follows = tuple(_place_of_line(key, frame, record.on))
            nodes[i] = Datum(i, record.off, f"{where}/off", label, "length", "", "", frame.group, follows=follows)
            continue
        for axis, entry in record.at.items():
            i = point_at(key, point, axis)
            nodes[i] = Datum(i, entry, where + pointer("at", axis), f"{label} along {axis}", "length", "", axis, frame.group)


def _place_of_line(key: str, frame: LineFrame, line: str) -> list[str]:
    """Node ids of what says where the ends of a line lie."""
    return [i for p in (frame.lines[line].a, frame.lines[line].b) for i in _place_of_point(key, frame, p)]


def _place_of_point(key: str, frame: LineFrame, point: str) -> list[str]:
    one = "drawn" if frame.points[point].drawn else "off" if frame.points[point].on else ""
    return [point_at(key, point, a) for a in ((one,) if one else AXES)]


def _at_points(document: Document, key: str, points: list[str]) -> list[str]:
    """Node ids of what says how the connectors on points of a frame stand: their entries, and the places of the lines that meet there."""
    frame, found = document.frames[key], list[str]()
    for part, record in document.placed().items():
        if not is_connector(record) or record.frame != key or record.point not in points:
            continue
        found += [connector_entry(part, f) for f, _ in CONNECTOR_ENTRIES]
        found += [connector_entry(part, f, s) for s in record.sockets for f, _ in SOCKET_ENTRIES]
        reach = any(s.aside for s in record.sockets.values())
        on = frame.points[record.point].on
        met = [k for k, ln in frame.lines.items() if reach or k == on or record.point in (ln.a, ln.b)]
        found += [i for k in met for i in _place_of_line(key, frame, k)]
    return list(dict.fromkeys(found))


def _turn_datums(nodes: dict[str, Datum], owner: str, turns: dict[str, Turn], where: str, name: str, part: str, group: str) -> None:
    for key, turn in turns.items():
        i = f"turn:{owner}:{key}:angle"
        nodes[i] = Datum(i, turn.angle, f"{where}{pointer(key, 'angle')}", f"{name}, angle", "angle", part, "", group, owner)
        for axis, entry in turn.at.items():
            i = f"turn:{owner}:{key}:{axis}"
            nodes[i] = Datum(
                i, entry, f"{where}{pointer(key, 'at', axis)}", f"{name}, turned at {axis}", "length", part, axis, group, owner
            )


def chain_of(document: Document, part: str, upto: str = "") -> list[tuple[str, PlacedKind | Group]]:
    """What places a part, from the inside out: ('part:KEY', board), then its groups up to but without ``upto``."""
    board = document.parts[part]
    found: list[tuple[str, PlacedKind | Group]] = [(part_id(part), board)]  # type: ignore[list-item]
    for key in document.within(board.group):
        if key == upto:
            break
        found.append((group_id(key), document.groups[key]))
    return found


def placing_datums(owner: str, record: PlacedKind | Group) -> list[str]:
    """Node ids of the turns and moves that a board or group itself has."""
    found = [f"{owner}:move:{axis}" for axis in getattr(record, "move", {})]
    for key, turn in record.turns.items():
        found += [f"turn:{owner}:{key}:angle", *(f"turn:{owner}:{key}:{axis}" for axis in turn.at)]
    return found


@dataclass(frozen=True)
class Naming:
    """What the names in entries stand for: sizes' node ids, boards' keys, handed copies' (part, copy) keys, and movements' keys."""

    sizes: dict[str, str]
    boards: dict[str, str]
    handed: dict[str, tuple[str, str]]
    moves: dict[str, str]


def moved_kind(designation: str) -> Kind:
    """Whether what moves of a piece is told as an angle or as a length."""
    try:
        free = by_designation(designation).freedom
    except KeyError:
        return "length"
    return "angle" if free is not None and free.kind == "turns" else "length"


def naming_of(document: Document) -> Naming:
    """The names of a document; what is left out has none."""
    boards = document.placed()
    handed = {
        name: (part, key)
        for key, copy in document.copies.items()
        if isinstance(copy, MirrorCopy) and not copy.out
        for part, name in copy.names.items()
        if part in boards
    }
    sizes = {s.name: size_id(k) for k, s in document.sizes.items()}
    moves = {m.name: k for k, m in document.moves.items() if not m.out}
    return Naming(sizes, {b.name: k for k, b in boards.items()}, handed, moves)


def _needs(node: Datum, names: Naming, document: Document, moves: bool) -> list[str]:
    needs = box_datums(document, node.part, "", "", every=True) if is_of(node.id, "flange") else []
    needs += [node.behind] if node.behind else []
    if needs and moves:  # between places in the room, seen from the part
        needs += [i for owner, record in chain_of(document, node.part) for i in placing_datums(owner, record)]
    needs += node.follows
    said = (node.entry, *node.others)
    drawings = _drawings_read(document, names, said)
    for name, face, own in [(*r, True) for e in said for r in entry_references(e.text)] + [(*r, False) for r in drawings]:
        if not face:
            if name in names.sizes:
                needs.append(names.sizes[name])
            continue
        if name in names.moves:
            needs.append(moved_to(names.moves[name]))
            continue
        key, copy = (names.boards.get(name), "") if name in names.boards else names.handed.get(name, (None, ""))
        flange = flange_called(document.parts.get(key), face) if key is not None and "." in face else None
        gear = gear_of(document.parts[key]) if key is not None and face == "pitch" else None
        if gear is not None:
            needs += [names.sizes[n] for n, f in entry_references(gear.module.text) if not f and n in names.sizes]
            continue
        part = document.parts.get(key) if key is not None else None
        drawn = part is not None and _names_line(part, face)
        known = drawn or face in FACE_SIDES or face in ("centre", "center") or (part is not None and is_hardware(part))
        if key is None or not (flange or known):
            continue
        placing = _placing_needs(document, key, node) if moves and node.own != part_id(key) else []
        needs += placing
        if copy:
            needs.append(copy_plane(copy))
        if flange:
            needs.append(flange_id(key, flange))
            continue
        if copy:
            face = across(face, mirrored_axes(document, [copy]))
        # what a drawing reads lies along either way of its plane, not along the axis that it is asked for
        every = (drawn or not own or bool(placing)) and face not in FACE_SIDES
        needs += box_datums(document, key, *FACE_SIDES.get(face, (node.axis, "")), every=every)
    return needs


def _names_line(part: Any, face: str) -> bool:
    """Whether a name is that of a line of a part's drawing."""
    drawing = drawing_of(part)
    return drawing is not None and drawing.named(face) is not None


def _drawings_read(document: Document, names: Naming, entries: tuple[Entry, ...]) -> list[tuple[str, str]]:
    """All that the drawings read whose lines entries name, and the drawings that those name."""
    found, seen, waiting = list[tuple[str, str]](), set[str](), list(entries)
    while waiting:
        for name, face in entry_references(waiting.pop().text):
            key = names.boards.get(name) or names.handed.get(name, ("", ""))[0]
            drawing = drawing_of(document.parts.get(key))
            if key in seen or drawing is None or drawing.named(face) is None:
                continue
            seen.add(key)
            read = [e for _, e in entries_of(drawing)]
            found += [r for e in read for r in entry_references(e.text)]
            waiting += read
    return found


def _placing_needs(document: Document, key: str, node: Datum) -> list[str]:
    """The datums that say how a part stands as seen from a node."""
    upto = read_owner(node.own).key if is_of(node.own, "group") else ""
    needs = [i for owner, record in chain_of(document, key, upto) for i in placing_datums(owner, record)]
    if upto not in document.within(document.parts[key].group):  # seen from within other groups
        needs += [i for g in document.within(node.group) for i in placing_datums(group_id(g), document.groups[g])]
    shared = [*document.within(node.group)] if node.group in document.within(document.parts[key].group) else []
    common = {i for g in shared for i in placing_datums(group_id(g), document.groups[g])}
    return [i for i in needs if i not in common]


def box_datums(document: Document, key: str, axis: str, side: str, *, every: bool = False) -> list[str]:
    """Node ids of a board's low or high end along an axis, of both where no side is said, or of all its ends."""
    record = document.parts[key]
    if is_member(record):
        frame = document.frames[record.frame]
        lines = [i for line in record.lines for i in _place_of_line(record.frame, frame, line)]
        ends = list((frame.chain(record.lines) or ())[:: len(record.lines)])
        return [*lines, *(member_entry(key, field) for field, _ in MEMBER_ENTRIES), *_at_points(document, record.frame, ends)]
    if is_connector(record):
        return [
            *_place_of_point(record.frame, document.frames[record.frame], record.point),
            *_at_points(document, record.frame, [record.point]),
        ]
    if is_hardware(record):
        return [hardware_moved(key), *(face_at(key, x) for x in (AXES if every else [axis] if axis else []))]
    one_place = record.across if is_placed(record) else ()
    found = []
    for x in AXES if every else [axis] if axis else []:
        sides = (side,) if side and not every else ("low", "high")
        found += [face_at(key, x)] if x in one_place else [end_of(key, x, s) for s in sides]
    return found


def read_by(nodes: dict[str, Datum], document: Document) -> dict[str, list[str]]:
    """Of each datum the ids of those that it reads."""
    names = naming_of(document)
    moves = any(b.turns for b in document.placed().values()) or any(g.turns or g.move for g in document.groups.values())
    needs = {i: [n for n in dict.fromkeys(_needs(node, names, document, moves)) if n in nodes] for i, node in nodes.items()}
    for key, size in document.sizes.items():
        if size.measured:
            said = size.measured
            if isinstance(said, Measured):
                found = measured_datums(document, said)
            else:
                found = _drawn_datums(nodes[size_id(key)], document, said, names, moves)
            needs[size_id(key)] = [n for n in found if n in nodes]
    return needs


def followers(needs: dict[str, list[str]], of: str) -> set[str]:
    """The ids of all datums that change when one does, and its own."""
    readers: dict[str, list[str]] = {}
    for reader, some in needs.items():
        for i in some:
            readers.setdefault(i, []).append(reader)
    found, waiting = {of}, [of]
    while waiting:
        more = [i for i in readers.get(waiting.pop(), ()) if i not in found]
        found.update(more)
        waiting += more
    return found


def followed_through(needs: dict[str, list[str]], of: str, to: set[str]) -> list[str]:
    """The shortest way by which one of ``to`` follows a datum: their ids from the first that reads it on; empty where none does."""
    readers: dict[str, list[str]] = {}
    for reader, some in needs.items():
        for i in some:
            readers.setdefault(i, []).append(reader)
    ways, found = [[of]], {of}
    for way in ways:  # it grows while it is gone through
        for i in readers.get(way[-1], ()):
            if i in to:
                return [*way[1:], i]
            if i not in found:
                found.add(i)
                ways.append([*way, i])
    return []


def graph_order(nodes: dict[str, Datum], document: Document) -> tuple[list[str], list[list[str]]]:
    """Node ids so that each comes after what it reads, and the cycles found (each a list of ids). No recursion: chains may be long."""
    needs = read_by(nodes, document)
    order: list[str] = []
    cycles: list[list[str]] = []
    state: dict[str, int] = {}
    for root in nodes:
        if root in state:
            continue
        state[root] = 1
        path = [root]
        stack = [iter(needs[root])]
        while stack:
            child = next(stack[-1], None)
            if child is None:
                done = path.pop()
                stack.pop()
                state[done] = 2
                order.append(done)
            elif state.get(child) == 1:
                cycles.append(path[path.index(child) :])
            elif child not in state:
                state[child] = 1
                path.append(child)
                stack.append(iter(needs[child]))
    return order, cycles


def measured_datums(document: Document, measured: Measured) -> list[str]:
    """Node ids of all that a measured size follows."""
    needs: list[str] = []
    for place in (measured.a, measured.b):
        key, _, copies = place.part.partition("@")
        if not is_placed(document.parts.get(key)):
            continue
        needs += box_datums(document, key, "", "", every=True)
        flange = flange_called(document.parts[key], place.name) if place.what == "face" and "." in place.name else None
        needs += [flange_id(key, flange)] if flange else []
        needs += [i for owner, record in chain_of(document, key) for i in placing_datums(owner, record)]
        needs += [copy_plane(step.partition(".")[0]) for step in copies.split("@") if step]
    return needs


def _drawn_datums(node: Datum, document: Document, measured: MeasuredDrawn, names: Naming, moves: bool) -> list[str]:
    """Node ids of all that a dimension of a drawing hangs on; none of a bar's section, whose figures are its own."""
    at = drawing_at(document, measured.drawn, measured.feature)
    if at is None or is_of(measured.drawn, "stock"):
        return []
    read = tuple(e for _, e in entries_of(at.drawing))
    if is_of(measured.drawn, "frame"):
        key = read_owner(measured.drawn).key
        points = [point_at(key, k, "drawn") for k, p in document.frames[key].points.items() if p.drawn]
        return [*points, *_needs(replace(node, others=read), names, document, moves)]
    return [
        *box_datums(document, measured.drawn, "", "", every=True),
        *_bodies_drawn_by(document, at.drawing),
        *_needs(replace(node, others=read), names, document, moves),
    ]


def node_label(nodes: dict[str, Datum], cycle: list[str]) -> str:
    """A cycle in words, datum by datum: 'width → inner → width'."""
    labels = [nodes[i].label for i in cycle]
    return " → ".join([*labels, labels[0]])
