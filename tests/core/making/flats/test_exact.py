"""Exact solids are as large as geometry says, wherever a cut lies; Open CASCADE measures them."""

import math
from dataclasses import replace

import pytest
from OCP.BRep import BRep_Builder
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
from OCP.gp import gp_Pnt
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_FACE
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS_Shell

from tests.core.making.metal.trays import entry, flange, folded, part_of
from tests.explore import diagonal
from zygon.design.draft import Draft
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon, rectangle
from zygon.making.flats.exact import is_sound, solid_of, volume
from zygon.making.flats.handed import handed_flat
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.making.result.operations import Bevel, EdgeBore, Pocket, Sink
from zygon.making.solids.exact import placed_solid


def board(**more):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 60))
    return replace(build(d.document()).flats["p"].flat, **more)


T = 11.8


def centre(shape):
    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    at = found.CentreOfMass()
    return at.X(), at.Y(), at.Z()


@pytest.mark.parametrize("face", ["a", "b"])
def test_a_countersink_is_the_frustum_of_a_cone_in_its_own_face(face):
    sink = Sink(30.0, 20.0, 10.0, 4.0, math.pi / 2, face, "o")
    assert sink.depth == pytest.approx(3.0)
    whole, found = board(), solid_of(board(sinks=(sink,)))
    taken = math.pi * 3 / 3 * (25 + 10 + 4)
    assert is_sound(found) and volume(found) == pytest.approx(100 * 60 * T - taken)
    # what was taken was in that face: a frustum's own centre lies 3/4 (R² + 2Rr + 3r²) / (R² + Rr + r²) / 3 of its height from the wide end
    deep = 3 / 4 * (25 + 2 * 10 + 3 * 4) / (25 + 10 + 4)
    z = T - deep if face == "a" else deep
    was = centre(solid_of(whole))
    now = centre(found)
    assert [(w * 100 * 60 * T - n * volume(found)) / taken for w, n in zip(was, now, strict=True)] == pytest.approx([30, 20, z], abs=1e-3)


@pytest.mark.parametrize(("across", "side"), diagonal(1, ["u", "v"], ["low", "high"]))
def test_a_bore_goes_in_from_its_own_edge(across, side):
    at = 0.0 if side == "low" else 100.0 if across == "u" else 60.0
    bore = EdgeBore("left", across, side, at, 23.0, 4.0, 5.0, 18.0, "o")
    found = solid_of(board(bores=(bore,)))
    taken = math.pi * 2.5**2 * 18
    assert is_sound(found) and volume(found) == pytest.approx(100 * 60 * T - taken)
    into = 9.0 if side == "low" else at - 9.0
    want = [into, 23, 4] if across == "u" else [23, into, 4]
    assert [(w * 100 * 60 * T - n * volume(found)) / taken for w, n in zip((50, 30, T / 2), centre(found), strict=True)] == pytest.approx(
        want, abs=1e-3
    )
    # the mirror image has it in the other end, and a mirror image's mirror image is the part itself
    (other,) = handed_flat(board(bores=(bore,), digest=f"{across} {side}")).bores
    if across == "u":
        assert other == replace(bore, side="high" if side == "low" else "low", at=100 - at, edge="right")
    else:
        assert other == replace(bore, along=77.0)
    assert handed_flat(handed_flat(board(bores=(bore,), digest=f"{across} {side}"))).bores == (bore,)


@pytest.mark.parametrize(("low", "high"), [(80.0, 90.0), (95.0, 70.0), (88.0, 88.0)])
def test_a_sloping_edge_leaves_a_trapezoid(low, high):
    def over(x):
        return polygon([(x, -5), (140, -5), (140, 65), (x, 65)])

    found = solid_of(board(bevels=(Bevel(over(high), over(low), "o", edge=True),)))
    assert is_sound(found) and volume(found) == pytest.approx(60 * T * (low + high) / 2)
    # as long as it is at half the thickness, and heavier towards the longer face
    at = centre(found)
    assert at[2] == pytest.approx(T / 3 * (low + 2 * high) / (low + high))
    assert at[0] == pytest.approx((low * low + low * high + high * high) / 3 / (low + high))


def test_a_part_in_two_pieces_is_both_of_them():
    pieces = (Region(rectangle(0, 0, 40, 60)), Region(rectangle(50, 0, 100, 20)))
    found = solid_of(board(pieces=pieces))
    assert is_sound(found) and volume(found) == pytest.approx((40 * 60 + 50 * 20) * T)
    assert centre(found)[0] == pytest.approx((20 * 2400 + 75 * 1000) / 3400)


@pytest.mark.parametrize("face", ["a", "b"])
def test_a_pocket_goes_in_from_its_own_face(face):
    pocket = Pocket(rectangle(10, 20, 40, 30), "o", face, 4.0)
    found = solid_of(board(pockets=(pocket,)))
    taken = 30 * 10 * 4
    assert is_sound(found) and volume(found) == pytest.approx(100 * 60 * T - taken)
    want = [25, 25, T - 2 if face == "a" else 2]
    got = [(w * 100 * 60 * T - n * volume(found)) / taken for w, n in zip((50, 30, T / 2), centre(found), strict=True)]
    assert got == pytest.approx(want, abs=1e-3)


def test_what_is_broken_open_or_no_body_is_not_sound():
    assert is_sound(BRepPrimAPI_MakeBox(3.0, 4.0, 5.0).Shape())
    corners = [gp_Pnt(x, y, 0.0) for x, y in ((0, 0), (10, 10), (10, 0), (0, 10))]
    for order in ((0, 2, 1, 3), (0, 1, 2, 3)):  # a square, and a bow tie
        wire = BRepBuilderAPI_MakeWire()
        ring = [corners[i] for i in order]
        for p, q in zip(ring, ring[1:] + ring[:1], strict=True):
            wire.Add(BRepBuilderAPI_MakeEdge(p, q).Edge())
        assert not is_sound(BRepBuilderAPI_MakeFace(wire.Wire()).Face())


def hole(x, diameter):
    return {
        "kind": "hole",
        "u": {"origin": "right", "offset": entry(x)},
        "v": {"origin": "centre", "offset": entry(3)},
        "diameter": entry(diameter),
    }


#: Bends narrower and wider than the hole; with a rate of turn under and over one radian a millimetre.
BENDS = [(0.3, 0.6, 1.3), (2.0, 1.0, 3.0), (12.0, 1.0, 6.0), (40.0, 2.0, 22.0)]


@pytest.mark.parametrize(("sizes", "share", "toward"), diagonal(2, BENDS, [-0.4, 0.0, 0.3, 0.5, 0.9, 1.4], "ab"))
def test_a_hole_anywhere_about_a_bend_takes_its_area_of_the_neutral_line(sizes, share, toward):
    """With K 0.5 the middle surface is as long as the flat, so what a hole takes is its area times the thickness (Pappus)."""
    radius, t, diameter = sizes
    made = {"right": flange("right", 90, toward=toward, radius=radius)}
    plain = part_of(folded(made, thickness=t, k=0.5))
    bend = plain.flat.fold.bends[0]
    at = 200 - bend.start[0] - share * bend.width
    holed = folded(made, features={"h": hole(at, diameter)}, thickness=t, k=0.5).parts["p"]
    found = solid_of(holed.flat)
    assert is_sound(found)
    area = math.pi * diameter**2 / 4
    assert plain.flat.area - holed.flat.area == pytest.approx(area, rel=1e-6)
    assert volume(solid_of(plain.flat)) - volume(found) == pytest.approx(area * t, rel=2e-4, abs=2e-3)


def test_a_solid_in_its_place_is_where_the_part_is_and_a_mirror_image_too():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "facing_side", "300 mm", ("20 mm", "120 mm"), ("5 mm", "65 mm"))
    d.feature("p", "hole", "hole", ("front", 17), ("bottom", 11), diameter="9")
    d.turn("p", "z", "25 deg", x="0", y="0")
    d.mirror("m", "x", "-40 mm", "part:p")
    built = build(d.document())
    for part in built.made.values():
        found = placed_solid(part)
        assert is_sound(found) and volume(found) == pytest.approx(volume_of(part.flat), rel=1e-6)
        x, y, z = centre(found)
        m = part.matrix
        cut = math.pi * 4.5**2
        u, v = ((50 * 6000 - 17 * cut) / (6000 - cut), (30 * 6000 - 11 * cut) / (6000 - cut))
        flat = part.flat.bounds
        u = flat[0] + u if part.handed > 0 else flat[2] - u
        want = [sum(row[i] * c for i, c in enumerate((u, flat[1] + v, T / 2))) + row[3] for row in m[:3]]
        assert (x, y, z) == pytest.approx(want, abs=0.05)


def test_a_shell_with_a_face_missing_is_not_sound_and_one_without_a_shell_neither():
    box = BRepPrimAPI_MakeBox(10.0, 20.0, 30.0)
    assert is_sound(box.Shape())
    faces = TopExp_Explorer(box.Shape(), TopAbs_FACE)
    builder, open_ = BRep_Builder(), TopoDS_Shell()
    builder.MakeShell(open_)
    for _ in range(5):
        builder.Add(open_, faces.Current())
        faces.Next()
    assert BRepCheck_Analyzer(open_).IsValid() and not is_sound(open_)
    assert BRepCheck_Analyzer(faces.Current()).IsValid() and not is_sound(faces.Current())
