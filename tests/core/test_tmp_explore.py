"""Whatever is typed into whichever entry, a design still builds, is checked and shown; faults are problems, never crashes."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.build.joints.pairs import MEETING, pair
from zygon.build.pipeline import build
from zygon.check.run import check
from zygon.design.examples import EXAMPLES
from zygon.design.joint_words import joint_kinds
from zygon.design.operations import entries
from zygon.design.patch import apply_patch
from zygon.design.starters import starter
from zygon.errors import ZygonError
from zygon.exchange.assembly_data import assembly_text
from zygon.exchange.cutlist import write_csv
from zygon.exchange.drilling import write_drilling
from zygon.exchange.joint_figure import joint_figure
from zygon.exchange.picture import picture
from zygon.exchange.screen import built_data, part_resources


def spelled_out(kind):
    """A pair with every entry of its joint typed in, so that each of them can be broken."""
    draft = pair(kind, cutter="router")
    details = build(draft.document()).joints["a-b"].details
    fields = next(k["fields"] for k in joint_kinds() if k["kind"] == kind)
    for field in fields:
        if field["type"] == "entry" and field["name"] in details and field["value_kind"] != "angle":
            unit = "" if field["value_kind"] in ("count", "number") else " mm"
            draft.data["joints"]["a-b"][field["name"]] = draft.entry(f"{details[field['name']]:.6g}{unit}")
    return draft.document().dump()


DOCUMENTS = [
    *(f().dump() for f in EXAMPLES.values()),
    *(spelled_out(kind) for kind in MEETING),
    starter("closed-box", "Chest").dump(),
    starter("tray", "Tray").dump(),
    starter("shelf-case", "Case").dump(),
]
TEXTS = [
    "0", "-5 mm", "1e9 mm", "1e-9 mm", "1e300", "width", "left.right", "front.top", "front.centre", "90 deg", "((", "3", "7.5", "snug", "11 ga", "0.001",
    "width * width", "mid(left.left, right.right)", "400 mm", "12 mm", "5", "-3", "nobody.top", "100000", "height - 1", "front.thickness",
]  # fmt: skip


@settings(max_examples=6000)
@given(st.sampled_from(DOCUMENTS), st.lists(st.tuples(st.integers(0, 10_000), st.sampled_from(TEXTS)), min_size=1, max_size=4))
def test_any_text_in_any_entry_gives_a_result_and_problems(data, changes):
    places = [p for p, _ in entries(data)]
    patch = [{"op": "replace", "path": f"{places[i % len(places)]}/text", "value": text} for i, text in changes]
    good = build(apply_patch(data, [])[0]).good
    document, _, inverse = apply_patch(data, patch)
    for known in (None, good):
        built = build(document, known)
        problems = check(built)
        shown = built_data(built, problems)
        json.dumps([shown, part_resources(built)], allow_nan=False)
        assert len({p["id"] for p in shown["problems"]}) == len(problems)
        write_csv(built)
        picture(built)
        assembly_text(built)
        write_drilling(built)
        json.dumps([joint_figure(built, key) for key in built.joints], allow_nan=False)
    assert build(apply_patch(document.dump(), inverse)[0]).good == good


@settings(max_examples=80)
@given(st.sampled_from(DOCUMENTS), st.data())
def test_any_record_may_be_removed_or_is_refused_with_a_reason(data, draw):
    groups = [g for g in ("sizes", "stocks", "cutters", "fits", "parts", "joints", "bores") if data.get(g)]
    group = draw.draw(st.sampled_from(groups))
    key = draw.draw(st.sampled_from(sorted(data[group])))
    try:
        document, _, _ = apply_patch(data, [{"op": "remove", "path": f"/{group}/{key}"}])
    except ZygonError as error:
        assert error.entry and error.rule
        return
    built = build(document)
    json.dumps(built_data(built, check(built)), allow_nan=False)


@pytest.mark.parametrize("name", ["Ωmega", "=1+1", "a" * 80, "../../etc/passwd", "<b>x</b>", "weiß"])
def test_any_design_name_makes_a_safe_file_name(name):
    from zygon.exchange.bundle import part_files

    document, _, _ = apply_patch(DOCUMENTS[1], [{"op": "replace", "path": "/name", "value": name}])
    for file in part_files(build(document), "svg", "nominal"):
        assert "/" not in file and ".." not in file and "<" not in file
