"""Gears: flanks against the involute's formula, two rolled over a whole tooth and a whole turn, and what cannot be one."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.affinity import rotate, translate

from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.geometry.boolean import to_polygon
from zygon.geometry.gear import gear_contour, least_teeth
from zygon.making.pipeline import build


@given(module=st.floats(0.5, 6), teeth=st.integers(17, 90), pressure=st.sampled_from([14.5, 20, 25]), backlash=st.floats(0, 0.3))
@settings(deadline=None, max_examples=60)
def test_flanks_are_the_involute_of_their_base_circle(module, teeth, pressure, backlash):
    a = math.radians(pressure)
    gear = gear_contour(module, teeth, a, backlash, "o")
    pitch = module * teeth / 2
    base = pitch * math.cos(a)
    points = gear.flatten(1e-4)
    radius, turn = np.hypot(points[:, 0], points[:, 1]), np.arctan2(points[:, 1], points[:, 0])
    assert radius.max() == pytest.approx(pitch + module, abs=1e-3) and radius.min() == pytest.approx(pitch - 1.25 * module, abs=1e-3)
    own = (radius > max(base, pitch - 1.25 * module) * 1.0001) & (radius < pitch + module - 1e-3)
    # of the nearest tooth; its flanks lie symmetrically about its middle
    within = np.abs((turn[own] + math.pi / teeth) % (2 * math.pi / teeth) - math.pi / teeth)
    own_angle = np.arccos(base / radius[own])
    wanted = math.pi / (2 * teeth) - backlash / (4 * pitch) + (math.tan(a) - a) - (np.tan(own_angle) - own_angle)
    on_flank = within < math.pi / teeth * 0.98
    assert np.abs((within - wanted) * radius[own])[on_flank].max() < 0.01
    assert to_polygon(gear).is_valid and gear.area > 0 and len(gear.points) % teeth == 0


@pytest.mark.parametrize(
    ("z1", "z2", "module", "pressure", "backlash"),
    [(24, 36, 2, 20, 0.1), (18, 60, 1.5, 20, 0.05), (30, 30, 3, 25, 0.2), (41, 40, 2, 14.5, 0.1)],
)
def test_two_gears_roll_without_overlap_and_with_their_backlash(z1, z2, module, pressure, backlash):
    a = math.radians(pressure)
    one, other = (to_polygon(gear_contour(module, z, a, backlash, "o"), 1e-4) for z in (z1, z2))
    centre = module * (z1 + z2) / 2
    meshed = translate(
        rotate(other, 180 / z2 * (1 - z2 % 2) + 180, origin=(0, 0)) if z2 % 2 == 0 else rotate(other, 180 + 180 / z2 * 0, origin=(0, 0)),
        centre,
        0,
    )
    if z2 % 2:  # a gap of the second faces a tooth of the first
        meshed = translate(rotate(other, 180 / z2 + 180, origin=(0, 0)), centre, 0)
    gaps = []
    # over one tooth in small steps, and over a whole turn of the first in larger ones
    for turn in [*(360 / z1 * k / 24 for k in range(24)), *(360 * k / 40 for k in range(40))]:
        p = rotate(one, turn, origin=(0, 0))
        q = rotate(meshed, -turn * z1 / z2, origin=(centre, 0))
        assert p.intersection(q).area < 1e-9
        gaps.append(p.distance(q))
    # half the backlash along the line of action on each side
    half = backlash * math.cos(a) / 2
    assert half - 0.01 < min(gaps) <= half + 0.002
    # turned by half of the backlash they touch, by a little more they bite
    touch = rotate(one, math.degrees((backlash / 2 + 0.02) / (module * z1 / 2)), origin=(0, 0))
    assert touch.intersection(meshed).area > 0


def test_fewer_teeth_would_be_undercut():
    # 2 / sin² 20° = 17.1: 17, as the trade has it; 12 at 25 and 32 at 14.5 degrees
    assert [least_teeth(math.radians(a)) for a in (20, 25, 14.5)] == [17, 11, 31]


def gear(spans=("52 mm", "52 mm"), plane="lying", **said):
    d = Draft("d", "ply6")
    d.board("g", "ply6", plane, "0 mm", ("0 mm", spans[0]), ("0 mm", spans[1]))
    d.data["parts"]["g"]["outline"] = {
        "kind": "gear",
        "teeth": 24,
        "module": {"text": "2 mm"},
        **{k: v if k == "teeth" else {"text": v} for k, v in said.items()},
    }
    return d


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
def test_a_gear_is_cut_with_its_bore_in_every_plane(plane):
    built = build(gear(plane=plane, bore="8 mm").document())
    assert not built.faults
    flat = built.flats["g"].flat
    assert flat.bounds == pytest.approx((0, 0, 52, 52), abs=0.2)
    (bore,) = flat.inside
    assert bore.as_circle == pytest.approx((26, 26, 4))
    outline = to_polygon(flat.pieces[0].outer)
    assert outline.covers(shapely.Point(26, 26).buffer(21.4)) and len(flat.pieces) == 1


def test_what_is_no_gear_is_said():
    for d, entry in (
        (gear(("60 mm", "52 mm")), "module"),
        (gear(module="0 mm"), "module"),
        (gear(pressure="5 deg"), "pressure"),
        (gear(backlash="5 mm"), "backlash"),
        (gear(bore="60 mm"), "bore"),
        (gear(("28 mm", "28 mm"), teeth=12), "teeth"),
    ):
        built = build(d.document())
        assert [f.entry for f in built.faults] == [f"/parts/g/outline/{entry}"] and built.faults[0].rule
    d = gear(("60 mm", "50 mm"))
    (fault,) = build(d.document()).faults
    mended = build(patched(d.document().dump(), fault.mends[0].patch))
    assert not mended.faults and mended.flats["g"].flat.bounds[2] == pytest.approx(52, abs=0.2)
