"""Cutters: kerf, smallest feature, bed, and per stock the speeds that time and cost are reckoned from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from zygon.errors import ExpressionError
from zygon.measure.asked import COLOUR, asked
from zygon.measure.entry import Entry, Record
from zygon.measure.evaluate import plain_length
from zygon.stock.router import Bit, Clamp, Routing

__all__ = [
    "Ability",
    "Controller",
    "Cutter",
    "CutterWork",
    "Layer",
    "Layers",
    "cost_of",
    "cut_width",
    "layer_of",
    "mill_widths",
    "widened_on_line",
]


@dataclass(frozen=True)
class Ability:
    """What a kind of cutter can do. Whoever has to know asks this, and never the kind.

    ``depth``: it cuts to a depth from a face. ``inside``: it cuts holes and curves anywhere, not only straight from edge to edge. ``bit``: its tool is round
    and as wide as its bit, leaves round inside corners, and goes down in passes. ``slits``: it cuts one run that has no width to speak of. ``beam``: it goes
    on and off wherever its head is. ``tilt``: how
    far it leans from square to the face, in degrees. ``tool`` and ``width`` are the words for what cuts, and for how wide it cuts.
    """

    depth: bool
    inside: bool
    bit: bool
    slits: bool
    beam: bool
    tilt: float
    tool: str
    width: str


_CAN = {
    "laser": Ability(depth=False, inside=True, bit=False, slits=True, beam=True, tilt=0.0, tool="beam", width="kerf"),
    "router": Ability(depth=True, inside=True, bit=True, slits=False, beam=False, tilt=0.0, tool="bit", width="bit"),
    "saw": Ability(depth=True, inside=False, bit=False, slits=False, beam=False, tilt=45.0, tool="blade", width="blade"),
}


#: What each kind is called where it is chosen, and the kinds that have a round bit, and none.
_WORDS = {
    "laser": "Laser, plasma or waterjet",
    "router": "Router: a round bit, with depth",
    "saw": "Saw: straight cuts only",
}
_BIT = {"kind": tuple(k for k, can in _CAN.items() if can.bit)}
_BEAM = {"kind": tuple(k for k, can in _CAN.items() if can.beam)}
_PROGRAMS = {"kind": tuple(k for k, can in _CAN.items() if can.beam or can.bit)}
_NO_BIT = {"kind": tuple(k for k, can in _CAN.items() if not can.bit)}


class CutterWork(Record):
    """What a cutter does in one stock: speeds in mm/s, pierce time in s, and a kerf of its own where it differs."""

    title: ClassVar[str] = "Speeds by stock"

    cut_speed: float = asked("Cutting", suffix=" mm/s", least=0.01, gt=0)
    mark_speed: float = asked("Marking", suffix=" mm/s", least=0.01, gt=0)
    pierce: float = asked("Pierce", 0.0, note="before every cut", suffix=" s", step=0.1, ge=0)
    kerf: Entry | None = asked("Kerf of its own", None)
    power: float = asked("Power", 100.0, suffix=" %", step=1, ge=0, le=100)
    mark_power: float = asked("Marking power", 20.0, suffix=" %", step=1, ge=0, le=100)
    spindle: int = asked("Spindle", 18_000, suffix=" rpm", step=1000, ge=1, le=100_000)
    plunge: float = asked("Plunge", 8.0, note="straight down", suffix=" mm/s", least=0.01, gt=0)


class Layer(Record):
    """How an operation is written to a file: layer name, colour, line width in mm, kind of line."""

    title: ClassVar[str] = "Layers in files, in cutting order"

    name: str = asked("Layer name", min_length=1, max_length=60, pattern=r'^[^<>/\\":;?*|=`]+$')
    colour: str = asked("Colour", pattern=COLOUR)
    line_width: float = asked("Line width", 0.0, suffix=" mm", step=0.05, ge=0, le=2)
    line: Literal["continuous", "dashed", "chain"] = asked("Line", "continuous")


class Layers(Record):
    """One layer for each operation, in cutting order, and one for notes that are not cut.

    ``depth`` is the beginning of a name: every depth has a layer of its own, named with face and millimetres (DEPTH_A_6MM).
    """

    mark: Layer = Field(default=Layer(name="MARK", colour="#2B5FB3"), title="Marks")
    depth: Layer = Field(default=Layer(name="DEPTH", colour="#8A5A2B"), title="Depths (face and depth follow)")
    inside: Layer = Field(default=Layer(name="CUT_INSIDE", colour="#0B7A4B"), title="Cut inside")
    outside: Layer = Field(default=Layer(name="CUT_OUTSIDE", colour="#C8321E"), title="Cut outside")
    drill: Layer = Field(default=Layer(name="DRILL", colour="#6A4FA3"), title="Left to a drill")
    bend_up: Layer = Field(default=Layer(name="BEND_UP", colour="#6A4FA3"), title="▲ Bends up")
    bend_down: Layer = Field(default=Layer(name="BEND_DOWN", colour="#0E7490"), title="▼ Bends down")
    note: Layer = Field(default=Layer(name="NOTE", colour="#7A7F85"), title="Notes and text")


class Controller(Record):
    """How the machine wants its programs (RS-274): units, figures, arcs, power, and lines of its own before and after."""

    title: ClassVar[str] = "Controller"

    unit: Literal["mm", "in"] = asked("Units of the program", "mm", words={"mm": "Millimetres (G21)", "in": "Inches (G20)"})
    decimals: int = asked("Figures after the point", 3, ge=2, le=6)
    arcs: bool = asked("Arcs as arcs (G2, G3)", True)
    chords: float = asked("Chords stray at most", 0.01, note="where arcs are chords", suffix=" mm", step=0.005, ge=0.001, le=0.5)
    numbered: bool = asked("Line numbers", False)
    full_power: int = asked("S word of full power", 1000, ge=1, le=100_000)
    dwell: Literal["s", "ms"] = asked("Waits (G4 P) in", "s", words={"s": "Seconds", "ms": "Milliseconds"})
    header: str = asked("Lines before", "", note="written as they are", max_length=400)
    footer: str = asked("Lines after", "", max_length=400)


class Cutter(Record):
    """What sheets are cut with: a laser or another beam (kerf, no depth), a router (a round bit, depth) or a saw (a blade, straight cuts only)."""

    title: ClassVar[str] = "Cutter"

    name: str = asked("Name", min_length=1, max_length=80)
    kind: Literal["laser", "router", "saw"] = asked("Kind", "laser", words=_WORDS)
    kerf: Entry = asked("Kerf", note="width of the cut: of the beam, or of the saw's blade", only=_NO_BIT, labels={"saw": "Blade width"})
    bit: Entry | None = asked("Bit diameter", None, note="of the router's bit, which is the width of its cut", only=_BIT)
    pass_depth: Entry | None = asked("Depth of a pass", None, note="how deep a router cuts at a time", blank="all at once", only=_BIT)
    smallest: Entry = asked("Smallest cut-out", note="smallest hole or slot that it cuts cleanly")
    bed_length: Entry = asked("Bed length", section="bed")
    bed_width: Entry = asked("Bed width", section="bed")
    travel: float = asked("Travel", 300.0, note="between cuts", section="bed", suffix=" mm/s", gt=0)
    hourly: float = asked("An hour costs", 0.0, section="bed", suffix=" CURRENCY", ge=0)
    work: dict[str, CutterWork] = Field(default_factory=dict, description="by stock key")
    layers: Layers = Layers()
    lead: Literal["arc", "line", "none"] = asked(
        "Leads", "arc", words={"arc": "Round into the cut", "line": "Straight into the cut", "none": "None"}, section="path", only=_BEAM
    )
    lead_length: Entry = asked("Length of a lead", Entry(text="3 mm"), note="shorter where there is no room", section="path", only=_BEAM)
    lead_at: Literal["corner", "middle"] = asked(
        "Where cuts begin", "corner", words={"corner": "At corners", "middle": "Amid a side"}, section="path", only=_BEAM
    )
    common: bool = asked(
        "Common lines", False, note="parts are laid a kerf apart, and straight sides that meet are cut once", section="path", only=_BEAM
    )
    joints: int = asked(
        "Micro-joints a part", 0, note="places that stay uncut, so that it does not tip", section="path", ge=0, le=20, only=_BEAM
    )
    joint_width: Entry = asked("Width of a micro-joint", Entry(text="0.4 mm"), section="path", only=_BEAM)
    corner_speed: float = asked(
        "Speed at sharp corners", 100.0, note="of the cutting speed", section="path", suffix=" %", step=5, ge=1, le=100, only=_BEAM
    )
    corner_way: Entry = asked("Slower before and after them by", Entry(text="2 mm"), section="path", only=_BEAM)
    acceleration: float = asked(
        "Acceleration", 3000.0, note="of the head; times follow from it", section="path", suffix=" mm/s²", gt=0, le=200_000, only=_PROGRAMS
    )
    controller: Controller = Controller()
    routing: Routing = Routing()
    bits: dict[str, Bit] = Field(default_factory=dict, max_length=30, description="of a router, beside the bit of outlines")
    clamps: dict[str, Clamp] = Field(default_factory=dict, max_length=30, description="places on a router's sheet that are kept clear")
    order: int = 0

    @property
    def can(self) -> Ability:
        """What it can do."""
        return _CAN[self.kind]

    @property
    def shares(self) -> bool:
        """Whether neighbours on a sheet share a cut: they lie a kerf apart then, of each stock its own."""
        return self.common and self.can.beam


def cost_of(cutter: Cutter, seconds: float) -> float:
    """What so long on a cutter costs, in the design's currency."""
    return seconds / 3600 * cutter.hourly


def layer_of(layers: Layers, operation: str) -> Layer:
    """The layer of an operation: 'mark', 'inside', 'outside', 'drill', 'bend-up', 'bend-down', 'frame' (the note layer), or 'depth-a-6' (face and millimetres)."""
    if operation.startswith("depth"):
        _, face, depth = operation.split("-", 2)
        return layers.depth.model_copy(update={"name": f"{layers.depth.name}_{face.upper()}_{depth}MM"})
    return layers.note if operation == "frame" else getattr(layers, operation.replace("-", "_"))


def cut_width(cutter: Cutter, stock: str) -> float:
    """How wide it cuts in a stock, in mm: a router's bit, else the stock's own kerf, else the cutter's. Raises ExpressionError."""
    work = cutter.work.get(stock)
    entry = work.kerf if work and work.kerf else cutter.kerf
    if cutter.can.bit and cutter.bit:
        entry = cutter.bit
    return plain_length(entry)


def mill_widths(cutter: Cutter, stock: str, deep: float) -> list[float]:
    """How wide it cuts in a stock, in mm: first as outlines are cut, then the narrower end mills of a router that cut ``deep`` mm deep, the widest first. Raises ExpressionError."""
    own = cut_width(cutter, stock)
    mills = (
        [b for b in cutter.bits.values() if b.kind == "end_mill" and (not b.reach or plain_length(b.reach) >= deep)]
        if cutter.can.bit
        else []
    )
    return [own, *sorted({w for b in mills if 0 < (w := plain_length(b.diameter)) < own}, reverse=True)]


def widened_on_line(cutter: Cutter | None, stock: str) -> float:
    """By how much a hole that is cut on its line comes out wider (mm); 0 where no cutter is chosen, or one that follows with a bit, or its kerf is not known."""
    if cutter is None or cutter.can.bit:
        return 0.0
    try:
        return cut_width(cutter, stock)
    except ExpressionError:
        return 0.0  # said by the checks of the cutter
