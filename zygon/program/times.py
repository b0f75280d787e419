"""What a sheet takes on its machine, from its programs: those of both faces together."""

from __future__ import annotations

from zygon.cut.reckon import Reckoning
from zygon.design.document import Document
from zygon.errors import ExpressionError, NestError
from zygon.memo import Memo, digest
from zygon.nest.design import StockNest
from zygon.program.of_design import program_of
from zygon.stock.cutter import cost_of
from zygon.toolpath.chosen import chosen_for
from zygon.toolpath.router import worked_under

__all__ = ["sheet_time"]

#: Sheets whose times are remembered.
REMEMBERED = 1000
_memo = Memo(REMEMBERED)


def sheet_time(document: Document, nest: StockNest, number: int) -> Reckoning | None:
    """What sheet ``number`` (from 1) takes as its programs are read back; None where its cutter takes none, or none can be written.

    A program that something keeps here is timed all the same: what is wrong with it seldom changes how long it runs.
    """
    sheet = nest.layout.sheets[number - 1]
    cutter = document.cutters.get(document.cutter)
    key = digest(nest.plan.digest, nest.plan.stock, sheet, cutter, document.nest.begun)
    found, _ = _memo.get(key, lambda: _timed(document, nest, number))
    return found


def _timed(document: Document, nest: StockNest, number: int) -> Reckoning | None:
    try:
        cutter, _ = chosen_for(document, nest.plan.stock)
        faces = [True, False] if worked_under(document, nest, number) else [False]
        looked = [program_of(document, nest, number, under=under).looked for under in faces]
    except (NestError, ExpressionError):
        return None
    seconds = sum(one.seconds for one in looked)
    return Reckoning(
        cut_length=sum(one.cut for one in looked),
        travel_length=sum(one.rapid for one in looked),
        pierces=sum(one.pierces for one in looked),
        seconds=seconds,
        cost=cost_of(cutter, seconds),
    )
