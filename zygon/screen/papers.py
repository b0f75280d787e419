"""The papers of a design as screens are told of them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from zygon.making.result.built import Built
from zygon.nest.design import StockNest
from zygon.paper.entries import entry_of
from zygon.paper.ink import Area, Dimension, Ink, Paper, Picture, Words, box_of
from zygon.paper.letters import em_of, width_of
from zygon.paper.out.svg import ink_path
from zygon.paper.pens import PENS
from zygon.paper.subjects import said_of, subjects
from zygon.screen.shown.papers import (
    ShownPaper,
    ShownPaperArea,
    ShownPaperEntry,
    ShownPaperInk,
    ShownPaperPicture,
    ShownPaperSet,
    ShownPaperStroke,
    ShownPaperWords,
)

__all__ = ["paper_data", "paper_set_data"]


def paper_set_data(built: Built, nests: Sequence[StockNest]) -> ShownPaperSet:
    """The sheets of the set, those that are left out too."""
    known = built.document.papers.sheets
    return {
        "sheets": [
            {
                "id": s.id,
                "kind": s.kind,
                "title": s.title,
                "key": s.key,
                "out": said_of(built, s).out,
                "said": s.id in known,
            }
            for s in subjects(built, nests, out=True)
        ],
        "pens": [{"name": name, "width": p.width, "dashes": list(p.dashes)} for name, p in PENS.items()],
    }


def paper_data(paper: Paper, built: Built) -> ShownPaper:
    """A page."""
    top = paper.size[1]
    return {
        "subject": paper.subject,
        "title": paper.title,
        "page": paper.page,
        "scale": paper.scale,
        "width": paper.size[0],
        "height": top,
        "fixed": _group("", paper.ink, paper),
        "views": [_group(f"view/{name}", own, paper) for name, own in paper.views.items()],
        "tables": [
            {"name": name, "columns": [{"key": key, "head": head, "shown": shown} for key, head, shown in own]}
            for name, own in paper.tables.items()
        ],
        "sloped": paper.sloped,
        "face": paper.face,
        "wide": paper.wide,
        "movable": [_group(name, own, paper) for name, own in paper.movable.items()],
        "dimensions": [
            {
                **_group(d.name, d.ink, paper),
                **_entry(built, d),
                "kind": d.kind,
                "value": d.value,
                "text": d.text,
                "of": d.of,
                "said": d.said,
                "view": d.view,
                "box": _box(d.words, top),
            }
            for d in paper.dimensions
        ],
        "anchors": {
            view: [
                {"name": a.name, "x": round(a.at[0], 3), "y": round(top - a.at[1], 3), "along": a.along, "words": a.words, "of": a.of}
                for a in own
            ]
            for view, own in paper.anchors.items()
        },
        "faults": list(paper.faults),
    }


def _entry(built: Built, d: Dimension) -> ShownPaperEntry:
    path, word = entry_of(built, d)
    return {"entry": path, "entry_word": word}


def _box(words: Sequence[Words], top: float) -> list[float]:
    x0, y0, x1, y1 = box_of(words)
    return [round(x0, 3), round(top - y1, 3), round(x1 - x0, 3), round(y1 - y0, 3)]


def _group(name: str, ink: Iterable[Ink], paper: Paper) -> ShownPaperInk:
    """Ink with lines of one pen and owner as one path; in order, as areas of paper clear what lies under them."""
    top = paper.size[1]
    strokes: dict[tuple[str, str], list[str]] = {}
    areas: list[ShownPaperArea] = []
    words: list[ShownPaperWords] = []
    pictures: list[ShownPaperPicture] = []
    for i in ink:
        if isinstance(i, Picture):
            x0, y0, x1, y1 = i.box
            pictures.append({"picture": i.digest, "x": x0, "y": top - y1, "wide": x1 - x0, "high": y1 - y0})
        elif isinstance(i, Words):
            words.append(_words(i, paper))
        elif isinstance(i, Area):
            areas.append({"d": ink_path(i, top), "fill": i.fill, "of": i.of})
        else:
            strokes.setdefault((i.pen, i.of), []).append(ink_path(i, top))
    joined: list[ShownPaperStroke] = [{"d": "".join(d), "pen": pen, "of": of} for (pen, of), d in strokes.items()]
    return {"name": name, "strokes": joined, "areas": areas, "words": words, "pictures": pictures}


def _words(w: Words, paper: Paper) -> ShownPaperWords:
    return {
        "text": w.text,
        "x": round(w.at[0], 3),
        "y": round(paper.size[1] - w.at[1], 3),
        "size": round(em_of(w.height, bold=w.bold), 4),
        "anchor": w.anchor,
        "turned": round(-math.degrees(w.turned), 4) + 0.0,
        "bold": w.bold,
        "long": round(width_of(w.text, w.height, bold=w.bold, face=paper.face), 3),
        "of": w.of,
    }
