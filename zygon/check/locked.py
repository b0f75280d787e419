"""The rule that a design can be put together."""

from __future__ import annotations

from zygon.making.assembly.plan import assembly
from zygon.making.result.built import Built
from zygon.making.result.fault import Fault
from zygon.measure.display import listed

__all__ = ["MOST", "locked_faults"]

#: In larger designs the order of assembly takes too long to be found with every edit.
MOST = 100


def locked_faults(built: Built) -> list[Fault]:
    """Groups of parts that lock each other out: none can be slid home on a straight way while the others stand."""
    faults = []
    if len(built.parts) > MOST:
        return []  # asked for with "Put together"
    for group in assembly(built).locked:
        said = listed([built.parts[k].path for k in group])
        faults.append(
            Fault(
                "locked",
                f"{said} lock each other out: no order and no straight way puts them together",
                "each part, or a group of them, slides home on a straight way",
                str(len(group)),
                "geometry",
                part=group[0],
                other=group[1],
            )
        )
    return faults
