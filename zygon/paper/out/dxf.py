"""A paper as DXF in millimetres of the paper: a layer a pen, dimensions as dimension entities that measure the part (their factor is one over the scale)."""

from __future__ import annotations

import io
import math
from typing import Any

import ezdxf
from ezdxf.enums import TextEntityAlignment
from ezdxf.lldxf.const import VALID_DXF_LINEWEIGHTS

from zygon.paper.ink import Arc, Area, Curve, Dimension, Ink, Line, Paper, Words
from zygon.paper.marks import ARROW
from zygon.paper.pens import PENS

__all__ = ["write_dxf"]

ALIGNED = {"start": TextEntityAlignment.LEFT, "middle": TextEntityAlignment.CENTER, "end": TextEntityAlignment.RIGHT}
#: Layers beside those of the pens.
TEXT, DIMENSIONS, FILLED = "TEXT", "DIMENSIONS", "FILLED"


def write_dxf(paper: Paper) -> str:
    """The paper (AC1018)."""
    doc = ezdxf.new("R2004", setup=["linetypes"])
    doc.header["$INSUNITS"] = 4  # millimetres
    doc.header["$MEASUREMENT"] = 1
    # dashes and points of the drawing's own linetypes are mm of the paper
    doc.header["$LTSCALE"] = 0.5
    for pen, style in PENS.items():
        weight = min(VALID_DXF_LINEWEIGHTS, key=lambda w: abs(w - style.width * 100))
        doc.layers.add(pen.upper(), linetype=style.linetype if style.linetype in doc.linetypes else "CONTINUOUS", lineweight=weight)
    for name in (TEXT, DIMENSIONS, FILLED):
        doc.layers.add(name)
    space = doc.modelspace()
    dimensions = {id(d): d for d in paper.dimensions}
    for ink in [*paper.ink, *(i for own in paper.movable.values() for i in own)]:
        _entity(space, ink)
    for d in dimensions.values():
        _dimension(space, d)
    stream = io.StringIO()
    doc.write(stream)
    return stream.getvalue()


def _entity(space: Any, ink: Ink) -> None:
    match ink:
        case Line():
            space.add_line(ink.p, ink.q, dxfattribs={"layer": ink.pen.upper()})
        case Arc():
            attribs = {"layer": ink.pen.upper()}
            if ink.full:
                space.add_circle(ink.centre, ink.radius, dxfattribs=attribs)
            else:
                low, high = sorted((ink.start, ink.start + ink.sweep))
                space.add_arc(ink.centre, ink.radius, math.degrees(low), math.degrees(high), dxfattribs=attribs)
        case Curve():
            space.add_lwpolyline(ink.points, dxfattribs={"layer": ink.pen.upper()})
        case Area() if ink.fill == "ink":
            hatch = space.add_hatch(dxfattribs={"layer": FILLED})
            hatch.paths.add_polyline_path(ink.points, is_closed=True)
        case Area():
            pass  # what it clears is drawn before it, and lines in a ring do no harm
        case Words():
            text = space.add_text(ink.text, height=ink.height, rotation=math.degrees(ink.turned), dxfattribs={"layer": TEXT})
            text.set_placement(ink.at, align=ALIGNED[ink.anchor])


def _dimension(space: Any, d: Dimension) -> None:
    words = d.words[0] if d.words else None
    if d.kind not in ("linear", "ordinate") or words is None:
        for ink in d.ink:
            _entity(space, ink)
        return
    override = {
        "dimlfac": 1 / d.scale,
        "dimtxt": words.height,
        "dimasz": ARROW,
        "dimexo": 1.0,
        "dimexe": 1.5,
        "dimgap": 0.8,
        "dimtad": 1,
        "dimdec": 3,
        "dimzin": 8,
    }
    attribs = {"layer": DIMENSIONS}
    if d.kind == "linear":
        x0, y0, x1, y1 = words.box
        made = space.add_linear_dim(
            base=d.base,
            p1=d.p,
            p2=d.q,
            angle=math.degrees(d.turned),
            text=d.text,
            location=((x0 + x1) / 2, (y0 + y1) / 2),
            override=override,
            dxfattribs=attribs,
        )
    else:
        add = space.add_ordinate_x_dim if abs(d.turned) < math.pi / 4 else space.add_ordinate_y_dim
        offset = (d.base[0] - d.q[0], d.base[1] - d.q[1])
        made = add(feature_location=d.q, offset=offset, origin=d.p, text=d.text, override=override, dxfattribs=attribs)
    made.render()
