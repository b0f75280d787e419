"""What is worked into a board comes along to its image: a bore lies where the motion takes its axis, and its words say where that is."""

import math
from types import SimpleNamespace
from typing import get_args

import pytest

from zygon.design.draft import Draft
from zygon.geometry.frame import FACES, Plane, frame_of
from zygon.geometry.motion import IDENTITY
from zygon.making.blanks.carry import Carrier, carrier, carry
from zygon.making.datums.solving import solve
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.result.operations import EdgeBore, Sink

T = 12.0


def moved(by, point):
    u, v, w = point
    return (*by.point((u, v)), T - w if by.flips else w)


@pytest.mark.parametrize("quarter", range(4))
@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("flips", [False, True])
def test_a_bore_in_any_edge_lies_where_it_was_taken_and_is_called_so(quarter, mirrored, flips):
    by = Carrier(31.0, -7.0, quarter * math.pi / 2, mirrored, flips, T)
    for plane in get_args(Plane):
        end = SimpleNamespace(frame=frame_of(plane))
        for across in ("u", "v"):
            for side, at in (("low", 3.0), ("high", 103.0)):
                bore = EdgeBore("?", across, side, at, 41.0, 4.5, 5.0, 18.0, "o")
                found = carry(bore, by, None, end)
                axis = edge_bore_axis(bore)
                for p, q in zip(edge_bore_axis(found), (moved(by, p) for p in axis), strict=True):
                    assert p == pytest.approx(q)
                room = end.frame.u if found.across == "u" else end.frame.v
                assert found.edge == FACES[room][0 if found.side == "low" else 1]
                assert (found.diameter, found.depth, found.owner) == (5.0, 18.0, "o")


def test_a_bore_that_comes_to_lie_askew_is_none():
    bore = EdgeBore("left", "u", "low", 0.0, 40.0, 5.0, 5.0, 18.0, "o")
    for degrees in (1, 45, 89.9):
        assert carry(bore, Carrier(0, 0, math.radians(degrees), False, False, T), None, SimpleNamespace(frame=frame_of("lying"))) is None


@pytest.mark.parametrize("flips", [False, True])
def test_a_countersink_is_in_the_face_that_its_own_became(flips):
    by = Carrier(10.0, 20.0, math.pi / 2, True, flips, T)
    for face in ("a", "b"):
        found = carry(Sink(5.0, 2.0, 10.0, 4.0, math.pi / 2, face, "o"), by, None, None)
        assert (found.u, found.v) == pytest.approx((8.0, 15.0))
        assert found.face == ({"a": "b", "b": "a"}[face] if flips else face)


def blanks():
    """Boards in every plane, one of them thicker, one a little out of the plane of another."""
    d = Draft("d", "ply12", "ply18")
    d.board("flat", "ply12", "lying", 0, (0, 120), (0, 70))
    d.board("beside", "ply12", "lying", 0, (200, 320), (0, 70))
    d.board("above", "ply12", "lying", 40, (0, 120), (0, 70))
    d.board("thick", "ply18", "lying", 0, (0, 120), (0, 70))
    d.board("side", "ply12", "facing_side", 0, (0, 120), (0, 70))
    d.board("front", "ply12", "facing_front", 0, (0, 120), (0, 70))
    d.board("leaning", "ply12", "lying", 0, (0, 120), (0, 70))
    d.turn("leaning", "y", "1 deg", x="0", z="0")
    return blanks_of(solve(d.document(), None, leg_face))


@pytest.mark.parametrize("start", ["flat", "side", "front", "thick"])
@pytest.mark.parametrize("end", ["flat", "beside", "above", "side", "front", "leaning", "thick"])
def test_only_boards_of_one_plane_and_thickness_carry_to_each_other(start, end):
    own = blanks()
    found = carrier(own[start], own[end], IDENTITY)
    level = {"flat": 0, "beside": 0, "thick": None, "above": 1, "side": 2, "front": 3, "leaning": 4}
    if (level[start] is not None and level[start] == level[end]) or start == end:
        assert found is not None and not found.flips and not found.mirrored
        assert found.point((10.0, 20.0)) == pytest.approx((10.0 - (200 if end == "beside" else 0), 20.0))
    else:
        assert found is None
