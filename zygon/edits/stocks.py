"""Edits of a design's stocks: taken from the shelf with what belongs to them, and taken away again."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.stock.bar_list import read_bars
from zygon.stock.shelf import Shelf

__all__ = ["add_bars", "remove_stock", "take_stock"]


def take_stock(document: Document, key: str, shelf: Shelf) -> tuple[str, Patch]:
    """Label and patch that take a stock from the shelf, and with it what the shelf knows of it and the design does not: its fits on a
    cutter that the design has, the speeds of each of its cutters in it, and the first brake for a sheet that is bent. Raises DocumentError.
    """
    if key not in shelf.stocks:
        raise DocumentError(f"There is no {key} on the shelf", entry="key", value=key, rule="a stock of the shelf")
    if key in document.stocks:
        raise DocumentError(f"{document.stocks[key].name} is in this design", entry="key", value=key, rule="a stock that the design lacks")
    stock = shelf.stocks[key]
    order = 1 + max((s.order for s in document.stocks.values()), default=-1)
    patch: Patch = [_add({**stock, "order": order}, "stocks", key)]
    fit = shelf.fits.get(key)
    if fit and key not in document.fits and fit.get("cutter") in document.cutters:
        patch.append(_add(fit, "fits", key))
    for cutter, record in document.cutters.items():
        work = shelf.cutters.get(cutter, {}).get("work", {}).get(key)
        if work and key not in record.work:
            patch.append(_add(work, "cutters", cutter, "work", key))
    if stock.get("bending") and shelf.brakes and not document.brakes:
        brake = next(iter(shelf.brakes))
        patch += [_add(shelf.brakes[brake], "brakes", brake), {"op": "add", "path": "/brake", "value": brake}]
    return f"Stock: {stock.get('name', key)}", patch


def add_bars(document: Document, text: str) -> tuple[str, Patch]:
    """Label and patch that add the bars of a list as stocks; those of a name that is there are left as they are. Raises DocumentError."""
    names = {s.name for s in document.stocks.values()}
    found = [r for r in read_bars(text, document.unit) if r["name"] not in names]
    if not found:
        raise DocumentError("All of these bars are in this design", entry="text", value=len(names), rule="a bar that the design lacks")
    keys: dict[str, Any] = dict(document.stocks)
    order = 1 + max((s.order for s in document.stocks.values()), default=-1)
    patch: Patch = []
    for n, record in enumerate(found):
        key = fresh_key(keys, record["name"])
        keys[key] = True
        patch.append(_add({**record, "order": order + n}, "stocks", key))
    return f"Add {len(found)} {'bar' if len(found) == 1 else 'bars'} from a list", patch


def remove_stock(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that take a stock out of the design with its fits and the cutters' speeds in it. Raises DocumentError while anything is of it."""
    if key not in document.stocks:
        raise DocumentError(f"There is no stock {key}", entry="key", value=key, rule="a stock of the design")
    name = document.stocks[key].name
    made = [p.name for p in document.placed(out=True).values() if p.stock == key]
    made += [f"{t.kind} test" for t in document.tests.values() if t.stock == key]
    if made:
        rule = "no part and no test piece of it"
        raise DocumentError(f"{made[0]} is made of {name}: it stays while anything is", entry="key", value=key, rule=rule)
    gone: list[tuple[str, ...]] = [("fits", k) for k, fit in document.fits.items() if fit.stock == key]
    gone += [("cutters", k, "work", key) for k, cutter in document.cutters.items() if key in cutter.work]
    return f"Remove {name}", [{"op": "remove", "path": pointer(*path)} for path in (*gone, ("stocks", key))]


def _add(value: Any, *path: str) -> dict[str, Any]:
    return {"op": "add", "path": pointer(*path), "value": value}
