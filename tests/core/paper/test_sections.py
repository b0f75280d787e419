"""Sections: what is cut is as large as the solid there, from all sides, and hatched within its outline; what has lost its place waits."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from tests.core.paper.sheets import built_example, pages, seen
from tests.core.paper.test_sheets import over_the_frame, overlapping
from tests.core.shared import edited
from zygon.design.papers import Papers, SectionSaid
from zygon.edits import papers as say
from zygon.geometry.motion import three
from zygon.making.kinds.registry import meshes_of
from zygon.making.pipeline import build
from zygon.paper.ink import Line, Words
from zygon.paper.looks import LOOKS
from zygon.paper.sections import section_asked
from zygon.paper.subjects import subjects

SUBJECT = {"whole": "whole", "front": "part:front"}


def with_section(name: str, subject: str, **said):
    built = built_example(name)
    return edited(built, say.add_section(built.document, subject, SectionSaid(**said)))


def subject_of(built, subject):
    return next(s for s in subjects(built) if s.id == subject)


def areas_cut(built, subject: str) -> dict[str, float]:
    (asked,) = section_asked(built, subject_of(built, subject)).values()
    found: dict[str, float] = {}
    for key, rings in seen(asked).faces:
        found[key] = found.get(key, 0.0) + shapely.Polygon(rings[0], rings[1:]).area
    return found


def sliced(built, view: str, way: str, at: float) -> dict[str, float]:
    """The area that a plane cuts of each part's own mesh, by trimesh."""
    import trimesh

    look = LOOKS[view]
    normal = np.array(look.right if way == "x" else look.up)
    found = {}
    for key, part in built.made.items():
        m, area = np.array(part.matrix), 0.0
        for mesh in meshes_of(part):
            solid = trimesh.Trimesh(mesh.positions @ m[:3, :3].T + m[:3, 3], mesh.triangles, process=True)
            cut = solid.section(plane_origin=normal * at, plane_normal=normal)
            if cut is not None:
                area += cut.to_2D()[0].area
        if area > 0.01:
            found[key] = area
    return found


@pytest.mark.parametrize("flipped", [False, True])
@pytest.mark.parametrize("way", ["x", "y"])
@pytest.mark.parametrize("view", ["front", "left", "top"])
def test_what_is_cut_is_as_large_as_the_meshes_are_there(view, way, flipped):
    built = with_section("brood-box", "whole", view=view, way=way, flipped=flipped)
    own = areas_cut(built, "whole")
    low, high = (
        np.array([p.reaches[0] for p in built.made.values()]).min(axis=0),
        np.array([p.reaches[1] for p in built.made.values()]).max(axis=0),
    )
    k = "xy".index(way)
    a, b = LOOKS[view].seen(three(low)), LOOKS[view].seen(three(high))
    truth = sliced(built, view, way, (a[k] + b[k]) / 2)
    assert set(own) == set(truth)
    for key, area in truth.items():
        assert own[key] == pytest.approx(area, rel=2e-3, abs=0.5), key


@pytest.mark.parametrize(
    ("way", "flipped", "seen_part"), [("x", False, "right"), ("x", True, "left"), ("y", False, "follower"), ("y", True, "cover")]
)
def test_a_section_is_seen_from_the_side_that_is_said(way, flipped, seen_part):
    """An upright cut of the front view looks to the right unless it is flipped, a level one down."""
    built = with_section("brood-box", "whole", view="front", way=way, flipped=flipped)
    (asked,) = section_asked(built, subject_of(built, "whole")).values()
    keys = {s.of for s in seen(asked).strokes}
    opposite = {"right": "left", "left": "right", "follower": "cover", "cover": "floor"}[seen_part]
    assert seen_part in keys and opposite not in keys


def test_a_section_through_a_hand_hold_is_cut_where_it_is_and_follows_it():
    """The board of 240 less the hold's 30, the entrance's 10 and a slot of 5.96, at its 11.8."""
    built = with_section("brood-box", "part:front", through="feature:front:hold/1/centre")
    assert areas_cut(built, "part:front")["front"] == pytest.approx((240 - 30 - 10 - 5.96) * 11.8, rel=1e-3)
    asked = next(iter(section_asked(built, subject_of(built, "part:front")).values()))
    wider = edited(built, [{"op": "replace", "path": "/sizes/width/entry/text", "value": "460 mm"}])
    moved = next(iter(section_asked(wider, subject_of(wider, "part:front")).values()))
    assert (asked.cut, moved.cut) == (-210, -230)
    gone = edited(built, [{"op": "remove", "path": "/parts/front/features/hold"}])
    (page,) = pages(gone, "part:front")
    assert any(f.startswith("Section A waits") for f in page.faults)
    back = edited(gone, say.remove_from_paper(gone.document, "part:front", "section/section"))
    assert not pages(back, "part:front")[0].faults


@pytest.mark.parametrize("name", ["brood-box", "hand-crank", "smoker-hook", "tool-chest"])
@pytest.mark.parametrize("angle", ["first", "third"])
def test_sections_stand_on_their_sheet_with_letters_and_hatching_and_on_nothing_else(name, angle):
    document = built_example(name).document
    built = build(document.model_copy(update={"papers": Papers(angle=angle)}))
    for section in (SectionSaid(), SectionSaid(view="left", way="y")):
        built = edited(built, say.add_section(built.document, "whole", section))
    for page in pages(built, "whole")[:1]:
        texts = [i.text for i in page.drawn if isinstance(i, Words)]
        assert {"Section A–A", "Section B–B"} <= set(texts) and texts.count("A") == texts.count("B") == 2
        assert not overlapping(page) and not over_the_frame(page) and not page.faults
        hatch = [i for i in page.drawn if isinstance(i, Line) and i.pen == "hatch"]
        assert hatch and {i.of for i in hatch} <= set(built.made)


def test_hatching_lies_within_what_is_cut():
    from zygon.paper.hatch import hatched
    from zygon.paper.view import CutFace

    outer, hole = ((0, 0), (60, 0), (60, 40), (0, 40)), ((20, 10), (40, 10), (40, 30), (20, 30))
    whole = shapely.Polygon(outer, [hole])
    for hatch in ("ply", "metal", "plastic", "board"):
        for turn in range(4):
            lines = hatched(CutFace("x", hatch, turn, (outer, hole)), 1.0, lambda p: p)
            assert len(lines) > 10
            for i in lines:
                assert whole.buffer(1e-6).contains(shapely.LineString((i.p, i.q)))
