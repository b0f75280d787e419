"""Every choice of an end, a side or a way lies where its words say: over all edges, both faces, both hands, and every angle."""

import math

import numpy as np
import pytest
import shapely

from tests.core.making.joints.pairs import pair, solid, stocked
from tests.core.making.metal.trays import SIDES, flange, folded, part_of
from zygon.design.draft import Draft
from zygon.geometry.boolean import region_polygon
from zygon.geometry.frame import AXES, FACES
from zygon.making.flats.face_words import bend_words
from zygon.making.pipeline import build
from zygon.making.result.fold import face_motions

OPPOSITE = {a: b for pair_ in FACES.values() for a, b in (pair_, pair_[::-1])}


def toward(word):
    """The unit vector of the room that a face word looks along."""
    axis = next(a for a, pair_ in FACES.items() if word in pair_)
    way = np.zeros(3)
    way[AXES.index(axis)] = 1.0 if FACES[axis][1] == word else -1.0
    return way


def removed_middle(part):
    """The middle in the room of what was taken off a part's blank: cut through, or worked into a face."""
    frame, box, flat = part.frame, part.span_box, part.flat
    (u0, u1), (v0, v1) = box.span(frame.u), box.span(frame.v)
    blank = shapely.box(0, 0, u1 - u0, v1 - v0)
    gone, w = shapely.difference(blank, shapely.union_all([region_polygon(p) for p in flat.pieces])), flat.thickness / 2
    if flat.pockets:
        (pocket,) = flat.pockets
        gone = shapely.intersection(blank, region_polygon(pocket.region))
        w = flat.thickness - pocket.depth / 2 if pocket.face == "a" else pocket.depth / 2
    return (np.array(part.matrix) @ np.array((gone.centroid.x, gone.centroid.y, w, 1.0)))[:3]


# -- crossings -------------------------------------------------------------------------------------------------------


def crossing(angle, side, plane="facing_side", flipped=False):
    d = Draft("d", "ply12")
    s = stocked(d, "s", 12.0)
    other = {"facing_side": "facing_front", "facing_front": "facing_side"}[plane]
    d.board("a", s, plane, "144 mm", ("0", "300 mm"), ("0", "80 mm"))
    d.board("b", s, other, "144 mm", ("0", "300 mm"), ("0", "80 mm"))
    if angle:
        d.turn("b" if not flipped else "a", "z", f"{angle} deg", x="150 mm", y="150 mm")
    d.joint("cross_lap", "a", "b", side=side, share="0.4")
    return build(d.document())


@pytest.mark.parametrize("side", ["low", "high"])
@pytest.mark.parametrize("plane", ["facing_side", "facing_front"])
@pytest.mark.parametrize("angle", [-75, -60, -45, -30, -15, 0, 15, 30, 45, 60, 75])
@pytest.mark.parametrize("flipped", [False, True])
def test_a_crossing_is_notched_from_the_side_that_its_card_names(angle, plane, side, flipped):
    built = crossing(angle, side, plane, flipped)
    assert not built.faults, [f.message for f in built.faults]
    joint = built.joints["a-b"]
    word = joint.ends[0 if side == "low" else 1]
    assert word == ("bottom" if side == "low" else "top")
    middle, other = removed_middle(built.parts["a"]), removed_middle(built.parts["b"])
    own = np.array([150, 150, 40])
    assert (middle - own) @ toward(word) > 5
    assert (other - own) @ toward(word) < -5
    assert joint.details["notch_a"] == pytest.approx(32)


@pytest.mark.parametrize("side", ["low", "high"])
@pytest.mark.parametrize("angle", [-90, 90, -45, 45, 60, 120, 135])
@pytest.mark.parametrize("axis", ["x", "y"])
def test_a_crossing_that_does_not_stand_upright_is_notched_from_the_side_that_its_card_names(axis, angle, side):
    """Two boards that lie, one turned up about a level line: 90 degrees is no square meeting, since its frame is turned."""
    d = Draft("d", "ply12")
    s = stocked(d, "s", 12.0)
    d.board("a", s, "lying", "0", ("-150 mm", "150 mm"), ("-150 mm", "150 mm"))
    long, short = ("-60 mm", "90 mm"), ("-150 mm", "150 mm")
    d.board("b", s, "lying", "-6 mm", short if axis == "x" else long, long if axis == "x" else short)
    d.turn("b", axis, f"{angle} deg", **{x: "0" for x in "xyz" if x != axis})
    d.joint("cross_lap", "a", "b", side=side)
    built = build(d.document())
    assert not built.faults, [f.message for f in built.faults]
    joint = built.joints["a-b"]
    assert joint.ends == FACES[axis]
    word = joint.ends[0 if side == "low" else 1]
    assert removed_middle(built.parts["a"]) @ toward(word) > 20
    inner = np.array(built.parts["b"].place.vector(toward(word)))
    assert removed_middle(built.parts["b"]) @ inner < -20


@pytest.mark.parametrize("keeps", ["low", "high"])
@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
@pytest.mark.parametrize("angle", [0, 30, 60, 120, 150, -45])
def test_a_half_lap_keeps_the_side_that_its_card_names(plane, angle, keeps):
    d = Draft("d", "ply12")
    s = stocked(d, "s", 12.0)
    axis = {"lying": "z", "facing_front": "y", "facing_side": "x"}[plane]
    d.board("a", s, plane, "0", ("-150 mm", "150 mm"), ("-20 mm", "20 mm"))
    d.board("b", s, plane, "0", ("-20 mm", "20 mm"), ("-150 mm", "150 mm"))
    if angle:
        d.turn("b", axis, f"{angle - 90} deg", **{x: "0" for x in "xyz" if x != axis})
    d.joint("half_lap", "a", "b", keeps=keeps, share="0.25")
    built = build(d.document())
    assert not built.faults, [f.message for f in built.faults]
    word = built.joints["a-b"].sides[0 if keeps == "low" else 1]
    assert word == FACES[axis][0 if keeps == "low" else 1]
    middle = np.array(built.parts["a"].place.point([0, 0, 0])) + np.eye(3)[AXES.index(axis)] * 6
    assert (removed_middle(built.parts["a"]) - middle) @ toward(word) == pytest.approx(-4.5, abs=0.01)
    assert (removed_middle(built.parts["b"]) - middle) @ toward(word) == pytest.approx(1.5, abs=0.01)


# -- tabs listed, and ends that stop ----------------------------------------------------------------------------------


@pytest.mark.parametrize("angle", [-40, -20, 0, 20, 40])
@pytest.mark.parametrize("plane", ["facing_front", "facing_side"])
def test_listed_tabs_are_counted_from_the_low_end_at_every_angle(plane, angle):
    d = Draft("d", "ply12")
    s = stocked(d, "s", 12.0)
    axis = "x" if plane == "facing_front" else "y"
    d.board("b", s, "lying", "0", ("-200 mm", "200 mm"), ("-200 mm", "200 mm"))
    d.board("a", s, plane, "-6 mm", ("-100 mm", "100 mm"), ("b.top", "150 mm"))
    d.joint("tab_slot", "a", "b", tabs={"t": {"at": d.entry("50 mm"), "length": d.entry("40 mm")}})
    if angle:
        d.turn("a", axis, f"{angle} deg", **{x: "12 mm" if x == "z" else "0" for x in "xyz" if x != axis})
    built = build(d.document())
    assert not built.faults, [f.message for f in built.faults]
    assert built.joints["a-b"].ends == FACES[axis]
    assert len(built.parts["b"].flat.inside) == 1
    x0, y0, x1, y1 = built.parts["b"].flat.inside[0].bounds
    middle = (x0 + x1) / 2 if axis == "x" else (y0 + y1) / 2
    assert middle - 200 == pytest.approx(-50, abs=0.01)


@pytest.mark.parametrize("kind", ["rebate", "groove"])
@pytest.mark.parametrize("ends", ["open_low", "open_high", "stopped"])
@pytest.mark.parametrize(("low", "high"), [(0, 0), (-17, 23), (12, -9), (-17, -9)])
def test_a_stop_is_measured_from_the_end_that_its_entry_names(kind, ends, low, high):
    """A rebate's from the end of the board that it is cut in, a groove's from the panel's: whatever the other board does."""
    run = 120
    draft = pair(kind, 12, 15, run, ends=ends, stop="30 mm", fit="0")
    span = draft.data["parts"]["b"]["spans"]["z"]
    span["low"], span["high"] = draft.entry(f"{low} mm"), draft.entry(f"{run + high} mm")
    built = build(draft.document())
    assert not built.faults, [f.message for f in built.faults]
    part = built.parts["b"]
    (pocket,) = part.flat.pockets
    _, v0, _, v1 = pocket.contour.bounds
    start, end = v0 + low, v1 + low  # along the run, in the room
    own = (low, run + high) if kind == "rebate" else (0, run)
    if ends in ("stopped", "open_high"):
        assert start == pytest.approx(own[0] + 30)
    else:
        assert start < low
    if ends in ("stopped", "open_low"):
        assert end == pytest.approx(own[1] - 30)
    else:
        assert end > run + high
    overlap = solid(built.parts["a"]) ^ solid(part)
    assert overlap.volume() < 1e-3


@pytest.mark.parametrize("ends", ["open_low", "open_high", "stopped"])
@pytest.mark.parametrize("beyond", [0, 20])
def test_a_rebate_that_stops_without_a_measure_stops_where_the_other_board_ends(ends, beyond):
    draft = pair("rebate", 12, 15, 120, ends=ends, fit="0")
    span = draft.data["parts"]["b"]["spans"]["z"]
    span["low"], span["high"] = draft.entry(f"-{beyond} mm"), draft.entry(f"{120 + beyond} mm")
    (pocket,) = build(draft.document()).parts["b"].flat.pockets
    _, v0, _, v1 = pocket.contour.bounds
    assert (v0 > beyond - 0.1) == bool(beyond and ends != "open_low") or not beyond
    assert (v1 < 120 + beyond + 0.1) == (ends != "open_high") or not beyond


@pytest.mark.parametrize("fit", [-0.2, 0.0, 0.5])
@pytest.mark.parametrize("ends", ["open_low", "open_high", "stopped"])
def test_half_of_a_rebate_s_fit_lies_at_each_end_that_stops(ends, fit):
    built = build(pair("rebate", 12, 15, 120, ends=ends, stop="30 mm", fit=f"{fit} mm").document())
    (pocket,) = built.parts["b"].flat.pockets
    _, v0, _, v1 = pocket.contour.bounds
    if ends != "open_low":
        assert v0 == pytest.approx(30 - fit / 2)
    if ends != "open_high":
        assert v1 == pytest.approx(90 + fit / 2)


@pytest.mark.parametrize("over", [-0.1, 0.1])
def test_a_rebate_that_stops_before_it_begins_is_refused(over):
    built = build(pair("rebate", 12, 15, 120, ends="stopped", stop=f"{60 + over} mm", fit="0").document())
    assert bool(built.faults) == (over > 0)
    assert bool(built.parts["b"].flat.pockets) == (over < 0)
    if over > 0:
        (fault,) = built.faults
        assert fault.entry.endswith("/stop") and fault.rule == "at least 0, and less than the length"


# -- flanges ---------------------------------------------------------------------------------------------------------

PLANES = ["lying", "facing_front", "facing_side"]


def plate(plane):
    d = Draft("d", "galv20")
    d.board("p", "galv20", plane, "0", ("0", "200 mm"), ("0", "120 mm"), up="a")
    d.fold("p", corner="open")
    return d


def edges_of(plane):
    u, v = {"lying": ("x", "y"), "facing_front": ("x", "z"), "facing_side": ("y", "z")}[plane]
    return [*FACES[u], *FACES[v]]


def leg_in_room(part, key):
    """Both ends of a leg's bend line in the room."""
    fold = part.flat.fold
    bend = next(b for b in fold.bends if b.key == key)
    motion = face_motions(fold)[bend.parent]
    m = np.array(part.matrix)
    return [(m @ np.array((*motion.point((*p, 0.0)), 1.0)))[:3] for p in (bend.start, bend.end)]


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("toward_face", ["a", "b"])
@pytest.mark.parametrize("extent", ["inset", "between", "centred"])
def test_a_flange_begins_at_the_end_that_its_card_names(plane, toward_face, extent):
    for edge in edges_of(plane):
        d = plate(plane)
        first, second = {"inset": ("25 mm", "60 mm"), "between": ("25 mm", "40 mm"), "centred": ("30 mm", "12 mm")}[extent]
        d.flange("p", "f", edge, "20 mm", toward=toward_face, extent=extent, first=first, second=second)
        built = build(d.document())
        assert not built.faults, [f.message for f in built.faults]
        part = built.parts["p"]
        low_word, high_word = bend_words(part)["f"]
        assert OPPOSITE[low_word] == high_word
        p, q = leg_in_room(part, "f")
        box = part.span_box
        ends = {FACES[a][k]: (box.low, box.high)[k][i] for i, a in enumerate(AXES) for k in (0, 1)}
        i = AXES.index(next(a for a, pair_ in FACES.items() if low_word in pair_))
        start, stop = abs(p[i] - ends[low_word]), abs(q[i] - ends[high_word])
        length = abs(ends[high_word] - ends[low_word])
        if extent == "inset":
            assert (start, stop) == (pytest.approx(25), pytest.approx(60))
        elif extent == "between":
            assert (start, length - stop) == (pytest.approx(25), pytest.approx(40))
        else:
            assert ((start + length - stop) / 2 - length / 2, length - stop - start) == (pytest.approx(12), pytest.approx(30))


@pytest.mark.parametrize("way", ["u", "v"])
@pytest.mark.parametrize("toward_face", ["a", "b"])
@pytest.mark.parametrize("edge", SIDES)
def test_a_mirrored_flange_stands_where_the_mirror_puts_it(edge, toward_face, way):
    built = folded({"f": flange(edge, toward=toward_face, extent="between", first=12, second=40, mirrored=way)}, corner="open")
    part = part_of(built)
    own, image = leg_in_room(part, "f"), leg_in_room(part, "f~")
    k, middle = (0, 100.0) if way == "u" else (1, 60.0)
    for p in own:
        mirror = p.copy()
        mirror[k] = 2 * middle - p[k]
        assert min(np.linalg.norm(mirror - q) for q in image) < 1e-6


@pytest.mark.parametrize("way", ["u", "v"])
@pytest.mark.parametrize("edge", SIDES)
def test_a_mirrored_tab_stands_on_the_wall_across(edge, way):
    """On a wall that the mirror takes to another one, the image stands on that one; on a wall that it takes to itself, on the same."""
    walls = {s: flange(s, order=i) for i, s in enumerate(SIDES)}
    tab = flange("end", 10, on=edge, extent="between", first=12, second=40, toward="b", mirrored=way, order=9)
    part = part_of(folded({**walls, "tab": tab}, corner="open"))
    own, image = leg_in_room(part, "tab"), leg_in_room(part, "tab~")
    k, middle = (0, 100.0) if way == "u" else (1, 60.0)
    for p in own:
        mirror = p.copy()
        mirror[k] = 2 * middle - p[k]
        assert min(np.linalg.norm(mirror - q) for q in image) < 1e-6


@pytest.mark.parametrize("edge", ["left", "right"])
def test_an_image_with_nothing_to_stand_on_is_said(edge):
    built = folded({edge: flange(edge), "tab": flange("end", 10, on=edge, extent="between", first=12, second=40, mirrored="u", order=9)})
    (fault,) = [f for f in built.faults if f.code == "no_mirror"]
    assert OPPOSITE[edge] in fault.message and fault.entry.endswith("/tab/mirrored")
    assert not [b for b in built.parts["p"].flat.fold.bends if b.key == "tab~"]


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize("origin", ["low", "high"])
def test_a_flanges_hole_lies_at_the_end_that_its_card_names(edge, origin):
    hole = {
        "kind": "hole",
        "u": {"origin": origin, "offset": {"text": "17 mm", "unit": "mm"}},
        "v": {"origin": "root", "offset": {"text": "12 mm", "unit": "mm"}},
        "diameter": {"text": "6 mm", "unit": "mm"},
    }
    part = part_of(folded({"f": flange(edge, features={"h": hole})}))
    word = bend_words(part)["f"][0 if origin == "low" else 1]
    (contour,) = part.flat.inside
    u, v, _ = contour.as_circle
    at = np.array(part.matrix) @ np.array((*face_motions(part.flat.fold)[1].point((u, v, 0.0)), 1.0))
    i = AXES.index(next(a for a, pair_ in FACES.items() if word in pair_))
    end = (part.span_box.low, part.span_box.high)[FACES[AXES[i]].index(word)][i]
    assert abs(at[i] - end) == pytest.approx(17)


def test_the_words_of_a_bend_turn_with_its_wall():
    walls = {s: flange(s, order=i) for i, s in enumerate(SIDES)}
    side = flange("low", 12, on="front", order=9)
    part = part_of(folded({**walls, "side": side}, corner="open"))
    words = bend_words(part)
    assert {k: words[k] for k in SIDES} == {
        "front": ("left", "right"),
        "right": ("front", "back"),
        "back": ("right", "left"),
        "left": ("back", "front"),
    }
    assert set(words["side"]) == {"bottom", "top"}
    assert math.isfinite(sum(leg_in_room(part, "side")[0]))
