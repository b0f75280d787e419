"""Bent members joined to others: their ends cut as a straight tube's are, others cut to their runs, at either end, in whatever section."""

import math

import numpy as np
import pytest
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common
from OCP.BRepCheck import BRepCheck_Analyzer

from tests.core.making.tube.frames import key, mm, stocked
from tests.core.making.tube.test_joined import gap, placed, volume
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.edits.frames import join_members
from zygon.exchange.tubes import needs_template, template_file, write_saw_list
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import exact_of, meshes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.tube.bent import BentBody

RADIUS, WIDE, HIGH = 120.0, 500.0, 400.0
BENDS = 2 * RADIUS * math.pi / 2 - 4 * RADIUS


def hoop(section="square tube", main="square tube", *, backward=False, foot=(0.0, 0.0), lean=0.0):
    """An arch of tube on a rail that runs along x below both of its feet; ``foot`` shifts the rail, ``lean`` slopes it."""
    d = stocked(section, main)
    points = {"a": mm((0, 0, 0)), "b": mm((0, 0, HIGH)), "c": mm((WIDE, 0, HIGH)), "e": mm((WIDE, 0, 0))}
    lines = {"l": ("a", "b"), "m": ("b", "c"), "n": ("c", "e")}
    lines = {k: v[::-1] for k, v in lines.items()} if backward else lines
    d.frame("f", points, lines)
    order = ("n", "m", "l") if backward else ("l", "m", "n")
    d.member("arch", key(section), "f", *order, radius=f"{RADIUS} mm", against="y")
    slope = math.tan(math.radians(lean))
    d.frame("g", {"p": mm((-150 + foot[0], foot[1], 150 * slope)), "q": mm((150 + foot[0], foot[1], -150 * slope))}, {"r": ("p", "q")})
    d.member("rail", key(main), "g", "r", against="y" if lean else "z")
    return d


def sound(built):
    for part in built.made.values():
        exact = exact_of(part)
        assert BRepCheck_Analyzer(exact).IsValid()
        assert volume_of_part(part) == pytest.approx(volume(exact), rel=2e-3)
        (mesh,) = meshes_of(part)
        solid = manifold_of(mesh, list(dict.fromkeys(mesh.owners)))
        assert solid.status().name == "NoError" and len(solid.decompose()) == 1


@pytest.mark.parametrize("backward", [False, True])
@pytest.mark.parametrize(
    ("kind", "section", "main", "lean", "foot"),
    [
        ("member_cope", "round tube", "round tube", 0.0, (0, 0)),
        ("member_cope", "thin round tube", "round tube", 20.0, (0, 3.0)),
        ("member_cope", "square tube", "round tube", 0.0, (0, 0)),
        ("member_butt", "square tube", "square tube", 0.0, (0, 0)),
        ("member_butt", "flat", "rectangular tube", 25.0, (0, 0)),
        ("member_mitre", "square tube", "square tube", 0.0, (150, 0)),
    ],
)
def test_its_end_is_cut_as_a_straight_tubes_end_is(kind, section, main, lean, foot, backward):
    if section == "square tube" and main == "round tube":
        section, main = "thin round tube", "square tube"
    d = hoop(section, main, backward=backward, foot=foot, lean=lean)
    d.joint(kind, "arch", "rail")
    built = build(d.document())
    assert not built.faults and not built.joints["arch-rail"].refused
    arch, rail = built.made["arch"], built.made["rail"]
    sound(built)
    assert gap(built, "arch", "rail") < 0.02
    least = min(volume_of_part(arch), volume_of_part(rail))
    assert abs(volume(BRepAlgoAPI_Common(placed(arch), placed(rail)).Shape())) < 1e-4 * least
    assert "overlap" not in [p.fault.code for p in check(built)]
    # the leg alone, straight, is cut the same
    s = stocked(section, main)
    s.frame("f", {"a": mm((0, 0, 0)), "b": mm((0, 0, HIGH - RADIUS))}, {"l": ("b", "a") if backward else ("a", "b")})
    s.member("leg", key(section), "f", "l", against="y")
    s.data["frames"]["g"], s.data["parts"]["rail"] = d.data["frames"]["g"], d.data["parts"]["rail"]
    s.joint(kind, "leg", "rail")
    straight = build(s.document())
    assert not straight.faults
    leg, own = straight.made["leg"], arch.body
    assert isinstance(own, BentBody)
    end = "b" if backward else "a"
    run = own.runs[-1 if backward else 0]
    assert (
        run.saw(end).angle == pytest.approx(leg.body.saw(end).angle) if run.saw(end).angle is not None else leg.body.saw(end).angle is None
    )
    assert run.long == pytest.approx(leg.body.long, abs=1e-6) and run.short == pytest.approx(leg.body.short, abs=1e-6)
    # what the bar is cut to is longer or shorter by as much as the leg is
    assert own.length == pytest.approx(2 * HIGH + WIDE + BENDS + leg.body.long - (HIGH - RADIUS), abs=1e-6)
    assert rail.reaches == straight.made["rail"].reaches


@pytest.mark.parametrize("side", ["left", "right"])
@pytest.mark.parametrize("section", ["round tube", "square tube"])
def test_others_are_cut_to_the_run_that_they_come_to(section, side):
    x, out = (0.0, -1) if side == "left" else (WIDE, 1)
    d = hoop(section, "thin round tube")
    del d.data["parts"]["rail"], d.data["frames"]["g"]
    d.frame("g", {"p": mm((x, 0, 150)), "q": mm((x + 200 * out, 0, 150))}, {"r": ("p", "q")}).member(
        "rail", key("thin round tube"), "g", "r"
    )
    d.joint("member_cope", "rail", "arch")
    built = build(d.document())
    assert not built.faults
    sound(built)
    assert gap(built, "rail", "arch") < 0.02
    # where it meets a bend nothing straight is there to cut it to
    d.data["frames"]["g"]["points"]["p"]["at"]["z"]["text"] = d.data["frames"]["g"]["points"]["q"]["at"]["z"]["text"] = f"{HIGH - 20} mm"
    assert build(d.document()).joints["rail-arch"].refused


def test_what_is_usual_is_found_by_itself_and_lists_and_templates_say_it():
    d = hoop("round tube", "round tube")
    _, patch = join_members(build(d.document()))
    (value,) = (p["value"] for p in patch)
    assert (value["kind"], value["a"], value["b"]) == ("member_cope", "arch", "rail")
    d.joint("member_cope", "arch", "rail")
    built = build(d.document())
    assert "coped onto rail" in write_saw_list(built)
    arch = built.made["arch"]
    assert needs_template(arch) == ["a"]
    name, text = template_file(built, arch, "a", "svg")
    assert "end-a" in name and "<path" in text
    # a bent tube passes through another, and lies on a board
    d = hoop("round bar", "square tube", foot=(0, 0))
    d.data["frames"]["g"]["points"] |= {
        k: {**v, "at": {**v["at"], "z": {"text": "120 mm"}}} for k, v in d.data["frames"]["g"]["points"].items()
    }
    d.joint("member_passage", "arch", "rail")
    built = build(d.document())
    assert not built.faults and len(built.made["rail"].body.holes) == 1
    assert gap(built, "arch", "rail") == pytest.approx(0.2, abs=0.03)
    d = hoop("round tube", "square tube")
    del d.data["parts"]["rail"], d.data["frames"]["g"]
    d.board("floor", "ply18", "lying", "5 mm", ("-90 mm", "90 mm"), ("-90 mm", "90 mm"), face="top")
    d.joint("member_on_board", "arch", "floor")
    built = build(d.document())
    assert not built.faults and built.made["arch"].body.length == pytest.approx(2 * HIGH + WIDE + BENDS - 5)
    m = np.array(built.made["arch"].matrix)
    z = (meshes_of(built.made["arch"])[0].positions @ m[:3, :3].T + m[:3, 3])[:, 2]
    assert z.min() == pytest.approx(0, abs=1e-6)  # the other foot stands where it stood


def test_its_own_end_is_cut_in_a_plane_of_the_room():
    d = stocked("square tube")
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((100, 0, HIGH)), "c": mm((600, 0, HIGH))}, {"l": ("a", "b"), "m": ("b", "c")})
    d.member("leg", key("square tube"), "f", "l", "m", radius="120 mm", against="y", end_a="z")
    built = build(d.document())
    assert not built.faults
    sound(built)
    part = built.made["leg"]
    assert part.body.saw("a").angle == pytest.approx(math.atan2(100, HIGH))
    m = np.array(part.matrix)
    z = (meshes_of(part)[0].positions @ m[:3, :3].T + m[:3, 3])[:, 2]
    assert z.min() == pytest.approx(0, abs=1e-6) and (np.abs(z) < 1e-6).sum() >= 4


@pytest.mark.parametrize("axis", "xy")
def test_mirrored_copies_of_what_is_cut_and_drilled_are_its_mirror_images(axis):
    d = hoop("thin round tube", "round tube", foot=(0, 4.0), lean=15.0)
    d.joint("member_cope", "arch", "rail")
    d.data["parts"]["arch"]["holes"] = {
        "h": {"off": {"text": "90 mm"}, "wide": {"text": "9 mm"}, "walls": "one", "around": {"text": "35 deg"}}
    }
    d.mirror("m", axis, "700 mm", "part:arch", "part:rail", name="m")
    built = build(d.document())
    assert not built.faults
    arch = [p for k, p in built.made.items() if k.startswith("arch")]
    k = "xy".index(axis)

    def reach(part, sign):
        m = np.array(part.matrix)
        (mesh,) = meshes_of(part)
        points = mesh.positions @ m[:3, :3].T + m[:3, 3]
        points[:, k] = 700 + sign * (points[:, k] - 700)
        owned = np.unique(mesh.triangles[[o.startswith("hole") for o in mesh.owners]])
        return np.concatenate((points.min(axis=0), points.max(axis=0), points[owned].mean(axis=0)))

    assert reach(arch[0], -1) == pytest.approx(reach(arch[1], 1), abs=0.05)
    assert arch[0].body.alike != arch[1].body.alike and arch[0].body.other_hand == arch[1].body.alike


@pytest.mark.parametrize("backward", [False, True])
def test_an_end_that_meets_another_and_is_not_joined_is_said_of_bent_ones_too(backward):
    d = hoop("round tube", "round tube", backward=backward)
    (problem,) = [p for p in check(build(d.document())) if p.fault.code == "open_end"]
    assert f"End {'B' if backward else 'A'} of arch meets rail" in problem.fault.message
    mended = build(patched(d.document().dump(), list(problem.fault.mends[0].patch)))
    assert not mended.faults and "open_end" not in [p.fault.code for p in check(mended)]
    # nothing is said of a rail that passes where the arch is bent, nor of one clear of it
    for place in (mm((60, 0, HIGH - 60)), mm((200, 0, 100))):
        d.data["frames"]["g"]["points"] = {
            k: {**v, "at": dict(zip("xyz", ({"text": t} for t in place), strict=True))} for k, v in d.data["frames"]["g"]["points"].items()
        }
        d.data["frames"]["g"]["points"]["q"]["at"]["y"] = {"text": "200 mm"}
        assert not {"open_end", "ends_short"} & {p.fault.code for p in check(build(d.document()))}


@pytest.mark.parametrize(("end", "off", "near"), [("a", 5, True), ("b", 5, True), ("a", 60, False), ("b", 275, False)])
def test_holes_near_the_ends_of_a_bent_one_are_said_and_near_its_bends_not(end, off, near):
    d = hoop("round tube", "round tube", foot=(0, 400))
    d.data["parts"]["arch"]["holes"] = {"h": {"end": end, "off": {"text": f"{off} mm"}, "wide": {"text": "9 mm"}}}
    built = build(d.document())
    assert not built.faults and ("hole_near_end" in [p.fault.code for p in check(built)]) is near
