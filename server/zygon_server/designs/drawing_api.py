"""Drawings on parts: as they are drawn, and led by hand."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from zygon.screen.drawing import drawing_data, led_drawing
from zygon.screen.shown.drawing import LedDrawing, ShownDrawing
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import schemas as s
from zygon_server.designs import service

router = Router(tags=["drawings"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


@router.get("/{design_id}/parts/{part}/drawing", response={200: ShownDrawing, **FAULTS}, operation_id="drawing")
def get_drawing(request: HttpRequest, design_id: str, part: str, feature: str = ""):
    """A drawing on a part: its outline, or one of its shapes; solved, with what is loose, what contradicts, and what it may refer to."""
    return drawing_data(service.head(service.find(request.user, design_id)).built, part, feature)


@router.post("/{design_id}/drawing/led", response={200: LedDrawing, **FAULTS}, operation_id="lead_drawing")
def post_led(request: HttpRequest, design_id: str, body: s.LedIn):
    """A drawing led by hand; nothing is kept."""
    service.find(request.user, design_id)
    return led_drawing(body.solving, body.to, body.radii, body.start)
