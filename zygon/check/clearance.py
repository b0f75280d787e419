"""Stated clearances: room that has to stay between two places of the design, kept under watch."""

from __future__ import annotations

from zygon.design.layout import Clearance
from zygon.design.pointer import pointer
from zygon.making.asked.measured import Lost, measure
from zygon.making.result.built import Built
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length
from zygon.owner import clearance_id
from zygon.tolerance import SLACK

__all__ = ["clearance_faults", "clearance_of"]


def clearance_of(built: Built, rule: Clearance) -> float:
    """The room in mm that a stated clearance has now. Raises Lost where a place of it is gone."""
    found = measure(built, rule.a, rule.b)
    if rule.along == "shortest":
        return found.gap
    return found.along["xyz".index(rule.along)]


def clearance_faults(built: Built) -> list[Fault]:
    """Stated clearances that are not kept."""
    faults = []
    document = built.document
    for key, rule in sorted(document.clearances.items(), key=lambda kc: (kc[1].order, kc[0])):
        if rule.out:
            continue
        where, owner = pointer("clearances", key), clearance_id(key)
        try:
            room = clearance_of(built, rule)
        except Lost as lost:
            faults.append(
                Fault("lost_clearance", f"{rule.name}: {lost}", "both places are there", severity="warning", owner=owner, entry=where)
            )
            continue
        given = {f: built.values.get(f"{where}/{f}") for f in ("least", "most")}
        limits = {f: v.value for f, v in given.items() if v is not None}
        shown = format_length(round(room, 4), document.display)
        said = {f: format_length(v, document.display) for f, v in limits.items()}
        rules = " and ".join(f"{w} {said[f]}" for f, w in (("least", "at least"), ("most", "at most")) if f in said)
        broken = ""
        if "least" in limits and room < limits["least"] - SLACK:
            broken = f"less than {said['least']}"
        elif "most" in limits and room > limits["most"] + SLACK:
            broken = f"more than {said['most']}"
        if broken:
            faults.append(
                Fault(
                    "clearance",
                    f"{rule.name}: there is {shown} of room, {broken}",
                    rules,
                    shown,
                    "a stated clearance",
                    part=rule.a.part,
                    other=rule.b.part,
                    owner=owner,
                    entry=where,
                )
            )
    return faults
