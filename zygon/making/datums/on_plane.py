"""The plane that a drawing lies in: what it belongs to, and how places in the room are seen in it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from zygon.design.parts.kinds import is_plate, is_turned
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.geometry.motion import Motion
from zygon.making.datums.scope import EntryScope
from zygon.owner import part_id

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["OnPlane", "plane_of", "plane_of_plate", "plane_of_profile", "radial_of"]


@dataclass(frozen=True)
class OnPlane:
    """Its x and y run along ``ways``, axes of the room at rest ('' along none), on which its own 0 lies at ``lows`` (mm).

    Where ``lows`` is None it is where the part's ``sides`` lie. Places are seen from ``frame``; from within ``group`` where that is not known yet.
    """

    name: str
    part: str
    stock: str
    group: str
    ways: tuple[str, str]
    lows: tuple[float, float] | None = None
    frame: Motion | None = None
    #: which place of its part is 0 along each of the two
    sides: tuple[str, str] = ("low", "low")
    #: what the lines are called at which x is 0, and y
    zeros: tuple[str, str] = ("", "")

    def scope(self, values: Values, axis: str = "") -> EntryScope:
        """What entries on it read; those of places along an axis, of lengths along none."""
        if self.frame is not None:
            return EntryScope(values, axis, self.stock, frame=self.frame)
        return EntryScope(values, axis, self.stock, self.group, part_id(self.part) if self.part else "")

    def low(self, values: Values, k: int) -> float:
        """Where its 0 lies along one of its two ways. KeyError where that is not known yet."""
        return self.lows[k] if self.lows else values.datum(self.part, self.ways[k], self.sides[k])


def radial_of(axis: str) -> str:
    """Along which axis the radius of a turned part is drawn that runs along another: up, where that is not its own."""
    return "x" if axis == "z" else "z"


def plane_of(values: Values, key: str) -> OnPlane:
    """The plane in which a part's own drawing lies, as it is seen from within its group: its own, or of a turned part one through its axis."""
    record = values.boards[key]
    if not is_turned(record):
        return plane_of_plate(values, key)
    radial = radial_of(record.axis)
    ways = (record.axis, radial) if record.axis < radial else (radial, record.axis)
    first = ways[0] == record.axis
    sides, zeros = ("low", "centre"), ("its end A", "its axis")
    return OnPlane(
        record.name,
        key,
        record.stock,
        record.group,
        ways,
        sides=sides if first else (sides[1], sides[0]),
        zeros=zeros if first else (zeros[1], zeros[0]),
    )


def plane_of_profile(values: Values, key: str, edge: str, lies: Literal["a", "b"]) -> OnPlane:
    """The plane of a profile on one of a plate's four sides at rest, while the plate is not folded yet. KeyError, with a sentence's end, for another edge."""
    record = values.boards[key]
    assert is_plate(record)
    axes = frame_of(record.plane)
    across = next((a for a in (axes.u, axes.v) if edge in FACES[a]), None)
    if across is None:
        raise KeyError("it is measured only of profiles on the four sides of a plate")
    sides = {across: ("low", "high")[FACES[across].index(edge)], axes.normal: "high" if (lies == "a") == (axes.up > 0) else "low"}
    ways = [a for a in AXES if a in sides]
    return OnPlane(record.name, key, record.stock, record.group, (ways[0], ways[1]), sides=(sides[ways[0]], sides[ways[1]]))


def plane_of_plate(values: Values, key: str, *, frame: Motion | None = None, lows: tuple[float, float] | None = None) -> OnPlane:
    """The plane of a part that lies in one, from its spans' low corner."""
    record = values.boards[key]
    assert is_plate(record)
    axes = frame_of(record.plane)
    return OnPlane(record.name, key, record.stock, record.group, (axes.u, axes.v), lows, frame)
