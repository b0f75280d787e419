"""A joint's figure is drawn to its real values: its sections have the area that the solids have there."""

import re

import pytest
import shapely
import trimesh

from tests.core.making.joints.pairs import MEETING, pair
from tests.core.making.joints.test_every_kind import mesh_of_part
from zygon.geometry.frame import FACES
from zygon.making.pipeline import build
from zygon.screen.joint_figure import joint_figure


def polygon_of(d):
    """The even-odd inside of a path of straight lines."""
    shape = shapely.Polygon()
    for ring in re.findall(r"M([^Z]+)Z", d):
        points = [tuple(map(float, p.split())) for p in ring.split("L")]
        shape = shapely.symmetric_difference(shape, shapely.make_valid(shapely.Polygon(points)))
    return shape


@pytest.mark.parametrize("kind", MEETING)
def test_the_two_boards_of_a_figure_leave_their_clearance_and_never_cover_one_another(kind):
    figure = joint_figure(build(pair(kind, fit="0.4 mm").document()), "a-b")
    assert figure["views"] and figure["title"] == "a–b"
    for view in figure["views"]:
        shapes = {s["part"]: polygon_of(s["d"]) for s in view["shapes"]}
        assert all(g.area > 0 for g in shapes.values())
        if len(shapes) == 2:
            assert shapely.intersection(shapes["a"], shapes["b"]).area < 0.02
        for g in shapes.values():
            x0, y0, x1, y1 = g.bounds
            assert x0 >= -1e-3 and y0 >= -1e-3 and x1 <= view["width"] + 1e-3 and y1 <= view["height"] + 1e-3


@pytest.mark.parametrize("kind", ["groove", "mortise_tenon", "rebate", "finger", "tab_slot", "screws", "dowels", "dovetail"])
def test_the_section_across_has_the_area_that_the_solids_have(kind):
    """Referee: trimesh's section of the meshes at the same place, cut to the same window."""
    built = build(pair(kind).document())
    joint = built.joints["a-b"]
    view = next(v for v in joint_figure(built, "a-b")["views"] if v["title"] == "Section across")
    own = [f for f in joint.fingers if f.owner == joint.a] or list(joint.fingers)
    at = (own[0].low + own[0].high) / 2
    slab_a, slab_b = built.parts["a"].span_box.span("x"), built.parts["b"].span_box.span("y")
    room = 1.3 * max(slab_a[1] - slab_a[0], slab_b[1] - slab_b[0])
    window = shapely.box(slab_a[0] - room, slab_b[0] - room, slab_a[1] + room, slab_b[1] + room)
    for shape in view["shapes"]:
        mesh = mesh_of_part(built.parts[shape["part"]])
        lines = trimesh.intersections.mesh_plane(mesh, (0, 0, 1.0), (0, 0, at + 1e-4))[:, :, :2]
        area = _area(lines, window)
        assert polygon_of(shape["d"]).area == pytest.approx(area, rel=2e-3, abs=0.3)


def _area(lines, window):
    """The area inside closed section lines within a window, holes taken off by parity."""
    shape = shapely.Polygon()
    for ring in shapely.get_parts(
        shapely.polygonize(shapely.get_parts(shapely.node(shapely.multilinestrings(shapely.linestrings(lines.round(3))))))
    ):
        shape = shapely.symmetric_difference(shape, shapely.Polygon(ring.exterior))
    return shapely.intersection(shape, window).area


def test_the_facts_are_the_values_in_effect():
    facts = {f["label"]: f for f in joint_figure(build(pair("dowels", 12, 15).document()), "a-b")["facts"]}
    assert facts["diameter"]["value"] == 6 and facts["deep in the face"]["value"] == 10 and facts["dowels"]["value"] == 2
    slope = next(f for f in joint_figure(build(pair("dovetail", slope="1:8").document()), "a-b")["facts"] if f["label"] == "slope")
    assert slope["kind"] == "angle" and slope["value"] == pytest.approx(0.12435, abs=1e-5)


def test_a_refused_joint_and_one_that_is_not_there_have_no_figure():
    built = build(pair("finger", meeting="tee").document())
    assert joint_figure(built, "a-b") is None and joint_figure(built, "nobody") is None


def test_the_tails_of_a_dovetail_are_seen_with_their_slope():
    built = build(pair("dovetail", number=2, fit="0").document())
    view = joint_figure(built, "a-b")["views"][0]
    assert view["title"] == "Tails, seen on the face of a"
    tails = polygon_of(next(s["d"] for s in view["shapes"] if s["part"] == "a"))
    (x0, y0, x1, y1), tail = tails.bounds, built.joints["a-b"].fingers[0]
    # near the outer face of b a tail is as wide as it is laid out, at its root narrower by twice the slope
    lines = [shapely.LineString([(x0 - 1, y), (x1 + 1, y)]) for y in (y0 + 0.01, y1 - 0.01)]
    if view["width"] < view["height"]:
        lines = [shapely.LineString([(x, y0 - 1), (x, y1 + 1)]) for x in (x0 + 0.01, x1 - 0.01)]
    widths = sorted(g.length for line in lines for g in shapely.get_parts(shapely.intersection(tails, line)))
    assert min(widths) == pytest.approx(tail.high - tail.low, abs=0.02)


def test_boards_that_lie_on_one_another_are_cut_through_in_the_middle_of_what_they_share():
    draft = pair("face_glue")
    whole = {s["part"]: polygon_of(s["d"]).area for s in joint_figure(build(draft.document()), "a-b")["views"][0]["shapes"]}
    built = build(draft.document())
    low, high = built.joints["a-b"].run
    axis = built.joints["a-b"].axis
    board = built.parts["a"]
    other = next(x for x in (board.frame.u, board.frame.v) if x != axis)
    wide = board.span_box.span(other)[1] - board.span_box.span(other)[0]
    place = {board.frame.u: ("centre", 0), board.frame.v: ("centre", 0)}
    span = board.span_box.span(axis)
    place[axis] = (FACES[axis][0], f"{(low + high) / 2 - span[0]:.3f} mm")
    sizes = {"width": "6", "height": f"{wide / 2:.3f}"} if axis == board.frame.u else {"height": "6", "width": f"{wide / 2:.3f}"}
    draft.feature("a", "window", "rectangle", place[board.frame.u], place[board.frame.v], **sizes)
    cut = {s["part"]: polygon_of(s["d"]).area for s in joint_figure(build(draft.document()), "a-b")["views"][0]["shapes"]}
    assert cut["a"] == pytest.approx(whole["a"] - wide / 2 * board.flat.thickness, rel=1e-3)
    assert cut["b"] == pytest.approx(whole["b"])
