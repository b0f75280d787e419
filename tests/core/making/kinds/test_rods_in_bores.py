"""Rods with holes of their own: through and blind, round and matching, tight and running, in edges, in copies; what is done at their ends; what holds them."""

import math

import manifold3d
import numpy as np
import pytest

from tests.core.making.sets.stacks import PLANES
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.edits.axles import place_axle
from zygon.edits.let_through import let_through
from zygon.errors import DocumentError
from zygon.exchange.to_buy import to_buy
from zygon.making.assembly.plan import assembly
from zygon.making.flats.exact import volume
from zygon.making.kinds.registry import exact_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.sets.rings import rings_of
from zygon.making.solids.solids import solid_in_room

WORDS = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}


def walls(axis="x", low="-5 mm", high="5 mm", fits=("0.2 mm", "0.2 mm"), stock=None, **through):
    """Two boards of 12 across an axis, 100 apart, and a rod through both that stands over by 5."""
    d = Draft("walls", "ply12", "steel8")
    if stock:
        d.data["stocks"]["steel8"] |= {k: d.entry(v) if k in ("nominal", "width", "wall", "corner") else v for k, v in stock.items()}
        d.data["stocks"]["steel8"].pop("measured", None)
    for name, at in (("one", "0 mm"), ("two", "100 mm")):
        d.board(name, "ply12", PLANES[axis], at, ("0 mm", "120 mm"), ("0 mm", "90 mm"), face=WORDS[axis][0])
    others = [a for a in "xyz" if a != axis]
    low_word, high_word = WORDS[axis]
    d.rod("rod", "steel8", axis, (f"one.{low_word} + {low}", f"two.{high_word} + {high}"), **{others[0]: "40 mm", others[1]: "30 mm"})
    d.bore("hole", axis, {}, "8 mm", one=("cut", fits[0]), two=("cut", fits[1]))
    d.data["bores"]["hole"] |= {"at": {}, "member": "rod"}
    for part in ("one", "two"):
        d.data["bores"]["hole"]["parts"][part] |= through
    return d


def holes(built, key):
    flat = built.flats[key].flat
    return [("through", round(2 * c.as_circle[2], 6)) for c in flat.inside if c.as_circle] + [
        (p.face, round(2 * p.as_circle[2], 6), round(p.depth, 6)) for p in flat.pockets if p.as_circle
    ]


def codes(built):
    return [p.fault.code for p in check(built)]


@pytest.mark.parametrize("axis", "xyz")
def test_a_rod_through_walls_has_holes_in_line_that_follow_it(axis):
    built = build(walls(axis).document())
    assert holes(built, "one") == holes(built, "two") == [("through", 8.2)] and not built.faults
    d = walls(axis)
    others = [a for a in "xyz" if a != axis]
    d.data["parts"]["rod"]["at"][others[0]] = d.entry("55 mm")
    moved = build(d.document())
    ends = [b.flats["one"].flat.inside[0].as_circle[:2] for b in (built, moved)]
    assert math.dist(*ends) == pytest.approx(15)
    # the rod lies in its holes: nothing of both in common
    for key in ("one", "two"):
        assert (solid_in_room(moved.made["rod"]) ^ solid_in_room(moved.flats[key])).volume() < 1e-6


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize(
    ("low", "high", "deeper"), [("6 mm", "5 mm", None), ("-5 mm", "-7 mm", None), ("4 mm", "-4 mm", "0.5 mm"), ("6 mm", "-6 mm", "0 mm")]
)
def test_a_rod_that_ends_in_a_board_has_a_blind_hole_so_much_deeper(axis, low, high, deeper):
    d = walls(axis, low=low, high=high, fits=("0", "0"))
    for part in ("one", "two"):
        if deeper is not None:
            d.data["bores"]["hole"]["parts"][part]["deeper"] = d.entry(deeper)
    built = build(d.document())
    extra = 1.0 if deeper is None else float(deeper.split()[0])
    for key, end, inner in (("one", float(low.split()[0]), 1), ("two", -float(high.split()[0]), 0)):
        (hole,) = holes(built, key)
        if end <= 0:
            assert hole == ("through", 8.0)
            continue
        frame = built.flats[key].frame
        face = "a" if (frame.up > 0) == bool(inner) else "b"
        assert hole == (face, 8.0, round(11.8 - end + extra, 6))
    assert "overlap" not in codes(built) and "locked" not in codes(built)


def test_a_rod_as_long_as_to_the_face_is_in_no_board():
    d = walls(low="11.8 mm")
    built = build(d.document())
    assert "bore_misses" in [f.code for f in built.faults]


@pytest.mark.parametrize("side", ["low", "high"])
@pytest.mark.parametrize("across", "xy")
def test_a_dowel_goes_into_face_and_edge_by_its_own_depths(side, across):
    """25 deep into the end of a board, 10 into the face of another (common practice)."""
    d = Draft("dowel", "ply18", "ply12", "steel8")
    d.board("shelf", "ply18", "lying", "40 mm", ("0 mm", "200 mm"), ("0 mm", "160 mm"))
    words = {
        ("x", "low"): ("left", "right"),
        ("x", "high"): ("right", "left"),
        ("y", "low"): ("front", "back"),
        ("y", "high"): ("back", "front"),
    }
    word, far = words[across, side]
    d.board(
        "wall",
        "ply18",
        "facing_side" if across == "x" else "facing_front",
        f"shelf.{word}",
        ("0 mm", "160 mm"),
        ("0 mm", "160 mm"),
        face=far,
    )
    span = (f"shelf.{word} - 10 mm", f"shelf.{word} + 25 mm") if side == "low" else (f"shelf.{word} - 25 mm", f"shelf.{word} + 10 mm")
    other = "y" if across == "x" else "x"
    d.rod("dowel", "steel8", across, span, **{other: "70 mm", "z": "mid(shelf.bottom, shelf.top)"})
    built = build(d.document())
    _, patch = let_through(built, "dowel")
    built = build(patched(built.document.dump(), patch))
    (bore,) = built.flats["shelf"].flat.bores
    (hole,) = built.flats["wall"].flat.pockets
    assert (bore.edge, bore.diameter, round(bore.depth, 6)) == (word, 8.0, 26.0) and round(hole.depth, 6) == 11.0
    assert not {"overlap", "locked", "slides_out", "bore_misses"} & set(codes(built))
    with pytest.raises(DocumentError):
        let_through(built, "dowel")
    # its middle line is free in both, to the ground of both holes and no farther
    place, way = np.array(built.made["dowel"].reaches), "xyz".index(across)
    middle = place.mean(axis=0)
    for key in ("shelf", "wall"):
        for at, free in ((0.5, True), (-0.7, True), (-1.4, False)):
            low, high = place[0][way], place[1][way]
            p = middle.copy()
            into = key == "shelf"
            toward_high = (side == "low") == into
            p[way] = (high - at) if toward_high else (low + at)
            ball = manifold3d.Manifold.sphere(0.2, 8).translate(tuple(p))
            assert ((ball ^ solid_in_room(built.flats[key])).volume() < 1e-9) == free


@pytest.mark.parametrize(
    "shape",
    [
        {"shape": "square", "nominal": "10 mm"},
        {"shape": "hexagon", "nominal": "10 mm"},
        {"shape": "rectangle", "nominal": "6 mm", "width": "12 mm"},
    ],
)
@pytest.mark.parametrize("axis", "xyz")
def test_what_is_not_round_has_holes_like_it_or_round_ones_in_which_it_turns(axis, shape):
    area = {"square": 100.0, "hexagon": math.sqrt(3) / 2 * 100, "rectangle": 72.0}[shape["shape"]]
    reach = {"square": math.sqrt(50), "hexagon": 10 / math.sqrt(3), "rectangle": math.hypot(3, 6)}[shape["shape"]]
    built = build(walls(axis, fits=("0", "0"), stock=shape).document())
    for key in ("one", "two"):
        assert abs(built.flats[key].flat.inside[0].area) == pytest.approx(area)
        assert (solid_in_room(built.made["rod"]) ^ solid_in_room(built.flats[key])).volume() < 1e-6
    built = build(walls(axis, fits=("0.2 mm", "0.2 mm"), stock=shape, round=True).document())
    assert holes(built, "one") == [("through", pytest.approx(2 * reach + 0.2, abs=2e-3))]


def test_a_copy_may_be_bored_otherwise():
    """In one wall a hole, in its mirror image a mark, none, or one of another fit; the copy stays a copy."""
    d = Draft("d", "ply12", "steel8")
    d.board("left", "ply12", "facing_side", "0 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    d.mirror("m", "x", "150 mm", "part:left", names={"left": "right"})
    d.bore("hole", "x", {"y": "50 mm", "z": "40 mm"}, "8 mm", left=("cut", "0.2 mm"))
    twin = "left@m.1"

    def made(said):
        d.data["bores"]["hole"]["parts"]["left"]["copies"] = {twin: said} if said else {}
        built = build(d.document())
        assert not built.faults and built.flats[twin].made_by == (("m", 1),)
        assert holes(built, "left") == [("through", 8.2)]
        return built.flats[twin].flat

    assert [2 * c.as_circle[2] for c in made(None).inside] == pytest.approx([8.2])
    marked = made({"action": "mark"})
    assert not marked.inside and [2 * m.contour.as_circle[2] for m in marked.engraved] == pytest.approx([8.0])
    assert not made({"action": "leave"}).inside
    assert [2 * c.as_circle[2] for c in made({"action": "cut", "fit": {"text": "1 mm"}}).inside] == pytest.approx([9.0])
    d.data["bores"]["hole"]["parts"]["left"]["copies"] = {"right": {}}
    with pytest.raises(DocumentError) as error:
        d.document()
    assert error.value.entry == "/bores/hole/parts/left/copies/right"


def test_a_set_is_not_where_a_copy_is_not_bored():
    d = Draft("d", "ply12")
    d.board("left", "ply12", "facing_side", "0 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    d.mirror("m", "x", "150 mm", "part:left", names={"left": "right"})
    d.bore("hole", "x", {"y": "50 mm", "z": "40 mm"}, "8 mm", left=("cut", "0"))
    d.hardware("hole", size="M5", side="low")
    assert len(build(d.document()).sets["hole"].places) == 2
    d.data["bores"]["hole"]["parts"]["left"]["copies"] = {"left@m.1": {"action": "mark"}}
    assert [p.parts for p in build(d.document()).sets["hole"].places] == [("left",)]


# what is done at its ends


def worked(**ends):
    d = walls()
    d.data["parts"]["rod"]["worked"] = {
        e: {k: {"text": v} if k in ("long", "ring", "chamfer") else v for k, v in w.items()} for e, w in ends.items()
    }
    return d


@pytest.mark.parametrize("end", ["a", "b"])
def test_a_ring_lies_in_its_groove_by_din_471(end):
    built = build(worked(**{end: {"ring": "2 mm"}}).document())
    rod = built.made["rod"]
    # DIN 471 for 8 (from memory): ring 0.8 thick, groove 0.9 wide, 7.6 at its ground
    whole = math.pi / 4 * 64 * (rod.reaches[1][0] - rod.reaches[0][0])
    groove = math.pi / 4 * (64 - 7.6**2) * 0.9
    assert volume(exact_of(rod)) == pytest.approx(whole - groove, rel=1e-6) and volume_of_part(rod) == pytest.approx(
        whole - groove, rel=2e-3
    )
    ((part, ring),) = rings_of(built)
    assert part is rod and ring.hardware.designation == "DIN 471 - 8"
    at = sorted(ring.motion.point((0, 0, z))[0] for z in (0.0, 0.8))
    low, high = (rod.reaches[0][0] + 2, rod.reaches[0][0] + 2.8) if end == "a" else (rod.reaches[1][0] - 2.8, rod.reaches[1][0] - 2)
    assert at == pytest.approx([low, high]) and not built.faults
    assert [r.needed for r in to_buy(built) if r.designation == "DIN 471 - 8"] == [1]


def test_threads_chamfers_and_grooves_are_judged():
    for ends, code in (
        ({"a": {"ring": "0.1 mm"}}, "bad_end"),
        ({"a": {"thread": "M8", "long": "20 mm", "ring": "10 mm"}}, "bad_end"),
        ({"a": {"thread": "M10", "long": "20 mm"}}, "bad_end"),
        ({"a": {"thread": "M8", "long": "80 mm"}, "b": {"thread": "M8", "long": "80 mm"}}, "bad_end"),
        ({"a": {"thread": "M8", "long": "20 mm", "ring": "22 mm"}}, ""),
    ):
        built = build(worked(**ends).document())
        assert [f.code for f in built.faults] == ([code] if code else []), ends
        assert not built.made["rod"].body.empty
    # a bar of 8 may measure a little less, and takes the ring of 8; there is none for 7 and for 7.8
    for across, codes_ in (("7.9 mm", []), ("7.8 mm", ["bad_end"]), ("7 mm", ["bad_end"]), ("8.1 mm", ["bad_end"])):
        d = worked(a={"ring": "2 mm"})
        d.data["stocks"]["steel8"] |= {"nominal": {"text": across}}
        d.data["stocks"]["steel8"].pop("measured", None)
        built = build(d.document())
        assert [f.code for f in built.faults] == codes_
        assert [r.hardware.size for _, r in rings_of(built)] == ([] if codes_ else ["8"])


def test_rods_that_are_worked_alike_are_one_row():
    d = worked(a={"thread": "M8", "long": "20 mm"}, b={"ring": "2 mm"})
    d.rod("twin", "steel8", "x", ("rod.left", "rod.right"), y="80 mm", z="30 mm")
    # the same turned end for end
    d.data["parts"]["twin"]["worked"] = {"b": d.data["parts"]["rod"]["worked"]["a"], "a": d.data["parts"]["rod"]["worked"]["b"]}
    from zygon.exchange.cutlist import cut_list

    assert [r.quantity for r in cut_list(build(d.document())) if "rod" in r.part] == [2]
    d.data["parts"]["twin"]["worked"] = {"a": {"ring": {"text": "3 mm"}}}
    assert sorted(r.quantity for r in cut_list(build(d.document())) if r.stock.startswith(("Steel", "Round"))) == [1, 1]


# what holds it


@pytest.mark.parametrize("axis", "xyz")
def test_a_rod_that_runs_everywhere_slides_out_both_ways_until_something_holds_it(axis):
    def slides(d):
        return [p.fault.value for p in check(build(d.document())) if p.fault.code == "slides_out"]

    low, high = WORDS[axis]
    assert slides(walls(axis)) == [f"{low} and {high}"]
    assert not slides(walls(axis, fits=("0.2 mm", "0")))
    ring = walls(axis)
    ring.data["parts"]["rod"]["worked"] = {"a": {"ring": ring.entry("2 mm")}}
    assert slides(ring) == [low]  # the ring before the first wall keeps it from going on to the high side
    ring.data["parts"]["rod"]["worked"]["b"] = {"ring": ring.entry("2 mm")}
    assert not slides(ring)
    stop = walls(axis)
    stop.board("stop", "ply12", PLANES[axis], f"rod.{high}", ("0 mm", "120 mm"), ("0 mm", "90 mm"), face=low)
    assert slides(stop) == [low]
    (fault,) = [p.fault for p in check(build(walls(axis).document())) if p.fault.code == "slides_out"]
    assert len(fault.mends) == 2
    for mend in fault.mends:
        assert "slides_out" not in codes(build(patched(walls(axis).document().dump(), mend.patch)))


def test_a_pressed_rod_is_held_and_is_no_overlap():
    d = Draft("peg", "ply18", "steel8")
    d.board("wall", "ply18", "facing_front", "0 mm", ("0 mm", "200 mm"), ("0 mm", "200 mm"), face="front")
    d.rod("peg", "steel8", "y", ("wall.front - 60 mm", "wall.front + 12 mm"), x="100 mm", z="150 mm")
    d.bore("hole", "y", {}, "8 mm", wall=("cut", "-0.1 mm"))
    d.data["bores"]["hole"] |= {"at": {}, "member": "peg"}
    found = codes(build(d.document()))
    assert not {"overlap", "drops", "tips", "slides_out", "locked"} & set(found)
    d.data["bores"]["hole"]["parts"]["wall"]["fit"] = d.entry("0.3 mm")
    assert "slides_out" in codes(build(d.document()))


def test_an_axle_is_put_through_and_has_its_holes_by_itself():
    d = walls()
    del d.data["bores"]["hole"], d.data["parts"]["rod"]
    built = build(d.document())
    _, patch = place_axle(built, "steel8", "one", "left", (0.0, 40.0, 30.0))
    after = build(patched(built.document.dump(), patch))
    (key, bore), *_ = after.document.bores.items()
    assert bore.member and not bore.at and holes(after, "one") == holes(after, "two") == [("through", 8.2)]
    data = after.document.dump()
    data["parts"][bore.member]["at"]["y"] = {"text": "60 mm"}
    assert build(load(data)).flats["one"].flat.inside[0].as_circle[:2] != after.flats["one"].flat.inside[0].as_circle[:2]
    assert assembly(after).steps and key
