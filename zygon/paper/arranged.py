"""Where views that were put on a sheet stand about those that it has by itself."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from zygon.paper.looks import LOOKS, place_about
from zygon.paper.view import View

__all__ = ["arranged"]


def arranged(views: Sequence[View], angle: Literal["first", "third"]) -> tuple[View, ...]:
    """Sides of what the sheet is of where projection has them, all others where a place is free: rows are filled before a column more is taken."""
    own = [v for v in views if not _put(v)]
    found = list(own)
    taken = {(v.column, v.row) for v in own}
    rest: list[View] = []
    for v in views:
        if not _put(v):
            continue
        side = next((name for name, look in LOOKS.items() if look == v.look), None)
        place = place_about(side, angle) if side and own and v.scale is None else None
        if place is not None and place not in taken:
            taken.add(place)
            found.append(replace(v, column=place[0], row=place[1]))
        else:
            rest.append(v)
    if not found:
        columns = math.ceil(math.sqrt(len(rest))) if rest else 1
        return tuple(replace(v, column=n % columns, row=-(n // columns)) for n, v in enumerate(rest))
    rows = sorted({r for _, r in taken}, reverse=True)
    column = min(c for c, _ in taken)
    for v in rest:
        while all((column, r) in taken for r in rows):
            column += 1
        row = next(r for r in rows if (column, r) not in taken)
        taken.add((column, row))
        found.append(replace(v, column=column, row=row))
    return tuple(found)


def _put(view: View) -> bool:
    return view.name.startswith(("view/", "detail/"))
