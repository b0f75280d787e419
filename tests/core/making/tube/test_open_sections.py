"""Angles, channels and tees: what may lie on which of their sides, what is one piece with its mirror image, and that they are bent, drilled and cut like the rest."""

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest
from shapely import LineString

from tests.core.making.tube.frames import CLOSED, SECTIONS, section_of, two
from tests.core.making.tube.test_joined import body, fine, gap, volume
from zygon.check.run import check
from zygon.geometry.boolean import region_polygon
from zygon.geometry.motion import Motion
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import exact_of
from zygon.making.pipeline import build
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import PlaneCut, SideCut
from zygon.making.tube.mesh import member_mesh
from zygon.stock.section import Section

OPEN = [s for s in SECTIONS if s not in CLOSED]
#: The sides of the box round each, as they look, that are a leg's, a web's or a flange's.
REAL = {"angle": {(-1, 0), (0, -1)}, "channel": {(-1, 0), (0, 1), (0, -1)}, "tee": {(0, 1)}}


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
@pytest.mark.parametrize(
    ("one", "other"), [("square tube", o) for o in OPEN] + [("angle", "channel"), ("tee", "angle"), ("channel", "square tube")]
)
def test_an_end_is_butted_on_the_side_or_between_the_legs_that_it_comes_to(one, other, turn):
    """On the side of a leg, web or flange flat; from the open side on the leg behind, and what else of the other is in the way is taken out of it."""
    built = build(two(one, other, [(400, 0, 0), (0, 0, 300)], "member_butt", turns=(0, turn)).document())
    joint = built.joints["one-other"]
    looks = np.array(built.made["other"].matrix)[:3, :3].T @ (1.0, 0.0, 0.0)
    side = tuple(np.round(looks[:2]).astype(int).tolist())
    shape = section_of(other).shape
    between = shape in REAL and side not in REAL[shape]
    assert not built.faults and not joint.refused
    fine(built)
    assert gap(built, "one", "other") < 0.02
    assert not {p.fault.code for p in check(built)} & {"overlap", "hole_near_end", "hole_near_weld"}
    part = built.made["one"]
    assert bool(part.body.holes) is between
    # it reaches to the leg that its middle comes to: as far as a ray from its middle does through the other's outline
    ring = region_polygon(section_of(other).region)
    first = LineString([(looks[0] * 200, looks[1] * 200), (-looks[0] * 200, -looks[1] * 200)]).intersection(ring.exterior)
    nearest = max(float(np.array(p.coords[0]) @ looks[:2]) for p in getattr(first, "geoms", [first]))
    assert part.body.long == pytest.approx(400 - nearest, abs=1e-3)


@pytest.mark.parametrize("turn", [0, 90])
@pytest.mark.parametrize("name", ["angle", "unequal angle", "channel"])
def test_what_gives_way_between_legs_is_mirrored_and_told_apart_by_its_hand(name, turn):
    d = two("square tube", name, [(400, 0, 0), (0, 0, 300)], "member_butt", turns=(0, turn))
    d.mirror("m", "y", "300 mm", "part:one", "part:other", name="m")
    built = build(d.document())
    assert not built.faults
    ones = [p for k, p in built.made.items() if k.startswith("one")]

    def solid(part, *, mirrored):
        mesh, m = member_mesh(part.body), np.array(part.matrix)[:3]
        made = manifold_of(mesh, list(dict.fromkeys(mesh.owners))).transform(m)
        return made.translate((0, -300, 0)).mirror((0, 1, 0)).translate((0, 300, 0)) if mirrored else made

    one, other = solid(ones[0], mirrored=True), solid(ones[1], mirrored=False)
    assert (one ^ other).volume() == pytest.approx(one.volume(), rel=1e-5) and one.volume() == pytest.approx(other.volume(), rel=1e-5)
    a, b = (manifold_of(mesh, list(dict.fromkeys(mesh.owners))) for mesh in (member_mesh(p.body) for p in ones))
    assert (ones[0].body.alike == ones[1].body.alike) is one_solid(a, b)


@pytest.mark.parametrize(("one", "other"), [(o, "round tube") for o in OPEN] + [("round tube", o) for o in OPEN])
def test_what_is_open_is_neither_coped_nor_coped_onto(one, other):
    built = build(two(one, other, [(400, 0, 0), (0, 0, 300)], "member_cope").document())
    assert "is no tube or solid bar" in built.joints["one-other"].refused


def placed(mesh, turn: int, *, back: bool) -> set[tuple[float, ...]]:
    """The corners of a mesh that is turned by quarters, and end for end, from its lowest end on; to a hundredth."""
    points = mesh.positions
    if back:
        points = points * (1.0, -1.0, -1.0)
    c, s = round(math.cos(turn * math.pi / 2)), round(math.sin(turn * math.pi / 2))
    points = points @ np.array(((c, s, 0), (-s, c, 0), (0, 0, 1)))
    points[:, 2] -= points[:, 2].min()
    return {tuple(p) for p in np.round(points, 2).tolist()}


def ways(body: MemberBody) -> list[set[tuple[float, ...]]]:
    """The corners of a piece as it is, and as it is turned by quarters and end for end."""
    mesh = member_mesh(body)
    return [placed(mesh, turn, back=back) for back, turn in itertools.product((False, True), range(4))]


def one_solid(a, b) -> bool:
    """Whether some turn lays a solid on another, by what they have in common."""
    if abs(a.volume() - b.volume()) > 1e-4 * a.volume():
        return False
    turned = [s.rotate((0, 0, 90 * k)) for s in (b, b.rotate((180, 0, 0))) for k in range(4)]
    low = a.bounding_box()[2]
    return any((a ^ t.translate((0, 0, low - t.bounding_box()[2]))).volume() > (1 - 1e-4) * a.volume() for t in turned)


def cut_at(length: float, u: float, v: float) -> PlaneCut:
    n = np.array((u, v, 1.0)) / np.linalg.norm((u, v, 1.0))
    return PlaneCut((0.0, 0.0, length), (float(n[0]), float(n[1]), float(n[2])), "cut")


ENDS = {
    "square": (),
    "to u": (cut_at(200, 1, 0),),
    "to v": (cut_at(200, 0, 1),),
    "from v": (cut_at(200, 0, -1),),
    "askew": (cut_at(200, 0.5, 0.2),),
}
HOLES = {"none": (), "in u": (90.0, 60.0), "in v": (0.0, 60.0), "under": (180.0, 140.0)}


def drilled(section: Section, around: float, at: float) -> SideCut:
    """A hole from the middle outward, so many degrees round."""
    a = math.radians(around)
    way, u = np.array((-math.sin(a), math.cos(a), 0.0)), np.array((0.0, 0.0, 1.0))
    rows = np.column_stack((u, np.cross(way, u), way, (0.0, 0.0, at)))
    return SideCut(Motion(tuple(map(tuple, rows.tolist()))), Section("round", 6.0), 0.0, "hole", begins=0.0)


@pytest.mark.parametrize("name", OPEN)
@pytest.mark.parametrize("flipped", [False, True])
def test_what_is_one_piece_is_so_by_its_corners(name, flipped):
    """Every piece beside every other and its mirror image: the same row where a turn lays them on one another, and only there."""
    section = replace(section_of(name), corner=0.0)
    section = section.mirrored if flipped else section
    bodies = [
        MemberBody(section, 200.0, at_b=end, holes=(drilled(section, *hole),) if hole else ())
        for end, hole in itertools.product(ENDS.values(), HOLES.values())
        if end == () or hole == ()
    ]
    # a hole where no leg is drills nothing, and is refused where it is written
    bodies = [b for b in bodies if not b.holes or member_mesh(b).moments()[0] < section.area * 200 - 1]
    bodies += [b.mirrored for b in bodies]
    turned, images = [ways(b) for b in bodies], [ways(b.mirrored)[0] for b in bodies]
    for (k, one), (n, other) in itertools.combinations(enumerate(bodies), 2):
        assert (one.alike == other.alike) is (turned[k][0] in turned[n]), (one, other)
        assert (one.other_hand == other.alike) is (images[k] in turned[n])


@pytest.mark.parametrize("walls", ["one", "both"])
@pytest.mark.parametrize("around", [0, 45, 90, 180, 270])
@pytest.mark.parametrize("name", OPEN)
def test_a_hole_is_drilled_where_a_leg_is(name, around, walls):
    d = two(name, "round bar", [(400, 0, 0), (0, 0, 300)], at=(-500, 0, 0))
    hole = {"off": {"text": "50"}, "around": {"text": f"{around} deg"}, "wide": {"text": "5"}, "walls": walls}
    d.data["parts"]["one"]["holes"] = {"h": hole}
    built = build(d.document())
    part, section = built.made["one"], section_of(name)
    taken = section.area * 400 - member_mesh(body(part)).moments()[0]
    if built.faults:
        assert [f.entry for f in built.faults] == ["/parts/one/holes/h/around"] and f"{around}°" in built.faults[0].message
        assert abs(taken) < section.area * 400 * 1e-3
    else:
        # a fillet in the way makes the leg thicker; a slanting hole through a leg is longer
        assert taken > 0.9 * math.pi * 2.5**2 * section.wall
        assert volume(exact_of(part)) == pytest.approx(section.area * 400 - taken, rel=1e-3)
    # the side that is a web's, flange's or leg's all over is always drilled
    if around % 90 == 0:
        u, v = round(-math.sin(math.radians(around))), round(math.cos(math.radians(around)))
        assert bool(built.faults) <= ((u, v) not in REAL[section.shape])


@pytest.mark.parametrize("name", OPEN)
def test_the_exact_solid_is_the_mesh(name):
    built = build(two("square tube", name, [(400, 0, 0), (0, 0, 300)], "member_mitre", span=(0, 1)).document())
    assert not built.faults
    for key in ("one", "other"):
        part = built.made[key]
        assert volume(exact_of(part)) == pytest.approx(member_mesh(body(part)).moments()[0], rel=2e-4)
