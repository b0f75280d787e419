"""What a screen needs that is the same for all designs: the forms of records, the kinds of files that go out."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Field, Router, Schema

from zygon.design.forms import Forms, forms
from zygon.exchange.formats import FORMATS
from zygon.stock.hardware.catalogue import FAMILIES, search
from zygon_server.accounts.schemas import Fault

router = Router(tags=["forms"])


class FormatOut(Schema):
    """A kind of file that goes out, by its suffix, and what it is of; ``exact`` where it is of true shapes and not of facets."""

    suffix: str
    of: Literal["drawing", "solid", "list", "papers", "program", "everything", "design"]
    exact: bool


class HardwareOut(Schema):
    """A piece of the catalogue; mass in g, length in mm; ``role`` is what it does in a set."""

    designation: str
    name: str
    standard: str
    source: str
    role: str
    family: str
    size: str
    length: float | None
    mass: float
    moves: str = Field(description="how it moves, in words; '' for what does not")


@router.get("/hardware", response={200: list[HardwareOut], 401: Fault, 422: Fault}, operation_id="hardware")
def get_hardware(request: HttpRequest, text: str, hole: float | None = None):
    """Hardware by words and sizes; what goes best through a ``hole`` (mm) comes first."""
    found = search(text, near=hole)
    return [
        HardwareOut(
            designation=h.designation,
            name=h.name,
            standard=h.standard,
            source=h.source,
            role=FAMILIES[h.family].role,
            family=h.family,
            size=h.size,
            length=h.length,
            mass=h.mass,
            moves=h.freedom.words if h.freedom else "",
        )
        for h in found
    ]


@router.get("/forms", response={200: Forms, 401: Fault}, operation_id="forms")
def get_forms(request: HttpRequest):
    """Every kind of record with its fields."""
    return forms()


@router.get("/formats", response={200: list[FormatOut], 401: Fault}, operation_id="formats")
def get_formats(request: HttpRequest):
    """Every kind of file that goes out."""
    return list(FORMATS.values())
