"""Pictures behind drawings: kept with their design, copied and written into its file with it."""

from __future__ import annotations

import base64
from collections.abc import Mapping
from typing import Any

from zygon.design.document import Document
from zygon.exchange.design_in import media_of, pictures_in
from zygon.exchange.picture_in import PictureIn
from zygon_server.designs.models import Design, Picture
from zygon_server.quotas import may_keep

__all__ = ["copy_all", "keep", "keep_all", "written"]


def keep(design: Design, found: PictureIn) -> None:
    """Keeps a picture with a design. Refused where its maker has as much as one may have."""
    may_keep(design.owner)
    Picture.objects.get_or_create(design=design, digest=found.picture, defaults={"media": found.media, "data": found.data})


def keep_all(design: Design, found: Mapping[str, bytes]) -> None:
    """Keeps pictures, by digest, that came in a design's file."""
    Picture.objects.bulk_create([Picture(design=design, digest=k, media=media_of(data), data=data) for k, data in found.items()])


def copy_all(source: Design, to: Design) -> None:
    """The pictures of one design are another's too."""
    Picture.objects.bulk_create([Picture(design=to, digest=p.digest, media=p.media, data=p.data) for p in source.pictures.all()])


def written(design: Design, document: Document) -> dict[str, Any]:
    """What a design's file has beside its document: the pictures that it names, in Base64; nothing where it names none."""
    rows = design.pictures.filter(digest__in=pictures_in(document))
    found = {p.digest: base64.b64encode(bytes(p.data)).decode("ascii") for p in rows}
    return {"pictures": found} if found else {}
