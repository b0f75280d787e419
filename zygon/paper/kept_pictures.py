"""Pictures on papers, kept with the design by their digest: how they are fitted into a box, and the logo in the title block."""

from __future__ import annotations

import io
import warnings
from collections.abc import Mapping, Sequence
from dataclasses import replace

from PIL import Image

from zygon.design.papers import Papers
from zygon.limits import MAX_PICTURE
from zygon.paper.block import logo_cell
from zygon.paper.ink import Box, Paper, Picture

__all__ = ["Pictures", "fitted", "readable", "with_pictures"]

#: Files, PNG or JPEG, by digest.
Pictures = Mapping[str, bytes]


def fitted(room: Box, pictures: Pictures, digest: str) -> Box:
    """The largest box of the picture's own proportions in the middle of a room."""
    with Image.open(io.BytesIO(pictures[digest]), formats=("PNG", "JPEG")) as found:
        wide, high = found.size
    x0, y0, x1, y1 = room
    scale = min((x1 - x0) / wide, (y1 - y0) / high)
    w, h = wide * scale, high * scale
    return (x0 + x1 - w) / 2, (y0 + y1 - h) / 2, (x0 + x1 + w) / 2, (y0 + y1 + h) / 2


def readable(pictures: Pictures) -> dict[str, bytes]:
    """Those that can be drawn: a design's file may bring any bytes, or a picture that would fill the memory."""
    found = {}
    for digest, data in pictures.items():
        try:
            with warnings.catch_warnings(action="ignore"), Image.open(io.BytesIO(data), formats=("PNG", "JPEG")) as picture:
                if max(picture.size) <= MAX_PICTURE:
                    picture.load()
                    found[digest] = data
        except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
            continue
    return found


def with_pictures(papers: Sequence[Paper], said: Papers, pictures: Pictures) -> list[Paper]:
    """Pages with the workshop's logo, their line widths and letters, and the files of what stands on them."""
    found = []
    for paper in papers:
        ink, faults = [*paper.ink], [*paper.faults]
        if said.logo in pictures:
            ink.append(Picture(said.logo, fitted(logo_cell((paper.drawing_area[2], paper.drawing_area[1])), pictures, said.logo)))
        elif said.logo and paper.page == 1:
            faults.append("The workshop's logo is not kept with this design, or is no picture that can be drawn: choose it again")
        used = {i.digest: pictures[i.digest] for i in ink if isinstance(i, Picture)}
        wide = float(said.lines) / 0.5
        found.append(replace(paper, ink=tuple(ink), faults=tuple(faults), pictures=used, wide=wide, sloped=said.sloped, face=said.face))
    return found
