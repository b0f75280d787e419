"""Sections as joint figures draw them, against slices of the solid by a mesh library."""

import itertools

import manifold3d
import numpy as np
import pytest
import shapely

from zygon.design.draft import Draft
from zygon.geometry.frame import FACES, frame_of
from zygon.making.flats.flat import mesh_of
from zygon.making.pipeline import build
from zygon.making.solids.solids import manifold_of
from zygon.screen.joint_figure import _section

PLANES = ("lying", "facing_front", "facing_side")
SPAN = {"x": (30.0, 240.0), "y": (-20.0, 195.0), "z": (15.0, 175.0)}
T = 11.8


def board(plane, *features, **more):
    frame = frame_of(plane)
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", plane, 40, SPAN[frame.u], SPAN[frame.v], **more)
    for i, (kind, u, v, fields) in enumerate(features):
        d.feature("p", f"f{i}", kind, u, v, **fields)
    built = build(d.document())
    assert built.faults == (), [f.message for f in built.faults]
    return built.flats["p"]


def slice_of(part, axis, at, horizontal, vertical):
    """The solid of a part cut by the plane ``axis`` = ``at``."""
    m = np.array(part.matrix)
    order = ["xyz".index(x) for x in (horizontal, vertical, axis)]
    turned = np.column_stack((m[order, :3], m[order, 3]))
    solid = manifold3d.Manifold.compose([manifold_of(x, list(dict.fromkeys(x.owners))) for x in mesh_of(part.flat)]).transform(turned)
    rings = solid.slice(at + 1e-6).to_polygons()  # not just through its corners
    found = shapely.Polygon()
    for ring in rings:
        found = shapely.symmetric_difference(found, shapely.make_valid(shapely.Polygon(ring)))
    return found


def same(drawn, exact, room=1.0):
    assert shapely.area(shapely.symmetric_difference(drawn, exact)) < room


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("edge", range(4))
@pytest.mark.parametrize("up", "ab")
def test_a_bore_in_an_edge_is_cut_through_its_middle_and_not_seen_from_its_end(plane, edge, up):
    frame = frame_of(plane)
    word = (*FACES[frame.u], *FACES[frame.v])[edge]
    along, runs = (frame.v, frame.u) if edge < 2 else (frame.u, frame.v)
    place = [("centre", 0), ("centre", 0)]
    place[0 if along == frame.u else 1] = (FACES[along][0], 37)
    part = board(plane, ("edge_hole", *place, {"edge": word, "diameter": 5, "depth": 24, "height": 4.5}), up=up)
    bare = board(plane, up=up)
    middle = SPAN[along][0] + 37
    for horizontal, vertical in itertools.permutations([x for x in "xyz" if x != along]):
        same(_section(part, along, middle, horizontal, vertical), slice_of(part, along, middle, horizontal, vertical))
        # beside it, farther than its radius, there is none
        same(_section(part, along, middle + 2.6, horizontal, vertical), slice_of(bare, along, middle, horizontal, vertical), 1e-3)
        same(_section(part, along, middle - 2.6, horizontal, vertical), slice_of(bare, along, middle, horizontal, vertical), 1e-3)
    # a plane across it, a little inside its mouth
    low, high = SPAN[runs]
    at = high - 1.0 if edge % 2 else low + 1.0
    others = [x for x in "xyz" if x != runs]
    same(_section(part, runs, at, *others), slice_of(bare, runs, at, *others), 1e-3)
    normal = frame.normal
    w = next(w for w in (4.5, T - 4.5) if abs(slice_area(part, normal, 40 + w) - slice_area(bare, normal, 40 + w)) > 50)
    same(_section(part, normal, 40 + w, frame.u, frame.v), slice_of(part, normal, 40 + w, frame.u, frame.v))


def slice_area(part, axis, at):
    return shapely.area(slice_of(part, axis, at, *[x for x in "xyz" if x != axis]))


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("face", [0, 1])
def test_pockets_and_holes_are_cut_where_the_plane_is(plane, face):
    frame = frame_of(plane)
    word = FACES[frame.normal][face]
    u, v = FACES[frame.u][0], FACES[frame.v][0]
    part = board(
        plane,
        ("pocket", (u, 60), (v, 50), {"width": 50, "height": 30, "depth": 4, "face": word}),
        ("rectangle", (u, 140), (v, 70), {"width": 22, "height": 41}),
        ("hole", (u, 175), (v, 25), {"diameter": 12}),
    )
    u0, v0 = SPAN[frame.u][0], SPAN[frame.v][0]
    for axis, places in ((frame.u, (5, 60, 84.5, 85.5, 140, 150.9, 151.1)), (frame.v, (8, 36, 50, 64.9, 65.1, 70, 90))):
        for place in places:
            at = place + (u0 if axis == frame.u else v0)
            for horizontal, vertical in itertools.permutations([x for x in "xyz" if x != axis]):
                same(_section(part, axis, at, horizontal, vertical), slice_of(part, axis, at, horizontal, vertical))
    for w in (0.5, 3.9, 4.1, 7.7, 7.9, 11.3):
        same(_section(part, frame.normal, 40 + w, frame.u, frame.v), slice_of(part, frame.normal, 40 + w, frame.u, frame.v), 1.5)
        same(_section(part, frame.normal, 40 + w, frame.v, frame.u), slice_of(part, frame.normal, 40 + w, frame.v, frame.u), 1.5)


def screwed(face):
    """Two boards, the first screwed to the edge of the second through its one or its other face."""
    d = Draft("d", "ply12", cutter="router")
    d.board("a", "ply12", "facing_side", 0 if face else 200, (0, 150), (0, 120), face="left" if face else "right")
    d.board("b", "ply12", "lying", 50, (T, 200) if face else (0, 200 - T), (0, 150))
    d.joint("screws", "b", "a", size="4", number="2", length="40", countersink=True)
    return build(d.document())


@pytest.mark.parametrize("face", [True, False])
def test_a_countersink_is_cut_through_its_middle(face):
    built = screwed(face)
    part = next(p for p in built.flats.values() if p.flat.sinks)
    sink = part.flat.sinks[0]
    m = np.array(part.matrix)
    at = dict(zip("xyz", (m @ (sink.u, sink.v, 0, 1))[:3], strict=True))
    for axis in ("y", "z"):
        others = [x for x in "xyz" if x != axis]
        for horizontal, vertical in (others, others[::-1]):
            drawn = _section(part, axis, at[axis], horizontal, vertical)
            same(drawn, slice_of(part, axis, at[axis], horizontal, vertical))
        far = sink.diameter / 2 + 1
        for off in (far, -far):
            same(_section(part, axis, at[axis] + off, *others), slice_of(part, axis, at[axis] + off, *others), 1e-3)
