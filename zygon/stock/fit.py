"""Fits: total clearance in a joint, slot minus tab, negative for press; half of it on each side."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.tolerance import WITHIN

__all__ = ["FIT_NAMES", "SHAFT_FITS", "FitName", "FitState", "FitTable", "ShaftFitName", "ShaftFits", "fit_state"]

FitName = Literal["press", "snug", "slip", "loose"]
FIT_NAMES: tuple[FitName, ...] = ("press", "snug", "slip", "loose")
ShaftFitName = Literal["fixed", "running"]
SHAFT_FITS: tuple[ShaftFitName, ...] = ("fixed", "running")


class ShaftFits(Record):
    """How a shaft lies in a hole, hole minus shaft: tight, or so that it turns."""

    fixed: Entry = Entry(text="0 mm", unit="mm")
    running: Entry = Entry(text="0.2 mm", unit="mm")
    tested_kerf: float | None = Field(default=None, ge=0, description="mm: the kerf with which they were tried on a comb of holes")


class FitTable(Record):
    """The four fits of one stock on one cutter."""

    title: ClassVar[str] = "Fits: slot minus tab, all of it"

    stock: str
    cutter: str
    press: Entry = asked("Press", Entry(text="-0.1"))
    snug: Entry = asked("Snug", Entry(text="0.05"))
    slip: Entry = asked("Slip", Entry(text="0.2"))
    loose: Entry = asked("Loose", Entry(text="0.5"))
    tested_kerf: float | None = Field(default=None, ge=0, description="mm: the kerf with which these fits were tried on a comb")
    shafts: dict[str, ShaftFits] = Field(default_factory=dict, max_length=100, description="of shafts in holes, by the key of the bar")
    tested: dict[FitName, Entry] = Field(default_factory=dict, description="the fits as the comb gave them")


FitState = Literal["tested", "untested", "outdated", "edited"]


def fit_state(table: FitTable | None, kerf: float) -> FitState:
    """Whether fits were tried on a comb: 'outdated' once the kerf (mm) is another, 'edited' once one of them was changed by hand."""
    if table is None or table.tested_kerf is None:
        return "untested"
    if abs(table.tested_kerf - kerf) >= WITHIN:
        return "outdated"
    return "tested" if all(getattr(table, name) == entry for name, entry in table.tested.items()) else "edited"
