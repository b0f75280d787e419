"""Two simulated outside cutters. They reckon prices by area and way, and send what was ordered after so many seconds for each day that they said."""

from __future__ import annotations

import math
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from django.conf import settings

from zygon.exchange.elsewhere import OutsideItem, Wanted
from zygon.machine.journal import Journal
from zygon_server.elsewhere.outside import OutsideRefused, Progress, Quote
from zygon_server.local import VAR

__all__ = ["CUTTERS", "Simulated"]

#: What each order costs before anything is cut, and a metre of cut.
BEGIN, METRE = 18.0, 1.4


@dataclass(frozen=True)
class Simulated:
    """An outside cutter: by material how thick it goes (mm), and what a square metre of it costs at 1 mm."""

    key: str
    wants: Wanted
    materials: Mapping[str, tuple[float, float]]
    bed: tuple[float, float] = (2400.0, 1200.0)
    metres_a_day: float = 120.0
    currency: str = "EUR"
    cuts: str = field(init=False, default="")

    def __post_init__(self) -> None:
        words = ", ".join(f"{m} up to {thick:g} mm" for m, (thick, _) in self.materials.items())
        object.__setattr__(self, "cuts", words)

    def quote(self, items: Sequence[OutsideItem]) -> Quote:
        """A price by area and way. Raises OutsideRefused."""
        price, metres = BEGIN, 0.0
        for i in items:
            most, per = self.materials.get(i["material"], (0.0, 0.0))
            if not most:
                raise OutsideRefused(f"{self.wants.name} does not cut {i['material']} ({i['part']}); it cuts {self.cuts}.")
            if i["thickness"] > most:
                said = f"{i['part']} is {i['thickness']:g} mm thick; {self.wants.name} cuts {i['material']} up to {most:g} mm."
                raise OutsideRefused(said)
            if max(i["length"], i["width"]) > self.bed[0] or min(i["length"], i["width"]) > self.bed[1]:
                raise OutsideRefused(f"{i['part']} is larger than the bed of {self.wants.name}, {self.bed[0]:g} × {self.bed[1]:g} mm.")
            metres += i["cut"] * i["quantity"] / 1000
            price += i["quantity"] * (i["area"] / 1e6 * per * i["thickness"] + i["cut"] / 1000 * METRE)
        return Quote(round(price, 2), self.currency, 2 + math.ceil(metres / self.metres_a_day))

    def order(self, ours: str, items: Sequence[OutsideItem], files: bytes) -> str:
        """Its books keep when it will be sent; told the same order again it gives the same reference."""
        books = self._books()
        known = next((r["reference"] for r in books.records() if r["ours"] == ours), None)
        if known is None:
            sent = time.time() + self.quote(items).days * settings.OUTSIDE_DAY
            known = f"{ours[:8].upper()}-{sum(1 for _ in books.records()) + 1}"
            books.write("order", ours=ours, reference=known, sent=sent, pieces=sum(i["quantity"] for i in items))
        return known

    def progress(self, reference: str) -> Progress:
        """As its books say."""
        sent = next((r["sent"] for r in self._books().records() if r["reference"] == reference), None)
        return "sent" if sent is not None and time.time() >= sent else "cutting"

    def _books(self) -> Journal:
        """What it was ordered, in a file of its own."""
        return Journal(VAR / "outside" / f"{self.key}.jsonl")


#: Invented.
CUTTERS = {
    "pebbleford": Simulated(
        "pebbleford",
        Wanted("Pebbleford Laser Cutting", "laser", "nominal", "dxf", 0.2),
        {"plywood": (18.0, 2.6), "felt": (6.0, 9.0), "acrylic": (12.0, 11.0)},
    ),
    "quern-lane": Simulated(
        "quern-lane",
        Wanted("Quern Lane Metals", "laser", "compensated", "dxf", 0.16),
        {"galvanised steel": (3.0, 38.0), "steel": (8.0, 30.0), "aluminium": (5.0, 52.0)},
    ),
}
