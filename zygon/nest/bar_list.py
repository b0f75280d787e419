"""Lengths and bars as a maker writes them, and the plan to cut them as plain data."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from zygon.errors import ExpressionError, NestError
from zygon.measure.evaluate import NoScope, evaluate
from zygon.nest.bars import Bar, BarPlan, Cut, cut_bars

__all__ = ["MOST_LENGTHS", "cut_list_of_bars", "plan_data"]

#: Different lengths that are worked out while somebody waits.
MOST_LENGTHS = 40
#: Seconds for whole numbers while somebody waits.
SECONDS = 6.0
Unit = Literal["mm", "in"]


def cut_list_of_bars(
    cuts: Sequence[Mapping[str, Any]], bars: Sequence[Mapping[str, Any]], kerf: str, trim: str, unit: Unit = "mm"
) -> dict[str, Any]:
    """The plan for ``cuts`` (name, length as typed, quantity) from ``bars`` (length as typed, count or 0 for any number, price).

    ``unit`` is what a bare number means. Raises NestError that names the row.
    """
    if len(cuts) > MOST_LENGTHS:
        rule = f"at most {MOST_LENGTHS} lengths"
        raise NestError(f"{len(cuts)} lengths; {rule} are worked out at once", entry="cuts", value=len(cuts), rule=rule)
    wanted = [Cut(_length(c["length"], c["name"] or f"Piece {n}", unit), int(c["quantity"]), str(c["name"])) for n, c in enumerate(cuts, 1)]
    stock = [Bar(_length(b["length"], f"Bar {n}", unit), float(b["price"]) or 1.0, int(b["count"]) or None) for n, b in enumerate(bars, 1)]
    plan = cut_bars(wanted, stock, _length(kerf, "Kerf", unit, 0.0), _length(trim, "End trim", unit, 0.0), SECONDS)
    return plan_data(wanted, stock, plan)


def _length(text: str, what: str, unit: Unit, empty: float | None = None) -> float:
    """A length as typed, in mm; ``empty`` where nothing was typed."""
    if not text.strip() and empty is not None:
        return empty
    try:
        return evaluate(text, unit, "length", NoScope()).value
    except ExpressionError as error:
        raise NestError(f"{what}: {error.message}", entry=what, value=text, rule=error.reason) from error


def plan_data(cuts: Sequence[Cut], bars: Sequence[Bar], plan: BarPlan) -> dict[str, Any]:
    """A plan as plain data: patterns with their pieces and what is left of each bar, how many bars, their cost, the bound and whether it is met; mm."""
    patterns = [
        {
            "bar": bars[p.bar].length,
            "times": p.bars,
            "rest": p.rest,
            "cuts": [{"name": c.name, "length": c.length, "count": n} for c, n in zip(cuts, p.pieces, strict=True) if n],
        }
        for p in plan.patterns
    ]
    missing = [{"name": c.name, "length": c.length, "count": n} for c, n in zip(cuts, plan.missing, strict=True) if n]
    return {"bars": plan.bars, "cost": plan.cost, "bound": plan.bound, "proven": plan.proven, "patterns": patterns, "missing": missing}
