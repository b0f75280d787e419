"""Sets as they begin: by what a bore passes, by what was found, from a pressed face, and in holes that are there."""

import itertools

import numpy as np
import pytest

from tests.core.making.sets.stacks import PLANES, stack
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.axles import place_bore
from zygon.edits.hardware import put_hardware, screw_in_hole
from zygon.edits.independent import make_independent
from zygon.errors import DocumentError
from zygon.making.pipeline import build


def after(built, edit):
    return build(patched(built.document.dump(), edit[1]))


def bare(*stocks, axis="z"):
    d = stack(*stocks, axis=axis)
    del d.data["bores"]["hole"]["hardware"]
    return d


@pytest.mark.parametrize(
    ("diameter", "size"),
    [("3 mm", "M3"), ("4.4 mm", "M4"), ("5.5 mm", "M5"), ("6 mm", "M6"), ("8.4 mm", "M8"), ("40 mm", "M12"), ("1 mm", "M2")],
)
def test_the_usual_set_is_the_thickest_that_goes_through(diameter, size):
    d = bare("ply18", "ply12")
    d.data["bores"]["hole"]["diameter"] = d.entry(diameter)
    built = build(d.document())
    found = after(built, put_hardware(built, "hole", ""))
    said = found.document.bores["hole"].hardware
    assert (said.head, said.size, said.washer, said.nut_washer) == ("socket", size, "plain_washer", "plain_washer")
    assert not [p for p in check(found) if "hardware" in p.fault.entry]


@pytest.mark.parametrize(
    ("designation", "wanted"),
    [
        ("ISO 4017 - M6 x 40", {"head": "hexagon", "size": "M6", "length": None}),
        ("ISO 7093-1 - M8", {"size": "M8", "washer": "large_washer", "nut_washer": "large_washer"}),
        ("DIN 985 - M5", {"nut": "locking_nut", "into": "nut", "size": "M5"}),
        ("DIN 7965 - M6", {"into": "insert", "size": "M6"}),
        ("rivet nut - M4", {"into": "rivet_nut", "size": "M4"}),
        ("DIN 7997 - 4 x 40", {"head": "wood", "size": "4"}),
        ("ISO 15977 - 4 x 10", {"head": "blind_rivet", "size": "4"}),
        ("ISO 7045 - M2 x 10", {"head": "pan", "size": "M2"}),
    ],
)
def test_what_was_found_is_in_the_set_and_the_rest_is_of_its_size(designation, wanted):
    built = build(stack("ply18", "ply12", size="M5", washer="plain_washer", nut_washer="plain_washer").document())
    found = after(built, put_hardware(built, "hole", designation))
    said = found.document.bores["hole"].hardware
    assert {k: getattr(said, k) for k in wanted} == wanted
    assert "hole" in found.sets


@pytest.mark.parametrize("designation", ["DIN 68150 - 8 x 40", "ISO 15 - 608", "DIN 471 - 8", "ISO 4762 - M5 x 61", "nonsense"])
def test_what_no_set_has_is_refused(designation):
    built = build(stack("ply18", "ply12", size="M5").document())
    with pytest.raises(DocumentError) as error:
        put_hardware(built, "hole", designation)
    assert error.value.entry == "designation" and error.value.rule
    with pytest.raises(DocumentError):
        put_hardware(built, "no_such", "")


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("high", [False, True])
def test_a_screw_from_a_pressed_face_goes_through_what_lies_behind_and_no_farther(axis, high):
    """Two boards lie together, a third stands off: a screw holds the two, its head on the face that was pressed."""
    words = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}[axis]
    d = bare("ply18", "ply12", axis=axis)
    del d.data["bores"]["hole"]
    far = f"b1.{words[1]} + 80 mm" if not high else f"b0.{words[0]} - 80 mm"
    d.board("off", "ply12", PLANES[axis], far, ("0 mm", "200 mm"), ("0 mm", "160 mm"))
    built = build(d.document())
    k = "xyz".index(axis)
    pressed, face = ("b1", words[1]) if high else ("b0", words[0])
    at = [70.0, 70.0, 70.0]
    at[k] = 29.5 if high else 0.0
    found = after(built, place_bore(built, pressed, face, tuple(at), screw=True))
    (one,) = found.sets.values()
    assert one.places[0].parts == (("b1", "b0") if high else ("b0", "b1"))
    assert one.places[0].way[k] == (-1 if high else 1)
    assert not found.flats["off"].flat.inside


def test_a_screw_into_the_leg_of_a_bent_part_leaves_the_other_leg_alone():
    from tests.core.making.metal.trays import flange, folded

    built = folded({"l": flange("left", "40 mm"), "r": flange("right", "40 mm")})
    part = next(iter(built.flats))
    low, high = built.flats[part].reaches
    middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
    for face, x in (("left", low[0]), ("right", high[0])):
        found = after(built, place_bore(built, part, face, (x, middle[1], middle[2]), screw=True))
        (one,) = found.sets.values()
        place = one.places[0]
        assert place.stack[1] - place.stack[0] < 5 and abs(place.at[0] - x) < 1.01  # with a washer
        assert len(found.flats[part].flat.inside) == 1


def test_a_screw_pressed_through_a_board_into_an_edge_is_a_wood_screw():
    d = Draft("d", "ply18", "ply12")
    d.board("shelf", "ply18", "lying", "40 mm", ("0 mm", "200 mm"), ("0 mm", "160 mm"))
    d.board("wall", "ply12", "facing_side", "shelf.left", ("0 mm", "160 mm"), ("0 mm", "160 mm"), face="right")
    built = build(d.document())
    found = after(built, place_bore(built, "wall", "left", (-11.8, 70.0, 49.0), screw=True))
    (one,) = found.sets.values()
    assert one.pieces[0].family == "wood" and one.places[0].parts == ("wall", "shelf") and len(found.flats["shelf"].flat.bores) == 1


ORIGINS = [("left", "20 mm"), ("right", "20 mm"), ("centre", "10 mm"), ("room", "30 mm")]
HOLES = [
    {},
    {"number": "3", "spacing": "25 mm"},
    {"number": "3", "spacing": "25 mm", "rows": "2", "apart": "40 mm"},
    {"mirrored": "u"},
    {"mirrored": "both"},
]


@pytest.mark.parametrize("plane", PLANES.values())
@pytest.mark.parametrize(("u", "how"), list(itertools.product(range(4), range(len(HOLES)))))
def test_a_hole_that_takes_a_screw_stays_where_it_was(plane, u, how):
    axis = {v: k for k, v in PLANES.items()}[plane]
    others = [a for a in "xyz" if a != axis]
    low = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}
    names = {"left": low[others[0]][0], "right": low[others[0]][1]}
    origin, offset = ORIGINS[u]
    d = bare("ply12", "ply12", axis=axis)
    del d.data["bores"]["hole"]
    frame_u = build(d.document()).flats["b1"].frame.u
    first, second = (names.get(origin, origin), offset), (low[others[1]][0], "30 mm")
    spots = (first, second) if frame_u == others[0] else (second, first)
    said = HOLES[how]
    if frame_u != others[0] and said.get("mirrored") == "u":
        said = {"mirrored": "v"}
    d.feature("b1", "h", "hole", *spots, diameter="5 mm", **said)
    if origin == "room" and "mirrored" in said:
        built = build(d.document())
        with pytest.raises(DocumentError):
            screw_in_hole(built, "b1", "h")
        return
    built = build(d.document())
    found = after(built, screw_in_hole(built, "b1", "h"))

    def places(b, key):
        return sorted(tuple(np.round(c.as_circle[:2], 4)) for c in b.flats[key].flat.inside)

    was = places(built, "b1")
    assert places(found, "b1") == places(found, "b0") == was and not found.faults
    (one,) = found.sets.values()
    assert len(one.places) == len(was) and "h" not in found.document.parts["b1"].features


def test_holes_that_cannot_take_a_screw_are_refused():
    d = bare("ply12", "ply12")
    d.feature("b1", "blind", "hole", ("left", "20 mm"), ("front", "30 mm"), diameter="5 mm", depth="4 mm")
    d.feature("b1", "slot", "slot", ("left", "60 mm"), ("front", "30 mm"), length="20 mm", width="5 mm")
    d.feature("b1", "open", "hole", ("opening", "0"), ("front", "90 mm"), diameter="5 mm")
    built = build(d.document())
    for feature in ("blind", "slot", "open", "none"):
        with pytest.raises(DocumentError):
            screw_in_hole(built, "b1", feature)


@pytest.mark.parametrize("across", "xyz")
@pytest.mark.parametrize("side", ["low", "high"])
def test_a_copy_that_is_made_independent_keeps_its_set(across, side):
    """Its head, its row and its length are as they were, whichever way it is mirrored."""
    d = stack("ply18", "ply12", side=side, size="M5", washer="plain_washer")
    d.bore_rows("hole", x=("2", "40 mm"))
    d.mirror("twin", across, "-40 mm", "part:b0", "part:b1", names={"b0": "c0", "b1": "c1"})
    built = build(d.document())
    found = after(built, make_independent(built, "twin"))

    def lying(b):
        return sorted(
            (p.hardware.designation, *np.round(p.motion.shift, 4) + 0.0, *np.round(p.motion.vector((0.0, 0.0, 1.0)), 6) + 0.0)
            for one in b.sets.values()
            for place in one.places
            for p in place.pieces
        )

    assert len(found.sets) == 2 and lying(found) == lying(built)
