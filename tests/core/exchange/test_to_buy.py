"""What is bought: counted over sets, rows, copies, joints and quantities, with spare and prices, as CSV; and hardware in files of solids."""

import csv
import io
import re

import ezdxf
import pytest

from tests.core.making.sets.stacks import stack
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.errors import DocumentError
from zygon.exchange.step import write_step
from zygon.exchange.to_buy import to_buy, write_to_buy
from zygon.making.pipeline import build
from zygon.screen.design import built_data


def rows(draft):
    return {r.designation or r.name: r for r in to_buy(build(draft.document()))}


def case():
    d = stack("ply18", "ply12", size="M5", washer="plain_washer", nut_washer="plain_washer")
    d.bore_rows("hole", x=("3", "30 mm"))
    d.repeat("row", "row", "part:b0", "part:b1", axis="x", number="2", spacing="260 mm")
    return d


def test_pieces_are_counted_over_rows_and_copies():
    found = rows(case())
    assert {k: r.needed for k, r in found.items()} == {"ISO 4762 - M5 x 40": 6, "ISO 4032 - M5": 6, "ISO 7089 - M5": 12}
    assert found["ISO 7089 - M5"].owners == ("bore:hole",)


def test_parts_that_are_made_many_times_take_as_many_sets():
    d = case()
    for key in ("b0", "b1"):
        d.data["parts"][key]["quantity"] = 5
    assert rows(d)["ISO 4762 - M5 x 40"].needed == 30


@pytest.mark.parametrize(("share", "spare"), [(0, 0), (5, 1), (10, 1), (20, 2), (50, 3), (100, 6)])
def test_spare_is_in_whole_pieces(share, spare):
    d = case()
    d.data["hardware"] = {"spare": share, "prices": {"ISO 4762 - M5 x 40": 0.25}}
    one = rows(d)["ISO 4762 - M5 x 40"]
    assert (one.needed, one.spare, one.quantity, one.price) == (6, spare, 6 + spare, 0.25)
    lines = list(csv.DictReader(io.StringIO(write_to_buy(build(d.document())))))
    line = next(x for x in lines if x["Designation"] == "ISO 4762 - M5 x 40")
    assert line["To buy"] == str(6 + spare) and float(line["Price"]) == pytest.approx(0.25 * (6 + spare)) and line["Standard"] == "ISO 4762"


def test_screws_and_dowels_of_joints_are_bought_too():
    built = build(example("stand"))
    found = {r.designation: r for r in to_buy(built)}
    for kind, designation in (("screws", "DIN 7997 - 4 x 45"), ("dowels", "DIN 68150 - 8 x 40")):
        joints = [j for k, j in built.joints.items() if built.document.joints[k].kind == kind]
        assert found[designation].needed == sum(len(j.fingers) * len(j.pairs) for j in joints) > 0
        assert len(found[designation].owners) == len(joints)


def test_a_design_without_hardware_buys_its_bought_parts_or_nothing():
    d = Draft("d", "ply12")
    d.board("a", "ply12", "lying", "0 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    assert write_to_buy(build(d.document())) == ""
    d.item("felt", 3, 1.5)
    found = rows(d)
    assert found["felt"].needed == 3 and found["felt"].price == 1.5


def test_a_bore_that_is_left_out_buys_nothing():
    d = case()
    d.data["bores"]["hole"]["out"] = True
    assert not rows(d)


def test_every_piece_is_in_the_step_file_where_it_lies():
    built = build(case().document())
    text = write_step(built).decode("latin-1")
    names = re.findall(r"PRODUCT\('([^']*)'", text)
    wanted = [p.hardware.designation for one in built.sets.values() for place in one.places for p in place.pieces]
    assert len(wanted) == 24
    for name in set(wanted):
        # one product for each shape, placed as often as it is there, or one each
        assert name in names
    assert text.count("MANIFOLD_SOLID_BREP") >= 24 + 4


def test_the_holes_of_a_set_are_in_the_dxf_as_circles_of_the_standards():
    from zygon.exchange.bundle import part_file

    built = build(stack("ply18", "ply12", head="countersunk", size="M5", side="high", hole="coarse").document())
    for key in ("b0", "b1"):
        _, content = part_file(built, built.flats[key], "dxf", "nominal")
        drawing = ezdxf.read(io.StringIO(content.decode() if isinstance(content, bytes) else content))
        radii = {round(e.dxf.radius, 6) for e in drawing.modelspace() if e.dxftype() == "CIRCLE"}
        assert 5.8 / 2 in radii  # ISO 273, coarse (from memory)


@pytest.mark.parametrize("to", ["stl", "3mf", "glb"])
def test_meshes_hold_the_hardware_too(to):
    import trimesh

    from zygon.exchange.meshes import write_mesh
    from zygon.making.hardware.pieces import mesh_of_hardware

    draft = stack("ply18", "ply12", size="M8")
    built = build(draft.document())
    bare = build(stack("ply18", "ply12", size="M8").document())
    object.__setattr__(bare, "sets", {})
    found, without = (
        sum(g.volume for g in trimesh.load(io.BytesIO(write_mesh(b, to)), file_type=to, force="scene").dump()) for b in (built, bare)
    )
    scale = 1e-9 if to == "glb" else 1.0
    own = sum(mesh_of_hardware(p.hardware).moments()[0] for place in built.sets["hole"].places for p in place.pieces)
    assert abs(found) - abs(without) == pytest.approx(own * scale, rel=1e-3)


def test_a_counted_thing_of_the_catalogue_is_bought_by_its_standard():
    d = case()
    d.item("washers", 4, 0.0)
    d.data["parts"]["washers"]["designation"] = "ISO 7089 - M5"
    d.item("bearings", 2, 0.0)
    d.data["parts"]["bearings"]["designation"] = "ISO 15 - 608"
    found = rows(d)
    assert (found["ISO 7089 - M5"].needed, found["ISO 15 - 608"].needed) == (16, 2) and "washers" not in found
    assert found["ISO 7089 - M5"].owners == ("bore:hole", "part:washers")
    d.data["parts"]["bearings"]["designation"] = "ISO 15 - 609"
    with pytest.raises(DocumentError) as error:
        d.document()
    assert error.value.entry == "/parts/bearings/designation" and error.value.code == "bad_hardware"


@pytest.mark.parametrize("spare", [0, 5, 50])
@pytest.mark.parametrize("counted", ["", "ISO 4762 - M5 x 40", "ISO 4032 - M5"])
def test_the_order_is_what_the_design_says_is_bought(spare, counted):
    d = case()
    d.item("felt", 3, 1.5)
    d.item("odd", 2, 0.0)
    if counted:
        d.item("extra", 4, 0.2)
        d.data["parts"]["extra"]["designation"] = counted
    d.data["hardware"] = {"spare": spare, "prices": {"ISO 7089 - M5": 0.05}}
    built = build(d.document())
    shown = built_data(built, [])
    lines = shown["to_buy"]
    assert all(r["quantity"] == r["needed"] + r["spare"] for r in lines)
    worth = sum(r["quantity"] * r["price"] for r in lines if r["price"] is not None)
    assert (
        shown["totals"]["order"] == shown["totals"]["bought"] == pytest.approx(worth) == pytest.approx(sum(r["total"] or 0 for r in lines))
    )
    assert shown["totals"]["unpriced"] == sum(r["price"] is None for r in lines) == (2 if counted else 3)
    csv_total = sum(float(x["Price"]) for x in csv.DictReader(io.StringIO(write_to_buy(built))) if x["Price"])
    assert csv_total == pytest.approx(worth, abs=0.02)
    if counted:
        one = next(r for r in lines if r["designation"] == counted)
        assert one["price"] == 0.2 and one["needed"] == 10


def test_a_price_of_the_list_goes_before_an_items_own():
    d = case().item("extra", 4, 0.2)
    d.data["parts"]["extra"]["designation"] = "ISO 4032 - M5"
    d.data["hardware"] = {"prices": {"ISO 4032 - M5": 0.07}}
    assert rows(d)["ISO 4032 - M5"].price == 0.07
