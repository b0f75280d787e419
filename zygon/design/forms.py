"""Every kind of record that a maker fills in, as a screen needs it: its words, and each field with its label, kind of value, choices, default."""

from __future__ import annotations

from functools import lru_cache
from types import NoneType
from typing import Any, Literal, get_args

from pydantic.fields import FieldInfo

from zygon.design.connector_starts import CONNECTOR_STARTS
from zygon.design.document import HelpMarks, Rules
from zygon.design.features import FEATURE_RECORDS, Placed
from zygon.design.flange_starts import LOCKING_TAB, flange_start
from zygon.design.folded_shapes import FoldedShape, folded_shapes
from zygon.design.folding import FLANGE_RECORDS, Corner, Flange, Folding, Gussets, Relief
from zygon.design.frame_starts import FRAME_STARTS
from zygon.design.hardware import HardwareList, HardwareSet, sizes_of_heads
from zygon.design.joints import JOINT_RECORDS
from zygon.design.layout import COPY_RECORDS, Turn
from zygon.design.outlines import OUTLINE_RECORDS
from zygon.design.papers import DetailSaid, DimensionSaid, PaperNote, Papers, PaperTemplate, ViewSaid
from zygon.design.parts.connector import Connector, Socket
from zygon.design.parts.member import EndWork, Member, MemberHole
from zygon.design.parts.turned import CrossHole, TurnedBore, TurnedFlat, TurnedStep
from zygon.design.test_pieces import READINGS
from zygon.design.turned_starts import TURNED_STARTS
from zygon.measure.asked import COLOUR, Among, asked_for
from zygon.measure.entry import Entry, Record
from zygon.measure.quantity import Kind
from zygon.stock.bar import BarLength, BarStock
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake, Die, Punch
from zygon.stock.common_bars import COMMON_BARS
from zygon.stock.cutter import Controller, Cutter, CutterWork, Layer, Layers
from zygon.stock.fit import FitTable
from zygon.stock.router import Bit, Clamp, Routing
from zygon.stock.sheet import SheetSize, SheetStock
from zygon.stock.starts import (
    BENDING_START,
    BIT_START,
    BRAKE_START,
    CLAMP_START,
    CUTTER_START,
    DIE_START,
    PUNCH_START,
    SIZE_STARTS,
    STOCK_STARTS,
    WORK_START,
)

__all__ = [
    "BrakeForm",
    "Brought",
    "Choice",
    "CutterForm",
    "FeatureForm",
    "FlangeForm",
    "Form",
    "FormField",
    "Forms",
    "Only",
    "SizeStart",
    "StartedForm",
    "StockForm",
    "forms",
]


class Choice(Record):
    """One of the values of a field, and how it is called."""

    value: str
    label: str


class Only(Record):
    """A field is shown only while another one has one of these values."""

    field: str
    values: tuple[str, ...]


class Brought(Record):
    """What goes with a choice: a flag of the record is set; an entry is what ``value`` says where it still is ``default``."""

    choice: str
    field: str
    value: bool | str
    default: str | None


class FormField(Record):
    """One field of a record. LOW, HIGH, A and B in its words stand for the ends of the run at hand and the names of both boards or faces.

    ``default`` is what the record has where nothing is said, ``begin`` what a draft starts with (``small`` on a flange); ``blank`` what stands in
    it while it is empty; ``among`` what it is chosen from that only the part at hand can say. It is shown only where all of ``only`` holds, and on
    cutters of the kind ``only_cutter``; ``labels`` are its labels by the value of the first field of ``only``, where they are not ``label``.
    ``along`` names the field that says its axis, ``section`` the part of the card that it is in. ``least`` and ``most`` bound a number (``most`` the length of a text), which has
    a ``suffix`` (CURRENCY: the design's) and is stepped by ``step``; nought of it means ``zero``. A choice ``brings`` values of other fields along.
    """

    name: str
    label: str
    note: str
    type: Literal["entry", "choice", "flag", "text", "number", "colour"]
    value_kind: Kind
    optional: bool
    choices: tuple[Choice, ...]
    default: str | None
    begin: str
    small: str
    blank: str
    among: Among
    only: tuple[Only, ...]
    only_cutter: str
    labels: tuple[Choice, ...]
    along: str
    section: str
    least: float | None
    most: float | None
    suffix: str
    zero: str
    step: float
    brings: tuple[Brought, ...]


class Form(Record):
    """A kind of record with its fields in order."""

    kind: str
    title: str
    note: str
    fields: tuple[FormField, ...]


class FeatureForm(Form):
    """A kind of feature: where it has a place of its own, and whether it may be mirrored, lies on a face, may be cut into a flange."""

    placed: Placed
    mirrors: bool
    faced: bool
    in_metal: bool


class StartedForm(Form):
    """A record of which another one may be made; ``start`` is what that has, plain data of it."""

    start: dict[str, Any]


class FlangeForm(StartedForm):
    """A kind of flange."""


class SizeStart(Record):
    """A new size of a stock: the words that ask for it, and what it has."""

    words: str
    start: dict[str, Any]


class CommonStart(Record):
    """A common size of a stock: its name, where its measures come from, and what it has."""

    name: str
    source: str
    start: dict[str, Any]


class StockForm(StartedForm):
    """A kind of stock. ``sold`` names the field with the sizes that it is sold in, whose form is ``size``; ``common`` are sizes to begin with."""

    sold: str
    size: Form
    sizes: tuple[SizeStart, ...]
    common: tuple[CommonStart, ...]


class CutterForm(StartedForm):
    """A cutter: ``work`` is what it does in one stock, ``fits`` the fits of one; ``layers`` are the operations by their order, each of the form ``layer``; ``controller`` is how its programs are written.

    ``routing`` is how a router mills; ``tools`` are its bits and clamps, by the field that they are in.
    """

    work: StartedForm
    fits: Form
    layers: tuple[Choice, ...]
    layer: Form
    controller: Form
    routing: Form
    tools: tuple[StartedForm, ...]


class BrakeForm(StartedForm):
    """A press brake with its tools, by the field that they are in."""

    tools: tuple[StartedForm, ...]


class FrameForm(Record):
    """A frame to begin with; ``count`` is what else it asks how many of, '' for nothing, with what is usual."""

    kind: str
    title: str
    words: str
    count: str
    usual: int


class ConnectorForm(Record):
    """A connector of the catalogue."""

    kind: str
    title: str
    words: str


class TurnedForm(Record):
    """A turned part to begin with: how long it is, and its record's fields as plain data."""

    kind: str
    title: str
    words: str
    length: str
    start: dict[str, Any]


class HardwareForm(Form):
    """A set along a bore: its fields, and the sizes of each head."""

    sizes: dict[str, tuple[str, ...]]


class Forms(Record):
    """All forms, by what they make, each in the order in which its kinds are offered."""

    joints: tuple[Form, ...]
    features: tuple[FeatureForm, ...]
    flanges: tuple[FlangeForm, ...]
    shapes: tuple[FoldedShape, ...]
    bends: tuple[Form, ...]
    stocks: tuple[StockForm, ...]
    copies: tuple[Form, ...]
    outlines: tuple[Form, ...]
    turn: Form
    bending: StartedForm
    cutter: CutterForm
    brake: BrakeForm
    readings: tuple[Form, ...]
    rules: Form
    marks: Form
    member: Form
    frames: tuple[FrameForm, ...]
    member_hole: Form
    end_work: Form
    connector: Form
    socket: Form
    connectors: tuple[ConnectorForm, ...]
    hardware: HardwareForm
    turned: tuple[TurnedForm, ...]
    turned_steps: Form
    turned_bores: Form
    turned_flats: Form
    turned_cross: Form
    hardware_list: Form
    papers: Form
    paper_view: Form
    paper_detail: Form
    paper_note: Form
    paper_template: Form
    dimension: Form


@lru_cache(maxsize=1)
def forms() -> Forms:
    """Every form there is."""
    features = tuple(
        FeatureForm(**_form(kind, r), placed=r.placed, mirrors=r.mirrors, faced=r.faced, in_metal=r.in_metal)
        for kind, r in FEATURE_RECORDS.items()
    )
    flanges = [FlangeForm(**_form(kind, r), start=flange_start(kind)) for kind, r in FLANGE_RECORDS.items()]
    tab = {**_form("tab", Flange), "title": "locking tab: with slot and hole"}
    return Forms(
        joints=tuple(Form(**_form(kind, record)) for kind, record in JOINT_RECORDS.items()),
        features=features,
        flanges=(*flanges, FlangeForm(**tab, start=LOCKING_TAB)),
        shapes=folded_shapes(),
        bends=tuple(
            Form(**_form(kind, r)) for kind, r in (("folding", Folding), ("corner", Corner), ("relief", Relief), ("gussets", Gussets))
        ),
        stocks=tuple(_stock(kind, *of) for kind, of in _STOCKS.items()),
        copies=tuple(Form(**_form(kind, record)) for kind, record in COPY_RECORDS.items()),
        outlines=tuple(Form(**_form(kind, record)) for kind, record in OUTLINE_RECORDS.items()),
        turn=Form(**_form("turn", Turn)),
        bending=StartedForm(**_form("bending", Bending), start=BENDING_START),
        cutter=_cutter(),
        brake=BrakeForm(**_form("brake", Brake), start=BRAKE_START, tools=tuple(_tools(*of) for of in _TOOLS)),
        readings=tuple(Form(**_form(kind, record)) for kind, record in READINGS.items()),
        rules=Form(**_form("rules", Rules)),
        marks=Form(**_form("marks", HelpMarks)),
        member=Form(**_form("member", Member)),
        frames=tuple(FrameForm(kind=s.key, title=s.title, words=s.words, count=s.count, usual=s.usual) for s in FRAME_STARTS.values()),
        member_hole=Form(**_form("member_hole", MemberHole)),
        end_work=Form(**_form("end_work", EndWork)),
        connector=Form(**_form("connector", Connector)),
        socket=Form(**_form("socket", Socket)),
        connectors=tuple(ConnectorForm(kind=s.key, title=s.title, words=s.words) for s in CONNECTOR_STARTS.values()),
        hardware=HardwareForm(**_form("hardware", HardwareSet), sizes={k: tuple(v) for k, v in sizes_of_heads().items()}),
        turned=tuple(TurnedForm(kind=s.key, title=s.title, words=s.words, length=s.length, start=s.start) for s in TURNED_STARTS.values()),
        turned_steps=Form(**_form("turned_steps", TurnedStep)),
        turned_bores=Form(**_form("turned_bores", TurnedBore)),
        turned_flats=Form(**_form("turned_flats", TurnedFlat)),
        turned_cross=Form(**_form("turned_cross", CrossHole)),
        hardware_list=Form(**_form("hardware_list", HardwareList)),
        papers=Form(**_form("papers", Papers)),
        paper_view=Form(**_form("paper_view", ViewSaid)),
        paper_detail=Form(**_form("paper_detail", DetailSaid)),
        paper_note=Form(**_form("paper_note", PaperNote)),
        paper_template=Form(**_form("paper_template", PaperTemplate)),
        dimension=Form(**_form("dimension", DimensionSaid)),
    )


#: The tools of a brake: their field, their record, what a new one has.
_TOOLS: tuple[tuple[str, Any, dict[str, Any]], ...] = (("punches", Punch, PUNCH_START), ("dies", Die, DIE_START))


def _tools(field: str, record: Any, start: dict[str, Any]) -> StartedForm:
    return StartedForm(**_form(field, record), start=start)


def _cutter() -> CutterForm:
    return CutterForm(
        **_form("cutter", Cutter),
        start=CUTTER_START,
        work=StartedForm(**_form("work", CutterWork), start=WORK_START),
        fits=Form(**_form("fits", FitTable)),
        layers=tuple(Choice(value=name, label=field.title or name) for name, field in Layers.model_fields.items()),
        layer=Form(**_form("layer", Layer)),
        controller=Form(**_form("controller", Controller)),
        routing=Form(**_form("routing", Routing)),
        tools=(_tools("bits", Bit, BIT_START), _tools("clamps", Clamp, CLAMP_START)),
    )


#: Each kind of stock with the field of its sizes and their record.
_STOCKS: dict[str, tuple[Any, str, Any]] = {"sheet": (SheetStock, "sheets", SheetSize), "bar": (BarStock, "lengths", BarLength)}


def _stock(kind: str, record: Any, sold: str, size: Any) -> StockForm:
    sizes = tuple(SizeStart(words=words, start=start) for words, start in SIZE_STARTS[kind])
    common = tuple(CommonStart(name=c.name, source=c.source, start=c.start) for c in COMMON_BARS) if kind == "bar" else ()
    return StockForm(**_form(kind, record), start=STOCK_STARTS[kind], sold=sold, size=Form(**_form(sold, size)), sizes=sizes, common=common)


def _form(kind: str, record: Any) -> dict[str, Any]:
    unasked = getattr(record, "unasked", ())
    said = {n: (f, asked_for(f)) for n, f in record.model_fields.items() if n not in unasked}
    fields = sorted(((n, f, s) for n, (f, s) in said.items() if s), key=lambda x: x[2]["place"])
    return {
        "kind": kind,
        "title": record.title,
        "note": (record.__doc__ or "").strip(),
        "fields": tuple(_field(n, f, s, record.model_fields) for n, f, s in fields),
    }


def _field(name: str, field: FieldInfo, said: dict[str, Any], others: dict[str, FieldInfo]) -> FormField:
    kinds = [a for a in _kinds_of(field.annotation) if a is not NoneType]
    entry = Entry in kinds
    listed = [a for a in kinds if isinstance(a, str)]
    told = _told(field)
    plain: Any = {bool: "flag", int: "number", float: "number", str: "text"}.get(kinds[0] if kinds else str, "text")
    if any(getattr(m, "pattern", None) == COLOUR for m in field.metadata):
        plain = "colour"
    words = said["words"]
    bounds = {k: getattr(m, k) for m in field.metadata for k in ("ge", "gt", "le", "max_length") if hasattr(m, k)}
    least = said["least"] or (bounds["gt"] + said["step"] if "gt" in bounds else bounds.get("ge"))
    return FormField(
        name=name,
        label=field.title or name,
        note=field.description or "",
        type="entry" if entry else "choice" if listed or said["among"] else plain,
        value_kind=said["kind"],
        optional=not field.is_required() and field.default is None,
        # what only the part at hand can say is not listed: of the six faces' words an edge has four
        choices=() if said["among"] else tuple(Choice(value=c, label=words.get(c, c)) for c in listed),
        default=told,
        begin=said["begin"] or told or "",
        small=said["small"] or told or "",
        blank=said["blank"],
        among=said["among"],
        only=tuple(Only(field=k, values=tuple(v)) for k, v in said["only"].items()),
        only_cutter=said["cutter"],
        labels=tuple(Choice(value=k, label=v) for k, v in said["labels"].items()),
        along=said["along"],
        section=said["section"],
        least=least,
        most=bounds.get("le", bounds.get("max_length")),
        suffix=said["suffix"],
        zero=said["zero"],
        step=said["step"],
        brings=tuple(
            Brought(choice=choice, field=k, value=value, default=_told(others[k]) if isinstance(value, str) else None)
            for choice, fields in said["brings"].items()
            for k, value in fields.items()
        ),
    )


def _told(field: FieldInfo) -> str | None:
    """What a field is where nothing is said, as text; None where something has to be said or nothing is there."""
    default = None if field.is_required() else field.default
    if isinstance(default, bool):
        return str(default).lower()
    return default.text if isinstance(default, Entry) else None if default is None else str(default)


def _kinds_of(annotation: Any) -> list[Any]:
    """The types of a field, or the values of a literal, also within a union."""
    inner = get_args(annotation)
    if not inner:
        return [annotation]
    return [a for arg in inner for a in ([arg] if isinstance(arg, str) else _kinds_of(arg))]
