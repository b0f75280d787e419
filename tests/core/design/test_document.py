"""The document: schema, references, patches with inverse, rename, freeze, upgrades, starters."""

import json
from pathlib import Path

import jsonpatch
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.document import parse_document
from zygon.design.examples import EXAMPLES, brood_box
from zygon.design.operations import freeze, remove_part, remove_size, rename
from zygon.design.patch import apply_patch, patched
from zygon.design.schema import json_schema
from zygon.design.starters import starter
from zygon.design.upgrade import as_schema, load, upgraded
from zygon.errors import DocumentError, PatchError, ZygonError
from zygon.making.pipeline import build

FIXTURES = Path(__file__).parents[1] / "fixtures"
DOCS = Path(__file__).parents[3] / "docs"


def test_the_published_schema_is_the_one_of_the_code():
    assert json.loads((DOCS / "design.schema.json").read_text()) == json_schema()


@pytest.mark.parametrize("version", [2, 3, 4, 5, "5-bent", 6, 7])
def test_kept_documents_of_later_versions_still_build_without_a_fault(version):
    built = build(load(json.loads((FIXTURES / f"design-{version}.json").read_text())))
    assert built.faults == () and all(p.flat.pieces for p in built.flats.values())


@pytest.mark.parametrize(
    ("change", "rule"),
    [
        ({"on": "nothing"}, "there is no flange"),
        ({"edge": "end"}, "has the edges"),
        ({"on": "front_hem", "edge": "left"}, "has the edges"),
        ({"on": "right_hem", "edge": "end"}, "cannot stand on itself"),
    ],
)
def test_a_flange_stands_on_an_edge_that_is_there_and_not_on_itself(change, rule):
    data = json.loads((FIXTURES / "design-4.json").read_text())
    data["parts"]["roof"]["folding"]["flanges"]["right"] |= change
    with pytest.raises(DocumentError, match=rule):
        load(data)


def test_folded_and_bought_parts_are_kinds_of_their_own_and_what_is_bought_needs_no_stock():
    """A design as schema 5 wrote it, and the same one as it is written now."""
    old, new = (json.loads((FIXTURES / f"design-{v}.json").read_text()) for v in ("5-bent", "6"))
    assert upgraded(old, target=6) == new
    new = upgraded(new)
    kinds = {k: p["kind"] for k, p in new["parts"].items()}
    assert kinds["base"] == kinds["lid"] == "folded" and "bought" in kinds.values() and "item" in kinds.values()
    assert "bought" in old["stocks"] and "bought" not in new["stocks"]
    # and back, as an edit of that time needs it; the stock of bought things is what it was, whatever its unit
    back = as_schema(new, 5)
    assert {**back, "stocks": 0} == {**old, "stocks": 0} and upgraded(back) == new


@pytest.mark.parametrize("name", EXAMPLES)
def test_every_example_is_the_same_after_the_way_to_the_schema_before_and_back(name):
    data = EXAMPLES[name]().dump()
    assert upgraded(as_schema(data, 5)) == data


def test_how_many_there_are_is_no_longer_said_in_a_design():
    old = json.loads((FIXTURES / "design-7.json").read_text())
    new = upgraded(old)
    sold = [size for stock in new["stocks"].values() for size in (stock.get("sheets") or stock["lengths"]).values()]
    assert len(sold) == 4 and not any("count" in size for size in sold)
    # an edit of that time finds the field that it changed
    patch = [{"op": "replace", "path": "/stocks/steel6/lengths/bar/count", "value": 2}]
    assert upgraded({**as_schema(new, 7), **{}}) == new and upgraded(jsonpatch.apply_patch(as_schema(new, 7), patch)) == new


def test_a_stock_of_bought_things_stays_where_something_names_it():
    old = json.loads((FIXTURES / "design-5-bent.json").read_text())
    old["fits"]["odd"] = {"stock": "bought", "cutter": next(iter(old["cutters"])), "cells": {}}
    assert "bought" in upgraded(old)["stocks"]
    old = json.loads((FIXTURES / "design-5-bent.json").read_text())
    block = next(k for k, p in old["parts"].items() if p.get("stock") == "bought")
    del old["parts"][block]["deep"]  # as thick as its stock
    new = upgraded(old)
    assert new["parts"][block]["stock"] == "bought" and new["stocks"]["bought"] == {**old["stocks"]["bought"], "bends": False}


@pytest.mark.parametrize(
    ("kind", "spoilt", "rule"),
    [
        ("board", {"folding": {"flanges": {}}}, "folding"),
        ("board", {"deep": {"text": "3 mm"}}, "deep"),
        ("board", {"price": 3.0}, "price"),
        ("folded", {"deep": {"text": "3 mm"}}, "deep"),
        ("folded", {"folding": None}, "folding"),
        ("bought", {"folding": {"flanges": {}}}, "folding"),
        ("bought", {"stock": "", "deep": None}, "a bought part has a stock, or a thickness of its own"),
        ("bought", {"stock": "nothing"}, "there is no stock"),
    ],
)
def test_each_kind_says_what_is_its_own(kind, spoilt, rule):
    data = json.loads((FIXTURES / "design-6.json").read_text())
    key = next(k for k, p in data["parts"].items() if p["kind"] == ("folded" if kind == "board" else kind))
    part = data["parts"][key]
    if kind == "board":
        part = {k: v for k, v in part.items() if k not in ("folding", "made", "price")} | {"kind": "board"}
    data["parts"][key] = {k: v for k, v in (part | spoilt).items() if v is not None}
    with pytest.raises(DocumentError) as refused:
        load(data)
    assert (
        rule in refused.value.message
        and refused.value.entry.startswith(f"/parts/{key}/")
        and kind not in refused.value.entry.split("/")[3:]
    )


@pytest.mark.parametrize("version", [1])
def test_a_kept_document_of_every_version_still_builds(version):
    document = load(json.loads((FIXTURES / f"design-{version}.json").read_text()))
    built = build(document)
    assert len(built.parts) == 10 and not built.faults


def test_upgrades_run_one_by_one_and_leave_the_argument_alone():
    old = {"schema": 1, "name": "x", "width": 3}
    steps = {1: lambda d: {**d, "size": d["width"]}, 2: lambda d: {k: v for k, v in d.items() if k != "width"}}
    assert upgraded(old, steps, 3) == {"schema": 3, "name": "x", "size": 3}
    assert old == {"schema": 1, "name": "x", "width": 3}


@pytest.mark.parametrize("data", [[], None, {"schema": 99, "name": "x"}, {"name": "x"}, {"schema": True}, {"schema": "1"}])
def test_what_is_no_document_of_a_known_schema_is_refused(data):
    with pytest.raises(DocumentError):
        load(data)


@pytest.mark.parametrize(
    ("path", "value", "entry"),
    [
        ("/parts/front/stock", "oak", "/parts/front/stock"),
        ("/joints/front-left/a", "nobody", "/joints/front-left/a"),
        ("/joints/front-left/a", "left", "/joints/front-left/b"),
        ("/cutter", "axe", "/cutter"),
        ("/sizes/width/name", "front", "/parts/front/name"),
        ("/sizes/width/name", "in", "/sizes/width/name"),
        ("/parts/front/quantity", 0, "/parts/front/quantity"),
        ("/parts/front/plane", "lying", "/parts/front/spans"),
        ("/rules/web", float("nan"), "/rules/web"),
        ("/stocks/ply12/density", -1, "/stocks/ply12/density"),
    ],
)
def test_a_value_that_cannot_stand_is_named_with_its_entry(path, value, entry):
    with pytest.raises(DocumentError) as caught:
        apply_patch(brood_box().dump(), [{"op": "replace", "path": path, "value": value}])
    assert caught.value.entry == entry
    assert caught.value.rule


@pytest.mark.parametrize(
    "patch",
    [
        [{"op": "replace", "path": "/nowhere/at/all", "value": 1}],
        [{"op": "fly", "path": "/name"}],
        [{"path": "/name"}],
        "nonsense",
        [{"op": "add", "path": "name", "value": 1}],
    ],
)
def test_a_patch_that_does_not_fit_is_refused(patch):
    with pytest.raises(PatchError):
        apply_patch(brood_box().dump(), patch)


@pytest.mark.parametrize(
    "patch",
    [
        # into itself, so that it doubles each time; and side by side
        [{"op": "copy", "from": "/kept", "path": f"/kept/a{i}"} for i in range(40)],
        [{"op": "copy", "from": "/parts", "path": f"/parts/x{i}"} for i in range(40)],
        [
            {"op": "add", "path": "/note", "value": "n" * 400_000},
            *[{"op": "copy", "from": "/note", "path": f"/kept/{i}"} for i in range(12)],
        ],
    ],
)
def test_copies_that_grow_past_a_design_are_refused_before_they_are_made(patch, monkeypatch):
    made = []
    whole = jsonpatch.apply_patch
    monkeypatch.setattr(jsonpatch, "apply_patch", lambda data, ops, **more: made.append(ops) or whole(data, ops, **more))
    with pytest.raises(PatchError, match="grows past what a design may hold") as caught:
        apply_patch(brood_box().dump(), patch)
    assert caught.value.entry == "patch" and "4000000 bytes" in caught.value.rule
    assert len(made) < len(patch)  # those that would have grown past it were not made


def test_copies_within_a_design_s_size_are_made():
    before = brood_box().dump()
    part = next(iter(before["parts"]))
    named = {"op": "replace", "path": "/parts/another/name", "value": "another"}
    _, after, inverse = apply_patch(before, [{"op": "copy", "from": f"/parts/{part}", "path": "/parts/another"}, named])
    assert after["parts"]["another"] == before["parts"][part] | {"name": "another"}
    assert apply_patch(after, inverse)[1] == before


def test_what_nests_too_deep_is_said_in_words():
    with pytest.raises(PatchError, match="it nests too deep"):
        apply_patch(brood_box().dump(), [{"op": "copy", "from": "/kept", "path": "/kept" + "/a" * i} for i in range(1, 1500)])


@given(st.sampled_from(["/sizes/width/entry/text", "/parts/cover/quantity", "/note"]), st.integers(1, 400), st.booleans())
def test_an_edit_and_its_inverse_leave_the_document_as_it_was(path, n, also_remove):
    before = brood_box().dump()
    patch = [{"op": "add", "path": path, "value": n + 1 if path.endswith("quantity") else f"{n}.5 mm"}]
    if also_remove:
        patch.append({"op": "remove", "path": "/parts/beech_rod"})
    _, after, inverse = apply_patch(before, patch)
    assert after != before
    assert apply_patch(after, inverse)[1] == before


@pytest.mark.parametrize(
    ("group", "key", "name"),
    [("parts", "left", "west"), ("sizes", "width", "breadth"), ("parts", "floor", "ground"), ("sizes", "rest", "ledge")],
)
def test_a_rename_is_one_patch_that_changes_no_shape(group, key, name):
    document = brood_box()
    label, patch = rename(document, group, key, name)
    renamed, data, inverse = apply_patch(document.dump(), patch)
    assert name in label
    before, after = build(document), build(renamed)
    assert not after.faults
    assert [p.flat.digest for p in before.flats.values()] == [p.flat.digest for p in after.flats.values()]
    assert apply_patch(data, inverse)[1] == document.dump()


def test_a_rename_goes_by_the_syntax_tree_and_not_by_the_letters():
    document, _, _ = apply_patch(
        brood_box().dump(),
        [
            {"op": "add", "path": "/sizes/x", "value": {"name": "wid", "entry": {"text": "max(width, 2*width)"}}},
            {"op": "add", "path": "/sizes/y", "value": {"name": "rest_wide", "entry": {"text": "rest + 1 mm"}}},
            {"op": "add", "path": "/sizes/z", "value": {"name": "broken", "entry": {"text": "width +"}}},
        ],
    )
    renamed, _, _ = apply_patch(document.dump(), rename(document, "sizes", "width", "w")[1])
    assert renamed.sizes["x"].entry.text == "max(w, 2*w)" and renamed.sizes["x"].name == "wid"
    assert renamed.sizes["z"].entry.text == "width +"
    renamed, _, _ = apply_patch(document.dump(), rename(document, "parts", "rest_front", "rf")[1])
    assert renamed.sizes["y"].entry.text == "rest + 1 mm"
    assert renamed.parts["rest_back"].position.at.text == "rf.top"


@pytest.mark.parametrize("name", ["front", "depth", "in", "", "two words"])
def test_a_name_that_is_taken_or_reserved_is_refused(name):
    with pytest.raises(DocumentError):
        rename(brood_box(), "sizes", "width", name)


def test_freezing_keeps_the_value_and_drops_the_reference():
    document = brood_box()
    built = build(document)
    where = "/parts/follower/spans/x/low"
    _, patch = freeze(document, where, built.values[where].value, "length")
    frozen, data, _ = apply_patch(document.dump(), patch)
    assert frozen.parts["follower"].spans["x"].low.text == "19.8 mm"
    wider, _, _ = apply_patch(data, [{"op": "replace", "path": "/sizes/bee_gap/entry/text", "value": "6 mm"}])
    assert build(wider).parts["follower"].box.span("x")[0] == pytest.approx(19.8)


def test_removing_a_part_takes_its_joints_and_leaves_named_problems():
    document, _, _ = apply_patch(brood_box().dump(), remove_part(brood_box(), "left")[1])
    assert not [j for j in document.joints.values() if "left" in (j.a, j.b)]
    assert "left" not in document.bores["carrying_rod"].parts
    messages = [f.message for f in build(document).faults]
    assert any("no part is called left" in m for m in messages)
    document, _, _ = apply_patch(brood_box().dump(), remove_size(brood_box(), "rod")[1])
    assert [f.entry for f in build(document).faults] == ["/bores/carrying_rod/diameter"]


def test_an_unknown_starter_is_refused():
    with pytest.raises(ZygonError, match="is not one of"):
        starter("boat", "x")


def test_switching_the_display_never_changes_a_value():
    document = brood_box()
    base = build(document)
    for display, unit in (("in", "in"), ("fraction", "in"), ("mm", "mm")):
        switched, _, _ = apply_patch(
            document.dump(), [{"op": "replace", "path": "/display", "value": display}, {"op": "replace", "path": "/unit", "value": unit}]
        )
        assert {k: v.value for k, v in build(switched).values.items()} == {k: v.value for k, v in base.values.items()}


#: As schema 4 read it, in inches.
READ_BY_4 = [
    ("1/2-1/8", "1/(2-1/8)", 1 / 2.125),
    ("10/2-1/2", "10/(2-1/2)", 4),
    ("4*2-1/4", "4*(2-1/4)", 9),
    ("4*2 1/4", "4*(2 1/4)", 9),
    ("8/ -2-1/2", "8/ -(2-1/2)", -3.2),
    ("9 in/2-1/4", "9 in/(2-1/4)", 4),
    ("1-1/2", "1-1/2", 1.5),
    ("10/2 - 1/2", "10/2 - 1/2", 4.5),
    ("2*3-1/4*2", "2*3-1/4*2", 5.5),
    ("6-1/2", "6-1/2", 6.5),
]


@pytest.mark.parametrize(("text", "now", "inches"), READ_BY_4)
def test_no_value_moves_when_fractions_are_read_otherwise(text, now, inches):
    data = json.loads((FIXTURES / "design-4.json").read_text())
    data["sizes"]["odd"] = {"name": "odd", "entry": {"text": text, "unit": "in"}, "order": 99}
    document = load(data)
    assert document.sizes["odd"].entry.text == now
    assert build(document).values["/sizes/odd/entry"].value == pytest.approx(inches * 25.4)


def test_an_entry_that_can_be_read_in_two_ways_is_a_problem_with_both_as_mends():
    data = brood_box().dump()
    data["sizes"]["width"]["entry"] = {"text": "100*2-1/4", "unit": "mm"}
    good = build(brood_box()).good
    built = build(load(data), good)
    (fault,) = [f for f in built.faults if f.code == "broken_expression"]
    found = [build(patched(data, m.patch)).values["/sizes/width/entry"].value for m in fault.mends]
    assert [m.label for m in fault.mends] == ["Write 100*(2-1/4)", "Write 100*2 - 1/4"] and found == [225, 199.75]
    assert built.values["/sizes/width/entry"].value == good["/sizes/width/entry"]


@pytest.mark.parametrize(("said", "shown"), [({"a": 1}, "dict"), ([1], "list"), (None, None), (7, 7), (True, True)])
def test_what_a_fault_shows_of_a_value_is_short(said, shown):
    """Lists and records are told by their kind, nothing and plain values as they are."""
    data = {**starter("nothing", "d").dump(), "sizes": {"s": {"name": "w", "entry": {"text": said}}}}
    with pytest.raises(DocumentError) as raised:
        parse_document(data)
    assert raised.value.entry.startswith("/sizes/s/entry/text") and raised.value.value == shown


def test_what_is_missing_in_a_list_is_named_by_its_place():
    data = EXAMPLES["electronics-box"]().dump()
    profile = data["brakes"]["bench"]["punches"]["goose"]["profile"]
    profile.append([])
    with pytest.raises(DocumentError) as caught:
        load(data)
    assert caught.value.entry == f"/brakes/bench/punches/goose/profile/{len(profile) - 1}/0" and caught.value.rule == "Field required"
