"""How deep a screw has to reach into a material, in its own diameters."""

from __future__ import annotations

from zygon.stock.kinds import StockKind, is_sheet

__all__ = ["engagement", "is_wooden"]

#: In steel and other metals, in aluminium, in plastic (common practice).
METAL, ALUMINIUM, PLASTIC = 1.0, 2.0, 2.0
#: In wood: across the load and along it. Eurocode 5 (from memory).
WOOD_ACROSS, WOOD_ALONG = 4.0, 6.0
#: Words of materials that are no wood, of which a bar may be.
_METALS = ("steel", "brass", "copper", "bronze", "iron", "zinc", "titanium", "stainless", "metal")
_PLASTICS = ("plastic", "acrylic", "nylon", "pom", "abs", "pvc", "polycarbonate", "polyethylene")


def _kind(stock: StockKind) -> str:
    word = stock.material.lower()
    if "alumin" in word:
        return "aluminium"
    if is_sheet(stock):
        return {"ply": "wood", "board": "wood"}.get(stock.hatch, stock.hatch)
    return "metal" if any(m in word for m in _METALS) else "plastic" if any(p in word for p in _PLASTICS) else "wood"


def is_wooden(stock: StockKind) -> bool:
    """Whether it is soft enough that what bears on it wants a washer."""
    return _kind(stock) == "wood"


def engagement(stock: StockKind, *, along: bool) -> float:
    """In diameters; ``along`` where the screw goes in by the edge. What the stock itself says goes before."""
    stated = stock.engages_along if along else stock.engages
    if stated is not None:
        return stated
    of = {"metal": METAL, "aluminium": ALUMINIUM, "plastic": PLASTIC, "wood": WOOD_ALONG if along else WOOD_ACROSS}
    return of[_kind(stock)]
