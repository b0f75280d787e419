"""Whatever is asked for with depth is what is taken away: sets of rebates, grooves and pockets on both faces, rings and islands too."""

import io

import ezdxf
import manifold3d
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from tests.explore import drawn
from zygon.cut.kerf import ByHand, compensated
from zygon.design.draft import Draft
from zygon.exchange.bundle import part_file
from zygon.geometry.boolean import to_polygon
from zygon.making.flats.exact import is_sound, solid_of, volume
from zygon.making.flats.flat import mesh_of, turned_over
from zygon.making.flats.handed import handed_flat
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build

T = 12.0
LENGTH, WIDTH = 240.0, 160.0


def board(features, cutter="router"):
    d = Draft("board", "ply12", cutter=cutter)
    d.data["stocks"]["ply12"].pop("measured", None)
    d.data["stocks"]["ply12"]["nominal"] = d.entry("12 mm")
    d.board("p", "ply12", "lying", 0, (0, LENGTH), (0, WIDTH))
    for i, (kind, u, v, more) in enumerate(features):
        d.feature("p", f"f{i}", kind, u, v, **more)
    return build(d.document())


FACES = st.sampled_from(["top", "bottom"])
DEPTHS = st.sampled_from([3, 4])
MIDDLE = ("centre", "0")
rebates = st.builds(
    lambda edge, width, depth, face, low, high: (
        "rebate",
        MIDDLE,
        MIDDLE,
        {"edge": edge, "width": width, "depth": depth, "face": face, "stop_low": low, "stop_high": high},
    ),
    st.sampled_from(["left", "right", "front", "back"]),
    st.integers(6, 20),
    DEPTHS,
    FACES,
    st.sampled_from([0, 0, 25]),
    st.sampled_from([0, 0, 15]),
)
grooves = st.builds(
    lambda along, at, width, depth, face: (
        "groove",
        MIDDLE if along == "u" else ("left", at),
        ("front", at) if along == "u" else MIDDLE,
        {"along": along, "width": width, "depth": depth, "face": face},
    ),
    st.sampled_from(["u", "v"]),
    st.integers(20, 140),
    st.sampled_from([6, 9]),
    DEPTHS,
    FACES,
)
pockets = st.builds(
    lambda x, y, w, h, r, depth, face: (
        "pocket",
        ("left", x),
        ("front", y),
        {"width": w, "height": h, "radius": r, "depth": depth, "face": face},
    ),
    st.integers(30, 210),
    st.integers(30, 130),
    st.integers(12, 50),
    st.integers(12, 50),
    st.just(0),
    DEPTHS,
    FACES,
)
RING = [("rebate", MIDDLE, MIDDLE, {"edge": e, "width": 10, "depth": 4, "face": "top"}) for e in ("left", "right", "front", "back")]
FOUR_GROOVES = [
    ("groove", MIDDLE, ("front", 20), {"along": "u", "width": 8, "depth": 4}),
    ("groove", MIDDLE, ("front", 140), {"along": "u", "width": 8, "depth": 4}),
    ("groove", ("left", 20), MIDDLE, {"along": "v", "width": 8, "depth": 4}),
    ("groove", ("left", 220), MIDDLE, {"along": "v", "width": 8, "depth": 4}),
]


def asked(features):
    """The union of what each feature takes away when it is alone on the board."""
    blank = manifold3d.Manifold.cube((LENGTH, WIDTH, T))
    tools = [blank - solid(board([f]).parts["p"]) for f in features]
    return manifold3d.Manifold.batch_boolean(tools, manifold3d.OpType.Add)


def sunk(flat, kerf=0.0):
    """What a cutter's paths from the seen face enclose, by depth operation, as far as there is board; islands stand."""
    found = {}
    for name, contour in compensated(flat, kerf, ByHand()).depths:
        shape = to_polygon(contour, 0.002)
        found[name] = shapely.symmetric_difference(found[name], shape) if name in found else shape
    return {k: shapely.intersection(g, shapely.box(0, 0, LENGTH, WIDTH)) for k, g in found.items()}


def agrees(features):
    built = board(features)
    assert not built.faults, [f.message for f in built.faults]
    part, tool = built.parts["p"], asked(features)
    left = manifold3d.Manifold.cube((LENGTH, WIDTH, T)) - tool
    assert solid(part).volume() == pytest.approx(left.volume(), rel=1e-6)
    assert (solid(part) - left).volume() + (left - solid(part)).volume() < 0.5
    assert volume_of(part.flat) == pytest.approx(left.volume(), rel=1e-4)
    for flat in (part.flat, turned_over(part.flat)):
        for name in sunk(flat):
            _, face, depth = name.split("-")
            assert face == flat.seen
            height = T - float(depth) + 0.01 if face == "a" else float(depth) - 0.01
            reached = shapely.union_all([g for n, g in sunk(flat).items() if float(n.split("-")[2]) >= float(depth)])
            above = tool.slice(height).area()
            assert reached.area == pytest.approx(above, abs=0.5), name
    return part


def test_grooves_that_close_a_ring_leave_what_they_enclose():
    part = agrees(FOUR_GROOVES)
    (pocket,) = part.flat.pockets
    assert len(pocket.islands) == 1
    assert abs(pocket.islands[0].area) == pytest.approx((200 - 8) * (120 - 8))


def test_rebates_all_round_leave_the_middle():
    part = agrees(RING)
    (pocket,) = part.flat.pockets
    assert abs(pocket.islands[0].area) == pytest.approx(220 * 140)


def test_two_rebates_and_two_grooves_leave_the_middle():
    agrees([RING[0], RING[1], FOUR_GROOVES[0], FOUR_GROOVES[1]])


def test_a_pocket_on_an_island_in_a_ring_is_a_pocket_of_its_own():
    part = agrees([*FOUR_GROOVES, ("pocket", MIDDLE, MIDDLE, {"width": 40, "height": 30, "radius": 3, "depth": 4})])
    assert sorted(len(p.islands) for p in part.flat.pockets) == [0, 1]


@settings(max_examples=drawn(40))
@given(st.lists(st.one_of(rebates, grooves, grooves, pockets), min_size=2, max_size=7))
def test_what_is_taken_away_is_the_union_of_what_was_asked(features):
    agrees(features)


@pytest.mark.parametrize("features", [FOUR_GROOVES, RING])
def test_a_ring_is_in_every_file_with_its_island(features):
    """Read back with ezdxf, and the solid with Open CASCADE."""
    built = board(features)
    part = built.parts["p"]
    _, text = part_file(built, part, "dxf", "compensated")
    lines = [e for e in ezdxf.read(io.StringIO(text)).modelspace() if "depth" in e.dxf.layer.lower() or "pocket" in e.dxf.layer.lower()]
    assert len(lines) == 2
    outer, island = sorted((shapely.Polygon([p[:2] for p in e.get_points()]) for e in lines), key=lambda g: -g.area)
    assert outer.contains(island)
    # the bit of 6 mm stays 3 mm off what stands
    (own,) = part.flat.pockets[0].islands
    assert island.bounds == pytest.approx([b + d for b, d in zip(own.bounds, (-3, -3, 3, 3), strict=True)])
    body = solid_of(part.flat)
    assert is_sound(body)
    assert volume(body) == pytest.approx(volume_of(part.flat), rel=1e-6)


def test_a_ring_is_mirrored_and_turned_over_with_its_island():
    part = board([*FOUR_GROOVES[:3], ("groove", ("left", 190), MIDDLE, {"along": "v", "width": 8, "depth": 4})]).parts["p"]
    for flat in (handed_flat(part.flat), turned_over(part.flat)):
        (pocket,) = flat.pockets
        x0, _, x1, _ = pocket.islands[0].bounds
        assert (x0, x1) == pytest.approx((LENGTH - 186, LENGTH - 24))
    assert sum(m.moments()[0] for m in mesh_of(handed_flat(part.flat))) == pytest.approx(volume_of(part.flat), rel=1e-6)
