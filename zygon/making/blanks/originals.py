"""Which boards a copy or a question is of, whatever names them."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.layout import origin_of

__all__ = ["originals"]


def originals(document: Document, of: list[str]) -> list[str]:
    """The keys of the boards that references name, in groups and copies too, in order and once each."""
    found: dict[str, None] = {}
    waiting = list(of)
    seen: set[str] = set()
    while waiting:
        reference = waiting.pop(0)
        if reference in seen:
            continue
        seen.add(reference)
        kind, key = origin_of(reference)
        if kind == "part":
            found[key] = None
        elif kind == "copy" and key in document.copies:
            waiting += document.copies[key].of
        elif kind == "group":
            found |= dict.fromkeys(k for k, b in document.placed().items() if key in document.within(b.group))
    return [k for k in found if k in document.placed()]
