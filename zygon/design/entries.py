"""Every entry of a record, wherever in it."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from typing import Any

from zygon.design.pointer import pointer
from zygon.measure.entry import Entry, Record

__all__ = ["entries_of"]


def entries_of(record: Any, at: str = "", skip: Collection[str] = ()) -> Iterator[tuple[str, Entry]]:
    """(pointer, entry) of every entry of a record, behind the pointer ``at``; without what stands in its fields ``skip``."""
    if isinstance(record, Entry):
        yield at, record
    elif isinstance(record, Record):
        for name in type(record).model_fields:
            if name not in skip:
                yield from entries_of(getattr(record, name), at + pointer(name))
    elif isinstance(record, dict):
        for key, value in record.items():
            yield from entries_of(value, at + pointer(key))
    elif isinstance(record, list | tuple):
        for i, value in enumerate(record):
            yield from entries_of(value, at + pointer(str(i)))
