"""The chosen cutter, and what it does in a stock."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.errors import NestError
from zygon.stock.cutter import Cutter, CutterWork

__all__ = ["chosen_for", "words"]


def chosen_for(document: Document, stock: str) -> tuple[Cutter, CutterWork]:
    """The chosen cutter and its speeds in a stock. Raises NestError where it runs no programs, or has no speeds for the stock."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None or not (cutter.can.beam or cutter.can.bit):
        said = cutter.name if cutter else "No cutter"
        reason = f"{said} runs no programs: lasers and routers do" if cutter else "No cutter is chosen: choose a laser or a router in Sizes"
        raise NestError(reason, entry="cutter", value=said, rule="a laser or a router", code="no_machine")
    work = cutter.work.get(stock)
    if work is None:
        name = document.stocks[stock].name
        said = f"{cutter.name} has no speeds for {name}: give them in Sizes, Cutter and fits"
        raise NestError(said, entry="work", value=name, rule="speeds of cutting and marking", code="no_speeds")
    return cutter, work


def words(key: str) -> str:
    """A part's key as a maker reads it."""
    return key.replace("_", " ")
