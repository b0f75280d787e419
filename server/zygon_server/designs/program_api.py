"""Programs for the cutter: which sheets there are, one to be played, one as a file."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router

from zygon.exchange.named import safe
from zygon.exchange.path_files import paths_file
from zygon.nest.design import StockNest
from zygon.program.of_design import program_of
from zygon.screen.programs import program_data, program_sheets
from zygon.screen.shown.programs import ShownProgram, ShownProgramSheet
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import service
from zygon_server.designs.export_api import download
from zygon_server.designs.models import Design
from zygon_server.designs.service import Head
from zygon_server.errors import NotFound
from zygon_server.nesting.layouts import standing
from zygon_server.quotas import Rate

router = Router(tags=["programs"], throttle=[Rate("exports")])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


def _sheet(request: HttpRequest, design_id: str, stock: str, number: int) -> tuple[Design, Head, StockNest]:
    design = service.find(request.user, design_id)
    head = service.head(design)
    found = next((n for n in standing(design, head) if n.plan.stock == stock), None)
    if found is None or not 1 <= number <= len(found.layout.sheets):
        raise NotFound("This sheet is not laid out yet; nest first.")
    return design, head, found


@router.get("/{design_id}/programs", response={200: list[ShownProgramSheet], **FAULTS}, operation_id="program_sheets")
def get_sheets(request: HttpRequest, design_id: str):
    """Every side of every sheet as nested, with why there is no program of it where there is none."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    return program_sheets(head.document, standing(design, head))


@router.get("/{design_id}/programs/{stock}/{number}", response={200: ShownProgram, **FAULTS}, operation_id="program")
def get_program(request: HttpRequest, design_id: str, stock: str, number: int, under: bool = False):
    """A sheet's program, to be played; ``under`` that of the face that lies down."""
    _, head, nest = _sheet(request, design_id, stock, number)
    return program_data(head.built, nest, number, head.problems, under)


@router.get("/{design_id}/files/programs/{stock}/{number}", operation_id="program_file")
def get_file(request: HttpRequest, design_id: str, stock: str, number: int, under: bool = False, to: Literal["nc", "dxf", "svg"] = "nc"):
    """A sheet's program as a file, or its paths as a drawing; refused while something is wrong with it."""
    design, head, nest = _sheet(request, design_id, stock, number)
    made = program_of(head.document, nest, number, head.problems, str(design.revision), under)
    text = made.leave() if to == "nc" else paths_file(head.document, made, to)
    return download(f"{safe(head.document.name)}_{safe(stock)}_{number:02d}{'_under' if under else ''}.{to}", text)
