"""Parts hung on parts by hinges and slides: over every pair of faces, every way round, with the holes and the room that they need."""

from itertools import permutations

import numpy as np
import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.fittings import stand_on
from zygon.edits.hanging import hang
from zygon.edits.holes_over import take_holes
from zygon.errors import DocumentError
from zygon.exchange.to_buy import to_buy
from zygon.making.pipeline import build
from zygon.making.rooms.hanging import hangings, that_fit
from zygon.making.solids.solids import solid_in_room

PLANES = {0: "facing_side", 1: "facing_front", 2: "lying"}
THIN = 17.7  # the plywood as it was measured


def board(d, name, low, high):
    """A board that fills a box, thin along one axis."""
    thin = min(range(3), key=lambda i: high[i] - low[i])
    u, v = (i for i in range(3) if i != thin)
    d.board(name, "ply18", PLANES[thin], f"{low[thin]} mm", *((f"{low[i]} mm", f"{high[i]} mm") for i in (u, v)))


def turned(corners, order, signs):
    """A box with its axes exchanged and turned round."""
    points = np.array(corners)[:, list(order)] * signs
    return points.min(axis=0).round(4).tolist(), points.max(axis=0).round(4).tolist()


#: A lid on a back, by the back's outer face; a door in line with its post; a lid over a wall whose edge it covers. Low and high corners, back first.
PAIRS = {
    "lid on a wall": (((0, 200 - THIN, 0), (400, 200, 300)), ((0, -50, 300), (400, 200, 300 + THIN))),
    "in line": (((0, 0, 0), (400, 120, THIN)), ((0, 120.5, 0), (400, 300, THIN))),
    "lid inside": (((0, 200 - THIN, 0), (400, 200, 300)), ((0, -50, 200), (400, 200 - THIN, 200 + THIN))),
}


def drafted(pair, order=(0, 1, 2), signs=(1, 1, 1)):
    d = Draft("hung", "ply18", cutter="router")
    for name, corners in zip(("wall", "lid"), PAIRS[pair], strict=True):
        board(d, name, *turned(corners, order, np.array(signs)))
    return d.document()


def hung(document, designation="butt hinge - 30", number=2, way=""):
    label, patch = hang(build(document), designation, "lid", "wall", number, way)
    return label, patched(document.dump(), patch)


EVERY = [(p, o, s) for p in PAIRS for o in permutations(range(3)) for s in ((1, 1, 1), (-1, 1, 1), (1, -1, 1), (1, 1, -1), (-1, -1, -1))]


@pytest.mark.parametrize(("pair", "order", "signs"), EVERY)
def test_a_hinge_lies_on_both_and_runs_into_neither_whatever_way_they_stand(pair, order, signs):
    document = drafted(pair, order, signs)
    usual = {h.words for h in hangings(build(drafted(pair)), "butt hinge - 30", "lid", "wall")}
    ways = hangings(build(document), "butt hinge - 30", "lid", "wall")
    assert len(ways) == len(usual) > 0  # as many as before it was turned
    for way in ways:
        built = build(hung(document, way=way.words)[1])
        assert not built.faults, way.words
        hinges = [p for p in built.made.values() if p.record.kind == "hardware"]
        assert len(hinges) == 2
        for hinge in hinges:
            for name in ("wall", "lid"):
                both = solid_in_room(hinge) ^ solid_in_room(built.made[name])
                assert both.volume() < 0.02, (way.words, name)
        for one in built.sets.values():
            assert len(one.places) == 4  # two screws a leaf, two hinges
            for place in one.places:
                host = built.made[place.parts[-1]]
                assert place.parts[0] in {h.key for h in hinges} and host.key in ("wall", "lid")
                # the screw goes down the hole of its board: from where the leaf lies, nothing of the board is in its way
                start = np.array(place.at)
                assert place.stack[1] > 5
                assert host.flat.asked
                assert np.abs(start).max() < 1000
        assert {p.fault.code for p in check(built)} <= {"no_speeds", "underside", "needs_depth", "drops", "two_sides", "drilled"}, way.words


@pytest.mark.parametrize("pair", PAIRS)
def test_the_holes_lie_where_the_hinge_has_its_own(pair):
    """Every pilot hole of a board lies on the axis of a hole of a hinge, and there is one for each."""
    from zygon.making.features.bore_lines import lines_of_holes

    built = build(hung(drafted(pair))[1])
    from zygon.making.blanks.instances import instances_of
    from zygon.making.datums.solving import solve

    values = solve(built.document)
    for key, bore in built.document.bores.items():
        lines, own = lines_of_holes(values, bore, instances_of(values))
        assert own == 2 and len(lines) == 4
        part = next(iter(bore.parts))
        flat = built.flats[part]
        found = []
        for o in flat.flat.asked.operations:
            if o.owner == f"bore:{key}" and hasattr(o, "contour"):
                u, v, _ = o.contour.as_circle
                found.append(np.array([u, v]))
            elif o.owner == f"bore:{key}" and hasattr(o, "diameter") and hasattr(o, "side"):
                found.append(o)
        assert len(found) == 4
        to_flat = np.linalg.inv(np.array(flat.matrix))
        for line in lines:
            at = (to_flat @ [*line.point, 1.0])[:3]
            if isinstance(found[0], np.ndarray):
                assert min(np.abs(at[:2] - f).max() for f in found) < 1e-4


def test_leaves_are_screwed_each_to_its_own():
    label, document = hung(drafted("lid on a wall"))
    assert label == "lid hangs on wall by 2 butt hinges"
    built = build(document)
    assert {k: next(iter(b.parts)) for k, b in document.bores.items()} == {"screws_hinge_a": "wall", "screws_hinge_b": "lid"}
    bought = {r.name: r.needed for r in to_buy(built)}
    # pilot into a face of 17.7: 4 diameters, 10, and 1 of the leaf: 12; along its edge 6 diameters, 15, and 1: 16
    assert bought == {"Wood screw, countersunk 2.5 × 12": 4, "Wood screw, countersunk 2.5 × 16": 4, "Butt hinge 30": 2}
    assert built.sets["screws_hinge_a"].needed == pytest.approx(11.0)
    assert built.sets["screws_hinge_b"].needed == pytest.approx(16.0)


def test_a_thinner_lid_takes_shorter_screws_and_the_order_follows():
    document = hung(drafted("lid inside"), "butt hinge - 50")[1]
    before = {r.designation: r.needed for r in to_buy(build(document))}
    data = document.dump()
    data["stocks"]["ply18"].pop("measured", None)
    data["stocks"]["ply18"]["nominal"] = {"text": "14 mm", "unit": "mm"}
    after = {r.designation: r.needed for r in to_buy(build(patched(data, [])))}
    assert sum(before.values()) == sum(after.values()) and before != after


def test_between_boards_the_leaves_are_let_in_as_deep_as_they_need():
    document = hung(drafted("lid on a wall"), way="between, pin at the back")[1]
    built = build(document)
    # the leaves' backs are two knuckles' radii apart, 4.5, and the boards touch: 2.25 in each
    assert built.values["/parts/hinge/let_in"].value == pytest.approx(2.25)
    lid, wall = built.flats["lid"].flat, built.flats["wall"].flat
    assert {round(p.depth, 4) for p in lid.pockets if p.owner == "part:hinge"} == {2.25}
    # the wall's edge is notched through all of its thickness, as long as a leaf and 2.25 deep, twice
    whole = build(drafted("lid on a wall")).flats["wall"].flat
    assert whole.area - wall.area == pytest.approx(2 * 30 * 2.25, abs=1e-6)


@pytest.mark.parametrize("number", [1, 2, 3, 5])
def test_as_many_as_asked_evenly(number):
    built = build(hung(drafted("lid inside"), number=number)[1])
    middles = sorted(sum(c[0] for c in p.reaches) / 2 for p in built.made.values() if p.record.kind == "hardware")
    assert len(middles) == number
    if number == 1:
        assert middles == pytest.approx([200])
    else:
        assert middles[0] == pytest.approx(45) and middles[-1] == pytest.approx(355)
        assert np.diff(middles) == pytest.approx([310 / (number - 1)] * (number - 1))
    # the lid grows, and they go on standing evenly
    assert all(len(s.places) == 2 * number for s in built.sets.values())


def test_what_does_not_fit_says_what_is_missing():
    document = drafted("in line")
    built = build(document)
    with pytest.raises(DocumentError, match=r"Ball-bearing drawer slide 45 × 250 has no room between wall and lid") as refused:
        hang(built, "ball-bearing drawer slide - 45 x 250", "lid", "wall")
    assert refused.value.code == "no_room" and "12.7 mm between two faces" in refused.value.rule
    with pytest.raises(DocumentError, match="lets nothing move"):
        hang(built, "ISO 7089 - M5", "lid", "wall")
    with pytest.raises(DocumentError, match="between two parts"):
        hang(built, "butt hinge - 30", "lid", "lid")
    with pytest.raises(DocumentError, match="no hardware called"):
        hang(built, "butt hinge - 31", "lid", "wall")
    with pytest.raises(DocumentError, match="takes no hinge"):
        hang(built, "butt hinge - 30", "nothing", "wall")
    with pytest.raises(DocumentError, match="12 hinges have no room"):
        hang(built, "butt hinge - 80", "lid", "wall", 12)


def test_a_hinge_opens_as_far_as_it_goes():
    """What is out of its range is said."""
    data = hung(drafted("lid inside"))[1].dump()
    assert "moved 300°" not in str(build(patched(data, [])).faults)
    data["parts"]["hinge"]["moved"] = {"text": "300 deg", "unit": "mm"}
    faults = {f.entry: f for f in build(patched(data, [])).faults}
    assert faults["/parts/hinge/moved"].code == "bad_value" and "turns, 0 to 270°" in faults["/parts/hinge/moved"].rule


CARCASS = {"side": ((0, 0, 0), (THIN, 450, 200)), "drawer": ((THIN + 12.7, 2, 40), (2 * THIN + 12.7, 440, 160))}


@pytest.mark.parametrize("axes", [(0, 1, 2), (1, 0, 2), (2, 1, 0)])
def test_a_slide_lies_between_a_side_and_a_drawer(axes):
    d = Draft("drawer", "ply18")
    for name, corners in CARCASS.items():
        board(d, name, *turned(corners, axes, np.array((1, 1, 1))))
    document = d.document()
    built = build(document)
    found = that_fit(built, "drawer", "side")
    slides = [f.piece.name for f in found if f.piece.freedom.kind == "slides"]
    assert slides[0] == "Ball-bearing drawer slide 45 × 400"  # the longest that 438 mm take
    label, patch = hang(built, "ball-bearing drawer slide - 45 x 400", "drawer", "side")
    assert label == "drawer runs on side"
    after = build(patched(document.dump(), patch))
    assert not after.faults
    slide = after.made["slide"]
    for name in CARCASS:
        assert (solid_in_room(slide) ^ solid_in_room(after.made[name])).volume() < 0.02
    gap = axes.index(0)
    assert (slide.reaches[0][gap], slide.reaches[1][gap]) == pytest.approx((THIN, THIN + 12.7))
    assert {p for s in after.sets.values() for place in s.places for p in place.parts} == {"slide", "side", "drawer"}
    assert sum(len(s.places) for s in after.sets.values()) == 6


@pytest.mark.parametrize(("off", "fits"), [(0.0, True), (0.5, True), (-0.5, True), (0.8, False), (-0.8, False)])
def test_a_slide_wants_its_room(off, fits):
    d = Draft("drawer", "ply18")
    for name, (low, high) in CARCASS.items():
        add = off if name == "drawer" else 0.0
        board(d, name, (low[0] + add, *low[1:]), (high[0] + add, *high[1:]))
    assert bool([f for f in that_fit(build(d.document()), "drawer", "side") if f.piece.family == "drawer_slide"]) == fits


FACES_OF = [(axis, side) for axis in range(3) for side in (0, 1)]
WORDS = (("left", "right"), ("front", "back"), ("bottom", "top"))


@pytest.mark.parametrize(("axis", "side"), FACES_OF)
def test_a_magnet_is_let_in_flush_with_any_face(axis, side):
    d = Draft("magnets", "ply18", cutter="router")
    high = [200.0, 200.0, 200.0]
    high[axis] = THIN
    board(d, "board", (0, 0, 0), high)
    document = d.document()
    at = [60.2, 70.4, 80.3]
    at[axis] = (0.0, THIN)[side]
    label, patch = stand_on(build(document), "disc magnet - 10 x 3", "board", WORDS[axis][side], tuple(at))
    assert label == "Disc magnet 10 × 3 on board"
    built = build(patched(document.dump(), patch))
    assert not built.faults
    pocket = built.flats["board"].flat.pockets[0]
    assert pocket.depth == pytest.approx(3.0) and 2 * pocket.contour.as_circle[2] == pytest.approx(10.0)
    low, top = built.made["magnet"].reaches
    flush = top[axis] if side else low[axis]
    assert flush == pytest.approx((0.0, THIN)[side])
    for k in range(3):
        if k != axis:
            assert (low[k] + top[k]) / 2 == pytest.approx(round(at[k]))
    assert (solid_in_room(built.made["magnet"]) ^ solid_in_room(built.made["board"])).volume() < 0.5


def test_a_foot_is_screwed_on_and_a_bearing_goes_through_what_is_thinner_than_it():
    d = Draft("feet", "ply18", "ply6", cutter="router")
    board(d, "floor", (0, 0, 0), (300, 200, THIN))
    d.board("plate", "ply6", "lying", "100 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    document = d.document()
    document = patched(document.dump(), stand_on(build(document), "screw-on foot - 20", "floor", "bottom", (30.0, 30.0, 0.0))[1])
    document = patched(document.dump(), stand_on(build(document), "ISO 15 - 608", "plate", "top", (50.0, 50.0, 106.0))[1])
    built = build(document)
    assert not built.faults
    assert [s.words for s in built.sets.values()] == ["wood screw, round head 3.5 × 25"]  # 10 of the foot and 4 diameters
    assert built.made["foot"].reaches[1][2] == pytest.approx(0.0) and built.made["foot"].reaches[0][2] == pytest.approx(-10.0)
    holes = [c.as_circle for c in built.flats["plate"].flat.pieces[0].inner]
    assert [2 * h[2] for h in holes] == pytest.approx([22.0])
    with pytest.raises(DocumentError, match="does not stand on a face by itself"):
        stand_on(built, "butt hinge - 30", "floor", "top", (1.0, 1.0, 18.0))
    with pytest.raises(DocumentError, match="no hole that lies on a part"):
        take_holes(built, "foot")


def test_a_hinge_on_metal_takes_screws_with_nuts():
    d = Draft("metal", "galv20")
    d.board("wall", "galv20", "facing_front", "100 mm", ("0 mm", "200 mm"), ("0 mm", "100 mm"))
    d.board("lid", "galv20", "facing_front", "100 mm", ("0 mm", "200 mm"), ("101 mm", "200 mm"))
    document = hung(d.document())[1]
    built = build(document)
    assert not built.faults
    assert {s.words for s in built.sets.values()} == {
        "pan head screw, cross recess M2.5 × 5, hexagon nut"
    }  # 1 of leaf, 0.95 of sheet, a nut of 2 and a pitch of 0.45


def test_places_of_hardware_have_names():
    data = hung(drafted("lid inside"))[1].dump()
    data["sizes"]["off"] = {"name": "off", "kind": "length", "entry": {"text": "hinge.b1 - hinge.origin", "unit": "mm"}}
    data["parts"]["probe"] = {
        "kind": "board", "name": "probe", "stock": "ply18", "plane": "lying", "position": {"face": "bottom", "at": {"text": "400 mm"}},
        "spans": {"x": {"low": {"text": "hinge.a1"}, "high": {"text": "hinge.a2"}}, "y": {"low": {"text": "hinge.front"}, "high": {"text": "hinge.front + 10 mm"}}},
        "order": 9,
    }  # fmt: skip
    del data["sizes"]["off"]
    built = build(patched(data, []))
    hinge = built.made["hinge"]
    places = [place for place in built.sets["screws_hinge_a"].places if place.parts[0] == "hinge"]
    seen = sorted(place.at[0] for place in places)
    low, high = built.made["probe"].reaches
    assert (low[0], high[0]) == pytest.approx(tuple(seen)) and low[1] == pytest.approx(hinge.reaches[0][1])
    data["parts"]["probe"]["spans"]["x"]["low"]["text"] = "hinge.a9"
    fault = build(patched(data, [])).faults[0]
    assert fault.code == "broken_expression" and "hinge has no a9" in fault.message and "a1" in fault.message


def test_in_a_mirrored_copy_of_both_the_hinges_are_screwed_there_too():
    data = hung(drafted("lid inside"))[1].dump()
    data["copies"]["other"] = {
        "kind": "mirror",
        "name": "other",
        "axis": "y",
        "at": {"text": "-100 mm"},
        "of": ["part:wall", "part:lid", "part:hinge", "copy:hinges"],
        "order": 5,
    }
    built = build(patched(data, []))
    assert not built.faults
    hinges = [p for p in built.made.values() if p.record.kind == "hardware"]
    assert len(hinges) == 4
    bought = {r.name: r.needed for r in to_buy(built)}
    assert bought["Butt hinge 30"] == 4 and sum(n for name, n in bought.items() if name.startswith("Wood screw")) == 16
    for hinge in hinges:
        for part in built.flats.values():
            assert (solid_in_room(hinge) ^ solid_in_room(part)).volume() < 0.02
    held = {frozenset(place.parts) for s in built.sets.values() for place in s.places}
    assert all(any(h.key in pair for pair in held) for h in hinges)


def test_copies_that_are_made_independent_lie_where_they_lay():
    from zygon.edits.independent import make_independent

    document = hung(drafted("lid inside"), number=3)[1]
    built = build(document)
    before = sorted(p.reaches for p in built.made.values() if p.record.kind == "hardware")
    _, patch = make_independent(built, "hinges")
    after = build(patched(document.dump(), patch))
    assert sorted(p.reaches for p in after.made.values() if p.record.kind == "hardware") == [
        tuple(pytest.approx(c) for c in corners) for corners in before
    ]
    # those that are by themselves have no screws yet, and get them in one act
    free = next(k for k, p in after.document.parts.items() if p.name == "hinge_2")
    screwed = build(patched(after.document.dump(), take_holes(after, free)[1]))
    assert not screwed.faults and len(screwed.sets) == 4


@pytest.mark.parametrize("axis", "xyz")
def test_a_magnet_s_mirror_image_may_stand_by_itself_and_a_hinge_s_may_not(axis):
    from zygon.edits.independent import make_independent

    d = Draft("magnets", "ply18", cutter="router")
    board(d, "board", (0, 0, 0), (200, 200, THIN))
    document = patched(d.document().dump(), stand_on(build(d.document()), "disc magnet - 10 x 3", "board", "top", (60.0, 70.0, THIN))[1])
    data = document.dump()
    data["copies"]["other"] = {
        "kind": "mirror",
        "name": "other",
        "axis": axis,
        "at": {"text": "-30 mm"},
        "of": ["part:board", "part:magnet"],
        "order": 1,
    }
    built = build(patched(data, []))
    before = sorted(p.reaches for p in built.made.values())
    after = build(patched(data, make_independent(built, "other")[1]))
    assert sorted(p.reaches for p in after.made.values()) == [tuple(pytest.approx(c) for c in corners) for corners in before]
    data = hung(drafted("lid inside"), number=1)[1].dump()
    data["copies"]["other"] = {"kind": "mirror", "name": "other", "axis": axis, "at": {"text": "-500 mm"}, "of": ["part:hinge"], "order": 1}
    with pytest.raises(DocumentError, match="hinges and slides"):
        make_independent(build(patched(data, [])), "other")


def test_what_a_removed_board_carried_no_longer_lies_on_it():
    from zygon.design.operations import remove_part

    document = hung(drafted("lid inside"))[1]
    after = patched(document.dump(), remove_part(document, "lid")[1])
    assert after.parts["hinge"].on == {"a": "wall"}
    gone = patched(document.dump(), remove_part(document, "hinge")[1])
    assert not gone.bores and not gone.copies


@pytest.mark.parametrize(("pair", "way"), [("lid on a wall", "between, pin at the back"), ("magnet", "")])
def test_what_is_said_to_be_let_in_otherwise_than_it_lies_is_told_with_a_mend(pair, way):
    if way:
        data, part = hung(drafted(pair), way=way)[1].dump(), "hinge"
    else:
        d = Draft("magnets", "ply18", cutter="router")
        board(d, "board", (0, 0, 0), (200, 200, THIN))
        document = d.document()
        patch = stand_on(build(document), "disc magnet - 10 x 3", "board", "top", (60.0, 70.0, THIN))[1]
        data, part = patched(document.dump(), patch).dump(), "magnet"
    before = data["parts"][part]["let_in"]["text"]
    data["parts"][part]["let_in"]["text"] = "1.2 mm"
    (fault,) = build(patched(data, [])).faults
    assert (fault.code, fault.entry) == ("let_in_otherwise", f"/parts/{part}/let_in") and "1.2 mm" in fault.message
    mended = patched(data, list(fault.mends[0].patch))
    assert not build(mended).faults and mended.parts[part].let_in.text.split()[0] == before.split()[0]


@pytest.mark.parametrize("gap", ["0", "1/64", "0.0137"])
def test_in_inches_what_hang_says_is_let_in_is_as_deep_as_it_lies(gap):
    d = Draft("inches", "ply34", unit="in", cutter="router")
    d.board("wall", "ply34", "facing_front", "8", ("0", "16"), ("0", "12"), face="back")
    d.board("lid", "ply34", "lying", f"wall.top + {gap}", ("0", "16"), ("-2", "8"))
    document = d.document()
    way = "between, pin at the back"
    built = build(patched(document.dump(), hang(build(document), "butt hinge - 40", "lid", "wall", 2, way)[1]))
    assert not built.faults and built.flats["lid"].flat.pockets
