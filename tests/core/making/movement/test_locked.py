"""Nothing that is found moves what the assembly calls locked: over random racks of boards with rods through them, joints and fits."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from zygon.design.draft import Draft
from zygon.making.assembly.plan import assembly
from zygon.making.movement.report import travel_of
from zygon.making.movement.said import said_of
from zygon.making.pipeline import build

JOINTS = ("tab_slot", "finger", "groove", "dowels")


@st.composite
def racks(draw):
    """Two sides with a floor and shelves between them, perhaps a back, and rods that go through both or end before a cover."""
    d = Draft("rack", "ply12", "ply6", "steel8", cutter="router")
    wide, tall = draw(st.integers(120, 260)), draw(st.integers(120, 240))
    d.board("left", "ply12", "facing_side", 0, (0, 100), (0, tall))
    d.board("right", "ply12", "facing_side", wide, (0, 100), (0, tall), face="right")
    for n in range(draw(st.integers(1, 2))):
        d.board(f"shelf{n}", "ply12", "lying", 20 + 50 * n, ("left.right", "right.left"), (0, 90))
        joint = draw(st.sampled_from(("tab_slot", "groove", "dowels")))
        fit = draw(st.sampled_from(("press", "snug", "slip", "loose")))
        for side in ("left", "right"):
            more = {} if joint == "dowels" else {"fit": fit}
            d.joint(joint, f"shelf{n}", side, held=draw(st.sampled_from(("usual", "dry", "glued"))), **more)
    if draw(st.booleans()):
        d.board("back", "ply6", "facing_front", 100, ("left.left", "right.right"), (0, tall), face="front")
    if draw(st.booleans()):
        ends = draw(
            st.sampled_from(
                [("left.left", "right.right"), ("left.right - 6 mm", "right.right"), ("left.right - 6 mm", "right.left + 6 mm")]
            )
        )
        d.rod("rod", "steel8", "x", ends, y="50 mm", z=f"{tall - 20} mm")
        d.bore("holes", "x", {}, "8 mm", **{s: ("cut", draw(st.sampled_from(("0", "0.2 mm", "-0.05 mm")))) for s in ("left", "right")})
        d.data["bores"]["holes"]["member"] = "rod"
    return d.document()


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(racks())
def test_what_is_locked_does_not_move(document):
    built = build(document)
    if any(f.severity == "error" for f in built.faults):
        return
    said = said_of(built)
    locked = [set(g) for g in assembly(built).locked]
    for m in said.moving.movements:
        if m.kind != "slides":
            continue
        moved = {p.partition("~")[0] for p in said.moving.carried_by(m)}
        rest = {p.partition("~")[0] for p in said.moving.pieces} - moved
        apart = [g for g in locked if g & moved and g & rest]
        if apart:
            travel = travel_of(said, m.key)
            assert travel.high.by - travel.low.by == pytest.approx(0, abs=1.5), (m.key, apart)
