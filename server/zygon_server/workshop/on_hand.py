"""How many sheets and bars the workshop has, where they are counted; what is cut of a design is taken off, and put back where that is undone."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from zygon_server.errors import NotFound, Refused
from zygon_server.workshop.models import Stock

__all__ = ["MOST", "count", "on_hand_of", "sizes_of", "take_off"]

#: Of one size.
MOST = 10_000
Used = Mapping[str, Mapping[str, int]]


def on_hand_of(owner_id: int) -> dict[str, dict[str, int]]:
    """What is counted of a maker's stocks, by the stock's key and the size's."""
    return dict(Stock.objects.filter(owner_id=owner_id).exclude(on_hand={}).values_list("key", "on_hand"))


def sizes_of(record: Mapping[str, Any]) -> set[str]:
    """The keys of what a stock's record is sold in by the piece."""
    return {k for group in ("sheets", "lengths") for k, size in (record.get(group) or {}).items() if not size.get("roll")}


def count(user: AbstractBaseUser, stock: str, size: str, number: int | None) -> dict[str, int]:
    """Says how many there are of a size; None where that is not counted. What is counted of the stock then; Refused or NotFound with the rule."""
    if number is not None and not 0 <= number <= MOST:
        rule = f"from 0 to {MOST}, or nothing where it is not counted"
        raise Refused(f"{number} in stock: give a number {rule}.", entry="count", value=number, rule=rule)
    with transaction.atomic():
        row = Stock.objects.select_for_update().filter(owner=user, key=stock).first()
        if row is None or size not in sizes_of(row.data):
            raise NotFound(f"The shelf has no {stock} that is sold as {size}.")
        row.on_hand.pop(size, None)
        if number is not None:
            row.on_hand[size] = number
        row.save(update_fields=["on_hand"])
    return row.on_hand


def take_off(owner_id: int, before: Used, after: Used) -> None:
    """An edit says that other sheets and bars have been cut than before: of what is counted the shelf has so many fewer, or more. At least none."""
    if before == after:
        return
    with transaction.atomic():
        for row in Stock.objects.select_for_update().filter(owner_id=owner_id, key__in={*before, *after}).exclude(on_hand={}):
            was, now = before.get(row.key, {}), after.get(row.key, {})
            row.on_hand = {size: max(n - now.get(size, 0) + was.get(size, 0), 0) for size, n in row.on_hand.items()}
            row.save(update_fields=["on_hand"])
