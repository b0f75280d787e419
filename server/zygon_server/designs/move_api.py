"""What moves in a design, how far, and where it stops."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from zygon.errors import DocumentError
from zygon.screen.moves import moves_data
from zygon.screen.shown.moves import ShownMoves
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import schemas as s
from zygon_server.designs import service, travels

router = Router(tags=["moves"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


@router.get("/{design_id}/moves", response={200: ShownMoves, **FAULTS}, operation_id="moves")
def get_moves(request: HttpRequest, design_id: str):
    """What is one thing, what stands still, and which freedoms are left."""
    return moves_data(service.head(service.find(request.user, design_id)).built)


@router.get("/{design_id}/moves/{key}/travel", response={200: s.TravelOut, **FAULTS}, operation_id="travel")
def get_travel(request: HttpRequest, design_id: str, key: str):
    """How far a movement goes from where it is drawn, and what it strikes there; how much of the search is done where that takes long."""
    design = service.find(request.user, design_id)
    built = service.head(design).built
    try:
        looked = travels.look(design.pk, design.revision, built, key)
        return {"travel": looked.travel, "share": looked.share}
    except KeyError:
        rule = "a movement of the design by its key"
        raise DocumentError(f"Nothing moves as {key}", entry="key", value=key, rule=rule, code="bad_reference") from None
