"""Records of joints: one object between two parts, never two drawings that have to agree."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = ["FingerJoint", "Joint", "Tab", "TabSlotJoint"]


class _Joint(Record):
    a: str = Field(description="part key")
    b: str = Field(description="part key")
    order: int = 0
    fit: Entry = Entry(text="snug")


class FingerJoint(_Joint):
    """Fingers of two boards that meet in a corner. With neither count nor pitch the width follows the thickness."""

    kind: Literal["finger"] = "finger"
    count: Entry | None = Field(default=None, description="fingers of both boards together along the corner")
    pitch: Entry | None = Field(default=None, description="from one finger to the next of the same board; both ends equal")
    starts: Literal["a", "b"] = "a"


class Tab(Record):
    """One tab: its middle, measured from the low end of the joint's run, and its length."""

    at: Entry
    length: Entry


class TabSlotJoint(_Joint):
    """The edge of ``a`` goes through the face of ``b`` in tabs and slots."""

    kind: Literal["tab_slot"] = "tab_slot"
    number: Entry | None = None
    spacing: Entry | None = Field(default=None, description="middle to middle; spread evenly where not said")
    length: Entry | None = Field(default=None, description="of each tab; three thicknesses where not said")
    inset: Entry | None = Field(default=None, description="from the run's ends to the outer tabs' outer ends")
    tabs: dict[str, Tab] = Field(default_factory=dict, description="a list of tabs in place of number and spacing")
    stand_over: Entry = Field(default=Entry(text="0"), description="how far the tabs stand over the far face")


Joint = Annotated[FingerJoint | TabSlotJoint, Field(discriminator="kind")]
