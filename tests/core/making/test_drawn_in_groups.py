"""What is drawn freely in a group that is turned and moved comes out as it does at rest: profiles against tubes, half-profiles, sections and paths."""

import pytest

from zygon.check.run import check
from zygon.design.examples import example
from zygon.design.upgrade import load
from zygon.making.asked.drawings.of import place_of
from zygon.making.kinds.registry import volume_of_part
from zygon.making.pipeline import build
from zygon.owner import flange_id, frame_id


def entry(text):
    return {"text": str(text), "unit": "mm"}


def grouped(axis, angle, move=0):
    data = example("smoker-hook").dump()
    at = {a: entry(k) for a, k in zip([x for x in "xyz" if x != axis], (17, -40), strict=True)}
    data["groups"] = {"g": {
        "name": "all", "order": 0, "parent": "", "move": {"x": entry(move), "z": entry(2 * move)} if move else {},
        "turns": {"t": {"axis": axis, "angle": entry(f"{angle} deg"), "at": at}},
    }}  # fmt: skip
    for record in (*data["parts"].values(), *data["frames"].values()):
        record["group"] = "g"
    return build(load(data))


def figures(built):
    found = {k: volume_of_part(p) for k, p in built.made.items()}
    return found, {k: p.flat.size for k, p in built.flats.items()}


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize(("angle", "move"), [(90, 0), (30, 0), (-71, 25)])
def test_all_of_it_turned_and_moved(axis, angle, move):
    plain, turned = build(example("smoker-hook")), grouped(axis, angle, move)
    assert turned.faults == (), [f.message for f in turned.faults]
    (volumes, sizes), (same, flats) = figures(plain), figures(turned)
    assert same == pytest.approx(volumes, rel=1e-6)
    assert {k: pytest.approx(v, abs=1e-4) for k, v in sizes.items()} == flats
    assert not {p.fault.code for p in check(turned)} & {"overlap", "clash"}


@pytest.mark.parametrize("axis", "xyz")
def test_what_is_drawn_on_lies_where_its_part_is(axis):
    """The sheet lies in the part: the points of the drawing, taken to the room, are turned as the group is."""
    plain, turned = build(example("smoker-hook")), grouped(axis, 30, 25)
    motion = None
    for part, feature in (("bracket", flange_id("bracket", "saddle")), ("button", ""), (frame_id("hook_path"), "")):
        one, other = (place_of(b, part, feature)[0] for b in (plain, turned))
        between = other.motion @ one.motion.inverse
        if motion is not None:
            for p in ((0, 0, 0), (90, 10, -30), (5, 60, 200)):
                assert between.point(p) == pytest.approx(motion.point(p), abs=1e-6)
        motion = between
        assert other.drawn(other.drawing).solved.holds
