"""Whatever is typed into whichever entry, a design still builds, is checked and shown; faults are problems, never crashes."""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import MEETING, pair
from tests.explore import drawn
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.forms import forms
from zygon.design.operations import entries
from zygon.design.patch import apply_patch
from zygon.design.starters import starter
from zygon.errors import ZygonError
from zygon.exchange.assembly_text import assembly_text
from zygon.exchange.cutlist import write_csv
from zygon.exchange.drilling import write_drilling
from zygon.making.pipeline import build
from zygon.screen.design import built_data, part_resources
from zygon.screen.joint_figure import joint_figure
from zygon.screen.picture import picture


def spelled_out(kind):
    """A pair with every entry of its joint typed in, so that each of them can be broken."""
    draft = pair(kind, cutter="router")
    details = build(draft.document()).joints["a-b"].details
    fields = next(f.fields for f in forms().joints if f.kind == kind)
    for field in fields:
        if field.type == "entry" and field.name in details and field.value_kind != "angle":
            unit = "" if field.value_kind in ("count", "number") else " mm"
            draft.data["joints"]["a-b"][field.name] = draft.entry(f"{details[field.name]:.6g}{unit}")
    return draft.document().dump()


def laid_out():
    """Turns, groups, every kind of copy and outline, joints at an angle, a measured size and clearances, all in one design."""
    d = Draft("laid out", "ply12", "ply6", cutter="router")
    d.size("width", "400 mm").size("height", "300 mm").size("lean", "12 deg", kind="angle").size("n", "3", kind="count")
    d.board("top", "ply12", "lying", "height", (0, "width"), (0, "300 mm"))
    d.board("left", "ply12", "facing_side", "60 mm", ("100 mm", "180 mm"), (0, "top.bottom"))
    d.turn("left", "y", "lean", x="left.left", z="left.top").turn("left", "x", "lean / 2", y="left.centre", z="left.top")
    d.joint("bevel", "left", "top")
    d.feature("left", "foot", "trim", ("centre", "0"), ("centre", "0"), axis="z", at="2 mm", side="low")
    d.mirror("handed", "x", "width / 2", "part:left", names={"left": "right"})
    d.group("ring", x="900 mm", y="10 mm")
    d.board("stave", "ply12", "facing_front", "-120 mm", ("-50 mm", "50 mm"), (0, "80 mm"))
    d.repeat("round", "ring", "part:stave", axis="z", at={"x": "0", "y": "0"}, number="8", angle="360 deg")
    d.data["joints"]["m"] = {"kind": "mitre", "a": "stave", "b": "stave@round.1"}
    d.turn("ring", "x", "lean", "groups", y="0", z="0")
    d.group("crossed", z="600 mm")
    d.board("one", "ply12", "facing_side", "0", ("-150 mm", "150 mm"), (0, "80 mm"), face="centre")
    d.board("other", "ply12", "facing_side", "0", ("-150 mm", "150 mm"), (0, "80 mm"), face="centre")
    d.turn("other", "z", "65 deg", x="0", y="0").joint("cross_lap", "one", "other")
    d.board("flat_one", "ply12", "lying", "200 mm", ("-150 mm", "150 mm"), ("-20 mm", "20 mm"))
    d.board("flat_other", "ply12", "lying", "200 mm", ("-150 mm", "150 mm"), ("-20 mm", "20 mm"))
    d.turn("flat_other", "z", "50 deg", x="0", y="0").joint("half_lap", "flat_one", "flat_other")
    d.inside = ""
    outlines = {
        "disc": {"kind": "disc"},
        "hoop": {"kind": "ring", "inner": d.entry("40 mm")},
        "link": {
            "kind": "link",
            "low": d.entry("60 mm"),
            "high": d.entry("40 mm"),
            "bore_low": d.entry("8 mm"),
            "bore_high": d.entry("6 mm"),
        },
        "traced": {"kind": "traced", "part": "cornered", "offset": d.entry("4 mm")},
    }
    for i, (name, outline) in enumerate(outlines.items()):
        d.board(name, "ply6", "lying", f"{1000 + 20 * i} mm", (0, "100 mm"), (0, "60 mm" if name == "link" else "100 mm"), outline=outline)
    d.board("cornered", "ply6", "lying", "1200 mm", (0, "160 mm"), (0, "120 mm"))
    here = ("centre", "0")
    d.feature("cornered", "c", "corner", here, here, corner="all", style="round", size="12 mm")
    d.feature("cornered", "s", "corner", here, here, corner="front-left", style="step", size="20 mm", size_2="15 mm")
    d.feature("cornered", "t", "taper", here, here, edge="back", low="3 mm", high="9 mm")
    d.feature("cornered", "e", "edge_curve", here, here, edge="right", rise="8 mm", bulge="in")
    d.feature("cornered", "n", "edge_notch", here, here, edge="front", shape="square", width="20 mm", depth="9 mm", radius="3 mm")
    d.repeat("grid", "grid", "part:disc", axis="y", number="n", spacing="120 mm", axis_2="x", number_2="2", spacing_2="-150 mm")
    d.repeat("row", "row", "copy:grid", "part:disc", axis="z", length="400 mm", largest="150 mm")
    d.bore("rod", "z", {"x": "50 mm", "y": "50 mm"}, "6 mm", disc=("cut", "0"), hoop=("mark", "0"))
    face = {"part": "left", "what": "face", "name": "left"}
    d.data["sizes"]["gap"] = {
        "name": "gap",
        "entry": d.entry("0"),
        "measured": {"a": face, "b": {"part": "left@handed.1"}, "along": "straight"},
    }
    d.clearance("room", {"part": "left"}, {"part": "left@handed.1"}, least="width / 20", most="2 m")
    d.clearance("play", {"part": "top", "what": "edge", "name": "left-front"}, face, "y", least="1 mm")
    return d.document().dump()


def _leaning():
    """Holes askew through a seat that slopes, its copy and a floor, one of them along the seat's own axes."""
    d = Draft("leaning", "ply12")
    d.board("left", "ply12", "lying", 0, (0, "200 mm"), (0, "160 mm")).turn("left", "y", "12 deg", x="0", z="0")
    d.board("front", "ply12", "lying", "-150 mm", ("-100 mm", "300 mm"), (0, "160 mm"))
    d.size("width", "60 mm")
    for name, of, lean, action in (("square", "left", None, "cut"), ("leans", "", "20 deg", "drill"), ("both", "left", "-9 deg", "mark")):
        at = {"x": "width", "y": "80 mm"} | ({} if lean is None else {"z": "6 mm"})
        d.bore(name, "z", at, "9 mm", left=("drill", "0"), front=(action, "0.2 mm")).askew(
            name, of, lean, None if lean is None else "70 deg"
        )
    d.bore("edge", "x", {"y": "20 mm", "z": "front.centre"}, "4 mm", front=("drill", "0"))
    return d.mirror("image", "x", "-120 mm", "part:left").document().dump()


DOCUMENTS = [
    laid_out(),
    *(f().dump() for f in EXAMPLES.values()),
    *(spelled_out(kind) for kind in MEETING),
    starter("closed-box", "Chest").dump(),
    starter("tray", "Tray").dump(),
    starter("shelf-case", "Case").dump(),
]
#: The same, and one with holes askew; kept figures are numbered by those alone.
ALL = [*DOCUMENTS, _leaning()]
TEXTS = [
    "0",
    "-5 mm",
    "1e9 mm",
    "1e-9 mm",
    "1e300",
    "width",
    "left.right",
    "front.top",
    "front.centre",
    "90 deg",
    "((",
    "3",
    "7.5",
    "snug",
    "11 ga",
    "0.001",
    "width * width",
    "mid(left.left, right.right)",
    "400 mm",
    "12 mm",
    "5",
    "-3",
    "nobody.top",
    "100000",
    "height - 1",
    "front.thickness",
]


@settings(max_examples=drawn(4))
@given(st.sampled_from(ALL), st.lists(st.tuples(st.integers(0, 10_000), st.sampled_from(TEXTS)), min_size=1, max_size=4))
def test_any_text_in_any_entry_gives_a_result_and_problems(data, changes):
    places = sorted(p for p, _ in entries(data))
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


@settings(max_examples=drawn(30))
@given(st.sampled_from(ALL), st.data())
def test_any_record_may_be_removed_or_is_refused_with_a_reason(data, draw):
    groups = [
        g for g in ("sizes", "stocks", "cutters", "fits", "parts", "joints", "bores", "groups", "copies", "clearances") if data.get(g)
    ]
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

    document, _, _ = apply_patch(EXAMPLES["frame"]().dump(), [{"op": "replace", "path": "/name", "value": name}])
    for file in part_files(build(document), "svg", "nominal"):
        assert "/" not in file and ".." not in file and "<" not in file
