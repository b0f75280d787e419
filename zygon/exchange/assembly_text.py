"""The order of assembly as lines for the shop."""

from __future__ import annotations

from zygon.making.assembly.plan import Assembly, assembly, way_word
from zygon.making.result.built import Built

__all__ = ["assembly_text"]


def assembly_text(built: Built) -> str:
    """The order of assembly as it goes on paper; '' where there is nothing to put together."""
    found = assembly(built)
    if len(found.first) + len(found.steps) < 2:
        return ""

    def names(keys: tuple[str, ...]) -> str:
        return " + ".join(built.parts[k].path for k in keys)

    lines = [f"1. Begin with {names(found.first)}.{_put_in(built, found, 0)}"]
    lines += [f"{n + 1}. Slide {names(s.parts)} {way_word(s.way)}.{_put_in(built, found, n)}" for n, s in enumerate(found.steps, 1)]
    lines += [f"LOCKED: {names(g)} cannot be put together." for g in found.locked]
    return "\n".join(lines) + "\n"


def _put_in(built: Built, found: Assembly, step: int) -> str:
    """The sets that go in behind a step, in words."""
    counted: dict[str, int] = {}
    for key, _ in found.sets[step] if step < len(found.sets) else ():
        counted[key] = counted.get(key, 0) + 1
    return "".join(f" Then put in {n} x {built.document.bores[key].name}: {built.sets[key].words}." for key, n in counted.items())
