"""How far things go: against exact formulas, and against the solids themselves at five hundred places."""

import math
from itertools import count

import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.movement.scenes import T, arm, found, four_bar, held, moving_of, said_travel, shaft
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.upgrade import load
from zygon.making.movement.found import movements_of
from zygon.making.movement.pose import about, posed, stepped
from zygon.making.movement.said import said_of
from zygon.making.movement.travel import nearest, travel
from zygon.making.pipeline import build
from zygon.making.result.built import MadePart
from zygon.making.solids.solids import solid_in_room

DEG = math.degrees


@settings(max_examples=25, deadline=None)
@given(st.floats(-8, 20), st.floats(40, 110))
def test_an_arm_strikes_a_stop_where_its_corner_reaches_it(angle, height):
    """The upper corner lies 120 before the bolt and 15 over it: it reaches a height h at asin(h / r) by the definition of the sine."""
    found = said_travel(arm(round(angle, 3), round(height, 3)), "turns:arm").high
    r, begins = math.hypot(120, 15), math.atan2(15, 120) - math.radians(round(angle, 3))
    assert found.why == "strikes"
    assert (found.a, found.b) == ("arm", "stop")
    assert DEG(found.by) == pytest.approx(DEG(math.asin(round(height, 3) / r) - begins), abs=0.01)
    # it meets it where the corner then is
    assert found.at is not None
    assert found.at[2] == pytest.approx(100 + round(height, 3), abs=1.5)
    assert found.at[0] == pytest.approx(100 + math.sqrt(r**2 - round(height, 3) ** 2), abs=2.5)


def test_an_arm_that_reaches_no_stop_turns_all_round():
    found = said_travel(arm(0, 125), "turns:arm")
    assert found.low.why == found.high.why == "round"


@pytest.mark.parametrize("room", [25, 40, 90])
def test_a_lid_strikes_the_wall_behind_it_where_its_far_edge_reaches_it(room):
    """The lid turns about its hinges' pin, which lies so far behind its back edge; its upper far corner comes nearest to the wall."""
    data = EXAMPLES["tool-chest"]().dump()
    data["moves"] = data["positions"] = {}
    draft = Draft("wall", "ply18")
    draft.board("wall", "ply18", "facing_front", 400 + room, (0, 520), (0, 800), face="front")
    data["parts"]["wall"] = draft.data["parts"]["wall"] | {"order": 99}
    data["ties"] = {"wall": {"a": "wall", "b": "left", "how": "held", "order": 0}}
    document = load(data)
    stop = said_travel(document, "turns:lid").high
    moving = moving_of(document)
    lid = found(moving, "turns", "lid")
    y0, z0 = lid.at[1], lid.at[2]
    corners = moving.pieces["lid"].corners[:, 1:] - (y0, z0)

    def farthest(angle):  # about -x: y' = y cos - z sin with the right hand about +x the other way round
        c, s = math.cos(-angle), math.sin(-angle)
        return float((corners[:, 0] * c - corners[:, 1] * s).max()) + y0

    low, high = 0.0, math.pi
    if farthest(0.0) > 400 + room:
        assert stop.by == pytest.approx(0, abs=1e-3)
        return
    at = next(a for a in np.linspace(0, math.pi, 20000) if farthest(a) > 400 + room)
    low, high = at - math.pi / 19999, at
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (low, middle) if farthest(middle) > 400 + room else (middle, high)
    assert stop.why == "strikes"
    assert {stop.a, stop.b} == {"lid", "wall"}
    assert DEG(stop.by) == pytest.approx(DEG(low), abs=0.01)


@pytest.mark.parametrize("inside", [60.0, 100.0, 101.3])
@pytest.mark.parametrize("ring", [3.0, 4.0, 4.7])
def test_a_shaft_goes_as_far_as_its_rings_let_it(inside, ring):
    """DIN 471 for 8 mm is 0.8 thick and lies against the outer wall of its groove: from the wall of the board to the ring are 6 - ring - 0.8."""
    found = said_travel(shaft(inside=inside, ring=ring), "slides:shaft")
    assert found.low.by == pytest.approx(-(6 - ring - 0.8), abs=1e-3)
    assert found.high.by == pytest.approx(6 - ring - 0.8, abs=1e-3)
    assert {found.low.why, found.high.why} == {"strikes"}
    assert {found.low.b, found.high.b} == {"left", "right"}


def test_a_drawer_goes_as_far_as_its_slides_and_a_panel_comes_out():
    chest = EXAMPLES["tool-chest"]()
    stops = said_travel(chest, "slides:drawer_left")
    assert (stops.low.by, stops.high.by, stops.high.why) == (0.0, 350.0, "limit")
    floor = EXAMPLES["hive-floor"]().dump()
    floor["moves"], floor["positions"] = {}, {}
    assert said_travel(load(floor), "slides:slide").high.why == "out"


def test_a_limit_that_is_said_is_where_it_ends_and_none_is_wider_than_the_hardware():
    data = EXAMPLES["tool-chest"]().dump()
    for said, ends in (("100 mm", 100.0), ("900 mm", 350.0)):
        data["moves"]["drawer"]["most"] = {"text": said, "unit": "mm"}
        assert said_travel(load(data), "slides:drawer_left").high.by == pytest.approx(ends)


def _brute(a: MadePart, b: MadePart, moves, ends) -> tuple[int | None, int | None]:
    """Of five hundred places the first at which two solids have anything in common, and the first at which that is thicker than contact (mm)."""
    one, other = solid_in_room(a), solid_in_room(b)
    touched = None
    for k, by in enumerate(np.linspace(0, ends, 500)):
        both: manifold3d.Manifold = one.transform(np.array(moves(by).rows)) ^ other
        if both.is_empty() or both.volume() < 1e-9:
            continue
        touched = k if touched is None else touched
        if 2 * both.volume() / both.surface_area() > 0.06:
            return touched, k
    return touched, None


def _pair(seed):
    """A turned board on a bolt and a turned block within its reach, apart as they are drawn."""
    for tried in count():
        rng = np.random.default_rng((seed, tried))
        d = Draft("pair", "ply12", cutter="router")
        d.board("wall", "ply12", "facing_front", 0, (0, 500), (0, 500))
        x, z = rng.uniform(150, 350, 2).round(1)
        long, wide = rng.uniform(60, 140), rng.uniform(20, 60)
        d.board("arm", "ply12", "facing_front", "wall.front - 2 mm", (x - 20, x + long), (z - wide / 2, z + wide / 2), face="back")
        d.turn("arm", "y", f"{rng.uniform(0, 360):.2f} deg", x=x, z=z)
        d.bore("pin", "y", {"x": f"{x}", "z": f"{z}"}, "6 mm", wall=("cut", "0"), arm=("cut", "0.4 mm"))
        d.hardware("pin", head="none", size="M6", side="low")
        far, round_it = rng.uniform(30, long + 20), rng.uniform(0, 2 * math.pi)
        u, v = x + far * math.cos(round_it), z + far * math.sin(round_it)
        d.block("block", (u, u + rng.uniform(10, 60)), (-60, rng.uniform(-12, -3)), (v, v + rng.uniform(10, 60)))
        d.turn("block", "y", f"{rng.uniform(0, 90):.2f} deg", x=u, z=v)
        d.turn("block", "x", f"{rng.uniform(-10, 10):.2f} deg", y=-20, z=v)
        held(d, "block", "wall")
        built = build(d.document())
        parts = built.made["arm"], built.made["block"]
        if (solid_in_room(parts[0]) ^ solid_in_room(parts[1])).is_empty():
            return movements_of(built), parts
    raise AssertionError


@pytest.mark.parametrize("seed", range(200))
def test_what_is_struck_first_of_random_pairs_is_what_the_solids_strike(seed):
    """The stop lies between the last place that is free and the first that is not, both ways round."""
    moving, parts = _pair(seed)
    movement = found(moving, "turns", "arm")
    travels = travel(moving, (), movement)
    for sign, stop in ((1, travels.high), (-1, travels.low)):
        touched, bites = _brute(*parts, lambda by, sign=sign: about(movement, sign * by), 2 * math.pi)
        step = 2 * math.pi / 499
        assert stop.why in ("round", "strikes")
        assert stop.why == "strikes" or bites is None
        if stop.why == "strikes":
            assert stop.b == "block"
            # where it is struck there is nothing in common yet but what counts as contact, and there is right behind
            there, behind = (
                solid_in_room(parts[0]).transform(np.array(about(movement, stop.by + sign * more).rows)) ^ solid_in_room(parts[1])
                for more in (-1e-4, 2e-3)
            )
            assert 2 * there.volume() <= 0.06 * there.surface_area()
            assert behind.volume() > 0
        if touched is not None and stop.why == "strikes":
            assert abs(stop.by) >= (touched - 1) * step - 1e-3
        if bites is not None:
            assert abs(stop.by) <= bites * step + 1e-3


def _circles(p, r, q, s, near):
    """Where two circles meet, the place nearer to ``near``."""
    d = math.dist(p, q)
    a = (r * r - s * s + d * d) / (2 * d)
    h = math.sqrt(r * r - a * a)
    ux, uz = (q[0] - p[0]) / d, (q[1] - p[1]) / d
    both = [(p[0] + a * ux + k * h * uz, p[1] + a * uz - k * h * ux) for k in (-1, 1)]
    return min(both, key=lambda c: math.dist(c, near))


def test_four_bars_go_as_circles_say():
    """A crank and rocker (Grashof: 60 + 200 < 171 + 126): for each angle of the crank the rocker's end lies where two circles meet."""
    points = {"A": (0.0, 0.0), "B": (0.0, 60.0), "C": (160.0, 120.0), "D": (200.0, 0.0)}
    moving = moving_of(four_bar(points))
    near = points["C"]
    coupler, rocker = math.dist(points["B"], points["C"]), math.dist(points["D"], points["C"])
    begins = math.atan2(points["C"][1], points["C"][0] - 200.0)
    steps = stepped(moving, (), {}, "turns:crank", 2 * math.pi, 120)
    assert len(steps) == 120
    for at, off in steps:
        angle = math.pi / 2 + at["turns:crank"]
        near = _circles((60 * math.cos(angle), 60 * math.sin(angle)), coupler, points["D"], rocker, near)
        wanted = math.atan2(near[1], near[0] - 200.0) - begins
        assert off < 1e-5
        assert math.remainder(at["turns:rocker"] - wanted, 2 * math.pi) == pytest.approx(0, abs=1e-6)
    assert steps[-1][0]["turns:rocker"] == pytest.approx(0, abs=1e-6)


def test_what_turns_back_is_told_with_its_ends():
    """The rocker's outermost places: crank and coupler in one line, drawn out and folded over."""
    points = {"A": (0.0, 0.0), "B": (0.0, 60.0), "C": (160.0, 120.0), "D": (200.0, 0.0)}
    coupler, rocker = math.dist(points["B"], points["C"]), math.dist(points["D"], points["C"])
    begins = math.atan2(120, -40)

    def angle(reach):  # of the rocker where its end is so far from A: the law of cosines
        inner = math.acos((200**2 + rocker**2 - reach**2) / (2 * 200 * rocker))
        return math.pi - inner - begins

    found = said_travel(four_bar(points), "turns:rocker")
    ends = sorted((angle(coupler + 60), angle(coupler - 60)))
    assert (DEG(found.low.by), DEG(found.high.by)) == pytest.approx([DEG(e) for e in ends], abs=0.05)
    assert {found.low.why, found.high.why} == {"loop"}


def gears(first: int, second: int, module: float = 2.0, *, apart: float = 0.0):
    """Two gears on bolts before a wall, as far apart as their teeth ask for and so much more."""
    d = Draft("gears", "ply12", cutter="laser")
    d.board("wall", "ply12", "facing_front", 0, (-100, 300), (-100, 200))
    between = module * (first + second) / 2 + apart
    for name, teeth, x in (("one", first, 0.0), ("other", second, between)):
        over = module * (teeth + 2) / 2
        outline = {"kind": "gear", "module": d.entry(f"{module} mm"), "teeth": teeth}
        d.board(name, "ply12", "facing_front", "wall.front", (x - over, x + over), (-over, over), face="back", outline=outline)
        d.bore(f"pin_{name}", "y", {"x": f"{x} mm", "z": "0"}, "5 mm", wall=("cut", "0"), **{name: ("cut", "0.3 mm")})
        d.hardware(f"pin_{name}", head="button", size="M5", side="low", nut="locking_nut")
    return d.document()


def test_gears_of_17_and_43_teeth_drive_one_another_by_17_43():
    said = said_of(build(gears(17, 43)))
    (coupling,) = said.couplings
    assert coupling.ratio == pytest.approx(-17 / 43)
    at = posed(said.moving, said.couplings, {"turns:one": 2 * math.pi}).at
    assert at["turns:other"] == pytest.approx(-2 * math.pi * 17 / 43, abs=1e-9)
    back = posed(said.moving, said.couplings, {"turns:other": 0.3}).at
    assert back["turns:one"] == pytest.approx(-0.3 * 43 / 17, abs=1e-9)


@pytest.mark.parametrize("teeth", [(17, 43), (20, 30), (43, 17)])
def test_the_teeth_of_gears_do_not_strike_one_another_all_round(teeth):
    found = said_travel(gears(*teeth), "turns:one")
    assert found.low.why == found.high.why == "round"


@pytest.mark.parametrize("to", [1e3, -1e6, 1e9])
def test_a_coupled_thing_that_is_moved_very_far_is_laid_at_once(to):
    said = said_of(build(gears(20, 30)))
    at = posed(said.moving, said.couplings, {"turns:one": to}).at
    assert at["turns:other"] == pytest.approx(-to * 20 / 30, rel=1e-9)
    leg = moving_of(EXAMPLES["fold-down-leg"]())
    assert math.isfinite(posed(leg, (), {"turns:leg": to}).open_by)


@pytest.mark.parametrize("apart, meet", [(0.0, True), (1.0, True), (1.6, False), (5.0, False)])
def test_gears_that_stand_apart_do_not_drive_one_another(apart, meet):
    assert bool(said_of(build(gears(20, 30, apart=apart))).couplings) is meet


def test_room_on_the_way_is_least_where_the_corner_passes():
    """A block of which the corner lies 140 from the bolt: the arm's farthest corner passes it at 140 - r."""
    d = load(arm(0, 150).dump())
    data = d.dump()
    draft = Draft("block", "ply12")
    at = math.radians(60)
    x, z = 100 + 140 * math.cos(at), 100 + 140 * math.sin(at)
    draft.block("block", (x, x + 30), (-11, -1), (z, z + 30))
    data["parts"]["block"] = draft.data["parts"]["block"] | {"order": 9}
    data["ties"]["block"] = {"a": "block", "b": "wall", "how": "held", "order": 5}
    moving = moving_of(load(data))
    movement = found(moving, "turns", "arm")
    least = nearest(moving, (), movement, (0.0, math.radians(89)), 40.0, lambda a, b: b in ("wall",) or "~set" in b)
    assert least is not None
    assert {least.a, least.b} == {"arm", "block"}
    r = math.hypot(120, 15)
    assert least.room == pytest.approx(140 - r, abs=0.05)
    assert DEG(least.by) == pytest.approx(60 - DEG(math.atan2(15, 120)), abs=2)


def test_chains_compose():
    """A drawer on slides in a carcass that itself slides: what the drawer carries goes both ways at once."""
    moving = moving_of(EXAMPLES["fold-down-leg"]())
    at = posed(moving, (), {"turns:leg": math.radians(40)})
    leg, stay = found(moving, "turns", "leg"), found(moving, "turns", "stay")
    carried = about(leg, at.at[leg.key]) @ about(stay, at.at[stay.key])
    assert at.motions["stay"].same(carried)
    # its slot still lies round the bolt in the cheek: the bolt's place, seen from the stay, has only gone along the slot
    (link,) = moving.closing
    seen = np.array(at.motions["stay"].inverse.point(link.at)) - np.array(link.at)
    along = np.array(link.along[0])
    assert np.linalg.norm(seen - along * float(seen @ along)) < 1e-4
    assert abs(float(seen @ along)) > 10
    assert pytest.approx(11.8) == T
