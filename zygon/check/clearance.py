"""Stated clearances: room that has to stay between two places of the design, kept under watch."""

from __future__ import annotations

from zygon.build.built import Built, Fault
from zygon.build.measured import Lost, measure
from zygon.build.values import EntryScope, Values
from zygon.design.layout import Clearance
from zygon.design.patch import pointer
from zygon.errors import ExpressionError
from zygon.measure.display import format_length
from zygon.measure.evaluate import evaluate

__all__ = ["clearance_faults", "clearance_of"]

#: Room that differs from what is asked by less than this (mm) is as asked.
SLACK = 1e-4


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
        where, owner = pointer("clearances", key), f"clearance:{key}"
        try:
            room = clearance_of(built, rule)
        except Lost as lost:
            faults.append(
                Fault("lost_clearance", f"{rule.name}: {lost}", "both places are there", severity="warning", owner=owner, entry=where)
            )
            continue
        limits = {}
        for field, entry in (("least", rule.least), ("most", rule.most)):
            if entry is None:
                continue
            try:
                limits[field] = evaluate(entry.text, entry.unit, "length", EntryScope(_values(built))).value
            except ExpressionError as error:
                faults.append(Fault("broken_expression", error.message, error.reason, error.text, owner=owner, entry=f"{where}/{field}"))
        shown = format_length(round(room, 4), document.display)
        said = {f: format_length(v, document.display) for f, v in limits.items()}
        rules = " and ".join(f"{w} {said[f]}" for f, w in (("least", "at least"), ("most", "at most")) if f in said)
        part, other = rule.a.part, rule.b.part
        if "least" in limits and room < limits["least"] - SLACK:
            faults.append(Fault("clearance", f"{rule.name}: there is {shown} of room, less than {said['least']}", rules, shown, "a stated clearance",
                                part=part, other=other, owner=owner, entry=where))  # fmt: skip
        elif "most" in limits and room > limits["most"] + SLACK:
            faults.append(Fault("clearance", f"{rule.name}: there is {shown} of room, more than {said['most']}", rules, shown, "a stated clearance",
                                part=part, other=other, owner=owner, entry=where))  # fmt: skip
    return faults


def _values(built: Built) -> Values:
    """Sizes as they were worked out in the build, to read the limits by."""
    values = Values(built.document)
    for key in built.document.sizes:
        value = built.values.get(pointer("sizes", key, "entry"))
        if value is not None:
            values.solved[f"size:{key}"] = value.value
    return values
