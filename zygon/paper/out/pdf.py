"""Papers as PDF: vectors, text as text in embedded fonts, true to scale (1 pt is 1/72 in)."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Any

from reportlab.lib.colors import black, white
from reportlab.lib.utils import ImageReader
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from zygon.design.papers import LetterFace
from zygon.measure.units import INCH
from zygon.paper.ink import Arc, Area, Curve, Ink, Line, Paper, Picture, Words
from zygon.paper.letters import SLOPE, em_of, font_bytes
from zygon.paper.pens import PENS, Pen

__all__ = ["write_pdf"]

#: Points to the millimetre.
PT = 72 / INCH
FACES: tuple[LetterFace, ...] = ("", "narrow")


def _font_name(bold: bool, face: LetterFace) -> str:
    return f"ZygonPaper{face.title()}{'Bold' if bold else ''}"


@lru_cache(maxsize=1)
def _register() -> None:
    for bold in (False, True):
        for face in FACES:
            pdfmetrics.registerFont(TTFont(_font_name(bold, face), io.BytesIO(font_bytes(bold, face))))


def write_pdf(papers: Sequence[Paper], title: str) -> bytes:
    """All pages in one file. It says nothing of when it was made, so that the same papers give the same bytes."""
    _register()
    out = io.BytesIO()
    canvas = Canvas(out, invariant=1, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Zygon")
    for paper in papers:
        canvas.setPageSize((paper.size[0] * PT, paper.size[1] * PT))
        canvas.bookmarkPage(f"{paper.subject}/{paper.page}")
        if paper.page == 1:
            canvas.addOutlineEntry(paper.title, f"{paper.subject}/{paper.page}", 0)
        canvas.scale(PT, PT)
        for ink in paper.all_ink:
            _draw(canvas, ink, paper)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw(canvas: Canvas, ink: Ink, paper: Paper) -> None:
    if isinstance(ink, Picture):
        x0, y0, x1, y1 = ink.box
        canvas.drawImage(ImageReader(io.BytesIO(paper.pictures[ink.digest])), x0, y0, x1 - x0, y1 - y0)
        return
    if isinstance(ink, Words):
        canvas.saveState()
        canvas.translate(*ink.at)
        canvas.rotate(math.degrees(ink.turned))
        if paper.sloped:
            canvas.skew(0, SLOPE)
        canvas.setFont(_font_name(ink.bold, paper.face), em_of(ink.height, bold=ink.bold))
        canvas.setFillColor(black)
        {"start": canvas.drawString, "middle": canvas.drawCentredString, "end": canvas.drawRightString}[ink.anchor](0, 0, ink.text)
        canvas.restoreState()
        return
    path: Any = canvas.beginPath()
    if isinstance(ink, Area):
        canvas.setFillColor(black if ink.fill == "ink" else white)
        path.moveTo(*ink.points[0])
        for p in ink.points[1:]:
            path.lineTo(*p)
        path.close()
        canvas.drawPath(path, stroke=0, fill=1)
        return
    _pen(canvas, ink.pen, paper.wide)
    match ink:
        case Line():
            path.moveTo(*ink.p)
            path.lineTo(*ink.q)
        case Curve():
            path.moveTo(*ink.points[0])
            for p in ink.points[1:]:
                path.lineTo(*p)
        case Arc():
            _arc(path, ink)
    canvas.drawPath(path, stroke=1, fill=0)


def _pen(canvas: Canvas, pen: Pen, wide: float) -> None:
    style = PENS[pen]
    canvas.setStrokeColor(black)
    canvas.setLineWidth(style.width * wide)
    canvas.setLineCap(0 if style.dashes else 1)
    canvas.setLineJoin(1)
    canvas.setDash(list(style.dashes))


def _arc(path: Any, arc: Arc) -> None:
    """By cubic curves of at most an eighth of a turn: off the circle by less than four millionths of its radius."""
    n = max(1, math.ceil(abs(arc.sweep) / (math.pi / 4)))
    step = arc.sweep / n
    reach = 4 / 3 * math.tan(step / 4) * arc.radius
    for k in range(n):
        a, b = arc.start + k * step, arc.start + (k + 1) * step
        p, q = arc.at(k / n), arc.at((k + 1) / n)
        if k == 0:
            path.moveTo(*p)
        c, d = (p[0] - reach * math.sin(a), p[1] + reach * math.cos(a)), (q[0] + reach * math.sin(b), q[1] - reach * math.cos(b))
        path.curveTo(*c, *d, *q)
