"""Which paths a cutter gets, from which face, in which order, what is left to the hand; each figure and each limit, on both sides of it."""

import math

import pytest
import shapely

from zygon.cut.kerf import ByHand, CutContours, Drill, bend_lines, by_hand_of, compensated, cut_on_the_line, depth_operation, kerf_of
from zygon.cut.reckon import by_hand, cutting_order, reckon
from zygon.design.draft import Draft
from zygon.design.workshop import ROUTER
from zygon.geometry.contour import circle, polyline, rectangle
from zygon.making.flats.flat import turned_over
from zygon.making.pipeline import build
from zygon.stock.cutter import Cutter, layer_of


def worked(face="a", cutter="router"):
    """A board with a pocket, a blind hole and a countersink on one face, and a pocket, a blind hole and a countersink of other sizes on the other."""
    d = Draft("d", "ply12", cutter=cutter)
    d.board("p", "ply12", "lying", 0, (0, 300), (0, 160), up="a")
    face, other = ("top", "bottom") if face == "a" else ("bottom", "top")  # A lies up
    d.feature("p", "pocket", "pocket", ("left", 60), ("front", 50), width="40", height="30", depth="5", face=face)
    d.feature("p", "under", "pocket", ("left", 200), ("front", 110), width="50", height="20", depth="3", face=other)
    d.feature("p", "blind", "hole", ("left", 120), ("front", 30), diameter="9", depth="4", face=face)
    d.feature("p", "below", "hole", ("left", 260), ("front", 30), diameter="11", depth="7", face=other)
    d.feature("p", "through", "hole", ("left", 120), ("front", 120), diameter="8")
    return d.document()


@pytest.mark.parametrize("face", ["a", "b"])
@pytest.mark.parametrize("over", [False, True])
def test_only_what_is_on_the_face_that_is_seen_is_cut_from_it(face, over):
    flat = build(worked(face)).parts["p"].flat
    flat = turned_over(flat) if over else flat
    found = compensated(flat, 6.0, ByHand(10.0, 10.0))
    first = flat.seen == face
    names = [f"depth-{face}-5"] if first else [f"depth-{flat.seen}-3", f"depth-{flat.seen}-7"]  # the hole of 11 is over the limit
    assert [n for n, _ in found.depths] == names
    path = found.depths[0][1]
    x0, y0, x1, y1 = path.bounds
    assert (x1 - x0, y1 - y0) == pytest.approx((34, 24) if first else (44, 14))
    by_depth = {d.depth: d.contour.as_circle[2] for d in found.drills}
    assert by_depth == {0.0: pytest.approx(4.0), **({4.0: pytest.approx(4.5)} if first else {})}


@pytest.mark.parametrize(("most", "left"), [(8.01, True), (8.0, True), (7.99, False)])
def test_a_hole_is_left_to_the_drill_up_to_its_limit(most, left):
    flat = build(worked()).parts["p"].flat
    found = compensated(flat, 1.0, ByHand(through=most))
    assert [d.contour.as_circle[2] for d in found.drills] == ([pytest.approx(4)] if left else [])
    assert [c.as_circle[2] for c in found.inside if c.as_circle] == ([] if left else [pytest.approx(3.5)])


@pytest.mark.parametrize(("most", "left"), [(9.01, True), (9.0, True), (8.99, False)])
def test_a_blind_hole_is_left_to_the_drill_up_to_its_limit(most, left):
    found = compensated(build(worked()).parts["p"].flat, 1.0, ByHand(blind=most))
    assert [(d.contour.as_circle[2], d.depth) for d in found.drills] == ([(pytest.approx(4.5), 4.0)] if left else [])
    assert ("depth-a-4" in [n for n, _ in found.depths]) != left


def test_a_laser_leaves_pockets_as_lines_and_blind_holes_to_the_drill_a_saw_all_holes_a_router_what_its_bit_cannot():
    document = worked(cutter="laser")
    flat = build(document).parts["p"].flat
    laser, saw, router = (Cutter.model_validate({**ROUTER, "kind": k}) for k in ("laser", "saw", "router"))
    assert by_hand_of(None, "ply12") == ByHand()
    assert by_hand_of(laser, "ply12") == ByHand(0.0, math.inf, True)
    assert by_hand_of(saw, "ply12") == ByHand(math.inf, math.inf, False)
    assert by_hand_of(router, "ply12") == ByHand(pytest.approx(6.0, abs=1e-5), pytest.approx(6.0, abs=1e-5), False)
    assert by_hand_of(router, "ply12").through < 6  # a hole as wide as the bit is the bit's own work
    found = compensated(flat, 0.2, by_hand_of(laser, "ply12"))
    assert not found.depths and [c.bounds for c in found.notes] == [pytest.approx((40, 35, 80, 65))]
    assert [d.depth for d in found.drills] == [4.0]
    found = compensated(flat, 3.0, by_hand_of(saw, "ply12"))
    assert sorted(d.depth for d in found.drills) == [0.0, 4.0] and [n for n, _ in found.depths] == ["depth-a-5"] and not found.notes


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("face", ["a", "b"])
def test_a_pocket_open_at_an_edge_is_cut_from_half_a_bit_beyond_it_to_half_a_bit_before_its_end(edge, face):
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 300), (0, 160), up="a")
    d.feature("p", "r", "rebate", ("centre", 0), ("centre", 0), edge=edge, width="22", depth="5", face="top" if face == "a" else "bottom")
    flat = build(d.document()).parts["p"].flat
    flat = flat if flat.seen == face else turned_over(flat)
    ((_, path),) = compensated(flat, 6.0).depths
    x0, y0, x1, y1 = path.bounds
    bx0, by0, bx1, by1 = flat.bounds
    # the path of the bit's middle: past the three open sides by nothing but what the tool runs out, 3 mm, less its radius
    wide, high = (19, 160) if edge in ("left", "right") else (300, 19)
    assert (x1 - x0, y1 - y0) == pytest.approx((wide, high))
    seen_left = (edge == "left") == (flat.seen == "a")
    if edge in ("left", "right"):
        assert (x0 if seen_left else x1) == pytest.approx(bx0 if seen_left else bx1) and (y0, y1) == pytest.approx((by0, by1))
    else:
        assert (y0 if edge == "front" else y1) == pytest.approx(by0 if edge == "front" else by1) and (x0, x1) == pytest.approx((bx0, bx1))


@pytest.mark.parametrize("up", ["a", "b"])
@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("angle", ["90", "41", "120"])
@pytest.mark.parametrize("over", [False, True])
def test_bend_lines_lie_in_the_middle_of_their_bends_and_say_which_way(up, toward, angle, over):
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 150), (0, 90), up=up)
    d.fold("p")
    d.flange("p", "f", "left", "40", angle=f"{angle} deg", toward=toward)
    flat = build(d.document()).parts["p"].flat
    flat = turned_over(flat) if over else flat
    ((name, line),) = bend_lines(flat)
    (bend,) = flat.fold.bends
    # up is towards who looks at the face that is seen, however the part lies in the room
    assert name == ("bend-up" if flat.seen == toward else "bend-down")
    assert line.length == pytest.approx(90) and not line.closed
    assert shapely.LineString(line.points).distance(shapely.LineString(bend.middle)) < 1e-6
    assert compensated(flat, 0.2).bends == ((name, line),)
    assert [n for n, _ in by_hand([compensated(flat, 0.2)])] == [name]


def test_operations_have_layers_of_their_own():
    cutter = Cutter.model_validate(ROUTER)
    names = {
        o: layer_of(cutter.layers, o).name
        for o in ("mark", "inside", "outside", "drill", "bend-up", "bend-down", "frame", "depth-a-6", "depth-b-2.5")
    }
    own = cutter.layers
    assert names == {
        "mark": own.mark.name,
        "inside": "CUT_INSIDE",
        "outside": "CUT_OUTSIDE",
        "drill": "DRILL",
        "bend-up": "BEND_UP",
        "bend-down": "BEND_DOWN",
        "frame": "NOTE",
        "depth-a-6": f"{own.depth.name}_A_6MM",
        "depth-b-2.5": f"{own.depth.name}_B_2.5MM",
    }


def test_a_pocket_s_operation_names_its_face_and_depth_to_a_thousandth():
    from zygon.making.result.operations import Pocket

    assert depth_operation(Pocket(rectangle(0, 0, 4, 4), "p", "b", 2.50049)) == "depth-b-2.5"
    assert depth_operation(Pocket(rectangle(0, 0, 4, 4), "p", "a", 6.0)) == "depth-a-6"


# -- order and time ----------------------------------------------------------------------------------------------------


def test_the_nearest_is_next_and_an_open_line_ends_where_it_ends():
    line = polyline([(10, 0), (90, 0)], "m")
    near_start, near_end = polyline([(5, 20), (6, 20)], "m"), polyline([(95, 0), (96, 0)], "m")
    order = [c.points for _, c in cutting_order([CutContours((line, near_start, near_end), (), ())])]
    assert order == [line.points, near_end.points, near_start.points]
    # a closed one ends where it began
    ring = rectangle(10, 0, 90, 10)
    order = [c for n, c in cutting_order([CutContours((), (rectangle(95, 20, 99, 24), ring, rectangle(2, 2, 4, 4)), ())])]
    assert [c.points[0] for c in order][:2] == [(2, 2), (10, 0)]


def test_depths_come_between_marks_and_cuts_the_shallow_ones_first():
    some = CutContours(
        (polyline([(0, 0), (1, 0)], "m"),),
        (circle(50, 50, 3),),
        (rectangle(0, 0, 100, 100),),
        depths=(
            ("depth-a-10", rectangle(1, 1, 9, 9)),
            ("depth-a-2.5", rectangle(60, 60, 70, 70)),
            ("depth-a-6", rectangle(40, 40, 50, 50)),
        ),
        drills=(Drill(circle(5, 5, 1)),),
        notes=(rectangle(2, 2, 3, 3),),
    )
    assert [n for n, _ in cutting_order([some])] == ["mark", "depth-a-2.5", "depth-a-6", "depth-a-10", "inside", "outside"]
    assert [n for n, _ in by_hand([some])] == ["drill", "frame"]


def test_travel_goes_on_from_the_end_of_an_open_line_and_the_start_of_a_closed_one():
    cutter = Cutter.model_validate({**ROUTER, "pass_depth": None})
    line, ring = polyline([(30, 40), (30, 100)], "m"), rectangle(30, 180, 60, 190)
    got = reckon([("mark", line), ("outside", ring), ("inside", circle(30, 180, 2))], cutter, "ply12", 12)
    assert got.mark_length == pytest.approx(60)
    start = circle(30, 180, 2).points[0]
    assert got.travel_length == pytest.approx(50 + 80 + math.dist((30, 180), start))
    assert got.cut_length == pytest.approx(80 + 4 * math.pi) and got.pierces == 2


@pytest.mark.parametrize(("thickness", "passes"), [(5.99, 1), (6.0, 1), (6.01, 2), (12.0, 2), (12.01, 3)])
def test_a_pass_more_is_made_where_the_depth_goes_over_its_limit(thickness, passes):
    cutter = Cutter.model_validate(ROUTER)  # 6 mm a pass
    got = reckon([("outside", rectangle(0, 0, 100, 50))], cutter, "ply12", thickness)
    assert got.cut_length == pytest.approx(300 * passes)
    ring = reckon([(f"depth-a-{thickness:g}", rectangle(0, 0, 30, 20))], cutter, "ply12", 18)
    assert ring.cut_length == pytest.approx((100 + 600 / 3) * passes)


def test_an_island_is_not_cleared():
    cutter = Cutter.model_validate(ROUTER)
    outer, island = rectangle(0, 0, 60, 40).wound(ccw=False), rectangle(20, 10, 30, 30).wound(ccw=True)
    got = reckon([("depth-a-6", outer), ("depth-a-6", island)], cutter, "ply12", 12)
    assert got.cut_length == pytest.approx(200 + 60 + (2400 - 200) / 3)


def test_cost_follows_the_hour_and_a_saw_makes_one_pass():
    cutter = Cutter.model_validate({**ROUTER, "kind": "saw", "hourly": 36.0})
    got = reckon([("outside", rectangle(0, 0, 100, 50))], cutter, "ply12", 40)
    work = cutter.work["ply12"]
    assert got.cut_length == pytest.approx(300)
    assert got.seconds == pytest.approx(300 / work.cut_speed + work.pierce) and got.cost == pytest.approx(got.seconds / 100)
    assert got.known and not reckon([], None, "ply12").known


def test_on_the_line_each_side_is_off_by_a_kerf():
    assert cut_on_the_line(rectangle(3, 5, 103, 45), 0.3, outer=True) == pytest.approx((99.7, 39.7))
    assert cut_on_the_line(rectangle(3, 5, 103, 45), 0.3, outer=False) == pytest.approx((100.3, 40.3))


def test_without_a_cutter_nothing_is_taken_out():
    document = worked()
    assert kerf_of(document, "ply12") == 6.0
    assert kerf_of(document.model_copy(update={"cutter": ""}), "ply12") == 0.0


def test_pockets_of_one_depth_on_both_faces_are_always_cut_in_one_order():
    def some(*faces):
        return [CutContours((), (), (), depths=((f"depth-{f}-6", rectangle(10, 10, 20, 20)),)) for f in faces]

    # a set of texts comes out in another order in each process
    for faces in ("ab", "ba"):
        assert [n for n, _ in cutting_order(some(*faces))] == ["depth-a-6", "depth-b-6"]
