"""Every kind of part, and what it tells of its parts: a new kind is a module and a line here."""

from __future__ import annotations

from typing import Any

from zygon.geometry.mesh import Mesh
from zygon.making.flats.layers import Layer
from zygon.making.kinds.base import MadeKind, Sizes
from zygon.making.kinds.connector import CONNECTOR
from zygon.making.kinds.hardware import HARDWARE
from zygon.making.kinds.member import MEMBER
from zygon.making.kinds.plate import PLATE
from zygon.making.kinds.rod import ROD
from zygon.making.kinds.turned import TURNED
from zygon.making.result.body import Prism
from zygon.making.result.built import MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.stock.kinds import StockKind, is_bar

__all__ = ["KINDS", "density_of", "exact_of", "kind_of", "layers_of_part", "meshes_of", "sizes_of", "volume_of_part"]

KINDS: dict[str, MadeKind] = {
    "board": PLATE,
    "folded": PLATE,
    "bought": PLATE,
    "rod": ROD,
    "member": MEMBER,
    "connector": CONNECTOR,
    "turned": TURNED,
    "hardware": HARDWARE,
}


def kind_of(part: MadePart) -> MadeKind:
    """The kind of a part."""
    return KINDS[part.record.kind]


def meshes_of(part: MadePart) -> list[Mesh]:
    """A part's closed meshes in its own (u, v, w)."""
    return kind_of(part).meshes(part.body)


def layers_of_part(part: MadePart) -> tuple[Layer, ...]:
    """The layers of a part whose body is layered."""
    return kind_of(part).layers(part.body)


def volume_of_part(part: MadePart) -> float:
    """Volume in mm³."""
    return kind_of(part).volume(part.body)


def density_of(part: MadePart, stock: StockKind) -> float:
    """In g/cm³: its stock's, or what that makes of its section by the mass that is stated of a metre."""
    stated = stock.metre if is_bar(stock) else None
    if stated is None or not isinstance(part.body, Prism | MemberBody | BentBody):
        return stock.density
    region = part.body.section if isinstance(part.body, Prism) else part.body.region
    return 1000 * stated / region.area


def sizes_of(part: MadePart) -> Sizes:
    """Finished sizes."""
    return kind_of(part).sizes(part.body)


def exact_of(part: MadePart) -> Any:
    """The exact solid in the part's own (u, v, w), a shape of Open CASCADE."""
    return kind_of(part).exact(part.body)
