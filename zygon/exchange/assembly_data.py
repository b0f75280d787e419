"""An assembly as plain data for screens and as lines for the shop."""

from __future__ import annotations

from typing import Any

from zygon.making.assembly.hold import drops
from zygon.making.assembly.plan import Assembly, assembly, way_word
from zygon.making.result.built import Built

__all__ = ["assembly_data", "assembly_text"]


def assembly_data(built: Built, found: Assembly) -> dict[str, Any]:
    """Steps with the vector (x, y, z in mm) from where a part starts to where it rests, what is locked, loose and unsupported."""
    steps = []
    for step in found.steps:
        i = "xyz".index(step.way[0])
        start = [0.0, 0.0, 0.0]
        start[i] = -step.way[1] * step.distance
        steps.append({"parts": list(step.parts), "way": way_word(step.way), "start": start, "distance": step.distance})
    return {
        "first": list(found.first), "steps": steps, "locked": [list(g) for g in found.locked],
        "loose": [{"part": x.part, "ways": [way_word(w) for w in x.ways], "kept_by": x.kept_by} for x in found.loose],
        "drops": [{"part": d.part, "height": d.height, "onto": d.onto} for d in drops(built) if d.way is None],
    }  # fmt: skip


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
