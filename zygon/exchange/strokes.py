"""Programs for a press brake: every stroke with its bends, angle, travel, gauge, tools and what is done with the sheet before it; as text and as JSON."""

from __future__ import annotations

import json
import math
from typing import Any

from typing_extensions import TypedDict

from zygon.brake.bend_plan import plan_of
from zygon.brake.order import Step
from zygon.brake.travel import punch_travel
from zygon.exchange.bends import handling
from zygon.exchange.figures import Figures, plain
from zygon.making.flats.distinct import distinct
from zygon.making.flats.flat import lying
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.flat import Flat
from zygon.stock.tooling import BEFORE, PRESSED

__all__ = ["StrokeRow", "brake_programs", "write_brake_program", "write_strokes"]


class StrokeRow(TypedDict):
    """A stroke: mm, kN, degrees. ``inside`` is the angle between the legs after it (180 is flat), ``pressed`` where it is pressed flat afterwards, ``gauge`` from the bend line, None where no edge is within reach;
    ``travel`` from where the punch touches the sheet, before it springs back, None where no tools are known. ``before`` is what is done with the sheet first."""

    stroke: int
    bends: list[str]
    up: bool
    inside: float
    radius: float
    pressed: bool
    travel: float | None
    gauge: float | None
    against: str
    punch: str
    die: str
    offset_tool: bool
    force: float
    length: float
    before: str
    runs_into: list[str]


class BrakeProgram(TypedDict):
    """How one of so many pieces is bent; mm."""

    part: str
    pieces: int
    stock: str
    thickness: float
    strokes: list[StrokeRow]


def brake_programs(built: Built) -> list[BrakeProgram]:
    """Every different folded part with its strokes in order; those without a brake have none, and are left out."""
    found: list[BrakeProgram] = []
    for group in distinct(built):
        part = built.flats.get(group.keys[0])
        if part is None or part.flat.fold is None or not part.flat.pieces:
            continue
        flat = lying(part)
        steps = plan_of(built.document, part, flat)
        if steps:
            stock = built.document.stock_of(part.record)
            rows = [_row(part, flat, n, s) for n, s in enumerate(steps, 1)]
            found.append({"part": part.path, "pieces": group.quantity, "stock": stock.name, "thickness": flat.thickness, "strokes": rows})
    return found


def _row(part: FlatPart, flat: Flat, number: int, step: Step) -> StrokeRow:
    assert flat.fold
    bends = [flat.fold.bends[i] for i in step.bends]
    angle = abs(bends[0].angle)
    pressed = angle >= PRESSED
    air = BEFORE if pressed else angle
    tool = step.tool
    return {
        "stroke": number,
        "bends": [b.key for b in bends],
        "up": bends[0].angle > 0,
        "inside": round(180 - math.degrees(angle), 4),
        "radius": bends[0].radius,
        "pressed": pressed,
        "travel": round(punch_travel(air, flat.thickness, tool.radius, tool.die.v, tool.die.radius), 3) if tool else None,
        "gauge": None if step.gauge.distance is None else round(step.gauge.distance, 3),
        "against": step.gauge.against,
        "punch": tool.punch.name if tool else "",
        "die": tool.die.name if tool else "",
        "offset_tool": step.offset,
        "force": round(step.force, 2),
        "length": round(step.length, 3),
        "before": handling(step),
        "runs_into": list(step.collides),
    }


def write_strokes(built: Built) -> str:
    """The programs as JSON, mm, degrees and kN; '' where nothing is bent on a brake."""
    programs = brake_programs(built)
    if not programs:
        return ""
    brake = built.document.brakes[built.document.brake]
    told: dict[str, Any] = {"design": built.document.name, "brake": brake.name, "units": {"length": "mm", "angle": "deg", "force": "kN"}}
    return json.dumps({**told, "parts": programs}, indent=1, ensure_ascii=False) + "\n"


def write_brake_program(built: Built) -> str:
    """The programs as text, lengths in the design's unit; '' where nothing is bent on a brake."""
    programs = brake_programs(built)
    if not programs:
        return ""
    figures = Figures(built.document)
    brake = built.document.brakes[built.document.brake]

    def long(mm: float | None) -> str:
        return "none" if mm is None else f"{figures.length(mm)} {figures.word}"

    out = [
        f"{built.document.name} / {brake.name}",
        "Gauges run from the bend line. Travel is from where the punch touches the sheet, before it springs back: try it on scrap.",
    ]
    for p in programs:
        out += ["", f"PART {p['part']} x {p['pieces']} / {p['stock']}, {long(p['thickness'])} thick"]
        for s in p["strokes"]:
            if s["before"]:
                out.append(f"     {s['before']}")
            tools = (
                "offset tool, both bends at once" if s["offset_tool"] else f"{s['punch']} in {s['die']}" if s["die"] else "no tools known"
            )
            way = "up" if s["up"] else "down"
            angle = "flat" if s["pressed"] else f"{plain(s['inside'], 2)} deg inside"
            out.append(f"{s['stroke']:4d} {way} to {angle}, radius {long(s['radius'])}, {long(s['length'])} long: {tools}")
            gauge = "by eye" if s["gauge"] is None else f"gauge {long(s['gauge'])} against {s['against']}"
            travel = "" if s["travel"] is None else f", travel {long(s['travel'])}"
            pressed = ", then pressed flat" if s["pressed"] else ""
            out.append(f"     {gauge}{travel}, {plain(s['force'], 1)} kN{pressed}")
            if s["runs_into"]:
                out.append(f"     runs into {'; '.join(s['runs_into'])}")
    return "\n".join(out) + "\n"
