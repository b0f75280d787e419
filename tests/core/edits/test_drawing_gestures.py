"""Random gestures on drawings: each gives a drawing that is solved, or a reason; it can be taken back to the letter, and what is kept is what was solved."""

from __future__ import annotations

import math
import random
from typing import Any

import pytest

from tests.core.edits.test_drawings import drawn, plate
from zygon.design.document import Document
from zygon.design.patch import apply_patch, patched
from zygon.drawn.drawing import DIMENSIONS, TAKES
from zygon.edits.drawings.draw import FIGURES, PRESSES
from zygon.edits.operations import OPERATIONS
from zygon.errors import ZygonError
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build


def gesture(r: random.Random, document: Document) -> dict[str, Any]:
    place, drawing = place_of(document, "plate")
    things = [*drawing.points, *drawing.curves, *drawing.references, *(c.id for c in place.candidates()[:6])]
    points, curves = list(drawing.points), list(drawing.curves)

    def press() -> dict[str, Any]:
        on = r.choice(things) if r.random() < 0.4 else r.choice(curves) + ".middle" if curves and r.random() < 0.1 else ""
        seen = r.sample(["level", "upright", "smooth", "square"], 1) if r.random() < 0.3 else []
        return {"x": r.uniform(-10, 130), "y": r.uniform(-10, 90), "on": on, "seen": seen}

    def said() -> dict[str, str]:
        return {"text": r.choice(["wide", "12 mm", "3.3 mm", "wide / 2 + 1", "0", "-4 mm", "95 mm", "1 in"]), "unit": "mm"}

    kind = r.choice(
        ["draw"] * 4
        + ["relate"] * 4
        + ["drag"] * 2
        + ["erase", "ease", "trim", "split", "mirror", "row", "beside", "hold", "find", "name", "letter"]
    )
    some = r.sample(curves, min(len(curves), r.randint(1, 4))) if curves else ["none"]
    match kind:
        case "draw":
            tool = r.choice(list(PRESSES))
            n = r.randint(*PRESSES[tool]) if tool != "spline" else r.randint(2, 5)
            figures = {f: said() for f in FIGURES.get(tool, ()) if r.random() < 0.4}
            more = {"text": r.choice(["Oak", "", "B8 &"])} if tool == "text" else {}
            return {**more, "operation": "draw", "tool": tool, "presses": [press() for _ in range(n)], "figures": figures, "helping": r.random() < 0.3,
                    "sides": r.randint(3, 8), "turns": r.choice(["left", "right"])}  # fmt: skip
        case "relate":
            what = r.choice(list(TAKES))
            entry = {"entry": said()} if what in DIMENSIONS and r.random() < 0.5 else {}
            of = r.sample(things, min(len(things), len(r.choice(TAKES[what]).rstrip("*"))))
            return {"operation": "relate_drawn", "kind": what, "of": of, **entry}
        case "drag":
            to = {k: [r.uniform(-20, 140), r.uniform(-20, 100)] for k in r.sample(points, min(len(points), r.randint(1, 2)))}
            return {"operation": "drag_drawn", "to": to}
        case "erase":
            return {"operation": "erase_drawn", "keys": [r.choice([*points, *curves, *drawing.relations])]}
        case "ease":
            return {"operation": "ease_corner", "points": [r.choice(points)], "how": r.choice(["round", "cut"]), "size": said()}
        case "trim" | "split":
            at = [r.uniform(0, 120), r.uniform(0, 80)]
            return {"operation": "trim_drawn", "curve": some[0], "at": at, "split": kind == "split"}
        case "mirror":
            return {"operation": "mirror_drawn", "curves": some, "about": r.choice(things)}
        case "row":
            return {"operation": "row_drawn", "curves": some[:2], "number": 3, "across": said(), "up": said()}
        case "beside":
            return {"operation": "beside_drawn", "curves": some, "by": said(), "side": r.choice(["left", "right"])}
        case "name":
            return {"operation": "name_drawn", "curve": some[0], "name": r.choice(["", "toe", "heel", "left", "9x"])}
        case "letter":
            return {"operation": "letter_drawn", "curve": some[0], "height": said(), "turned": {"text": "30 deg"}}
        case "hold":
            key = r.choice(list(drawing.relations)) if drawing.relations else "none"
            return {"operation": "hold_drawn", "key": key, "how": r.choice(["hold", "measure", "leave out"])}
        case _:
            return {"operation": "find_relations", "within": r.choice([0.1, 1.0])}


def tried(seed: int, many: int) -> tuple[int, int]:
    """How many gestures were done and how many refused, of a run; whatever else comes fails."""
    r = random.Random(seed)
    document, done, refused = plate(), 0, 0
    for _ in range(many):
        act = gesture(r, document)
        try:
            label, patch = OPERATIONS[act["operation"]].model_validate({"part": "plate", **act}).work(build(document))
        except ZygonError as error:
            assert error.message and error.rule, act
            refused += 1
            continue
        after = patched(document.dump(), patch)
        _, _, inverse = apply_patch(document.dump(), patch)
        assert patched(after.dump(), inverse).dump() == document.dump()
        assert 0 < len(label) <= 200
        built = build(after)
        found = drawn(after)
        assert all(math.isfinite(x) for k in found.drawing.points for x in found.solved.point(k)), act
        off = abs(found.solved.equations.values(found.solved.row)).max(initial=0.0)
        assert off < 1e-4 or found.solved.clashes, (act, off)
        # what is kept is where it lies: building starts there
        if found.solved.holds and act["operation"] != "hold_drawn":
            for k, p in found.drawing.points.items():
                assert math.dist(found.solved.point(k), (p.x, p.y)) < 1e-2, (act, k)
        assert {f.code for f in built.faults} <= {"bad_outline", "contradicts", "bad_value", "lost_reference"}, [
            f.message for f in built.faults
        ]
        document, done = after, done + 1
        if len(found.drawing.points) > 60:
            document = plate()
    return done, refused


@pytest.mark.parametrize("seed", [7, 10, 12, 23, 26, 33, 41, 45])
def test_random_gestures_give_a_drawing_or_a_reason(seed: int) -> None:
    done, refused = tried(seed, 30)
    assert done >= 8 and refused >= 3
