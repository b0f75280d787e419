"""What is cut elsewhere: the outside cutters, and a design's orders to them."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router, Schema

from zygon.exchange.named import safe
from zygon_server.accounts.schemas import Fault
from zygon_server.designs.export_api import download
from zygon_server.designs.service import find
from zygon_server.elsewhere import orders
from zygon_server.quotas import Rate

router = Router(tags=["elsewhere"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


class OutsideCutterOut(Schema):
    """An outside cutter: what it cuts, and how it wants its drawings, in words."""

    key: str
    name: str
    cuts: str
    wants: str


class OutsideItemOut(Schema):
    """A part of an order; mm. ``left`` is what of it stays for us to do."""

    key: str
    code: str
    part: str
    quantity: int
    received: int
    stock: str
    thickness: float
    length: float
    width: float
    file: str
    left: str


class OutsideOrderOut(Schema):
    """An order; ``changed`` where the design has moved on since, ``sent`` where it is on its way to us."""

    id: str
    cutter: str
    called: str
    name: str
    revision: int
    lines: str
    price: float
    currency: str
    days: int
    state: str
    reference: str
    sent: bool
    changed: bool
    items: list[OutsideItemOut]
    made: str
    ordered: str


class AskIn(Schema):
    """Which cutter is asked for which parts; none for all that are cut from sheets."""

    cutter: str
    parts: list[str] = []


class OrderActIn(Schema):
    act: Literal["order", "drop"]


class ReceivedIn(Schema):
    """How many good pieces of each part have come."""

    received: dict[str, int]


@router.get("/outside-cutters", response={200: list[OutsideCutterOut], 401: Fault}, operation_id="outside_cutters")
def get_cutters(request: HttpRequest):
    """Who cuts elsewhere."""
    words = {"nominal": "as drawn", "compensated": "with its kerf taken off"}
    return [
        {"key": k, "name": c.wants.name, "cuts": c.cuts, "wants": f"{c.wants.to.upper()}, lines {words[c.wants.lines]}"}
        for k, c in orders.cutters().items()
    ]


@router.get("/designs/{design_id}/outside-orders", response={200: list[OutsideOrderOut], **FAULTS}, operation_id="outside_orders")
def get_orders(request: HttpRequest, design_id: str):
    """A design's orders."""
    return orders.orders_of(find(request.user, design_id))


@router.post(
    "/designs/{design_id}/outside-orders",
    response={200: OutsideOrderOut, **FAULTS},
    operation_id="ask_outside",
    throttle=[Rate("exports")],
)
def post_order(request: HttpRequest, design_id: str, body: AskIn):
    """Asks an outside cutter for a price."""
    design = find(request.user, design_id)
    return orders.order_data(orders.ask(request.user, design, body.cutter, body.parts), design)


@router.post("/outside-orders/{order_id}/acts", response={200: OutsideOrderOut, **FAULTS}, operation_id="act_on_order")
def post_act(request: HttpRequest, order_id: str, body: OrderActIn):
    """Orders what was asked, or drops it."""
    found = orders.find_order(request.user, order_id)
    done = orders.order(found) if body.act == "order" else orders.drop(found)
    return orders.order_data(done, done.design)


@router.post("/outside-orders/{order_id}/received", response={200: OutsideOrderOut, **FAULTS}, operation_id="receive_order")
def post_received(request: HttpRequest, order_id: str, body: ReceivedIn):
    """Says how many pieces have come."""
    done = orders.receive(orders.find_order(request.user, order_id), body.received)
    return orders.order_data(done, done.design)


@router.get("/outside-orders/{order_id}/files", operation_id="order_files")
def get_files(request: HttpRequest, order_id: str):
    """The drawings and the list as they left, as a ZIP."""
    found = orders.find_order(request.user, order_id)
    return download(f"{safe(found.name)}_{safe(found.called)}_revision-{found.revision}.zip", bytes(found.data))
