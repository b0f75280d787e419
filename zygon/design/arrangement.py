"""Arrangements by hand: where parts lie on sheets, as a maker has laid them."""

from __future__ import annotations

from pydantic import Field

from zygon.limits import MAX_NEST_PARTS
from zygon.measure.entry import Record

__all__ = ["ArrangedSheet", "Arrangement", "Placed"]

MAX_SHEETS = 200


class Placed(Record):
    """One copy of a part's flat: mirrored where so said, turned by ``angle`` counter-clockwise about the flat's origin, then moved; mm and degrees."""

    part: str = Field(max_length=400, description="key of the part, or of the one that its copies are cut like")
    number: int = Field(default=0, ge=0, lt=MAX_NEST_PARTS, description="which of its copies, from 0")
    x: float = Field(ge=-1e7, le=1e7)
    y: float = Field(ge=-1e7, le=1e7)
    angle: float = Field(default=0.0, ge=-360, le=360)
    mirrored: bool = False
    locked: bool = Field(default=False, description="stays where it is while the rest is nested")


class ArrangedSheet(Record):
    """One sheet: the key of a size or an offcut of its stock, and what lies on it."""

    size: str = Field(max_length=40)
    placed: dict[str, Placed] = Field(default_factory=dict, max_length=MAX_NEST_PARTS)
    cut: bool = Field(default=False, description="it has been cut: nothing on it moves, and nothing is added")
    order: int = 0


class Arrangement(Record):
    """The sheets of one stock. ``flats`` are the hashes of the flats that were laid, by part: what has another one now has changed since."""

    sheets: dict[str, ArrangedSheet] = Field(default_factory=dict, max_length=MAX_SHEETS)
    flats: dict[str, str] = Field(default_factory=dict, max_length=MAX_NEST_PARTS)
