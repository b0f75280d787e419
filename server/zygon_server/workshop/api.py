"""The workshop's resource."""

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Body, Router, Schema, Status

from zygon.nest.bar_list import cut_list_of_bars
from zygon.stock.shelf import Shelf
from zygon_server.accounts.schemas import Fault
from zygon_server.quotas import Rate
from zygon_server.workshop import offcuts
from zygon_server.workshop.on_hand import count
from zygon_server.workshop.service import keep, remove, shelf

router = Router(tags=["workshop"])


@router.get("/workshop", response=Shelf, operation_id="workshop")
def get_workshop(request: HttpRequest):
    """The signed-in maker's workshop."""
    return shelf(request.user)


@router.put("/workshop/{group}/{key}", response={200: dict[str, Any], 404: Fault, 422: Fault}, operation_id="keep_in_workshop")
def put_record(request: HttpRequest, group: str, key: str, body: dict[str, Any] = Body(...)):
    """Keeps one record."""
    return keep(request.user, group, key, body)


@router.delete("/workshop/{group}/{key}", response={204: None, 404: Fault}, operation_id="remove_from_workshop")
def delete_record(request: HttpRequest, group: str, key: str):
    """Removes one record."""
    remove(request.user, group, key)
    return Status(204, None)


class CountIn(Schema):
    """How many there are; null where that is not counted."""

    count: int | None = None


@router.put("/workshop/on-hand/{stock}/{size}", response={200: dict[str, int], 404: Fault, 422: Fault}, operation_id="count_on_shelf")
def put_count(request: HttpRequest, stock: str, size: str, body: CountIn):
    """Says how many sheets or bars of a size there are; gives what is counted of the stock."""
    return count(request.user, stock, size, body.count)


class OffcutOut(Schema):
    """An offcut on the shelf; lengths in mm, ``path`` with y turned down about 0; ``reserved`` the design's id."""

    label: str
    stock: str
    stock_name: str
    thickness: float
    length: float
    width: float
    area: float
    path: str
    outline: list[list[float]]
    holes: list[list[list[float]]]
    place: str
    origin: str
    reserved: str
    reserved_name: str
    rectangle: bool


class OffcutIn(Schema):
    """What changes: its place, the design that it is reserved for ('' for none), or its outline, cut to a rectangle."""

    place: str | None = None
    reserved: str | None = None
    square: bool = False


@router.get("/offcuts", response=list[OffcutOut], operation_id="offcuts")
def get_offcuts(request: HttpRequest):
    """The signed-in maker's offcuts."""
    return offcuts.on_shelf(request.user)


@router.patch("/offcuts/{label}", response={200: OffcutOut, 404: Fault, 422: Fault}, operation_id="change_offcut")
def patch_offcut(request: HttpRequest, label: str, body: OffcutIn):
    """Changes one offcut."""
    return offcuts.change(request.user, label, place=body.place, reserved=body.reserved, square=body.square)


@router.delete("/offcuts/{label}", response={204: None, 404: Fault}, operation_id="throw_offcut_away")
def delete_offcut(request: HttpRequest, label: str):
    """Throws one offcut away."""
    offcuts.throw_away(request.user, label)
    return Status(204, None)


class BarPiece(Schema):
    """A length as typed, wanted so often."""

    name: str = ""
    length: str
    quantity: int


class BarStock(Schema):
    """A stock length as typed, how many there are (0 for any number), and its price."""

    length: str
    count: int = 0
    price: float = 1.0


class BarsIn(Schema):
    """What is cut, from what; ``unit`` is what a bare number means."""

    pieces: list[BarPiece]
    bars: list[BarStock]
    kerf: str = ""
    trim: str = ""
    unit: Literal["mm", "in"] = "mm"


class BarCutOut(Schema):
    name: str
    length: float
    count: int


class BarPatternOut(Schema):
    """So many bars of one length that are cut alike; ``rest`` is what is left of each; mm."""

    bar: float
    times: int
    rest: float
    cuts: list[BarCutOut]


class BarsOut(Schema):
    """The plan, and what is proven of it: no plan costs less than ``bound``."""

    bars: int
    cost: float
    bound: float
    proven: bool
    patterns: list[BarPatternOut]
    missing: list[BarCutOut]


@router.post("/bars", response={200: BarsOut, 422: Fault}, operation_id="cut_bars", throttle=[Rate("tries")])
def post_bars(request: HttpRequest, body: BarsIn):
    """The cheapest way to cut lengths from bars."""
    return cut_list_of_bars([p.dict() for p in body.pieces], [b.dict() for b in body.bars], body.kerf, body.trim, body.unit)
