"""Rules of the press brake: tools for every bend, legs that lie on the die, length and force that the brake has, an order that can be bent."""

from __future__ import annotations

import math
from functools import partial
from typing import Literal

from zygon.brake.bend_plan import Plan, plan_of
from zygon.brake.order import Step, Stroke, strokes_and_tools
from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.making.metal.legs import record_of
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.fold import FoldBend
from zygon.measure.display import Display, format_length
from zygon.memo import Memo, digest
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake
from zygon.stock.tooling import NEAR, Option, radii
from zygon.tolerance import WITHIN

__all__ = ["brake_faults"]

_FOUND = Memo(1000)
SOURCE = "the shop's tools"


def brake_faults(built: Built, plan: Plan = plan_of) -> list[Fault]:
    """What the chosen brake cannot do; where ``plan`` knows no order of a part's bends yet, the rest is said."""
    document = built.document
    brake = document.brakes.get(document.brake)
    if brake is None:
        return []
    found: list[Fault] = []
    for part in built.flats.values():
        if part.made_by or part.flat.fold is None or not part.record.cut_here:
            continue
        bending = document.stock_of(part.record).bending or Bending()
        folding = part.record.folding
        # the tools that the table of bends names, which may be others than the first where those run into something
        steps = plan(document, part, part.flat) or []
        chosen = {b: s.tool for s in steps if s.tool for b in s.bends}
        lengths = _lengths(built, part)
        key = digest(
            "brake faults",
            part.key,
            part.path,
            part.flat.digest,
            part.flat.fold,
            bending,
            brake,
            document.display,
            folding and (folding.radius, [(k, f.radius) for k, f in folding.flanges.items()]),
            sorted((b, t.name) for b, t in chosen.items()),
            lengths,
        )
        found += _FOUND.get(key, partial(_of_strokes, document, part, bending, brake, chosen, lengths))[0]
        found += _order_faults(part, steps)
    return found


def _lengths(built: Built, part: FlatPart) -> dict[str, tuple[str, float]]:
    """By a bend's key the entry that sets the length of what lies behind it, and its value in mm."""
    found = {}
    for key, flange in part.record.folding.flanges.items() if part.record.folding else ():
        at = pointer("parts", part.of, "folding", "flanges", key)
        legs = {f"{key}.{i + 1}": f"{at}/legs/{i}/length" for i in range(len(getattr(flange, "legs", ())))}
        if legs:
            legs[key] = legs.popitem()[1]  # the last one has the profile's own key
        for own, where in (legs or {key: f"{at}/length"}).items():
            if where in built.values:
                found[own] = (where, built.values[where].value)
    return found


def _of_strokes(
    document: Document, part: FlatPart, bending: Bending, brake: Brake, chosen: dict[int, Option], lengths: dict[str, tuple[str, float]]
) -> list[Fault]:
    flat, found = part.flat, list[Fault]()
    for stroke, tools in strokes_and_tools(flat.fold, flat.thickness, bending, brake):  # type: ignore[arg-type]
        own = chosen.get(stroke.bends[0])
        found += _tool_faults(document, part, bending, brake, stroke, [own] if own else tools, lengths)
    return found


def _tool_faults(
    document: Document,
    part: FlatPart,
    bending: Bending,
    brake: Brake,
    stroke: Stroke,
    tools: list[Option],
    lengths: dict[str, tuple[str, float]],
) -> list[Fault]:
    bend = part.fold.bends[stroke.bends[0]]
    display, found = document.display, list[Fault]()

    def said(
        code: str,
        message: str,
        rule: str,
        value: str,
        source: str,
        severity: Literal["error", "warning"] = "error",
        mends: tuple[Mend, ...] = (),
        entry: str = "",
        measure: float | None = None,
    ) -> None:
        found.append(
            Fault(
                code,
                f"{part.path}: {message}",
                rule,
                value,
                source,
                severity,
                part.key,
                owner=bend.owner,
                entry=entry,
                at=_middle(bend),
                mends=mends,
                measure=measure,
            )
        )

    if stroke.length > brake.length + WITHIN:
        shown, limit = _show(stroke.length, display), _show(brake.length, display)
        said("long_bend", f"a bend of {shown} is longer than the brake", f"at most {limit}", shown, brake.name)
    if stroke.offset:
        return found
    if not tools:
        rule = "a die of 5 to 14 times the thickness and tools as sharp as the bend"
        said("no_tool", "no tools of the brake make this bend", rule, f"{_show(part.flat.thickness, display)} thick", SOURCE)
        return found
    best = tools[0]
    if not best.pressed:
        _radius_fault(part, bending, brake, bend, best, display, said)
    if stroke.leg < best.least - WITHIN:
        shown, limit = _show(round(stroke.leg, 3), display), _show(round(best.least, 3), display)
        where, entered = "", ""
        mends: tuple[Mend, ...] = ()
        behind = "" if stroke.beyond is None else part.fold.bends[stroke.beyond].key
        if behind in lengths and stroke.leg > 0:
            where, now = lengths[behind]
            longer = math.ceil((now + best.least - stroke.leg) * 100 - WITHIN) / 100
            entered = f"; {_show(longer, display)} as it is entered"
            mends = (
                Mend(
                    f"Make it {_show(longer, display)}", [{"op": "add", "path": where, "value": {"text": f"{longer:g} mm", "unit": "mm"}}]
                ),
            )
        rule = f"at least {limit} from the bend line, the shortest that the shop's dies hold{entered}"
        what = f"a leg of {shown} from the bend line" if stroke.leg > 0 else "a leg that ends within its bend"
        said(
            "short_flange",
            f"{what} slips off the shoulder of {best.die.name}",
            rule,
            shown,
            "geometry of the die",
            mends=mends,
            entry=where,
        )
    if best.force > brake.force:
        said("brake_force", f"a bend takes {best.force:.0f} kN", f"at most {brake.force:g} kN", f"{best.force:.0f} kN", brake.name)
    return found


def _radius_fault(part: FlatPart, bending: Bending, brake: Brake, bend: FoldBend, best: Option, display: Display, said) -> None:
    """A radius that no tool gives: under all of them an error; off the nearest by more than a little a warning."""
    if abs(best.radius - bend.radius) <= NEAR * max(bend.radius, bend.thickness / 2):
        return
    all_of = radii(brake, bending, bend.thickness, abs(bend.angle))
    shown, comes = _show(bend.radius, display), _show(round(best.radius, 3), display)
    mend = _radius_mend(part, bend, best.radius, display)
    if bend.radius < all_of[0] * (1 - NEAR):
        rule = f"at least {_show(round(all_of[0], 3), display)}, by {best.name}"
        said(
            "tool_radius",
            f"no tool of the shop bends an inside radius of {shown}",
            rule,
            shown,
            SOURCE,
            "error",
            mend,
            _radius_entry(part, bend),
            bend.radius,
        )
    else:
        rule = f"a radius of the shop's tools: {', '.join(_show(round(r, 2), display) for r in all_of)}"
        said(
            "tool_radius",
            f"a bend drawn at {shown} comes out at {comes} by {best.name}",
            rule,
            shown,
            SOURCE,
            "warning",
            mend,
            _radius_entry(part, bend),
            bend.radius,
        )


def _radius_entry(part: FlatPart, bend: FoldBend) -> str:
    """Where a bend's radius is said: by its flange, or by the part."""
    folding = part.record.folding
    key = record_of(bend.key)
    flange = folding.flanges.get(key) if folding else None
    return pointer("parts", part.of, "folding", *(("flanges", key, "radius") if flange and flange.radius else ("radius",)))


def _radius_mend(part: FlatPart, bend: FoldBend, radius: float, display: Display) -> tuple[Mend, ...]:
    value = {"text": f"{radius:.6g} mm", "unit": "mm"}
    return (
        Mend(
            f"Bend it to a radius of {_show(round(radius, 3), display)}", [{"op": "add", "path": _radius_entry(part, bend), "value": value}]
        ),
    )


def _order_faults(part: FlatPart, steps: list[Step]) -> list[Fault]:
    """Steps that run into something."""
    found = []
    for n, step in enumerate(steps, 1):
        if not step.collides or (step.tool is None and not step.offset):  # without tools it is said already
            continue
        bend = part.fold.bends[step.bends[0]]
        by_hand = bool(part.folding.sequence)
        said = "; ".join(step.collides)
        mends = (
            (Mend("Find the order by trying", [{"op": "add", "path": pointer("parts", part.of, "folding", "sequence"), "value": []}]),)
            if by_hand
            else ()
        )
        rule = "a step runs into nothing" + ("" if by_hand else "; no order was found that bends it whole")
        found.append(
            Fault(
                "bend_order",
                f"{part.path}, step {n}: {said}",
                rule,
                said,
                "tried with the tools as plain profiles",
                "error",
                part.key,
                owner=bend.owner,
                at=_middle(bend),
                mends=mends,
            )
        )
    return found


def _middle(bend: FoldBend) -> tuple[float, float]:
    (ax, ay), (bx, by) = bend.middle
    return (ax + bx) / 2, (ay + by) / 2


def _show(value: float, display: Display) -> str:
    return format_length(value, display)
