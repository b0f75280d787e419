"""What is one row of the cut list, cut from one drawing: parts that differ in one thing are two rows, wherever and however turned they lie."""

import itertools
import math
from dataclasses import replace

import pytest

from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.geometry.frame import FACES
from zygon.making.flats.alike import alike, rows_of
from zygon.making.pipeline import build

#: A part with one of each thing that may tell it from another: none of it lies on its own mirror image or half turn.
FEATURES = {
    "hole": ("hole", ("left", 31), ("front", 22), {"diameter": 11}),
    "blind": ("hole", ("left", 61), ("front", 83), {"diameter": 9, "depth": 4}),
    "slot": ("slot", ("left", 120), ("front", 31), {"length": 40, "width": 8, "angle": "17 deg"}),
    "cut": ("rectangle", ("left", 90), ("front", 61), {"width": 22, "height": 13, "radius": 3}),
    "pocket": ("pocket", ("left", 158), ("front", 84), {"width": 32, "height": 21, "depth": 3, "face": "bottom"}),
    "groove": ("groove", ("left", 17), ("centre", 0), {"along": "v", "width": 5, "depth": 2, "length": 50}),
    "corner": ("corner", ("centre", 0), ("centre", 0), {"corner": "front-right", "style": "round", "size": 12}),
    "curve": ("edge_curve", ("centre", 0), ("centre", 0), {"edge": "back", "rise": 6, "bulge": "in"}),
    "line": ("mark_line", ("left", 70), ("front", 108), {"length": 30, "angle": "5 deg"}),
    "circle": ("mark_circle", ("left", 140), ("front", 60), {"diameter": 14}),
    "bore": ("edge_hole", ("centre", 0), ("front", 40), {"edge": "left", "diameter": 5, "depth": 12, "height": 5}),
}
#: One thing of each of them that is another: a field's value, or a place (origin, offset).
OTHERS = {
    "hole": [
        ("diameter", 11.1),
        ("diameter", 10.9),
        ("u", ("left", 31.1)),
        ("u", ("left", 30.9)),
        ("v", ("front", 22.1)),
        ("v", ("front", 21.9)),
        ("depth", 6),
    ],
    "blind": [("depth", 4.1), ("face", "bottom")],
    "slot": [("length", 40.1), ("length", 39.9), ("u", ("left", 119.9)), ("width", 8.1), ("angle", "17.5 deg"), ("angle", "-17 deg")],
    "cut": [("width", 22.1), ("height", 13.1), ("radius", 3.2)],
    "pocket": [("depth", 3.1), ("face", "top"), ("u", ("left", 158.1)), ("width", 32.1)],
    "groove": [("width", 5.1), ("depth", 2.1), ("length", 50.2), ("face", "bottom")],
    "corner": [("size", 12.1), ("style", "hollow"), ("style", "cut"), ("corner", "front-left")],
    "curve": [("rise", 6.1), ("bulge", "out"), ("edge", "front")],
    "line": [("length", 30.1), ("angle", "5.5 deg"), ("face", "bottom"), ("u", ("left", 70.1))],
    "circle": [("diameter", 14.1), ("v", ("front", 60.1)), ("face", "bottom")],
    "bore": [("diameter", 5.1), ("depth", 12.1), ("height", 6), ("edge", "right"), ("v", ("front", 40.1))],
}
CHANGES = [(name, field, value) for name, all_of in OTHERS.items() for field, value in all_of]


def drawn(d, key, x, change=None, stock="ply12", size=(200, 120)):
    d.board(key, stock, "lying", 0, (x, x + size[0]), (0, size[1]))
    for name, (kind, u, v, more) in FEATURES.items():
        place, fields = {"u": u, "v": v}, dict(more)
        if change and change[0] == name:
            (place if change[1] in place else fields)[change[1]] = change[2]
        d.feature(key, name, kind, place["u"], place["v"], **fields)


def rows(d, patch=()):
    built = build(patched(d.document().dump(), list(patch)))
    return [(r.keys, r.handed_of) for r in rows_of(built.document, built.parts)], built


def two(change, **more):
    d = Draft("d", "ply12", "ply6", cutter="router")
    drawn(d, "one", 0)
    drawn(d, "two", 400, change, **more)
    return rows(d)


def test_equal_parts_are_one_row_and_lie_on_one_another():
    found, built = two(None)
    assert found == [(("one", "two"), 0)]
    assert alike(built.parts["one"].flat, built.parts["two"].flat) == pytest.approx((1, 0, 0, 0))


@pytest.mark.parametrize(("name", "field", "value"), CHANGES)
def test_parts_that_differ_in_one_thing_are_two_rows(name, field, value):
    assert two((name, field, value))[0] == [(("one",), 0), (("two",), 0)]


def test_every_thing_that_a_part_may_have_is_tried():
    flat = two(None)[1].parts["one"].flat
    assert flat.inside and flat.pockets and flat.engraved and flat.bores and any(s.bulge for s in flat.pieces[0].outer.segments())
    assert {p.face for p in flat.pockets} == {"a", "b"}


@pytest.mark.parametrize("size", [(200.1, 120), (200, 120.1)])
def test_a_part_that_is_a_tenth_longer_is_another(size):
    assert two(None, size=size)[0] == [(("one",), 0), (("two",), 0)]


def test_parts_of_another_stock_are_another_row():
    assert two(None, stock="ply6")[0][0] == (("one",), 0)
    d = Draft("d", "ply12", "ply6", cutter="router")
    for key, stock, x in (("one", "ply12", 0), ("two", "ply6", 300)):
        d.board(key, stock, "lying", 0, (x, x + 200), (0, 120))
    # as thick as the other, so that nothing but the stock tells them apart
    same = [{"op": "add", "path": "/stocks/ply6/measured", "value": {"text": "11.8 mm"}}]
    assert rows(d, same)[0] == [(("one",), 0), (("two",), 0)]


@pytest.mark.parametrize(("shift", "equal"), [(0.0018, True), (0.0024, False)])
@pytest.mark.parametrize("way", ["u", "v"])
def test_what_no_cutter_can_tell_apart_is_the_same(shift, equal, way):
    u, v = 31 + shift * (way == "u"), 22 + shift * (way == "v")
    d = Draft("d", "ply12", cutter="router")
    for key, x, at in (("one", 0, (31, 22)), ("two", 300, (u, v))):
        d.board(key, "ply12", "lying", 0, (x, x + 200), (0, 120))
        d.feature(key, "h", "hole", ("left", at[0]), ("front", at[1]), diameter=11)
        d.feature(key, "n", "edge_notch", ("left", 20), ("centre", 0), edge="front", width=10, depth=5)
    assert len(rows(d)[0]) == (1 if equal else 2)


PLANES = ["lying", "facing_front", "facing_side"]


def notched(d, key, plane, mirrored=False, turned=0):
    """A board of 200 by 120 with a hole, a notch and a pocket beside the middle, as it lies or a quarter, half or three quarters round."""
    low, high = FACES["x" if plane != "facing_side" else "y"], FACES["z" if plane != "lying" else "y"]
    u, v = (low, high) if turned % 2 == 0 else (high, low)
    if turned in (2, 3):
        u = u[::-1]
    if turned in (1, 2):
        v = v[::-1]
    if mirrored:
        u = u[::-1]
    size = (200, 120) if turned % 2 == 0 else (120, 200)
    d.board(key, "ply12", plane, 0, (0, size[0]), (0, size[1]))
    for name, kind, along, up, more in (
        ("h", "hole", 31, 22, {"diameter": 11}),
        (
            "p",
            "pocket",
            140,
            81,
            {"width": 30 if turned % 2 == 0 else 20, "height": 20 if turned % 2 == 0 else 30, "depth": 3, "radius": 4},
        ),
    ):
        places = [(u[0], along), (v[0], up)]
        d.feature(key, name, kind, *(places if turned % 2 == 0 else places[::-1]), **more)
    places = [(u[0], 60), ("centre", 0)]
    d.feature(key, "n", "edge_notch", *(places if turned % 2 == 0 else places[::-1]), edge=v[0], width=12, depth=7)


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("turned", [0, 1, 2, 3])
def test_a_part_that_is_turned_within_its_plane_is_the_same_and_one_that_is_mirrored_its_pair(plane, turned):
    for mirrored in (False, True):
        d = Draft("d", "ply12", cutter="router")
        notched(d, "one", plane)
        notched(d, "two", plane, mirrored, turned)
        found, built = rows(d)
        a, b = (built.parts[k].flat for k in ("one", "two"))
        if mirrored:
            assert found == [(("one",), 0), (("two",), 1)] and alike(a, b) is None
        else:
            assert found == [(("one", "two"), 0)]
            c, s, du, dv = alike(a, b)
            assert math.degrees(math.atan2(s, c)) % 360 == pytest.approx(90 * turned, abs=1e-4) or turned in (1, 3)
            # the hole's middle goes where the hole is
            (x, y, _), (x1, y1, _) = (f.inside[[round(k.as_circle[2], 3) for k in f.inside].index(5.5)].as_circle for f in (a, b))
            assert (c * x - s * y + du, s * x + c * y + dv) == pytest.approx((x1, y1), abs=1e-6)


@pytest.mark.parametrize(("first", "second"), [*itertools.product(["u", "v", "free"], repeat=2)])
@pytest.mark.parametrize("turned", [0, 1, 2, 3])
def test_where_a_stock_has_a_grain_it_runs_the_same_way_in_equal_parts(first, second, turned):
    d = Draft("d", "ply12", cutter="router")
    notched(d, "one", "lying")
    notched(d, "two", "lying", turned=turned)
    grain = [{"op": "add", "path": f"/parts/{k}/grain", "value": g} for k, g in (("one", first), ("two", second))]
    plain = rows(d, [*grain, {"op": "add", "path": "/stocks/ply12/grain", "value": "none"}])[0]
    assert len(plain) == 1
    along = rows(d, [*grain, {"op": "add", "path": "/stocks/ply12/grain", "value": "along"}])[0]
    if "free" in (first, second):
        equal = first == second
    else:
        equal = (first == second) == (turned % 2 == 0)
    assert len(along) == (1 if equal else 2)


@pytest.mark.parametrize(("radius", "equal"), [(60.0, True), (60.05, False)])
def test_discs_are_equal_by_their_size_and_turn_by_what_is_in_them(radius, equal):
    d = Draft("d", "ply12", cutter="router")
    for key, x, r, hole in (("one", 0, 60.0, ("left", 30)), ("two", 300, radius, ("right", 30))):
        d.board(key, "ply12", "lying", 0, (x, x + 2 * r), (0, 2 * r))
        d.feature(key, "h", "hole", hole, ("centre", 0), diameter=11)
    discs = [{"op": "add", "path": f"/parts/{k}/outline", "value": {"kind": "disc"}} for k in ("one", "two")]
    found, built = rows(d, discs)
    assert len(found) == (1 if equal else 2)
    if equal:
        c, s, *_ = alike(built.parts["one"].flat, built.parts["two"].flat)
        assert (c, s) == pytest.approx((-1, 0))


SCREWED = [
    ({}, 1),
    ({"size": "5"}, 2),
    ({"countersink": False}, 2),
    ({"number": "4"}, 2),
    ({"inset": "31"}, 2),
    ({"inset": "30"}, 1),
    ({"fit": "0.1"}, 2),
]


@pytest.mark.parametrize(("other", "count"), SCREWED)
def test_screwed_parts_are_equal_where_their_screws_are(other, count):
    d = Draft("d", "ply12", cutter="router")
    for key, x, more in (("one", 0, {}), ("two", 400, other)):
        d.board(f"{key}_b", "ply12", "facing_front", 0, (x, x + 200), (0, 150))
        d.board(f"{key}_a", "ply12", "facing_side", x + 80, (f"{key}_b.back", 160), (0, 150))
        d.joint("screws", f"{key}_a", f"{key}_b", **{"size": "4", "number": "3", "inset": "30", **more})
    found, built = rows(d)
    assert len([keys for keys, _ in found if keys[0].endswith("_b")]) == count
    assert len(built.parts["one_b"].flat.sinks) == 3
    # what is sunk from the other face is another part
    if other == {}:
        flat = built.parts["two_b"].flat
        turned = replace(flat, sinks=tuple(replace(s, face="a" if s.face == "b" else "b") for s in flat.sinks), digest="turned")
        moved = replace(flat, sinks=tuple(replace(s, v=s.v + 0.1) for s in flat.sinks), digest="moved")
        aside = replace(flat, sinks=tuple(replace(s, u=s.u + 0.1) for s in flat.sinks), digest="aside")
        assert [alike(built.parts["one_b"].flat, f) for f in (turned, moved, aside)] == [None] * 3


@pytest.mark.parametrize("name", FEATURES)
@pytest.mark.parametrize("without", ["one", "two"])
def test_a_part_that_lacks_one_thing_is_another_whichever_comes_first(name, without):
    d = Draft("d", "ply12", "ply6", cutter="router")
    drawn(d, "one", 0)
    drawn(d, "two", 400)
    found, built = rows(d, [{"op": "remove", "path": f"/parts/{without}/features/{name}"}])
    assert found == [(("one",), 0), (("two",), 0)]
    # what is told at first sight is told by the comparison too
    a, b = (built.parts[k].flat for k in ("one", "two"))
    assert alike(a, b) is None and alike(b, a) is None


@pytest.mark.parametrize(("more", "equal"), [(0.0019, True), (0.0021, False), (-0.0021, False)])
def test_as_thick_is_to_what_a_cutter_repeats_and_the_face_that_is_seen_is_the_same(more, equal):
    flat = two(None)[1].parts["one"].flat
    other = replace(flat, thickness=flat.thickness + more, digest=f"another by {more}")
    assert (alike(flat, other) is not None) == (alike(other, flat) is not None) == equal
    assert alike(flat, replace(flat, seen="b" if flat.seen == "a" else "a", digest="the other face")) is None


def curved(*bulges):
    """A square of 100 with its corners where they are, whatever its sides bulge by."""
    corners = ((0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (0.0, 100.0))
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 100))
    plain = build(d.document()).parts["p"].flat
    return replace(plain, pieces=(Region(Contour(corners, bulges, ("outline",) * 4)),), digest=f"square {bulges}")


@pytest.mark.parametrize("by", [0.2, 0.001])
@pytest.mark.parametrize("turned", range(4))
def test_a_bulge_in_and_one_out_are_not_one_out_and_one_in(turned, by):
    """As large, with the same corners: only the way of the bulges tells them apart."""
    own, image = [by, -by, 0.0, 0.0], [-by, by, 0.0, 0.0]
    around = tuple(image[turned:] + image[:turned])
    assert alike(curved(*own), curved(*around)) is None and alike(curved(*around), curved(*own)) is None
    same = tuple(own[-turned:] + own[:-turned])
    turn = alike(curved(*own), curved(*same))
    assert turn is not None and turn[:2] == pytest.approx((math.cos(turned * math.pi / 2), math.sin(turned * math.pi / 2)))


def pair(first, second, stock="ply12"):
    d = Draft("d", stock, cutter="router")
    for key, x, (features, grain) in (("one", 0, first), ("two", 400, second)):
        d.board(key, stock, "lying", 0, (x, x + 200), (0, 120), **({"grain": grain} if grain else {}))
        for i, (kind, u, v, more) in enumerate(features):
            d.feature(key, f"f{i}", kind, ("left", u), ("front", v), **more)
    return d


def test_a_part_is_the_mirror_image_of_another_only_where_that_one_s_image_is_it():
    middle, aside = ("hole", 100, 60, {"diameter": 9}), ("hole", 57, 41, {"diameter": 9})
    assert rows(pair(([middle], ""), ([aside], "")))[0] == [(("one",), 0), (("two",), 0)]
    assert rows(pair(([aside], ""), ([("hole", 143, 41, {"diameter": 9})], "")))[0] == [(("one",), 0), (("two",), 1)]


@pytest.mark.parametrize("unlike", ["", "up", "grain", "stock", "group"])
@pytest.mark.parametrize("which", ["one", "two"])
def test_a_mirror_image_of_another_kin_is_no_pair(unlike, which):
    """What lies the other way up, along the grain, of another stock, or in a group that its number names, is a part of its own."""
    d = pair(([("hole", 57, 41, {"diameter": 9})], ""), ([("hole", 143, 41, {"diameter": 9})], ""))
    part = d.data["parts"][which]
    match unlike:
        case "up":
            part["up"] = "b" if part.get("up", "a") == "a" else "a"
        case "grain":
            d.data["stocks"][part["stock"]]["grain"] = "along"
            part["grain"] = "u"
        case "stock":
            d.data["stocks"]["other"] = {**d.data["stocks"][part["stock"]], "name": "another"}
            part["stock"] = "other"
        case "group":
            d.group("g")
            d.data["numbering"], part["group"] = "{group}-{number}", "g"
    found = rows(d)[0]
    assert {k for k, _ in found} == {("one",), ("two",)} and [n for _, n in found] == [0, 0 if unlike else 1]


MARK = ("mark_circle", 150, 20, {"diameter": 8})
DEEP = ("hole", 150, 90, {"diameter": 8, "depth": 3})


@pytest.mark.parametrize(("more", "equal"), [((), True), ((MARK,), False), ((DEEP,), False)])
@pytest.mark.parametrize("where", ["both", "one", "two"])
def test_where_faces_are_alike_a_part_and_its_mirror_image_are_one_but_for_what_is_worked_into_a_face(more, equal, where):
    aside, image = ("hole", 57, 41, {"diameter": 9}), ("hole", 143, 41, {"diameter": 9})

    def handed(feature):
        kind, u, v, fields = feature
        return kind, 200 - u, v, fields

    one = [aside, *(more if where != "two" else ())]
    two_ = [image, *(map(handed, more) if where != "one" else ())]
    d = pair((one, ""), (two_, ""))
    found = rows(d, [{"op": "replace", "path": "/stocks/ply12/faces", "value": "alike"}])[0]
    if equal:
        assert found == [(("one", "two"), 0)]
    else:
        assert found == [(("one",), 0), (("two",), 1 if where == "both" else 0)]
    # where they are not alike it is a pair
    assert rows(d, [{"op": "replace", "path": "/stocks/ply12/faces", "value": "differ"}])[0][0] == (("one",), 0)


@pytest.mark.parametrize(
    "more",
    [{}, {"made": "bought"}, {"price": 3.5}, {"up": "b"}, {"stock": "other"}, {"group": "g"}],
    ids=lambda m: "-".join(m) or "alike",
)
@pytest.mark.parametrize("which", [0, 1])
def test_parts_of_one_shape_are_equal_where_they_come_from_one_place(more, which):
    """Bent brackets: what is bought, has another price or stock, lies on its other face, or is numbered by its group, is another row."""
    d = Draft("d", "galv20")
    d.data["stocks"]["other"] = {**d.data["stocks"]["galv20"], "order": 9}
    d.group("g")
    d.inside = ""
    for n, key in enumerate(("one", "two")):
        own = more if n == which else {}
        stock = own.get("stock", "galv20")
        d.board(key, stock, "lying", 0, (400 * n, 400 * n + 120), (0, 80), up=own.get("up", "a"))
        d.fold(key).flange(key, "f", "left", "25 mm")
        d.feature(key, "h", "hole", ("right", 21), ("front", 17), diameter=6)
        d.data["parts"][key] |= {k: v for k, v in own.items() if k in ("made", "price", "group")}
    d.data["numbering"] = "{group}{number}"
    found = rows(d)[0]
    assert {frozenset(keys) for keys, _ in found} == (
        {frozenset(("one", "two"))} if not more else {frozenset(("one",)), frozenset(("two",))}
    )
