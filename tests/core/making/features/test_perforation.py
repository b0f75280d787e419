"""Fields of holes: open area against the handbook's formulas, and that every hole keeps its distances."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.explore import drawn
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.features import perforation as perforated
from zygon.making.features.perforation import Field, hole_places
from zygon.making.pipeline import build


@pytest.mark.parametrize(
    ("staggered", "share"),
    # open area of perforated plate: 0.9069 (d/p)² staggered at 60 degrees, 0.7854 (d/p)² square (ISO 7806 and handbooks, from memory)
    [(True, 0.9069), (False, 0.7854)],
)
def test_open_area_of_a_large_field_comes_to_the_handbook_s(staggered, share):
    field = Field(1000.0, 1000.0, 6.0, 10.0, 0.0, staggered)
    found = len(hole_places(field, 100_000)) * field.hole_area / field.area
    assert found == pytest.approx(share * 0.36, rel=0.02)


@settings(max_examples=drawn(60))
@given(
    w=st.floats(20, 200),
    h=st.one_of(st.none(), st.floats(20, 200)),
    d=st.floats(1, 8),
    web=st.floats(0.5, 8),
    edge=st.floats(0, 5),
    staggered=st.booleans(),
    square=st.booleans(),
)
def test_holes_keep_their_pitch_and_their_distance_from_the_outline(w, h, d, web, edge, staggered, square):
    field = Field(w, h, d, d + web, edge, staggered, square)
    places = hole_places(field, 100_000)
    assert sorted((round(-x, 6), round(y, 6)) for x, y in places) == sorted((round(x, 6), round(y, 6)) for x, y in places)
    corners = [(sx * d / 2, sy * d / 2) for sx in (-1, 1) for sy in (-1, 1)] if square else [(0.0, 0.0)]
    for x, y in places:
        if h is None:
            reach = max(math.hypot(x + cx, y + cy) for cx, cy in corners) + (0 if square else d / 2)
            assert reach <= w / 2 - edge + 1e-6
        else:
            assert abs(x) + d / 2 <= w / 2 - edge + 1e-6
            assert abs(y) + d / 2 <= h / 2 - edge + 1e-6
    near = min((math.dist(a, b) for i, a in enumerate(places[:60]) for b in places[:i]), default=field.pitch)
    assert near >= field.pitch - 1e-6


def plate(**more):
    d = Draft("vent", "galv20")
    d.board("vent", "galv20", "lying", "0", ("0", "160 mm"), ("0", "90 mm"))
    d.feature(
        "vent",
        "field",
        "perforation",
        ("centre", "0"),
        ("centre", "0"),
        **{"width": "120 mm", "height": "60 mm", "diameter": "5 mm", "pitch": "8 mm", **more},
    )
    return d


def test_a_field_is_cut_and_says_its_open_area():
    built = build(plate().document())
    part, share = built.parts["vent"], built.values["/parts/vent/features/field/open_area"].value
    assert len(part.flat.inside) == built.values["/parts/vent/features/field/holes"].value > 80
    assert share == pytest.approx(sum(-c.area for c in part.flat.inside) / (120 * 60), rel=1e-6)


@pytest.mark.parametrize("change", [{"pitch": "5 mm"}, {"width": "4 mm"}, {"diameter": "0.1 mm", "pitch": "0.2 mm"}])
def test_what_makes_no_field_is_said_and_nothing_is_cut(change):
    built = build(plate(**change).document())
    assert not built.parts["vent"].flat.inside
    assert [p for p in check(built) if p.fault.owner == "feature:vent:field"]


def test_a_fan_has_its_opening_and_four_screw_holes():
    d = Draft("fan", "galv20")
    d.board("side", "galv20", "lying", "0", ("0", "120 mm"), ("0", "120 mm"))
    d.feature("side", "fan", "fan", ("centre", "0"), ("centre", "0"), opening="76 mm", pitch="71.5 mm", diameter="4.5 mm")
    found = sorted(round(2 * c.as_circle[2], 3) for c in build(d.document()).parts["side"].flat.inside)
    assert found == [4.5, 4.5, 4.5, 4.5, 76.0]
    d.data["parts"]["side"]["features"]["fan"]["pitch"] = d.entry("50 mm")
    assert [p for p in check(build(d.document())) if p.fault.owner == "feature:side:fan"]


def two_fields():
    d = plate()
    d.board("other", "galv20", "lying", "20 mm", ("0", "160 mm"), ("0", "90 mm"))
    d.feature(
        "other", "more", "perforation", ("centre", "0"), ("centre", "0"), width="60 mm", height="30 mm", diameter="5 mm", pitch="8 mm"
    )
    return d.document()


def test_all_fields_of_a_design_have_a_bound_together(monkeypatch):
    counts = [build(two_fields()).values[f"/parts/{where}/holes"].value for where in ("vent/features/field", "other/features/more")]
    assert counts[0] > counts[1] > 10
    monkeypatch.setattr(perforated, "MAX_FIELD_HOLES", sum(counts))
    assert not build(two_fields()).faults
    monkeypatch.setattr(perforated, "MAX_FIELD_HOLES", sum(counts) - 1)
    (fault,) = build(two_fields()).faults
    assert (fault.code, fault.entry, fault.value) == ("too_many", "/parts/other/features/more/pitch", "8 mm")
    assert fault.message == f"other, perforation: {counts[1]:.0f} of them, and there are {counts[0]:.0f} in other fields and rows"
    assert fault.rule == f"at most {sum(counts) - 1:.0f} in all fields and rows of a design"
