"""Nuts and washers by their standards. Millimetres; values from memory."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from zygon.stock.hardware.family import Family
from zygon.stock.hardware.piece import Slice, hexagon, round_
from zygon.stock.hardware.threads import diameter_of

__all__ = ["NUTS", "WASHERS", "Nuts", "washer_size"]


@dataclass(frozen=True)
class Nuts(Family):
    """A family of nuts. Its rows are the size across flats, the height, and how deep a screw goes in where it is closed on top."""

    closed: bool = False

    def deep(self, size: str) -> float | None:
        """How deep a screw may go in; None where it may pass."""
        return self.rows[size][2] if self.closed else None


def _nut(size: str, row: tuple[float, ...], _: float) -> tuple[Slice, ...]:
    return (hexagon(0.0, row[1], row[0], diameter_of(size)),)


def _locking(size: str, row: tuple[float, ...], _: float) -> tuple[Slice, ...]:
    flats, high = row
    return (hexagon(0.0, 0.7 * high, flats, diameter_of(size)), round_(0.7 * high, high, 0.85 * flats, diameter_of(size)))


def _cap(size: str, row: tuple[float, ...], _: float) -> tuple[Slice, ...]:
    flats, high, deep = row
    return (hexagon(0.0, 0.5 * high, flats, diameter_of(size)), round_(0.5 * high, deep, 0.95 * flats, diameter_of(size)),
            round_(deep, high, 0.95 * flats, to=0.4 * flats))  # a row a line  # fmt: skip


def _washer(_: str, row: tuple[float, ...], __: float) -> tuple[Slice, ...]:
    inner, outer, high = row
    return (round_(0.0, high, outer, inner),)


_PLAIN: Mapping[str, tuple[float, ...]] = {
    "M2": (4.0, 1.6), "M2.5": (5.0, 2.0), "M3": (5.5, 2.4), "M4": (7.0, 3.2), "M5": (8.0, 4.7), "M6": (10.0, 5.2), "M8": (13.0, 6.8),
    "M10": (16.0, 8.4), "M12": (18.0, 10.8),
}  # a row a line  # fmt: skip

NUTS: dict[str, Nuts] = {
    n.key: n
    for n in (
        Nuts("hexagon_nut", "hexagon nut", "ISO 4032", "nut", ("flats", "height"), _PLAIN, _nut, words="hex"),
        Nuts("locking_nut", "locking nut", "DIN 985", "nut", ("flats", "height"), {
            "M3": (5.5, 4.0), "M4": (7.0, 5.0), "M5": (8.0, 5.0), "M6": (10.0, 6.0), "M8": (13.0, 8.0), "M10": (17.0, 10.0), "M12": (19.0, 12.0),
        }, _locking, words="self lock plastic ring prevailing"),
        Nuts("cap_nut", "cap nut", "DIN 1587", "nut", ("flats", "height", "deep"), {
            "M4": (7.0, 8.0, 5.5), "M5": (8.0, 10.0, 7.5), "M6": (10.0, 12.0, 8.0), "M8": (13.0, 15.0, 11.0), "M10": (17.0, 18.0, 13.0),
            "M12": (19.0, 22.0, 16.0),
        }, _cap, words="domed acorn", closed=True),
    )
}  # a row a line  # fmt: skip

WASHERS: dict[str, Family] = {
    w.key: w
    for w in (
        Family("plain_washer", "plain washer", "ISO 7089", "washer", ("inner", "outer", "height"), {
            "M2": (2.2, 5.0, 0.3), "M2.5": (2.7, 6.0, 0.5), "M3": (3.2, 7.0, 0.5), "M4": (4.3, 9.0, 0.8), "M5": (5.3, 10.0, 1.0), "M6": (6.4, 12.0, 1.6),
            "M8": (8.4, 16.0, 1.6), "M10": (10.5, 20.0, 2.0), "M12": (13.0, 24.0, 2.5),
        }, _washer, words="flat"),
        Family("large_washer", "large washer", "ISO 7093-1", "washer", ("inner", "outer", "height"), {
            "M3": (3.2, 9.0, 0.8), "M4": (4.3, 12.0, 1.0), "M5": (5.3, 15.0, 1.0), "M6": (6.4, 18.0, 1.6), "M8": (8.4, 24.0, 2.0), "M10": (10.5, 30.0, 2.5),
            "M12": (13.0, 37.0, 3.0),
        }, _washer, words="penny fender wide mudguard"),
    )
}  # a row a line  # fmt: skip


def washer_size(size: str) -> str:
    """The washer for a thread or a screw: the smallest that goes over it, as M4 over a sheet metal screw of 4.2; its own size's name where none does."""
    own = diameter_of(size)
    return next((s for s, row in WASHERS["plain_washer"].rows.items() if row[0] >= own), f"M{own:g}")
