"""Hardware that lies by itself as plain data for screens."""

from __future__ import annotations

from zygon.making.hardware.body import BACK, HardwareBody, turned_by
from zygon.making.result.built import Built, MadePart
from zygon.screen.shown.design import ShownHole, ShownLying

__all__ = ["lying_data"]


def lying_data(built: Built, part: MadePart, body: HardwareBody) -> ShownLying:
    """What is told of it beside."""
    taken = {h: k for k, b in built.document.bores.items() if b.member == part.of for h in (b.holes or [h.name for h in body.holes])}
    holes: list[ShownHole] = [
        {"name": h.name, "leaf": h.leaf, "across": h.across, "bore": taken.get(h.name) or taken.get(f"{h.name}{BACK}", "")}
        for h in body.holes
        if not h.name.endswith(BACK)
    ]
    free = body.freedom
    return {
        "name": body.piece.name if body.piece else "",
        "source": (body.piece.standard or body.piece.source) if body.piece else body.shape.source if body.shape else "",
        "moves": free.words if free else "",
        "moved": turned_by(free, body.moved),
        "turns": free is not None and free.kind == "turns",
        "round": body.piece is not None and not body.leaves,
        "solids": max(1, len(body.shape.solids)) if body.shape else 1,
        "holes": holes,
        "places": sorted(body.places),
    }
