"""What a screen needs to let a maker fill in any record of a design; the same for all designs."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from zygon.design.forms import Forms, forms
from zygon_server.accounts.schemas import Fault

router = Router(tags=["forms"])


@router.get("/forms", response={200: Forms, 401: Fault}, operation_id="forms")
def get_forms(request: HttpRequest):
    """Every kind of record with its fields."""
    return forms()
