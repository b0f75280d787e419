"""Wherever two bends touch there is a relief or a problem, and a part without a problem has a closed, valid exact solid."""

import itertools
import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.metal.test_kinds import profile
from tests.core.making.metal.trays import SIDES, entry, flange, folded, part_of
from tests.explore import EXPLORE, drawn
from zygon.check.bends import bend_faults
from zygon.check.run import check
from zygon.errors import ZygonError
from zygon.geometry.boolean import region_polygon
from zygon.making.flats.exact import is_sound, solid_of, volume
from zygon.making.flats.layers import volume_of
from zygon.making.metal.zones import grown_together, zones_of


def sound(part):
    """Whether Open CASCADE finds the solid closed and valid, and as large as the mesh."""
    try:
        body = solid_of(part.flat)
    except ZygonError:
        return False
    return is_sound(body) and abs(volume(body) - volume_of(part.flat)) < 5e-3 * volume_of(part.flat)


@st.composite
def extents(draw):
    kind = draw(st.sampled_from(["whole", "whole", "inset", "centred", "between"]))
    first, second = {
        "whole": (0, 0),
        "inset": (draw(st.sampled_from([0, 3, 9])), draw(st.sampled_from([0, 2, 8]))),
        "centred": (draw(st.sampled_from([8, 14])), draw(st.sampled_from([0, 2]))),
        "between": (draw(st.sampled_from([0, 4])), draw(st.sampled_from([10, 14]))),
    }[kind]
    return {"extent": kind, "first": first, "second": second} if kind != "whole" else {}


@st.composite
def anything(draw):
    """Flanges, hems, offsets, profiles and late bends on every edge of the plate and of one another, of any extent and with any relief."""
    flanges, n = {}, 0
    for side in draw(st.lists(st.sampled_from(SIDES), unique=True, min_size=1, max_size=4)):
        on, edge = "", side
        for level in range(draw(st.integers(1, 3))):
            key = f"{side}{level}"
            kind = draw(st.sampled_from(["flange", "flange", "flange", "offset", "hem", "profile", "line"]))
            more = {"on": on, "order": n, "toward": draw(st.sampled_from("ab")), **draw(extents())}
            more["relief"] = {"style": draw(st.sampled_from(["rectangular", "round", "tear", "none"]))}
            n += 1
            if kind == "offset":
                flanges[key] = flange(edge, 20, kind="offset", height=draw(st.sampled_from([6, 9])), radius=1, **more)
            elif kind == "hem":
                flanges[key] = flange(edge, 10, kind="hem", gap=0.5, **more)
            elif kind == "profile":
                flanges[key] = profile(edge, (20, 90), (15, draw(st.sampled_from([60, -60]))), **more)
            elif kind == "line" and not on:
                flanges[key] = {"kind": "line", "edge": edge, "at": entry(draw(st.sampled_from([12, 30]))), "order": n}
            else:
                angle = draw(st.sampled_from([90, 90, 30, 120]))
                where = draw(st.sampled_from(["outside", "inside", "edge"]))
                flanges[key] = flange(
                    edge, draw(st.sampled_from([18, 30])), angle=f"{angle} deg", radius=draw(st.sampled_from([1, 3])), where=where, **more
                )
            if kind == "hem":
                break
            on, edge = key, draw(st.sampled_from(["end", "low", "high"]))
    return flanges


@settings(max_examples=drawn(12))
@given(anything(), st.sampled_from(["closed", "open", "a_covers"]), st.sampled_from(["none", "round", "square"]), st.booleans())
def test_a_part_without_a_problem_has_a_closed_valid_solid(flanges, corner, crossing, rounded):
    more = {"rounding": 2} if rounded else {}
    built = folded(flanges, corner=corner, gap=0.3, crossing=crossing, **more)
    part = built.parts["p"]
    if not part.flat.fold:
        return
    said = [f.code for f in (*built.faults, *bend_faults(built.document, part)) if f.severity == "error"]
    if len(part.flat.pieces) != 1:
        said.append("pieces")
    if not sound(part):
        assert said, "an unsound solid without a word"
    if grown_together(zones_of(part.flat.pieces, part.flat.fold), part.flat.fold):
        assert {"no_relief", "flat_overlaps"} & set(said)


# each place and each relief on half of the walls' ends; all of them where there is time
WAYS = [
    way
    for way in itertools.product(["low", "high"], SIDES, ["outside", "inside", "edge"], ["rectangular", "round", "tear", "none"])
    if EXPLORE or (way[0] == "low") == ((SIDES.index(way[1]) // 2 + len(way[2]) + len(way[3])) % 2 == 0)
]


@pytest.mark.parametrize(("side", "wall", "where", "style"), WAYS)
def test_a_flange_on_the_side_of_a_wall_stands_off_the_walls_bend(side, wall, where, style):
    built = folded({"wall": flange(wall, 30), "side": flange(side, 12, on="wall", where=where, relief={"style": style}, order=1)})
    part = built.parts["p"]
    codes = {p.fault.code for p in check(built) if p.fault.severity == "error"}
    if style == "none" and where != "edge":
        (problem,) = [p.fault for p in check(built) if p.fault.code == "no_relief"]
        assert "the bend of side" in problem.message and "the bend of wall" in problem.message
        (mend,) = problem.mends
        assert mend.patch == [{"op": "add", "path": "/parts/p/folding/flanges/side/relief/style", "value": "rectangular"}]
        return
    assert sound(part) and "no_relief" not in codes
    gap = {"rectangular": 1.0, "round": 1.0, "tear": 0.05}.get(style, 0.0) if where != "edge" else 0.0
    lengths = {b.key: math.dist(b.start, b.end) for b in part.flat.fold.bends}
    face = 30 - 2.0  # from the outer sharp to the end of the bend: a radius of a thickness
    assert lengths["side"] == pytest.approx(face - gap)


def test_a_bend_that_crosses_a_late_one_is_said():
    """The late bend's line runs through the flange on the side of the plate."""
    late = {"kind": "line", "edge": "right", "at": entry(60), "order": 0}
    built = folded({"late": late, "front": flange("front", 20, order=1)})
    part = built.parts["p"]
    assert not sound(part)
    assert {"no_relief", "flat_overlaps"} & {p.fault.code for p in check(built)}


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize("shape", ["round", "chamfer"])
def test_rounded_corners_leave_a_late_bends_line_alone(edge, shape):
    """Four corners of the sheet are rounded, and nothing is bitten out at the ends of the bend."""
    late = {"kind": "line", "edge": edge, "at": entry(40)}
    bare, rounded = (part_of(folded({"late": late}, corner_shape=shape, **more)) for more in ({}, {"rounding": 6}))
    lost = bare.flat.area - rounded.flat.area
    assert lost == pytest.approx(4 * 36 * ((1 - math.pi / 4) if shape == "round" else 0.5))
    assert sound(rounded)


@pytest.mark.parametrize("crossing", ["round", "square"])
@pytest.mark.parametrize("size", [None, 3.5])
def test_bends_that_meet_in_a_corner_have_the_relief_that_was_chosen(crossing, size):
    walls = {s: flange(s, order=i) for i, s in enumerate(SIDES)}
    more = {} if size is None else {"crossing_size": size}
    plain, part = part_of(folded(walls)), part_of(folded(walls, crossing=crossing, **more))
    d = size or 2.0
    # seen from the crossing of both bends, a quarter lies in the open corner of the flat
    whole = math.pi * d * d / 4 if crossing == "round" else d * d
    lost = (plain.flat.area - part.flat.area) / 4
    assert whole * 0.7 < lost < whole
    assert sound(part)


@pytest.mark.parametrize("wall", SIDES)
@pytest.mark.parametrize("side", ["low", "high"])
def test_where_two_bends_are_grown_together_is_the_middle_of_what_they_share(wall, side):
    built = folded({"wall": flange(wall, 30), "side": flange(side, 12, on="wall", relief={"style": "none"}, order=1)})
    part = built.parts["p"]
    (problem,) = [p.fault for p in check(built) if p.fault.code == "no_relief"]
    bends = {b.key: b for b in part.flat.fold.bends}
    # the wall's bend ends at the plate's corner, the side's begins on the wall; both touch in the corner between them
    shared = shapely.intersection(*(shapely.Polygon(bends[k].outline.flatten(0.01)).exterior.buffer(1e-4) for k in ("wall", "side")))
    assert not shared.is_empty and shapely.Point(problem.at).distance(shapely.centroid(shared)) < 0.01


@pytest.mark.parametrize(("corner", "angle"), [("closed", 105), ("closed", 70), ("open", 105)])
def test_a_lip_over_a_part_of_a_slanting_wall_is_the_same_on_every_wall_and_end(corner, angle):
    """Walls that lean in are narrower above: a lip that runs to one of their ends takes the same from each of them."""
    areas = []
    for edge, end in itertools.product(SIDES, [("0", "30"), ("30", "0")]):
        walls = {s: flange(s, 30, angle=f"{angle} deg", order=n) for n, s in enumerate(SIDES)}
        lip = flange("end", 14, on=edge, where="inside", radius=3, extent="inset", first=end[0], second=end[1], order=4)
        built = folded({**walls, "lip": lip}, width=200, depth=200, thickness=2, corner=corner, gap=0.3)
        assert not built.faults and len(built.flats["p"].flat.pieces) == 1
        areas.append(region_polygon(built.flats["p"].flat.pieces[0]).area)
    assert areas == pytest.approx([areas[0]] * 8, abs=1e-6)
