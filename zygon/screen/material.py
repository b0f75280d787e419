"""What a router's program leaves of a sheet, as screens are told of it."""

from __future__ import annotations

from collections.abc import Iterable

import shapely

from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.exchange.cutlist import cut_list
from zygon.making.result.built import Built
from zygon.nest.design import StockNest
from zygon.program.engaged import engaged
from zygon.program.material import material_of
from zygon.program.of_design import program_of
from zygon.screen.shown.programs import ShownMaterial
from zygon.toolpath.chosen import words
from zygon.toolpath.routed import RoutedPaths

__all__ = ["engaged_data", "material_data"]

#: Outlines are told by chords that stray so far (mm).
FINE = 0.03


def material_data(built: Built, nest: StockNest, number: int, problems: Iterable[Problem] = (), under: bool = False) -> ShownMaterial:
    """What is left of a sheet by its program. Raises as ``program_of``, and NestError for a beam's, which leaves no depths."""
    document = built.document
    made = program_of(document, nest, number, problems, under=under)
    if not isinstance(made.paths, RoutedPaths):
        name = document.cutters[document.cutter].name
        raise NestError(
            f"{name} cuts straight through: nothing is left in depth", entry="cutter", value=name, rule="a router", code="no_depth"
        )
    found = material_of(document, nest, number, made)
    codes = {k: row.code for row in cut_list(built) for k in row.keys}
    return {
        "thickness": found.thickness,
        "volume": round(found.volume, 1),
        "slabs": [{"top": round(s.top, 3), "bottom": round(s.bottom, 3), "areas": _areas(s.left)} for s in found.slabs],
        "differences": [
            {
                "kind": d.kind,
                "key": d.key,
                "copy": d.copy,
                "part": words(built.parts[d.key].path if d.key in built.parts else d.key),
                "code": codes.get(d.key, ""),
                "where": d.where,
                "mm": round(d.mm, 3),
                "area": round(d.area, 3),
                "x": round(d.at[0], 2),
                "y": round(d.at[1], 2),
                "shape": _areas(d.shape),
            }
            for d in found.differences[:MOST]
        ],
    }


def engaged_data(document: Document, nest: StockNest, number: int, under: bool = False) -> list[float]:
    """How wide the bit is engaged in each move of a sheet's program, to a tenth of a millimetre; none of a beam's. Raises as ``program_of``."""
    made = program_of(document, nest, number, under=under)
    return [round(w, 1) for w in engaged(made.program.moves, made.paths)] if isinstance(made.paths, RoutedPaths) else []


#: Places that are told of.
MOST = 200


def _areas(shape: shapely.Geometry) -> list[list[list[float]]]:
    simple = shapely.simplify(shape, FINE)
    return [
        [[round(float(v), 2) for xy in shapely.get_coordinates(ring)[:-1] for v in xy] for ring in (p.exterior, *p.interiors)]
        for p in shapely.get_parts(simple)
        if p.geom_type == "Polygon" and not p.is_empty
    ]
