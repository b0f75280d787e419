"""Cutters: kerf, smallest feature, bed, and per stock the speeds that time and cost are reckoned from."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = ["Cutter", "CutterWork", "Layer", "Layers"]


class CutterWork(Record):
    """What a cutter does in one stock: speeds in mm/s, pierce time in s, and a kerf of its own where it differs."""

    cut_speed: float = Field(gt=0, description="mm/s")
    mark_speed: float = Field(gt=0, description="mm/s")
    pierce: float = Field(default=0.0, ge=0, description="seconds before every cut")
    kerf: Entry | None = None


class Layer(Record):
    """How an operation is written to a file: layer name, colour, line width in mm."""

    name: str = Field(min_length=1, max_length=60, pattern=r'^[^<>/\\":;?*|=`]+$')
    colour: str = Field(pattern="^#[0-9A-Fa-f]{6}$")
    line_width: float = Field(default=0.0, ge=0, le=2)


class Layers(Record):
    """One layer for each operation, in cutting order, and one for notes that are not cut."""

    mark: Layer = Layer(name="MARK", colour="#2B5FB3")
    inside: Layer = Layer(name="CUT_INSIDE", colour="#0B7A4B")
    outside: Layer = Layer(name="CUT_OUTSIDE", colour="#C8321E")
    note: Layer = Layer(name="NOTE", colour="#7A7F85")


class Cutter(Record):
    """A machine that cuts sheets."""

    name: str = Field(min_length=1, max_length=80)
    kind: Literal["laser"] = "laser"
    kerf: Entry
    smallest: Entry = Field(description="smallest hole or slot that it cuts cleanly")
    bed_length: Entry
    bed_width: Entry
    travel: float = Field(default=300.0, gt=0, description="mm/s between cuts")
    hourly: float = Field(default=0.0, ge=0, description="price of an hour")
    work: dict[str, CutterWork] = Field(default_factory=dict, description="by stock key")
    layers: Layers = Layers()
    order: int = 0
