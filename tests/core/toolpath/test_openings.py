"""Openings and grooves that the bit of outlines does not get into: cut by the widest that does, with reliefs as wide as that; what none gets into is said."""

from __future__ import annotations

import pytest
import shapely

from tests.core.program.milled import moves_of, placed_pockets, swept_to
from tests.core.toolpath.sheets import bodies
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.geometry.contour import rectangle
from zygon.making.flats.relief import WIDER, Relief, relief_circles
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.nest.design import lay_out, plans
from zygon.program.of_design import program_of
from zygon.stock.cutter import mill_widths
from zygon.stock.router import Bit, Routing

FINE = {"fine": Bit(name="Fine", kind="end_mill", number=2, diameter=Entry(text="3 mm"))}
FINER = {**FINE, "finest": Bit(name="Finest", kind="end_mill", number=3, diameter=Entry(text="1.5 mm"))}


def board(*features, bits=FINE, routing=None):
    """A board with features (kind, u, v, entries), on a router with a bit of 6 mm and finer ones."""
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 300), (0, 200))
    for k, (kind, u, v, more) in enumerate(features):
        d.feature("p", f"f{k}", kind, ("left", u), ("front", v), **more)
    document = d.document()
    cutter = document.cutters["router"].model_copy(update={"bits": dict(bits), **({"routing": routing} if routing else {})})
    return document.model_copy(update={"cutters": {**document.cutters, "router": cutter}})


def made(document):
    built = build(document)
    nest = lay_out(built.document, plans(built)[0], seconds=0.5, search=False)
    problems = check(built)
    return nest, problems, program_of(document, nest, 1, problems)


def slot(width, u="80", v="60", length="40", angle="0 deg"):
    return ("slot", u, v, {"length": length, "width": width, "angle": angle})


WAYS = {"plain": Routing(), "finished": Routing(finish=Entry(text="0.4 mm")), "skin": Routing(tabs=0, skin=Entry(text="0.6 mm"))}


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(
    ("width", "length", "bits", "by"),
    [
        ("4", "40", FINE, "fine"),
        ("3", "40", FINE, "fine"),  # just as wide as it
        ("2", "40", FINER, "finest"),
        ("4", "40", FINER, "fine"),  # the widest that gets in
        ("6.5", "40", FINER, ""),
        ("5.9", "120", FINE, "fine"),
    ],
)
@pytest.mark.parametrize("angle", ["0 deg", "37 deg"])
def test_a_slot_is_cut_by_the_widest_bit_that_gets_into_it(width, length, bits, by, angle, way):
    document = board(slot(width, "150", "100", length, angle), bits=bits, routing=WAYS[way])
    nest, problems, one = made(document)
    assert not [p for p in problems if p.fault.code in ("under_kerf", "too_small")] and one.faults == ()
    cuts = [c for c in one.paths.cuts if c.operation == "inside"]
    assert {c.bit for c in cuts} == {by}
    moves = moves_of(one.text)
    wide = {b.number: b.diameter for b in one.paths.bits.values()}
    gone = swept_to(moves, -one.paths.thickness, wide, surely=True)
    ((_, _, body),) = bodies(document, nest, 1)
    hole = shapely.Polygon(body.interiors[0])
    assert shapely.difference(hole, gone.buffer(0.01)).area < 0.05, "something is left of the slot"
    assert shapely.intersection(gone, body.buffer(-0.012)).area < 1e-4, "something of the board is cut away"
    # before the outline, while the board is firm
    order = [c.operation for c in one.paths.cuts]
    assert order.index("inside") < order.index("outside")


def test_a_groove_narrower_than_the_bit_is_cleared_by_a_finer_one():
    document = board(("groove", "100", "60", {"along": "u", "width": "4", "depth": "5"}))
    nest, problems, one = made(document)
    assert not [p for p in problems if p.fault.code == "under_kerf"] and one.faults == ()
    assert {c.bit for c in one.paths.cuts if c.operation == "pocket"} == {"fine"} and not one.paths.unreached
    ((_, depth, region),) = placed_pockets(nest, 1)
    ((_, _, body),) = bodies(document, nest, 1)
    wide = {b.number: b.diameter for b in one.paths.bits.values()}
    gone = swept_to(moves_of(one.text), -depth, wide, surely=True)
    wanted = shapely.intersection(region, body)
    assert shapely.difference(wanted, gone).area < 1e-3 * wanted.area


@pytest.mark.parametrize("kind", ["slot", "groove"])
def test_what_no_bit_gets_into_is_said_and_keeps_its_program_here(kind):
    feature = slot("2") if kind == "slot" else ("groove", "100", "60", {"along": "u", "width": "2", "depth": "5"})
    document = board(feature)
    _, problems, one = made(document)
    assert [p for p in problems if p.fault.code in ("under_kerf", "too_small") and p.fault.severity == "error"]
    assert any("narrower than the bit" in f for f in one.paths.wrong)


def test_a_bit_that_is_too_short_gets_into_nothing():
    short = {"fine": FINE["fine"].model_copy(update={"reach": Entry(text="5 mm")})}
    document = board(slot("4"), bits=short)
    _, problems, one = made(document)
    assert [p for p in problems if p.fault.code in ("under_kerf", "too_small")] and one.faults
    cutter = document.cutters["router"]
    assert mill_widths(cutter, "ply12", 12.0) == [6.0] and mill_widths(cutter, "ply12", 5.0) == [6.0, 3.0]
    no_mill = {"drill": FINE["fine"].model_copy(update={"kind": "drill"})}
    assert mill_widths(board(slot("4"), bits=no_mill).cutters["router"], "ply12", 5.0) == [6.0]


def test_the_arcs_of_an_opening_are_measured_against_the_bit_that_cuts_it():
    def tight(bits):
        return [p.fault for p in check(build(board(slot("4", "150", "100", "80"), bits=bits))) if p.fault.code == "tight_arc"]

    assert not tight(FINE) and not tight(FINER)


@pytest.mark.parametrize("style", ["dog_bone", "t_bone"])
def test_a_relief_is_as_wide_as_the_bit_that_cuts_its_opening(style):
    said = Relief(3.0, (("joint:j", style),), (1.5, 0.75))

    def radii(contour):
        return {round(c.as_circle[2] / WIDER, 6) for c in relief_circles([contour], said)}

    for width, radius in ((12, 3.0), (6, 3.0), (5.9, 1.5), (3, 1.5), (2.9, 0.75), (1.5, 0.75), (1.0, 3.0)):
        assert radii(rectangle(0, 0, 40, width, "joint:j").wound(ccw=False)) == {radius}, width
    notch = rectangle(0, 0, 40, 5, "joint:j")  # an outline is cut by the first bit
    assert not radii(notch)
