"""What values may be: sizes within their own ranges, spans that run from low to high."""

from __future__ import annotations

import math
from typing import Any

from zygon.design.document import Document
from zygon.design.parts.kinds import is_hardware
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.frame import FACES
from zygon.making.datums.ids import end_of
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import exact_length, format_length
from zygon.measure.entry import Entry
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.quantity import Kind
from zygon.owner import size_id
from zygon.tolerance import CONTACT, EPS

__all__ = ["check_ranges", "check_spans"]


def check_ranges(values: Values) -> None:
    """A size has to stay in the range it is meant to work in."""
    document = values.document
    scope = EntryScope(values)
    for key, size in document.sizes.items():
        value = values.solved.get(size_id(key))
        for side, bound, wrong in (("low", size.low, -1), ("high", size.high, 1)):
            if bound is None or value is None:
                continue
            limit = values.read(bound, pointer("sizes", key, side), size.kind, scope)
            if (value - limit) * wrong > EPS:
                shown = [_shown(v, size.kind, document) for v in (value, limit)]
                word = "under its least" if wrong < 0 else "over its greatest"
                mend = Mend(
                    f"Set {size.name} to {shown[1]}",
                    [{"op": "replace", "path": pointer("sizes", key, "entry"), "value": _plain(bound, limit, size.kind, document)}],
                )
                values.faults.append(
                    Fault(
                        "size_range",
                        f"{size.name} is {shown[0]}, {word} value of {shown[1]}",
                        f"{'at least' if wrong < 0 else 'at most'} {shown[1]}",
                        shown[0],
                        "the range given with the size",
                        "warning",
                        owner=size_id(key),
                        entry=pointer("sizes", key, "entry"),
                        mends=(mend,),
                    )
                )


def _plain(bound: Entry, limit: float, kind: Kind, document: Document) -> dict[str, Any]:
    """A bound as a size's own entry: as it is written where it reads nothing else, as its value where it might come back to the size itself."""
    try:
        evaluate(bound.text, bound.unit, kind, NoScope())
    except ExpressionError:
        text = (
            exact_length(limit, document.unit)
            if kind == "length"
            else f"{math.degrees(limit):.10g} deg"
            if kind == "angle"
            else f"{limit:.10g}"
        )
        return {"text": text, "unit": document.unit}
    return bound.model_dump()


def _shown(value: float, kind: Kind, document: Document) -> str:
    if kind == "length":
        return format_length(value, document.display)
    return f"{value * 57.29577951308232:.6g}°" if kind == "angle" else f"{value:.6g}"


def check_spans(values: Values) -> None:
    """A span runs from low to high; the swap is its mend."""
    for key, part in values.boards.items():
        for axis, face in values.across[key].items():
            named = values.named_in(key) if is_hardware(part) and values.box(key) is not None else {}
            if is_hardware(part) and not named:
                continue
            if named and face not in (*FACES[axis], "centre", *named):
                values.fault_entry(
                    pointer("parts", key, "by", axis),
                    "bad_position",
                    f"{part.name}: there is no {face} in it",
                    f"one of {', '.join((*FACES[axis], 'centre', *named))}",
                    face,
                    part=key,
                )
            elif not named and face not in (*FACES[axis], "centre"):
                allowed = ", ".join(FACES[axis])
                values.fault_entry(
                    pointer("parts", key, "position", "face"),
                    "bad_position",
                    f"{part.name}: its position cannot be its {face} face",
                    f"one of {allowed} or centre",
                    part=key,
                )
        for end in part.ends():
            if end.side != "low":
                continue
            axis, where = end.axis, pointer("parts", key, *end.where[:-1])
            low, high = (values.solved.get(end_of(key, axis, s)) for s in ("low", "high"))
            if low is None or high is None or high - low > CONTACT:
                continue
            empty = abs(high - low) <= CONTACT
            shown = format_length(high - low, values.document.display)
            names = FACES[axis]
            other = next(e for e in part.ends() if (e.axis, e.side) == (axis, "high"))
            swapped = {"low": other.entry.model_dump(), "high": end.entry.model_dump()}
            swap = Mend(f"Swap the ends of {part.name}", [{"op": "replace", "path": where, "value": swapped}])
            values.faults.append(
                Fault(
                    "empty_span" if empty else "reversed_span",
                    f"{part.name} runs {shown} from {names[0]} to {names[1]}: its span is {'empty' if empty else 'reversed'}",
                    f"{names[1]} lies beyond {names[0]}",
                    shown,
                    part=key,
                    entry=where,
                    mends=() if empty else (swap,),
                )
            )
