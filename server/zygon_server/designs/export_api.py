"""Downloads: parts, sheets, cut list, and one ZIP of a design."""

from __future__ import annotations

from functools import partial
from typing import Literal

from django.http import HttpRequest, HttpResponse
from django.utils.http import content_disposition_header
from ninja import Router

from zygon.exchange.bundle import bundle, cut_part, part_file, sheet_files
from zygon.exchange.formats import LISTS, media_type
from zygon.exchange.named import safe
from zygon.exchange.solids import SolidFile, solid_file, solid_part
from zygon.exchange.tubes import What, template_file
from zygon_server.apart import WRITE_SECONDS, apart
from zygon_server.designs import service
from zygon_server.designs.papers import set_for_archive
from zygon_server.errors import NotFound
from zygon_server.nesting.layouts import standing
from zygon_server.quotas import Rate

router = Router(tags=["files"], throttle=[Rate("exports")])
Kerf = Literal["nominal", "compensated"]


def download(name: str, content: str | bytes) -> HttpResponse:
    response = HttpResponse(content, content_type=media_type(name))
    response.headers["Content-Disposition"] = content_disposition_header(True, name)
    return response


def _list(request: HttpRequest, design_id: str, name: str) -> HttpResponse:
    """One of a design's lists; NotFound where it has nothing to say."""
    built, one = service.head(service.find(request.user, design_id)).built, LISTS[name]
    text = one.write(built)
    if not text:
        raise NotFound(one.nothing)
    return download(f"{safe(built.document.name)}_{one.name}.{one.suffix}", text)


@router.get("/{design_id}/files/parts/{key}", operation_id="part_file")
def get_part(
    request: HttpRequest, design_id: str, key: str, to: Literal["dxf", "svg"] = "dxf", kerf: Kerf = "compensated", turned: bool = False
):
    """One part as DXF or SVG; ``turned`` for the work on its other face."""
    built = service.head(service.find(request.user, design_id)).built
    if key not in built.parts:
        raise NotFound("There is no such part.")
    return download(*part_file(built, cut_part(built, key), to, kerf, turned=turned))


@router.get("/{design_id}/files/sheets/{stock}/{number}", operation_id="sheet_file")
def get_sheet(request: HttpRequest, design_id: str, stock: str, number: int, to: Literal["dxf", "svg"] = "dxf", kerf: Kerf = "compensated"):
    """One sheet as DXF or SVG, as it is laid out now."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    found = next((n for n in standing(design, head) if n.plan.stock == stock), None)
    if found is None or not 1 <= number <= len(found.layout.sheets):
        raise NotFound("This sheet is not laid out yet; nest first.")
    return download(*list(sheet_files(head.built, found, to, kerf).items())[number - 1])


@router.get("/{design_id}/files/cut-list", operation_id="cut_list_file")
def get_cut_list(request: HttpRequest, design_id: str):
    """The cut list as CSV."""
    return _list(request, design_id, "cut-list")


@router.get("/{design_id}/files/to-buy", operation_id="to_buy_file")
def get_to_buy(request: HttpRequest, design_id: str):
    """What is bought for the design as CSV."""
    return _list(request, design_id, "to-buy")


@router.get("/{design_id}/files/drilling-list", operation_id="drilling_file")
def get_drilling_list(request: HttpRequest, design_id: str):
    """The drilling list as CSV."""
    return _list(request, design_id, "drilling-list")


@router.get("/{design_id}/files/saw-list", operation_id="saw_list_file")
def get_saw_list(request: HttpRequest, design_id: str):
    """The saw list as CSV."""
    return _list(request, design_id, "saw-list")


@router.get("/{design_id}/files/bender-table", operation_id="bender_table_file")
def get_bender_table(request: HttpRequest, design_id: str):
    """The bender's table of rods and tubes as CSV."""
    return _list(request, design_id, "bender-table")


@router.get("/{design_id}/files/templates/{key}", operation_id="template_file")
def get_template(request: HttpRequest, design_id: str, key: str, what: What = "a", to: Literal["dxf", "svg"] = "dxf"):
    """The template of a member's end at 1 : 1, or the whole member laid flat, as DXF or SVG."""
    built = service.head(service.find(request.user, design_id)).built
    if key not in built.parts:
        raise NotFound("There is no such part.")
    return download(*template_file(built, solid_part(built, key), what, to))


@router.get("/{design_id}/files/bend-table", operation_id="bend_table_file")
def get_bend_table(request: HttpRequest, design_id: str):
    """The bend table as CSV."""
    return _list(request, design_id, "bend-table")


@router.get("/{design_id}/files/brake-program", operation_id="brake_program_file")
def get_brake_program(request: HttpRequest, design_id: str):
    """Every stroke on the press brake as text."""
    return _list(request, design_id, "brake-program")


@router.get("/{design_id}/files/brake-strokes", operation_id="brake_strokes_file")
def get_brake_strokes(request: HttpRequest, design_id: str):
    """Every stroke on the press brake as JSON."""
    return _list(request, design_id, "brake-strokes")


@router.get("/{design_id}/files/tube-cuts", operation_id="tube_cuts_file")
def get_tube_cuts(request: HttpRequest, design_id: str):
    """What a tube cutter cuts, as JSON."""
    return _list(request, design_id, "tube-cuts")


@router.get("/{design_id}/files/solids", operation_id="solid_file")
def get_solid(request: HttpRequest, design_id: str, to: SolidFile = "step", part: str = "", flat: bool = False):
    """The design's solids, or one part's, as STEP, STL, 3MF or GLB; ``flat`` for a part's flat as STEP."""
    built = service.head(service.find(request.user, design_id)).built
    if part and part not in built.parts:
        raise NotFound("There is no such part.")
    one = solid_part(built, part) if part else None
    return download(
        *apart(partial(solid_file, flat=flat), built, to, one, what=f"The {to.upper()} file", writes=True, seconds=WRITE_SECONDS)
    )


@router.get("/{design_id}/files/all", operation_id="all_files")
def get_all(request: HttpRequest, design_id: str, kerf: Kerf = "compensated"):
    """Everything of a design in one ZIP."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    nests = standing(design, head)
    papers = set_for_archive(design, head, nests)
    content = apart(
        partial(bundle, more=papers), head.built, head.problems, nests, kerf, what="The archive", writes=True, seconds=WRITE_SECONDS
    )
    return download(f"{safe(head.document.name)}_{kerf}.zip", content)
