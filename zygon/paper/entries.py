"""The very entry of the design that a dimension's figure comes from: of the record that it is of, the one with the same value."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from zygon.design.pointer import pointer
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.owner import read_owner
from zygon.paper.ink import Dimension
from zygon.tolerance import WITHIN

__all__ = ["entry_of"]

#: Of entries with the same value those so called are meant by a dimension of a kind.
NAMED = {"diameter": ("diameter", "across", "wide", "width"), "radius": ("radius",)}


def entry_of(built: Built, d: Dimension) -> tuple[str, str]:
    """The pointer of the entry that a dimension's figure stands in, and a word for it; two empty ones where no single entry has it."""
    if not d.value:
        return "", ""
    owner = read_owner(d.of) if d.of else None
    if owner is None:
        return "", ""
    records: dict[str, tuple[str, ...]] = {
        "part": ("parts", owner.key),
        "feature": ("parts", owner.part, "features", owner.key),
        "flange": ("parts", owner.part, "folding", "flanges", owner.key),
        "bend": ("parts", owner.part, "folding", "flanges", owner.key),
        "joint": ("joints", owner.key),
        "bore": ("bores", owner.key),
    }
    path = records.get(owner.kind)
    found = [p for p in _with_value(built, pointer(*path) + "/", d) if _measures(built, p)] if path else []
    if owner.kind == "part":
        record = built.document.parts.get(owner.key)
        stock = getattr(record, "stock", "")
        # what is as thick as its stock is so by its stock
        found = (list(_with_value(built, pointer("stocks", stock) + "/", d)) if stock else []) or found or _sizes(built, d)
    names = NAMED.get(d.kind, ())
    best = next((p for n in names for p in found if p.rpartition("/")[2] == n), "") or (found[0] if len(found) == 1 else "")
    best = _named(built, best)
    return (best, _word(built, best)) if best else ("", "")


def _measures(built: Built, path: str) -> bool:
    """Whether an entry can be a size: not where a part begins, nor where one ends that does not begin at 0, nor a dimension of a drawing."""
    if "/drawing/" in path or path.endswith("/low"):
        return False
    if path.endswith("/high"):
        low = built.values.get(path.removesuffix("high") + "low")
        return low is not None and abs(low.value) <= WITHIN
    return True


def _named(built: Built, path: str) -> str:
    """The named size's own entry, where all that stands in an entry is its name."""
    node: Any = built.document
    for part in path.strip("/").split("/") if path else []:
        node = node.get(part) if isinstance(node, Mapping) else getattr(node, part, None)
    text = node.text.strip() if isinstance(node, Entry) else ""
    key = next((k for k, s in built.document.sizes.items() if s.name == text), None)
    return path if key is None else pointer("sizes", key, "entry")


def _with_value(built: Built, prefix: str, d: Dimension) -> Iterable[str]:
    kind = "angle" if d.kind == "angle" else "length"
    for path, value in built.values.items():
        if path.startswith(prefix) and value.kind == kind and abs(value.value - d.value) <= WITHIN * max(1.0, abs(d.value)):
            yield path


def _sizes(built: Built, d: Dimension) -> list[str]:
    """The named size that has this value, where just one has."""
    found = list(_with_value(built, "/sizes/", d))
    return found if len(found) == 1 else []


def _word(built: Built, path: str) -> str:
    """What an entry is called: a size by its name, others by their field."""
    parts = path.strip("/").split("/")
    if parts[0] == "sizes" and parts[1] in built.document.sizes:
        return built.document.sizes[parts[1]].name.replace("_", " ")
    word = next((p for p in reversed(parts) if p not in ("entry", "value")), "")
    return word.replace("_", " ").capitalize()
