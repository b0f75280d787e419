"""The document's records: sizes, stocks, cutters, fits, parts, joints, bores, kept problems, in maps under immutable keys."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from zygon.design.features import Bore, Feature, From
from zygon.design.joints import Joint
from zygon.design.limits import MAX_BORES, MAX_FEATURES, MAX_JOINTS, MAX_PARTS, MAX_QUANTITY, MAX_SIZES
from zygon.design.test_pieces import TestPiece
from zygon.errors import DocumentError
from zygon.geometry.frame import Plane, frame_of
from zygon.measure.entry import Entry, Record
from zygon.measure.units import name_fault
from zygon.stock.cutter import Cutter
from zygon.stock.fit import FitTable
from zygon.stock.sheet import SheetStock

__all__ = [
    "SCHEMA",
    "Board",
    "Document",
    "HelpMarks",
    "Item",
    "Kept",
    "NestSettings",
    "Part",
    "Position",
    "Rules",
    "Size",
    "Span",
    "parse_document",
]

SCHEMA = 2
Axis = Literal["x", "y", "z"]
Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]


class Size(Record):
    """A named value; the design is meant to work while it stays between ``low`` and ``high``."""

    name: str
    kind: Literal["length", "angle", "count", "number"] = "length"
    entry: Entry
    low: Entry | None = None
    high: Entry | None = None
    note: str = Field(default="", max_length=200)
    order: int = 0


class Span(Record):
    """From where to where a board runs along one axis."""

    low: Entry
    high: Entry


class Position(Record):
    """Where a board sits across its plane: this face of it, or its centre, at this place."""

    face: From
    at: Entry


class Board(Record):
    """A flat part: a plane, a position across it, and two spans within it."""

    kind: Literal["board"] = "board"
    name: str
    order: int = 0
    made: Literal["cut", "bought"] = "cut"
    stock: str
    quantity: int = Field(default=1, ge=1, le=MAX_QUANTITY)
    plane: Plane
    position: Position
    spans: dict[Axis, Span]
    up: Literal["a", "b"] = Field(default="a", description="the face that lies up on the cutter")
    grain: Literal["free", "u", "v"] = Field(default="free", description="the board's direction that follows the sheet's grain")
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=MAX_FEATURES)
    price: float = Field(default=0.0, ge=0, description="of one, where it is bought")
    aside: bool = Field(default=False, description="a test piece or jig that lies beside the design and takes no part in it")


class Item(Record):
    """A bought thing that takes no part in the fitting: a rod, screws, felt."""

    kind: Literal["item"] = "item"
    name: str
    order: int = 0
    made: Literal["bought"] = "bought"
    quantity: int = Field(default=1, ge=1, le=MAX_QUANTITY)
    price: float = Field(default=0.0, ge=0)
    note: str = Field(default="", max_length=200)


Part = Annotated[Board | Item, Field(discriminator="kind")]


class Kept(Record):
    """A problem knowingly kept; it opens again when its value or its rule changes."""

    reason: str = Field(min_length=1, max_length=300)
    by: str = Field(min_length=1, max_length=80)
    value: str
    rule: str


class Rules(Record):
    """What counts as too thin, in thicknesses of the part (common practice)."""

    finger: float = Field(default=0.5, ge=0, le=10, description="least width of a finger")
    web: float = Field(default=1.0, ge=0, le=10, description="least wood between two cuts")
    edge: float = Field(default=1.0, ge=0, le=10, description="least wood between a hole and an edge")
    floor: float = Field(default=0.25, ge=0, le=1, description="least wood under a pocket, groove or blind hole")


class HelpMarks(Record):
    """Marks that help in the shop, engraved where the assembly hides them."""

    numbers: bool = Field(default=False, description="part numbers of the cut list")
    mates: bool = Field(default=False, description="A1 to A1 on the two boards of every joint")
    inside: bool = Field(default=False, description="which face looks inward")
    grain: bool = Field(default=False, description="an arrow along the grain")
    height: Entry = Field(default=Entry(text="6 mm"), description="of the letters")


class NestSettings(Record):
    """How parts are laid on sheets."""

    gap: Entry = Entry(text="3 mm")
    margin: Entry = Entry(text="5 mm")
    seed: int = Field(default=1, ge=0, le=2**31 - 1)
    seconds: float = Field(default=2.0, gt=0, le=120)


class Document(Record):
    """A design whole."""

    schema_: Literal[2] = Field(default=2, alias="schema")
    name: str = Field(min_length=1, max_length=80)
    note: str = Field(default="", max_length=2000)
    unit: Literal["mm", "in"] = Field(default="mm", description="what a bare number means when it is typed now")
    display: Literal["mm", "in", "fraction"] = "mm"
    currency: str = Field(default="EUR", max_length=3)
    sizes: dict[Key, Size] = Field(default_factory=dict, max_length=MAX_SIZES)
    stocks: dict[Key, SheetStock] = Field(default_factory=dict, max_length=100)
    cutters: dict[Key, Cutter] = Field(default_factory=dict, max_length=20)
    cutter: str = ""
    fits: dict[Key, FitTable] = Field(default_factory=dict, max_length=200)
    parts: dict[Key, Part] = Field(default_factory=dict, max_length=MAX_PARTS)
    joints: dict[Key, Joint] = Field(default_factory=dict, max_length=MAX_JOINTS)
    bores: dict[Key, Bore] = Field(default_factory=dict, max_length=MAX_BORES)
    kept: dict[str, Kept] = Field(default_factory=dict, max_length=2000)
    tests: dict[Key, TestPiece] = Field(default_factory=dict, max_length=100)
    marks: HelpMarks = HelpMarks()
    rules: Rules = Rules()
    nest: NestSettings = NestSettings()

    model_config = {**Record.model_config, "populate_by_name": True}

    def boards(self) -> dict[str, Board]:
        """The boards by key, in order."""
        found = {k: p for k, p in self.parts.items() if isinstance(p, Board)}
        return dict(sorted(found.items(), key=lambda kp: (kp[1].order, kp[0])))

    def numbers(self) -> dict[str, int]:
        """The parts' numbers on the cut list, from 1 on, by key and in order."""
        keys = sorted(self.parts, key=lambda k: (self.parts[k].order, k))
        return {key: n for n, key in enumerate(keys, 1)}

    def dump(self) -> dict[str, Any]:
        """The document as plain JSON data."""
        return self.model_dump(mode="json", by_alias=True, exclude_none=True)


def parse_document(data: object) -> Document:
    """The document in ``data`` (current schema), checked whole. Raises DocumentError naming the entry, value and rule."""
    try:
        document = Document.model_validate(data)
    except ValidationError as error:
        raise _first_fault(error) from None
    _check_names(document)
    _check_references(document)
    return document


def _first_fault(error: ValidationError) -> DocumentError:
    fault = error.errors(include_url=False)[0]
    # the tags of unions ('board', 'hole') stand in pydantic's path but not in the document
    entry = "/" + "/".join(str(p) for p in fault["loc"])
    value = fault.get("input")
    shown = value if isinstance(value, (str, int, float, bool)) or value is None else type(value).__name__
    return DocumentError(f"{entry}: {fault['msg']} (given: {shown!r})", entry=entry, value=shown, rule=fault["msg"])


def _check_names(document: Document) -> None:
    taken: dict[str, str] = {}
    for group, records in (("sizes", document.sizes), ("parts", document.parts)):
        for key, record in records.items():
            entry = f"/{group}/{key}/name"
            fault = name_fault(record.name, part=group == "parts")
            if fault is None and record.name in taken:
                fault = f"{record.name} is already the name of {taken[record.name]}"
            if fault:
                raise DocumentError(f"{record.name or 'Name'}: {fault}", entry=entry, value=record.name, rule=fault, code="bad_name")
            taken[record.name] = f"a {group[:-1]}"


def _check_references(document: Document) -> None:
    def need(known: dict[str, Any], key: str, entry: str, what: str) -> None:
        if key not in known:
            rule = f"there is no {what} with the key {key!r}"
            raise DocumentError(f"{entry}: {rule}", entry=entry, value=key, rule=rule, code="bad_reference")

    boards = document.boards()
    if document.cutter:
        need(document.cutters, document.cutter, "/cutter", "cutter")
    for key, fit in document.fits.items():
        need(document.stocks, fit.stock, f"/fits/{key}/stock", "stock")
        need(document.cutters, fit.cutter, f"/fits/{key}/cutter", "cutter")
    for key, board in boards.items():
        need(document.stocks, board.stock, f"/parts/{key}/stock", "stock")
        frame = frame_of(board.plane)
        if set(board.spans) != {frame.u, frame.v}:
            rule = f"a board that is {board.plane.replace('_', ' ')} has spans along {frame.u} and {frame.v}"
            raise DocumentError(f"{board.name}: {rule}", entry=f"/parts/{key}/spans", value=sorted(board.spans), rule=rule)
    for key, test in document.tests.items():
        need(document.stocks, test.stock, f"/tests/{key}/stock", "stock")
        need(document.cutters, test.cutter, f"/tests/{key}/cutter", "cutter")
    for key, joint in document.joints.items():
        need(boards, joint.a, f"/joints/{key}/a", "board")
        need(boards, joint.b, f"/joints/{key}/b", "board")
        if joint.a == joint.b:
            rule = "a joint is between two parts"
            raise DocumentError(f"/joints/{key}: {rule}", entry=f"/joints/{key}/b", value=joint.b, rule=rule)
    for key, bore in document.bores.items():
        for part in bore.parts:
            need(boards, part, f"/bores/{key}/parts/{part}", "board")
        if set(bore.at) != {"x", "y", "z"} - {bore.axis}:
            rule = f"a bore along {bore.axis} has a place along each of the two other axes"
            raise DocumentError(f"{bore.name}: {rule}", entry=f"/bores/{key}/at", value=sorted(bore.at), rule=rule)
