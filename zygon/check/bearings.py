"""The rule that a bearing fits the shaft that goes through it."""

from __future__ import annotations

from zygon.design.parts.kinds import is_hardware
from zygon.making.hardware.body import HardwareBody
from zygon.making.result.built import Built
from zygon.making.result.fault import Fault
from zygon.making.solids.shafts import is_round, through
from zygon.measure.display import format_length
from zygon.owner import part_id
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.tolerance import CONTACT

__all__ = ["bearing_faults"]

#: A shaft measures so much less than a bearing's bore at most (mm), as drawn bars do (h11 up to 18 mm: 0.11, ISO 286-2 from memory).
UNDER = 0.15


def bearing_faults(built: Built) -> list[Fault]:
    """Bearings on shafts that are too thin or too thick, and bearings that nothing goes through."""
    faults = []
    shafts = [p for p in built.made.values() if not p.body.empty and is_round(p)]
    for part in built.made.values():
        body = part.body
        if not is_hardware(part.record) or not isinstance(body, HardwareBody) or body.piece is None or part.record.aside:
            continue
        if FAMILIES[body.piece.family].role != "bearing" or part.made_by:
            continue
        bore = FAMILIES[body.piece.family].measures(body.piece.size)["inner"]
        found = next(((s, wide) for s in shafts if (wide := through(part, s)) is not None), None)
        if found is None:
            faults.append(
                Fault(
                    "bearing_empty",
                    f"{part.path}: nothing goes through this bearing",
                    f"a shaft of {format_length(bore, built.document.display)}",
                    "",
                    "",
                    "warning",
                    part.key,
                    owner=part_id(part.of),
                )
            )
            continue
        shaft, wide = found
        if bore - UNDER - CONTACT <= wide <= bore + CONTACT:
            continue
        shown, wanted = (format_length(x, built.document.display) for x in (wide, bore))
        what = "thin" if wide < bore else "thick"
        faults.append(
            Fault(
                "bearing_shaft",
                f"{shaft.path} is too {what} for {part.path}: {shown} in a bore of {wanted}",
                f"a shaft of {wanted}, at most {UNDER:g} mm under it",
                shown,
                "ISO 15, ISO 286-2 (from memory)",
                part=part.key,
                other=shaft.key,
                owner=part_id(part.of),
            )
        )
    return faults
