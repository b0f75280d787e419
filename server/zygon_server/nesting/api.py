"""The nest runs' resource."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Router, Schema

from zygon.screen.shown.sheets import ShownLayout
from zygon_server.accounts.schemas import Fault
from zygon_server.designs.service import find
from zygon_server.nesting import by_hand, layouts, runs, state, times
from zygon_server.quotas import Rate, may_search
from zygon_server.workshop.api import OffcutOut

router = Router(tags=["nesting"])


class EarlierOut(Schema):
    """A layout that was kept; ``stale`` where a flat in it has changed since."""

    id: int
    revision: int
    made: str
    sheets: int
    share: float
    cost: float
    hand: bool
    stale: bool


class StockState(Schema):
    """``current`` is False while the layout is that of an earlier state. ``found`` is what a search has found beside what is laid by hand."""

    stock: str
    digest: str
    current: bool
    revision: int
    by_hand: bool
    layout: ShownLayout | None
    found: ShownLayout | None
    found_revision: int
    earlier: list[EarlierOut]


class RoomIn(Schema):
    """One copy of a part as it shall lie; the angle in degrees."""

    stock: str
    part: str
    number: int
    angle: float
    mirrored: bool = False


class FinishedIn(Schema):
    """A sheet of a stock's layout, from 1, that has been cut, and where its rests are put."""

    stock: str
    number: int
    place: str = ""


class SawnIn(Schema):
    """A bar stock whose bars have been cut, and where what is left of them is put."""

    stock: str
    place: str = ""


class FreshOut(Schema):
    """A sheet that is not begun yet; a length of 0 is a roll's."""

    size: str
    length: float
    width: float


class RoomOut(Schema):
    """Where the part's origin may go: a sheet's pieces, each a ring and its holes, in mm; the last room is that of a ``fresh`` sheet.

    ``box`` is the part's about its origin as it is turned.
    """

    digest: str
    fresh: FreshOut
    rooms: list[list[list[list[list[float]]]]]
    box: list[float]
    turns: list[float]
    free: bool
    mirror: bool


class FoundOut(Schema):
    """What a run found ``at`` so many seconds: how tight the parts lie, the last sheet counted only as far as it is used, and what the sheets cost."""

    at: float
    stock: str
    sheets: int
    tightness: float
    cost: float


class RunOut(Schema):
    id: str
    status: str
    quick: bool
    progress: float
    best: dict[str, Any] | None
    error: str
    revision: int
    stock: str
    seconds: float
    trace: list[FoundOut]


class NestState(Schema):
    stocks: list[StockState]
    run: RunOut | None


class NestIn(Schema):
    """``quick`` lays out what changed; otherwise a search over all stocks for so many seconds a stock."""

    quick: bool = True
    seconds: float | None = None
    stock: str = ""


@router.get("/{design_id}/nest", response={200: NestState, 404: Fault}, operation_id="nest_state")
def get_nest(request: HttpRequest, design_id: str):
    """The layouts of the head and the run that is on; 304 where nothing is new since the state that the browser has."""
    design = find(request.user, design_id)
    tag = f'"{state.token(design)}"'
    if request.headers.get("If-None-Match") == tag:
        return HttpResponse(status=304, headers={"ETag": tag})
    return JsonResponse(
        NestState.model_validate(state.state(design)).model_dump(mode="json"), headers={"ETag": tag, "Cache-Control": "private, no-cache"}
    )


@router.post(
    "/{design_id}/nest", response={200: NestState, 404: Fault, 422: Fault, 429: Fault}, operation_id="ask_nest", throttle=[Rate("searches")]
)
def post_nest(request: HttpRequest, design_id: str, body: NestIn):
    """Asks for a run; a quick one replaces any older one."""
    design = find(request.user, design_id)
    if not body.quick:
        may_search(request.user, design)
    runs.ask(design, quick=body.quick, seconds=runs.bounded(body.seconds), stock=body.stock)
    return state.state(design)


@router.post("/{design_id}/nest-times", response={200: NestState, 404: Fault, 422: Fault}, operation_id="nest_times")
def post_times(request: HttpRequest, design_id: str):
    """Works out what sheets take at the machine, from their programs; asked again until all are ``timed``."""
    design = find(request.user, design_id)
    times.take_times(design)
    return state.state(design)


@router.post("/{design_id}/nest/room", response={200: RoomOut, 404: Fault, 422: Fault}, operation_id="nest_room")
def post_room(request: HttpRequest, design_id: str, body: RoomIn):
    """Where one copy of a part may go by hand."""
    return by_hand.room(find(request.user, design_id), body.stock, body.part, body.number, body.angle, body.mirrored)


@router.post("/{design_id}/nest/offcuts", response={200: list[OffcutOut], 404: Fault, 422: Fault}, operation_id="keep_offcuts")
def post_offcuts(request: HttpRequest, design_id: str, body: FinishedIn):
    """Puts what a cut sheet gives back on the shelf."""
    return by_hand.finished(request.user, find(request.user, design_id), body.stock, body.number, body.place)


@router.post("/{design_id}/bars/left", response={200: list[OffcutOut], 404: Fault, 422: Fault}, operation_id="keep_remainders")
def post_remainders(request: HttpRequest, design_id: str, body: SawnIn):
    """Puts what is left of bars that were cut on the shelf."""
    return by_hand.sawn(request.user, find(request.user, design_id), body.stock, body.place)


@router.get("/{design_id}/nest/layouts/{number}", response={200: ShownLayout, 404: Fault}, operation_id="earlier_layout")
def get_layout(request: HttpRequest, design_id: str, number: int):
    """A layout that was kept earlier."""
    return layouts.earlier(find(request.user, design_id), number)


@router.delete("/{design_id}/nest/{run_id}", response={200: NestState, 404: Fault}, operation_id="cancel_nest")
def delete_nest(request: HttpRequest, design_id: str, run_id: str):
    """Stops a run; the best found so far stays."""
    design = find(request.user, design_id)
    runs.cancel(design, run_id)
    return state.state(design)
