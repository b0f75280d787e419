"""The offcut shelf: what finished sheets gave back, with a label and a place, reserved, cut square, used, thrown away."""

from __future__ import annotations

import re
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from zygon.exchange.svg import path_data
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon
from zygon.nest.remainder import squared
from zygon_server.designs.models import Design
from zygon_server.errors import NotFound, Refused
from zygon_server.workshop.models import Offcut

__all__ = ["change", "keep_offcut", "offcut_data", "on_shelf", "region_of", "throw_away", "use_up"]

State = Offcut.State


def on_shelf(user: AbstractBaseUser) -> list[dict[str, Any]]:
    """A maker's offcuts, those of one stock together, large ones first; used ones and those thrown away are left out."""
    return [offcut_data(o) for o in Offcut.objects.filter(owner=user, state=State.SHELF).select_related("reserved")]


def region_of(data: dict[str, Any]) -> Region:
    """The outline of a record (``outline`` and ``holes`` as corners in mm)."""
    return Region(polygon(data["outline"]).wound(ccw=True), tuple(polygon(h).wound(ccw=False) for h in data.get("holes", [])))


def _corners(region: Region) -> dict[str, Any]:
    return {"outline": [list(p) for p in region.outer.points], "holes": [[list(p) for p in c.points] for c in region.inner]}


@transaction.atomic
def keep_offcut(
    user: AbstractBaseUser, stock: str, stock_name: str, thickness: float, region: Region, *, origin: str = "", place: str = ""
) -> Offcut:
    """Puts an offcut on the shelf, under the next label."""
    last = Offcut.objects.filter(owner=user).order_by("number").last()
    number = last.number + 1 if last else 1
    return Offcut.objects.create(
        owner=user,
        number=number,
        stock=stock,
        stock_name=stock_name,
        thickness=thickness,
        outline=_corners(region),
        area=region.area,
        origin=origin[:120],
        place=place[:80],
    )


def _find(user: AbstractBaseUser, label: str) -> Offcut:
    number = label.removeprefix(Offcut.PREFIX)
    found = (
        Offcut.objects.filter(owner=user, number=int(number)).select_related("reserved").first()
        if re.fullmatch("[0-9]{1,9}", number)
        else None
    )
    if found is None:
        raise NotFound(f"There is no offcut {label}.")
    return found


def change(user: AbstractBaseUser, label: str, *, place: str | None, reserved: str | None, square: bool) -> dict[str, Any]:
    """Gives an offcut another place, reserves it for a design ('' sets it free), or cuts it to the largest rectangle in it.

    Refused where it is reserved for another design, or not on the shelf any more.
    """
    offcut = _find(user, label)
    if offcut.state != State.SHELF:
        raise Refused(f"{label} is not on the shelf any more.", entry=label, value=offcut.state, rule="on the shelf")
    if place is not None:
        offcut.place = place.strip()[:80]
    if reserved:
        from zygon_server.designs.service import find

        design = find(user, reserved)
        if offcut.reserved_id and offcut.reserved_id != design.pk:
            other = offcut.reserved.name
            raise Refused(f"{label} is reserved for {other}; set it free there first.", entry=label, value=other, rule="reserved once")
        offcut.reserved = design
    elif reserved == "":
        offcut.reserved = None
    if square:
        region = squared(region_of(offcut.outline))
        if region is None:
            raise Refused(f"No rectangle fits into {label}.", entry=label, rule="a rectangle")
        offcut.outline, offcut.area = _corners(region), region.area
    offcut.save()
    return offcut_data(offcut)


def throw_away(user: AbstractBaseUser, label: str) -> None:
    """Takes an offcut off the shelf for good."""
    offcut = _find(user, label)
    offcut.state, offcut.reserved = State.GONE, None
    offcut.save()


def use_up(user: AbstractBaseUser, label: str, design: Design) -> None:
    """An offcut that was cut: what stays of it comes back under a label of its own."""
    Offcut.objects.filter(owner=user, number=_find(user, label).number).update(state=State.USED, reserved=design)


def offcut_data(offcut: Offcut) -> dict[str, Any]:
    """An offcut as the shelf shows it; lengths in mm, ``path`` with y turned down about 0."""
    region = region_of(offcut.outline)
    _, _, length, width = region.outer.bounds
    return {
        "label": offcut.label,
        "stock": offcut.stock,
        "stock_name": offcut.stock_name,
        "thickness": offcut.thickness,
        "length": length,
        "width": width,
        "area": region.area,
        "path": "".join(path_data(c) for c in (region.outer, *region.inner)),
        **offcut.outline,
        "place": offcut.place,
        "origin": offcut.origin,
        "reserved": str(offcut.reserved_id or ""),
        "reserved_name": offcut.reserved.name if offcut.reserved else "",
        "rectangle": len(region.outer.points) == 4 and not region.inner and abs(region.area - length * width) < 1.0,
    }
