"""The graph of datums: which entry reads which, and the order they are worked out in. Nodes are datums, never parts."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from zygon.design.document import Board, Document
from zygon.design.patch import pointer
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind
from zygon.measure.syntax import Name, parse, references

__all__ = ["Datum", "FACE_SIDES", "datums_of", "graph_order", "node_label"]

#: Face word to (axis, side).
FACE_SIDES = {FACES[axis][i]: (axis, ("low", "high")[i]) for axis in AXES for i in (0, 1)}


@dataclass(frozen=True)
class Datum:
    """One entry that others may read: a size, one end of a span, or a board's position across its plane."""

    id: str
    entry: Entry
    pointer: str
    label: str
    kind: Kind = "length"
    part: str = ""
    axis: str = ""


@lru_cache(maxsize=4096)
def entry_references(text: str) -> tuple[tuple[str, str], ...]:
    """(name, '') for sizes and (part, face) for faces; empty where the text cannot be read."""
    try:
        found = list(references(parse(text)))
    except ExpressionError:
        return ()
    return tuple((r.name, "") if isinstance(r, Name) else (r.part, r.face) for r in found)


def datums_of(document: Document) -> dict[str, Datum]:
    """Every datum of a document by node id: 'size:KEY', 'part:KEY:AXIS:low|high|at'."""
    nodes: dict[str, Datum] = {}
    for key, size in document.sizes.items():
        node = Datum(f"size:{key}", size.entry, pointer("sizes", key, "entry"), size.name, size.kind)
        nodes[node.id] = node
    for key, board in document.boards().items():
        for axis, span in board.spans.items():
            for i, side in enumerate(("low", "high")):
                entry = getattr(span, side)
                where = pointer("parts", key, "spans", axis, side)
                label = f"{board.name}.{FACES[axis][i]}"
                nodes[f"part:{key}:{axis}:{side}"] = Datum(f"part:{key}:{axis}:{side}", entry, where, label, "length", key, axis)
        normal = frame_of(board.plane).normal
        label = f"{board.name}.{board.position.face}"
        where = pointer("parts", key, "position", "at")
        nodes[f"part:{key}:{normal}:at"] = Datum(f"part:{key}:{normal}:at", board.position.at, where, label, "length", key, normal)
    return nodes


def _needs(node: Datum, names: dict[str, str], boards: dict[str, tuple[str, Board]]) -> list[str]:
    needs = []
    for name, face in entry_references(node.entry.text):
        if not face:
            if name in names:
                needs.append(names[name])
            continue
        if name not in boards or (face not in FACE_SIDES and face not in ("centre", "center")):
            continue
        key, board = boards[name]
        axis, side = FACE_SIDES.get(face, (node.axis, ""))
        if not axis:
            continue
        if axis == frame_of(board.plane).normal:
            needs.append(f"part:{key}:{axis}:at")
        else:
            needs += [f"part:{key}:{axis}:{s}" for s in ((side,) if side else ("low", "high"))]
    return needs


def graph_order(nodes: dict[str, Datum], document: Document) -> tuple[list[str], list[list[str]]]:
    """Node ids so that each comes after what it reads, and the cycles found (each a list of ids). No recursion: chains may be long."""
    names = {size.name: f"size:{key}" for key, size in document.sizes.items()}
    boards = {board.name: (key, board) for key, board in document.boards().items()}
    needs = {i: _needs(n, names, boards) for i, n in nodes.items()}
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


def node_label(nodes: dict[str, Datum], cycle: list[str]) -> str:
    """A cycle in words, datum by datum: 'width → inner → width'."""
    labels = [nodes[i].label for i in cycle]
    return " → ".join([*labels, labels[0]])
