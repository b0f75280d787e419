"""Threads and chamfers at the ends of round bars: what is left, what is said, and where they cannot be."""

import math

import numpy as np
import pytest

from tests.core.making.tube.frames import key, mm, stocked
from zygon.check.run import check
from zygon.exchange.cutlist import cut_list
from zygon.exchange.tubes import write_bender_table, write_saw_list
from zygon.making.flats.exact import volume
from zygon.making.kinds.registry import exact_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.tube.tips import PITCHES, core_of, size_of

BAR, R, LONG = "round bar", 10.0, 300.0

#: Core diameters of external threads, ISO 724 (from memory, to a hundredth).
CORES = {"M6": 4.77, "M8": 6.47, "M10": 8.16, "M12": 9.85, "M16": 13.55, "M20": 16.93}


def entry(text):
    return {"text": str(text), "unit": "mm"}


def worked(section=BAR, bent=False, **ends):
    d = stocked(section)
    points = {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0))} | ({"c": mm((LONG, 0, LONG))} if bent else {})
    d.frame("f", points, {"l": ("a", "b")} | ({"m": ("b", "c")} if bent else {}))
    d.member("rod", key(section), "f", *(("l", "m") if bent else ("l",)), against="y", **({"radius": "60"} if bent else {}))
    d.data["parts"]["rod"]["worked"] = {e: {k: v if k == "thread" else entry(v) for k, v in w.items()} for e, w in ends.items()}
    return d


@pytest.mark.parametrize("thread", CORES)
def test_cores_are_those_of_the_standard(thread):
    assert core_of(thread) == pytest.approx(CORES[thread], abs=0.006)
    assert size_of(thread) == float(thread[1:]) and PITCHES[thread] > 0


@pytest.mark.parametrize("bent", [False, True])
@pytest.mark.parametrize("ends", ["a", "b", "ab"])
@pytest.mark.parametrize(
    ("work", "area"),
    [
        ({"thread": "M16", "long": "40"}, math.pi * (R**2 - (13.54602 / 2) ** 2) * 40),
        ({"chamfer": "2"}, math.pi * 2 * (R**2 - (R**2 + R * (R - 2) + (R - 2) ** 2) / 3)),
    ],
)
def test_an_end_loses_what_its_thread_and_chamfer_take(bent, ends, work, area):
    whole, part = (build(worked(bent=bent, **w).document()).made["rod"] for w in ({}, dict.fromkeys(ends, work)))
    lost = volume(exact_of(whole)) - volume(exact_of(part))
    assert lost == pytest.approx(area * len(ends), rel=1e-3)
    assert volume_of_part(whole) - volume_of_part(part) == pytest.approx(area * len(ends), rel=0.02)
    assert part.body.alike != whole.body.alike


@pytest.mark.parametrize("bent", [False, True])
def test_it_is_the_end_that_is_said(bent):
    """The bar is thinner at that end: told by the ring's reach of the exact solid in its middle."""
    for end in "ab":
        part = build(worked(bent=bent, **{end: {"thread": "M12", "long": "50"}}).document()).made["rod"]
        ((tip, place),) = part.body.tipped()
        at, out = np.array(place.shift), np.array(place.vector((0.0, 0.0, 1.0)))
        start = np.array((0.0, 0.0, 0.0)) if not bent else np.array(part.body.points[0])
        assert (np.linalg.norm(at - start) < 1e-6) == (end == "a")
        assert tip.thread == "M12" and abs(np.linalg.norm(out) - 1) < 1e-9
        # outward: what is a little inward is in the bar
        middle = np.array((0.0, 0.0, LONG / 2)) if not bent else np.array(part.body.points[1])
        assert (middle - at) @ out < 0


def test_pieces_with_the_same_ends_are_one_row_whichever_is_a():
    d = stocked(BAR)
    d.frame(
        "f",
        {k: mm(p) for k, p in {"a": (0, 0, 0), "b": (LONG, 0, 0), "c": (0, 90, 0), "e": (LONG, 90, 0)}.items()},
        {"l": ("a", "b"), "m": ("c", "e")},
    )
    for name, line, end in (("one", "l", "a"), ("other", "m", "b")):
        d.member(name, key(BAR), "f", line)
        d.data["parts"][name]["worked"] = {end: {"thread": "M12", "long": entry(30)}}
    assert [r.quantity for r in cut_list(build(d.document()))] == [2]


def test_lists_say_what_is_done_at_the_ends():
    straight = write_saw_list(build(worked(a={"thread": "M12", "long": "30", "chamfer": "1.5"}).document()))
    assert "M12 × 30; chamfer 1.5" in straight
    assert "M12 × 30" in write_bender_table(build(worked(bent=True, b={"thread": "M12", "long": "30"}).document()))


@pytest.mark.parametrize(
    ("section", "bent", "end", "field"),
    [
        (BAR, False, {"thread": "M24", "long": "30"}, "thread"),
        (BAR, False, {"thread": "M12", "long": "0"}, "long"),
        (BAR, False, {"thread": "M12", "long": "301"}, "long"),
        (BAR, True, {"thread": "M12", "long": "241"}, "long"),
        (BAR, False, {"chamfer": "10"}, "chamfer"),
        (BAR, False, {"chamfer": "-1"}, "chamfer"),
        (BAR, False, {"thread": "M12", "long": "2", "chamfer": "3"}, "chamfer"),
        ("round tube", False, {"thread": "M24", "long": "30"}, "thread"),
        ("round tube", False, {"chamfer": "3"}, "chamfer"),
        ("square tube", False, {"chamfer": "1"}, "thread"),
    ],
)
def test_what_cannot_be_done_is_said_at_its_field(section, bent, end, field):
    built = build(worked(section, bent=bent, a=end).document())
    assert [(f.code, f.entry) for f in built.faults] == [("bad_end", f"/parts/rod/worked/a/{field}")]
    assert built.made["rod"].body.length > 0


def test_a_thread_needs_an_end_that_is_cut_off_square():
    d = worked(a={"thread": "M12", "long": "30"})
    d.data["parts"]["rod"]["end_a"] = "x"
    assert not build(d.document()).faults  # square to x is square here
    d.frame("g", {"a": mm((0, 0, 0)), "c": mm((0, 0, 200))}, {"m": ("a", "c")})
    d.member("post", key(BAR), "g", "m", against="y")
    d.joint("member_mitre", "rod", "post")
    assert "bad_end" in [f.code for f in build(d.document()).faults]


def test_what_a_thread_goes_through_holds_the_rod():
    """A hanger through a shelf: without its thread it drops, with it its nuts hold it."""
    for thread in (True, False):
        d = stocked(BAR)
        d.board("shelf", "ply18", "lying", "300 mm", ("-100 mm", "100 mm"), ("-100 mm", "100 mm"))
        for n, x in enumerate((("-100 mm", "-60 mm"), ("60 mm", "100 mm"))):
            d.block(f"base_{n}", x, ("-100 mm", "100 mm"), ("0", "300 mm"))
        d.frame("f", {"a": mm((0, 0, 150)), "b": mm((0, 0, 340))}, {"l": ("a", "b")})
        d.member("rod", key(BAR), "f", "l", against="y")
        d.bore("hole", "z", {"x": "0", "y": "0"}, "20 mm", shelf=("cut", "0.5 mm"))
        if thread:
            d.data["parts"]["rod"]["worked"] = {"b": {"thread": "M20", "long": entry(60)}}
        assert ("drops" in [p.fault.code for p in check(build(d.document())) if p.fault.part == "rod"]) is not thread
