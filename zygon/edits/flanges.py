"""Edits of a folded part's flanges."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.flange_words import flange_words
from zygon.design.parts.kinds import is_plate
from zygon.design.patch import Patch, pointer
from zygon.errors import DocumentError

__all__ = ["remove_flange"]


def remove_flange(document: Document, part: str, key: str) -> tuple[str, Patch]:
    """Label and patch that remove a flange with all that stands on it and the corners that any of them has a part in.

    With the last flange the part is no folded one any more: a board, or a bought block again. Raises DocumentError where there is none.
    """
    record = document.parts.get(part)
    folding = record.folding if is_plate(record) else None
    if record is None or folding is None or key not in folding.flanges:
        raise DocumentError(f"There is no flange {key} to remove", entry="key", value=key, rule="a flange of a folded part")
    gone = [key]
    for k in gone:  # it grows while it is gone through
        gone += [other for other, f in folding.flanges.items() if f.on == k and other not in gone]
    label = f"{record.name}: without {flange_words(key, folding.flanges)}"
    base = ("parts", part, "folding")
    if len(gone) < len(folding.flanges):
        corners = [k for k, c in folding.corners.items() if c.a in gone or c.b in gone]
        removed = [(*base, "corners", k) for k in corners] + [(*base, "flanges", k) for k in gone]
        return label, [{"op": "remove", "path": pointer(*where)} for where in removed]
    bought = getattr(record, "made", "") == "bought"
    said = document.dump()["parts"][part]
    # what only a folded part says; a bought block has its price still
    own = [f for f in ("folding", "made", *(() if bought else ("price",))) if f in said]
    kind = {"op": "replace", "path": pointer("parts", part, "kind"), "value": "bought" if bought else "board"}
    return label, [*({"op": "remove", "path": pointer("parts", part, f)} for f in own), kind]
