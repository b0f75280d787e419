"""Where a part may be laid by hand, and what comes back of a sheet that is cut."""

from __future__ import annotations

import math
from collections import Counter
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from zygon.geometry.boolean import Region
from zygon.geometry.contour import rectangle
from zygon.making.kinds.registry import sizes_of
from zygon.nest.bars_of_design import bar_work
from zygon.nest.design import plans
from zygon.nest.legal import turn_faults
from zygon.nest.record import restored
from zygon.nest.remainder import rest_region, rests_of
from zygon.nest.room import room_on
from zygon.nest.task import Placement
from zygon.stock.kinds import is_bar
from zygon_server.designs.models import Design
from zygon_server.designs.service import head
from zygon_server.errors import NotFound, Refused
from zygon_server.nesting.layouts import row_of
from zygon_server.workshop.models import Offcut
from zygon_server.workshop.offcuts import keep_offcut, offcut_data, use_up

__all__ = ["finished", "room", "sawn"]

#: What is left of a bar goes on the shelf from this length on (mm).
LEAST_LEFT = 150.0
#: Rests of one sheet that go on the shelf.
MOST_RESTS = 6


def room(design: Design, stock: str, part: str, number: int, angle: float, mirrored: bool) -> dict[str, Any]:
    """Where one copy of a part may go on the sheets of a stock's layout: pieces of room a sheet, and the turns that the part may take.

    ``angle`` in degrees; ``number`` is the copy. Refused where the layout is not there, or the part may not lie so.
    """
    now = head(design)
    plan = next((p for p in plans(now.built) if p.stock == stock), None)
    row = row_of(design, now.document, plan) if plan else None
    nest = restored(now.document, plan, row.data) if plan and row else None
    if plan is None or plan.task is None or nest is None:
        raise Refused("This stock is not laid out yet.", entry="stock", value=stock, rule="a layout")
    if part not in plan.parts:
        raise NotFound(f"There is no part {part} in this stock.")
    shape = plan.parts.index(part)
    moving = Placement(shape, number, 0.0, 0.0, math.radians(angle), mirrored)
    faults = turn_faults(plan.task, moving)
    if faults:
        raise Refused(f"{faults[0]}.", entry="angle", value=angle, rule="the turns that its stock and grain allow")
    rooms: list[list[Any]] = []
    for n, sheet in enumerate(nest.layout.sheets):
        if row and row.data["sheets"][n]["cut"]:
            rooms.append([])
            continue
        still = [p for p in sheet.placements if (p.shape, p.copy) != (shape, number)]
        rooms.append(room_on(plan.task, sheet.sheet, still, moving))
    used = Counter(s.sheet for s in nest.layout.sheets)
    left = next((k for k in plan.task.kinds if k.count is None or used[k] < k.count), None)
    rooms.append(room_on(plan.task, left, [], moving) if left else [])
    fresh = left or plan.task.sheet
    length = fresh.length if left and not left.roll else 0.0
    outer = plan.task.shapes[shape].region.outer.moved(0.0, 0.0, moving.angle, mirrored)
    return {
        "digest": row.digest if row else "",
        "rooms": rooms,
        "fresh": {"size": fresh.name, "length": length, "width": fresh.width},
        "box": list(outer.bounds),
        "turns": [math.degrees(t) for t in plan.task.shapes[shape].turns],
        "free": plan.task.shapes[shape].free,
        "mirror": plan.task.shapes[shape].mirror,
    }


def finished(user: AbstractBaseUser, design: Design, stock: str, number: int, place: str) -> list[dict[str, Any]]:
    """Puts what a sheet of a stock's layout gives back on the shelf; an offcut that it was cut from is used up. Refused where the sheet is not marked as cut."""
    now = head(design)
    plan = next((p for p in plans(now.built) if p.stock == stock), None)
    row = row_of(design, now.document, plan) if plan else None
    nest = restored(now.document, plan, row.data) if plan and row else None
    if nest is None or plan is None or plan.task is None or row is None or not 1 <= number <= len(nest.layout.sheets):
        raise NotFound("This sheet is not laid out.")
    if not row.data["sheets"][number - 1]["cut"]:
        raise Refused(f"Sheet {number} is not marked as cut.", entry="number", value=number, rule="a sheet that has been cut")
    sheet = nest.layout.sheets[number - 1]
    record = now.document.sheets[stock]
    made = [
        keep_offcut(
            user, stock, record.name, plan.flats[0].thickness, rest_region(piece), origin=f"{design.name}, sheet {number}", place=place
        )
        for piece in rests_of(plan.task, sheet)[:MOST_RESTS]
    ]
    if sheet.sheet.name in record.offcuts:
        use_up(user, sheet.sheet.name, design)
    return [offcut_data(o) for o in made]


@transaction.atomic
def sawn(user: AbstractBaseUser, design: Design, stock: str, place: str) -> list[dict[str, Any]]:
    """Puts what is left of a stock's bars on the shelf, and takes the remainders that were used off it. Refused where the bars are not marked as cut by
    the plan as it is, or what is left of them has been put there already."""
    now = head(design)
    work = next((w for w in bar_work(now.built) if w.stock == stock), None)
    if work is None or work.plan is None:
        raise NotFound("No bars of this stock are planned.")
    record = now.document.stocks[stock]
    if not is_bar(record) or record.sawn != work.digest:
        raise Refused("These bars are not marked as cut.", entry="stock", value=stock, rule="bars that were cut as they are planned")
    origin = f"{design.name[:80]}, bars {work.digest[:12]}"
    if Offcut.objects.filter(owner=user, stock=stock, origin=origin).exists():
        raise Refused("What is left of these bars is on the shelf already.", entry="stock", value=stock, rule="put there once")
    sizes = sizes_of(next(p for p in now.built.made.values() if p.record.stock == stock and p.record.cut_here))
    made = []
    for pattern in work.plan["patterns"]:
        for _ in range(pattern["times"] if pattern["rest"] >= LEAST_LEFT else 0):
            region = Region(rectangle(0.0, 0.0, math.floor(pattern["rest"]), sizes.width or sizes.thickness or 0.0), ())
            made.append(keep_offcut(user, stock, record.name, sizes.thickness or 0.0, region, origin=origin, place=place))
        if pattern["remainder"]:
            use_up(user, pattern["remainder"].partition(",")[0], design)
    return [offcut_data(o) for o in made]
