"""What a screw would pass that has its head on a face: the part, and what lies against it behind, one after the other."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.document import Document
from zygon.design.features import Bore
from zygon.making.asked.questions import parts_along
from zygon.making.blanks.instances import instances_of
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import line_of
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.sets.stack import Passed, stack_of
from zygon.making.tube.pieces import pieces_of

__all__ = ["Behind", "behind"]

#: What lies farther off behind a part (mm) is not screwed to it.
APART = 0.5


@dataclass(frozen=True)
class Behind:
    """The parts, low end first, each with how it is met; ``until`` is how far from the head's face on (mm) the bore may run where it would meet one of them again."""

    met: list[dict[str, str]]
    until: float | None = None


def behind(
    document: Document, part: str, axis: str, at: dict[str, dict[str, str]], side: str, of: str = "", *, before: bool = False
) -> Behind:
    """What a bore along an axis passes of what lies in touch, from a part on, with the head at the 'low' or 'high' side of it, or of what lies ``before`` it there too.

    Raises as ``parts_along``.
    """
    met = parts_along(document, axis, at, of=of)
    record = {"name": "bore", "axis": axis, "at": at, "of": of, "diameter": {"text": "1 mm", "unit": "mm"}}
    actions = {m["part"]: {"action": "drill" if m["how"] == "edge" else "cut"} for m in met}
    bore = Bore.model_validate({**record, "parts": actions})
    values = solve(document, leg_faces=leg_face)
    blanks = blanks_of(values)
    fold_blanks(values, blanks)
    line = line_of(values, "", bore)
    if line is None:
        return Behind(met)
    stack = stack_of(bore, line, blanks, {}, instances_of(values), pieces_of(values))
    seen = stack if side == "low" else [*reversed(stack)]
    start = next((i for i, p in enumerate(seen) if p.part == part), None)
    if start is None:
        return Behind(met)
    while before and start and _gap(seen[start - 1], seen[start], side) <= APART:
        start -= 1
    chain: list[Passed] = [seen[start]]
    for p in seen[start + 1 :]:
        if _gap(chain[-1], p, side) > APART:
            break
        chain.append(p)
    order = chain if side == "low" else [*reversed(chain)]
    rest = seen[start + len(chain) :]
    until = None
    if any(p.part == q.part for p in chain for q in rest):
        face, last, beyond = (
            (chain[0].low, chain[-1].high, rest[0].low) if side == "low" else (-chain[0].high, -chain[-1].low, -rest[0].high)
        )
        until = (last + beyond) / 2 - face
    return Behind([{"part": p.part, "how": p.how} for p in order], until)


def _gap(first: Passed, second: Passed, side: str) -> float:
    """How far apart two passages lie, the first nearer to the head."""
    return second.low - first.high if side == "low" else first.low - second.high
