"""Rules that few other tests look at, each by its own figure."""

import math
import re

import pytest

from tests.core.making.joints.pairs import pair, stocked
from tests.core.making.metal.test_every_fold import made, square
from tests.core.making.metal.trays import entry
from zygon.design.document import parse_document
from zygon.design.draft import Draft
from zygon.design.features import FEATURE_RECORDS
from zygon.design.patch import patched
from zygon.edits.cut_tests import add_comb, add_kerf_test, beside
from zygon.edits.independent import make_independent
from zygon.edits.split import split_part
from zygon.errors import DocumentError
from zygon.making.assembly.hold import halves as halves_of
from zygon.making.assembly.sweep import TOUCH, solid_parts, tolerance_of
from zygon.making.flats.alike import alike
from zygon.making.pipeline import build

# -- copies ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("axis", "ends"), [("x", (60.0, 300.0)), ("y", (50.0, 200.0))])
def test_the_ends_of_a_bore_change_places_with_a_board_mirrored_along_it_and_only_then(axis, ends):
    """A bore from 50 or so to 200 along its axis, mirrored at 400 along x, made independent."""
    d = Draft("d", "ply12")
    d.board("p", "ply12", "facing_side" if axis == "x" else "facing_front", 100, (0, 390), (0, 90))
    d.bore("rod", axis, {"y" if axis == "x" else "x": 70, "z": 45}, "6", stretch=ends, p=("cut", "0"))
    d.mirror("m", "x", "400 mm", "part:p", names={"p": "q"})
    _, patch = make_independent(build(d.document()), "m")
    document = patched(d.document().dump(), patch)
    (new,) = [b for k, b in document.bores.items() if k != "rod"]
    found = [float(e.text.removesuffix(" mm")) for e in (new.low, new.high)]
    assert found == ([800 - ends[1], 800 - ends[0]] if axis == "x" else list(ends))


# -- alike -------------------------------------------------------------------------------------------------------------


def outlined(points):
    """The flat of a board whose outline is drawn."""
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 400), (0, 400))
    d.data["parts"]["p"]["outline"] = {"kind": "drawn", "outer": [[x, y, 0.0] for x, y in points]}
    return d


ELL = [(100, 100), (190, 100), (190, 130), (130, 130), (130, 170), (100, 170)]


def test_flats_that_are_alike_turned_by_no_quarter_are_found_with_their_turn():
    c, s = math.cos(math.radians(50)), math.sin(math.radians(50))
    turned = [(200 + c * (x - 100) - s * (y - 100), 60 + s * (x - 100) + c * (y - 100)) for x, y in ELL]
    one, other = (build(outlined(p).document()).parts["p"].flat for p in (ELL, turned))
    found = alike(one, other)
    assert found is not None and (abs(found[0]), abs(found[1])) == (pytest.approx(c), pytest.approx(s))
    mirrored = [(-x + 400, y) for x, y in ELL][::-1]
    assert alike(one, build(outlined(mirrored).document()).parts["p"].flat) is None


@pytest.mark.parametrize("kind", ["cut-out", "groove"])
def test_what_is_as_large_and_as_long_in_one_box_and_still_another_shape_is_not_alike(kind):
    """Two bars across one another, one of them aside: their mirror image has the same area, length and box."""
    flats = []
    for aside in (-12, 12):
        d = Draft("d", "ply12", cutter="router")
        d.board("p", "ply12", "lying", 0, (0, 200), (0, 160), up="a")
        more = {"face": "top", "depth": "4"} if kind == "groove" else {}
        what = "pocket" if kind == "groove" else "rectangle"
        d.feature("p", "long", what, ("centre", 0), ("centre", 0), width="90", height="14", **more)
        d.feature("p", "short", what, ("centre", aside), ("centre", 20), width="14", height="40", **more)
        d.feature("p", "other", what, ("centre", 26), ("centre", -20), width="14", height="40", **more)
        flats.append(build(d.document()).parts["p"].flat)
    assert alike(flats[0], flats[0]) and alike(*flats) is None


def test_a_board_that_a_bore_marks_is_not_like_one_that_it_leaves():
    d = Draft("d", "ply12")
    for n, key in enumerate("pq"):
        d.board(key, "ply12", "facing_side", 100 * n, (0, 90), (0, 90))
    d.bore("rod", "x", {"y": 30, "z": 45}, "6", p=("mark", "0"))
    parts = build(d.document()).parts
    assert alike(parts["p"].flat, parts["q"].flat) is None
    d.data["bores"]["rod"]["parts"]["q"] = d.data["bores"]["rod"]["parts"]["p"]
    parts = build(d.document()).parts
    assert alike(parts["p"].flat, parts["q"].flat) == (1.0, 0.0, 0.0, 0.0)


# -- values ------------------------------------------------------------------------------------------------------------


def test_a_size_that_measured_what_is_gone_keeps_its_last_value_and_says_where():
    d = Draft("d", "ply12")
    d.data["stocks"]["ply12"].pop("measured", None)
    d.board("a", "ply12", "lying", 0, (0, 90), (0, 70)).board("b", "ply12", "lying", 43, (0, 90), (0, 70))
    measured = {"a": {"part": "a", "what": "face", "name": "top"}, "b": {"part": "b", "what": "face", "name": "bottom"}, "along": "z"}
    d.data["sizes"]["gap"] = {"name": "gap", "kind": "length", "entry": d.entry("0"), "note": "", "order": 0, "measured": measured}
    whole = build(d.document())
    where = "/sizes/gap/entry"
    assert (whole.values[where].value, whole.values[where].stale) == (pytest.approx(31.0), False)
    d.data["parts"]["b"]["out"] = True
    after = build(d.document(), whole.good)
    (fault,) = [f for f in after.faults if f.code == "lost_measure"]
    assert (fault.entry, fault.owner, fault.rule) == (where, "size:gap", "what it measures is there")
    assert (after.values[where].value, after.values[where].stale) == (pytest.approx(31.0), True)


def test_a_gauge_where_no_stock_is_at_hand_says_so():
    d = Draft("d", "galv20")
    d.size("width", "11 ga")
    (fault,) = build(d.document()).faults
    assert "a gauge needs a stock with a gauge table" in fault.message and fault.entry == "/sizes/width/entry"


# -- test pieces -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("values", "fine"),
    [
        ((2, 20.0, 1.0), True),
        ((40, 20.0, 1.0), True),
        ((8, 5.0, 0.0), True),
        ((8, 200.0, 10.0), True),
        ((1, 20.0, 1.0), False),
        ((41, 20.0, 1.0), False),
        ((8, 4.99, 1.0), False),
        ((8, 200.01, 1.0), False),
        ((8, 20.0, -0.01), False),
        ((8, 20.0, 10.01), False),
    ],
)
def test_a_kerf_test_has_its_limits(values, fine):
    built = build(pair("tab_slot").document())
    stock, cutter = next(iter(built.document.stocks)), built.document.cutter
    if fine:
        assert add_kerf_test(built, stock, cutter, *values)[1]
    else:
        with pytest.raises(DocumentError, match="A kerf test has 2 to 40 squares of 5 to 200 mm") as refused:
            add_kerf_test(built, stock, cutter, *values)
        assert (refused.value.entry, refused.value.value) == ("kerf", list(values))


@pytest.mark.parametrize(
    ("values", "fine"),
    [
        ((-2.0, 0.01, 2), True),
        ((2.0, 1.0, 20), True),
        ((0.0, 0.1, 1), False),
        ((0.0, 0.1, 21), False),
        ((0.0, 0.009, 9), False),
        ((0.0, 1.01, 9), False),
        ((-2.01, 0.1, 9), False),
        ((2.01, 0.1, 9), False),
    ],
)
def test_a_comb_has_its_limits(values, fine):
    built = build(pair("tab_slot").document())
    stock, cutter = next(iter(built.document.stocks)), built.document.cutter
    if fine:
        assert add_comb(built, stock, cutter, *values)[1]
    else:
        with pytest.raises(DocumentError, match="A comb has 2 to 20 slots") as refused:
            add_comb(built, stock, cutter, *values)
        assert (refused.value.entry, refused.value.value) == ("comb", list(values))


def test_test_pieces_begin_left_of_everything_or_in_the_corner_of_the_room():
    assert beside(build(Draft("empty", "ply12").document())) == (0.0, 0.0, 0.0)
    d = Draft("d", "ply12").board("a", "ply12", "lying", 30, (-50, 90), (20, 70)).board("b", "ply12", "lying", -43, (0, 90), (-10, 70))
    assert beside(build(d.document())) == pytest.approx((-50.0, -10.0, -43.0))


# -- what holds what ---------------------------------------------------------------------------------------------------


def test_halves_hold_one_another_where_they_were_cut_by_one_line_and_copy_by_copy():
    built = square({"l": made("flange", "left", length=33)})
    _, patch = split_part(built, "p", "x", 70.0, hold="rivets", overlap=13.0)
    d = patched(built.document.dump(), patch).dump()
    d["copies"]["row"] = {
        "kind": "row",
        "name": "row",
        "of": [f"part:{k}" for k in d["parts"]],
        "order": 0,
        "axis": "y",
        "number": entry("2"),
        "spacing": entry("300"),
    }
    halves = build(parse_document(d))
    one, other = d["parts"]
    pairs = halves_of(halves)
    assert frozenset((one, other)) in pairs and len(pairs) == 2
    (copied,) = pairs - {frozenset((one, other))}
    assert all("@" in key for key in copied) and {key.split("@")[1] for key in copied} == {"row.1"}


@pytest.mark.parametrize("fit", ["0.3 mm", "0", "-0.2 mm"])
def test_the_parts_of_a_press_fit_may_bite_into_one_another_by_its_bite(fit):
    built = build(pair("tab_slot", fit=fit).document())
    assert tolerance_of(built) == {frozenset("ab"): pytest.approx(TOUCH + (0.2 if fit.startswith("-") else 0.0))}


def test_only_what_is_made_and_stands_there_takes_up_room():
    d = Draft("d", "ply12")
    for n, (key, more) in enumerate({"there": {}, "aside": {"aside": True}, "out": {"out": True}}.items()):
        d.board(key, "ply12", "lying", 30 * n, (0, 90), (0, 70), **more)
    d.item("screws", 12, 0.1)
    assert [p.key for p in solid_parts(build(d.document()))] == ["there"]


# -- joints ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("wide_a", "wide_b", "on"), [(200, 90, "a"), (90, 200, "b")])
def test_the_outline_of_the_smaller_board_is_marked_on_the_larger(wide_a, wide_b, on):
    d = Draft("d", "ply12")
    s = stocked(d, "s", 12.0)
    # as long as wide in sum, so that it is the sum of both sides that counts
    d.board("b", s, "lying", 0, (0, wide_b), (0, 60)).board("a", s, "lying", "b.top", (0, wide_a), (0, 50))
    d.joint("face_glue", "a", "b", outline=True)
    parts = build(d.document()).parts
    assert {k: len(parts[k].flat.engraved) for k in "ab"} == {on: 1, "ab".replace(on, ""): 0}
    (mark,) = parts[on].flat.engraved
    x0, y0, x1, y1 = mark.contour.bounds if hasattr(mark, "contour") else mark.bounds
    assert (x1 - x0, y1 - y0) == pytest.approx((90, 50))


@pytest.mark.parametrize("keeps", ["low", "high"])
def test_a_dovetailed_lap_keeps_the_half_that_is_said(keeps):
    parts = build(pair("dovetail_lap", keeps=keeps).document()).parts
    faces = {}
    for key, part in parts.items():
        (lap,) = part.flat.pockets
        faces[key] = "top" if lap.face == part.record.up else "bottom"
    # a keeps its low half: its upper one is cut away, and b's lower one
    assert faces == ({"a": "top", "b": "bottom"} if keeps == "low" else {"a": "bottom", "b": "top"})


# -- metal -------------------------------------------------------------------------------------------------------------

SIZES = {
    "hole": {"diameter": "5"},
    "slot": {"length": "12", "width": "4"},
    "rectangle": {"width": "9", "height": "6"},
    "hand_hold": {"length": "20", "width": "8"},
    "perforation": {"width": "22", "height": "12", "diameter": "2", "pitch": "5"},
    "fan": {"opening": "12", "pitch": "13", "diameter": "2"},
    "mark_line": {"length": "9"},
    "mark_circle": {"diameter": "7"},
    "mark_text": {"text": "A", "height": "5"},
    "pocket": {"width": "9", "height": "6", "depth": "0.5"},
    "groove": {"width": "3", "depth": "0.5"},
}


@pytest.mark.parametrize("kind", SIZES)
def test_what_goes_through_sheet_or_marks_it_can_be_made_in_a_flange_and_nothing_else(kind):
    feature = {
        "kind": kind,
        "name": "f",
        "order": 0,
        "u": {"origin": "low", "offset": entry(70)},
        "v": {"origin": "root", "offset": entry(18)},
    }
    feature |= {k: v if k == "text" else entry(v) for k, v in SIZES[kind].items()}
    flanges = {"l": {**made("flange", "left", length=45), "features": {"f": feature}}}
    plain, built = square({"l": made("flange", "left", length=45)}), square(flanges)
    was, now = plain.parts["p"].flat, built.parts["p"].flat
    if not FEATURE_RECORDS[kind].in_metal:
        assert [f.owner for f in built.faults] == ["feature:p:l.f"] and now.digest == was.digest
    else:
        assert built.faults == () and (len(now.inside) > len(was.inside)) != (len(now.engraved) > len(was.engraved)), kind


def rivets(features, at=0):
    """Where two rivets of 3 mm through an overlap at x from 70 to 83 lie along y, of a plate that begins at ``at`` along x and y."""
    data = square({"l": made("flange", "left", length=33)}, features=features).document.dump()
    data["parts"]["p"]["spans"] = {a: {"low": entry(at), "high": entry(at + 150)} for a in "xy"}
    built = build(parse_document(data))
    _, patch = split_part(built, "p", "x", at + 70.0, hold="rivets", overlap=13.0, diameter=3.0, number=2)
    after = patched(built.document.dump(), patch)
    shares = [re.fullmatch(r"tray\.front \+ ([0-9.]+)\*\(tray\.back - tray\.front\)", b.at["y"].text) for b in after.bores.values()]
    found = [150 * float(share[1]) for share in shares]
    assert len(found) == 2
    return sorted(found)


@pytest.mark.parametrize("at", [0, 100])
@pytest.mark.parametrize("aside", [-3.0, 3.0])
def test_a_rivet_goes_round_a_hole_on_the_nearer_side(aside, at):
    first, second = rivets({}, at)
    hole = {
        "h": {
            "kind": "hole",
            "name": "h",
            "order": 0,
            "u": {"origin": "left", "offset": entry(76.5)},
            "v": {"origin": "front", "offset": entry(first + aside)},
            "diameter": entry("8"),
        }
    }
    moved, other = rivets(hole, at)
    assert other == pytest.approx(second) and (moved - first) * aside < 0
    # no nearer than the hole's and its own half and a sheet, and no farther than one of ten steps more
    apart, step = abs(moved - first - aside), ((second - first) / 2 - 3.0) / 10
    assert 4 + 1.5 + 1.5 <= apart + 0.01 <= 4 + 1.5 + 1.5 + step + 0.02


def test_an_outline_is_traced_from_a_board_that_lies_parallel_and_from_no_other():
    d = Draft("d", "ply12", "ply6")
    d.board("lid", "ply12", "lying", 100, (0, 200), (0, 160)).board("side", "ply12", "facing_side", 0, (0, 160), (0, 100)).board(
        "t", "ply6", "lying", 50, (0, 200), (0, 160)
    )
    d.data["parts"]["t"]["outline"] = {"kind": "traced", "part": "lid", "offset": d.entry("-5")}
    built = build(d.document())
    assert built.faults == () and built.parts["t"].flat.size == pytest.approx((190, 150))
    d.data["parts"]["t"]["outline"]["part"] = "side"
    (fault,) = build(d.document()).faults
    assert fault.part == "t" and "parallel" in fault.message + fault.rule
    d.turn("lid", "x", "180 deg", y="80", z="100")
    d.data["parts"]["t"]["outline"]["part"] = "lid"
    assert build(d.document()).faults == ()
    d.data["parts"]["lid"]["turns"]["t0"]["angle"] = d.entry("170 deg")
    assert [f.part for f in build(d.document()).faults] == ["t"]
