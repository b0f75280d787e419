"""The nest runs' resource."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from zygon_server.accounts.schemas import Fault
from zygon_server.designs.service import find
from zygon_server.nesting import service

router = Router(tags=["nesting"])


class PlacedOut(Schema):
    """A part on a sheet as paths with y turned down about 0."""

    part: str
    angle: float
    middle: list[float]
    size: list[float]
    outside: str
    inside: list[str]
    marks: list[str]
    depths: list[str] = []


class SheetOut(Schema):
    """One sheet in mm; seconds and cost of cutting it."""

    length: float
    width: float
    roll: bool
    used_length: float
    share: float
    parts: list[PlacedOut]
    offcut: list[float] | None
    cut_length: float
    pierces: int
    seconds: float
    cost: float
    known: bool


class LayoutOut(Schema):
    """One stock laid out."""

    stock: str
    digest: str
    sheet: str
    sheets: list[SheetOut]
    share: float
    sheet_cost: float
    gap: float
    margin: float
    passes: int
    stopped: bool
    unplaced: dict[str, int]
    kerf: float


class StockState(Schema):
    """``current`` is False while the layout is that of an earlier state."""

    stock: str
    digest: str
    current: bool
    layout: LayoutOut | None


class RunOut(Schema):
    id: str
    status: str
    quick: bool
    progress: float
    best: dict[str, Any] | None
    error: str
    revision: int


class NestState(Schema):
    stocks: list[StockState]
    run: RunOut | None


class NestIn(Schema):
    """``quick`` lays out what changed; otherwise a search over all stocks for so many seconds a stock."""

    quick: bool = True
    seconds: float | None = None


@router.get("/{design_id}/nest", response={200: NestState, 404: Fault}, operation_id="nest_state")
def get_nest(request: HttpRequest, design_id: str):
    """The layouts of the head and the run that is on."""
    return service.state(find(request.user, design_id))


@router.post("/{design_id}/nest", response={200: NestState, 404: Fault, 422: Fault}, operation_id="ask_nest")
def post_nest(request: HttpRequest, design_id: str, body: NestIn):
    """Asks for a run; a quick one replaces any older one."""
    design = find(request.user, design_id)
    seconds = min(max(body.seconds, 0.2), 120.0) if body.seconds else None
    service.ask(design, quick=body.quick, seconds=seconds)
    return service.state(design)


@router.delete("/{design_id}/nest/{run_id}", response={200: NestState, 404: Fault}, operation_id="cancel_nest")
def delete_nest(request: HttpRequest, design_id: str, run_id: str):
    """Stops a run; the best found so far stays."""
    design = find(request.user, design_id)
    service.cancel(design, run_id)
    return service.state(design)
