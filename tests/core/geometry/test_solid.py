"""Solids with tools taken away: volumes by formula, faces that know whose they are, closed meshes."""

import math

import numpy as np
import pytest
import trimesh

from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, rectangle
from zygon.geometry.mesh import extrude
from zygon.geometry.solid import ROUND, carved, cone, cylinder, frustum, prism

T = 12.0
BODY = extrude(Region(rectangle(0, 0, 100, 60, ("edge:front", "edge:right", "edge:back", "edge:left"))), T)
#: A circle drawn with ROUND chords has this share of the true area.
CHORDS = ROUND / (2 * math.pi) * math.sin(2 * math.pi / ROUND)


def volume_taken(*tools):
    mesh = carved(BODY, list(tools))
    solid = trimesh.Trimesh(mesh.positions, mesh.triangles)
    assert solid.is_watertight and solid.is_winding_consistent
    return 100 * 60 * T - solid.volume


def test_a_pocket_takes_its_area_times_its_depth():
    assert volume_taken(prism([rectangle(10, 10, 40, 30)], T - 5, T + 1, "p")) == pytest.approx(30 * 20 * 5)


def test_a_bore_from_an_edge_takes_a_cylinder():
    assert volume_taken(cylinder((0, 30, 6), (25, 30, 6), 3, "b")) == pytest.approx(25 * math.pi * 9 * CHORDS, rel=1e-6)


@pytest.mark.parametrize("face", ["a", "b"])
def test_a_countersink_takes_a_cone_down_to_the_hole(face):
    hole = prism([circle(50, 30, 2.0)], -1, T + 1, "h", 1e-4)
    sink = cone((50, 30), 4.0, 2.0, 2.0, T, face, "s")
    both = volume_taken(hole, sink)
    frustum_ = math.pi * 2 / 3 * (16 + 8 + 4)
    assert both == pytest.approx(math.pi * 4 * (T - 2) + frustum_, rel=1e-2)


def test_a_sloping_cut_takes_the_prismatoid_between_its_faces():
    low, high = rectangle(20, 10, 40, 40), rectangle(15, 10, 45, 40)
    areas = (20 * 30, 25 * 30, 30 * 30)
    assert volume_taken(frustum(low, high, T, "d")) == pytest.approx(T / 6 * (areas[0] + 4 * areas[1] + areas[2]))


def test_every_face_knows_the_edge_feature_or_joint_that_it_is_of():
    mesh = carved(
        BODY, [prism([rectangle(-0.01, 20, 100.01, 30)], T - 4, T + 1, "joint:g"), cylinder((100, 50, 6), (80, 50, 6), 3, "joint:d")]
    )
    by_owner = {}
    for owner, triangle in zip(mesh.owners, mesh.triangles, strict=True):
        by_owner.setdefault(owner, []).append(mesh.positions[triangle])
    assert set(by_owner) == {"edge:front", "edge:right", "edge:back", "edge:left", "face_a", "face_b", "joint:g", "joint:d"}
    for owner, axis, value in (
        ("edge:left", 0, 0),
        ("edge:right", 0, 100),
        ("edge:front", 1, 0),
        ("edge:back", 1, 60),
        ("face_a", 2, T),
        ("face_b", 2, 0),
    ):
        assert np.allclose(np.array(by_owner[owner])[:, :, axis], value)
    groove = np.array(by_owner["joint:g"]).reshape(-1, 3)
    assert groove[:, 2].min() == pytest.approx(T - 4) and groove[:, 1].min() == pytest.approx(20)


def test_edges_are_inked_at_corners_and_not_along_the_chords_of_a_bore():
    plain = carved(BODY, [prism([rectangle(10, 10, 40, 30)], T - 5, T + 1, "p")])
    assert len(plain.edges) == 12 + 12  # a box, and a box-shaped pocket less nothing
    bored = carved(BODY, [cylinder((0, 30, 6), (25, 30, 6), 3, "b")])
    assert len(bored.edges) == 12 + 2 * ROUND  # its mouth and its bottom


@pytest.mark.parametrize("across", [13, 14, 15, 16])
def test_a_field_of_holes_is_closed_whichever_way_it_is_triangulated(across):
    # 169 and 196 holes by the one way, 225 and 256 by the other
    holes = tuple(circle(10.0 + 6 * i, 10.0 + 6 * j, 2.0, f"hole:{i}").wound(ccw=False) for i in range(across) for j in range(across))
    region = Region(rectangle(0, 0, 120, 110, "edge"), holes)
    mesh = extrude(region, T, 0.001)
    solid = trimesh.Trimesh(mesh.positions, mesh.triangles)
    assert solid.is_watertight and solid.is_winding_consistent
    assert solid.volume == pytest.approx(T * (120 * 110 - across**2 * math.pi * 4), rel=1e-3)
    walls = [f"hole:{i}" for i in range(across)]
    assert set(mesh.owners) == {"face_a", "face_b", "edge", *walls}
