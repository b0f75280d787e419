"""Comb and kerf test: what is cut, and what is reckoned back from measuring it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.cut.kerf import compensated, kerf_of
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.cut_tests import MAX_GAIN, add_comb, add_kerf_test, beside, fits_from_comb, kerf_from_slack, remove_test
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.stock.fit import fit_state

T = 11.8


def design(cutter="laser"):
    d = Draft("workpiece", "ply12", cutter=cutter)
    d.board("board", "ply12", "lying", 0, (0, 100), (0, 100))
    return d.document()


def with_comb(cutter="laser", **more):
    document = design(cutter)
    _, patch = add_comb(build(document), "ply12", cutter, **more)
    return patched(document.dump(), patch)


@pytest.mark.parametrize("cutter", ["laser", "router"])
def test_every_slot_of_the_comb_is_wider_than_the_sheet_is_thick_by_what_its_label_says(cutter):
    document = with_comb(cutter, start=-0.1, step=0.05, number=7)
    built = build(document)
    comb = built.parts["comb_ply12"].flat
    assert not [p for p in check(built) if p.fault.severity == "error"]
    verticals = sorted(s.p[0] for s in comb.pieces[0].outer.segments() if abs(s.p[0] - s.q[0]) < 1e-9)[1:-1]
    widths = [b - a for a, b in zip(verticals[::2], verticals[1::2], strict=True)]
    assert widths == pytest.approx([T - 0.1 + 0.05 * i for i in range(7)], abs=1e-6)
    labels = [f.text for f in document.parts["comb_ply12"].features.values() if f.kind == "mark_text"]
    assert labels == ["-0.10", "-0.05", "+0.00", "+0.05", "+0.10", "+0.15", "+0.20"]
    # the labels stand apart and on wood
    boxes = sorted(m.contour.bounds for m in comb.engraved)
    assert boxes[0][0] > 1 and max(b[2] for b in boxes) < comb.size[0] - 1
    assert "comb_key_ply12" in built.parts


def test_what_the_maker_chose_becomes_the_fits_and_a_changed_kerf_makes_them_outdated():
    document = with_comb()
    label, patch = fits_from_comb(document, "comb_ply12", {"press": -0.1, "snug": 0.0, "slip": 0.2, "loose": 0.5})
    assert label == "Fits of Birch plywood 12 mm from the comb"
    after = patched(document.dump(), patch)
    table = after.fits["ply12"]
    assert [table.press.text, table.snug.text, table.slip.text, table.loose.text] == ["-0.1 mm", "0 mm", "0.2 mm", "0.5 mm"]
    assert fit_state(document.fits["ply12"], 0.24) == "untested"
    assert fit_state(table, kerf_of(after, "ply12")) == "tested"
    assert fit_state(table, 0.3) == "outdated"
    by_hand = patched(after.dump(), [{"op": "replace", "path": "/fits/ply12/slip/text", "value": "0.4 mm"}])
    assert fit_state(by_hand.fits["ply12"], 0.24) == "edited"


@pytest.mark.parametrize(
    ("chosen", "words"),
    [
        ({}, "at least one slot"),
        ({"snug": 0.123}, "the comb has no slot of +0.12 mm"),
        ({"snug": 0.3, "slip": 0.1}, "out of order"),
    ],
)
def test_choices_that_make_no_sense_are_refused(chosen, words):
    with pytest.raises(DocumentError, match=words.replace("+", r"\+")):
        fits_from_comb(with_comb(), "comb_ply12", chosen)


def test_a_comb_that_was_cut_with_another_kerf_is_not_read():
    document = with_comb()
    for kerf in ("0.3 mm", "0.241 mm", "0.239 mm", "0.1 mm"):
        changed = patched(document.dump(), [{"op": "replace", "path": "/cutters/laser/work/ply12/kerf/text", "value": kerf}])
        with pytest.raises(DocumentError, match=f"made for; it is {kerf} now, so cut a new one") as stale:
            fits_from_comb(changed, "comb_ply12", {"snug": 0.0})
        assert (stale.value.code, stale.value.entry) == ("stale_test", "/tests/comb_ply12")


def test_fits_of_a_cutter_that_has_none_get_a_name_of_their_own():
    document = with_comb("router")
    data = document.dump()
    for taken, key in (
        ((), "ply12"),
        (("ply12",), "ply12-router"),
        (("ply12", "ply12-router"), "fit0"),
        (("ply12", "ply12-router", "fit0"), "fit1"),
    ):
        other = next(iter(data["fits"].values())) | {"stock": "ply12", "cutter": "laser"}
        bare = patched(data | {"fits": dict.fromkeys(taken, other)}, [])
        _, patch = fits_from_comb(bare, next(iter(document.tests)), {"snug": 0.0})
        after = patched(bare.dump(), patch)
        assert set(after.fits) == {*taken, key} and (after.fits[key].stock, after.fits[key].cutter) == ("ply12", "router")


def test_test_pieces_begin_beside_what_has_a_body():
    """A board of which a cut has left nothing stands nowhere."""
    d = Draft("d", "ply12")
    d.board("board", "ply12", "lying", "10 mm", ("20 mm", "100 mm"), ("30 mm", "100 mm"))
    d.board("gone", "ply12", "lying", "-50 mm", ("-300 mm", "-200 mm"), ("-300 mm", "-200 mm"))
    d.feature("gone", "h", "hole", ("centre", 0), ("centre", 0), diameter="400 mm")
    built = build(d.document())
    assert built.made["gone"].body.empty and beside(built) == pytest.approx((20.0, 30.0, 10.0))


@pytest.mark.parametrize(("slack", "fine"), [(0.0, True), (-0.01, False), (1.0, True), ("most", True), ("more", False)])
def test_the_least_and_the_most_slack(slack, fine):
    document = design()
    _, patch = add_kerf_test(build(document), "ply12", "laser", squares=4, play=1.0)
    document = patched(document.dump(), patch)
    (key,) = document.tests
    most = 1.0 + 5 * MAX_GAIN
    slack = {"most": most, "more": most + 0.01}.get(slack, slack)
    if fine:
        _, mend = kerf_from_slack(document, key, slack)
        assert kerf_of(patched(document.dump(), mend), "ply12") == pytest.approx(0.24 + (slack - 1.0) / 5, abs=1e-4)
    else:
        with pytest.raises(DocumentError, match="it is from 0 to 26 mm"):
            kerf_from_slack(document, key, slack)


@given(true_kerf=st.floats(0.02, 0.6), squares=st.integers(2, 20), play=st.floats(0.5, 3))
def test_the_true_kerf_comes_back_from_the_slack_of_the_row(true_kerf, squares, play):
    """The piece is cut along its compensated paths by a beam of the true kerf, and the slack is measured on what comes out."""
    document = design()
    _, patch = add_kerf_test(build(document), "ply12", "laser", squares=squares, play=round(play, 3))
    document = patched(document.dump(), patch)
    built = build(document)
    assumed = kerf_of(document, "ply12")
    window = compensated(built.parts["kerf_frame_ply12"].flat, assumed).inside[0].bounds
    square = compensated(built.parts["kerf_square_ply12"].flat, assumed).outside[0].bounds
    slack = (window[2] - window[0] + true_kerf) - squares * (square[2] - square[0] - true_kerf)
    if slack < 0:  # the row does not go in, so that there is nothing to measure; more play is wanted
        with pytest.raises(DocumentError):
            kerf_from_slack(document, "kerf_frame_ply12", slack)
        return
    _, mend = kerf_from_slack(document, "kerf_frame_ply12", slack)
    after = patched(document.dump(), mend)
    assert kerf_of(after, "ply12") == pytest.approx(true_kerf, abs=2e-4)


@pytest.mark.parametrize("slack", [-1.0, float("nan"), 500.0])
def test_a_slack_that_no_kerf_gives_is_refused(slack):
    document = design()
    _, patch = add_kerf_test(build(document), "ply12", "laser")
    with pytest.raises(DocumentError):
        kerf_from_slack(patched(document.dump(), patch), "kerf_frame_ply12", slack)


@pytest.mark.parametrize(
    ("stock", "cutter", "more"),
    [("nothing", "laser", {}), ("ply12", "axe", {}), ("ply12", "laser", {"number": 0}), ("ply12", "laser", {"step": 0})],
)
def test_a_comb_of_nothing_is_refused_with_the_rule(stock, cutter, more):
    with pytest.raises(DocumentError) as caught:
        add_comb(build(design()), stock, cutter, **more)
    assert caught.value.rule


def test_test_pieces_stand_aside_and_go_with_all_that_they_brought():
    document = with_comb()
    from zygon.making.assembly.sweep import solid_parts

    assert [p.key for p in solid_parts(build(document))] == ["board"]
    _, patch = remove_test(document, "comb_ply12")
    assert patched(document.dump(), patch).dump() == design().dump()


def test_a_routers_comb_has_no_slot_narrower_than_its_bit():
    d = Draft("thin", "ply6", cutter="router")
    d.board("board", "ply6", "lying", 0, (0, 100), (0, 100))
    document = d.document()
    _, patch = add_comb(build(document), "ply6", "router")
    assert patched(document.dump(), patch).tests["comb_ply6"].clearances[0] == pytest.approx(0.1)
