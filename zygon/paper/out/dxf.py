"""A paper as DXF in millimetres of the paper: a layer a pen, dimensions as dimension entities that measure the part (their factor is one over the scale)."""

from __future__ import annotations

import io
import math
from collections.abc import Mapping
from typing import Any

import ezdxf
from ezdxf.enums import TextEntityAlignment
from ezdxf.lldxf.const import VALID_DXF_LINEWEIGHTS

from zygon.paper.ink import Arc, Area, Curve, Dimension, Ink, Line, Paper, Picture, Point, Words
from zygon.paper.letters import SLOPE
from zygon.paper.marks import ARROW
from zygon.paper.pens import PENS
from zygon.tolerance import EPS

__all__ = ["write_dxf"]

ALIGNED = {"start": TextEntityAlignment.LEFT, "middle": TextEntityAlignment.CENTER, "end": TextEntityAlignment.RIGHT}
#: How wide narrow letters are in the reader's own font.
NARROW = 0.75
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
        weight = min(VALID_DXF_LINEWEIGHTS, key=lambda w: abs(w - style.width * paper.wide * 100))
        doc.layers.add(pen.upper(), linetype=style.linetype if style.linetype in doc.linetypes else "CONTINUOUS", lineweight=weight)
    for name in (TEXT, DIMENSIONS, FILLED):
        doc.layers.add(name)
    space = doc.modelspace()
    dimensions = {id(d): d for d in paper.dimensions}
    lettering = {"oblique": SLOPE if paper.sloped else 0.0, "width": NARROW if paper.face else 1.0}
    for ink in [*paper.ink, *(i for group in (*paper.views.values(), *paper.movable.values()) for i in group)]:
        _entity(space, ink, lettering)
    for d in dimensions.values():
        _dimension(space, d, lettering)
    stream = io.StringIO()
    doc.write(stream)
    return stream.getvalue()


def _entity(space: Any, ink: Ink, lettering: Mapping[str, float]) -> None:
    match ink:
        case Line():
            space.add_line(ink.p, ink.q, dxfattribs={"layer": ink.pen.upper()})
        case Arc():
            layer = {"layer": ink.pen.upper()}
            if ink.full:
                space.add_circle(ink.centre, ink.radius, dxfattribs=layer)
            else:
                low, high = sorted((ink.start, ink.start + ink.sweep))
                space.add_arc(ink.centre, ink.radius, math.degrees(low), math.degrees(high), dxfattribs=layer)
        case Curve():
            space.add_lwpolyline(ink.points, dxfattribs={"layer": ink.pen.upper()})
        case Area() if ink.fill == "ink":
            hatch = space.add_hatch(dxfattribs={"layer": FILLED})
            hatch.paths.add_polyline_path(ink.points, is_closed=True)
        case Area():
            pass  # what it clears is drawn before it, and lines in a ring do no harm
        case Words():
            attribs: dict[str, str | float] = {"layer": TEXT, **lettering}
            text = space.add_text(ink.text, height=ink.height, rotation=math.degrees(ink.turned), dxfattribs=attribs)
            text.set_placement(ink.at, align=ALIGNED[ink.anchor])
        case Picture():  # DXF has pictures only as files beside it: their frame holds the place
            x0, y0, x1, y1 = ink.box
            space.add_lwpolyline([(x0, y0), (x1, y0), (x1, y1), (x0, y1)], close=True, dxfattribs={"layer": "THIN"})


def _dimension(space: Any, d: Dimension, lettering: Mapping[str, float]) -> None:
    words = d.words[0] if d.words else None
    round_ = (d.kind == "diameter" and math.dist(d.p, d.q) > EPS) or (d.kind in ("radius", "angle") and d.middle is not None)
    if words is None or not (d.kind in ("linear", "ordinate") or round_):
        for ink in d.ink:
            _entity(space, ink, lettering)
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
    x0, y0, x1, y1 = words.box
    middle = (x0 + x1) / 2, (y0 + y1) / 2
    if round_:
        made = _round(space, d, middle, override, attribs)
        made.user_location_override(middle)
    elif d.kind == "linear":
        made = space.add_linear_dim(
            base=d.base,
            p1=d.p,
            p2=d.q,
            angle=math.degrees(d.turned),
            text=d.text,
            location=middle,
            override=override,
            dxfattribs=attribs,
        )
    else:
        add = space.add_ordinate_x_dim if abs(d.turned) < math.pi / 4 else space.add_ordinate_y_dim
        offset = (d.base[0] - d.q[0], d.base[1] - d.q[1])
        made = add(feature_location=d.q, offset=offset, origin=d.p, text=d.text, override=override, dxfattribs=attribs)
    made.render()


def _round(space: Any, d: Dimension, words: Point, override: dict[str, float], attribs: dict[str, str]) -> Any:
    """A diameter, a radius or an angle as an entity, its figure where it stands on the paper."""
    if d.kind == "angle":
        assert d.middle is not None
        # counter-clockwise from the first leg to the second is what the entity measures
        turn = math.atan2(d.q[1] - d.middle[1], d.q[0] - d.middle[0]) - math.atan2(d.p[1] - d.middle[1], d.p[0] - d.middle[0])
        legs = (d.p, d.q) if turn % (2 * math.pi) <= math.pi else (d.q, d.p)
        # its text has no factor by which lengths are turned into those of the part
        return space.add_angular_dim_3p(
            base=d.base,
            center=d.middle,
            p1=legs[0],
            p2=legs[1],
            text=d.text,
            override={**override, "dimadec": 2},
            dxfattribs=attribs,
        )
    if d.kind == "radius":
        assert d.middle is not None
        return space.add_radius_dim(center=d.middle, mpoint=d.q, text=d.text, override=override, dxfattribs=attribs)
    # the circle's diameter on the way to its words
    x, y, r = (d.p[0] + d.q[0]) / 2, (d.p[1] + d.q[1]) / 2, math.dist(d.p, d.q) / 2
    away = math.dist((x, y), words) or 1.0
    way = (words[0] - x) / away, (words[1] - y) / away
    near = x + way[0] * r, y + way[1] * r
    return space.add_diameter_dim(center=(x, y), mpoint=near, text=d.text, override=override, dxfattribs=attribs)
