"""Rules of bars: a length goes on some bar of its stock, and a stock that is cut is sold in some length."""

from __future__ import annotations

from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.making.kinds.registry import sizes_of
from zygon.making.result.built import Built
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length
from zygon.measure.evaluate import plain_length
from zygon.stock.kinds import is_bar
from zygon.tolerance import WITHIN

__all__ = ["bar_faults"]


def bar_faults(built: Built) -> list[Fault]:
    """Lengths that no bar has, stocks without bars, and entries of bars that cannot be read."""
    document, faults = built.document, list[Fault]()
    for key, stock in document.stocks.items():
        if not is_bar(stock):
            continue
        own = [p for p in built.made.values() if p.record.stock == key and p.record.cut_here and not p.body.empty]
        if not own:
            continue
        lengths = []
        trim = 0.0
        for field, entry in (
            ("kerf", stock.kerf),
            ("trim", stock.trim),
            *((pointer("lengths", k, "length")[1:], b.length) for k, b in stock.lengths.items()),
        ):
            try:
                value = plain_length(entry)
                trim = value if field == "trim" else trim
                lengths += [value] if field not in ("kerf", "trim") else []
            except ExpressionError as error:
                where = f"{pointer('stocks', key)}/{field}"
                faults.append(Fault("broken_expression", error.message, error.reason, error.text, entry=where))
        if not stock.lengths:
            said, where = f"{stock.name} has no bar length: what it takes cannot be planned", pointer("stocks", key, "lengths")
            faults.append(Fault("no_bars", said, "a bar stock has a length that it is sold in", severity="warning", entry=where))
        if not lengths:
            continue
        for part in own:
            length = sizes_of(part).length or 0.0
            longest = max(lengths) - 2 * trim
            if length > longest + WITHIN:
                shown, most = (format_length(x, document.display) for x in (length, longest))
                said = f"{part.path} is {shown} long, longer than any bar of {stock.name}"
                faults.append(
                    Fault(
                        "too_large",
                        said,
                        f"at most {most}, the longest bar" + (" without its trims" if trim else ""),
                        shown,
                        "the stock's bar lengths",
                        part=part.key,
                    )
                )
    return faults
