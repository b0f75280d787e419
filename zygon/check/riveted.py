"""The rule that enough stands over for a head where an end is riveted over."""

from __future__ import annotations

from zygon.making.result.built import Built
from zygon.making.result.fault import Fault
from zygon.making.turned.body import TurnedBody
from zygon.measure.display import format_length
from zygon.owner import part_id
from zygon.tolerance import WITHIN

__all__ = ["riveted_faults"]

#: A head takes so many diameters of what stands over at least, and is full at half as many more (common practice).
HEAD = 1.0


def riveted_faults(built: Built) -> list[Fault]:
    """Ends that are riveted over by too little for a head, each once."""
    faults = []
    for part in built.made.values():
        body = part.body
        if not isinstance(body, TurnedBody) or part.made_by:
            continue
        for end, over in body.riveted:
            radius, _, _, _ = body.steps[0 if end == "a" else -1]
            wanted = HEAD * 2 * radius
            if over < wanted - WITHIN:
                shown, least = (format_length(round(x, 3), built.document.display) for x in (over, wanted))
                faults.append(
                    Fault(
                        "rivet_short",
                        f"{part.path}: {shown} of its end {end.upper()} is little for a head",
                        f"about a diameter and a half stands over, at least {least}",
                        shown,
                        "common practice",
                        "warning",
                        part.key,
                        owner=part_id(part.of),
                        entry=f"/parts/{part.of}/riveted/{end}",
                    )
                )
    return faults
