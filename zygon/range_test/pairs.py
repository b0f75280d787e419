"""Sizes that act on one another: something in the design reads both."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import combinations
from typing import Any

from zygon.design.document import Document
from zygon.design.entries import entries_of
from zygon.making.datums.graph import datums_of, entry_references, followers, naming_of, read_by
from zygon.owner import size_id

__all__ = ["acting_pairs"]


def acting_pairs(document: Document, keys: list[str]) -> list[tuple[str, str]]:
    """Pairs of sizes by key that act on the same part: on where it ends, on what is cut into it, on a joint of it; in the order of ``keys``.

    A size that is reckoned from another is none with it: it is tried where the other takes it.
    """
    datums = datums_of(document)
    needs = read_by(datums, document)
    follow = {key: followers(needs, size_id(key)) for key in keys}
    acts = {key: {d.part for i in found if (d := datums[i]).part} for key, found in follow.items()}
    sizes = naming_of(document).sizes
    for parts, names in _reading(document):
        read = {sizes[n] for n in names if n in sizes}
        for key in keys:
            if follow[key] & read:
                acts[key] |= parts
    return [(a, b) for a, b in combinations(keys, 2) if size_id(a) not in follow[b] and size_id(b) not in follow[a] and acts[a] & acts[b]]


def _reading(document: Document) -> Iterator[tuple[set[str], set[str]]]:
    """(parts, names read) of what is no datum: what is cut into a part, a joint, a bore."""
    for key, part in document.parts.items():
        yield {key}, set(_names(part))
    for group in (document.joints, document.bores):
        for record in group.values():
            yield set(_parts(record.model_dump(), document.parts)), set(_names(record))


def _names(record: Any) -> Iterator[str]:
    for _, entry in entries_of(record):
        yield from (name for name, _ in entry_references(entry.text))


def _parts(data: Any, known: Mapping[str, Any]) -> Iterator[str]:
    """Keys of parts anywhere in a record's data; those of an instance are of its part."""
    if isinstance(data, str):
        if (key := data.partition("/")[0]) in known:
            yield key
    elif isinstance(data, Mapping):
        for value in data.values():
            yield from _parts(value, known)
    elif isinstance(data, list | tuple):
        for value in data:
            yield from _parts(value, known)
