"""The steps that bend a part, as a screen is told of them."""

from __future__ import annotations

from zygon.brake.bend_plan import known_plan
from zygon.brake.order import Step
from zygon.design.document import Document
from zygon.exchange.bends import handling, tool_word
from zygon.making.flats.flat import lying
from zygon.making.result.built import FlatPart
from zygon.making.result.fold import Fold
from zygon.screen.shown.bending import ShownBendStep

__all__ = ["bend_plan"]


def bend_plan(document: Document, part: FlatPart) -> list[ShownBendStep] | None:
    """The steps of a folded part as plain data, in order; None where they are not known yet."""
    flat = lying(part)
    steps = known_plan(document, part, flat)
    return None if steps is None else [_step(part.fold, n, s) for n, s in enumerate(steps, 1)]


def _step(fold: Fold, number: int, step: Step) -> ShownBendStep:
    bends = [fold.bends[i] for i in step.bends]
    return {
        "number": number,
        "keys": [b.key for b in bends],
        "owners": list(dict.fromkeys(b.owner for b in bends)),
        "gauge": step.gauge.distance,
        "against": step.gauge.against,
        "length": step.length,
        "force": step.force,
        "tool": tool_word(step),
        "radius": step.tool.radius if step.tool else None,
        "handling": handling(step),
        "collides": list(step.collides),
    }
