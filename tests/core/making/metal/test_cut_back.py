"""What corners take from a flange is told: its length along the bend and at its far edge; and lips that meet are mended so that they clear."""

import math

import pytest

from tests.explore import diagonal
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.making.metal.tapered import cut_back
from zygon.making.pipeline import build


def lipped(first="90 deg", second="90 deg", edges=("right", "back"), toward="a", lip="30 mm", apart=False):
    """A plate with two neighbouring walls, and a lip inward on each."""
    d = Draft("d", "galv20")
    d.board("plate", "galv20", "lying", "0", (0, "200 mm"), (0, "160 mm"))
    d.fold("plate")
    for n, (edge, angle) in enumerate(zip(edges, (first, second), strict=True), 1):
        # walls that leave the corner free do not meet, and nothing mitres their lips
        own = {"extent": "inset", "first": "2 mm", "second": "2 mm", "relief": {"style": "tear"}} if apart else {}
        d.flange("plate", f"wall{n}", edge, "40 mm", angle=angle, toward=toward, **own)
    for n in (1, 2):
        d.flange("plate", f"lip{n}", "end", lip, on=f"wall{n}", toward=toward)
    return d


@pytest.mark.parametrize("edges", [("left", "front"), ("front", "right"), ("right", "back"), ("back", "left")])
def test_a_mitred_lip_is_shorter_at_its_far_edge_by_its_depth(edges):
    """Lips in one plane meet at 45 degrees: at its far edge each has lost as much as it is deep behind its bend (geometry)."""
    fold = build(lipped(edges=edges).document()).parts["plate"].flat.fold
    found = cut_back(fold)
    assert set(found) == {"lip1", "lip2"}
    for key, (whole, edge) in found.items():
        bend = next(b for b in fold.bends if b.key == key)
        assert whole == pytest.approx(math.dist(bend.start, bend.end))
        straight = 30 - bend.radius - bend.thickness
        assert whole - edge == pytest.approx(straight, abs=0.3)


def test_flanges_that_end_square_are_not_told():
    d = lipped()
    for n in (1, 2):
        del d.data["parts"]["plate"]["folding"]["flanges"][f"lip{n}"]
    d.data["parts"]["plate"]["folding"]["rounding"] = d.entry("5 mm")
    assert cut_back(build(d.document()).parts["plate"].flat.fold) == {}


EDGES = [("left", "front"), ("front", "right"), ("right", "back"), ("back", "left")]
ANGLES = [("75 deg", "90 deg"), ("90 deg", "75 deg"), ("105 deg", "90 deg"), ("60 deg", "120 deg"), ("80 deg", "100 deg")]


@pytest.mark.parametrize(("edges", "angles", "toward"), diagonal(5, EDGES, ANGLES, "ab"))
def test_each_way_out_that_lips_which_meet_are_told_clears_them(edges, angles, toward):
    """Where their walls meet they do in a mitre; where these leave the corner free nothing keeps them apart."""
    assert not [p for p in check(build(lipped(*angles, edges=edges, toward=toward).document())) if p.fault.code == "folds_into_itself"]
    document = lipped(angles[0], angles[0], edges=edges, toward=toward, apart=True).document()
    found = [p.fault for p in check(build(document)) if p.fault.code == "folds_into_itself"]
    assert found
    assert found[0].mends[0].label.startswith("Cut lip") or found[0].mends
    for mend in found[0].mends:
        mended = patched(document.dump(), list(mend.patch))
        left = [p.fault for p in check(build(mended)) if p.fault.code == "folds_into_itself"]
        assert not [f for f in left if f.owner == found[0].owner], mend.label


def cuts_offered(document):
    found = [p.fault for p in check(build(document), assembled=False) if p.fault.code == "folds_into_itself"]
    assert found
    return [m.label for f in found for m in f.mends if m.label.startswith("Cut ")]


def test_only_a_flange_of_its_whole_edge_that_carries_nothing_is_offered_to_be_cut_back():
    document = lipped("75 deg", "75 deg", apart=True)
    (label,) = cuts_offered(document.document())
    flanges = document.data["parts"]["plate"]["folding"]["flanges"]
    name = label.split()[1]
    whole = dict(flanges[name])
    # one that says itself where it ends is left alone
    flanges[name] = whole | {"extent": "inset", "first": document.entry("0"), "second": document.entry("0")}
    assert not cuts_offered(document.document())
    # so is one that carries another
    flanges[name] = whole
    document.flange("plate", "more", "end", "8 mm", on=name)
    assert not [label for label in cuts_offered(document.document()) if label.startswith(f"Cut {name} ")]


def test_turning_is_not_told_where_it_runs_into_something_else():
    """A lip with a plate on both sides of it: turned, it would strike the other wall."""
    d = Draft("d", "galv20")
    d.board("plate", "galv20", "lying", "0", (0, "60 mm"), (0, "100 mm"))
    d.fold("plate")
    d.flange("plate", "wall", "left", "50 mm").flange("plate", "lip", "end", "200 mm", on="wall", angle="150 deg")
    d.flange("plate", "other", "right", "120 mm")
    faults = [p.fault for p in check(build(d.document())) if p.fault.code == "folds_into_itself"]
    assert faults
    for fault in faults:
        for mend in fault.mends:
            after = [p.fault for p in check(build(patched(d.document().dump(), list(mend.patch)))) if p.fault.code == "folds_into_itself"]
            assert not [f for f in after if f.owner == fault.owner], mend.label


def test_a_lip_that_meets_its_own_mirror_image_is_told_so_in_every_message():
    d = Draft("d", "galv20")
    d.board("plate", "galv20", "lying", "0", (0, "60 mm"), (0, "100 mm"))
    d.fold("plate")
    d.flange("plate", "wall", "left", "30 mm", mirrored="u").flange("plate", "lip", "end", "41 mm", on="wall")
    faults = [p.fault for p in check(build(d.document())) if " runs into " in p.fault.message]
    assert {f.code for f in faults} == {"bend_order", "folds_into_itself"}
    for fault in faults:
        for said in fault.message.partition(": ")[2].split("; "):
            one, _, other = said.partition(":")[0].partition(" runs into ")
            assert one != other and other, fault.message
    assert any("mirrored lip" in f.message for f in faults)
