"""The different flats of a design: an original and the copies that are like it are cut from one drawing."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.making.result.built import Built, BuiltPart, MadePart

__all__ = ["Distinct", "distinct"]


@dataclass(frozen=True)
class Distinct:
    """A part that stands for all instances of its record with the same flat; ``quantity`` counts them all with their copies."""

    part: BuiltPart
    keys: tuple[str, ...]
    quantity: int


def distinct(built: Built) -> list[Distinct]:
    """The parts with something to cut that is different, in order; bought and broken ones too, each for itself."""
    groups: dict[tuple[str, str], list[BuiltPart]] = {}
    for part in built.parts.values():
        groups.setdefault((part.of, part.body.digest if isinstance(part, MadePart) else ""), []).append(part)
    return [Distinct(g[0], tuple(p.key for p in g), sum(p.record.quantity for p in g)) for g in groups.values()]
