"""What a screen needs that is the same for all designs: the forms of records, the kinds of files that go out."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router, Schema

from zygon.design.forms import Forms, forms
from zygon.exchange.formats import FORMATS
from zygon_server.accounts.schemas import Fault

router = Router(tags=["forms"])


class FormatOut(Schema):
    """A kind of file that goes out, by its suffix, and what it is of; ``exact`` where it is of true shapes and not of facets."""

    suffix: str
    of: Literal["drawing", "solid", "list", "everything", "design"]
    exact: bool


@router.get("/forms", response={200: Forms, 401: Fault}, operation_id="forms")
def get_forms(request: HttpRequest):
    """Every kind of record with its fields."""
    return forms()


@router.get("/formats", response={200: list[FormatOut], 401: Fault}, operation_id="formats")
def get_formats(request: HttpRequest):
    """Every kind of file that goes out."""
    return list(FORMATS.values())
