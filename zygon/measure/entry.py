"""An entry: what a maker typed, kept as typed, with the unit that bare numbers had at that moment."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from zygon.measure.syntax import MAX_LENGTH

__all__ = ["Entry", "Record"]


class Record(BaseModel):
    """Base of all document records: immutable, nothing unknown let in."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Entry(Record):
    """An expression as typed; ``unit`` is what a bare number in it means, so that the display never changes a value."""

    text: str = Field(max_length=MAX_LENGTH)
    unit: Literal["mm", "in"] = "mm"
