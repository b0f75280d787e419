"""Places on the legs of folded parts that entries may name while places are still being worked out: only what says where a leg stands is folded."""

from __future__ import annotations

import numpy as np

from zygon.design.flange_names import FLANGE_FACES, called, flange_called, flanges_that_place, names_of_flanges
from zygon.design.outlines import Traced
from zygon.design.parts.kinds import is_plate
from zygon.making.blanks.blank import blank_of
from zygon.making.datums.placing import motion_between
from zygon.making.datums.values import Values
from zygon.making.features.outlines import shape_outlines
from zygon.making.metal.folding import folded
from zygon.making.metal.legs import record_of
from zygon.making.result.fold import leg_rectangle

__all__ = ["leg_face"]


def leg_face(values: Values, part: str, leg: str, side: str) -> np.ndarray:
    """(3, 3) a corner of a leg's face at its bend, the corner along the bend and the one at its far end, in mm, as the part lies at rest.

    ``side`` is 'inner' or 'outer'. Raises KeyError, with a sentence, where there is none.
    """
    record = values.boards[part]
    key = flange_called(record, f"{leg}.{side}")
    if not is_plate(record) or record.folding is None:
        raise KeyError(f"{record.name} is not folded, so it has no flange {leg}")
    if key is None:
        known = names_of_flanges(record)
        raise KeyError(f"{record.name} has no flange {leg}" + (f"; it has {', '.join(known)}" if known else ""))
    if side not in FLANGE_FACES:
        raise KeyError(f"a flange has no {side}; it has {', '.join(FLANGE_FACES)}")
    if isinstance(record.outline, Traced):
        raise KeyError(
            f"the plate of {record.name} is traced, so its flanges have a place only once all else has; name what it is traced from"
        )
    box = values.box(part)
    if box is None:
        raise KeyError(f"{record.name} has no place yet")
    which = flanges_that_place(record.folding, key)
    flanges = {k: f for k, f in record.folding.flanges.items() if k in which}
    corners = {k: c for k, c in record.folding.corners.items() if c.a in which and c.b in which}
    folding = record.folding.model_copy(update={"flanges": flanges, "corners": corners, "split": None})
    blank = blank_of(part, record.model_copy(update={"folding": folding}), box, motion_between(values, part, ""))
    # what is wrong with its entries is said when the part is folded as a whole
    said = len(values.faults)
    shape_outlines(values, {part: blank}, {})
    fold = folded(values, blank, folding).fold
    del values.faults[said:]
    standing = [(i, f.key) for i, f in enumerate(fold.faces) if i]
    i = next((i for i, k in standing if called(leg, k)), None) or next((i for i, k in reversed(standing) if record_of(k) == key), None)
    if i is None:
        raise KeyError(f"{record.name} has no flange {leg} as it is now: it is left out, or cannot be bent")
    # the blank was made where the part stands, for what it reads there
    at_rest = blank_of(part, record, box).frame_motion
    return at_rest.points(leg_rectangle(fold, blank.thickness, i, "outer" if side == "outer" else "inner"))
