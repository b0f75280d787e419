"""Many faults of one cause told as one: how many places there are, and the worst of them."""

from __future__ import annotations

from dataclasses import replace

from zygon.making.result.fault import Fault

__all__ = ["one_a_cause"]


def one_a_cause(faults: list[Fault]) -> list[Fault]:
    """Faults that measure the same rule at many places of one owner, or of one entry, as one with the worst value; the others once, with the
    number of their places."""
    # a radius that no tool gives says more than that it is under the rule of thumb
    tools = {(f.part, f.entry) for f in faults if f.code == "tool_radius" and f.severity == "error"}
    faults = [f for f in faults if f.code != "tight_bend" or (f.part, f.entry) not in tools]
    groups: dict[tuple[str, ...], list[Fault]] = {}
    order: list[tuple[str, ...]] = []
    for fault in faults:
        # what measures nothing is one where it is said in the same words
        measured = "" if fault.measure is not None else f"{fault.other} {fault.message}"
        key = (fault.code, fault.part, fault.entry or fault.owner, measured)
        if key not in groups:
            order.append(key)
        groups.setdefault(key, []).append(fault)
    return [_worst(groups[key]) if groups[key][0].measure is not None else _once(groups[key]) for key in order]


def _worst(alike: list[Fault]) -> Fault:
    worst = min(alike, key=lambda f: f.measure or 0.0)
    n = len(alike)
    return worst if n == 1 else replace(worst, message=f"{worst.message}: the worst of {n} such places")


def _once(alike: list[Fault]) -> Fault:
    first = alike[0]
    n = len({f.at for f in alike})
    return first if n == 1 else replace(first, message=f"{first.message}, at {n} places")
