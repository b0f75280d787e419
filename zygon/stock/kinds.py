"""The kinds of stock that a document may have."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag
from typing_extensions import TypeIs

from zygon.stock.bar import BarStock
from zygon.stock.sheet import SheetStock

__all__ = ["Stock", "StockKind", "is_bar", "is_sheet"]

StockKind = SheetStock | BarStock


def _kind(stock: Any) -> Any:
    """A stock that does not say its kind is a sheet, as all were once."""
    return stock.get("kind", "sheet") if isinstance(stock, dict) else getattr(stock, "kind", None)


Stock = Annotated[Annotated[SheetStock, Tag("sheet")] | Annotated[BarStock, Tag("bar")], Discriminator(_kind)]


def is_sheet(stock: StockKind | None) -> TypeIs[SheetStock]:
    """Whether flat parts are cut from it."""
    return isinstance(stock, SheetStock)


def is_bar(stock: StockKind | None) -> TypeIs[BarStock]:
    """Whether lengths are cut from it."""
    return isinstance(stock, BarStock)
