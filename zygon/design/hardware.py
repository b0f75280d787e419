"""A set: the hardware along a bore's axis, from the head to what the thread goes into."""

from __future__ import annotations

import re
from contextlib import suppress
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.stock.hardware.inserts import INSERTS
from zygon.stock.hardware.nuts import NUTS, WASHERS, washer_size
from zygon.stock.hardware.rivets import RIVETS
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.threads import METRIC

__all__ = ["HardwareList", "HardwareSet", "OwnHardware", "Into", "sizes_of_heads"]

Head = Literal[
    "socket",
    "hexagon",
    "hexagon_shank",
    "countersunk",
    "countersunk_recess",
    "pan",
    "button",
    "carriage",
    "wood",
    "wood_round",
    "wood_hexagon",
    "sheet",
    "blind_rivet",
    "none",
]
#: What holds the thread, or closes the rivet.
Into = Literal["nut", "thread", "insert", "rivet_nut", "wood", "sheet", "rivet"]
Washer = Literal["none", "plain_washer", "large_washer"]
_METRIC = (*(k for k, s in SCREWS.items() if s.thread == "metric"), "none")
#: Heads that can lie in a counterbore; under which a washer can lie.
_SEATED = tuple(k for k, s in SCREWS.items() if not s.flush and s.turned != "held")
_WORDS = {
    **{k: s.title for k, s in SCREWS.items()},
    **{k: r.title for k, r in RIVETS.items()},
    "none": "none: on a threaded end",
}


class HardwareSet(Record):
    """What lies along a bore, head first. The holes that it passes are as wide as its standard says, and its length is the shortest that is sold and does."""

    title: ClassVar[str] = "Set"

    head: Head = asked("Screw", "socket", words=_WORDS)
    size: str = Field(
        default="M5",
        max_length=8,
        description="of its thread as its standard writes it: M5, ST4.2; of a wood screw or a rivet its diameter",
    )
    side: Literal["low", "high"] = Field(
        default="high", description="at which end of its axis the head lies; where there is none, away from the nut"
    )
    seat: Literal["on", "sunk"] = asked(
        "Head lies", "on", words={"on": "on the face", "sunk": "sunk in a counterbore"}, only={"head": _SEATED}
    )
    washer: Washer = asked(
        "Washer under it", "none", words={"none": "none", **{k: w.title for k, w in WASHERS.items()}}, only={"head": (*_SEATED, "none")}
    )
    into: Literal["nut", "thread", "insert", "rivet_nut"] = asked(
        "Goes into",
        "nut",
        words={
            "nut": "a nut",
            "thread": "a thread in the last part",
            "insert": "an insert in the last part",
            "rivet_nut": "a rivet nut in the last part",
        },
        only={"head": tuple(k for k in _METRIC if k != "none")},
    )
    tapped: Literal["through", "blind"] = asked(
        "Tapped hole",
        "through",
        words={"through": "goes through", "blind": "is blind"},
        only={"head": tuple(k for k in _METRIC if k != "none"), "into": ("thread",)},
    )
    nut: Literal["hexagon_nut", "locking_nut", "cap_nut"] = asked(
        "Nut", "hexagon_nut", words={k: n.title for k, n in NUTS.items()}, only={"head": _METRIC, "into": ("nut",)}
    )
    nut_washer: Washer = asked(
        "Washer under the nut",
        "none",
        words={"none": "none", **{k: w.title for k, w in WASHERS.items()}},
        only={"head": _METRIC, "into": ("nut",)},
    )
    near_nut: Literal["none", "hexagon_nut", "locking_nut", "cap_nut"] = asked(
        "Nut on the near side", "none", words={"none": "none", **{k: n.title for k, n in NUTS.items()}}, only={"head": ("none",)}
    )
    hole: Literal["fine", "medium", "coarse"] = asked("Clearance holes", "medium", note="ISO 273", only={"head": tuple(k for k in SCREWS)})
    length: Entry | None = asked("Length", None, blank="the shortest that does", only={"head": (*SCREWS, *RIVETS)})

    @property
    def holds_by(self) -> Into:
        """What holds the thread: of wood and sheet metal screws and of rivets always the same."""
        if self.head == "blind_rivet":
            return "rivet"
        thread = SCREWS[self.head].thread if self.head in SCREWS else "metric"
        return self.into if thread == "metric" and self.head != "none" else "nut" if thread == "metric" else thread

    def turned(self, over: bool) -> HardwareSet:
        """The same with its head at the other end, where it is turned over."""
        return self.model_copy(update={"side": "low" if self.side == "high" else "high"}) if over else self

    def own_fault(self) -> tuple[str, Any, str] | None:
        """What is wrong with the record by itself: the field, its value and the rule; None for nothing."""
        sizes = sizes_of_heads()[self.head]
        if self.size not in sizes:
            what = _WORDS[self.head] if self.head != "none" else "a threaded end"
            return "size", self.size, f"{what} has the sizes {', '.join(sizes)}"
        into = self.holds_by
        for field, of, table in (
            ("washer", self.washer if self.head in _SEATED or self.head == "none" else "none", WASHERS),
            ("nut", self.nut if into == "nut" else "none", NUTS),
            ("near_nut", self.near_nut if self.head == "none" else "none", NUTS),
            ("nut_washer", self.nut_washer if into == "nut" else "none", WASHERS),
            ("into", into if into in INSERTS else "none", INSERTS),
        ):
            if of != "none" and (washer_size(self.size) if table is WASHERS else self.size) not in table[of].rows:
                return field, of, f"{table[of].title} is made in {', '.join(table[of].rows)}"
        return None


def sizes_of_heads() -> dict[str, list[str]]:
    """The sizes in which a set may be, by its head."""
    return {**{k: list(s.rows) for k, s in SCREWS.items()}, **{k: list(r.rows) for k, r in RIVETS.items()}, "none": list(METRIC)}


#: Diameters with spaces or commas between them.
BITS = r"^[0-9. ,;m]*$"


class OwnHardware(Record):
    """A piece that is in no catalogue, as a shop's list has it; its price stands with the others'."""

    name: str = Field(min_length=1, max_length=80)
    mass: float | None = Field(default=None, ge=0, description="g")


class HardwareList(Record):
    """What is bought of hardware: how much more than is needed, and what a piece costs by its designation."""

    title: ClassVar[str] = "Hardware"

    spare: float = asked("Spare", 0.0, suffix=" %", step=5, note="bought beyond what the design needs", ge=0, le=200)
    bits: str = asked(
        "Drill bits",
        "",
        blank="any",
        note="the diameters that the shop has, in mm, as 2 2.5 3 4 5; any where nothing is said",
        max_length=400,
        pattern=BITS,
    )
    prices: dict[str, float] = Field(default_factory=dict, max_length=500, description="of one piece, by its designation")

    own: dict[str, OwnHardware] = Field(default_factory=dict, max_length=500, description="the shop's own pieces by their designation")

    @property
    def diameters(self) -> tuple[float, ...]:
        """The bits, mm, in order; none where any can be drilled. What is no number is left."""
        found = []
        for word in re.split(r"[\s,;m]+", self.bits):
            with suppress(ValueError):
                found.append(float(word))
        return tuple(sorted({x for x in found if x > 0}))
