"""Which bit cuts an opening: that of outlines where it gets in, else the widest that does and is long enough."""

from __future__ import annotations

from collections.abc import Iterator

from zygon.cut.kerf import CutContours
from zygon.design.document import Document
from zygon.geometry.contour import Contour
from zygon.nest.design import StockPlan, placed_contours
from zygon.toolpath.milling import Milling
from zygon.toolpath.pieces import Piece
from zygon.toolpath.routed import BitWork

__all__ = ["by_bit"]


def by_bit(document: Document, plan: StockPlan, piece: Piece, m: Milling) -> Iterator[tuple[Contour, BitWork]]:
    """The piece's openings, each as the path of the bit that cuts it; what no bit gets into is left out, and said elsewhere."""
    narrow = {n.owner for n in piece.contours.narrow if not n.outer}
    if not narrow:
        yield from ((c, m.bit) for c in piece.contours.inside)
        return
    # the paths of one bit and another stand in the same order
    nominal = placed_contours(document, plan, piece.placement, 0.0).inside
    finer = [b for b in m.mills()[1:] if b.diameter < m.bit.diameter and b.reach >= m.through]
    tried: dict[str, CutContours] = {}
    for k, path in enumerate(piece.contours.inside):
        for bit in (m.bit, *finer):
            if bit is not m.bit:
                if bit.key not in tried:
                    tried[bit.key] = placed_contours(document, plan, piece.placement, bit.diameter)
                path = tried[bit.key].inside[k]
            if path != nominal[k] or nominal[k].owners[0] not in narrow or not nominal[k].closed:
                yield path, bit
                break
