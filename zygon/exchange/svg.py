"""Writing SVG in millimetres with true arcs; the page's y runs down, so that every y is turned round here."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape, quoteattr

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour
from zygon.stock.cutter import Layers, layer_of

__all__ = ["path_data", "write_svg"]

EDGE = 5.0
LINE = 5.0


#: Kinds of line, in mm (ISO 128: dashed and long-dashed dotted lines).
DASHES = {"continuous": "", "dashed": ' stroke-dasharray="3 1.5"', "chain": ' stroke-dasharray="6 1.5 0.5 1.5"'}


def _n(value: float) -> str:
    text = f"{value:.6f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def path_data(contour: Contour, dx: float = 0.0, top: float = 0.0) -> str:
    """An SVG path; x grows by ``dx`` and y becomes ``top`` - y."""
    points = [(x + dx, top - y) for x, y in contour.points]
    parts = [f"M{_n(points[0][0])} {_n(points[0][1])}"]
    if len(points) == 1:  # a drilled point: a line of no length, which a round cap draws as a dot
        return parts[0] + "h0"
    for i, s in enumerate(contour.segments()):
        x, y = points[(i + 1) % len(points)]
        if s.bulge:
            _, _, r, _, sweep = arc_from_bulge(s.p, s.q, s.bulge)
            parts.append(f"A{_n(r)} {_n(r)} 0 {int(abs(sweep) > math.pi)} {int(sweep < 0)} {_n(x)} {_n(y)}")
        elif i < len(points) - 1:
            parts.append(f"L{_n(x)} {_n(y)}")
    return "".join(parts) + ("Z" if contour.closed else "")


def write_svg(contours: list[tuple[str, Contour]], layers: Layers, notes: list[str]) -> str:
    """An SVG of (operation, contour) pairs grouped by operation in cutting order, with notes on a layer of their own."""
    boxes = [c.bounds for _, c in contours] or [(0.0, 0.0, 0.0, 0.0)]
    x0, y0 = min(b[0] for b in boxes), min(b[1] for b in boxes)
    x1, y1 = max(b[2] for b in boxes), max(b[3] for b in boxes)
    width, height = x1 - x0 + 2 * EDGE, y1 - y0 + 2 * EDGE + LINE * len(notes)
    dx, top = EDGE - x0, y1 + EDGE
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_n(width)}mm" height="{_n(height)}mm" viewBox="0 0 {_n(width)} {_n(height)}">',
        f"<title>{escape(' · '.join(notes))}</title>",
    ]
    depths = list(dict.fromkeys(o for o, _ in contours if o.startswith("depth")))
    for name in ("frame", "bend-up", "bend-down", "drill", "mark", *depths, "inside", "outside"):
        group = [c for op, c in contours if op == name]
        if not group:
            continue
        layer = layer_of(layers, name)
        kind = "note" if name == "frame" else name
        out.append(
            f'<g id={quoteattr(layer.name)} class="{kind}" fill="none" stroke="{layer.colour}" stroke-width="{_n(max(layer.line_width, 0.1))}"{DASHES[layer.line]}>'
        )
        out += [_shape(c, dx, top) for c in group]
        out.append("</g>")
    out.append(f'<g class="note" fill="{layers.note.colour}" font-family="sans-serif" font-size="3.5">')
    for i, line in enumerate(notes):
        out.append(f'<text x="{_n(EDGE)}" y="{_n(top - y0 + EDGE + LINE * i)}">{escape(line)}</text>')
    return "\n".join([*out, "</g>", "</svg>", ""])


def _shape(contour: Contour, dx: float, top: float) -> str:
    round_ = contour.as_circle
    if round_:
        return f'<circle cx="{_n(round_[0] + dx)}" cy="{_n(top - round_[1])}" r="{_n(round_[2])}"/>'
    return f'<path d="{path_data(contour, dx, top)}"/>'
