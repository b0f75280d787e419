"""How a folded part of a design is bent on its chosen brake: the steps by hand or as found, remembered by what they were made from."""

from __future__ import annotations

from collections.abc import Callable

from zygon.brake.order import Step, bend_order, strokes_of
from zygon.design.document import Document
from zygon.making.flats.flat import lying
from zygon.making.metal.legs import leg_words
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.flat import Flat
from zygon.memo import Memo, digest
from zygon.stock.bending import Bending

__all__ = ["Plan", "find_plans", "known_plan", "numbers_of", "plan_of", "unknown_plans"]

#: The steps of a part as a flat lies; None where they are not known.
Plan = Callable[[Document, FlatPart, Flat], list[Step] | None]

_PLANS = Memo(500)


def plan_of(document: Document, part: FlatPart, flat: Flat, stop: Callable[[], bool] = bool) -> list[Step]:
    """The steps that bend ``flat`` (the part's, as it lies), found now where they are not known; none where no brake is chosen or nothing is bent.

    Raises StoppedError soon after ``stop`` says so.
    """
    if not _bent(document, part, flat):
        return []
    return _PLANS.get(_key(document, part, flat), lambda: _found(document, part, flat, stop))[0]


def known_plan(document: Document, part: FlatPart, flat: Flat) -> list[Step] | None:
    """The same where it was found before; None where it was not."""
    return _PLANS.known(_key(document, part, flat)) if _bent(document, part, flat) else []


def unknown_plans(built: Built) -> list[tuple[FlatPart, Flat]]:
    """The folded parts of a design whose steps are not known, with their flats as drawn and as they lie."""
    found: dict[str, tuple[FlatPart, Flat]] = {}
    for part in built.flats.values():
        if part.flat.fold is not None:
            for flat in (part.flat, lying(part)):
                if known_plan(built.document, part, flat) is None:
                    found.setdefault(_key(built.document, part, flat), (part, flat))
    return list(found.values())


def find_plans(built: Built, stop: Callable[[], bool]) -> None:
    """Finds all of them, so that they are known. Raises StoppedError soon after ``stop`` says so."""
    for part, flat in unknown_plans(built):
        plan_of(built.document, part, flat, stop)


def _bent(document: Document, part: FlatPart, flat: Flat) -> bool:
    record = part.record
    return document.brake in document.brakes and flat.fold is not None and bool(flat.fold.bends) and record.folding is not None


def _names(part: FlatPart) -> dict[str, str]:
    """What each bend's flange is called, by the bend's key."""
    flanges = part.folding.flanges
    return {b.key: leg_words(b.key, flanges) for b in part.fold.bends}


def _key(document: Document, part: FlatPart, flat: Flat) -> str:
    """What the steps hang on."""
    bending = document.stock_of(part.record).bending or Bending()
    sequence = part.folding.sequence
    return digest("brake", flat.digest, flat.fold, flat.thickness, bending, document.brakes[document.brake], sequence, _names(part))


def _found(document: Document, part: FlatPart, flat: Flat, stop: Callable[[], bool]) -> list[Step]:
    bending = document.stock_of(part.record).bending or Bending()
    sequence = part.folding.sequence
    return bend_order(part.fold, flat.thickness, bending, document.brakes[document.brake], sequence, _names(part), stop)


def numbers_of(flat: Flat, steps: list[Step]) -> list[int]:
    """The step that makes each bend of a flat's fold, from 1 on; as they hang on one another where there are no steps."""
    if flat.fold is None:
        return []
    groups = [s.bends for s in steps] or strokes_of(flat.fold)
    found = {b: n for n, group in enumerate(groups, 1) for b in group}
    return [found.get(i, 0) for i in range(len(flat.fold.bends))]
