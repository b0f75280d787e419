"""What a router's paths follow from: its further bits, how it mills, and what must not be run into on its bed."""

from __future__ import annotations

from typing import ClassVar, Literal

from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = ["Bit", "Clamp", "Routing"]

_V: dict[str, tuple[str, ...]] = {"kind": ("v",)}


class Bit(Record):
    """A bit beside the one that outlines are cut with: a finer end mill, a drill, or a V bit for marks and countersinks."""

    title: ClassVar[str] = "Further bits"

    name: str = asked("Name", min_length=1, max_length=60)
    kind: Literal["end_mill", "drill", "v"] = asked("Kind", "end_mill", words={"end_mill": "End mill", "drill": "Drill", "v": "V bit"})
    number: int = asked("T", 2, note="its number in programs; the bit of outlines is 1", ge=2, le=999)
    diameter: Entry = asked("Diameter", begin="3 mm")
    angle: float = asked("Angle", 90.0, note="included, of its tip", suffix="°", gt=0, lt=180, only=_V)
    flutes: int = asked("Flutes", 2, ge=1, le=12)
    reach: Entry | None = asked("Cutting length", None, blank="enough")
    order: int = 0


class Clamp(Record):
    """A place on the sheet that is kept clear, from the sheet's lower left corner."""

    title: ClassVar[str] = "Clamps"

    name: str = asked("Name", min_length=1, max_length=60)
    x: Entry = asked("From the left", begin="0 mm")
    y: Entry = asked("From below", begin="0 mm")
    length: Entry = asked("Along", begin="40 mm")
    width: Entry = asked("Across", begin="40 mm")
    height: Entry = asked("Height", note="over the sheet", begin="20 mm")
    order: int = 0


class Routing(Record):
    """How a router mills: lengths as entries, the slope of its ways in in degrees."""

    title: ClassVar[str] = "Milling"

    flutes: int = asked("Flutes of the bit", 2, ge=1, le=12)
    reach: Entry | None = asked("Cutting length", None, note="of the bit", blank="enough")
    way: Literal["climb", "conventional"] = asked(
        "Milled", "climb", words={"climb": "Climb: with the turn of the bit", "conventional": "Conventional: against the turn of the bit"}
    )
    step_over: int = asked("Step over", 40, note="from run to run in a pocket, of the bit", suffix=" %", step=5, ge=5, le=60)
    finish: Entry = asked("Left for a finishing run", Entry(text="0 mm"))
    slope: float = asked("Slope of ways in", 4.0, suffix="°", step=1, zero="straight down", ge=0, le=45)
    over: Entry = asked("Into the bed", Entry(text="0.3 mm"), note="deeper than the sheet, so that nothing is left")
    peck: Entry | None = asked("Pecks of", Entry(text="5 mm"), note="a drill comes up after each", blank="none")
    mark_depth: Entry = asked("Depth of marks", Entry(text="0.3 mm"), note="with a V bit")
    tabs: int = asked("Tabs a part", 4, note="that hold it in the sheet", zero="none", ge=0, le=40)
    tab_length: Entry = asked("Length of a tab", Entry(text="6 mm"))
    tab_height: Entry = asked("Height of a tab", Entry(text="2 mm"), note="from the bed")
    skin: Entry = asked("Skin left to the last", Entry(text="0 mm"), note="under outlines, cut when all else is done")
    safe: Entry = asked("Safe height", Entry(text="10 mm"), note="over the sheet, between cuts")
    zero: Literal["face", "bed"] = asked("Height is zero on", "face", words={"face": "The sheet's face", "bed": "The bed"})
    change: Literal["machine", "hand"] = asked(
        "Bits are changed", "machine", words={"machine": "By the machine (M6)", "hand": "By hand: it stops (M0)"}
    )
