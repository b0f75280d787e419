"""Programs for the cutter: which sheets there are, one to be played, one as a file."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Query, Router, Schema

from zygon.exchange.named import safe
from zygon.exchange.path_files import paths_file
from zygon.nest.design import StockNest
from zygon.program.of_design import program_of
from zygon.program.of_power_test import ShownPowerTest, power_test_program
from zygon.screen.material import engaged_data, material_data
from zygon.screen.programs import program_data, program_sheets
from zygon.screen.shown.programs import ShownMaterial, ShownProgram, ShownProgramSheet
from zygon.toolpath.begun import begin_here
from zygon.toolpath.power_test import PowerTest
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import service
from zygon_server.designs.export_api import download
from zygon_server.designs.models import Design
from zygon_server.designs.schemas import OperationOut
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


@router.get("/{design_id}/programs/{stock}/{number}/material", response={200: ShownMaterial, **FAULTS}, operation_id="material")
def get_material(request: HttpRequest, design_id: str, stock: str, number: int, under: bool = False):
    """What a router's program leaves of a sheet, and where that is not the part."""
    _, head, nest = _sheet(request, design_id, stock, number)
    return material_data(head.built, nest, number, head.problems, under)


@router.get("/{design_id}/programs/{stock}/{number}/engaged", response={200: list[float], **FAULTS}, operation_id="engaged")
def get_engaged(request: HttpRequest, design_id: str, stock: str, number: int, under: bool = False):
    """How wide the bit is engaged in each move of a router's program, mm; none of a beam's."""
    _, head, nest = _sheet(request, design_id, stock, number)
    return engaged_data(head.document, nest, number, under)


class OnSheetIn(Schema):
    """A place on a sheet, mm."""

    x: float
    y: float


@router.post("/{design_id}/programs/{stock}/{number}/begin", response={200: OperationOut, **FAULTS}, operation_id="begin_here")
def post_begin(request: HttpRequest, design_id: str, stock: str, number: int, body: OnSheetIn):
    """The edit that begins the cut nearest to a place there, in all copies of its part."""
    _, head, nest = _sheet(request, design_id, stock, number)
    label, patch = begin_here(head.document, nest, number, (body.x, body.y))
    return {"label": label, "patch": patch}


class PowerTestIn(Schema):
    """What is tried: speeds in mm/s, powers in %."""

    what: Literal["cut", "mark"] = "cut"
    slow: float = 10.0
    fast: float = 30.0
    weak: float = 40.0
    strong: float = 100.0
    steps: int = 5


def _power_test(request: HttpRequest, design_id: str, stock: str, asked: PowerTestIn) -> tuple[str, ShownPowerTest]:
    document = service.head(service.find(request.user, design_id)).document
    if stock not in document.sheets:
        raise NotFound("There is no such sheet stock.")
    return power_test_program(document, stock, PowerTest(**asked.dict()))


@router.get("/{design_id}/power-test/{stock}", response={200: ShownPowerTest, **FAULTS}, operation_id="power_test")
def get_test(request: HttpRequest, design_id: str, stock: str, asked: Query[PowerTestIn]):
    """What a test piece for speed and power tries on the chosen laser."""
    return _power_test(request, design_id, stock, asked)[1]


@router.get("/{design_id}/files/power-test/{stock}", operation_id="power_test_file")
def get_test_file(request: HttpRequest, design_id: str, stock: str, asked: Query[PowerTestIn]):
    """Its program."""
    return download(f"speed-and-power_{safe(stock)}_{asked.what}.nc", _power_test(request, design_id, stock, asked)[0])


@router.get("/{design_id}/files/programs/{stock}/{number}", operation_id="program_file")
def get_file(request: HttpRequest, design_id: str, stock: str, number: int, under: bool = False, to: Literal["nc", "dxf", "svg"] = "nc"):
    """A sheet's program as a file, or its paths as a drawing; refused while something is wrong with it."""
    design, head, nest = _sheet(request, design_id, stock, number)
    made = program_of(head.document, nest, number, head.problems, str(design.revision), under)
    text = made.leave() if to == "nc" else paths_file(head.document, made, to)
    return download(f"{safe(head.document.name)}_{safe(stock)}_{number:02d}{'_under' if under else ''}.{to}", text)
