"""How a folded part of a design is bent on its chosen brake: the steps by hand or as found, remembered by what they were made from."""

from __future__ import annotations

from zygon.brake.order import Step, bend_order, strokes_of
from zygon.build.built import BuiltPart, Flat
from zygon.build.memo import Memo, digest
from zygon.build.metal.legs import record_of
from zygon.design.document import Board, Document
from zygon.stock.bending import Bending

__all__ = ["numbers_of", "plan_of"]

_PLANS = Memo(500)


def plan_of(document: Document, part: BuiltPart, flat: Flat) -> list[Step]:
    """The steps that bend ``flat`` (the part's, as it lies); none where no brake is chosen or nothing is bent."""
    brake, record = document.brakes.get(document.brake), part.record
    if brake is None or flat.fold is None or not isinstance(record, Board) or record.folding is None or not flat.fold.bends:
        return []
    fold, stock = flat.fold, document.stocks[record.stock]
    flanges, sequence = record.folding.flanges, record.folding.sequence
    names = {}
    for b in fold.bends:
        flange = flanges.get(record_of(b.key))
        names[b.key] = (flange.name if flange and flange.name else record_of(b.key)).replace("_", " ")
    bending = stock.bending or Bending()
    key = digest("brake", flat.digest, fold, flat.thickness, bending, brake, sequence, names)
    return _PLANS.get(key, lambda: bend_order(fold, flat.thickness, bending, brake, sequence, names))[0]


def numbers_of(flat: Flat, steps: list[Step]) -> list[int]:
    """The step that makes each bend of a flat's fold, from 1 on; as they hang on one another where there are no steps."""
    if flat.fold is None:
        return []
    groups = [s.bends for s in steps] or strokes_of(flat.fold)
    found = {b: n for n, group in enumerate(groups, 1) for b in group}
    return [found.get(i, 0) for i in range(len(flat.fold.bends))]
