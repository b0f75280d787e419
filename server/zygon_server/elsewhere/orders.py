"""Orders to outside cutters: asked, ordered once, received piece by piece."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from zygon.exchange.elsewhere import order_pack
from zygon_server.designs import service
from zygon_server.designs.models import Design
from zygon_server.elsewhere.models import OutsideOrder
from zygon_server.elsewhere.outside import OutsideCutter, OutsideRefused
from zygon_server.elsewhere.simulated import CUTTERS
from zygon_server.errors import NotFound, Refused
from zygon_server.quotas import may_keep

__all__ = ["ask", "cutters", "drop", "find_order", "order", "order_data", "orders_of", "receive"]

State = OutsideOrder.State
#: Orders of a design that are kept.
MOST = 100


def cutters() -> Mapping[str, OutsideCutter]:
    """Every outside cutter by key."""
    return CUTTERS


def _cutter(key: str) -> OutsideCutter:
    if key not in cutters():
        raise NotFound(f"There is no outside cutter “{key}”.")
    return cutters()[key]


def ask(user: AbstractBaseUser, design: Design, cutter: str, keys: Sequence[str]) -> OutsideOrder:
    """Asks for a price, with the drawings as that cutter states them. Refused where it does not cut them, or problems of the parts stand."""
    outside = _cutter(cutter)
    may_keep(user)
    if design.outside_orders.count() >= MOST:
        raise Refused(f"This design has {MOST} orders already; drop some.", entry="orders", value=MOST, rule=f"at most {MOST}")
    now = service.head(design)
    items, data = order_pack(now.document, outside.wants, keys)
    parts = {i["key"] for i in items}
    wrong = next((p.fault for p in now.problems if p.open and p.fault.severity == "error" and {p.fault.part, p.fault.other} & parts), None)
    if wrong is not None:
        raise Refused(f"{wrong.message}. Mend it first, or keep it with a reason.", entry=wrong.entry, value=wrong.value, rule=wrong.rule)
    try:
        quote = outside.quote(items)
    except OutsideRefused as error:
        raise Refused(str(error), entry="parts", value=len(items), rule=outside.cuts, code="not_cut_there") from error
    lines = "nominal" if outside.wants.lines == "nominal" else f"compensated for their kerf of {outside.wants.kerf:g} mm"
    return OutsideOrder.objects.create(
        owner=user,
        design=design,
        cutter=cutter,
        called=outside.wants.name,
        name=now.document.name,
        revision=design.revision,
        lines=f"{outside.wants.to.upper()}, {lines}",
        items=items,
        data=data,
        price=quote.price,
        currency=quote.currency,
        days=quote.days,
        author=user.get_username(),
    )


def find_order(user: AbstractBaseUser, order_id: str) -> OutsideOrder:
    """A maker's own order; NotFound also where it is another's."""
    try:
        found = OutsideOrder.objects.filter(owner=user, pk=UUID(order_id)).first()
    except ValueError:
        found = None
    if found is None:
        raise NotFound("There is no such order.")
    return found


def order(found: OutsideOrder) -> OutsideOrder:
    """Orders what was asked, once: it is told under our own number, which the cutter takes once. Refused where it is ordered already, or dropped."""
    if not OutsideOrder.objects.filter(pk=found.pk, state__in=(State.ASKED, State.SENDING)).update(state=State.SENDING):
        raise Refused(
            "This is ordered already.", entry="order", value=found.state, rule="what was asked and not ordered yet", code="not_now"
        )
    reference = _cutter(found.cutter).order(found.pk.hex, found.items, bytes(found.data))
    OutsideOrder.objects.filter(pk=found.pk, state=State.SENDING).update(state=State.ORDERED, reference=reference, ordered=timezone.now())
    found.refresh_from_db()
    return found


def drop(found: OutsideOrder) -> OutsideOrder:
    """What was asked is not ordered."""
    if not OutsideOrder.objects.filter(pk=found.pk, state=State.ASKED).update(state=State.DROPPED, ended=timezone.now()):
        raise Refused(
            "This is ordered already.", entry="order", value=found.state, rule="what was asked and not ordered yet", code="not_now"
        )
    found.refresh_from_db()
    return found


def receive(found: OutsideOrder, counts: Mapping[str, int]) -> OutsideOrder:
    """Says how many good pieces of each part have come, by key; all of them, and the order is received. Refused for what was not ordered."""
    with transaction.atomic():
        now = OutsideOrder.objects.select_for_update().get(pk=found.pk)
        if now.state not in (State.ORDERED, State.RECEIVED):
            raise Refused("This is not ordered.", entry="order", value=now.state, rule="what was ordered", code="not_now")
        ordered = {i["key"]: i for i in now.items}
        for key, n in counts.items():
            if key not in ordered:
                raise NotFound("There is no such part in this order.")
            most = ordered[key]["quantity"]
            if not 0 <= n <= most:
                said = f"{ordered[key]['part']}: {n} received, where {most} were ordered."
                raise Refused(said, entry=key, value=n, rule=f"0 to {most}")
            now.received[key] = n
        whole = all(now.received.get(k, 0) == i["quantity"] for k, i in ordered.items())
        now.state = State.RECEIVED if whole else State.ORDERED
        now.ended = timezone.now() if whole else None
        now.save(update_fields=["received", "state", "ended"])
    return now


def orders_of(design: Design) -> list[dict[str, Any]]:
    """A design's orders, latest first."""
    return [order_data(o, design) for o in design.outside_orders.defer("data")]


def order_data(found: OutsideOrder, design: Design) -> dict[str, Any]:
    """An order as a screen shows it; ``sent`` where the cutter says that it is on its way to us."""
    asked = {
        k: getattr(found, k) for k in ("cutter", "called", "name", "revision", "lines", "price", "currency", "days", "state", "reference")
    }
    return {
        "id": str(found.pk),
        **asked,
        "sent": found.state == State.ORDERED and _cutter(found.cutter).progress(found.reference) == "sent",
        "items": [{**i, "received": found.received.get(i["key"], 0)} for i in found.items],
        "changed": design.revision != found.revision,
        "made": found.made.isoformat(),
        "ordered": found.ordered.isoformat() if found.ordered else "",
    }
