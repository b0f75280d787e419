"""An outline taken over from a drawing: the largest region of a DXF or SVG as a board's outline record."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from zygon.exchange.read import read_regions
from zygon.geometry.contour import Contour

__all__ = ["drawn_outline"]


def drawn_outline(path: Path, name: str = "") -> dict[str, Any]:
    """The record of a drawn outline, with its width and height in mm; its low corner lies at 0, 0. Raises ImportFileError."""
    region = read_regions(path, name)[0]
    x0, y0, x1, y1 = region.outer.bounds

    def vertices(contour: Contour) -> list[list[float]]:
        moved = contour.moved(-x0, -y0)
        return [[round(x, 6), round(y, 6), round(b, 9)] for (x, y), b in zip(moved.points, moved.bulges, strict=True)]

    outline = {"kind": "drawn", "source": name or path.name, "outer": vertices(region.outer), "inner": [vertices(c) for c in region.inner]}
    return {"outline": outline, "width": round(x1 - x0, 6), "height": round(y1 - y0, 6)}
