"""Sheets of examples laid out, with what a maker may have set on the laser."""

from __future__ import annotations

from functools import cache

import shapely

from zygon.design.document import Document
from zygon.design.examples import example
from zygon.geometry.boolean import Region, region_polygon, to_polygon
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.nest.design import StockNest, lay_out, placed_contours, plans

__all__ = ["SHEETS", "bodies", "laid", "with_laser"]

#: An example's stock and how many sheets of it are looked at.
SHEETS = [("brood-box", "ply12"), ("brood-box", "ply6"), ("electronics-box", "galv20"), ("entrance-disc", "ply6"), ("hive", "ply12")]


@cache
def laid(name: str, stock: str) -> tuple[Document, StockNest]:
    """The first layout found, always the same."""
    built = build(example(name))
    plan = next(p for p in plans(built) if p.stock == stock)
    found = lay_out(built.document, plan, seconds=1, search=False)
    assert found is not None
    return built.document, found


def with_laser(document: Document, **said) -> Document:
    """The same with other entries of its cutter."""
    own = {k: Entry(text=v) if k in ("lead_length", "joint_width") else v for k, v in said.items()}
    cutter = document.cutters[document.cutter].model_copy(update=own)
    return document.model_copy(update={"cutters": {**document.cutters, document.cutter: cutter}})


def bodies(document: Document, nest: StockNest, number: int) -> list[tuple[str, int, shapely.Geometry]]:
    """What is to stay of each piece, nominal, where it lies."""
    found = []
    for p in nest.layout.sheets[number - 1].placements:
        own = placed_contours(document, nest.plan, p, 0.0)
        body = shapely.union_all([region_polygon(Region(o, ()), 0.002) for o in own.outside])
        holes = [to_polygon(c, 0.002) for c in own.inside if c.closed]
        found.append((nest.plan.parts[p.shape], p.copy, shapely.difference(body, shapely.union_all(holes))))
    return found
