"""All checks of a built design. A new rule is a function in one of this folder's modules and one line here."""

from __future__ import annotations

from functools import partial

from zygon.brake.bend_plan import Plan, plan_of
from zygon.check.alike import one_a_cause
from zygon.check.bends import bend_faults, gap_faults, gap_of
from zygon.check.brake import brake_faults
from zygon.check.called import called
from zygon.check.clash import clash_faults
from zygon.check.clearance import clearance_faults
from zygon.check.cutter import cutter_faults, flat_cutter_faults
from zygon.check.depth import depth_faults
from zygon.check.drop import drop_faults
from zygon.check.locked import locked_faults
from zygon.check.overlap import overlap_faults
from zygon.check.pieces import gone_faults, piece_faults, underside_faults
from zygon.check.placed import placed_faults
from zygon.check.problem import Problem, as_problems
from zygon.check.process import process_faults
from zygon.check.sheets import sheet_faults
from zygon.check.thin import finger_faults, thin_faults, web_faults
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault
from zygon.memo import Memo, digest

__all__ = ["check"]

_OF_FLATS = Memo(4000)


def check(built: Built, *, assembled: bool = True, plan: Plan = plan_of) -> list[Problem]:
    """Every problem of a built design, errors first, kept ones last.

    ``assembled`` also asks whether it can be put together, which takes longer than all the rest; while a value is dragged it waits.
    ``plan`` gives the orders of bending; where it knows none yet, what hangs on them is not said.
    """
    faults: list[Fault] = list(built.faults)
    faults += overlap_faults(built)
    faults += clearance_faults(built)
    faults += finger_faults(built)
    faults += web_faults(built)
    faults += drop_faults(built, tried=assembled)
    if assembled:
        faults += locked_faults(built)
    faults += brake_faults(built, plan)
    faults += sheet_faults(built)
    faults += cutter_faults(built)
    document = built.document
    for key, part in built.flats.items():
        if _seen_already(built, part):
            continue
        context = (key, part.path, part.flat.digest, part.record.up, document.rules, document.cutter, document.cutters if document.cutter else None,
                   [(k, getattr(j, "relief", "")) for k, j in document.joints.items() if key in (j.a, j.b)], part.record.stock, part.record.made, document.display,
                   document.stock_of(part.record).bending if part.flat.fold else None, _folded(built, part), _words(built, part), assembled and part.flat.fold is not None)  # fmt: skip
        faults += _OF_FLATS.get(digest("check", *context), partial(_of_flat, built, part, thorough=assembled))[0]
    return as_problems(document, one_a_cause(faults))


def _seen_already(built: Built, part: FlatPart) -> bool:
    """Whether a part is a copy that is as its original is, or its mirror image: what is wrong with it is said there."""
    if not part.made_by:
        return False
    own = built.flats.get(part.of)
    return part.handed < 0 or (own is not None and own.flat.digest == part.flat.digest)


def _words(built: Built, part: FlatPart) -> list:
    """What the owners of a part's cuts are called, and what kind they are of: the same flat may have come about in other ways."""
    document, record = built.document, part.record
    owners = dict.fromkeys(o.owner for o in part.flat.asked.operations) if part.flat.asked else {}
    kinds = [(k, f.kind) for k, f in record.features.items()]
    return [kinds, [called(document, o) for o in owners]]


def _folded(built: Built, part: FlatPart) -> list:
    """What the checks of a folded part read beside its flat: the names and radii of its flanges, and the gaps of its corners."""
    folding = part.record.folding
    if folding is None:
        return []
    own = [(k, f.name, f.radius) for k, f in folding.flanges.items()]
    return [own, folding.radius, folding.corner, gap_of(built, part)]


def _of_flat(built: Built, part, *, thorough: bool) -> list[Fault]:
    """The checks that read one flat only; they are remembered with it. ``thorough`` tries what is offered as a mend."""
    return [
        *piece_faults(built.document, part),
        *gone_faults(built.document, part),
        *underside_faults(part),
        *thin_faults(built.document, part),
        *depth_faults(built.document, part),
        *placed_faults(built.document, part),
        *bend_faults(built.document, part),
        *gap_faults(built, part),
        *clash_faults(built.document, part, tried=thorough),
        *([*flat_cutter_faults(built.document, part), *process_faults(built.document, part)] if part.record.made == "cut" else []),
    ]
