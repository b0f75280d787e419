"""Writing DXF: millimetres in the header, layers by operation in cutting order, circles and arcs as such."""

from __future__ import annotations

import io

import ezdxf
from ezdxf.colors import aci2rgb
from ezdxf.lldxf.const import VALID_DXF_LINEWEIGHTS

from zygon.geometry.contour import Contour
from zygon.stock.cutter import Layer, Layers, layer_of

__all__ = ["write_dxf"]


def write_dxf(contours: list[tuple[str, Contour]], layers: Layers, notes: list[str], note_at: tuple[float, float] = (0.0, -8.0)) -> str:
    """A DXF (AC1018) of (operation, contour) pairs in their order; operations are 'mark', 'depth-FACE-MM', 'inside', 'outside', 'drill', 'frame'.

    ``notes`` stand as text on the note layer, below ``note_at`` (mm).
    """
    doc = ezdxf.new("R2004")
    doc.header["$INSUNITS"] = 4  # millimetres
    doc.header["$MEASUREMENT"] = 1
    for name in dict.fromkeys(
        ["mark", *(o for o, _ in contours if o.startswith("depth")), "inside", "outside", "frame", *(o for o, _ in contours)]
    ):
        _layer(doc, layer_of(layers, name))
    space = doc.modelspace()
    for operation, contour in contours:
        _entity(space, contour, layer_of(layers, operation).name)
    for i, line in enumerate(notes):
        text = space.add_text(line, height=4, dxfattribs={"layer": layers.note.name})
        text.set_placement((note_at[0], note_at[1] - 6 * i))
    stream = io.StringIO()
    doc.write(stream)
    return stream.getvalue()


def _layer(doc, layer: Layer) -> None:
    made = doc.layers.get(layer.name) if layer.name in doc.layers else doc.layers.add(layer.name)
    rgb = tuple(int(layer.colour[i : i + 2], 16) for i in (1, 3, 5))
    made.rgb = rgb
    # readers without true colour take the nearest of the indexed ones
    made.color = min(range(1, 256), key=lambda i: sum((a - b) ** 2 for a, b in zip(aci2rgb(i), rgb, strict=True)))
    if layer.line != "continuous":
        made.dxf.linetype = {"dashed": "DASHED", "chain": "DASHDOT"}[layer.line]
    made.dxf.lineweight = min(VALID_DXF_LINEWEIGHTS, key=lambda w: abs(w - layer.line_width * 100))


def _entity(space, contour: Contour, layer: str) -> None:
    attribs = {"layer": layer}
    round_ = contour.as_circle
    if round_:
        space.add_circle(round_[:2], round_[2], dxfattribs=attribs)
    elif len(contour.points) == 1:
        space.add_point(contour.points[0], dxfattribs=attribs)
    elif not contour.closed and len(contour.points) == 2 and not contour.bulges[0]:
        space.add_line(contour.points[0], contour.points[1], dxfattribs=attribs)
    else:
        bulges = (*contour.bulges, 0.0) if not contour.closed else contour.bulges
        points = [(x, y, b) for (x, y), b in zip(contour.points, bulges, strict=True)]
        space.add_lwpolyline(points, format="xyb", close=contour.closed, dxfattribs=attribs)
