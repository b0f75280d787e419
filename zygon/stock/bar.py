"""Bar stock: bars and tubes by their section, the lengths they are sold in, and what a cut through one takes."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zygon.drawn.drawing import Drawing
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.stock.base import StockBase
from zygon.stock.section import SectionShape

__all__ = ["BarLength", "BarRemainder", "BarStock"]


#: Words of the sections.
SHAPES = {
    "round": "round",
    "square": "square",
    "rectangle": "rectangle or flat",
    "hexagon": "hexagon",
    "angle": "angle",
    "channel": "channel",
    "tee": "tee",
    "drawn": "drawn freely",
}
_WIDE = ("rectangle", "angle", "channel", "tee")
_SAID = tuple(s for s in SHAPES if s != "drawn")


class BarLength(Record):
    """One length that a bar is sold in."""

    title: ClassVar[str] = "Bar"

    length: Entry = asked("Bar length")
    price: float = asked("Price", 0.0, suffix=" CURRENCY", step=0.5, ge=0)
    order: int = 0


class BarRemainder(Record):
    """What was left of a bar that was cut, which a design takes from the shelf: its length in mm, and what is written on it."""

    name: str = Field(min_length=1, max_length=80)
    length: float = Field(gt=0, le=1e6)
    order: int = 0


class BarStock(StockBase):
    """A bar, or with a wall a tube, or whatever is drawn; its thickness is its diameter, its side, its height, or its size across flats. An angle's, a channel's or a tee's
    wall is what its legs are thick."""

    title: ClassVar[str] = "Bar or tube"

    kind: Literal["bar"] = "bar"
    shape: SectionShape = asked("Section", "round", words=SHAPES, place=1)
    nominal: Entry = asked("Across", note="diameter, side, height, or size across flats", only={"shape": _SAID}, place=2)
    width: Entry | None = asked("Width", None, only={"shape": _WIDE}, blank="as its height", place=2)
    wall: Entry | None = asked(
        "Wall",
        None,
        only={"shape": _SAID},
        note="of a tube; of an angle, channel or tee how thick its legs are",
        blank="solid; a tenth of its size where it is open",
        place=3,
    )
    corner: Entry | None = asked(
        "Corner radius", None, note="outside; between the legs of what is open", only={"shape": ("square", *_WIDE)}, blank="sharp", place=3
    )
    measured: Entry | None = asked("Measured", None, only={"shape": _SAID}, blank="caliper reading", place=4)
    drawing: Drawing | None = Field(
        default=None, description="its section where that is drawn freely: its outermost loop, with hollows; where it lies is of no account"
    )
    metre: float | None = asked("Mass of a metre", None, suffix=" kg", step=0.1, blank="from the section", place=5, gt=0, le=1000)
    least_radius: Entry | None = asked(
        "Least bend", None, note="radius of the centre line on the shop's tool", blank="by its thickness", place=7
    )
    springs: float | None = asked(
        "Springs back", None, suffix=" %", step=0.5, note="of each bend: bent over by so much", blank="not reckoned", place=7, ge=0, le=50
    )
    lengths: dict[str, BarLength] = Field(default_factory=dict, max_length=20)
    remainders: dict[str, BarRemainder] = Field(default_factory=dict, max_length=100, description="used before new bars")
    sawn: str = Field(
        default="", max_length=64, description="the plan by which its bars have been cut, as its hash; '' while they have not"
    )
    taken: dict[str, Annotated[int, Field(ge=1, le=100_000)]] = Field(
        default_factory=dict, max_length=20, description="the new bars that were cut by it, by the key of their length"
    )
    kerf: Entry = asked("Saw takes", Entry(text="2 mm"), place=6)
    sawing: float = asked("A cut takes", 60.0, suffix=" s", step=5, note="with setting the saw and the stop", place=6, ge=0, le=3600)
    trim: Entry = asked("End trim", Entry(text="0"), note="cut off each end of a new bar", place=6)
    gauge: ClassVar[None] = None
    bends: ClassVar[bool] = False
    bending: ClassVar[None] = None
    grain: ClassVar[Literal["none", "along"]] = "none"
