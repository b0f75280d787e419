"""The designs' resource: list, create, edit with If-Match, preview, history, resources by hash."""

from __future__ import annotations

import json
import re
from functools import partial
from pathlib import Path
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils.http import content_disposition_header
from ninja import File, Form, Header, Router, Status
from ninja.files import UploadedFile

from zygon.design.layout import Place
from zygon.design.schema import json_schema
from zygon.design.starters import starter, starter_forms
from zygon.design.upgrade import load
from zygon.edits.operations import AnyOperation
from zygon.exchange.design_in import read_design_file
from zygon.exchange.outline_in import drawn_outline
from zygon.exchange.step import MESHES, mesh_record, solid_record
from zygon.making.asked.measured import About, Lost, about, measure, weigh
from zygon.making.asked.questions import parts_along
from zygon.screen.bending import bend_plan
from zygon.screen.design import part_resources, problem_data
from zygon.screen.picture import starter_shown
from zygon.screen.shown.shapes import ShownFlat, ShownSolid
from zygon.stock.bending import read_bend_table
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import pictures, service, templates
from zygon_server.designs import schemas as s
from zygon_server.designs.models import DELETED, Design, Edit
from zygon_server.errors import NotFound, Refused
from zygon_server.quotas import Rate
from zygon_server.sent import read_sent
from zygon_server.wanted import turn

router = Router(tags=["designs"])
FAULTS = {401: Fault, 404: Fault, 412: Fault, 422: Fault, 429: Fault}
IMMUTABLE = "private, max-age=31536000, immutable"


def _row(design: Design) -> dict[str, Any]:
    if not design.parts:  # kept before rows had counts, or empty
        design = service.counted(design)
    return {
        "id": str(design.pk),
        "name": design.name,
        "revision": design.revision,
        "updated": design.updated,
        "parts": design.parts,
        "problems": design.problems,
    }


def _head(design: Design, reader: s.Reader, before: int = 0) -> HttpResponse:
    """The head as JSON, or what has changed since the revision ``before``; not passed through the schema again: it is large and comes from the core as it is."""
    head = service.head(design)
    undo = design.edits.filter(kind=Edit.Kind.EDIT, state=Edit.State.DONE).last()
    redo = design.edits.filter(kind=Edit.Kind.EDIT, state=Edit.State.UNDONE).first()
    with turn():
        response = JsonResponse(
            {
                **service.told(head, reader.holds, reader.have, service.known_head(design, before)),
                "id": str(design.pk),
                "revision": design.revision,
                "tag": head.tag,
                "undo": undo.label if undo else "",
                "redo": redo.label if redo else "",
                "ordering": head.ordering,
            }
        )
    response.headers["ETag"] = f'"{design.revision}"'
    return response


def _revision(if_match: str) -> int:
    text = if_match.strip().strip('"')
    if not re.fullmatch(r"[0-9]{1,9}", text):
        raise Refused(
            "An edit names the revision that it was made on, in If-Match.", entry="If-Match", value=if_match[:40], rule="a revision number"
        )
    return int(text)


@router.get("", response=list[s.DesignRow], operation_id="designs")
def list_designs(request: HttpRequest):
    """The maker's designs, latest first."""
    return [_row(d) for d in Design.objects.filter(owner=request.user, deleted=None).defer("document", "good", "drawing")]


@router.get("/deleted", response=list[s.DeletedRow], operation_id="deleted_designs")
def list_deleted(request: HttpRequest):
    """What the maker deleted and can still bring back, the latest first."""
    rows = Design.objects.filter(owner=request.user, deleted__isnull=False).order_by("-deleted").only("id", "name", "deleted")
    return [{"id": str(d.pk), "name": d.name, "deleted": d.deleted, "until": d.deleted + DELETED} for d in rows]


@router.post("", response={200: s.DesignRow, **FAULTS}, operation_id="create_design")
def create_design(request: HttpRequest, body: s.NewDesign):
    """A new design from a starter, or from nothing."""
    return _row(templates.create(request.user, starter(body.starter, body.name, body.unit, body.values)))


@router.get("/starters", response=list[s.StarterForm], operation_id="starters")
def get_starters(request: HttpRequest):
    """What a design can be begun from, and what each asks."""
    return starter_forms()


@router.post("/starters/shown", response={200: s.StarterShown, **FAULTS}, operation_id="starter_shown", throttle=[Rate("tries")])
def post_starter(request: HttpRequest, body: s.StarterIn):
    """A starter as it would begin with these answers; nothing is kept."""
    return starter_shown(starter(body.starter, "Shown", body.unit, body.values))


@router.post("/upload", response={200: s.DesignRow, **FAULTS}, operation_id="upload_design", throttle=[Rate("files")])
def upload_design(request: HttpRequest, file: UploadedFile = File(...)):
    """A new design from a design file of any known schema."""
    document, kept = read_sent(file, read_design_file)
    design = service.create(request.user, document)
    pictures.keep_all(design, kept)
    return _row(design)


@router.get("/schema", response=dict[str, Any], operation_id="design_schema")
def get_schema(request: HttpRequest):
    """The JSON Schema of design files."""
    return json_schema()


@router.get("/{design_id}", response={200: s.DesignOut, **FAULTS}, operation_id="design")
def get_design(request: HttpRequest, design_id: str):
    """A design at its head with all its resources."""
    return _head(service.find(request.user, design_id), s.Reader(holds=""))


@router.delete("/{design_id}", response={204: None, **FAULTS}, operation_id="delete_design")
def delete_design(request: HttpRequest, design_id: str):
    """Deletes a design; with its history it can be brought back for 30 days."""
    service.delete(service.find(request.user, design_id))
    return Status(204, None)


@router.post("/{design_id}/restore", response={200: s.DesignRow, **FAULTS}, operation_id="restore_design")
def restore_design(request: HttpRequest, design_id: str):
    """Brings a deleted design back, with its history."""
    return _row(service.restore(request.user, service.find(request.user, design_id, deleted=True)))


@router.delete("/{design_id}/for-good", response={204: None, **FAULTS}, operation_id="delete_for_good")
def delete_for_good(request: HttpRequest, design_id: str):
    """A deleted design goes with its history; nothing brings it back."""
    service.find(request.user, design_id, deleted=True).delete()
    return Status(204, None)


@router.post("/{design_id}/copy", response={200: s.DesignRow, **FAULTS}, operation_id="copy_design")
def copy_design(request: HttpRequest, design_id: str):
    """A copy of a design."""
    return _row(service.copy(request.user, service.find(request.user, design_id)))


@router.post("/{design_id}/name", response={200: s.DesignRow, **FAULTS}, operation_id="rename_design")
def name_design(request: HttpRequest, design_id: str, body: s.DesignName):
    """Renames a design."""
    return _row(service.rename_design(service.find(request.user, design_id), body.name, request.user.get_username()))


@router.get("/{design_id}/file", operation_id="design_file")
def get_file(request: HttpRequest, design_id: str) -> HttpResponse:
    """The design file."""
    design = service.find(request.user, design_id)
    document = load(design.document)
    data = {**document.dump(), **pictures.written(design, document)}
    text = json.dumps(data, indent=1, ensure_ascii=False)
    response = HttpResponse(text, content_type="application/json")
    name = "".join(c if c.isalnum() or c in "-_" else "-" for c in design.name).lower()
    response.headers["Content-Disposition"] = content_disposition_header(True, f"{name}.json")
    return response


@router.get("/{design_id}/picture", operation_id="design_picture")
def get_picture(request: HttpRequest, design_id: str) -> HttpResponse:
    """A small picture of the design (SVG)."""
    return HttpResponse(service.small_picture(service.find(request.user, design_id)), content_type="image/svg+xml")


@router.post("/{design_id}/edits", response={200: s.DesignOut | s.ChangedOut, **FAULTS}, operation_id="edit_design")
def post_edit(request: HttpRequest, design_id: str, body: s.EditIn, if_match: str = Header("", alias="If-Match")):
    """One edit on the revision in If-Match; 412 where the head has moved on."""
    revision = _revision(if_match)
    design = service.find(request.user, design_id)
    return _head(service.commit(design, revision, body.label, body.patch, request.user.get_username(), body.id), body, revision)


@router.get("/{design_id}/edits", response={200: list[s.EditOut], **FAULTS}, operation_id="history")
def get_edits(request: HttpRequest, design_id: str, after: int = 0):
    """The history after a revision, oldest first, with the paths that each edit touches."""
    design = service.find(request.user, design_id)
    fields = ("revision", "kind", "state", "label", "author", "at")
    return [
        {**{f: getattr(e, f) for f in fields}, "paths": [op["path"] for op in e.patch]} for e in design.edits.filter(revision__gt=after)
    ]


@router.post("/{design_id}/undo", response={200: s.DesignOut | s.ChangedOut, **FAULTS}, operation_id="undo")
def post_undo(request: HttpRequest, design_id: str, body: s.Reader, if_match: str = Header("", alias="If-Match")):
    """Undoes the last edit that stands."""
    revision = _revision(if_match)
    return _head(service.step_back(service.find(request.user, design_id), revision, request.user.get_username()), body, revision)


@router.post("/{design_id}/redo", response={200: s.DesignOut | s.ChangedOut, **FAULTS}, operation_id="redo")
def post_redo(request: HttpRequest, design_id: str, body: s.Reader, if_match: str = Header("", alias="If-Match")):
    """Redoes the edit that was undone last."""
    revision = _revision(if_match)
    return _head(service.step_forward(service.find(request.user, design_id), revision, request.user.get_username()), body, revision)


@router.post(
    "/{design_id}/preview", response={200: s.PreviewOut | s.PreviewChangesOut, **FAULTS}, operation_id="preview", throttle=[Rate("tries")]
)
def post_preview(request: HttpRequest, design_id: str, body: s.PreviewIn):
    """What an edit would give; nothing is stored."""
    design = service.find(request.user, design_id)
    head = service.preview(design, body.patch)
    with turn():
        return JsonResponse(service.told(head, body.holds, body.have, service.known_head(design, design.revision)))


@router.get("/{design_id}/resources/{key}", response={200: ShownSolid | ShownFlat, **FAULTS}, operation_id="resource")
def get_resource(request: HttpRequest, design_id: str, key: str):
    """A flat or solid of this design by its hash."""
    design = service.find(request.user, design_id)
    found = part_resources(service.head(design).built).get(key)
    if found is None:
        raise NotFound("This design has no such flat or solid now.")
    response = JsonResponse(found)
    response.headers["Cache-Control"] = IMMUTABLE
    return response


@router.get("/{design_id}/parts/{key}/bending", response={200: s.BendPlanOut, **FAULTS}, operation_id="bend_plan")
def get_bend_plan(request: HttpRequest, design_id: str, key: str):
    """The steps that bend a folded part on the chosen brake, found by trying or as said by hand."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    built = head.built
    part = built.flats.get(key)
    if part is None or part.flat.fold is None:
        raise NotFound("There is no such folded part.")
    brake = built.document.brakes.get(built.document.brake)
    steps = bend_plan(built.document, part)
    return {
        "brake": brake.name if brake else "",
        "by_hand": bool(part.record.folding and part.record.folding.sequence),
        "steps": steps or [],
        "finding": steps is None and bool(head.ordering),
    }


@router.get("/{design_id}/ordering", response={200: s.OrderingOut, **FAULTS}, operation_id="ordering")
def get_ordering(request: HttpRequest, design_id: str):
    """Whether orders of bending are still being found; the problems of the head once all are."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    problems = [] if head.ordering else [problem_data(p) for p in head.problems]
    return {"revision": design.revision, "ordering": head.ordering, "problems": problems, "tag": head.tag}


@router.post("/{design_id}/operations", response={200: s.OperationOut, **FAULTS}, operation_id="operation", throttle=[Rate("tries")])
def post_operation(request: HttpRequest, design_id: str, body: AnyOperation):
    """Works an operation out as one patch; nothing is stored."""
    label, patch = body.work(service.head(service.find(request.user, design_id)).built)
    return {"label": label, "patch": patch}


@router.post("/{design_id}/bores/along", response={200: s.AxisOut, **FAULTS}, operation_id="parts_along")
def post_along(request: HttpRequest, design_id: str, body: s.AxisIn):
    """Which parts an axis passes through."""
    document = service.head(service.find(request.user, design_id)).document
    return {"parts": parts_along(document, **body.model_dump())}


@router.post("/{design_id}/measure", response={200: s.MeasureOut, **FAULTS}, operation_id="measure")
def post_measure(request: HttpRequest, design_id: str, body: s.MeasureIn):
    """What one place has to tell, or what lies between two."""
    built = service.head(service.find(request.user, design_id)).built
    places = [Place(**p.dict()) for p in (body.a, body.b) if p is not None]
    try:
        told = about(built, places[0])
        found = measure(built, places[0], places[1]) if len(places) > 1 else None
    except Lost as lost:
        raise Refused(f"{str(lost)[:1].upper()}{str(lost)[1:]}.", code="lost_place", entry="place", rule="a place that is there") from None
    between = (
        {"along": found.along, "straight": found.straight, "gap": found.gap, "angle": found.angle, "points": found.points}
        if found
        else {"along": None, "straight": None, "gap": None, "angle": None, "points": []}
    )
    return {"about": told, **between}


@router.post("/{design_id}/outline", response={200: s.OutlineOut, **FAULTS}, operation_id="read_outline", throttle=[Rate("files")])
def post_outline(
    request: HttpRequest, design_id: str, file: UploadedFile = File(...), layers: list[str] = Form([]), arcs: bool = Form(True)
):
    """A DXF or SVG read as outlines of boards, of the layers that are named (all that are cut where none are); nothing is stored."""
    service.find(request.user, design_id)
    return read_sent(file, partial(drawn_outline, layers=layers or None, arcs=arcs))


@router.post("/{design_id}/bought-solid", response={200: dict[str, Any], **FAULTS}, operation_id="read_solid", throttle=[Rate("files")])
def post_bought_solid(request: HttpRequest, design_id: str, file: UploadedFile = File(...)):
    """A STEP file, or a mesh, read as the shape of what is bought, with its holes and faces; nothing is stored."""
    service.find(request.user, design_id)
    kind = Path(file.name or "").suffix.lower()
    return read_sent(file, mesh_record) if kind in MESHES else read_sent(file, solid_record, ".step")


@router.post("/{design_id}/bend-rows", response={200: s.BendRowsOut, **FAULTS}, operation_id="read_bend_rows", throttle=[Rate("files")])
def post_bend_rows(request: HttpRequest, design_id: str, file: UploadedFile = File(...)):
    """A CSV read as the bend table of a stock, its lengths in the design's unit where no heading says another; nothing is stored."""
    unit = service.find(request.user, design_id).document["unit"]
    return {"rows": [r.model_dump(exclude_none=True) for r in read_sent(file, partial(read_bend_table, unit=unit))]}


@router.post("/{design_id}/weigh", response={200: About, **FAULTS}, operation_id="weigh")
def post_weigh(request: HttpRequest, design_id: str, body: s.WeighIn):
    """Mass and centre of gravity of parts together."""
    built = service.head(service.find(request.user, design_id)).built
    try:
        return weigh(built, body.parts[: len(built.parts)])
    except Lost as lost:
        raise Refused(f"{str(lost)[:1].upper()}{str(lost)[1:]}.", code="lost_place", entry="parts", rule="parts with a solid") from None


__all__ = ["router"]
