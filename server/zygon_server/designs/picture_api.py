"""Pictures behind drawings: read from files, and shown."""

from __future__ import annotations

from functools import partial

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema
from ninja.files import UploadedFile

from zygon.exchange.picture_in import read_picture
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import pictures, service
from zygon_server.errors import NotFound
from zygon_server.quotas import Rate
from zygon_server.sent import read_sent

router = Router(tags=["drawings"])
FAULTS = {401: Fault, 404: Fault, 422: Fault, 429: Fault}


class PictureOut(Schema):
    """A picture as it is kept; ``scale`` is mm a pixel where its file says so."""

    picture: str
    name: str
    wide: int
    high: int
    scale: float | None
    pages: int


@router.post("/{design_id}/pictures", response={200: PictureOut, **FAULTS}, operation_id="keep_picture", throttle=[Rate("files")])
def post_picture(request: HttpRequest, design_id: str, file: UploadedFile = File(...), page: int = Form(1)):
    """A PNG, a JPEG or a page of a PDF, kept with the design, to be laid behind a drawing."""
    design = service.find(request.user, design_id)
    found = read_sent(file, partial(read_picture, page=page))
    pictures.keep(design, found)
    return {"name": (file.name or "")[-120:], **{f: getattr(found, f) for f in ("picture", "wide", "high", "scale", "pages")}}


@router.get("/{design_id}/pictures/{digest}", operation_id="picture")
def get_picture(request: HttpRequest, design_id: str, digest: str) -> HttpResponse:
    """A picture that is kept with the design."""
    found = service.find(request.user, design_id).pictures.filter(digest=digest).first()
    if found is None:
        raise NotFound("This picture is not kept with the design.")
    response = HttpResponse(bytes(found.data), content_type=found.media)
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    response.headers["X-Content-Type-Options"] = "nosniff"
    return response
