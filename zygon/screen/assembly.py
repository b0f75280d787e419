"""How a design is put together, as a screen is told of it."""

from __future__ import annotations

from zygon.making.assembly.hold import drops
from zygon.making.assembly.plan import Assembly, way_word
from zygon.making.result.built import Built
from zygon.screen.shown.joints import ShownAssembly, ShownSlide

__all__ = ["assembly_data"]


def assembly_data(built: Built, found: Assembly) -> ShownAssembly:
    """Steps with the vector (x, y, z in mm) from where a part starts to where it rests, what is locked, loose and unsupported."""
    steps: list[ShownSlide] = []
    for step in found.steps:
        i = "xyz".index(step.way[0])
        start = [0.0, 0.0, 0.0]
        start[i] = -step.way[1] * step.distance
        steps.append({"parts": list(step.parts), "way": way_word(step.way), "start": start, "distance": step.distance})
    return {
        "first": list(found.first),
        "steps": steps,
        "locked": [list(g) for g in found.locked],
        "loose": [{"part": x.part, "ways": [way_word(w) for w in x.ways], "kept_by": x.kept_by} for x in found.loose],
        "sets": [[{"bore": key, "place": n} for key, n in behind] for behind in found.sets],
        "drops": [{"part": d.part, "height": d.height, "onto": d.onto} for d in drops(built) if d.way is None],
    }
