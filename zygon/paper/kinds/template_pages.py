"""Templates of tube ends at 1 : 1."""

from __future__ import annotations

from dataclasses import replace
from typing import cast

from zygon.exchange.tubes import What, template_of
from zygon.making.result.built import Built
from zygon.owner import part_id
from zygon.paper.block import block_height
from zygon.paper.formats import BLOCK, area_of, frame_ink, size_of
from zygon.paper.ink import Paper, Words
from zygon.paper.kinds.common import block_of, paper_of, style_of
from zygon.paper.letters import wrapped
from zygon.paper.pens import Pen
from zygon.paper.sheet import with_blocks
from zygon.paper.subjects import Subject
from zygon.paper.template import tiled

__all__ = ["template_pages"]


def template_pages(built: Built, subject: Subject, sheet: str) -> list[Paper]:
    """The pages of a template; it is true to size on any paper, so that a scale that is said is of no account."""
    part, style, size = built.made[subject.key], style_of(built, subject), paper_of(built, subject)
    made = template_of(built, part, cast(What, subject.id.rpartition(":")[2]))
    area, of = area_of(size), part_id(part.of)
    pens: dict[str, Pen] = {"mark": "centre", "inside": "visible", "outside": "visible"}
    notes = [line for t in made.notes[1:] for line in wrapped(t.replace("_", " "), style.height, BLOCK - 4)]
    found = tiled([(pens[op], c) for op, c in made.drawn], area, len(notes) * style.height * 1.6 + 2.0, style.height, of)
    block = replace(block_of(built, subject, "Template", sheet, subject.row), scale="1 : 1", size=size)
    words = [
        Words(t, (area[2] - BLOCK + 1.2, area[1] + block_height() + 1.6 + n * style.height * 1.6), style.height)
        for n, t in enumerate(reversed(notes))
    ]
    pages = [
        Paper(subject.id, subject.title, size_of(size), (*frame_ink(size), *words, *tile.ink), scale="1 : 1", page=n, drawing_area=area)
        for n, tile in enumerate(found.tiles, 1)
    ]
    return with_blocks(pages, block, area)
