"""Copes: the end of a tube that is cut to lie on a round one, at any angle and off its middle.

The branch's axis and the main's have one common perpendicular. Lengths are taken along the branch's axis from there to its end, at an angle phi round it:
phi 0 lies in the plane of the branch's axis and the main's direction, on the side of the acute angle, and an offset is towards phi 90 degrees. From two cylinders that meet.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from zygon.errors import MemberError
from zygon.tolerance import EPS

__all__ = ["Cope"]

#: Degrees between the axes, at least: under that a branch lies along its main rather than on it.
LEAST_ANGLE = 5.0


@dataclass(frozen=True)
class Cope:
    """A branch on a main: outer diameters in mm, the angle between the axes in degrees, how far they pass one another, and the branch's wall.

    With a ``wall`` the end is cut square to it, as a saw or a mill does: where the inner edge would touch first, that counts. Without one only
    the outer edge does, as on a template or a cutter that leans along. Raises MemberError that names the entry.
    """

    main: float
    branch: float
    angle: float
    offset: float = 0.0
    wall: float = 0.0

    def __post_init__(self) -> None:
        for entry, value in (("main", self.main), ("branch", self.branch)):
            if not (math.isfinite(value) and value > 0):
                raise _refused(entry, value, "a diameter greater than 0")
        if not (math.isfinite(self.angle) and LEAST_ANGLE <= self.angle <= 90):
            raise _refused("angle", self.angle, f"from {LEAST_ANGLE:g} to 90 degrees, the acute angle between the axes")
        if not (math.isfinite(self.wall) and 0 <= self.wall < self.branch / 2):
            raise _refused("wall", self.wall, f"at least 0 and less than half of the branch's {self.branch:g} mm")
        if not math.isfinite(self.offset) or abs(self.offset) + self.branch / 2 > self.main / 2 + EPS:
            most = max((self.main - self.branch) / 2, 0.0)
            over = "which leaves no room for an offset" if most == 0 else f"so that the axes pass at {most:g} mm at most"
            if self.branch > self.main + EPS:
                raise _refused("branch", self.branch, f"no wider than its main of {self.main:g} mm, or it overhangs it")
            raise _refused("offset", self.offset, f"a branch that does not overhang its main: {self.branch:g} on {self.main:g} mm, {over}")

    @property
    def round(self) -> float:
        """The branch's outer circumference in mm."""
        return math.pi * self.branch

    def length(self, phi: float) -> float:
        """The length of the branch's wall in mm at ``phi`` degrees round it, as it is cut."""
        return max(self.outer(phi), self.inner(phi)) if self.wall else self.outer(phi)

    def outer(self, phi: float) -> float:
        """The same of its outer edge."""
        return self._at(self.branch / 2, phi)

    def inner(self, phi: float) -> float:
        """The same of its inner edge."""
        return self._at(self.branch / 2 - self.wall, phi)

    def _at(self, r: float, phi: float) -> float:
        theta, a = math.radians(self.angle), math.radians(phi)
        reach = math.sqrt(max((self.main / 2) ** 2 - (self.offset + r * math.sin(a)) ** 2, 0.0))
        return (reach + r * math.cos(a) * math.cos(theta)) / math.sin(theta)

    @property
    def corners(self) -> tuple[float, ...]:
        """Degrees round the branch, from 0 to 360, between which the edge of its end is smooth."""
        found = {0.0, 90.0, 180.0, 270.0, 360.0}
        if self.wall:  # where the inner edge takes over from the outer one
            steps = range(0, 360)
            for a in steps:
                low, high = self._over(a), self._over(a + 1)
                if (low > 0) != (high > 0):
                    found.add(self._crossing(float(a), float(a + 1)))
        return tuple(sorted(found))

    def _over(self, phi: float) -> float:
        return self.inner(phi) - self.outer(phi)

    def _crossing(self, a: float, b: float) -> float:
        rising = self._over(b) > 0
        for _ in range(60):
            middle = (a + b) / 2
            if (self._over(middle) > 0) == rising:
                b = middle
            else:
                a = middle
        return (a + b) / 2


def _refused(entry: str, value: float, rule: str) -> MemberError:
    return MemberError(f"{entry}: {value:g} is not allowed; {rule}", entry=entry, value=value, rule=rule)
