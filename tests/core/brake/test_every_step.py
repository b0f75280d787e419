"""Orders, tools, gauges, poses and what runs into what, of small folded parts of many sorts: what they were."""

import itertools

import numpy as np
import pytest
import shapely

from tests.core.figures import compared, condensed
from tests.core.making.metal.test_every_fold import made
from tests.core.making.metal.trays import SIDES, flange, folded
from zygon.brake.order import _Search, bend_order, strokes_and_tools, strokes_of
from zygon.brake.pose import Pose, Workpiece
from zygon.brake.profiles import die_profile, punch_profiles
from zygon.brake.slabs import runs_into
from zygon.design.workshop import BRAKE
from zygon.errors import StoppedError
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake, Die, Punch

BENCH = Brake.model_validate(BRAKE)
RULE = Bending(rule="k", k=0.42, strength=380.0)


def parts():
    """Bends both ways, with lips, hems, offsets, on one line, nested, wide and narrow."""
    yield "ell", {"l": made("flange", "left", length=31)}
    yield "zed", {"l": made("flange", "left", length=31), "r": made("flange", "right", length=24, toward="b", order=1)}
    yield "channel", {"l": made("flange", "left", length=41), "r": made("flange", "right", length=41, order=1)}
    yield "deep", {"l": made("flange", "left", length=120), "r": made("flange", "right", length=120, order=1)}
    yield (
        "lips",
        {
            "f": made("flange", "front", length=33),
            "lip": flange("end", 14, on="f", order=1),
            "b": made("flange", "back", length=20, angle="120 deg", order=2),
        },
    )
    yield "back lip", {"f": made("flange", "right", length=33), "lip": flange("end", 14, on="f", order=1, toward="b", angle="60 deg")}
    yield "hem", {"h": made("hem", "left", length=12), "f": made("flange", "right", length=25, order=1, toward="b")}
    yield "offset", {"o": made("offset", "front", length=29, height=11), "f": made("flange", "left", length=25, order=1)}
    yield "small offset", {"o": made("offset", "back", length=29, height=5, angle="60 deg", toward="b")}
    yield (
        "one line",
        {
            "a": made("flange", "left", length=27, extent="between", first="5", second="50"),
            "b": made("flange", "left", length=19, extent="between", first="70", second="110", order=1),
        },
    )
    yield (
        "unlike line",
        {
            "a": made("flange", "left", length=27, extent="between", first="5", second="50"),
            "b": made("flange", "left", length=19, angle="60 deg", extent="between", first="70", second="110", order=1),
            "c": made("flange", "left", length=19, toward="b", extent="between", first="112", second="128", order=2),
        },
    )
    yield "profile", {"p": made("profile", "right")}
    yield "short", {"l": made("flange", "left", length=6), "r": made("flange", "right", length=9, order=1)}
    yield "gusset", {"l": made("flange", "back", length=31, radius="4"), "s": made("flange", "front", length=31, radius="0.4", order=1)}
    yield "box", {s: made("flange", s, length=24 + 3 * n, order=n) for n, s in enumerate(SIDES)}


PARTS = dict(parts())


def fold_of(name):
    part = folded(PARTS[name], width=120, depth=140, thickness=1.5).parts["p"]
    return part.flat.fold, part.flat.thickness


def option(tool):
    return tool and [tool.punch.name, tool.die.name, tool.name, tool.force, tool.radius]


def step(s):
    return [
        s.bends,
        option(s.tool),
        [s.gauge.__dict__[k] for k in s.gauge.__dict__],
        s.length,
        s.force,
        s.offset,
        s.flipped,
        s.turned,
        s.collides,
    ]


@pytest.mark.parametrize("name", PARTS)
def test_the_order_of_bending_and_each_step_of_it_is_what_it_was(name):
    fold, t = fold_of(name)
    found = [[step(s) for s in bend_order(fold, t, RULE, BENCH)]]
    keys = [b.key for b in fold.bends]
    found.append([step(s) for s in bend_order(fold, t, RULE, BENCH, by_hand=keys[::-1], names={"l": "the left one", "lip": "its lip"})])
    for joggle in (0.0, 4.0, 12.0):
        found.append(strokes_of(fold, joggle))
    for stroke, tools in strokes_and_tools(fold, t, RULE, BENCH):
        found.append([[stroke.__dict__[k] for k in stroke.__dict__], [option(o) for o in tools]])
    compared(f"steps {name}", {"steps": condensed(found)})


@pytest.mark.parametrize("more", [{"length": 60.0}, {"force": 3.0}, {"gauge": 60.0}, {"free": 25.0}, {"joggle": 0.0}, {"joggle": 20.0}])
def test_another_brake_bends_otherwise_as_it_did(more):
    found = []
    for name in ("lips", "offset", "small offset", "zed", "box"):
        fold, t = fold_of(name)
        found.append([name, [step(s) for s in bend_order(fold, t, RULE, BENCH.model_copy(update=more))]])
    compared(f"brakes {next(iter(more))} {next(iter(more.values())):g}", {"steps": condensed(found)})


@pytest.mark.parametrize("name", ["zed", "lips", "back lip", "hem", "offset", "box"])
def test_a_workpiece_in_the_brake_lies_where_it_lay(name):
    fold, t = fold_of(name)
    work, found = Workpiece(fold, t), []
    n = len(fold.bends)
    for bend, (share, before) in itertools.product(range(n), ((0.0, 0.0), (0.5, 1.0), (1.0, 1.0), (0.3, 0.0))):
        shares = [before if k < bend else share if k == bend else 0.0 for k in range(n)]
        pose = Pose.of(
            work, bend, shares, v=8.0, extent=(3.0, fold.bends[bend].length - 5.0) if hasattr(fold.bends[bend], "length") else (3.0, 40.0)
        )
        low, high = pose.slabs.boxes
        found.append([bend, shares, pose.low, pose.high, pose.tip, pose.slabs.zones.tolist(), low.tolist(), high.tolist()])
        counts = np.array([work.moves_with(z, bend) for z in pose.slabs.zones.tolist()])
        for punch, ram in punch_profiles(BENCH.punches["goose"]):
            found.append([pose.meets(counts, punch), pose.meets(counts, ram), pose.meets(~counts, punch, 4.0)])
        body, bed = die_profile(BENCH.dies["v8"])
        found.append([pose.meets(counts, body), pose.meets(counts, bed), sorted(work.carried(bend))])
        pieces = work.pieces(shares)
        found.append([[runs_into(a, b) for b in pieces[k + 1 :]] for k, a in enumerate(pieces)])
    compared(f"poses {name}", {"poses": condensed(found)})


def test_tools_have_the_outlines_that_they_had():
    found = []
    punches = [
        *BENCH.punches.values(),
        Punch(name="x", angle=70.0, radius=2.5, width=9.0, height=80.0),
        Punch(name="y", angle=120.0, radius=0.2, width=30.0, height=60.0),
    ]
    for punch in punches:
        found.append([[shapely.get_coordinates(s).tolist() for s in both] for both in punch_profiles(punch)])
    for die in (*BENCH.dies.values(), Die(name="z", v=20.0, angle=60.0, radius=3.0, width=35.0, height=55.0)):
        found.append([shapely.get_coordinates(s).tolist() for s in die_profile(die)])
    compared("tools", {"tools": condensed(found)})


def test_a_search_that_is_stopped_says_so_and_is_asked_before_every_try():
    fold, t = fold_of("box")
    with pytest.raises(StoppedError):
        bend_order(fold, t, RULE, BENCH, stop=lambda: True)
    asked = itertools.count()
    with pytest.raises(StoppedError):
        bend_order(fold, t, RULE, BENCH, stop=lambda: next(asked) >= 2)
    assert next(asked) == 3


def test_when_tries_run_out_the_best_order_so_far_stands():
    fold, t = fold_of("box")
    found = []
    for most in (0, 1, 3, 9):
        search = _Search(fold, t, RULE, wide_brake(), {}, bool)
        search.left = most
        order = search.found([])
        found.append([order, search.left])
        assert sorted(order) == list(range(len(search.strokes)))
    compared("few tries", {"orders": condensed(found)})


def wide_brake():
    """A brake on which most orders run into something."""
    dies = {k: d.model_copy(update={"width": d.width * 3}) for k, d in BENCH.dies.items()}
    return BENCH.model_copy(update={"dies": dies})


def strokes(**flanges):
    part = folded(flanges, width=120, depth=140, thickness=1.5).parts["p"]
    return [[part.flat.fold.bends[i].key for i in s] for s in strokes_of(part.flat.fold, 4.0)], part.flat.fold


def beside(first, second):
    """Two flanges beside one another on the left edge."""
    one = made("flange", "left", **{"length": 27, "extent": "between", "first": "5", "second": "50", **first})
    other = made("flange", "left", **{"length": 19, "extent": "between", "first": "70", "second": "110", **second})
    return strokes(a=one, b={**other, "order": 1})[0]


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ({"radius": "2", "where": "edge"}, {"radius": "4", "where": "edge"}),
        ({"angle": "60 deg"}, {"angle": "75 deg"}),
        ({"where": "inside"}, {"where": "outside"}),
        ({"toward": "a"}, {"toward": "b"}),
    ],
)
def test_bends_of_another_radius_angle_line_or_way_are_strokes_of_their_own_whichever_comes_first(one, other):
    assert beside({}, {}) == [["a", "b"]]
    assert beside(one, one) == [["a", "b"]] and beside(other, other) == [["a", "b"]]
    assert beside(one, other) == beside(other, one) == [["a"], ["b"]]


def test_an_order_by_hand_that_names_one_bend_of_a_stroke_means_the_stroke():
    fold, t = fold_of("one line")
    more = (
        folded({**PARTS["one line"], "r": made("flange", "right", length=20, order=2)}, width=120, depth=140, thickness=1.5).parts["p"].flat
    )
    keys = [[more.fold.bends[i].key for i in s.bends] for s in bend_order(more.fold, t, RULE, BENCH, by_hand=["b", "r"])]
    assert keys == [["a", "b"], ["r"]]
    keys = [[more.fold.bends[i].key for i in s.bends] for s in bend_order(more.fold, t, RULE, BENCH, by_hand=["r", "b"])]
    assert keys == [["r"], ["a", "b"]] and len(fold.bends) == 2
