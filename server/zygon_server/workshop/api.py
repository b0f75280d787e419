"""The workshop's resource."""

from typing import Any

from django.http import HttpRequest
from ninja import Body, Router, Schema, Status

from zygon_server.accounts.schemas import Fault
from zygon_server.workshop import offcuts
from zygon_server.workshop.service import keep, remove, shelf

router = Router(tags=["workshop"])


class Shelf(Schema):
    """Records by key, each as in a design's stocks, cutters, fits and brakes."""

    stocks: dict[str, dict[str, Any]]
    cutters: dict[str, dict[str, Any]]
    fits: dict[str, dict[str, Any]]
    brakes: dict[str, dict[str, Any]]


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
