"""A dimension that is only measured becomes a size on whatever is drawn: profiles, half-profiles, sections and paths; and follows it."""

import pytest

from tests.core.edits.test_drawn_paths import L_SHAPE, rod
from tests.core.making.metal.trays import folded
from tests.core.making.tube.frames import stocked
from tests.core.making.turned.test_half_profiles import entry, turned
from tests.core.shared import edited
from zygon.edits.drawings.begin_path import begin_path
from zygon.edits.drawings.begin_profile import begin_profile
from zygon.edits.drawings.begin_section import begin_section
from zygon.edits.drawings.begin_turned import begin_half_profile
from zygon.edits.drawings.relate import as_size, relate
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build
from zygon.owner import flange_id, frame_id, stock_id


def sized(built, part, feature, of):
    """The design with a distance measured as a size, and where the drawing is."""
    made = edited(built, relate(built, part, feature, "distance", of, None))
    place, drawing = place_of(made, part, feature)
    last = max(drawing.relations, key=lambda k: drawing.relations[k].order)
    if not drawing.relations[last].measured:
        made = edited(made, [{"op": "add", "path": f"{place.where}/relations/{last}/measured", "value": True}])
    made = edited(made, as_size(made, part, feature, last))
    assert made.faults == (), [f.message for f in made.faults]
    return made, place.where


def value(built):
    return built.values["/sizes/measured/entry"].value


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("toward", "ab")
def test_of_a_profile_that_lies_at_a_place_in_the_room(edge, toward):
    built = folded({}, thickness=2)
    built = edited(built, begin_profile(built, "p", edge=edge, toward=toward))
    made, where = sized(built, "p", flange_id("p", edge), ["line1"])
    assert value(made) == pytest.approx(25)
    # its end lies at a place in the room from now on
    key = next(k for k, r in place_of(made, "p", flange_id("p", edge))[1].relations.items() if r.kind == "distance" and not r.measured)
    patch = [
        {
            "op": "add",
            "path": f"{where}/references/up",
            "value": {"kind": "line", "y": entry("40 mm" if toward == "a" else "-40 mm"), "seen": [-50, 39, 50, 39]},
        },
        {"op": "replace", "path": f"{where}/relations/{key}", "value": {"kind": "on", "of": ["p2", "up"]}},
    ]
    moved = edited(made, patch)
    # the plate is 2 thick, and the line lies on the face that it begins at
    assert value(moved) == pytest.approx(38 if toward == "a" else 40)
    assert moved.faults == ()


def test_of_a_half_profile_and_of_its_place():
    built = turned("z", 40, steps={"s0": {"across": entry(20)}})
    built = edited(built, begin_half_profile(built, "k"))
    drawing = place_of(built, "k")[1]
    upright = next(k for k, c in drawing.curves.items() if abs(drawing.points[c.a].x - drawing.points[c.b].x) < 1e-9)
    made, _ = sized(built, "k", "", [upright])
    assert value(made) == pytest.approx(40)
    longer = edited(made, [{"op": "replace", "path": "/parts/k/span/high/text", "value": "72 mm"}])
    assert value(longer) == pytest.approx(62)


def test_of_a_section():
    built = build(stocked("square tube").document())
    built = edited(built, begin_section(built, stock_id("square_tube")))
    made, _ = sized(built, stock_id("square_tube"), "", ["line1", "line5"])
    assert value(made) == pytest.approx(40)


@pytest.mark.parametrize("plane", ["facing_front", "lying", "facing_side"])
def test_of_a_path_and_a_circle_through_it_is_told(plane):
    said = rod(L_SHAPE, plane, "30")
    built = edited(said, begin_path(said, frame_id("f")))
    made, where = sized(built, frame_id("f"), "", ["l0"])
    assert value(made) == pytest.approx(200)
    higher = edited(made, [{"op": "replace", "path": f"{where}/references/at_p1/y/text", "value": "230"}])
    assert value(higher) == pytest.approx(230)
    ring = edited(made, [{"op": "replace", "path": f"{where}/references/at_p1/y/text", "value": "measured + 1"}])
    assert any(f.code == "cycle" for f in ring.faults)


def test_what_is_gone_is_told():
    said = rod(L_SHAPE, radius="30")
    built = edited(said, begin_path(said, frame_id("f")))
    made, where = sized(built, frame_id("f"), "", ["l0"])
    key = next(k for k, r in place_of(made, frame_id("f"))[1].relations.items() if r.measured)
    gone = edited(made, [{"op": "remove", "path": f"{where}/relations/{key}"}])
    assert [f.code for f in gone.faults] == ["lost_measure"]
