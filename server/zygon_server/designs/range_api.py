"""The range test of a design."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from zygon.screen.shown.ranges import ShownRangeTest
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import ranges, service

router = Router(tags=["ranges"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


@router.get("/{design_id}/range-test", response={200: ShownRangeTest, **FAULTS}, operation_id="range_test")
def get_range_test(request: HttpRequest, design_id: str):
    """What was found so far."""
    return ranges.found(service.find(request.user, design_id))


@router.post("/{design_id}/range-test", response={200: ShownRangeTest, **FAULTS}, operation_id="go_on_with_range_test")
def post_range_test(request: HttpRequest, design_id: str):
    """Tries every size over its range, for a few seconds; asked again it goes on, until ``done`` is ``total``."""
    return ranges.go_on(service.find(request.user, design_id))
