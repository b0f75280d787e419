"""The order of assembly as lines for the shop."""

from __future__ import annotations

from zygon.making.assembly.plan import assembly, way_word
from zygon.making.result.built import Built

__all__ = ["assembly_text"]


def assembly_text(built: Built) -> str:
    """The order of assembly as it goes on paper; '' where there is nothing to put together."""
    found = assembly(built)
    if len(found.first) + len(found.steps) < 2:
        return ""

    def names(keys: tuple[str, ...]) -> str:
        return " + ".join(built.parts[k].path for k in keys)

    lines = [f"1. Begin with {names(found.first)}."]
    lines += [f"{n}. Slide {names(s.parts)} {way_word(s.way)}." for n, s in enumerate(found.steps, 2)]
    lines += [f"LOCKED: {names(g)} cannot be put together." for g in found.locked]
    return "\n".join(lines) + "\n"
