"""A paper as SVG in millimetres, with its font in it; y runs down there, so that every y is turned round here."""

from __future__ import annotations

import base64
import math
from functools import lru_cache
from xml.sax.saxutils import escape, quoteattr

from zygon.design.papers import LetterFace
from zygon.paper.ink import Arc, Area, Curve, Ink, Line, Paper, Picture, Words
from zygon.paper.letters import SLOPE, em_of, font_bytes
from zygon.paper.pens import PENS, Pen

__all__ = ["arc_path", "ink_path", "number", "write_svg"]

#: How a PNG file begins.
PNG = b"\x89PNG"


def number(value: float) -> str:
    """A figure to a thousandth, without idle noughts."""
    text = f"{value:.3f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def arc_path(arc: Arc, top: float) -> str:
    """An arc as path data; a circle as two halves."""
    x, y = arc.at(0.0)
    parts = [f"M{number(x)} {number(top - y)}"]
    steps = 2 if abs(arc.sweep) > math.pi else 1
    for k in range(1, steps + 1):
        x, y = arc.at(k / steps)
        parts.append(f"A{number(arc.radius)} {number(arc.radius)} 0 0 {int(arc.sweep < 0)} {number(x)} {number(top - y)}")
    return "".join(parts)


def ink_path(ink: Line | Arc | Curve | Area, top: float) -> str:
    """Ink but words as path data; y becomes ``top`` - y."""
    if isinstance(ink, Arc):
        return arc_path(ink, top)
    points = (ink.p, ink.q) if isinstance(ink, Line) else ink.points
    path = "M" + "L".join(f"{number(x)} {number(top - y)}" for x, y in points)
    return path + "Z" if isinstance(ink, Area) else path


@lru_cache(maxsize=2)
def _fonts(face: LetterFace) -> str:
    rules = []
    for bold in (False, True):
        data = base64.b64encode(font_bytes(bold, face)).decode()
        weight = 700 if bold else 400
        rules.append(f"@font-face{{font-family:Paper;font-weight:{weight};src:url(data:font/ttf;base64,{data})}}")
    return "".join(rules)


def write_svg(paper: Paper) -> str:
    """The paper; each thing on it says in ``data-of`` what it is of."""
    width, height = paper.size
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{number(width)}mm" height="{number(height)}mm" viewBox="0 0 {number(width)} {number(height)}">',
        f"<title>{escape(paper.title)}</title>",
        f"<style>{_fonts(paper.face)}text{{font-family:Paper,sans-serif}}path{{fill:none;stroke:#000;stroke-linecap:round;stroke-linejoin:round}}</style>",
        f'<rect width="{number(width)}" height="{number(height)}" fill="#fff"/>',
    ]
    out += [_element(i, paper) for i in paper.all_ink]
    return "\n".join([*out, "</svg>", ""])


def _element(ink: Ink, paper: Paper) -> str:
    top = paper.size[1]
    of = f" data-of={quoteattr(ink.of)}" if ink.of else ""
    if isinstance(ink, Picture):
        x0, y0, x1, y1 = map(number, (ink.box[0], top - ink.box[3], ink.box[2] - ink.box[0], ink.box[3] - ink.box[1]))
        data = paper.pictures[ink.digest]
        href = f"data:image/{'png' if data[:4] == PNG else 'jpeg'};base64,{base64.b64encode(data).decode()}"
        return f'<image x="{x0}" y="{y0}" width="{x1}" height="{y1}" href="{href}"{of}/>'
    if isinstance(ink, Words):
        x, y = ink.at[0], top - ink.at[1]
        turn = _turn(x, y, ink.turned, sloped=paper.sloped)
        weight = ' font-weight="700"' if ink.bold else ""
        size = number(em_of(ink.height, bold=ink.bold))
        return f'<text x="{number(x)}" y="{number(y)}" font-size="{size}" text-anchor="{ink.anchor}"{weight}{turn}{of}>{escape(ink.text)}</text>'
    if isinstance(ink, Area):
        return f'<path d="{ink_path(ink, top)}" style="stroke:none;fill:{"#000" if ink.fill == "ink" else "#fff"}"{of}/>'
    return f'<path d="{ink_path(ink, top)}" {_pen(ink.pen, paper.wide)}{of}/>'


def _turn(x: float, y: float, turned: float, *, sloped: bool) -> str:
    """What turns words about their place, and lets them lean."""
    turns = [f"rotate({number(-math.degrees(turned))} {number(x)} {number(y)})"] if turned else []
    if sloped:
        turns.append(f"translate({number(x)} {number(y)}) skewX({number(-SLOPE)}) translate({number(-x)} {number(-y)})")
    return f' transform="{" ".join(turns)}"' if turns else ""


def _pen(pen: Pen, wide: float) -> str:
    style = PENS[pen]
    dashes = f' stroke-dasharray="{" ".join(number(d) for d in style.dashes)}" style="stroke-linecap:butt"' if style.dashes else ""
    return f'stroke-width="{number(style.width * wide)}"{dashes}'
