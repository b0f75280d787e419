"""Many faults of one cause told as one: how many places there are, and the worst of them."""

from __future__ import annotations

from dataclasses import replace

from zygon.making.result.fault import Fault

__all__ = ["one_a_cause"]


def one_a_cause(faults: list[Fault]) -> list[Fault]:
    """Faults that measure the same rule at many places of one owner, or of one entry, as one with the worst value; the others as they are."""
    # a radius that no tool gives says more than that it is under the rule of thumb
    tools = {(f.part, f.entry) for f in faults if f.code == "tool_radius" and f.severity == "error"}
    faults = [f for f in faults if f.code != "tight_bend" or (f.part, f.entry) not in tools]
    groups: dict[tuple[str, ...], list[Fault]] = {}
    order: list[tuple[str, ...] | Fault] = []
    for fault in faults:
        if fault.measure is None:
            order.append(fault)
            continue
        key = (fault.code, fault.part, fault.entry or fault.owner)
        if key not in groups:
            order.append(key)
        groups.setdefault(key, []).append(fault)
    return [item if isinstance(item, Fault) else _worst(groups[item]) for item in order]


def _worst(alike: list[Fault]) -> Fault:
    worst = min(alike, key=lambda f: f.measure or 0.0)
    n = len(alike)
    return worst if n == 1 else replace(worst, message=f"{worst.message}: the worst of {n} such places")
