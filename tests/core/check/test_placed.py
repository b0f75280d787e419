"""Cuts and marks lie on their part, clear of edges, joints, bends and one another; every edge, both faces, every kind."""

import pytest

from tests.core.making.joints.pairs import pair
from tests.core.making.metal.trays import SIDES, entry, flange, folded
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build

SIZES = {
    "hole": {"diameter": "20"},
    "slot": {"length": "40", "width": "20"},
    "rectangle": {"width": "20", "height": "20"},
    "hand_hold": {"length": "40", "width": "20"},
    "fan": {"opening": "12", "pitch": "14", "diameter": "6"},
    "perforation": {"width": "20", "height": "20", "diameter": "4", "pitch": "8", "pattern": "square"},
}
#: Half of what each kind takes up square to an edge that runs along u, and along v.
HALF = {"hole": (10, 10), "slot": (10, 20), "rectangle": (10, 10), "hand_hold": (10, 20), "fan": (10, 10), "perforation": (10, 10)}
CODES = {"off_part", "breaks_out", "mark_off", "over_joint", "cuts_overlap", "in_bend"}


def board(*features, **more):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120), **more)
    for i, (kind, u, v, sizes) in enumerate(features):
        d.feature("p", f"f{i}", kind, u, v, **sizes)
    return d


def said(draft):
    return [p.fault for p in check(build(draft.document())) if p.fault.code in CODES]


def at_edge(edge, inside):
    """u and v of a place so far inside an edge, in the middle of it."""
    if edge in ("left", "right"):
        return (edge, f"{inside}"), ("centre", "0")
    return ("centre", "0"), (edge, f"{inside}")


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize("kind", SIZES)
def test_a_cut_that_breaks_out_of_an_edge_is_said_with_how_far(kind, edge):
    half = HALF[kind][0 if edge in ("front", "back") else 1]
    for inside, out in ((half + 3, 0.0), (half - 0.4, 0.4), (half - 3, 3.0)):
        found = said(board((kind, *at_edge(edge, inside), SIZES[kind])))
        notch = kind in ("slot", "rectangle")
        if not out or (notch and out >= 1):
            assert not found, (inside, [f.message for f in found])
            continue
        (fault,) = found
        assert fault.code == "breaks_out" and fault.severity == ("warning" if notch else "error")
        assert float(fault.value.split()[0].lstrip("≈")) == pytest.approx(out, abs=0.02)


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize("kind", ["hole", "hand_hold"])
def test_a_cut_that_only_touches_an_edge_lies_on_it(kind, edge):
    half = HALF[kind][0 if edge in ("front", "back") else 1]
    (fault,) = said(board((kind, *at_edge(edge, half), SIZES[kind])))
    assert "lies on an edge" in fault.message


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize("kind", SIZES)
def test_a_cut_beside_its_board_cuts_nothing_and_is_said(kind, edge):
    (fault,) = said(board((kind, *at_edge(edge, -40), SIZES[kind])))
    assert fault.code == "off_part" and "cuts nothing" in fault.message


@pytest.mark.parametrize("face", ["top", "bottom"])
@pytest.mark.parametrize("edge", SIDES)
def test_a_blind_hole_that_breaks_out_is_said_too(edge, face):
    (fault,) = said(board(("hole", *at_edge(edge, 8), {"diameter": "20", "depth": "5", "face": face})))
    assert fault.code == "breaks_out"


@pytest.mark.parametrize("mirrored", ["u", "v", "both"])
def test_an_image_that_breaks_out_is_found_and_two_images_over_each_other_are_one_cut(mirrored):
    for u, v in ((("left", "6"), ("front", "40")), (("left", "60"), ("front", "6"))):
        found = said(board(("hole", u, v, {"diameter": "20", "mirrored": mirrored})))
        assert [f.code for f in found] == ["breaks_out"]


@pytest.mark.parametrize("face", ["top", "bottom"])
@pytest.mark.parametrize(
    ("kind", "sizes"),
    [("mark_line", {"length": "60"}), ("mark_circle", {"diameter": "40"}), ("mark_text", {"text": "TH-12", "height": "12"})],
)
def test_a_mark_that_runs_beyond_its_board_is_said(kind, sizes, face):
    assert not said(board((kind, ("centre", "0"), ("centre", "0"), {**sizes, "face": face})))
    for edge in SIDES:
        if kind == "mark_line" and edge in ("front", "back"):
            continue  # it lies along that edge
        (fault,) = said(board((kind, *at_edge(edge, 3), {**sizes, "face": face})))
        assert fault.code == "mark_off" and "beyond the part" in fault.message


def test_a_long_text_on_a_small_board_is_said_with_how_far_it_runs():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 60))
    d.feature("p", "t", "mark_text", ("centre", "0"), ("centre", "0"), text="THISTLEDOWN HIVES", height="20")
    (fault,) = said(d)
    marks = [m.contour.bounds for m in build(d.document()).parts["p"].flat.engraved]
    beyond = max(-min(b[0] for b in marks), max(b[2] for b in marks) - 100)
    assert float(fault.value.split()[0].lstrip("≈")) == pytest.approx(beyond, abs=0.02)


@pytest.mark.parametrize("first", SIZES)
@pytest.mark.parametrize("other", SIZES)
def test_two_cuts_over_each_other_are_said_once(first, other):
    near = ("centre", "3")
    found = said(board((first, ("centre", "0"), ("centre", "0"), SIZES[first]), (other, near, ("centre", "2"), SIZES[other])))
    assert [f.code for f in found] == ["cuts_overlap"]
    far = ("centre", "60")
    assert not said(board((first, ("centre", "0"), ("centre", "0"), SIZES[first]), (other, far, ("centre", "0"), SIZES[other])))


@pytest.mark.parametrize("kind", ["tab_slot", "finger", "mortise_tenon", "groove", "dovetail"])
def test_a_hole_over_a_joint_is_said_on_either_board(kind):
    draft = pair(kind, 12, 15, 120, **({"number": 1} if kind in ("tab_slot", "mortise_tenon") else {}))
    built = build(draft.document())
    for key in ("a", "b"):
        part = built.parts[key]
        owned = [
            c
            for c in (*part.flat.asked.outline, *(o.contour for o in part.flat.asked.operations if hasattr(o, "contour")))
            if c.owners[0] == "joint:a-b"
        ]
        if not owned:
            continue
        x0, y0, x1, y1 = max(owned, key=lambda c: abs(c.area)).bounds
        low = {"a": ("front", "bottom"), "b": ("left", "bottom")}[key]
        again = pair(kind, 12, 15, 120, **({"number": 1} if kind in ("tab_slot", "mortise_tenon") else {}))
        again.feature(key, "h", "hole", (low[0], f"{(x0 + x1) / 2}"), (low[1], f"{(y0 + y1) / 2}"), diameter="3")
        codes = {f.code for f in said(again)}
        assert codes & {"over_joint", "breaks_out"}, (key, codes)


def tray(x, edge="front", kind="hole", **sizes):
    hole = {
        "kind": kind,
        "u": {"origin": "centre", "offset": entry(0)},
        "v": {"origin": "root", "offset": entry(x)},
        **{k: entry(v) for k, v in sizes.items()},
    }
    return folded({"wall": flange(edge, 40, features={"h": hole})})


@pytest.mark.parametrize("edge", SIDES)
def test_a_hole_that_reaches_into_a_bend_is_said_with_how_far(edge):
    for into in (0.06, 1.0, 2.0):
        codes = {p.fault.code: p.fault for p in check(tray(5 - into, edge, diameter=10))}
        assert "near_bend" not in codes
        assert float(codes["in_bend"].value.split()[0].lstrip("≈")) == pytest.approx(into, abs=0.02)
    codes = {p.fault.code for p in check(tray(5.2, edge, diameter=10))}
    assert "near_bend" in codes and "in_bend" not in codes


@pytest.mark.parametrize("edge", SIDES)
def test_a_hole_of_the_plate_reaches_into_a_bend_too_and_one_right_across_it_relieves_it(edge):
    u, v = ("left" if edge in ("front", "back") else edge), ("front" if edge in ("left", "right") else edge)
    for size, codes in ((6, {"in_bend"}), (40, set())):
        half = {"left": "left", "right": "right"}.get(edge)
        offset = {"u": entry(4 if half else 60), "v": entry(60 if half else 4)}
        features = {
            "h": {
                "kind": "rectangle",
                "u": {"origin": u, "offset": offset["u"]},
                "v": {"origin": v, "offset": offset["v"]},
                "width": entry(size if half else 8),
                "height": entry(8 if half else size),
                "radius": entry(0),
            }
        }
        found = {p.fault.code for p in check(folded({"wall": flange(edge, 40)}, features=features))}
        assert found & {"in_bend"} == codes, (size, found)


def test_a_flanges_hole_beside_it_is_said():
    (fault,) = [p.fault for p in check(tray(120, diameter=6)) if p.fault.code in CODES]
    assert fault.code == "off_part"


@pytest.mark.parametrize("axis", ["x", "y"])
def test_a_bore_that_reaches_into_a_bend_or_breaks_out_is_said(axis):
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "120 mm"), up="a")
    d.fold("p").flange("p", "f", "left" if axis == "x" else "front", "30 mm")
    d.bore("rod", axis, {"y" if axis == "x" else "x": "60 mm", "z": "4 mm"}, "6 mm", p=("cut", "0"))
    assert {p.fault.code for p in check(build(d.document()))} & {"in_bend"}
    d.data["bores"]["rod"]["at"]["z"] = d.entry("29 mm")
    assert {p.fault.code for p in check(build(d.document()))} & {"breaks_out"}
