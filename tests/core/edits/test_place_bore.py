"""A bore where a face is pressed: square to it, named from the part's own ends, through all that lies in its way."""

import math

import numpy as np
import pytest

from zygon.cut.kerf import ByHand, compensated
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.axles import place_axle, place_bore
from zygon.edits.operations import OPERATIONS
from zygon.errors import DocumentError
from zygon.making.flats.face_words import face_word
from zygon.making.flats.flat import turned_over
from zygon.making.pipeline import build

PLANES = {"lying": ("top", "bottom"), "facing_front": ("front", "back"), "facing_side": ("left", "right")}
TURNS = [None, ("x", "25 deg", {"y": "0", "z": "0"}), ("y", "-40 deg", {"x": "10 mm", "z": "0"}), ("z", "90 deg", {"x": "0", "y": "0"})]


def one(plane, turn, unit="mm"):
    draft = Draft("d", "ply12", unit=unit)
    draft.board("seat", "ply12", plane, 0, (0, "200 mm"), (0, "160 mm"))
    if turn:
        draft.turn("seat", turn[0], turn[1], **turn[2])
    return draft


@pytest.mark.parametrize("turn", TURNS)
@pytest.mark.parametrize("plane, face", [(p, f) for p, faces in PLANES.items() for f in faces])
def test_it_is_square_to_the_face_that_was_pressed_at_the_place_that_was_pressed(plane, face, turn):
    built = build(one(plane, turn).document())
    part = built.flats["seat"]
    m = np.array(part.matrix)
    pressed = m[:3, :3] @ (62.3, 41.0, part.flat.thickness) + m[:3, 3]
    label, patch = place_bore(built, "seat", face, tuple(pressed), step=1)
    assert label == f"Bore square to seat.{face}"
    after = build(patched(built.document.dump(), patch))
    assert not after.faults
    (hole,) = after.flats["seat"].flat.inside
    assert hole.as_circle == pytest.approx((62, 41, 4.0))
    (bore,) = after.document.bores.values()
    assert bore.of == ("seat" if turn else "") and bore.parts["seat"].action == "cut"
    # said from its own ends, so it stays with them
    assert all("seat." in e.text for e in bore.at.values())


@pytest.mark.parametrize("near, text", [(100.8, "mid(seat.left, seat.right)"), (97.0, "seat.left + 97 mm")])
def test_near_the_middle_it_is_caught_there(near, text):
    built = build(one("lying", None).document())
    _, patch = place_bore(built, "seat", "top", (near, 30.0, 11.8), catch=2, step=1)
    assert patch[0]["value"]["at"]["x"]["text"] == text


def test_what_lies_behind_is_drilled_at_its_angle_and_folded_sheet_is_cut():
    draft = one("lying", ("y", "20 deg", {"x": "100 mm", "z": "0"}))
    draft.board("floor", "ply12", "lying", "-150 mm", ("-100 mm", "300 mm"), (0, "160 mm"))
    draft.data["stocks"] |= Draft("e", "galv20").data["stocks"]
    draft.board("tray", "galv20", "lying", "-180 mm", ("-100 mm", "300 mm"), (0, "160 mm"))
    draft.fold("tray").flange("tray", "left", "left", "20 mm")
    draft.board("wall", "ply12", "facing_side", "400 mm", (0, "160 mm"), (0, "100 mm"))
    built = build(draft.document())
    at = built.flats["seat"].place.point((100.0, 80.0, 11.8))
    _, patch = place_bore(built, "seat", "top", at)
    assert {k: v["action"] for k, v in patch[0]["value"]["parts"].items()} == {"seat": "cut", "floor": "drill", "tray": "cut"}
    after = build(patched(built.document.dump(), patch))
    assert not after.faults
    assert math.degrees(math.acos(abs(after.flats["floor"].flat.skew_bores[0].way[2]))) == pytest.approx(20)
    (slot,) = after.flats["tray"].flat.inside
    x0, y0, x1, y1 = slot.bounds
    assert (x1 - x0, y1 - y0) == pytest.approx(
        (8 / math.cos(math.radians(20)) + after.flats["tray"].flat.thickness * math.tan(math.radians(20)), 8), abs=0.005
    )


@pytest.mark.parametrize("seen", ["a", "b"])
def test_the_mouth_of_a_drilled_hole_is_a_line_to_work_to_on_the_face_that_lies_up(seen):
    draft = one("lying", None)
    draft.bore("leg", "z", {"x": "60 mm", "y": "80 mm", "z": "0 mm"}, "20 mm", seat=("drill", "0")).askew("leg", lean="30 deg", toward="0")
    flat = build(draft.document()).flats["seat"].flat
    shown = flat if seen == "a" else turned_over(flat)
    (note,) = compensated(shown, 0.2, ByHand()).notes
    x0, y0, x1, y1 = note.bounds
    middle = 60 + 11.8 * math.tan(math.radians(30)) if seen == "a" else 200 - 60
    assert ((x0 + x1) / 2, x1 - x0, y1 - y0) == pytest.approx((middle, 20 / math.cos(math.radians(30)), 20), abs=0.003)
    (twice,) = turned_over(turned_over(flat)).skew_bores
    assert twice.start == pytest.approx(flat.skew_bores[0].start) and twice.end == pytest.approx(flat.skew_bores[0].end)


def test_inch_designs_begin_in_inches():
    built = build(one("lying", None, unit="in").document())
    _, patch = place_bore(built, "seat", "top", (50.8, 25.4, 11.8), step=1.5875)
    assert patch[0]["value"]["diameter"] == {"text": "5/16 in", "unit": "in"} and patch[0]["value"]["at"]["x"]["text"].endswith("2 in")


@pytest.mark.parametrize("change", [{"part": "nobody"}, {"face": "above"}])
def test_where_there_is_no_such_face_it_is_said(change):
    built = build(one("lying", None).document())
    with pytest.raises(DocumentError):
        place_bore(built, **({"part": "seat", "face": "top", "at": (1.0, 1.0, 1.0)} | change))


@pytest.mark.parametrize("plane, face", [(p, f) for p, faces in PLANES.items() for f in faces])
@pytest.mark.parametrize("kind", ["row", "x", "y", "z"])
def test_pressed_on_a_copy_that_stands_askew_its_original_is_bored_in_the_copy_s_hand(kind, plane, face):
    draft = one(plane, ("y", "20 deg", {"x": "0", "z": "0"}) if plane != "facing_front" else ("x", "15 deg", {"y": "0", "z": "0"}))
    if kind == "row":
        draft.repeat("copy", "row", "part:seat", axis="x", spacing="300 mm", number="2")
    else:
        draft.mirror("copy", kind, "-500 mm", "part:seat")
    built = build(draft.document())
    (copy,) = (p for p in built.flats.values() if p.made_by)
    m, high = np.array(copy.matrix), copy.flat.thickness
    pressed = m[:3, :3] @ (62.0, 41.0, high if face_word(copy, "a") == face else 0.0) + m[:3, 3]
    after = build(patched(built.document.dump(), place_bore(built, copy.key, face, tuple(pressed), step=1)[1]))
    assert not after.faults
    (hole,) = after.flats[copy.key].flat.inside
    assert hole.as_circle == pytest.approx((62, 41, 4.0), abs=1e-6)


def test_the_operation_takes_what_a_press_gives():
    asked = {"operation": "place_bore", "part": "seat", "face": "top", "at": [50, 60, 11.8], "catch": 1, "step": 5}
    label, patch = OPERATIONS["place_bore"].model_validate(asked).work(build(one("lying", None).document()))
    assert label and patch[0]["op"] == "add"


@pytest.mark.parametrize("turn", ["90 deg", "-90 deg", "180 deg"])
@pytest.mark.parametrize(
    "about, plane, face",
    [("z", "facing_side", "left"), ("z", "facing_front", "back"), ("x", "lying", "top"), ("y", "facing_side", "right")],
)
def test_an_axle_of_a_board_that_is_turned_by_quarters_runs_square_to_it(about, plane, face, turn):
    draft = one(plane, (about, turn, {a: "0" for a in "xyz" if a != about}))
    draft.data["stocks"]["bar"] = {
        "kind": "bar",
        "name": "bar",
        "material": "steel",
        "nominal": draft.entry("6 mm"),
        "order": 9,
        "lengths": {},
    }
    built = build(draft.document())
    at = built.flats["seat"].place.point([sum(built.flats["seat"].span_box.span(x)) / 2 for x in "xyz"])
    after = build(patched(built.document.dump(), place_axle(built, "bar", "seat", face, at, step=1)[1]))
    assert not after.faults
    (hole,) = after.flats["seat"].flat.inside
    assert hole.as_circle == pytest.approx((100, 80, 3.1), abs=0.51)


def boxed(flange, plane="lying"):
    """A tray whose one flange stands up square, with a board screwed against the outside of it."""
    d = Draft("tray", "galv20", "ply12")
    d.data["parts"]["tray"] = {
        "kind": "folded", "name": "tray", "stock": "galv20", "plane": plane, "order": 0,
        "position": {"face": {"lying": "bottom", "facing_front": "front", "facing_side": "left"}[plane], "at": d.entry("0")},
        "spans": {a: {"low": d.entry("0"), "high": d.entry("200 mm")} for a in {"lying": "xy", "facing_front": "xz", "facing_side": "yz"}[plane]},
        "folding": {"flanges": {flange: {"kind": "flange", "on": "", "edge": flange, "length": d.entry("60 mm"), "angle": d.entry("90 deg")}}},
    }  # fmt: skip
    return d


@pytest.mark.parametrize("side", ["inner", "outer"])
@pytest.mark.parametrize(
    "plane, flange",
    [
        (p, f)
        for p, faces in {
            "lying": ("left", "right", "front", "back"),
            "facing_front": ("left", "right", "bottom", "top"),
            "facing_side": ("front", "back", "bottom", "top"),
        }.items()
        for f in faces
    ],
)
def test_a_screw_begins_at_a_flange_too(plane, flange, side):
    """Its head lies on the face that was pressed, wherever the flange stands, and the hole is where it was pressed."""
    from zygon.making.datums.solving import solve
    from zygon.making.metal.leg_places import leg_face

    document = boxed(flange, plane).document()
    built = build(document)
    assert not built.faults
    corner, along, up = solve(document, None, leg_face).leg_face("tray", flange, side)
    at = corner + (along - corner) * 0.4 + (up - corner) * 0.5
    label, patch = place_bore(built, "tray", f"{flange}.{side}", tuple(at), screw=True)
    assert label == f"Bore square to tray.{flange}.{side}"
    after = build(patched(document.dump(), patch))
    one = after.sets["bore"]
    place = one.places[0]
    # within half a millimetre, as places are on whole ones
    assert np.linalg.norm(np.array(place.at) - at) < 1.0
    outward = np.cross(along - corner, up - corner)
    other = solve(document, None, leg_face).leg_face("tray", flange, "outer" if side == "inner" else "inner")[0]
    out = corner - other
    assert np.dot(place.way, out) < 0 and abs(abs(np.dot(outward / np.linalg.norm(outward), place.way)) - 1) < 1e-9
    assert [c.as_circle[2] * 2 for c in after.flats["tray"].flat.inside if c.as_circle] == pytest.approx([5.5])


def test_a_flange_that_slopes_and_a_copy_s_are_refused_in_words():
    d = boxed("left")
    d.data["parts"]["tray"]["folding"]["flanges"]["left"]["angle"] = d.entry("60 deg")
    d.mirror("twin", "x", "-100 mm", "part:tray", names={"tray": "tray_2"})
    built = build(d.document())
    with pytest.raises(DocumentError, match="slopes here"):
        place_bore(built, "tray", "left.outer", (0.0, 100.0, 30.0))
    with pytest.raises(DocumentError, match="No bore begins at"):
        place_bore(built, "tray@twin.1", "left.outer", (0.0, 100.0, 30.0))
    with pytest.raises(DocumentError, match="has no flange"):
        place_bore(built, "tray", "nose.outer", (0.0, 100.0, 30.0))
