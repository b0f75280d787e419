"""Working out sizes and datums: every entry's value, its faults, and the scopes that later entries are read in."""

from __future__ import annotations

from zygon.build.built import Box, Fault, Mend, Value
from zygon.build.graph import FACE_SIDES, Datum, datums_of, graph_order, node_label
from zygon.design.document import Document
from zygon.design.limits import MAX_LENGTH, MIN_THICKNESS
from zygon.design.patch import pointer
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.geometry.tolerance import CONTACT
from zygon.measure.display import format_length
from zygon.measure.entry import Entry
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.quantity import Kind, Quantity, count, length, number
from zygon.measure.quantity import angle as angle_of
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
        self.board_keys = {b.name: k for k, b in self.boards.items()}
        self.size_keys = {s.name: k for k, s in document.sizes.items()}
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
        self.values[where] = Value(value, kind)
        return value

    def _broken(self, error: ExpressionError, where: str, kind: str, fallback: float, part: str, owner: str) -> float:
        value = self.good.get(where, fallback)
        self.values[where] = Value(value, kind, stale=True)
        self.faults.append(Fault("broken_expression", error.message, error.reason, error.text, part=part, owner=owner, entry=where))
        return value

    def fault_entry(self, where: str, code: str, message: str, rule: str, value: str = "", part: str = "", owner: str = "") -> None:
        """Records a fault of an entry whose value was read but cannot be."""
        self.faults.append(Fault(code, message, rule, value, part=part, owner=owner, entry=where))

    def datum(self, key: str, axis: str, side: str) -> float:
        """Where a board's low or high face (or centre) lies along an axis, in mm. KeyError where it is not known."""
        board = self.boards[key]
        if axis != frame_of(board.plane).normal:
            if side == "centre":
                return (self.datum(key, axis, "low") + self.datum(key, axis, "high")) / 2
            return self.solved[f"part:{key}:{axis}:{side}"]
        at = self.solved[f"part:{key}:{axis}:at"]
        t = self.thicknesses[board.stock]
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

    def fit_table(self, stock: str) -> FitTable:
        """The fits of a stock on the chosen cutter."""
        cutter = self.document.cutter
        return next((f for f in self.document.fits.values() if f.stock == stock and f.cutter == cutter), DEFAULT_FITS)


class _GaugeScope(NoScope):
    def __init__(self, system, name: str) -> None:
        self.system, self.name = system, name

    def gauge(self, number: float) -> float:
        return gauge_thickness(self.system, number, self.name)


class EntryScope:
    """Sizes, faces, the stock's gauges and its fits, as entries of parts, joints and features see them; ``axis`` is the one asked for."""

    def __init__(self, values: Values, axis: str = "", stock: str = "") -> None:
        self.values, self.axis, self.stock = values, axis, stock

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
        if part not in v.board_keys:
            raise KeyError(f"no part is called {part}")
        key = v.board_keys[part]
        if face == "thickness":
            return length(v.thicknesses[v.boards[key].stock])
        axis, side = FACE_SIDES.get(face, (self.axis, "centre"))
        if face not in FACE_SIDES and face not in ("centre", "center"):
            raise KeyError(f"a board has no {face}; it has left, right, front, back, bottom, top, centre and thickness")
        if not axis:
            raise KeyError(f"{part}.{face} needs an axis; write mid({part}.left, {part}.right) or the like")
        if self.axis and axis != self.axis:
            low, high = FACES[self.axis]
            raise KeyError(f"{part}.{face} lies along {axis}; a place along {self.axis} needs {low}, {high} or centre")
        try:
            return Quantity(v.datum(key, axis, side), length=1, axis=axis, weight=1)
        except KeyError:
            raise KeyError(f"{part}.{face} has no place yet") from None

    def gauge(self, number: float) -> float:
        """Thickness of a gauge number on the stock at hand."""
        stock = self.values.document.stocks.get(self.stock)
        if stock is None:
            raise KeyError("a gauge needs a stock with a gauge table")
        return gauge_thickness(stock.gauge, number, stock.name)


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
    scope = EntryScope(values, node.axis, stock)
    before = len(values.faults)
    result = values.read(node.entry, node.pointer, node.kind, scope, part=node.part)
    if len(values.faults) == before or node.pointer in values.good:
        values.solved[node.id] = result


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
                    [{"op": "replace", "path": pointer("sizes", key, "entry"), "value": bound.model_dump()}],
                )
                values.faults.append(
                    Fault("size_range", f"{size.name} is {shown[0]}, {word} value of {shown[1]}", f"{'at least' if wrong < 0 else 'at most'} {shown[1]}",
                          shown[0], "the range given with the size", "warning", owner=f"size:{key}", entry=pointer("sizes", key, "entry"), mends=(mend,))
                )  # fmt: skip


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
