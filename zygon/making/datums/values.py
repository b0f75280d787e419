"""The values of a document: entries read, what stands in their place where they cannot be, and where boards lie along each axis."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from typing import TYPE_CHECKING

import numpy as np

from zygon.design.document import Document
from zygon.design.outlines import drawing_of
from zygon.design.parts.kinds import is_connector, is_hardware, is_member
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.motion import Motion, three
from zygon.limits import MAX_LENGTH, MIN_THICKNESS
from zygon.making.connector.seating import Seating
from zygon.making.datums.connectors import Fitting, Reach, fitting_of, reaches_of, seating_of
from zygon.making.datums.graph import naming_of
from zygon.making.datums.ids import end_of, face_at, hardware_moved
from zygon.making.datums.members import Lying, NoPlace, axis_of, box_of_member, lying_of
from zygon.making.datums.scope import EntryScope, GaugeScope
from zygon.making.datums.sections import section_of_stock
from zygon.making.hardware.body import HardwareBody, body_of, stance_of
from zygon.making.result.box import Box
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.value import Value
from zygon.making.turned.body import TurnedBody
from zygon.measure.display import format_length
from zygon.measure.entry import Entry
from zygon.measure.evaluate import NoScope, Scope, evaluate
from zygon.measure.quantity import Kind
from zygon.measure.syntax import mixed_numbers
from zygon.owner import part_id
from zygon.stock.fit import FitTable
from zygon.stock.kinds import is_bar
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS

if TYPE_CHECKING:
    from zygon.design.parts.connector import Socket
    from zygon.making.datums.drawings import Drawn, Holes

__all__ = ["LegFaces", "Values"]

#: The rectangle of a leg's face of a folded part at rest, (3, 3) as ``rectangle_spot`` has it, from the values so far, the part's key, the leg's
#: key or name, and 'inner' or 'outer'. KeyError, with a sentence, where there is none.
LegFaces = Callable[["Values", str, str, str], np.ndarray]

#: Fits where a stock and cutter have no table of their own.
DEFAULT_FITS = FitTable(stock="", cutter="")


class Values:
    """The values of one document. Entries are read with ``read``; what cannot be read becomes a fault and the last good value."""

    def __init__(self, document: Document, good: dict[str, float] | None = None, leg_faces: LegFaces | None = None) -> None:
        self.document = document
        self._leg_faces = leg_faces
        #: where points lie that lie on lines, by frame and point, once that is worked out
        self.on_lines: dict[tuple[str, str], np.ndarray] = {}
        self._lying: dict[str, Lying] = {}
        self._axes: dict[str, tuple[np.ndarray, np.ndarray, np.ndarray]] = {}
        self._seatings: dict[str, Seating] = {}
        self._reaches: dict[str, dict[str, Reach]] = {}
        self._fittings: dict[str, Fitting] = {}
        #: turned parts as they are made, once that is worked out
        self.turned: dict[str, TurnedBody] = {}
        #: outlines drawn freely that say how far their spans reach, once they are solved; None while they are
        self.drawings: dict[str, Drawn | None] = {}
        #: sections that are drawn, by stock
        self.drawn_sections: dict[str, Drawn] = {}
        #: the drawings of frames, once they are solved
        self.paths: dict[str, Drawn] = {}
        #: the holes that drawings on a part may refer to, once there are blanks
        self.holes_on: Callable[[str], Holes | None] = lambda _: None
        self._hardware: dict[str, tuple[HardwareBody, Motion, Box]] = {}
        self._legs: dict[tuple[str, str, str], np.ndarray | None] = {}
        self.good = good or {}
        self.values: dict[str, Value] = {}
        self.faults: list[Fault] = []
        self.solved: dict[str, float] = {}
        self.boards = document.placed()
        self.left_out = {p.name for k, p in document.parts.items() if document.left_out(k)}
        names = naming_of(document)
        self.board_keys, self.handed, self.move_keys = names.boards, names.handed, names.moves
        self.size_keys = {s.name: k for k, s in document.sizes.items()}
        #: whether every board stands in its place at rest
        self.still = not any(b.turns for b in self.boards.values()) and not any(g.turns or g.move for g in document.groups.values())
        #: by part and axis: the face by which it is placed there, where it does not run between two
        self.across: dict[str, dict[str, str]] = {k: {e.axis: e.face for e in p.ends() if e.side == "at"} for k, p in self.boards.items()}
        self.deep: dict[str, float] = {}
        #: the connectors that stand on each point, by frame and point; the first is the one that takes what meets there
        self.connectors_at: dict[tuple[str, str], list[str]] = {}
        for key, part in self.boards.items():
            if is_connector(part):
                self.connectors_at.setdefault((part.frame, part.point), []).append(key)
        self.thicknesses = {k: self._thickness(k) for k in document.stocks}
        self.sections = {k: section_of_stock(self, k, s) for k, s in document.stocks.items() if is_bar(s)}

    def _thickness(self, key: str) -> float:
        stock = self.document.stocks[key]
        scope = GaugeScope(stock.gauge, stock.name)
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

    def drawn_along(self, key: str, axis: str) -> float:
        """How far a part's own drawing reaches along an axis, in mm. KeyError, with a sentence, where it does not."""
        from zygon.making.datums.drawings import drawn_along

        return drawn_along(self, key, axis)

    def drawn_name(self, key: str, name: str) -> bool:
        """Whether a part's drawing has a line of a name."""
        drawing = drawing_of(self.boards[key])
        return drawing is not None and drawing.named(name) is not None

    def drawn_place(self, key: str, name: str) -> tuple[str, list[tuple[float, float, float]]]:
        """Where a named line of a part's drawing lies at rest: the axis that it is square to in its plane ('' where it slopes), and places on it.

        Those are four corners of its edge, from end to end and from face to face; of a circle or an arc its middle alone. KeyError where it has none yet.
        """
        from zygon.making.datums.drawings import drawn_place

        return drawn_place(self, key, name)

    def section_of(self, key: str) -> Section | None:
        """The section of a part that is cut from a bar."""
        return self.sections.get(self.boards[key].stock)

    def depth_of(self, key: str, axis: str) -> float:
        """How deep a part is in mm along an axis that it does not run along."""
        section = self.section_of(key)
        if section is None:
            return self.thickness_of(key)
        return section.extents[0 if axis == self.boards[key].width_along else 1]

    def read(
        self,
        entry: Entry,
        where: str,
        kind: Kind = "length",
        scope: Scope | None = None,
        *,
        fallback: float = 0.0,
        part: str = "",
        owner: str = "",
    ) -> float:
        """An entry's value in mm, radians or as it is. A broken one is a fault at ``where`` and gives the last good value."""
        try:
            value = evaluate(entry.text, entry.unit, kind, scope or NoScope()).value
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
                lost=error.lost,
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
            scope = EntryScope(self, "", board.stock, board.group, part_id(key))
            value = self.read(board.deep, where, "length", scope, fallback=10.0, part=key)
            if value < MIN_THICKNESS and not self.values[where].stale:
                rule = f"a thickness is at least {format_length(MIN_THICKNESS)}"
                self.fault_entry(
                    where, "bad_value", f"{board.name}: a thickness of {format_length(value)}", rule, format_length(value), key
                )
            self.deep[key] = max(value, MIN_THICKNESS)
        return self.deep[key]

    def datum(self, key: str, axis: str, side: str) -> float:
        """Where a board's low or high face (or centre) lies along an axis, in mm. KeyError where it is not known."""
        board, face = self.boards[key], self.across[key].get(axis)
        if is_member(board) or is_connector(board):
            box = self._box_on_frame(key)
            low, high = box.span(axis)
            return {"low": low, "high": high, "centre": (low + high) / 2}[side]
        if is_hardware(board):
            own = self.hardware(key)[2]
            low, high = own.span(axis)
            places = {FACES[axis][0]: low, FACES[axis][1]: high, "centre": (low + high) / 2}
            at = self.solved[face_at(key, axis)] - places.get(face or "", self.place_in(key, face or "", axis))
            return at + {"low": low, "high": high, "centre": (low + high) / 2}[side]
        if face is None:
            if side == "centre":
                return (self.datum(key, axis, "low") + self.datum(key, axis, "high")) / 2
            return self.solved[end_of(key, axis, side)]
        at = self.solved[face_at(key, axis)]
        t = self.depth_of(key, axis)
        given = {FACES[axis][0]: 0.0, FACES[axis][1]: t, "centre": t / 2}.get(face)
        if given is None:
            raise KeyError(f"{board.name} has no {face} across its plane")
        low = at - given
        return {"low": low, "high": low + t, "centre": low + t / 2}[side]

    def leg_face(self, part: str, leg: str, side: str) -> np.ndarray:
        """The face of a leg of a folded part, as ``LegFaces`` has it. KeyError, with a sentence, where it has no place."""
        at = (part, leg, side)
        if at not in self._legs:
            if self._leg_faces is None:
                raise KeyError(f"{self.boards[part].name} is not folded yet")
            self._legs[at] = None  # what asks for itself while it is worked out has no place
            try:
                self._legs[at] = self._leg_faces(self, part, leg, side)
            finally:
                if self._legs[at] is None:
                    del self._legs[at]
        found = self._legs[at]
        if found is None:
            raise KeyError(f"{self.boards[part].name}.{leg} depends on itself")
        return found

    def hardware(self, key: str) -> tuple[HardwareBody, Motion, Box]:
        """The body of a piece of hardware as far as it is moved, how it stands, and its box so about its origin; kept once it is known. KeyError before that."""
        if key not in self._hardware:
            record = self.boards[key]
            assert is_hardware(record)
            moved = self.solved[hardware_moved(key)] if record.moved is not None else None
            body, stance = body_of(record.designation, record.shape, moved), stance_of(record.looks, record.along)
            low, high = body.reach(stance.matrix)
            self._hardware[key] = body, stance, Box(three(low), three(high))
        return self._hardware[key]

    def place_in(self, key: str, name: str, axis: str) -> float:
        """How far along an axis a named place of a piece of hardware lies from its origin at rest; 0 of a name that it has not."""
        body, stance, _ = self.hardware(key)
        return stance.point(body.places.get(name, (0.0, 0.0, 0.0)))[AXES.index(axis)]

    def turned_body(self, key: str) -> TurnedBody | None:
        """A turned part's body, once it is made; None where it has none."""
        return self.turned.get(key)

    def named_in(self, key: str) -> dict[str, tuple[float, float, float]]:
        """The points that have names of a piece of hardware where it lies at rest; none of other parts. KeyError where it has no place yet."""
        if not is_hardware(self.boards[key]):
            return {}
        body, stance, own = self.hardware(key)
        shift = [self.datum(key, a, "low") - own.span(a)[0] for a in AXES]
        return {n: three(x + s for x, s in zip(stance.point(p), shift, strict=True)) for n, p in body.places.items()}

    def lying(self, key: str) -> Lying:
        """How a member lies on its lines. KeyError where that is not known, NoPlace where it cannot be."""
        if key not in self._lying:
            self._lying[key] = lying_of(self, key)
        return self._lying[key]

    def axis(self, key: str) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """The corners of a member's axis from its line's start to its end, and its u and v at A, as ``axis_of`` has them; kept once it is known."""
        if key not in self._axes:
            self._axes[key] = axis_of(self, key)
        return self._axes[key]

    def seating(self, key: str) -> Seating:
        """Which members lie in which sockets of a connector. KeyError where that is not known."""
        if key not in self._seatings:
            self._seatings[key] = seating_of(self, key)
        return self._seatings[key]

    def reaches(self, key: str) -> dict[str, Reach]:
        """From where to where each socket of a connector reaches. KeyError where that is not known."""
        if key not in self._reaches:
            self._reaches[key] = reaches_of(self, key)
        return self._reaches[key]

    def fitting(self, key: str) -> Fitting:
        """A connector as it stands. KeyError where that is not known, NoPlace where it cannot be."""
        if key not in self._fittings:
            self._fittings[key] = fitting_of(self, key)
        return self._fittings[key]

    def kept_back(self, member: str, end: str) -> float:
        """How far from its line's end a socket keeps a member's end, in mm; 0 where none takes it, negative where it goes beyond."""
        for key in self.connectors_at.get(self.end_of_line(member, end), ()):
            with suppress(KeyError):
                seat = self.seating(key).of(member, end)
                if seat is not None:
                    return self.reaches(key)[seat.socket].back
        return 0.0

    def socket(self, key: str, socket: str) -> Socket:
        """The record of a connector's socket."""
        record = self.boards[key]
        assert is_connector(record)
        return record.sockets[socket]

    def end_of_line(self, member: str, end: str) -> tuple[str, str]:
        """Frame and point at which a member's lines begin or end."""
        record = self.boards[member]
        assert is_member(record)
        chain = self.document.frames[record.frame].chain(record.lines)
        assert chain
        return record.frame, chain[0 if end == "a" else -1]

    def _box_on_frame(self, key: str) -> Box:
        if is_connector(self.boards[key]):
            return self.fitting(key).box
        section = self.section_of(key)
        assert section
        return box_of_member(self.lying(key), section)

    def slopes(self, key: str) -> bool:
        """Whether a part is a member that runs along no axis. KeyError where that is not known."""
        if not is_member(self.boards[key]):
            return False
        lying = self.lying(key)
        return bool(lying.points) or max(abs(x) for x in lying.way) < 1 - EPS

    def box(self, key: str) -> Box | None:
        """A board's span box, None where a datum is missing or a span is reversed or empty."""
        if is_member(self.boards[key]) or is_connector(self.boards[key]):
            try:
                return self._box_on_frame(key)
            except NoPlace as error:
                where = f"{pointer('parts', key)}/{error.field}"
                if all(f.entry != where for f in self.faults):
                    self.faults.append(Fault("no_place", error.said, error.rule, part=key, entry=where))
                return None
            except KeyError:
                return None
        try:
            spans = [(self.datum(key, a, "low"), self.datum(key, a, "high")) for a in AXES]
        except KeyError:
            return None
        if any(high - low <= CONTACT for low, high in spans):
            return None
        # snapped, so that faces that are meant to meet do meet
        return Box(three(round(s[0], 7) for s in spans), three(round(s[1], 7) for s in spans))

    def fit_table(self, stock: str) -> FitTable:
        """The fits of a stock on the chosen cutter."""
        cutter = self.document.cutter
        return next((f for f in self.document.fits.values() if f.stock == stock and f.cutter == cutter), DEFAULT_FITS)
