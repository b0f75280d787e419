"""Cuts and marks in rows and grids: over every origin, way round, kind and face, reckoned again by hand."""

import itertools

import pytest

from zygon.design.draft import Draft
from zygon.design.features import FEATURE_RECORDS
from zygon.limits import MAX_REPEATED
from zygon.making.pipeline import build

WIDE, HIGH = 300.0, 200.0
KINDS = {
    "hole": {"diameter": "5 mm"},
    "slot": {"length": "9 mm", "width": "4 mm"},
    "rectangle": {"width": "8 mm", "height": "6 mm"},
    "hand_hold": {"length": "9 mm", "width": "4 mm"},
    "fan": {"opening": "6 mm", "pitch": "8 mm", "diameter": "1 mm"},
    "pocket": {"width": "8 mm", "height": "6 mm", "depth": "3 mm"},
    "mark_line": {"length": "8 mm"},
    "mark_circle": {"diameter": "5 mm"},
    "mark_text": {"text": "O", "height": "6 mm"},
    "groove": {"width": "4 mm", "depth": "3 mm", "length": "9 mm"},
}


def plate(kind, u, v, **more):
    d = Draft("rows")
    d.board("a", "ply12", "lying", "0", ("0", f"{WIDE} mm"), ("0", f"{HIGH} mm"))
    d.feature("a", "f", kind, u, v, **{**KINDS.get(kind, {}), **more})
    return build(d.document())


def middles(built):
    """The middle of everything that was cut or marked, to a hundredth; what one cut is made of counts once."""
    flat = built.flats["a"].flat
    contours = [*flat.inside, *(p.contour for p in flat.pockets), *flat.marks]
    found = {tuple(round((c.bounds[i] + c.bounds[i + 2]) / 2, 2) + 0.0 for i in (0, 1)) for c in contours}
    return sorted(found)


def reckoned(origin, offset, size, number, step):
    """The places along one way: from a low end onward, from a high end inward, about a middle."""
    steps = [i * step for i in range(number)]
    if origin in ("left", "front", "low", "root"):
        return [offset + s for s in steps]
    if origin in ("right", "back", "high", "end"):
        return [size - offset - s for s in steps]
    if origin == "room":
        return [offset + s for s in steps]
    return [size / 2 + offset + s - steps[-1] / 2 for s in steps]


ORIGINS = list(itertools.product(("left", "right", "centre", "room", "opening"), ("front", "back", "centre", "room", "opening")))


@pytest.mark.parametrize(("u", "v"), ORIGINS)
def test_a_grid_goes_on_inward_from_every_origin(u, v):
    built = plate("hole", (u, "30 mm"), (v, "25 mm"), number="4", spacing="16 mm", rows="3", apart="20 mm")
    assert not built.faults
    along, across = reckoned(u, 30, WIDE, 4, 16), reckoned(v, 25, HIGH, 3, 20)
    assert middles(built) == sorted((round(x, 2), round(y, 2)) for x in along for y in across)


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "fan"])
@pytest.mark.parametrize("mirrored", ["none", "u", "v", "both"])
def test_every_kind_stands_in_rows_and_their_images_are_mirrored(kind, mirrored):
    built = plate(kind, ("left", "30 mm"), ("back", "25 mm"), number="3", spacing="20 mm", rows="2", apart="16 mm", mirrored=mirrored)
    assert not built.faults
    found = {(x, y) for x in (30, 50, 70) for y in (HIGH - 25, HIGH - 41)}
    if mirrored in ("u", "both"):
        found |= {(WIDE - x, y) for x, y in found}
    if mirrored in ("v", "both"):
        found |= {(x, HIGH - y) for x, y in found}
    assert middles(built) == [pytest.approx(p, abs=0.02) for p in sorted(found)]


def test_a_fan_opening_in_a_row_has_its_screws_at_each():
    built = plate("fan", ("left", "40 mm"), ("front", "40 mm"), number="3", spacing="30 mm")
    assert not built.faults and len(built.flats["a"].flat.inside) == 3 * 5


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("origin", ["low", "high", "centre"])
def test_dowel_holes_and_notches_stand_in_a_row_along_each_edge(edge, origin):
    along_v = edge in ("left", "right")
    ends = ("front", "back") if along_v else ("left", "right")
    size = HIGH if along_v else WIDE
    word = {"low": ends[0], "high": ends[1], "centre": "centre"}[origin]
    spot = {"u": ("centre", "0"), "v": ("centre", "0")} | {"v" if along_v else "u": (word, "20 mm")}
    expected = sorted(reckoned(word, 20, size, 4, 18))
    bored = plate("edge_hole", spot["u"], spot["v"], edge=edge, diameter="6 mm", depth="15 mm", number="4", spacing="18 mm")
    assert not bored.faults and sorted(b.along for b in bored.flats["a"].flat.bores) == pytest.approx(expected)
    notched = plate("edge_notch", spot["u"], spot["v"], edge=edge, width="6 mm", depth="5 mm", number="4", spacing="18 mm")
    assert not notched.faults
    assert notched.flats["a"].flat.area == pytest.approx(WIDE * HIGH - 4 * 6 * 5)
    i = 1 if along_v else 0
    corners = sorted({round(p[i], 3) for p in _points(notched) if 0.01 < p[i] < size - 0.01})
    assert corners == pytest.approx(sorted(x + s for x in expected for s in (-3, 3)))


def _points(built):
    return [p for piece in built.flats["a"].flat.pieces for p in piece.outer.points]


def test_a_negative_spacing_goes_the_other_way_and_expressions_are_read():
    built = plate("hole", ("left", "150 mm"), ("front", "50 mm"), number="1 + 2", spacing="-4 * 5 mm")
    assert not built.faults and middles(built) == [(110, 50), (130, 50), (150, 50)]


@pytest.mark.parametrize(
    ("more", "entry", "words"),
    [
        ({"number": "0", "spacing": "9 mm"}, "number", "from 1 to"),
        ({"number": str(MAX_REPEATED + 1), "spacing": "1 mm"}, "number", "from 1 to"),
        ({"number": "3"}, "number", "a spacing where there is more than one"),
        ({"number": "3", "spacing": "0"}, "spacing", "a spacing is not 0"),
        ({"number": "100", "spacing": "1 mm", "rows": "100", "apart": "1 mm"}, "rows", "at most"),
        ({"rows": "2"}, "rows", "a spacing where there is more than one"),
        ({"rows": "2", "apart": "0"}, "apart", "a spacing is not 0"),
    ],
)
def test_a_row_that_makes_no_sense_is_said_once_and_the_cut_stands_once(more, entry, words):
    built = plate("hole", ("left", "30 mm"), ("front", "30 mm"), **more)
    (fault,) = built.faults
    assert fault.entry.endswith(f"/features/f/{entry}") and words in fault.rule
    assert middles(built) == [(30, 30)]


def test_one_of_them_needs_no_spacing():
    built = plate("hole", ("left", "30 mm"), ("front", "30 mm"), number="1", rows="1")
    assert not built.faults and middles(built) == [(30, 30)]


@pytest.mark.parametrize(("u", "v"), list(itertools.product(("low", "high", "centre"), ("root", "end", "centre"))))
def test_holes_in_a_flange_stand_in_rows_too(u, v):
    d = Draft("bent")
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "100 mm"), up="a")
    d.fold("p")
    d.flange("p", "left", "left", "40 mm")
    once = d.flange_feature("p", "left", "h", "hole", (u, "12 mm"), (v, "9 mm"), diameter="3 mm")
    alone = build(once.document()).flats["p"].flat
    d.data["parts"]["p"]["folding"]["flanges"]["left"]["features"]["h"] |= {
        "number": {"text": "3", "unit": "mm"},
        "spacing": {"text": "10 mm", "unit": "mm"},
        "rows": {"text": "2", "unit": "mm"},
        "apart": {"text": "6 mm", "unit": "mm"},
    }
    built = build(d.document())
    assert not built.faults and len(built.flats["p"].flat.inside) == 6
    (first,) = [((c.bounds[0] + c.bounds[2]) / 2, (c.bounds[1] + c.bounds[3]) / 2) for c in alone.inside]
    holes = [((c.bounds[0] + c.bounds[2]) / 2, (c.bounds[1] + c.bounds[3]) / 2) for c in built.flats["p"].flat.inside]
    wide, high = (sorted({round(h[i], 3) for h in holes}) for i in (0, 1))
    assert sorted((len(wide), len(high))) == [2, 3]
    three, two = (wide, high) if len(wide) == 3 else (high, wide)
    assert [b - a for a, b in itertools.pairwise(three)] == pytest.approx([10, 10]) and two[1] - two[0] == pytest.approx(6)
    middle = [(min(h[i] for h in holes) + max(h[i] for h in holes)) / 2 for i in (0, 1)]
    if (u, v) == ("centre", "centre"):  # spread about where the one stood
        assert middle == pytest.approx(first, abs=1e-3)
    elif "centre" not in (u, v):  # it begins there
        assert any(h == pytest.approx(first, abs=1e-3) for h in holes)
    else:
        assert sum(abs(m - f) < 1e-3 for m, f in zip(middle, first, strict=True)) == 1


def test_all_rows_and_fields_of_a_design_together_are_bounded():
    d = Draft("many")
    d.board("a", "ply12", "lying", "0", ("0", "2 m"), ("0", "2 m"))
    for n in range(11):  # eleven times a thousand
        d.feature(
            "a",
            f"f{n}",
            "hole",
            ("left", f"{10 + n} mm"),
            ("front", "10 mm"),
            diameter="0.4 mm",
            number="100",
            spacing="15 mm",
            rows="10",
            apart="15 mm",
        )
    built = build(d.document())
    (fault,) = built.faults
    assert fault.code == "too_many" and "at most 10000 in all fields and rows" in fault.rule and fault.entry.endswith("/f10/number")
    assert len(built.flats["a"].flat.inside) == 10_001


def test_what_changes_an_outline_as_a_whole_has_no_rows():
    without = {k for k, r in FEATURE_RECORDS.items() if "number" not in r.model_fields}
    assert without == {"corner", "taper", "edge_curve", "trim", "rebate", "perforation", "shape", "edge_profile", "edge_band"}
