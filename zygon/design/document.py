"""The document's records: sizes, stocks, cutters, fits, parts, joints, bores, kept problems, in maps under immutable keys."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from typing import Any, ClassVar, Literal

from pydantic import Field, ValidationError

from zygon.design.arrangement import Arrangement
from zygon.design.drawn_in import drawings_in
from zygon.design.features import Bore
from zygon.design.folding import CUT_EDGES
from zygon.design.frames import LineFrame
from zygon.design.hardware import HardwareList
from zygon.design.joints import BOARD_JOINTS, MEMBER_JOINTS, Joint
from zygon.design.layout import Clearance, Copy, Group, MirrorCopy, Place, Turn, origin_of
from zygon.design.movement import Move, Position, Tie
from zygon.design.outlines import Traced
from zygon.design.papers import Papers
from zygon.design.parts.connector import Connector
from zygon.design.parts.folded import FoldedPart
from zygon.design.parts.kinds import (
    Part,
    PlacedKind,
    PlateKind,
    is_connector,
    is_framed,
    is_hardware,
    is_member,
    is_placed,
    is_plate,
    is_rod,
    is_turned,
)
from zygon.design.parts.listed import Key
from zygon.design.parts.member import Member
from zygon.design.parts.placed import Work
from zygon.design.test_pieces import TestPiece
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, frame_of
from zygon.limits import (
    MAX_BORES,
    MAX_COPY_RECORDS,
    MAX_FRAMES,
    MAX_GROUPS,
    MAX_JOINTS,
    MAX_MOVES,
    MAX_PARTS,
    MAX_POSITIONS,
    MAX_SIZES,
    MAX_TIES,
)
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.measure.units import name_fault
from zygon.stock.brake import Brake
from zygon.stock.cutter import Cutter
from zygon.stock.fit import FitTable
from zygon.stock.hardware.catalogue import by_designation
from zygon.stock.kinds import Stock, StockKind, is_sheet
from zygon.stock.sheet import SheetStock

__all__ = [
    "SCHEMA",
    "Document",
    "Edges",
    "HelpMarks",
    "Kept",
    "Measured",
    "MeasuredDrawn",
    "NestSettings",
    "Rules",
    "Size",
    "mirrored_axes",
    "parse_document",
    "scope_of",
]

SCHEMA = 8
#: What a bought part is shown as that is of none of the stocks.
_BOUGHT = SheetStock(name="bought", material="bought", nominal=Entry(text="1 mm"), density=1.0, tint="#8C959E", hatch="plastic")


class Measured(Record):
    """A distance or angle of the design itself, which a size follows: along an axis, the straight way, or between two directions."""

    a: Place
    b: Place
    along: Literal["x", "y", "z", "straight", "angle"]


class MeasuredDrawn(Record):
    """A dimension of a drawing that a size follows."""

    drawn: str = Field(description="what is drawn on: a part's key, the id of a bar's stock or of a frame")
    feature: str = Field(default="", description="key of a shape, id of a drawn profile; '' for what it is itself")
    relation: Key


class Size(Record):
    """A named value; the design is meant to work while it stays between ``low`` and ``high``. A ``measured`` one follows the design."""

    name: str
    kind: Literal["length", "angle", "count", "number"] = "length"
    entry: Entry
    measured: Measured | MeasuredDrawn | None = None
    low: Entry | None = None
    high: Entry | None = None
    note: str = Field(default="", max_length=200)
    order: int = 0


class Kept(Record):
    """A problem knowingly kept; it opens again when its value or its rule changes."""

    reason: str = Field(min_length=1, max_length=300)
    by: str = Field(min_length=1, max_length=80)
    value: str
    rule: str


class Rules(Record):
    """What counts as too thin, in thicknesses of the part (common practice)."""

    title: ClassVar[str] = "Rules, in thicknesses"

    finger: float = asked("Finger at least", 0.5, note="least width of a finger", step=0.1, ge=0, le=10)
    web: float = asked("Web at least", 1.0, note="least wood between two cuts", step=0.1, ge=0, le=10)
    edge: float = asked("Hole to edge", 1.0, note="least wood between a hole and an edge", step=0.1, ge=0, le=10)
    floor: float = asked("Left under a pocket", 0.25, note="least wood under a pocket, groove or blind hole", step=0.05, ge=0, le=1)


class HelpMarks(Record):
    """Marks that help in the shop, engraved where the assembly hides them."""

    title: ClassVar[str] = "Marks that help"

    numbers: bool = asked("Part numbers", False, note="of the cut list")
    mates: bool = asked("Mating marks, A1 to A1", False, note="on the two boards of every joint")
    inside: bool = asked("Which face looks inward", False)
    grain: bool = asked("Grain direction", False, note="an arrow along the grain")
    height: Entry = asked("Letter height", Entry(text="6 mm"))


class Edges(Record):
    """Margins of their own at a sheet's edges; the one for all holds where there is none."""

    left: Entry | None = None
    right: Entry | None = None
    bottom: Entry | None = None
    top: Entry | None = None


class Begun(Record):
    """Where a cut of a part is begun by hand: the place on its flat, mm; what is no longer near a cut of it does not count."""

    part: str = Field(max_length=400, description="key of the part, or of the one that its copies are cut like")
    x: float = Field(ge=-1e7, le=1e7)
    y: float = Field(ge=-1e7, le=1e7)


class NestSettings(Record):
    """How parts are laid on sheets. ``arranged`` are the stocks that are laid by hand, ``begun`` the places at which cuts are begun by hand."""

    gap: Entry = Entry(text="3 mm")
    margin: Entry = Entry(text="5 mm")
    edges: Edges = Edges()
    arranged: dict[Key, Arrangement] = Field(default_factory=dict, max_length=100)
    begun: dict[Key, Begun] = Field(default_factory=dict, max_length=500)
    seed: int = Field(default=1, ge=0, le=2**31 - 1)
    seconds: float = Field(default=2.0, gt=0, le=120)


class Document(Record):
    """A design whole."""

    schema_: Literal[8] = Field(default=8, alias="schema")
    name: str = Field(min_length=1, max_length=80)
    note: str = Field(default="", max_length=2000)
    unit: Literal["mm", "in"] = Field(default="mm", description="what a bare number means when it is typed now")
    display: Literal["mm", "in", "fraction"] = "mm"
    currency: str = Field(default="EUR", max_length=3)
    sizes: dict[Key, Size] = Field(default_factory=dict, max_length=MAX_SIZES)
    stocks: dict[Key, Stock] = Field(default_factory=dict, max_length=100)
    cutters: dict[Key, Cutter] = Field(default_factory=dict, max_length=20)
    cutter: str = ""
    brakes: dict[Key, Brake] = Field(default_factory=dict, max_length=20)
    brake: str = Field(default="", description="the press brake that folded parts are bent on; '' for none")
    fits: dict[Key, FitTable] = Field(default_factory=dict, max_length=200)
    parts: dict[Key, Part] = Field(default_factory=dict, max_length=MAX_PARTS)
    frames: dict[Key, LineFrame] = Field(default_factory=dict, max_length=MAX_FRAMES)
    joints: dict[Key, Joint] = Field(default_factory=dict, max_length=MAX_JOINTS)
    bores: dict[Key, Bore] = Field(default_factory=dict, max_length=MAX_BORES)
    groups: dict[Key, Group] = Field(default_factory=dict, max_length=MAX_GROUPS)
    copies: dict[Key, Copy] = Field(default_factory=dict, max_length=MAX_COPY_RECORDS)
    clearances: dict[Key, Clearance] = Field(default_factory=dict, max_length=MAX_GROUPS)
    moves: dict[Key, Move] = Field(default_factory=dict, max_length=MAX_MOVES, description="what is said of movements")
    positions: dict[Key, Position] = Field(default_factory=dict, max_length=MAX_POSITIONS)
    ties: dict[Key, Tie] = Field(
        default_factory=dict, max_length=MAX_TIES, description="what is one thing, or free, otherwise than is found"
    )
    still: str = Field(default="", max_length=80, description="instance key of a part of what stands still; '' for what bears the rest")
    numbering: str = Field(
        default="{number}",
        max_length=40,
        description="how parts are numbered: {number} on the whole list, {group} and {part} within its group",
    )
    kept: dict[str, Kept] = Field(default_factory=dict, max_length=2000)
    tests: dict[Key, TestPiece] = Field(default_factory=dict, max_length=100)
    marks: HelpMarks = HelpMarks()
    rules: Rules = Rules()
    nest: NestSettings = NestSettings()
    hardware: HardwareList = HardwareList()
    papers: Papers = Papers()

    model_config = {**Record.model_config, "populate_by_name": True}

    def placed(self, *, out: bool = False) -> dict[str, PlacedKind]:
        """The parts that lie in the room by key, in order; those that are left out only where ``out`` asks for them."""
        found = {k: p for k, p in self.parts.items() if is_placed(p) and (out or not self.left_out(k))}
        return dict(sorted(found.items(), key=lambda kp: (kp[1].order, kp[0])))

    def plates(self, *, out: bool = False) -> dict[str, PlateKind]:
        """The placed parts that lie in a plane."""
        return {k: p for k, p in self.placed(out=out).items() if is_plate(p)}

    @property
    def sheets(self) -> dict[str, SheetStock]:
        """The stocks that flat parts are cut from."""
        return {k: s for k, s in self.stocks.items() if is_sheet(s)}

    def stock_of(self, part: PlacedKind) -> StockKind:
        """What a part is of."""
        return self.stocks[part.stock] if part.stock else _BOUGHT

    def left_out(self, key: str) -> bool:
        """Whether a part is left out, by itself or with a group that it lies in."""
        part = self.parts[key]
        return part.out or any(self.groups[g].out for g in self.within(part.group))

    def within(self, group: str) -> list[str]:
        """The keys of a group and of those that it lies in, from the inside out; none for ''."""
        found: list[str] = []
        while group and group in self.groups and group not in found:
            found.append(group)
            group = self.groups[group].parent
        return found

    def in_order(self) -> list[str]:
        """The keys of the parts that are not left out, group by group: ungrouped ones first, then each group's own in order."""

        def rank(key: str) -> tuple:
            groups = reversed(self.within(self.parts[key].group))
            return tuple((1, self.groups[g].order, g) for g in groups), (0, self.parts[key].order, key)

        return sorted((k for k in self.parts if not self.left_out(k)), key=lambda k: (*rank(k)[0], rank(k)[1]))

    def dump(self) -> dict[str, Any]:
        """The document as plain JSON data."""
        return self.model_dump(mode="json", by_alias=True, exclude_none=True)


def parse_document(data: object) -> Document:
    """The document in ``data`` (current schema), checked whole. Raises DocumentError naming the entry, value and rule."""
    try:
        document = Document.model_validate(data)
    except ValidationError as error:
        raise _first_fault(error, data) from None
    _check_names(document)
    _check_references(document)
    return document


def _first_fault(error: ValidationError, data: object) -> DocumentError:
    fault = error.errors(include_url=False)[0]
    # the tags of unions ('board', 'hole') stand in pydantic's path but not in the document
    path: list[str] = []
    for step in fault["loc"]:
        if isinstance(data, dict) and step not in data and data.get("kind", "sheet") == step:
            continue
        path.append(str(step))
        data = (
            data.get(step)
            if isinstance(data, dict)
            else data[step]
            if isinstance(data, list) and isinstance(step, int) and step < len(data)
            else None
        )
    entry = "/" + "/".join(path)
    value = fault.get("input")
    shown = (
        value[:200] if isinstance(value, str) else value if isinstance(value, (int, float, bool)) or value is None else type(value).__name__
    )
    return DocumentError(f"{entry}: {fault['msg']} (given: {shown!r})", entry=entry, value=shown, rule=fault["msg"])


def _check_names(document: Document) -> None:
    taken: dict[str, str] = {}

    def take(name: str, entry: str, what: str) -> None:
        fault = name_fault(name, part=what != "size")
        if fault is None and name in taken:
            fault = f"{name} is already the name of a {taken[name]}"
        if fault:
            raise DocumentError(f"{name or 'Name'}: {fault}", entry=entry, value=name, rule=fault, code="bad_name")
        taken[name] = what

    for group, records in (("sizes", document.sizes), ("parts", document.parts), ("groups", document.groups), ("frames", document.frames)):
        for key, record in records.items():
            take(record.name, f"/{group}/{key}/name", group[:-1])
    for key, move in document.moves.items():
        take(move.name, f"/moves/{key}/name", "movement")
    for key, made in document.copies.items():
        if isinstance(made, MirrorCopy):
            for part, name in made.names.items():
                take(name, f"/copies/{key}/names/{part}", "part")


def _check_references(document: Document) -> None:
    def need(known: dict[str, Any], key: str, entry: str, what: str) -> None:
        if key not in known:
            rule = f"there is no {what} with the key {key!r}"
            raise DocumentError(f"{entry}: {rule}", entry=entry, value=key, rule=rule, code="bad_reference")

    boards = document.placed(out=True)
    _check_items(document)
    for key, frame in document.frames.items():
        if frame.group:
            need(document.groups, frame.group, f"/frames/{key}/group", "group")
        found = frame.fault()
        if found:
            field, value, rule = found
            raise DocumentError(f"{frame.name}: {rule}", entry=f"/frames/{key}/{field}", value=value, rule=rule, code="bad_reference")
    if document.cutter:
        need(document.cutters, document.cutter, "/cutter", "cutter")
    if document.brake:
        need(document.brakes, document.brake, "/brake", "press brake")
    for key, fit in document.fits.items():
        need(document.sheets, fit.stock, f"/fits/{key}/stock", "stock")
        need(document.cutters, fit.cutter, f"/fits/{key}/cutter", "cutter")
    for key, board in boards.items():
        if is_hardware(board) or (is_turned(board) and not board.stock):
            pass  # its material is its own
        elif board.kind == "bought" and not board.stock:
            if board.deep is None:
                rule = "a bought part has a stock, or a thickness of its own"
                raise DocumentError(f"{board.name}: {rule}", entry=f"/parts/{key}/deep", value="", rule=rule)
        elif board.stock or not is_connector(board):
            need(document.stocks, board.stock, f"/parts/{key}/stock", "stock")
        _check_placed(document, key, board)
        if is_framed(board):
            need(document.frames, board.frame, f"/parts/{key}/frame", "frame")
            _check_framed(document, key, board)
        if board.kind == "folded":
            _check_flanges(key, board, need)
    for key, test in document.tests.items():
        need(document.sheets, test.stock, f"/tests/{key}/stock", "stock")
        need(document.cutters, test.cutter, f"/tests/{key}/cutter", "cutter")
    for key, joint in document.joints.items():
        for field, end in (("a", joint.a), ("b", joint.b)):
            _takes(document, end.partition("@")[0], "joint", f"/joints/{key}/{field}")
            need(boards, end.partition("@")[0], f"/joints/{key}/{field}", "board")
        lie = [is_member(document.parts[e.partition("@")[0]]) for e in (joint.a, joint.b)]
        meant = [True, False] if joint.kind in BOARD_JOINTS else [joint.kind in MEMBER_JOINTS] * 2
        if lie != meant:
            both = "members of frames" if joint.kind in MEMBER_JOINTS else "parts that lie in a plane"
            what = "a member, which comes first, and a part that lies in a plane" if joint.kind in BOARD_JOINTS else both
            rule = f"a joint of the kind {joint.kind} is between {what}"
            wrong = "a" if lie[0] != meant[0] else "b"
            raise DocumentError(
                f"/joints/{key}: {rule}", entry=f"/joints/{key}/{wrong}", value=getattr(joint, wrong), rule=rule, code="bad_reference"
            )
        if joint.a == joint.b:
            rule = "a joint is between two parts"
            raise DocumentError(f"/joints/{key}: {rule}", entry=f"/joints/{key}/b", value=joint.b, rule=rule)
    _check_moves(document, need)
    _check_bores(document, need, boards)
    _check_layout(document, need, boards)


def _check_moves(document: Document, need: Callable[[dict[str, Any], str, str, str], None]) -> None:
    """A movement follows one that is there, and none itself; a position moves what is there. What they move is looked for when it is built."""
    for key, move in document.moves.items():
        if move.follows is None:
            continue
        where = f"/moves/{key}/follows/move"
        need(document.moves, move.follows.move, where, "movement")
        seen, at = [key], move.follows.move
        while at and at not in seen:
            seen.append(at)
            after = document.moves[at].follows if at in document.moves else None
            at = after.move if after else ""
        if at:
            rule = "a movement cannot follow itself, nor one that follows it"
            raise DocumentError(f"{move.name}: {rule}", entry=where, value=move.follows.move, rule=rule, code="bad_reference")
    for key, position in document.positions.items():
        for moved in position.at:
            need(document.moves, moved, f"/positions/{key}/at/{moved}", "movement")


def _check_bores(document: Document, need: Callable[[dict[str, Any], str, str, str], None], boards: dict[str, PlacedKind]) -> None:
    """What a bore passes is there and takes one, and it has just the places that say where it lies."""
    for key, bore in document.bores.items():
        for part in bore.parts:
            _takes(document, part, "bore", f"/bores/{key}/parts/{part}")
            need(boards, part, f"/bores/{key}/parts/{part}", "board")
            for copy in bore.parts[part].copies:
                if copy.partition("@")[0] != part or "@" not in copy:
                    rule = f"a copy of {boards[part].name}, by its instance key"
                    where = f"/bores/{key}/parts/{part}/copies/{copy}"
                    raise DocumentError(f"{bore.name}: {rule}", entry=where, value=copy, rule=rule, code="bad_reference")
        if bore.axis in bore.rows or (bore.rows and bore.member):
            rule = "a row of bores runs across their axis, and what lets a member through is there once"
            raise DocumentError(f"{bore.name}: {rule}", entry=f"/bores/{key}/rows", value=sorted(bore.rows), rule=rule)
        if bore.hardware is not None:
            _check_set(document, key, bore)
        if bore.of:
            need(boards, bore.of, f"/bores/{key}/of", "part")
        if bore.member:
            need(boards, bore.member, f"/bores/{key}/member", "member")
            lets = boards[bore.member]
            if (
                not (is_member(lets) or is_rod(lets) or is_turned(lets) or is_hardware(lets))
                or bore.at
                or bore.of
                or bore.lean
                or bore.member in bore.parts
            ):
                rule = "a bore lets a rod, a turned part or a member of a frame through other parts, or takes over the holes of hardware, and lies where that lies"
                raise DocumentError(
                    f"{bore.name}: {rule}", entry=f"/bores/{key}/member", value=bore.member, rule=rule, code="bad_reference"
                )
        elif set(bore.at) - {bore.axis} != {"x", "y", "z"} - {bore.axis} or (bore.axis in bore.at) != (bore.lean is not None):
            rule = f"a bore along {bore.axis} has a place along each of the two other axes, and one along {bore.axis} where it leans"
            raise DocumentError(f"{bore.name}: {rule}", entry=f"/bores/{key}/at", value=sorted(bore.at), rule=rule)


def _check_items(document: Document) -> None:
    """What is said to be a piece of the catalogue is one."""
    for key, part in document.parts.items():
        designation = getattr(part, "designation", "")
        if designation and (is_placed(part) or designation not in document.hardware.own):
            try:
                by_designation(designation)
            except KeyError:
                rule = "a piece of the catalogue by its designation, as ISO 7089 - M5"
                where = f"/parts/{key}/designation"
                raise DocumentError(
                    f"{part.name}: there is no {designation}", entry=where, value=designation, rule=rule, code="bad_hardware"
                ) from None


def _check_set(document: Document, key: str, bore: Bore) -> None:
    """A set is made in its size, and has no head where a member goes through its bore."""
    assert bore.hardware
    found = bore.hardware.own_fault()
    if found is None and bore.member and bore.hardware.head != "none" and not is_hardware(document.parts.get(bore.member)):
        rule = "in a bore that lets a member through a set has no head: it is on the member's threaded end"
        found = "head", bore.hardware.head, rule
    if found:
        field, value, rule = found
        raise DocumentError(f"{bore.name}: {rule}", entry=f"/bores/{key}/hardware/{field}", value=value, rule=rule, code="bad_hardware")


def _check_placed(document: Document, key: str, part: PlacedKind) -> None:
    """It is of a stock that its kind is cut from, and says where it lies along every axis."""
    if part.stock and document.stocks[part.stock].kind != part.cut_from:
        stock = document.stocks[part.stock]
        what = {"folded": "folded part", "bought": "bought part"}.get(part.kind, part.kind)
        rule = f"a {what} is cut from {part.cut_from} stock"
        raise DocumentError(f"{part.name} cannot be of {stock.name}: {rule}", entry=f"/parts/{key}/stock", value=part.stock, rule=rule)
    fault = part.own_fault()
    if fault:
        field, value, rule = fault
        raise DocumentError(f"{part.name}: {rule}", entry=f"/parts/{key}/{field}", value=value, rule=rule)


def _check_framed(document: Document, key: str, part: Member | Connector) -> None:
    """Its lines are there, in a row, or its point is; and it lies in the group of its frame."""
    frame = document.frames[part.frame]

    def wrong(field: str, value: Any, rule: str) -> DocumentError:
        return DocumentError(f"{part.name}: {rule}", entry=f"/parts/{key}/{field}", value=value, rule=rule, code="bad_reference")

    if is_connector(part):
        if part.point not in frame.points:
            raise wrong("point", part.point, f"{frame.name} has no point with the key {part.point!r}")
    else:
        for n, line in enumerate(part.lines):
            if line not in frame.lines:
                raise wrong(f"lines/{n}", line, f"{frame.name} has no line with the key {line!r}")
        if frame.chain(part.lines) is None:
            raise wrong("lines", part.lines, "the lines of a member follow one another, and pass no point twice")
    if part.group != frame.group:
        raise wrong("group", part.group, f"a {part.kind} lies in the group of its frame, {frame.name}")


def _takes(document: Document, key: str, work: Work, where: str) -> None:
    """What is named there takes such work, as far as it is a part that lies in the room at all."""
    part = document.parts.get(key)
    if is_placed(part) and work in part.declines:
        rule = part.declines[work]
        raise DocumentError(f"{part.name} is a {part.kind}: {rule}", entry=where, value=key, rule=rule, code="bad_reference")


def _check_flanges(part: str, board: FoldedPart, need: Callable[[dict[str, Any], str, str, str], None]) -> None:
    """A flange stands on an edge that is there, and none on itself; a corner is between two flanges."""
    frame, folded = frame_of(board.plane), board.folding
    plate = (*FACES[frame.u], *FACES[frame.v], *(CUT_EDGES if folded.split else ()))
    if folded.split and folded.split.axis == frame.normal:
        rule = f"it is split along {frame.u} or {frame.v}"
        where = f"/parts/{part}/folding/split/axis"
        raise DocumentError(f"{board.name}: {rule}", entry=where, value=folded.split.axis, rule=rule)
    for key, flange in folded.flanges.items():
        where = f"/parts/{part}/folding/flanges/{key}"
        if flange.on:
            need(folded.flanges, flange.on, f"{where}/on", "flange")
        edges = ("end", "low", "high") if flange.on else plate
        sides = (flange.edge,) if flange.on or flange.edge in CUT_EDGES else re.sub(r"_\d+$", "", flange.edge).split("-")
        if not set(sides) <= set(edges) or (len(sides) > 1 and not (sides[0] in FACES[frame.u] and sides[1] in FACES[frame.v])):
            rule = f"{'a flange' if flange.on else board.name} has the edges {', '.join(edges)}"
            raise DocumentError(f"{where}/edge: {rule}", entry=f"{where}/edge", value=flange.edge, rule=rule, code="bad_reference")
        if flange.extent == "room" and len(sides) > 1:
            rule = "places in the room lie along a side that runs along an axis"
            raise DocumentError(f"{where}/extent: {rule}", entry=f"{where}/extent", value="room", rule=rule, code="bad_reference")
        seen, on = {key}, flange.on
        while on:
            if on in seen:
                rule = "a flange cannot stand on itself"
                raise DocumentError(f"{where}/on: {rule}", entry=f"{where}/on", value=flange.on, rule=rule, code="bad_reference")
            seen.add(on)
            on = folded.flanges[on].on if on in folded.flanges else ""
    for key, corner in folded.corners.items():
        need(folded.flanges, corner.a, f"/parts/{part}/folding/corners/{key}/a", "flange")
        need(folded.flanges, corner.b, f"/parts/{part}/folding/corners/{key}/b", "flange")


def _check_layout(document: Document, need: Callable[[dict[str, Any], str, str, str], None], boards: dict[str, PlacedKind]) -> None:
    """Groups are there and no group lies in itself; what is copied lies in one group; a turn passes two places."""
    if set(re.findall(r"\{[^}]*\}|[{}]", document.numbering)) - {"{number}", "{group}", "{part}"}:
        rule = "a part number is made of text and of {number}, {group} and {part}"
        raise DocumentError(f"{document.numbering}: {rule}", entry="/numbering", value=document.numbering, rule=rule)
    for key, group in document.groups.items():
        if group.parent:
            need(document.groups, group.parent, f"/groups/{key}/parent", "group")
            if key in document.within(group.parent):
                rule = "a group cannot lie in itself"
                raise DocumentError(
                    f"{group.name}: {rule}", entry=f"/groups/{key}/parent", value=group.parent, rule=rule, code="bad_reference"
                )
        _check_turns(group.turns, f"/groups/{key}/turns", group.name)
    for key, part in document.parts.items():
        if part.group:
            need(document.groups, part.group, f"/parts/{key}/group", "group")
        if is_placed(part):
            _check_turns(part.turns, f"/parts/{key}/turns", part.name)
        if is_plate(part) and isinstance(part.outline, Traced):
            _takes(document, part.outline.part, "trace", f"/parts/{key}/outline/part")
            need(boards, part.outline.part, f"/parts/{key}/outline/part", "board")
    _check_drawings(document)
    records: dict[str, dict[str, Any]] = {"part": boards, "group": document.groups, "copy": document.copies}
    for key, copy in document.copies.items():
        for reference in copy.of:
            kind, of = origin_of(reference)
            need(records.get(kind, {}), of, f"/copies/{key}/of", kind or "part, group or copy")
        scopes = {scope_of(document, reference) for reference in copy.of}
        if len(scopes) > 1 or None in scopes:
            rule = "what is copied together lies in one group" if len(scopes) > 1 else "a copy cannot be of itself"
            raise DocumentError(f"{copy.name}: {rule}", entry=f"/copies/{key}/of", value=copy.of, rule=rule, code="bad_reference")
        if copy.kind == "ring" and set(copy.at) != set("xyz") - {copy.axis}:
            rule = f"a ring about {copy.axis} has a place along each of the two other axes"
            raise DocumentError(f"{copy.name}: {rule}", entry=f"/copies/{key}/at", value=sorted(copy.at), rule=rule)


def _check_drawings(document: Document) -> None:
    """What is drawn is a drawing: its records fit together."""
    for drawn in drawings_in(document):
        found = drawn.drawing.fault()
        if found:
            field, value, rule = found
            raise DocumentError(f"{drawn.name}: {rule}", entry=f"{drawn.where}/{field}", value=value, rule=rule, code="bad_reference")


def _check_turns(turns: dict[str, Turn], where: str, name: str) -> None:
    for key, turn in turns.items():
        if set(turn.at) != set("xyz") - {turn.axis}:
            rule = f"a turn about {turn.axis} has a place along each of the two other axes"
            raise DocumentError(f"{name}: {rule}", entry=f"{where}/{key}/at", value=sorted(turn.at), rule=rule)


def mirrored_axes(document: Document, copies: Iterable[str]) -> frozenset[str]:
    """The axes across which face names are exchanged by copies one after the other: a mirror exchanges one pair, two restore it, turns exchange none."""
    found: frozenset[str] = frozenset()
    for key in copies:
        copy = document.copies.get(key)
        if isinstance(copy, MirrorCopy):
            found ^= {copy.axis}
    return found


def scope_of(document: Document, reference: str) -> str | None:
    """The group in which something that is copied lies, '' for none; None where a copy turns out to be of itself."""
    seen: set[str] = set()
    while True:
        kind, key = origin_of(reference)
        if kind == "part":
            return document.parts[key].group if key in document.parts else ""
        if kind == "group":
            return document.groups[key].parent if key in document.groups else ""
        if kind != "copy" or key in seen or key not in document.copies:
            return None
        seen.add(key)
        reference = document.copies[key].of[0]
