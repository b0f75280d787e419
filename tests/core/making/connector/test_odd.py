"""Racks that are turned, mirrored and spoilt: nothing brings the core down, and every way out that is offered can be taken."""

import copy
import random

import pytest

from zygon.check.run import check
from zygon.design.examples import example
from zygon.design.layout_operations import group_parts
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.exchange.tubes import template_files, write_bender_table, write_saw_list
from zygon.making.pipeline import build
from zygon.screen.design import built_data

RACK = example("drying-rack")
TEXTS = [
    "0",
    "-5 mm",
    "1e9 mm",
    "nope",
    "1/0",
    "tee_front_left_1.top",
    "leg_front_left.left",
    "300 mm",
    "90 deg",
    "wide",
    "foot_front_left.bottom",
    "3 mm",
]


@pytest.mark.parametrize("angle", ["0", "37 deg", "90 deg"])
@pytest.mark.parametrize("copies", [{}, {"kind": "mirror", "axis": "x", "at": {"text": "1500 mm"}, "names": {}}])
def test_a_rack_in_a_group_is_turned_and_mirrored_with_all_that_it_has(angle, copies):
    data = patched(RACK.dump(), group_parts(RACK, list(RACK.parts)[:3], "g")[1]).dump()
    (key,) = data["groups"]
    data["groups"][key]["turns"] = {"t": {"axis": "z", "angle": {"text": angle}, "at": {"x": {"text": "100 mm"}, "y": {"text": "50 mm"}}}}
    if copies:
        data["copies"]["m"] = {"name": "m", "of": [f"group:{key}"], "order": 0, **copies}
    built = build(patched(data, []))
    n = 2 if copies else 1
    assert not built.faults and len(built.seats) == 44 * n
    assert not check(built, assembled=False)
    # a rack is its own mirror image: every row holds both
    counts = {r.quantity for r in cut_list(built) if r.part != "grub_screw_6"}
    assert counts == {c * n for c in (4, 6, 12)}
    still = build(RACK)
    for part in still.made:
        assert built.made[part].body.alike == still.made[part].body.alike


def spoilt(rng):
    data = copy.deepcopy(RACK.dump())
    for _ in range(rng.randint(1, 4)):
        if rng.random() < 0.3:
            member = data["parts"][rng.choice([k for k, p in data["parts"].items() if p["kind"] == "member"])]
            hole = {
                "off": {"text": rng.choice(TEXTS)},
                "wide": {"text": rng.choice(TEXTS)},
                "around": {"text": rng.choice(TEXTS)},
                "walls": rng.choice(["one", "both"]),
                "count": rng.choice([1, 3, 200]),
                "ring": rng.choice([1, 4]),
            }
            member["holes"] = {"h": hole}
            member["worked"] = {
                rng.choice("ab"): {
                    "thread": rng.choice(["", "M8", "M30"]),
                    "long": {"text": rng.choice(TEXTS)},
                    "chamfer": {"text": rng.choice(TEXTS)},
                }
            }
            continue
        part = data["parts"][rng.choice([k for k, p in data["parts"].items() if p["kind"] == "connector"])]
        socket = part["sockets"][rng.choice(list(part["sockets"]))]
        field = rng.choice(
            [
                "lean",
                "depth",
                "out",
                "across",
                "fit",
                "beside",
                "toward",
                "swings",
                "through",
                "line",
                "wall",
                "base",
                "turn",
                "another",
                "point",
                "less",
            ]
        )
        if field in ("lean", "depth", "out", "across", "fit", "beside"):
            socket[field] = {"text": rng.choice(TEXTS)}
        elif field == "toward":
            socket[field] = rng.choice(["left", "up", "down", "front"])
        elif field == "swings":
            socket[field] = rng.choice(["", "x", "y", "z"])
        elif field == "through":
            socket[field] = rng.random() < 0.5
        elif field == "line":
            socket[field] = rng.choice(["leg_lf", "gone", "rail_f0"])
        elif field in ("wall", "base", "turn"):
            part[field] = {"text": rng.choice(TEXTS)}
        elif field == "another":
            part[field] = rng.randint(0, 5)
        elif field == "point":
            part[field] = rng.choice(list(data["frames"]["rack"]["points"]))
        elif len(part["sockets"]) > 1:
            part["sockets"].popitem()
    return data


@pytest.mark.parametrize("seed", range(14))
def test_whatever_is_typed_into_a_connector_or_a_tube_is_answered(seed):
    try:
        document = patched(spoilt(random.Random(seed)), [])
    except DocumentError as error:
        assert error.entry.startswith("/parts/")
        return
    built = build(document)
    problems = check(built, assembled=seed % 10 == 0)
    built_data(built, problems)
    write_saw_list(built)
    write_bender_table(built)
    template_files(built, "dxf")
    for problem in problems:
        assert problem.fault.message and problem.fault.rule
        for mend in problem.fault.mends:
            patched(document.dump(), mend.patch)
