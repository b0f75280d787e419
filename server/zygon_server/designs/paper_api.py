"""Papers of a design: its sheets, a sheet's pages, and the set as files."""

from __future__ import annotations

import io
import zipfile
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from zygon.exchange.named import safe
from zygon.paper.out.files import PaperFile, paper_files
from zygon.screen.papers import paper_data, paper_set_data
from zygon.screen.shown.papers import ShownPaper, ShownPaperSet
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import issued, papers, service, templates
from zygon_server.designs.export_api import download
from zygon_server.nesting.layouts import standing
from zygon_server.quotas import Rate

router = Router(tags=["papers"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


@router.get("/{design_id}/papers", response={200: ShownPaperSet, **FAULTS}, operation_id="paper_set")
def get_set(request: HttpRequest, design_id: str):
    """The sheets of the set, in order."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    return paper_set_data(head.built, standing(design, head))


class IssueIn(Schema):
    """Under which revision the set is issued."""

    revision: str = Field(min_length=1, max_length=10)


class IssuedOut(Schema):
    """A set that was issued; ``stands`` where the design has not changed since."""

    revision: str
    sheets: int
    by: str
    at: str
    stands: bool


@router.get("/{design_id}/papers/issued", response={200: list[IssuedOut], **FAULTS}, operation_id="issued_papers")
def get_issued(request: HttpRequest, design_id: str):
    """The sets that were issued, the newest first."""
    return issued.told(service.find(request.user, design_id))


@router.post(
    "/{design_id}/papers/issued", response={200: list[IssuedOut], **FAULTS}, operation_id="issue_papers", throttle=[Rate("exports")]
)
def post_issued(request: HttpRequest, design_id: str, body: IssueIn):
    """Issues the set under a revision: it is drawn with it and today's date, and kept as PDF."""
    design = service.find(request.user, design_id)
    issued.issue(request.user, design, body.revision)
    return issued.told(design)


@router.get("/{design_id}/files/papers/issued/{revision}", operation_id="issued_file", throttle=[Rate("exports")])
def get_issued_file(request: HttpRequest, design_id: str, revision: str):
    """An issued set as it was issued."""
    design = service.find(request.user, design_id)
    found = issued.find_issued(design, revision)
    return download(f"{safe(design.name)}_papers_{safe(revision)}.pdf", bytes(found.data))


class TemplateOut(Schema):
    """A template of papers: its key and name, and whether every new design begins with it."""

    key: str
    name: str
    always: bool


class TemplateIn(Schema):
    """Under which name the papers of a design are kept as a template."""

    name: str = Field(min_length=1, max_length=60)
    always: bool = False


class TakenOut(Schema):
    """What a template changes of a design, as one edit."""

    label: str
    patch: list[dict[str, Any]]


@router.get("/{design_id}/papers/templates", response={200: list[TemplateOut], **FAULTS}, operation_id="paper_templates")
def get_templates(request: HttpRequest, design_id: str):
    """The workshop's templates."""
    service.find(request.user, design_id)
    return templates.told(request.user)


@router.post("/{design_id}/papers/templates", response={200: list[TemplateOut], **FAULTS}, operation_id="keep_paper_template")
def post_template(request: HttpRequest, design_id: str, body: TemplateIn):
    """Keeps how the design's papers look as a template of the workshop, its logo with it; one of the same name is replaced."""
    templates.keep(request.user, service.find(request.user, design_id), body.name, always=body.always)
    return templates.told(request.user)


@router.delete("/{design_id}/papers/templates/{key}", response={200: list[TemplateOut], **FAULTS}, operation_id="remove_paper_template")
def delete_template(request: HttpRequest, design_id: str, key: str):
    """Removes a template; designs keep what they took."""
    service.find(request.user, design_id)
    templates.remove(request.user, key)
    return templates.told(request.user)


@router.post("/{design_id}/papers/templates/{key}", response={200: TakenOut, **FAULTS}, operation_id="take_paper_template")
def post_take_template(request: HttpRequest, design_id: str, key: str):
    """Keeps the template's logo with the design, and works out the edit that lets its papers look so; that is not stored here."""
    label, patch = templates.take(request.user, service.find(request.user, design_id), key)
    return {"label": label, "patch": patch}


@router.get("/{design_id}/papers/{subject}", response={200: list[ShownPaper], **FAULTS}, operation_id="paper")
def get_paper(request: HttpRequest, design_id: str, subject: str):
    """The pages of a sheet."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    return [paper_data(p, head.built) for p in papers.papers_of(design, head, standing(design, head), subject)]


@router.get("/{design_id}/files/papers", operation_id="paper_files", throttle=[Rate("exports")])
def get_files(request: HttpRequest, design_id: str, to: PaperFile = "pdf", sheet: str = ""):
    """The set, or one sheet, as one PDF, or a ZIP with a DXF, SVG or PNG a page."""
    design = service.find(request.user, design_id)
    head = service.head(design)
    nests = standing(design, head)
    found = papers.papers_of(design, head, nests, sheet) if sheet else papers.every_paper(design, head, nests)
    title = head.document.name
    files = paper_files(found, f"{title} {found[0].title}" if sheet else title, to)
    if len(files) == 1:
        return download(*next(iter(files.items())))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    return download(f"{safe(title)}_papers-{to}.zip", out.getvalue())
