"""Outlines taken over from a drawing: the regions of a DXF or SVG as records of boards' outlines, with its layers and what was mended."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Any

from zygon.exchange.read import read_outlines
from zygon.geometry.contour import Contour

__all__ = ["drawn_outline"]

#: Of the outlines of a file so many are told; a shop's sheet has some tens.
MOST = 200


def drawn_outline(path: Path, name: str = "", layers: Sequence[str] | None = None, arcs: bool = True) -> dict[str, Any]:
    """The largest drawn outline's record, with its width and height in mm, and ``shapes``: all of them, the largest first, each with where its low corner lies.

    An outline's own low corner lies at 0, 0. ``layers`` and ``mended`` are told of the file. Raises ImportFileError.
    """
    found = read_outlines(path, name, layers, arcs)
    shapes = []
    for region in found.regions[:MOST]:
        x0, y0, x1, y1 = region.outer.bounds

        def vertices(contour: Contour, x0: float = x0, y0: float = y0) -> list[list[float]]:
            moved = contour.moved(-x0, -y0)
            return [[round(x, 6), round(y, 6), round(b, 9)] for (x, y), b in zip(moved.points, moved.bulges, strict=True)]

        outline = {
            "kind": "drawn",
            "source": name or path.name,
            "outer": vertices(region.outer),
            "inner": [vertices(c) for c in region.inner],
        }
        shapes.append({"outline": outline, "width": round(x1 - x0, 6), "height": round(y1 - y0, 6), "at": [round(x0, 6), round(y0, 6)]})
    first = {k: shapes[0][k] for k in ("outline", "width", "height")}
    told = {"layers": [asdict(layer) for layer in found.layers], "mended": [asdict(m) for m in found.mended]}
    return {**first, "shapes": shapes, "count": len(found.regions), **told}
