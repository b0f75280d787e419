"""Fits: total clearance in a joint, slot minus tab, negative for press; half of it on each side."""

from __future__ import annotations

from typing import Literal

from zygon.measure.entry import Entry, Record

__all__ = ["FIT_NAMES", "FitName", "FitTable"]

FitName = Literal["press", "snug", "slip", "loose"]
FIT_NAMES: tuple[FitName, ...] = ("press", "snug", "slip", "loose")


class FitTable(Record):
    """The four fits of one stock on one cutter."""

    stock: str
    cutter: str
    press: Entry = Entry(text="-0.1")
    snug: Entry = Entry(text="0.05")
    slip: Entry = Entry(text="0.2")
    loose: Entry = Entry(text="0.5")
