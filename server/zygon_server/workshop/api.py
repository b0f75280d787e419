"""The workshop's resource."""

from typing import Any

from django.http import HttpRequest
from ninja import Body, Router, Schema, Status

from zygon_server.accounts.schemas import Fault
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
