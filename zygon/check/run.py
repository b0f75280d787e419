"""All checks of a built design. A new rule is a function in one of this folder's modules and one line here, or in ``flat_rules`` where it looks at one flat alone."""

from __future__ import annotations

from zygon.brake.bend_plan import Plan, plan_of
from zygon.check.alike import one_a_cause
from zygon.check.bars import bar_faults
from zygon.check.bearings import bearing_faults
from zygon.check.bits import bit_faults
from zygon.check.brake import brake_faults
from zygon.check.clearance import clearance_faults
from zygon.check.connectors import connector_faults
from zygon.check.cutter import cutter_faults
from zygon.check.drop import drop_faults
from zygon.check.flat_rules import flat_faults
from zygon.check.locked import locked_faults
from zygon.check.members import member_faults
from zygon.check.moves import MoveFaults, move_faults
from zygon.check.overlap import overlap_faults, tangled
from zygon.check.problem import Problem, as_problems
from zygon.check.put_in import put_in_faults
from zygon.check.riveted import riveted_faults
from zygon.check.rods import rod_faults
from zygon.check.sets import set_faults
from zygon.check.sheets import sheet_faults
from zygon.check.thin import finger_faults, web_faults
from zygon.check.welds import weld_faults
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault

__all__ = ["check"]


def check(built: Built, *, assembled: bool = True, plan: Plan = plan_of, moves: MoveFaults = move_faults) -> list[Problem]:
    """Every problem of a built design, errors first, kept ones last.

    ``assembled`` also asks whether it can be put together, which takes longer than all the rest; while a value is dragged it waits.
    ``plan`` gives the orders of bending and ``moves`` what is wrong with what moves; where they know none yet, what hangs on them is not said.
    """
    faults: list[Fault] = list(built.faults)
    faults += overlap_faults(built)
    faults += clearance_faults(built)
    faults += finger_faults(built)
    faults += web_faults(built)
    if not tangled(faults):
        faults += drop_faults(built, tried=assembled)
        if assembled:
            faults += locked_faults(built)
    faults += brake_faults(built, plan)
    faults += sheet_faults(built)
    faults += bar_faults(built)
    faults += member_faults(built)
    faults += connector_faults(built)
    faults += weld_faults(built)
    faults += set_faults(built)
    faults += bearing_faults(built)
    faults += bit_faults(built)
    faults += riveted_faults(built)
    if not tangled(faults):
        faults += rod_faults(built)
        if assembled and built.sets:
            faults += put_in_faults(built)
        if assembled:
            faults += moves(built) or []
    faults += cutter_faults(built)
    known: dict[str, str] = {}
    for part in built.flats.values():
        if _seen_already(built, part):
            continue
        faults += flat_faults(built, part, tried=assembled, known=known)
    return as_problems(built.document, one_a_cause(faults))


def _seen_already(built: Built, part: FlatPart) -> bool:
    """Whether a part is a copy that is as its original is, or its mirror image: what is wrong with it is said there."""
    if not part.made_by:
        return False
    own = built.flats.get(part.of)
    return part.handed < 0 or (own is not None and own.flat.digest == part.flat.digest)
