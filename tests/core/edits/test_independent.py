"""Copies made independent: every board of the design stays the same solid in the same place, whatever is on it and however it was copied."""

import pytest

from tests.core.making.joints.pairs import solid
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.patch import apply_patch
from zygon.edits.independent import make_independent
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.making.result.built import Built

COPIES = {
    "mirror_x": lambda d, *of: d.mirror("c", "x", "400 mm", *of),
    "mirror_y": lambda d, *of: d.mirror("c", "y", "-30 mm", *of),
    "mirror_z": lambda d, *of: d.mirror("c", "z", "300 mm", *of),
    "row": lambda d, *of: d.repeat("c", "row", *of, axis="y", number="3", spacing="320 mm"),
    "filled": lambda d, *of: d.repeat("c", "row", *of, axis="z", length="-800 mm", largest="410 mm"),
    "grid": lambda d, *of: d.repeat(
        "c", "grid", *of, axis="x", number="2", spacing="150 mm", axis_2="y", number_2="2", spacing_2="-320 mm"
    ),
}

#: (kind, u, v, fields) of a board that faces the side, 300 mm deep and 240 mm high, with its left face up.
FEATURES = {
    "hole_from_faces": ("hole", ("front", "60 mm"), ("top", "40 mm"), {"diameter": "20 mm"}),
    "blind_hole_in_the_room": ("hole", ("room", "55 mm"), ("room", "70 mm"), {"diameter": "20 mm", "depth": "5 mm", "face": "right"}),
    "hole_from_the_middle": ("hole", ("centre", "31 mm"), ("centre", "-17 mm"), {"diameter": "15 mm", "depth": "6 mm"}),
    "edge_hole": (
        "edge_hole",
        ("front", "70 mm"),
        ("centre", "0"),
        {"edge": "top", "diameter": "6 mm", "depth": "30 mm", "height": "4 mm"},
    ),
    "slanting_pocket": (
        "pocket",
        ("back", "80 mm"),
        ("bottom", "90 mm"),
        {"width": "50 mm", "height": "20 mm", "depth": "3 mm", "angle": "25 deg"},
    ),
    "groove": ("groove", ("front", "120 mm"), ("room", "150 mm"), {"along": "u", "width": "8 mm", "depth": "5 mm", "length": "90 mm"}),
    "groove_along_v": ("groove", ("back", "40 mm"), ("centre", "0"), {"along": "v", "width": "8 mm", "depth": "5 mm", "face": "left"}),
    "rebate": (
        "rebate",
        ("centre", "0"),
        ("centre", "0"),
        {"edge": "top", "width": "9 mm", "depth": "4 mm", "stop_low": "30 mm", "stop_high": "70 mm"},
    ),
    "edge_rounded": (
        "edge_profile",
        ("centre", "0"),
        ("centre", "0"),
        {"edge": "front", "profile": "round", "size": "6 mm", "face": "right"},
    ),
    "edge_chamfered_below": ("edge_profile", ("centre", "0"), ("centre", "0"), {"edge": "top", "profile": "chamfer", "size": "4 mm"}),
    "edge_all_round": ("edge_profile", ("centre", "0"), ("centre", "0"), {"edge": "all", "profile": "cove", "size": "3 mm"}),
    "edge_banded": ("edge_band", ("centre", "0"), ("centre", "0"), {"edge": "bottom", "thickness": "2 mm"}),
    "slot": ("slot", ("front", "90 mm"), ("top", "60 mm"), {"length": "70 mm", "width": "12 mm", "angle": "-40 deg"}),
    "rectangle": (
        "rectangle",
        ("room", "200 mm"),
        ("centre", "10 mm"),
        {"width": "40 mm", "height": "25 mm", "radius": "5 mm", "angle": "10 deg"},
    ),
    "hand_hold": ("hand_hold", ("centre", "20 mm"), ("top", "45 mm"), {}),
    "cut_corner": ("corner", ("centre", "0"), ("centre", "0"), {"corner": "front-top", "style": "cut", "size": "25 mm", "size_2": "60 mm"}),
    "taper": ("taper", ("centre", "0"), ("centre", "0"), {"edge": "back", "low": "12 mm", "high": "45 mm"}),
    "edge_notch": (
        "edge_notch",
        ("front", "66 mm"),
        ("centre", "0"),
        {"edge": "bottom", "shape": "vee", "width": "30 mm", "depth": "12 mm"},
    ),
    "trim": ("trim", ("centre", "0"), ("centre", "0"), {"axis": "y", "at": "33 mm", "side": "low"}),
}


def standing() -> Draft:
    d = Draft("d", "ply12")
    return d.board("plank", "ply12", "facing_side", "37 mm", ("0", "300 mm"), ("0", "240 mm"))


def same_solids(draft: Draft) -> tuple[Built, Built]:
    """The design before and after its copies are made independent; fails where anything is another solid, or elsewhere."""
    before = build(draft.document(), nominal=True)
    assert not before.faults and any(p.made_by for p in before.parts.values())
    _label, patch = make_independent(before, "c")
    document, data, inverse = apply_patch(draft.document().dump(), patch)
    assert not document.copies
    assert apply_patch(data, inverse)[1] == draft.document().dump()
    after = build(document, nominal=True)
    assert [f.message for f in after.faults] == [] and len(after.parts) == len(before.parts)
    left = [solid(p) for p in after.parts.values()]
    for part in before.parts.values():
        was = solid(part)
        assert was.volume() > 1000
        found = [
            n for n, now in enumerate(left) if abs((was ^ now).volume() - was.volume()) < 0.2 and abs(now.volume() - was.volume()) < 0.2
        ]
        assert len(found) == 1, part.key
        left.pop(found[0])
    return before, after


@pytest.mark.parametrize("name", FEATURES)
@pytest.mark.parametrize("how", COPIES)
def test_features_of_every_kind_stay_where_the_copies_had_them(how, name):
    kind, u, v, fields = FEATURES[name]
    draft = standing().feature("plank", "f", kind, u, v, **fields)
    COPIES[how](draft, "part:plank")
    same_solids(draft)


OUTLINES = {
    "link": {"kind": "link", "low": {"text": "60 mm"}, "bore_low": {"text": "20 mm"}, "bore_high": {"text": "50 mm"}},
    "drawn": {
        "kind": "drawn",
        "outer": [[5, 5, 0], [305, 5, 0.3], [305, 105, 0], [105, 245, 0], [5, 245, -0.1]],
        "inner": [[[60, 60, 0], [140, 60, 0.5], [60, 100, 0]]],
    },
    "ring": {"kind": "ring", "inner": {"text": "90 mm"}},
}


@pytest.mark.parametrize("kind", OUTLINES)
@pytest.mark.parametrize("how", COPIES)
def test_outlines_of_their_own_stay_as_the_copies_had_them(how, kind):
    draft = standing()
    board = draft.data["parts"]["plank"]
    board["outline"] = OUTLINES[kind]
    if kind == "drawn":  # its arcs reach beyond its corners
        built = build(draft.document())
        (fault,) = built.faults
        assert fault.entry == "/parts/plank/outline/outer"
        x0, _, x1, _ = built.parts["plank"].flat.bounds
        board["spans"]["y"]["high"] = {"text": f"{x1 - x0:.6f} mm"}
    if kind == "ring":
        board["spans"]["y"]["high"] = {"text": "240 mm"}
    COPIES[how](draft, "part:plank")
    same_solids(draft)


def between(kind: str, **fields) -> Draft:
    """A floor that stays, as long to both sides of each mirror, and a plank that stands on it, to be copied beside."""
    d = Draft("d", "ply12")
    d.board("wall", "ply12", "lying", "0", ("-700 mm", "1500 mm"), ("-1100 mm", "1040 mm"))
    d.board("plank", "ply12", "facing_side", "37 mm", ("0", "300 mm"), ("wall.top", "240 mm"))
    return d.joint(kind, "plank", "wall", **fields)


JOINTS = [
    ("tab_slot", {"number": 2}),
    (
        "tab_slot",
        {
            "tabs": {
                "t1": {"at": {"text": "40 mm"}, "length": {"text": "30 mm"}},
                "t2": {"at": {"text": "190 mm"}, "length": {"text": "50 mm"}},
            }
        },
    ),
    ("mortise_tenon", {"number": 3}),
    ("groove", {"ends": "open_low"}),
    ("groove", {"ends": "stopped"}),
    ("dowels", {"number": 3}),
    ("screws", {"number": 2}),
]


@pytest.mark.parametrize("how", ["mirror_x", "mirror_y", "row", "grid"])
@pytest.mark.parametrize(("kind", "fields"), JOINTS)
def test_joints_to_what_stays_are_made_again_for_each_board_on_its_own(kind, fields, how):
    draft = between(kind, **fields)
    COPIES[how](draft, "part:plank")
    before, after = same_solids(draft)
    assert len(after.joints) == 1 + len(before.joints["plank-wall"].copies) > 1


@pytest.mark.parametrize("fingers", ["6", "7"])
@pytest.mark.parametrize("how", ["mirror_x", "mirror_y", "mirror_z"])
def test_finger_joints_between_boards_copied_together_start_with_the_same_board(how, fingers):
    draft = standing()
    draft.board("front", "ply12", "facing_front", "0", ("37 mm", "200 mm"), ("0", "240 mm"))
    draft.joint("finger", "plank", "front", count=fingers)
    COPIES[how](draft, "part:plank", "part:front")
    same_solids(draft)


@pytest.mark.parametrize("keeps", ["low", "high"])
@pytest.mark.parametrize("how", COPIES)
def test_half_laps_keep_the_half_that_the_copies_kept(how, keeps):
    draft = Draft("d", "ply12")
    draft.board("one", "ply12", "lying", 0, (0, "60 mm"), (0, "200 mm"))
    draft.board("two", "ply12", "lying", 0, (0, "130 mm"), (0, "50 mm"))
    draft.joint("half_lap", "two", "one", keeps=keeps)
    COPIES[how](draft, "part:one", "part:two")
    same_solids(draft)


@pytest.mark.parametrize("how", COPIES)
def test_bores_go_on_through_boards_on_their_own(how):
    draft = standing()
    draft.board("wall", "ply12", "facing_side", "70 mm", ("-700 mm", "1100 mm"), ("-700 mm", "1200 mm"))
    draft.bore("rod", "x", {"y": "50 mm", "z": "80 mm"}, "9 mm", plank=("cut", "0.2 mm"), wall=("cut", "0"))
    COPIES[how](draft, "part:plank")
    _, after = same_solids(draft)
    places = {tuple(round(after.values[f"/bores/{k}/at/{a}"].value, 3) for a in "yz") for k in after.document.bores}
    assert len(places) == len(after.document.bores) == {"mirror_x": 1, "mirror_y": 2, "mirror_z": 2, "row": 3, "filled": 3, "grid": 2}[how]


def test_what_a_copy_did_without_it_does_without_on_its_own():
    draft = between("tab_slot", number=2)
    draft.feature("plank", "h", "hole", ("front", "60 mm"), ("top", "40 mm"), diameter="20 mm")
    draft.bore("rod", "x", {"y": "200 mm", "z": "180 mm"}, "9 mm", plank=("cut", "0"))
    COPIES["row"](draft, "part:plank")
    draft.data["copies"]["c"]["spared"] = {owner: ["plank@c.1"] for owner in ("feature:plank:h", "joint:plank-wall", "bore:rod")}
    _, after = same_solids(draft)
    assert sorted(len(p.flat.inside) for k, p in after.parts.items() if k != "wall") == [0, 2, 2]
    assert len(after.joints) == 2


def test_a_mirror_image_of_a_folded_part_stays_in_step():
    with pytest.raises(DocumentError, match="no mirror images of folded parts"):
        make_independent(build(example("frame-rests")), "other")


@pytest.mark.parametrize("angle", ["30 deg", "60 deg", "90 deg", "120 deg", "180 deg"])
@pytest.mark.parametrize("axis", ["x", "y", "z"])
def test_what_is_turned_stays_in_step(axis, angle):
    """Also by half a turn, after which it lies along the axes again, and by 60 degrees, of which the cosine is a hair over a half."""
    draft = standing()
    at = {a: "200 mm" for a in "xyz" if a != axis}
    draft.repeat("c", "ring", "part:plank", axis=axis, at=at, number="2", angle=angle)
    built = build(draft.document())
    assert len(built.parts) == 2
    with pytest.raises(DocumentError, match="c cannot be made independent: it has to be a mirror, row or grid") as refused:
        make_independent(built, "c")
    assert (refused.value.entry, refused.value.value) == ("/copies/c", "c")


@pytest.mark.parametrize("up", ["a", "b"])
@pytest.mark.parametrize("how", ["mirror_x", "mirror_y", "row"])
def test_the_upper_face_goes_with_a_copy(how, up):
    """Mirrored through its faces, the other one is up."""
    draft = standing()
    draft.data["parts"]["plank"]["up"] = up
    COPIES[how](draft, "part:plank")
    _, after = same_solids(draft)
    other = {"a": "b", "b": "a"}[up]
    ups = sorted(p.record.up for k, p in after.flats.items() if k != "plank")
    assert ups == ([other] if how == "mirror_x" else [up] * len(ups)) and ups


@pytest.mark.parametrize("how", ["mirror_x", "mirror_y", "row", "grid"])
def test_a_bore_s_ends_go_with_it(how):
    """Mirrored along its axis it begins where the other one ended."""
    draft = standing()
    draft.bore("rod", "x", {"y": "50 mm", "z": "80 mm"}, "9 mm", stretch=("30 mm", "55 mm"), plank=("cut", "0.2 mm"))
    COPIES[how](draft, "part:plank")
    _, after = same_solids(draft)
    ends = {k: [round(after.values[f"/bores/{k}/{n}"].value, 6) for n in ("low", "high")] for k in after.document.bores if k != "rod"}
    # mirrored about x = 400 mm: from 800 - 55 to 800 - 30; the grid goes on by 150
    there = {"mirror_x": {(745.0, 770.0)}, "grid": {(30.0, 55.0), (180.0, 205.0)}}.get(how, {(30.0, 55.0)})
    assert set(map(tuple, ends.values())) == there
