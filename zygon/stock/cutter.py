"""Cutters: kerf, smallest feature, bed, and per stock the speeds that time and cost are reckoned from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record
from zygon.measure.evaluate import NoScope, evaluate

__all__ = ["Ability", "Cutter", "CutterWork", "Layer", "Layers", "cut_width", "layer_of"]


@dataclass(frozen=True)
class Ability:
    """What a kind of cutter can do. Whoever has to know asks this, and never the kind.

    ``depth``: it cuts to a depth from a face. ``inside``: it cuts holes and curves anywhere, not only straight from edge to edge. ``bit``: its tool is round
    and as wide as its bit, leaves round inside corners, and goes down in passes. ``slits``: it cuts one run that has no width to speak of. ``tilt``: how
    far it leans from square to the face, in degrees. ``tool`` and ``width`` are the words for what cuts, and for how wide it cuts.
    """

    depth: bool
    inside: bool
    bit: bool
    slits: bool
    tilt: float
    tool: str
    width: str


_CAN = {
    "laser": Ability(depth=False, inside=True, bit=False, slits=True, tilt=0.0, tool="beam", width="kerf"),
    "router": Ability(depth=True, inside=True, bit=True, slits=False, tilt=0.0, tool="bit", width="bit"),
    "saw": Ability(depth=True, inside=False, bit=False, slits=False, tilt=45.0, tool="blade", width="blade"),
}  # fmt: skip


class CutterWork(Record):
    """What a cutter does in one stock: speeds in mm/s, pierce time in s, and a kerf of its own where it differs."""

    cut_speed: float = Field(gt=0, description="mm/s")
    mark_speed: float = Field(gt=0, description="mm/s")
    pierce: float = Field(default=0.0, ge=0, description="seconds before every cut")
    kerf: Entry | None = None


class Layer(Record):
    """How an operation is written to a file: layer name, colour, line width in mm, kind of line."""

    name: str = Field(min_length=1, max_length=60, pattern=r'^[^<>/\\":;?*|=`]+$')
    colour: str = Field(pattern="^#[0-9A-Fa-f]{6}$")
    line_width: float = Field(default=0.0, ge=0, le=2)
    line: Literal["continuous", "dashed", "chain"] = "continuous"


class Layers(Record):
    """One layer for each operation, in cutting order, and one for notes that are not cut.

    ``depth`` is the beginning of a name: every depth has a layer of its own, named with face and millimetres (DEPTH_A_6MM).
    """

    mark: Layer = Layer(name="MARK", colour="#2B5FB3")
    depth: Layer = Layer(name="DEPTH", colour="#8A5A2B")
    inside: Layer = Layer(name="CUT_INSIDE", colour="#0B7A4B")
    outside: Layer = Layer(name="CUT_OUTSIDE", colour="#C8321E")
    drill: Layer = Layer(name="DRILL", colour="#6A4FA3")
    bend_up: Layer = Layer(name="BEND_UP", colour="#6A4FA3")
    bend_down: Layer = Layer(name="BEND_DOWN", colour="#0E7490")
    note: Layer = Layer(name="NOTE", colour="#7A7F85")


class Cutter(Record):
    """What sheets are cut with: a laser (kerf, no depth), a router (a round bit, depth) or a saw (a blade, straight cuts only)."""

    name: str = Field(min_length=1, max_length=80)
    kind: Literal["laser", "router", "saw"] = "laser"
    kerf: Entry = Field(description="width of the cut: of the beam, or of the saw's blade")
    bit: Entry | None = Field(default=None, description="diameter of the router's bit, which is the width of its cut")
    pass_depth: Entry | None = Field(default=None, description="how deep a router cuts at a time; all at once where not said")
    smallest: Entry = Field(description="smallest hole or slot that it cuts cleanly")
    bed_length: Entry
    bed_width: Entry
    travel: float = Field(default=300.0, gt=0, description="mm/s between cuts")
    hourly: float = Field(default=0.0, ge=0, description="price of an hour")
    work: dict[str, CutterWork] = Field(default_factory=dict, description="by stock key")
    layers: Layers = Layers()
    order: int = 0

    @property
    def can(self) -> Ability:
        """What it can do."""
        return _CAN[self.kind]


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
    return evaluate(entry.text, entry.unit, "length", NoScope()).value
