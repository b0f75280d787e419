"""Which flanges say where one of them stands, and what entries call them; a rod's ends; what of a mirror image is named as the original."""

import pytest

from zygon.design.draft import Draft
from zygon.design.flange_names import called, flange_called, flange_name, flanges_placed_together, flanges_that_place, names_of_flanges
from zygon.design.layout import Place


def chains():
    """A wall with a lip on it and a brim on that; beside it a wall with a gusset on its side, a mirrored one, and what stands on each."""
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "150 mm"))
    d.fold("p")
    d.flange("p", "wall", "back", "40 mm")
    d.flange("p", "lip", "end", "20 mm", on="wall")
    d.flange("p", "brim", "end", "10 mm", on="lip")
    d.flange("p", "other", "front", "40 mm")
    d.flange("p", "ear", "low", "15 mm", on="other")
    d.flange("p", "tip", "end", "8 mm", on="ear")
    d.flange("p", "side", "left", "30 mm", mirrored="u")
    d.flange("p", "rim", "end", "12 mm", on="side")
    return d.document().parts["p"]


def test_only_what_stands_on_a_side_or_has_an_image_waits_for_all():
    folding = chains().folding
    assert flanges_placed_together(folding) == {"ear", "tip", "side", "rim"}
    assert flanges_that_place(folding, "wall") == ["wall"]
    assert flanges_that_place(folding, "brim") == ["brim", "lip", "wall"]
    for key in ("ear", "tip", "side", "rim"):
        waits = flanges_that_place(folding, key)
        assert waits[0] == key and sorted(waits) == sorted(folding.flanges)  # each once, itself first


def test_a_flange_is_called_by_its_key_written_as_a_name():
    part = chains()
    assert names_of_flanges(part) == ["wall", "lip", "brim", "other", "ear", "tip", "side", "rim"]
    assert flange_name("back wall-2") == "back_wall_2"
    assert called("back_wall_2", "back wall-2") and called("back wall-2", "back wall-2") and not called("back_wall", "back wall-2")
    assert flange_called(part, "lip.inner") == "lip" and flange_called(part, "side~.outer") == "side" and flange_called(part, "top") is None


@pytest.mark.parametrize(("axis", "low", "high"), [("x", "left", "right"), ("y", "front", "back"), ("z", "bottom", "top")])
def test_a_rod_s_ends_and_its_line_name_their_entries(axis, low, high):
    across = [a for a in "xyz" if a != axis]
    rod = (
        Draft("d", "beech12").rod("r", "beech12", axis, ("5 mm", "90 mm"), **{across[0]: "11 mm", across[1]: "22 mm"}).document().parts["r"]
    )
    assert [(e.axis, e.side, e.entry.text, e.where, e.face) for e in rod.ends()] == [
        (axis, "low", "5 mm", ("span", "low"), low),
        (axis, "high", "90 mm", ("span", "high"), high),
        (across[0], "at", "11 mm", ("at", across[0]), "centre"),
        (across[1], "at", "22 mm", ("at", across[1]), "centre"),
    ]


@pytest.mark.parametrize(
    ("what", "name", "axes", "seen"),
    [
        ("face", "left", {"x"}, "right"),
        ("face", "left", {"y"}, "left"),
        ("face", "left", (), "left"),
        ("edge", "left-top", {"x", "z"}, "right-bottom"),
        # a hole may be called by a word for a face, and a leg's faces stay its own
        ("feature", "left", {"x"}, "left"),
        ("part", "left", {"x"}, "left"),
        ("face", "left.inner", {"x"}, "left.inner"),
    ],
)
def test_a_mirror_image_s_faces_are_named_as_they_stand(what, name, axes, seen):
    place = Place(part="p", what=what, name=name)
    assert place.across(axes) == Place(part="p", what=what, name=seen)
