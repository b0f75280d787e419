"""Offsets by the brake's offset tool: low steps that two bends cannot make, with the tool's own radius and angle, in one stroke."""

import math

import numpy as np
import pytest
import trimesh

from tests.core.shared import placed_mesh
from zygon.brake.bend_plan import plan_of
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.geometry.boolean import to_polygon
from zygon.making.flats.flat import mesh_of
from zygon.making.metal.legs import LEAST
from zygon.making.pipeline import build

T = 1.01


def stepped(height, edge="right", toward="a", made="tool", **brake):
    d = Draft("d", "galv20")
    d.data["brakes"]["bench"].update(brake)
    d.board("plate", "galv20", "lying", "0", (0, "120 mm"), (0, "90 mm"))
    d.fold("plate")
    d.flange("plate", "step", edge, "25 mm", kind="offset", height=height, toward=toward)
    d.data["parts"]["plate"]["folding"]["flanges"]["step"]["made"] = made
    return d.document()


def faults(document, *codes):
    return [p.fault for p in check(build(document)) if not codes or p.fault.code in codes]


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("height", [0.5 * T, T, 1.5 * T, 1.99 * T, 3 * T])
def test_a_low_step_is_as_high_as_it_was_asked_and_nothing_is_wrong_with_it(edge, toward, height):
    """Measured on the solid: its thickness over all is the sheet's and the step's; its volume the flat's but for K (mid-surface)."""
    document = stepped(f"{height:.6f} mm", edge, toward)
    assert faults(document) == []
    part = build(document).parts["plate"]
    t = part.flat.thickness
    low, high = part.reaches
    assert high[2] - low[2] == pytest.approx(t + height, abs=1e-3)
    (mesh,) = mesh_of(part.flat)
    solid = trimesh.Trimesh(mesh.positions, mesh.triangles)
    assert solid.is_watertight
    area = sum(to_polygon(p.outer).area for p in part.flat.pieces)
    assert abs(solid.volume) == pytest.approx(area * t, rel=2e-2)
    first, second = part.flat.fold.bends
    assert first.radius == second.radius == pytest.approx(0.6) and first.angle == -second.angle
    assert abs(first.angle) <= math.radians(60) + 1e-9
    # as steep as the tool is, or as the height leaves room for with a film of straight sheet between both bends
    takes = (2 * first.radius + t) * (1 - math.cos(first.angle)) + LEAST * math.sin(abs(first.angle))
    assert takes == pytest.approx(height, abs=1e-6) if abs(first.angle) < math.radians(59.99) else takes <= height + 1e-9


def test_it_is_one_stroke_without_a_punch_and_a_die():
    document = stepped("1 mm")
    part = build(document).parts["plate"]
    (step,) = plan_of(document, part, part.flat)
    assert step.offset and step.bends == (0, 1) and not step.collides


def test_two_bends_cannot_make_it_and_the_mend_is_the_tool():
    document = stepped("1 mm", made="bends")
    (fault,) = faults(document, "bad_value")
    mend = next(m for m in fault.mends if m.label == "Make it with the offset tool")
    assert faults(patched(document.dump(), list(mend.patch))) == []


@pytest.mark.parametrize(("height", "brake"), [("9 mm", {}), ("1 mm", {"joggle": 0.0})])
def test_what_the_tool_cannot_make_is_said_with_mends_that_work(height, brake):
    document = stepped(height, **brake)
    (fault,) = faults(document, "offset_tool")
    for mend in fault.mends:
        assert not faults(patched(document.dump(), list(mend.patch)), "offset_tool"), mend.label


def test_the_tool_s_radius_and_angle_are_the_brake_s():
    shallow = build(stepped("4 mm", joggle_radius=1.2, joggle_angle=40.0)).parts["plate"].flat.fold.bends
    assert [round(math.degrees(abs(b.angle)), 6) for b in shallow] == [40, 40] and shallow[0].radius == 1.2
    steep = build(stepped("4 mm")).parts["plate"].flat.fold.bends
    assert math.degrees(steep[0].angle) == pytest.approx(60)
    assert np.isfinite(placed_mesh(build(stepped("0.2 mm")).parts["plate"]).volume)
