"""Joints and how they go together: what is possible between two boards, figures, assembly, drilling list."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from zygon.exchange.drilling import DrillRow, drilling_list
from zygon.making.asked.questions import offers_between
from zygon.making.assembly.plan import assembly
from zygon.screen.assembly import assembly_data
from zygon.screen.joint_figure import joint_figure
from zygon.screen.shown.joints import Figure, ShownAssembly, ShownOffer
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import schemas as s
from zygon_server.designs import service

router = Router(tags=["joints"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


@router.post("/{design_id}/joints/possible", response={200: list[ShownOffer], **FAULTS}, operation_id="possible_joints")
def post_possible(request: HttpRequest, design_id: str, body: s.PairIn):
    """Which joints two boards could have, and why not the others."""
    return offers_between(service.head(service.find(request.user, design_id)).document, body.a, body.b, body.instead_of or "")


@router.post("/{design_id}/joints/figure", response={200: Figure | None, **FAULTS}, operation_id="joint_figure")
def post_figure(request: HttpRequest, design_id: str, body: s.FigureIn):
    """A joint drawn to its real values, on the head or as a patch would make it."""
    design = service.find(request.user, design_id)
    head = service.preview(design, body.patch) if body.patch else service.head(design)
    return joint_figure(head.built, body.joint)


@router.get("/{design_id}/assembly", response={200: ShownAssembly, **FAULTS}, operation_id="assembly")
def get_assembly(request: HttpRequest, design_id: str):
    """In what order the parts go together, which still slide out, and which nothing holds."""
    built = service.head(service.find(request.user, design_id)).built
    return assembly_data(built, assembly(built))


@router.get("/{design_id}/drilling", response={200: list[DrillRow], **FAULTS}, operation_id="drilling")
def get_drilling(request: HttpRequest, design_id: str):
    """The holes that are left to a drill."""
    return drilling_list(service.head(service.find(request.user, design_id)).built)
