"""The shelf's reading and writing; every record is checked by the core before it is kept."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from pydantic import TypeAdapter, ValidationError

from zygon.design import workshop as starting
from zygon.stock.brake import Brake as BrakeRecord
from zygon.stock.cutter import Cutter as CutterRecord
from zygon.stock.fit import FitTable
from zygon.stock.kinds import Stock as StockRecord
from zygon_server.errors import NotFound, Refused
from zygon_server.workshop.models import Brake, Cutter, Fit, Stock
from zygon_server.workshop.on_hand import on_hand_of, sizes_of

__all__ = ["keep", "remove", "shelf", "stock_the_shelf"]

GROUPS: dict[str, tuple[type[Stock] | type[Cutter] | type[Fit] | type[Brake], TypeAdapter]] = {
    "stocks": (Stock, TypeAdapter(StockRecord)),
    "cutters": (Cutter, TypeAdapter(CutterRecord)),
    "fits": (Fit, TypeAdapter(FitTable)),
    "brakes": (Brake, TypeAdapter(BrakeRecord)),
}


#: What a design has taken or done of a stock, and no other one has.
_TAKEN = ("offcuts", "remainders", "sawn", "taken")


def shelf(user: AbstractBaseUser) -> dict[str, dict[str, Any]]:
    """All records of a maker's workshop by group and key, and how many there are of what is counted."""
    return {g: {r.key: r.data for r in model.objects.filter(owner=user)} for g, (model, _) in GROUPS.items()} | {
        "on_hand": on_hand_of(user.pk)
    }


def keep(user: AbstractBaseUser, group: str, key: str, data: dict[str, Any]) -> dict[str, Any]:
    """Keeps a record under a key; Refused where the core cannot take it."""
    model, record = _group(group)
    try:
        clean = record.dump_python(record.validate_python(data), mode="json", exclude_none=True)
    except ValidationError as error:
        fault = error.errors(include_url=False)[0]
        # which kind of stock was tried stands in the path, but not in the record
        path = fault["loc"][1:] if group == "stocks" and fault["loc"][:1] in (("sheet",), ("bar",)) else fault["loc"]
        entry = "/".join([group, key, *(str(x) for x in path)])
        raise Refused(f"{entry}: {fault['msg']}", entry=entry, value=str(fault.get("input"))[:100], rule=fault["msg"]) from error
    clean = {k: v for k, v in clean.items() if group != "stocks" or k not in _TAKEN}
    row, _ = model.objects.update_or_create(owner=user, key=key, defaults={"data": clean})
    if isinstance(row, Stock) and row.on_hand.keys() - sizes_of(clean):
        row.on_hand = {size: n for size, n in row.on_hand.items() if size in sizes_of(clean)}
        row.save(update_fields=["on_hand"])
    return clean


def remove(user: AbstractBaseUser, group: str, key: str) -> None:
    """Removes a record; designs keep the copy that they took."""
    deleted, _ = _group(group)[0].objects.filter(owner=user, key=key).delete()
    if not deleted:
        raise NotFound(f"There is nothing under {group}/{key}.")


def stock_the_shelf(user: AbstractBaseUser) -> None:
    """Puts the starting stocks, cutters, fits and brakes on a new maker's shelf; what is there stays."""
    start = {"stocks": starting.STOCKS | starting.BARS, "cutters": starting.CUTTERS, "fits": starting.FITS, "brakes": starting.BRAKES}
    for group, records in start.items():
        model = GROUPS[group][0]
        for key, data in records.items():
            model.objects.get_or_create(owner=user, key=key, defaults={"data": data})


def _group(group: str):
    if group not in GROUPS:
        raise NotFound(f"A workshop has {', '.join(GROUPS)}, and no {group}.")
    return GROUPS[group]
