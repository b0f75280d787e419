"""All sizes and datums of a document worked out, in the order in which they hang on one another."""

from __future__ import annotations

from contextlib import suppress

from zygon.design.document import Document
from zygon.making.datums.graph import Datum, datums_of, graph_order, node_label
from zygon.making.datums.ids import read_point
from zygon.making.datums.measuring import measured_value
from zygon.making.datums.members import point_of
from zygon.making.datums.ranges import check_ranges, check_spans
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import LegFaces, Values
from zygon.making.result.fault import Fault
from zygon.making.result.value import Value
from zygon.owner import is_of, read_owner

__all__ = ["solve"]


def solve(document: Document, good: dict[str, float] | None = None, leg_faces: LegFaces | None = None) -> Values:
    """All sizes and datums of a document, in the graph's order; without ``leg_faces`` those of flanges have no place."""
    values = Values(document, good, leg_faces)
    nodes = datums_of(document)
    order, cycles = graph_order(nodes, document)
    looped = {i for cycle in cycles for i in cycle}
    for node_id in looped:  # the last good values stand, so that what hangs on the loop stays on screen
        where = nodes[node_id].pointer
        if where in values.good:
            values.solved[node_id] = values.good[where]
            values.values[where] = Value(values.good[where], nodes[node_id].kind, stale=True)
    for node_id in order:
        if node_id not in looped:
            _solve_node(values, nodes[node_id])
    for cycle in cycles:
        _report_cycle(values, nodes, cycle)
    check_ranges(values)
    check_spans(values)
    return values


def _solve_node(values: Values, node: Datum) -> None:
    if is_of(node.id, "flange"):  # worked out where it is asked for
        return
    stock = values.boards[node.part].stock if node.part else ""
    drawn = node.part if is_of(node.id, "part") else ""
    scope = EntryScope(values, node.axis, stock, node.group, node.own, drawn=drawn)
    before = len(values.faults)
    if is_of(node.id, "size") and values.document.sizes[read_owner(node.id).key].measured:
        found = _measured(values, node)
        if found is not None:
            values.solved[node.id] = found
        return
    owner = node.id.removesuffix(":at") if is_of(node.id, "copy") else ""
    result = values.read(node.entry, node.pointer, node.kind, scope, part=node.part, owner=owner)
    # what is wrong with a drawing that it reads is said of that
    broken = any(f.entry == node.pointer for f in values.faults[before:])
    if not broken or node.pointer in values.good:
        values.solved[node.id] = result
        # a point on a line is worked out in the graph's order, so that a long chain of them is no deep one; a path here, so that what is wrong with it is said
        if is_of(node.id, "point") and (node.follows or node.id.endswith(":drawn")):
            frame, point = read_point(node.id)
            with suppress(KeyError):
                point_of(values, frame, point)


def _measured(values: Values, node: Datum) -> float | None:
    """The value of a size that follows the design; a fault, and its last good value, where what it measures is gone."""
    size = values.document.sizes[read_owner(node.id).key]
    try:
        value = measured_value(values, size.measured)  # type: ignore[arg-type]
        values.values[node.pointer] = Value(value, size.kind)
        return value
    except KeyError as error:
        said = f"{size.name} is measured, and {error.args[0]}"
        values.faults.append(Fault("lost_measure", said, "what it measures is there", owner=node.id, entry=node.pointer))
    if node.pointer not in values.good:
        return None
    values.values[node.pointer] = Value(values.good[node.pointer], size.kind, stale=True)
    return values.good[node.pointer]


def _report_cycle(values: Values, nodes: dict[str, Datum], cycle: list[str]) -> None:
    loop = node_label(nodes, cycle)
    first = nodes[cycle[0]]
    message = f"{first.entry.text}: {first.label} depends on itself: {loop}"
    values.faults.append(Fault("cycle", message, "no value may depend on itself", loop, part=first.part, entry=first.pointer))
