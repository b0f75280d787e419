"""Working out sizes and datums: every entry's value, its faults, and the scopes that later entries are read in."""

from __future__ import annotations

import math
import re
from typing import Any

from zygon.design.document import Document, mirrored_axes, scope_of
from zygon.design.limits import MAX_LENGTH, MIN_THICKNESS
from zygon.design.patch import pointer
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES, FACES, across, frame_of
from zygon.geometry.motion import IDENTITY, Motion
from zygon.geometry.tolerance import CONTACT
from zygon.making.datums.graph import FACE_SIDES, Datum, datums_of, graph_order, naming_of, node_label
from zygon.making.datums.measuring import measured_value
from zygon.making.datums.placing import handed_motion, motion_between, motion_between_groups
from zygon.making.result.box import Box
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.value import Value
from zygon.measure.display import exact_length, format_length
from zygon.measure.entry import Entry
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.quantity import Kind, Quantity, count, length, number
from zygon.measure.quantity import angle as angle_of
from zygon.measure.syntax import mixed_numbers
from zygon.stock.fit import FIT_NAMES, FitTable
from zygon.stock.gauge import gauge_thickness

__all__ = ["EntryScope", "Values", "solve"]

_MAKE = {"length": length, "angle": angle_of, "count": lambda v: count(round(v)), "number": number}
#: Fits where a stock and cutter have no table of their own.
DEFAULT_FITS = FitTable(stock="", cutter="")


class Values:
    """The values of one document. Entries are read with ``read``; what cannot be read becomes a fault and the last good value."""

    def __init__(self, document: Document, good: dict[str, float] | None = None) -> None:
        self.document = document
        self.good = good or {}
        self.values: dict[str, Value] = {}
        self.faults: list[Fault] = []
        self.solved: dict[str, float] = {}
        self.boards = document.boards()
        self.left_out = {p.name for k, p in document.parts.items() if document.left_out(k)}
        names = naming_of(document)
        self.board_keys, self.handed = names.boards, names.handed
        self.size_keys = {s.name: k for k, s in document.sizes.items()}
        #: whether every board stands in its place at rest
        self.still = not any(b.turns for b in self.boards.values()) and not any(g.turns or g.move for g in document.groups.values())
        self.deep: dict[str, float] = {}
        self.thicknesses = {k: self._thickness(k) for k in document.stocks}

    def _thickness(self, key: str) -> float:
        stock = self.document.stocks[key]
        scope = _GaugeScope(stock.gauge, stock.name)
        field = "measured" if stock.measured else "nominal"
        value = self.read(stock.measured or stock.nominal, pointer("stocks", key, field), "length", scope, fallback=1.0)
        if stock.measured:
            self.read(stock.nominal, pointer("stocks", key, "nominal"), "length", scope, fallback=1.0)
        if value < MIN_THICKNESS and not self.values[pointer("stocks", key, field)].stale:
            rule = f"a thickness is at least {format_length(MIN_THICKNESS)}"
            self.fault_entry(
                pointer("stocks", key, field),
                "bad_value",
                f"{stock.name}: a thickness of {format_length(value)}",
                rule,
                format_length(value),
            )
            return 1.0
        return value

    def read(self, entry: Entry, where: str, kind: Kind = "length", scope: object | None = None, *, fallback: float = 0.0,
             part: str = "", owner: str = "") -> float:  # fmt: skip
        """An entry's value in mm, radians or as it is. A broken one is a fault at ``where`` and gives the last good value."""
        try:
            value = evaluate(entry.text, entry.unit, kind, scope or NoScope()).value  # type: ignore[arg-type]
            if kind == "length" and abs(value) > MAX_LENGTH:
                raise ExpressionError(f"a length is at most {MAX_LENGTH / 1000:g} m", entry.text)
        except ExpressionError as error:
            return self._broken(error, where, kind, fallback, part, owner)
        reading = ", ".join(read for _, read in mixed_numbers(entry.text)) if "/" in entry.text else ""
        self.values[where] = Value(value, kind, reading=reading)
        return value

    def _broken(self, error: ExpressionError, where: str, kind: str, fallback: float, part: str, owner: str) -> float:
        value = self.good.get(where, fallback)
        self.values[where] = Value(value, kind, stale=True)
        self.faults.append(
            Fault(
                "broken_expression",
                error.message,
                error.reason,
                error.text,
                part=part,
                owner=owner,
                entry=where,
                lost=_lost(error.reason),
                mends=tuple(Mend(f"Write {r}", [{"op": "replace", "path": f"{where}/text", "value": r}]) for r in error.readings),
            )
        )
        return value

    def fault_entry(
        self, where: str, code: str, message: str, rule: str, value: str = "", part: str = "", owner: str = "", mends: tuple[Mend, ...] = ()
    ) -> None:
        """Records a fault of an entry whose value was read but cannot be."""
        self.faults.append(Fault(code, message, rule, value, part=part, owner=owner, entry=where, mends=mends))

    def stand(self, where: str) -> bool:
        """Lets the last good value of an entry stand, as what it says cannot be; False where it has none."""
        self.values[where] = Value(self.good.get(where, self.values[where].value), self.values[where].kind, stale=True)
        return where in self.good

    def thickness_of(self, key: str) -> float:
        """A board's thickness in mm: its stock's, or a bought block's own."""
        board = self.boards[key]
        if board.deep is None:
            return self.thicknesses[board.stock]
        if key not in self.deep:
            where = pointer("parts", key, "deep")
            value = self.read(board.deep, where, "length", EntryScope(self, stock=board.stock), fallback=10.0, part=key)
            if value < MIN_THICKNESS and not self.values[where].stale:
                rule = f"a thickness is at least {format_length(MIN_THICKNESS)}"
                self.fault_entry(
                    where, "bad_value", f"{board.name}: a thickness of {format_length(value)}", rule, format_length(value), key
                )
            self.deep[key] = max(value, MIN_THICKNESS)
        return self.deep[key]

    def datum(self, key: str, axis: str, side: str) -> float:
        """Where a board's low or high face (or centre) lies along an axis, in mm. KeyError where it is not known."""
        board = self.boards[key]
        if axis != frame_of(board.plane).normal:
            if side == "centre":
                return (self.datum(key, axis, "low") + self.datum(key, axis, "high")) / 2
            return self.solved[f"part:{key}:{axis}:{side}"]
        at = self.solved[f"part:{key}:{axis}:at"]
        t = self.thickness_of(key)
        given = {FACES[axis][0]: 0.0, FACES[axis][1]: t, "centre": t / 2}.get(board.position.face)
        if given is None:
            raise KeyError(f"{board.name} has no {board.position.face} across its plane")
        low = at - given
        return {"low": low, "high": low + t, "centre": low + t / 2}[side]

    def box(self, key: str) -> Box | None:
        """A board's span box, None where a datum is missing or a span is reversed or empty."""
        try:
            spans = [(self.datum(key, a, "low"), self.datum(key, a, "high")) for a in AXES]
        except KeyError:
            return None
        if any(high - low <= CONTACT for low, high in spans):
            return None
        # snapped, so that faces that are meant to meet do meet
        return Box(tuple(round(s[0], 7) for s in spans), tuple(round(s[1], 7) for s in spans))  # type: ignore[arg-type]

    def frame_of_group(self, group: str) -> Motion:
        """From inside a group to the room; as if at rest where its place is broken (which is said)."""
        try:
            return motion_between_groups(self, group, "")
        except KeyError:
            return IDENTITY

    def fit_table(self, stock: str) -> FitTable:
        """The fits of a stock on the chosen cutter."""
        cutter = self.document.cutter
        return next((f for f in self.document.fits.values() if f.stock == stock and f.cutter == cutter), DEFAULT_FITS)


class _Unplaced(KeyError):
    """Why a face has no place along an axis; the sentence's end."""

    def __str__(self) -> str:
        return str(self.args[0])


class _GaugeScope(NoScope):
    def __init__(self, system, name: str) -> None:
        self.system, self.name = system, name

    def gauge(self, number: float) -> float:
        return gauge_thickness(self.system, number, self.name)


class EntryScope:
    """Sizes, faces, the stock's gauges and its fits, as entries of parts, joints and features see them; ``axis`` is the one asked for.

    Faces are read as seen from within ``group`` ('' the room), those of ``own`` ('part:KEY' or 'group:KEY') as they are at rest; or from
    a frame that is given whole.
    """

    def __init__(
        self, values: Values, axis: str = "", stock: str = "", group: str = "", own: str = "", frame: Motion | None = None
    ) -> None:
        self.values, self.axis, self.stock, self.group, self.own, self.frame = values, axis, stock, group, own, frame

    def size(self, name: str) -> Quantity:
        """A size, or a fit of the stock at hand."""
        v = self.values
        if name in FIT_NAMES and self.stock:
            return evaluate(getattr(v.fit_table(self.stock), name).text, "mm", "length", NoScope())
        if name not in v.size_keys:
            raise KeyError(
                f"{name} is a part; name one of its faces, as in {name}.left" if name in v.board_keys else f"no size is called {name}"
            )
        key = v.size_keys[name]
        if f"size:{key}" not in v.solved:
            raise KeyError(f"{name} has no value yet")
        return _MAKE[v.document.sizes[key].kind](v.solved[f"size:{key}"])

    def face(self, part: str, face: str) -> Quantity:
        """A face's or centre's place along its axis, or a board's thickness."""
        v = self.values
        key, copy = (v.board_keys[part], "") if part in v.board_keys else v.handed.get(part, ("", ""))
        if not key:
            raise KeyError(f"{part} is left out of the design" if part in v.left_out else f"no part is called {part}")
        if face == "thickness":
            return length(v.thickness_of(key))
        # a mirror image's faces are named as they stand: the words across its plane are exchanged
        axis, side = FACE_SIDES.get(across(face, mirrored_axes(v.document, [copy]) if copy else ()), (self.axis, "centre"))
        if face not in FACE_SIDES and face not in ("centre", "center"):
            raise KeyError(f"a board has no {face}; it has left, right, front, back, bottom, top, centre and thickness")
        if not axis:
            raise KeyError(f"{part}.{face} needs an axis; write mid({part}.left, {part}.right) or the like")
        try:
            motion = self._motion(key, copy)
            if not motion.plain:
                return self._moved(key, part, face, axis, side, motion)
            if self.axis and axis != self.axis:
                raise self._wrong_axis(part, face, axis)
            return Quantity(v.datum(key, axis, side), length=1, axis=axis, weight=1)
        except _Unplaced as error:
            raise KeyError(str(error)) from None
        except KeyError:
            raise KeyError(f"{part}.{face} has no place yet") from None

    def _motion(self, key: str, copy: str) -> Motion:
        """From a board at rest to how this entry sees it."""
        v = self.values
        if copy:
            scope = scope_of(v.document, v.document.copies[copy].of[0]) or ""
            inner = handed_motion(v, copy) @ motion_between(v, key, scope)
            if v.still:
                return inner
            outer = IDENTITY if scope == self.group else motion_between_groups(v, scope, self.group)
            return (self.frame.inverse if self.frame else IDENTITY) @ outer @ inner
        if self.frame is not None:
            return self.frame.inverse @ motion_between(v, key, "")
        if v.still or self.own == f"part:{key}":
            return IDENTITY
        inside = self.own.partition(":")[2] if self.own.startswith("group:") else ""
        return motion_between(v, key, self.group, inside)

    def _wrong_axis(self, part: str, face: str, axis: str) -> KeyError:
        low, high = FACES[self.axis]
        return _Unplaced(f"{part}.{face} lies along {axis}; a place along {self.axis} needs {low}, {high} or centre")

    def _moved(self, key: str, part: str, face: str, axis: str, side: str, motion: Motion) -> Quantity:
        """A face of a board that is turned or moved: a place along the one axis that its plane lies square to."""
        v = self.values
        if side == "centre" and face not in FACE_SIDES:
            place = motion.point([v.datum(key, x, "centre") for x in AXES])
            return Quantity(place[AXES.index(self.axis)], length=1, axis=self.axis, weight=1)
        at = v.datum(key, axis, side)
        direction = motion.vector([1.0 if x == axis else 0.0 for x in AXES])
        now = next((i for i in range(3) if abs(direction[i]) > 1 - 1e-9), None)
        if now is None:
            raise _Unplaced(f"{part}.{face} slopes here, so it has no one place along an axis; name a face that does not, or the centre")
        if self.axis and AXES[now] != self.axis:
            raise self._wrong_axis(part, face, AXES[now])
        # the plane is square to this axis, so only the coordinate along its own old axis counts
        return Quantity(direction[now] * at + motion.rows[now][3], length=1, axis=AXES[now], weight=1)

    def gauge(self, number: float) -> float:
        """Thickness of a gauge number on the stock at hand."""
        stock = self.values.document.stocks.get(self.stock)
        if stock is None:
            raise KeyError("a gauge needs a stock with a gauge table")
        return gauge_thickness(stock.gauge, number, stock.name)


def _lost(reason: str) -> str:
    """The name that a reason says is not there."""
    found = re.match(r"no (?:part|size) is called (\S+)$|(\S+) is left out of the design$", reason)
    return (found.group(1) or found.group(2)) if found else ""


def solve(document: Document, good: dict[str, float] | None = None) -> Values:
    """All sizes and datums of a document, in the graph's order."""
    values = Values(document, good)
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
    _check_ranges(values)
    _check_spans(values)
    return values


def _solve_node(values: Values, node: Datum) -> None:
    stock = values.boards[node.part].stock if node.part else ""
    scope = EntryScope(values, node.axis, stock, node.group, node.own)
    before = len(values.faults)
    if node.id.startswith("size:") and values.document.sizes[node.id[5:]].measured:
        found = _measured(values, node)
        if found is not None:
            values.solved[node.id] = found
        return
    owner = node.id.removesuffix(":at") if node.id.startswith("copy:") else ""
    result = values.read(node.entry, node.pointer, node.kind, scope, part=node.part, owner=owner)
    if len(values.faults) == before or node.pointer in values.good:
        values.solved[node.id] = result


def _measured(values: Values, node: Datum) -> float | None:
    """The value of a size that follows the design; a fault, and its last good value, where what it measures is gone."""
    size = values.document.sizes[node.id[5:]]
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


def _check_ranges(values: Values) -> None:
    """A size has to stay in the range it is meant to work in."""
    document = values.document
    scope = EntryScope(values)
    for key, size in document.sizes.items():
        value = values.solved.get(f"size:{key}")
        for side, bound, wrong in (("low", size.low, -1), ("high", size.high, 1)):
            if bound is None or value is None:
                continue
            limit = values.read(bound, pointer("sizes", key, side), size.kind, scope)
            if (value - limit) * wrong > 1e-9:
                shown = [_shown(v, size.kind, document) for v in (value, limit)]
                word = "under its least" if wrong < 0 else "over its greatest"
                mend = Mend(
                    f"Set {size.name} to {shown[1]}",
                    [{"op": "replace", "path": pointer("sizes", key, "entry"), "value": _plain(bound, limit, size.kind, document)}],
                )
                values.faults.append(
                    Fault("size_range", f"{size.name} is {shown[0]}, {word} value of {shown[1]}", f"{'at least' if wrong < 0 else 'at most'} {shown[1]}",
                          shown[0], "the range given with the size", "warning", owner=f"size:{key}", entry=pointer("sizes", key, "entry"), mends=(mend,))
                )  # fmt: skip


def _plain(bound: Entry, limit: float, kind: str, document: Document) -> dict[str, Any]:
    """A bound as a size's own entry: as it is written where it reads nothing else, as its value where it might come back to the size itself."""
    try:
        evaluate(bound.text, bound.unit, kind, NoScope())  # type: ignore[arg-type]
    except ExpressionError:
        text = (
            exact_length(limit, document.unit)
            if kind == "length"
            else f"{math.degrees(limit):.10g} deg"
            if kind == "angle"
            else f"{limit:.10g}"
        )
        return {"text": text, "unit": document.unit}
    return bound.model_dump()


def _shown(value: float, kind: str, document: Document) -> str:
    if kind == "length":
        return format_length(value, document.display)
    return f"{value * 57.29577951308232:.6g}°" if kind == "angle" else f"{value:.6g}"


def _check_spans(values: Values) -> None:
    """A span runs from low to high; the swap is its mend."""
    for key, board in values.boards.items():
        if board.position.face not in (*FACES[frame_of(board.plane).normal], "centre"):
            allowed = ", ".join(FACES[frame_of(board.plane).normal])
            values.fault_entry(pointer("parts", key, "position", "face"), "bad_position",
                               f"{board.name}: its position cannot be its {board.position.face} face", f"one of {allowed} or centre", part=key)  # fmt: skip
        for axis, span in board.spans.items():
            low, high = (values.solved.get(f"part:{key}:{axis}:{s}") for s in ("low", "high"))
            if low is None or high is None or high - low > CONTACT:
                continue
            empty = abs(high - low) <= CONTACT
            shown = format_length(high - low, values.document.display)
            names = FACES[axis]
            swap = Mend(f"Swap the ends of {board.name}", [
                {"op": "replace", "path": pointer("parts", key, "spans", axis), "value": {"low": span.high.model_dump(), "high": span.low.model_dump()}}
            ])  # fmt: skip
            values.faults.append(
                Fault("empty_span" if empty else "reversed_span",
                      f"{board.name} runs {shown} from {names[0]} to {names[1]}: its span is {'empty' if empty else 'reversed'}",
                      f"{names[1]} lies beyond {names[0]}", shown, part=key, entry=pointer("parts", key, "spans", axis),
                      mends=() if empty else (swap,))
            )  # fmt: skip
