"""Random gestures on drawings: each gives a drawing that is solved, or a reason; it can be taken back to the letter, and what is kept is what was solved."""

from __future__ import annotations

import math
import random
from typing import Any

import pytest

from tests.core.edits.test_drawings import drawn, plate
from zygon.design.document import Document
from zygon.design.examples import example
from zygon.design.patch import apply_patch, patched
from zygon.drawn.drawing import DIMENSIONS, TAKES
from zygon.edits.drawings.draw import FIGURES, PRESSES
from zygon.edits.operations import OPERATIONS
from zygon.errors import ZygonError
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build
from zygon.owner import flange_id, frame_id, stock_id

#: What of a design is drawn on, and how far about its origin that is (mm).
ON = {
    "outline": ("plate", "", (0.0, 0.0, 120.0, 80.0)),
    "profile": ("bracket", flange_id("bracket", "saddle"), (0.0, 0.0, 40.0, 45.0)),
    "half-profile": ("button", "", (0.0, 0.0, 12.0, 12.0)),
    "section": (stock_id("rail"), "", (0.0, 0.0, 24.0, 15.0)),
    "path": (frame_id("hook_path"), "", (60.0, -90.0, 100.0, 15.0)),
}
#: What may be wrong with what is drawn on each.
WRONG = {
    "outline": {"bad_outline"},
    "profile": {"bad_profile", "crosses", "relief_deep", "small_face", "self_overlap"},
    "half-profile": {"bad_profile", "bad_span"},
    "section": {"bad_section"},
    "path": {"bad_path", "no_place", "bad_end"},
}


def begun(on: str) -> Document:
    return plate() if on == "outline" else example("smoker-hook")


def gesture(r: random.Random, document: Document, on: str = "outline") -> dict[str, Any]:
    part, feature, (x0, y0, x1, y1) = ON[on]
    place, drawing = place_of(build(document), part, feature)
    wide, high = x1 - x0, y1 - y0
    things = [*drawing.points, *drawing.curves, *drawing.references, *(c.id for c in place.candidates()[:6])]
    points, curves = list(drawing.points), list(drawing.curves)

    def press() -> dict[str, Any]:
        caught = r.choice(things) if r.random() < 0.4 else r.choice(curves) + ".middle" if curves and r.random() < 0.1 else ""
        seen = r.sample(["level", "upright", "smooth", "square"], 1) if r.random() < 0.3 else []
        x, y = r.uniform(x0 - wide / 8, x1 + wide / 8), r.uniform(y0 - high / 8, y1 + high / 8)
        return {"x": x, "y": y, "on": caught, "seen": seen}

    def said() -> dict[str, str]:
        size = {"outline": "wide", "section": "24 mm"}.get(on, "gap")
        return {"text": r.choice([size, "12 mm", "3.3 mm", f"{size} / 2 + 1", "0", "-4 mm", "95 mm", "1 in"]), "unit": "mm"}

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
            to = {
                k: [r.uniform(x0 - wide / 6, x1 + wide / 6), r.uniform(y0 - high / 4, y1 + high / 4)]
                for k in r.sample(points, min(len(points), r.randint(1, 2)))
            }
            return {"operation": "drag_drawn", "to": to}
        case "erase":
            return {"operation": "erase_drawn", "keys": [r.choice([*points, *curves, *drawing.relations])]}
        case "ease":
            return {"operation": "ease_corner", "points": [r.choice(points)], "how": r.choice(["round", "cut"]), "size": said()}
        case "trim" | "split":
            at = [r.uniform(x0, x1), r.uniform(y0, y1)]
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


def tried(seed: int, many: int, on: str = "outline") -> tuple[int, int]:
    """How many gestures were done and how many refused, of a run; whatever else comes fails."""
    r = random.Random(seed)
    document, done, refused = begun(on), 0, 0
    part, feature, _ = ON[on]
    for _ in range(many):
        act = gesture(r, document, on)
        try:
            label, patch = OPERATIONS[act["operation"]].model_validate({"part": part, "feature": feature, **act}).work(build(document))
        except ZygonError as error:
            assert error.message and error.rule, act
            refused += 1
            continue
        try:
            after = patched(document.dump(), patch)
        except ZygonError as error:  # what follows a path may not do without it
            assert error.message and error.rule, act
            refused += 1
            continue
        _, _, inverse = apply_patch(document.dump(), patch)
        assert patched(after.dump(), inverse).dump() == document.dump()
        assert 0 < len(label) <= 200
        built = build(after)
        found = drawn(after, feature, part)
        assert all(math.isfinite(x) for k in found.drawing.points for x in found.solved.point(k)), act
        off = abs(found.solved.equations.values(found.solved.row)).max(initial=0.0)
        assert off < 1e-4 or found.solved.clashes, (act, off)
        # what is kept is where it lies: building starts there
        if found.solved.holds and act["operation"] != "hold_drawn":
            for k, p in found.drawing.points.items():
                assert math.dist(found.solved.point(k), (p.x, p.y)) < 1e-2, (act, k)
        allowed = {"contradicts", "bad_value", "lost_reference", *WRONG[on]}
        assert {f.code for f in built.faults} <= allowed, (act, [(f.code, f.message) for f in built.faults])
        document, done = after, done + 1
        if len(found.drawing.points) > 60:
            document = begun(on)
    return done, refused


@pytest.mark.parametrize("seed", [7, 10, 12, 23, 26, 33, 41, 45])
def test_random_gestures_give_a_drawing_or_a_reason(seed: int) -> None:
    done, refused = tried(seed, 30)
    assert done >= 8 and refused >= 3


@pytest.mark.parametrize("on", [k for k in ON if k != "outline"])
@pytest.mark.parametrize("seed", [1, 2, 3])
def test_random_gestures_on_whatever_else_is_drawn(on: str, seed: int) -> None:
    done, refused = tried(seed, 20, on)
    assert done >= 4 and refused >= 2
