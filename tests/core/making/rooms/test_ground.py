"""Where nothing is below, a room ends on the ground; what lies within the design is a room of its own, apart from what lies outside."""

import pytest

from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.making.rooms.free import OPEN, free_rooms


def seat(height):
    d = Draft("stool")
    d.board("seat", "ply12", "lying", f"{height} mm", ("0", "360 mm"), ("0", "260 mm"))
    return build(d.document())


@pytest.mark.parametrize("plane", ["facing_side", "facing_front"])
def test_a_leg_under_a_seat_stands_on_the_ground(plane):
    (room,) = free_rooms(seat(400), "seat", "bottom", plane, 11.8).rooms
    assert room.span("z") == (0.0, 400.0)
    low, high = room.bounds["z"]
    assert (low.entry, low.part, high.entry) == ("0 mm", "", "seat.bottom")


@pytest.mark.parametrize("height", [0, -300])
def test_below_what_lies_on_the_ground_or_under_it_a_room_is_a_hands_breadth(height):
    (room,) = free_rooms(seat(height), "seat", "bottom", "facing_side", 11.8).rooms
    assert room.span("z") == (height - OPEN, height) and "z" in room.open


def test_before_a_back_the_room_ends_with_the_sides_and_what_is_outside_is_another():
    d = Draft("case")
    for name, at, face in (("left", "0", "left"), ("right", "400 mm", "right")):
        d.board(name, "ply12", "facing_side", at, ("0", "200 mm"), ("0", "300 mm"), face=face)
    d.board("back", "ply12", "facing_front", "200 mm", ("left.right", "right.left"), ("0", "300 mm"), face="back")
    rooms = free_rooms(build(d.document()), "back", "front", "facing_front", 11.8).rooms
    assert rooms[0].span("y") == (0.0, pytest.approx(188.2)) and rooms[0].bounds["y"][0].entry in ("left.front", "right.front")
    assert rooms[0].span("x") == pytest.approx((11.8, 388.2)) and not rooms[0].open
    outside = [r for r in rooms if r.span("y")[1] <= 0]
    assert outside and all(r.span("y")[0] < 0 for r in outside)
