"""Copes: against Open CASCADE's cylinders, the two cylinders' own equation, and their templates wrapped back round the branch."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Section
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.TopAbs import TopAbs_EDGE
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS

from tests.explore import drawn
from zygon.errors import MemberError
from zygon.geometry.arc import arc_points
from zygon.making.tube.cope import Cope
from zygon.making.tube.unrolled import COLLAR, template, template_marks


def test_the_lengths_of_a_worked_example():
    """60.3 and 42.4 at 60 degrees, by the two cylinders' equation by hand; with a wall of 2 the inner edge is 45.899, 26.842, 23.729."""
    outer, walled = Cope(60.3, 42.4, 60), Cope(60.3, 42.4, 60, wall=2)
    assert [round(outer.length(a), 3) for a in (0, 90, 180)] == [47.054, 24.754, 22.574]
    assert [round(walled.inner(a), 3) for a in (0, 90, 180)] == [45.899, 26.842, 23.729]
    assert [round(walled.length(a), 3) for a in (0, 90, 180)] == [47.054, 26.842, 23.729]


def on_branch(cope: Cope, point: np.ndarray) -> tuple[float, float, float]:
    """Angle round the branch in degrees, length along it, and distance from its axis, of a point; the main lies along x, phi 90 is y."""
    theta = math.radians(cope.angle)
    way = np.array([math.cos(theta), 0.0, math.sin(theta)])
    zero = np.array([-math.sin(theta), 0.0, math.cos(theta)])  # across the branch, in the plane of both directions
    zero = zero if zero @ np.array([1.0, 0, 0]) >= 0 or cope.angle == 90 else -zero
    off = point - np.array([0.0, cope.offset, 0.0])
    x, y = off @ zero, off[1]
    return math.degrees(math.atan2(y, x)) % 360, float(off @ way), math.hypot(x, y)


@pytest.mark.parametrize("offset", [0.0, 5.0, -5.0])
@pytest.mark.parametrize("angle", [30, 45, 60, 90])
def test_the_edge_is_where_open_cascades_cylinders_meet(angle, offset):
    cope, theta = Cope(60.0, 40.0, angle, offset), math.radians(angle)
    main = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(-300, 0, 0), gp_Dir(1, 0, 0)), 30.0, 600.0).Shape()
    start = gp_Pnt(0, offset, 0)
    branch = BRepPrimAPI_MakeCylinder(gp_Ax2(start, gp_Dir(math.cos(theta), 0, math.sin(theta))), 20.0, 400.0).Shape()
    edges = TopExp_Explorer(BRepAlgoAPI_Section(main, branch).Shape(), TopAbs_EDGE)
    seen: list[float] = []
    while edges.More():
        curve = BRepAdaptor_Curve(TopoDS.Edge(edges.Current()))
        for s in np.linspace(curve.FirstParameter(), curve.LastParameter(), 40):
            at = curve.Value(s)
            phi, length, radius = on_branch(cope, np.array([at.X(), at.Y(), at.Z()]))
            if radius > 20 - 1e-3 and length > 1:  # the branch's start lies inside the main
                seen.append(phi)
                assert length == pytest.approx(cope.length(phi), abs=1e-3)  # its section curves are as near as that
        edges.Next()
    assert len(seen) > 60 and max(np.diff(sorted(seen))) < 30  # all round


@settings(max_examples=drawn(60))
@given(st.floats(12, 120), st.floats(0.2, 1.0), st.floats(20, 90), st.floats(-1, 1), st.floats(0, 0.4), st.booleans())
def test_a_template_wrapped_back_lies_on_the_main(main, share, angle, aside, thick, walled):
    branch = main * share
    cope = Cope(main, branch, angle, aside * (main - branch) / 2 * 0.99, thick * branch if walled else 0.0)
    outline, floor = template(cope)
    theta, worst, around = math.radians(angle), 0.0, math.pi * branch
    xs = [p[0] for p in outline.points]
    assert min(xs) == 0 and max(xs) == pytest.approx(around, abs=1e-9)
    lowest = min(cope.length(a) for a in range(360)) - floor
    assert lowest == pytest.approx(COLLAR)
    points = outline.points[1:]
    for p, q, bulge in zip(points, points[1:], outline.bulges[1:-1], strict=False):
        run = arc_points(p, q, bulge, 0.001) if bulge else np.linspace(p, q, 5)
        for x, y in np.asarray(run)[1:]:
            phi, length = 360 * x / around, y + floor
            if phi > 359.9999 or phi < 1e-4:
                continue  # the straight sides of the seam
            edges = [cope.branch / 2] if not cope.wall or cope.outer(phi) >= cope.inner(phi) else [cope.branch / 2 - cope.wall]
            a = math.radians(phi)
            for r in edges:  # the point of the wall that touches, in the room: how far it is from the main's round
                across = cope.offset + r * math.sin(a)
                up = length * math.sin(theta) - r * math.cos(a) * math.cos(theta)
                worst = max(worst, abs(math.hypot(across, up) - main / 2))
    assert worst < 0.02


def test_a_template_has_the_quarters_marked_up_to_its_edge():
    cope = Cope(60.3, 42.4, 60, 3, 2)
    _, floor = template(cope)
    for phi, mark in zip((90, 180, 270), template_marks(cope, floor), strict=True):
        (x0, y0), (x1, y1) = mark.points
        assert (x0, y0) == (x1, 0.0) and x0 == pytest.approx(math.pi * 42.4 * phi / 360) and y1 + floor == pytest.approx(cope.length(phi))


def test_mirrored_offsets_give_mirrored_edges_and_square_ones_are_alike_all_round():
    left, right = Cope(60, 40, 50, 6, 2), Cope(60, 40, 50, -6, 2)
    assert [left.length(a) for a in range(0, 360, 15)] == pytest.approx([right.length(-a) for a in range(0, 360, 15)])
    square = Cope(60, 40, 90)
    assert square.length(0) == pytest.approx(30) and square.length(0) == pytest.approx(square.length(180))
    assert square.length(90) == pytest.approx(math.sqrt(30**2 - 20**2)) == pytest.approx(square.length(270))
    assert Cope(40, 40, 90).length(90) == pytest.approx(0, abs=1e-6)  # as wide as its main


@pytest.mark.parametrize(
    "asked, entry, words",
    [
        ((40, 42.4, 60), "branch", "no wider than its main of 40 mm"),
        ((60, 42.4, 60, 8.9), "offset", "the axes pass at 8.8 mm at most"),
        ((60, 42.4, 60, -8.9), "offset", "the axes pass at 8.8 mm at most"),
        ((40, 40, 60, 0.1), "offset", "no room for an offset"),
        ((60, 42.4, 4.9), "angle", "from 5 to 90 degrees"),
        ((60, 42.4, 90.1), "angle", "from 5 to 90 degrees"),
        ((60, 42.4, 60, 0, 21.2), "wall", "less than half of the branch's 42.4 mm"),
        ((60, 42.4, 60, 0, -1), "wall", "at least 0"),
        ((0, 42.4, 60), "main", "greater than 0"),
        ((60, math.nan, 60), "branch", "greater than 0"),
        ((60, 42.4, math.nan), "angle", "from 5 to 90"),
        ((60, 42.4, 60, math.inf), "offset", "does not overhang"),
    ],
)
def test_what_cannot_be_coped_is_refused_by_its_entry(asked, entry, words):
    with pytest.raises(MemberError) as error:
        Cope(*asked)
    assert error.value.entry == entry and words in error.value.message and f"{entry}: " in error.value.message


def test_what_just_goes_is_not_refused():
    for asked in ((40, 40, 90), (60, 42.4, 60, 8.8), (60, 42.4, 5), (60, 42.4, 90, 0, 21.19)):
        assert Cope(*asked).length(0) > 0
