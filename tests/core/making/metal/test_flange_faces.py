"""Faces of flanges that entries name: where they are is read off the bent solid, whatever the edge, the face, the plane and the turn."""

import itertools
import math
from typing import get_args

import numpy as np
import pytest

from tests.core.making.metal.trays import SIDES, entry, flange
from zygon.check.run import check
from zygon.design.examples import example
from zygon.design.upgrade import load
from zygon.geometry.frame import AXES, FACES, Plane, frame_of
from zygon.making.kinds.registry import meshes_of
from zygon.making.pipeline import build

T = 1.5
LENGTHS = {"x": (10.0, 210.0), "y": (-30.0, 90.0), "z": (5.0, 155.0)}


def tray(flanges, plane="lying", probes=None, turns=None, toward_at=0.0, copies=None, groups=None, group="", sizes=None, **folding):
    """A folded part 'tray' in a plane, and the probes as sizes."""
    frame = frame_of(plane)
    spans = {a: {"low": entry(LENGTHS[a][0]), "high": entry(LENGTHS[a][1])} for a in (frame.u, frame.v)}
    return load(
        {
            "schema": 5,
            "name": "t",
            "stocks": {"s": {"name": "steel", "nominal": entry(T), "density": 7.85, "bending": {"rule": "k", "k": 0.42}}},
            "sizes": {**{k: {"name": k, "entry": entry(text)} for k, text in (probes or {}).items()}, **(sizes or {})},
            "parts": {
                "p": {
                    "kind": "folded",
                    "name": "tray",
                    "stock": "s",
                    "plane": plane,
                    "position": {"face": FACES[frame.normal][0], "at": entry(toward_at)},
                    "spans": spans,
                    "folding": {"flanges": flanges, **folding},
                    "turns": turns or {},
                    "group": group,
                }
            },
            "copies": copies or {},
            "groups": groups or {},
        }
    )


def worth(built, size):
    value = built.values[f"/sizes/{size}/entry"]
    assert not value.stale
    return value.value


def solid_of(built, key="p"):
    part = built.made[key]
    points = np.vstack([m.positions for m in meshes_of(part)])
    m = np.array(part.matrix)
    return points @ m[:3, :3].T + m[:3, 3]


WAYS = list(itertools.product(get_args(Plane), range(4), ("a", "b"), ("outside", "inside", "edge")))


@pytest.mark.parametrize(("plane", "side", "toward", "where"), WAYS)
def test_a_flange_s_faces_are_where_the_bent_sheet_has_them(plane, side, toward, where):
    frame = frame_of(plane)
    edge = [*FACES[frame.u], *FACES[frame.v]][side]
    axis, high = next((a, FACES[a].index(edge)) for a in AXES if edge in FACES[a])
    probes = {w: f"tray.wall.{w}" for w in ("inner", "outer", "end")}
    built = build(tray({"wall": flange(edge, 23, toward=toward, where=where)}, plane, probes, toward_at=40.0))
    assert built.faults == ()
    low, high_ = solid_of(built).min(axis=0), solid_of(built).max(axis=0)
    i, n = AXES.index(axis), AXES.index(frame.normal)
    out = high_[i] if high else low[i]
    assert worth(built, "outer") == pytest.approx(out, abs=1e-6)
    assert worth(built, "inner") == pytest.approx(out + (-T if high else T), abs=1e-6)
    up = (toward == "a") == (frame.up > 0)
    assert worth(built, "end") == pytest.approx(high_[n] if up else low[n], abs=1e-6)
    # by hand: the wall stands in the plate's outer size, round it, or beyond its bend
    off = {"outside": 0.0, "inside": T, "edge": T + T}[where]
    assert out == pytest.approx(LENGTHS[axis][high] + (off if high else -off), abs=1e-6)


@pytest.mark.parametrize("side", SIDES)
@pytest.mark.parametrize("kind", ["on_end", "on_low", "on_high", "offset", "profile"])
def test_what_stands_on_a_flange_is_named_too(side, kind):
    """The last leg of a chain: its far edge or its outer face is the utmost of the solid that stands there."""
    more = {
        "on_end": {"lip": flange("end", 12, on="wall")},
        "on_low": {"lip": flange("low", 14, on="wall")},
        "on_high": {"lip": flange("high", 14, on="wall")},
        "offset": {"lip": {**flange("end", 9, kind="offset", on="wall"), "height": entry(6)}},
        "profile": {"lip": {"kind": "profile", "edge": "end", "on": "wall", "legs": [{"length": entry(11)}, {"length": entry(8)}]}},
    }[kind]
    probes = {"face": "tray.lip.outer", "inside": "tray.lip.inner", "edge": "tray.lip.end"}
    built = build(tray({"wall": flange(side, 40), **more}, probes=probes))
    assert built.faults == ()
    points = solid_of(built)
    for probe in probes:
        assert any(np.abs(points[:, i] - worth(built, probe)).min() < 1e-6 for i in range(3))
    assert abs(worth(built, "face") - worth(built, "inside")) == pytest.approx(T, abs=1e-6)
    if kind == "on_end":  # the lip runs back over the plate, its top the wall's end
        assert worth(built, "face") == pytest.approx(40.0)
        axis, low_side = ("x", "left") if side in ("left", "right") else ("y", "front")
        at = LENGTHS[axis][side != low_side]
        assert worth(built, "edge") == pytest.approx(at + (12 if side == low_side else -12))
    if kind in ("on_low", "on_high"):  # it stands across the wall's end
        across = "y" if side in ("left", "right") else "x"
        assert min(abs(worth(built, "face") - x) for x in LENGTHS[across]) < 1e-6


def test_what_names_a_flange_follows_it():
    parts = {"wall": flange("left", 30), "lip": flange("end", 12, on="wall")}
    data = tray(parts, probes={"room": "tray.right - tray.wall.inner", "under": "tray.lip.inner - tray.top"}).dump()
    built = build(load(data))
    assert worth(built, "room") == pytest.approx(200 - T) and worth(built, "under") == pytest.approx(30 - 2 * T)
    folding = data["parts"]["p"]["folding"]
    folding["flanges"]["wall"]["length"] = entry(47.5)
    folding["flanges"]["wall"]["where"] = "edge"
    folding["radius"] = entry(2.25)
    data["stocks"]["s"]["nominal"] = entry(2)
    built = build(load(data))
    assert worth(built, "under") == pytest.approx(47.5 - 4)
    # its bend starts at the edge, so the inner face stands a radius beyond it
    assert worth(built, "room") == pytest.approx(200 + 2.25)


def test_the_room_between_a_wall_and_a_skirt_can_be_an_entry_and_a_size_that_follows():
    data = example("electronics-box").dump()
    data["sizes"]["between"] = {"name": "between", "entry": entry("base.left.outer - lid.left.inner")}
    place = [{"part": p, "what": "face", "name": n} for p, n in (("base", "left.outer"), ("lid", "left.inner"))]
    data["sizes"]["gap"] = {"name": "gap", "entry": entry(0), "measured": {"a": place[0], "b": place[1], "along": "x"}}
    built = build(load(data))
    assert worth(built, "between") == pytest.approx(0.4) and worth(built, "gap") == pytest.approx(0.4)


@pytest.mark.parametrize("angle", [90, 180, 270, 30])
@pytest.mark.parametrize("held", ["alone", "in a group", "in a moved group"])
def test_a_turned_part_s_flanges_are_where_they_stand(angle, held):
    turn = {"t": {"axis": "z", "angle": entry(f"{angle} deg"), "at": {"x": entry(7), "y": entry(3)}}}
    groups = {
        "g": {"name": "rack", "turns": turn if held != "alone" else {}, "move": {"x": entry(100)} if held == "in a moved group" else {}}
    }
    made = tray(
        {"wall": flange("left", 30)},
        probes={"face": "tray.wall.outer", "edge": "tray.wall.end"},
        turns=turn if held == "alone" else {},
        groups=groups if held != "alone" else {},
        group="g" if held != "alone" else "",
    )
    built = build(made)
    assert worth(built, "edge") == pytest.approx(30.0)
    if angle == 30:
        (fault,) = built.faults
        assert fault.code == "broken_expression" and "slopes here" in fault.message
        return
    assert built.faults == ()
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    x = 7 + c * (LENGTHS["x"][0] - 7) - s * 0
    y = 3 + s * (LENGTHS["x"][0] - 7)
    expected = (x + (100 if held == "in a moved group" else 0)) if abs(s) < 0.5 else y
    assert worth(built, "face") == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize("axis", "xyz")
def test_a_mirror_image_s_flanges_are_named_after_those_of_its_original(axis):
    copies = {"m": {"kind": "mirror", "name": "other", "of": ["part:p"], "axis": axis, "at": entry(300), "names": {"p": "yart"}}}
    probes = {"face": "yart.wall.outer", "inside": "yart.wall.inner", "edge": "yart.wall.end"}
    built = build(tray({"wall": flange("left", 30)}, probes=probes, copies=copies))
    assert built.faults == ()
    original = {"face": ("x", 10.0), "inside": ("x", 10.0 + T), "edge": ("z", 30.0)}
    for probe, (along, at) in original.items():
        assert worth(built, probe) == pytest.approx(600 - at if along == axis else at)


SAID = {
    "tray.walls.outer": "tray has no flange walls; it has wall, lip",
    "tray.wall.top": "a flange has no top; it has inner, outer, end",
    "tray.off.outer": "no flange off as it is now",
    "tray.bent.outer": "slopes here",
    "board.wall.outer": "board is not folded, so it has no flange wall",
    "nobody.wall.outer": "no part is called nobody",
}


@pytest.mark.parametrize("text", SAID)
def test_what_is_no_flange_face_is_said(text):
    flanges = {
        "wall": flange("left", 30),
        "lip": flange("end", 12, on="wall"),
        "off": {**flange("right", 30), "out": True},
        "bent": flange("front", 30, angle="60 deg"),
    }
    if text.startswith("tray.walls"):
        flanges = {k: flanges[k] for k in ("wall", "lip")}
    data = tray(flanges, probes={"probe": text}).dump()
    data["parts"]["b"] = {
        **{k: v for k, v in data["parts"]["p"].items() if k not in ("folding", "made", "price")},
        "kind": "board",
        "name": "board",
    }
    (fault,) = [f for f in build(load(data)).faults if f.entry == "/sizes/probe/entry"]
    assert fault.code == "broken_expression" and SAID[text] in fault.message


def test_a_place_along_another_axis_is_refused_with_the_faces_that_would_do():
    data = tray({"wall": flange("left", 30)}).dump()
    data["parts"]["p"]["spans"]["y"]["high"] = entry("tray.wall.outer")
    messages = [f.message for f in build(load(data)).faults]
    assert any("depends on itself" in m for m in messages)
    data = tray({"wall": flange("left", 30)}).dump()
    other = {**{k: v for k, v in data["parts"]["p"].items() if k not in ("folding", "made", "price")}, "kind": "board", "name": "board"}
    other["spans"] = {"x": other["spans"]["x"], "y": {"low": entry(0), "high": entry("tray.wall.outer")}}
    data["parts"]["b"] = other
    (fault,) = [f for f in build(load(data)).faults if f.code == "broken_expression"]
    assert "tray.wall.outer lies along x; a place along y needs front, back or centre" in fault.message


@pytest.mark.parametrize("ring", ["own", "two", "span"])
def test_a_flange_that_hangs_on_itself_is_a_circle_and_told_as_one(ring):
    flanges = {"left": flange("left", 30), "right": flange("right", 30)}
    sizes = {}
    match ring:
        case "own":
            flanges["left"] = flange("left", "20 + tray.left.end - tray.left.end")
        case "two":
            flanges["left"], flanges["right"] = flange("left", "tray.right.end - tray.top"), flange("right", "tray.left.end - tray.top")
        case "span":
            sizes = {"h": {"name": "h", "entry": entry("tray.left.end - tray.bottom")}}
            flanges["left"] = flange("left", "h")
    built = build(tray(flanges, sizes=sizes))
    cycles = [f for f in built.faults if f.code == "cycle"]
    assert len(cycles) == 1 and "tray.left" in cycles[0].message
    check(built)
    assert np.ptp(solid_of(built)[:, 2]) > T


def test_a_flange_may_be_as_long_as_another_one_stands_high():
    built = build(
        tray({"left": flange("left", 33), "right": flange("right", "tray.left.end - tray.bottom")}, probes={"r": "tray.right.end"})
    )
    assert built.faults == () and worth(built, "r") == pytest.approx(33.0)


def test_a_flange_on_a_plate_with_an_outline_of_its_own():
    data = tray({"wall": flange("left", 30)}, probes={"face": "tray.wall.outer"}).dump()
    outer = [[u, v, 0.0] for u, v in ((0, 0), (175, 0), (175, 120), (0, 120))]
    data["parts"]["p"]["spans"]["x"]["low"] = entry(35)
    data["parts"]["p"]["outline"] = {"kind": "drawn", "outer": outer}
    built = build(load(data))
    assert built.faults == ()
    assert worth(built, "face") == pytest.approx(solid_of(built)[:, 0].min()) == pytest.approx(35.0)


def test_a_key_that_is_no_name_is_written_as_one():
    built = build(tray({"back-2": flange("back", 30)}, probes={"face": "tray.back_2.outer"}))
    assert built.faults == () and worth(built, "face") == pytest.approx(90.0)
