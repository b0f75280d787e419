"""The bend test strip: what it shows is what the table then says."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.bend_strip import add_bend_test, bend_from_legs, strip_bend
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.stock.allowance import Bend, bend_by


@given(t=st.floats(0.4, 4), r=st.floats(0, 8), angle=st.floats(20, 150), k=st.floats(0.01, 0.99), share=st.floats(0.3, 0.7))
def test_legs_give_back_the_k_that_made_them(t, r, angle, k, share):
    bend = Bend(t, r, math.radians(angle), k)
    both = 100 + bend.deduction
    found = strip_bend(t, r, angle, 100.0, both * share, both * (1 - share))
    assert found.k == pytest.approx(k, abs=1e-6)


def test_legs_that_no_k_gives_are_refused_with_what_would_do():
    with pytest.raises(DocumentError, match=r"both together from .* to .* mm"):
        strip_bend(1.0, 1.5, 90, 100.0, 60.0, 60.0)


def test_a_strip_is_cut_measured_and_set():
    d = Draft("strip", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "100 mm"), ("0", "60 mm"))
    d.fold("tray").flange("tray", "left", "left", "30 mm")
    document = d.document()
    label, patch = add_bend_test(build(document), "galv20", "laser", 1.5)
    assert "test strip" in label
    document = patched(document.dump(), patch)
    built = build(document)
    key = next(iter(document.tests))
    assert built.parts[document.tests[key].parts[0]].flat.size == pytest.approx((100.0, 40.0))
    assert not [p for p in check(built) if p.fault.part == document.tests[key].parts[0]]
    label, patch = bend_from_legs(built, key, 51.0, 51.0)
    document = patched(document.dump(), patch)
    bending = document.stocks["galv20"].bending
    t = built.parts["tray"].flat.thickness
    # the deduction is what both legs are longer than the strip
    assert bend_by(bending, t, 1.5, math.pi / 2).deduction == pytest.approx(2.0, abs=1e-3)
    # measured again it takes its own row's place
    _, patch = bend_from_legs(build(document), key, 51.1, 51.1)
    assert len(patched(document.dump(), patch).stocks["galv20"].bending.table) == 1


def test_figures_that_make_no_strip_are_refused():
    built = build(Draft("strip", "galv20").document())
    with pytest.raises(DocumentError, match="mm long"):
        add_bend_test(built, "galv20", "laser", 90.0)


@pytest.mark.parametrize("field", ["thickness", "radius", "angle"])
@pytest.mark.parametrize("off", [-0.4, 0.4])
def test_a_row_of_another_bend_stays(field, off):
    d = Draft("strip", "galv20")
    document = d.document()
    _, patch = add_bend_test(build(document), "galv20", "laser", 1.5)
    data = patched(document.dump(), patch).dump()
    key = next(iter(data["tests"]))
    built = build(patched(data, []))
    _, patch = bend_from_legs(built, key, 51.0, 51.0)
    data = patched(data, patch).dump()
    row = data["stocks"]["galv20"]["bending"]["table"][0]
    other = {**row, field: row[field] + off, "k": 0.2}
    data["stocks"]["galv20"]["bending"]["table"] = [other, row]
    _, patch = bend_from_legs(build(patched(data, [])), key, 51.2, 51.2)
    table = patched(data, patch).dump()["stocks"]["galv20"]["bending"]["table"]
    assert table[0] == other and len(table) == 2 and table[1]["k"] != row["k"]


def test_a_strip_s_line_and_label_are_in_order():
    built = build(Draft("strip", "galv20").document())
    document = patched(built.document.dump(), add_bend_test(built, "galv20", "laser", 1.5)[1])
    (strip,) = (document.parts[t.parts[0]] for t in document.tests.values())
    assert {k: f.order for k, f in strip.features.items()} == {"line": 0, "label": 1}
