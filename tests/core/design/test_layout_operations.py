"""Edits of the layout as one patch each: mirror, group, dissolve, remove, change many, re-point, make independent."""

import numpy as np
import pytest

from zygon.design.document import parse_document
from zygon.design.draft import Draft
from zygon.design.examples import brood_box, example
from zygon.design.layout_operations import change_many, group_parts, mirror, remove_copy, remove_group
from zygon.design.operations import remove_part, rename, repoint
from zygon.design.patch import apply_patch, patched
from zygon.edits.independent import make_independent
from zygon.errors import DocumentError
from zygon.making.asked.questions import middle_of, offers_between
from zygon.making.pipeline import build


def half_box() -> Draft:
    d = Draft("d", "ply12")
    d.size("width", "420 mm")
    d.board("left", "ply12", "facing_side", "0", ("0", "300 mm"), ("0", "200 mm"))
    d.board("floor", "ply12", "lying", "30 mm", ("left.right", "width - left.thickness"), ("0", "300 mm"))
    d.joint("tab_slot", "floor", "left", number=2)
    d.feature("left", "h", "hole", ("front", "60 mm"), ("top", "40 mm"), diameter="20 mm", name="drain")
    d.feature("left", "t", "taper", ("centre", "0"), ("centre", "0"), edge="top", high="30 mm")
    d.feature("left", "p", "pocket", ("front", "150 mm"), ("room", "floor.top + 60 mm"), width="30 mm", height="20 mm", depth="3 mm")
    return d


def edited(document, patch):
    after, data, inverse = apply_patch(document.dump(), patch)
    _back, again, _ = apply_patch(data, inverse)
    assert again == document.dump()  # every one of them can be undone
    return after


def test_a_mirror_gets_the_designs_middle_and_names_of_its_own():
    document = half_box().document()
    at = middle_of(build(document), ["part:left"], "x")
    assert at == "mid(floor.left, floor.right)"
    label, patch = mirror(document, ["part:left"], "x", at)
    after = edited(document, patch)
    assert label == "Mirror left" and next(iter(after.copies.values())).names == {"left": "right"}
    built = build(after)
    assert not built.faults and built.parts["left@mirror_x.1"].path == "right"
    assert build(after).parts["floor"].flat.bounds[2] == pytest.approx(420 - 23.6 + 11.8)
    _, again = mirror(after, ["part:left"], "y", "0")
    assert next(iter(again[0]["value"]["names"].values())) == "right_2"  # names stay unique
    with pytest.raises(DocumentError):
        mirror(document, [], "x", at)


def test_names_of_handed_copies_are_renamed_with_every_entry_and_clash_with_nothing():
    document = edited(half_box().document(), mirror(half_box().document(), ["part:left"], "x", "width / 2")[1])
    draft = document.dump()
    draft["parts"]["floor"]["spans"]["x"]["high"]["text"] = "right.right"
    document = patched(draft, [])
    after = edited(document, rename(document, "handed", "mirror_x:left", "far_side")[1])
    assert after.parts["floor"].spans["x"].high.text == "far_side.right"
    for group, key in (("handed", "mirror_x:left"), ("parts", "left")):
        with pytest.raises(DocumentError) as caught:
            rename(document, group, key, "width")
        assert caught.value.code == "bad_name"
    with pytest.raises(DocumentError):
        patched(document.dump(), [{"op": "replace", "path": "/copies/mirror_x/names/left", "value": "floor"}])


def test_parts_are_grouped_and_the_group_is_dissolved_again():
    document = half_box().document()
    label, patch = group_parts(document, ["left", "floor"], "box")
    grouped = edited(document, patch)
    assert label == "Group box of 2 parts" and {p.group for p in grouped.parts.values()} == {"box"}
    moved = patched(grouped.dump(), [{"op": "add", "path": "/groups/box/move", "value": {"z": {"text": "90 mm"}}}])
    assert build(moved).parts["left"].span_box.low[2] == 90 and not build(moved).faults
    after = edited(moved, remove_group(moved, "box")[1])
    assert not after.groups and {p.group for p in after.parts.values()} == {""}
    mirrored = edited(document, mirror(document, ["part:left", "part:floor"], "x", "width")[1])
    with pytest.raises(DocumentError) as caught:
        group_parts(mirrored, ["left"], "half")
    assert "copies other parts too" in caught.value.message
    for parts, name in ((["left"], "floor.x"), ([], "box")):
        with pytest.raises(DocumentError):
            group_parts(document, parts, name)
    with pytest.raises(DocumentError) as caught:
        edited(document, group_parts(document, ["left"], "floor")[1])
    assert "already the name" in caught.value.message


@pytest.mark.parametrize("parent", ["inner", "outer"])
def test_a_group_cannot_lie_in_itself(parent):
    draft = Draft("d", "ply12")
    draft.group("outer").group("inner", "outer")
    with pytest.raises(DocumentError) as caught:
        patched(draft.document().dump(), [{"op": "add", "path": "/groups/outer/parent", "value": parent}])
    assert "cannot lie in itself" in caught.value.message


def test_what_hangs_on_a_copy_or_a_part_goes_with_it():
    document = example("splayed-stand")
    after = edited(document, remove_copy(document, "sides")[1])
    assert set(after.copies) == {"ends"} and after.copies["ends"].of == ["part:leg"]
    gone = edited(document, remove_part(document, "leg")[1])
    assert not gone.copies and not gone.joints and "leg" not in gone.parts
    hive = example("hive")
    without = edited(hive, remove_part(hive, "top_bar")[1])
    assert not without.clearances and set(without.copies) == set(hive.copies)
    assert edited(hive, remove_group(hive, "frame")[1]).copies.keys() == hive.copies.keys() - {"frames_row"}


def test_many_features_are_changed_at_once_or_none():
    document = example("hive")
    owners = ["feature:end_bar:wire", "feature:end_bar:wire_2", "feature:end_bar:wire"]
    label, patch = change_many(document, owners, "diameter", "6.4", "mm")
    after = edited(document, patch)
    assert label == "Diameter of 2 to 6.4"
    assert [f.diameter.text for f in after.parts["end_bar"].features.values()] == ["6.4", "6.4"]
    for bad in (["feature:side:hold", *owners], ["joint:front-side"], []):
        with pytest.raises(DocumentError):
            change_many(document, bad, "diameter", "6.4", "mm")


def test_a_lost_name_is_pointed_at_another_in_all_its_uses():
    document = brood_box()
    broken = patched(document.dump(), remove_part(document, "left")[1])
    built = build(broken)
    lost = [f for f in built.faults if f.lost == "left"]
    assert len(lost) >= 5
    label, patch = repoint(broken, "left", "follower")
    after = patched(broken.dump(), patch)
    assert f"Point {len(patch)} uses of left at follower" == label and not [f for f in build(after).faults if f.lost]
    for name, to in (("left", "nobody"), ("front", "back"), ("ghost", "front")):
        with pytest.raises(DocumentError):
            repoint(broken, name, to)


@pytest.mark.parametrize("kind", ["mirror", "row"])
def test_an_independent_copy_stands_where_the_copy_stood_and_no_longer_follows(kind):
    draft = half_box()
    if kind == "mirror":
        draft.mirror("c", "x", "width / 2", "part:left", names={"left": "right"})
    else:
        draft.repeat("c", "row", "part:left", axis="x", number="2", spacing="width - left.thickness")
    before = build(draft.document())
    _label, patch = make_independent(before, "c")
    after = edited(draft.document(), patch)
    built = build(after)
    assert not built.faults and not after.copies
    key = next(k for k in built.parts if k not in ("left", "floor"))
    one, other = before.parts["left@c.1"], built.parts[key]
    assert one.reaches[0] == pytest.approx(other.reaches[0]) and one.reaches[1] == pytest.approx(other.reaches[1])
    assert one.flat.area == pytest.approx(other.flat.area) and len(one.flat.inside) == len(other.flat.inside)
    assert len(built.joints) == len(before.joints) + sum(len(j.copies) for j in before.joints.values())
    for cut, same in zip(sorted(_centres(one)), sorted(_centres(other)), strict=True):
        assert cut == pytest.approx(same, abs=1e-6)
    wider = patched(after.dump(), [{"op": "replace", "path": "/parts/left/features/h/diameter/text", "value": "30 mm"}])
    assert build(wider).parts[key].flat.area == pytest.approx(other.flat.area)


def _centres(part):
    m = np.array(part.matrix)
    found = []
    for c in part.flat.inside:
        x0, y0, x1, y1 = c.bounds
        found.append(tuple((m @ ((x0 + x1) / 2, (y0 + y1) / 2, part.flat.thickness / 2, 1))[:3].round(6)))
    return found


def test_copies_that_are_turned_or_copied_again_cannot_be_made_independent():
    for name, key in (("splayed-stand", "sides"), ("hive", "frames_row")):
        with pytest.raises(DocumentError) as caught:
            make_independent(build(example(name)), key)
        assert "cannot be made independent" in caught.value.message


def test_joints_are_offered_between_copies_and_boards_at_an_angle():
    stand = example("splayed-stand")
    offers = {o["kind"]: o for o in offers_between(stand, "leg@sides.1", "top") if o["order"] == "ab"}
    assert not offers["bevel"]["refused"] and not offers["tab_slot"]["refused"]
    assert "square to each other" in offers["dowels"]["refused"]
    with pytest.raises(DocumentError):
        offers_between(stand, "leg@sides.9", "top")


@pytest.mark.parametrize("numbering", ["{row}", "{", "TH-{group", "}"])
def test_a_part_number_is_made_of_known_words(numbering):
    with pytest.raises(DocumentError) as caught:
        patched(brood_box().dump(), [{"op": "add", "path": "/numbering", "value": numbering}])
    assert caught.value.entry == "/numbering"


def test_holes_in_flanges_are_changed_with_those_in_the_plate():
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "120 mm"), up="a")
    d.fold("p").flange("p", "a", "left", "30 mm")
    d.feature("p", "h", "hole", ("centre", "0"), ("centre", "0"), diameter="5 mm")
    d.flange_feature("p", "a", "h", "hole", ("centre", "0"), ("centre", "0"), diameter="4 mm")
    document = d.document()
    label, patch = change_many(document, ["feature:p:h", "feature:p:a.h"], "diameter", "7", "mm")
    assert label == "Diameter of 2 to 7"
    holes = build(patched(document.dump(), patch)).parts["p"].flat.inside
    assert sorted(round(2 * c.as_circle[2], 6) for c in holes) == [7, 7]
    with pytest.raises(DocumentError, match="has no width"):
        change_many(document, ["feature:p:a.h"], "width", "7", "mm")
    with pytest.raises(DocumentError):
        change_many(document, ["feature:p:a.nothing"], "diameter", "7", "mm")


def test_what_is_copied_together_goes_into_one_group():
    d = half_box()
    d.board("right", "ply12", "facing_side", "width", ("0", "300 mm"), ("0", "200 mm"), face="right")
    d.mirror("pair", "x", "500 mm", "part:left", "part:floor")
    document = d.document()
    for alone in (["left"], ["floor"], ["left", "right"]):
        with pytest.raises(DocumentError, match="pair copies other parts too; all that is copied together goes into one group") as raised:
            group_parts(document, alone, "Inside")
        assert raised.value.entry == "/copies/pair/of" and raised.value.value == ["part:left", "part:floor"]
    for whole in (["right"], ["left", "floor"], ["floor", "left", "right"]):
        label, patch = group_parts(document, whole, "Inside")
        assert label == f"Group Inside of {len(whole)} parts"
        assert {k for k, p in edited(document, patch).parts.items() if p.group} == set(whole)


def test_a_copy_is_of_something_in_the_end():
    d = half_box()
    d.mirror("one", "x", "500 mm", "part:left")
    d.mirror("two", "x", "900 mm", "copy:one")
    data = d.document().dump()
    data["copies"]["one"]["of"] = ["copy:two"]
    with pytest.raises(DocumentError, match="a copy cannot be of itself") as raised:
        parse_document(data)
    assert raised.value.code == "bad_reference" and raised.value.rule == "a copy cannot be of itself"
    d = half_box()
    d.board("right", "ply12", "facing_side", "width", ("0", "300 mm"), ("0", "200 mm"), face="right")
    d.group("Inside")
    data = d.document().dump()
    data["parts"]["right"]["group"] = next(iter(data["groups"]))
    data["copies"] = {"c": {"name": "c", "kind": "mirror", "axis": "x", "at": {"text": "1 m"}, "of": ["part:left", "part:right"]}}
    with pytest.raises(DocumentError, match="what is copied together lies in one group") as raised:
        parse_document(data)
    assert raised.value.value == ["part:left", "part:right"] and raised.value.entry == "/copies/c/of"
