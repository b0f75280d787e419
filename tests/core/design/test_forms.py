"""What a screen asks for makes a record: every form, begun as a draft begins it, with each of its choices, is read by the document and built."""

import math
from itertools import pairwise
from typing import get_args

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.features import FEATURE_RECORDS
from zygon.design.forms import Form, forms
from zygon.design.joints import JOINT_RECORDS
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.geometry.frame import FACES, Plane, frame_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry, Record
from zygon.stock.bending import BendRule
from zygon.stock.brake import suits
from zygon.stock.cutter import cut_width
from zygon.stock.fit import FIT_NAMES

FEATURES = {f.kind: f for f in forms().features}
JOINTS = {f.kind: f for f in forms().joints}

#: A field of holes begins as metal has them, too fine for plywood and a bit; a plane at nought misses what stands on it, or takes it all.
FINE = {"thin_web", "too_small"}


def among(field, plane):
    frame = frame_of(plane)
    low, high = FACES[frame.u], FACES[frame.v]
    return {"edge": [*low, *high], "corner": ["all", f"{high[0]}-{low[1]}"], "way": ["u", "v"], "outline": ["all", *low, *high]}[
        field.among
    ]


def begun(form, plane, small=False):
    """What the interface puts into a new record."""
    record = {"kind": form.kind, "u": {"origin": "centre"}, "v": {"origin": "centre"}}
    for field in form.fields:
        begin = field.small if small else field.begin
        if field.among:
            record[field.name] = begin or among(field, plane)[0]
        elif not field.optional:
            record[field.name] = {"text": begin} if field.type == "entry" else begin
    return record


def plate(plane):
    d = Draft("plate", "ply12", cutter="router")
    d.board("p", "ply12", plane, 0, (0, 400), (0, 300))
    return d.document().dump()


@pytest.mark.parametrize("plane", get_args(Plane))
@pytest.mark.parametrize("kind", FEATURE_RECORDS)
def test_a_feature_begun_by_its_form_is_made_in_every_plane_and_choice(kind, plane):
    form, data = FEATURES[kind], plate(plane)
    plain = build(load(data)).flats["p"].flat
    first = begun(form, plane)
    records = [first]
    for field in form.fields:
        values = among(field, plane) if field.among else [c.value for c in field.choices]
        records += [{**first, field.name: v} for v in values]
    for record in records:
        built = build(patched(data, [{"op": "add", "path": "/parts/p/features/new", "value": record}]))
        faults = [p.fault for p in check(built) if p.fault.owner == "feature:p:new" or "/features/new" in p.fault.entry]
        assert [f.code for f in faults if f.severity == "error" and f.code not in FINE and kind != "trim"] == [], record
        # a plane at nought cuts nothing off what stands on it
        assert built.flats["p"].flat != plain or kind == "trim", record


@pytest.mark.parametrize("kind", [f.kind for f in FEATURES.values() if f.in_metal])
def test_what_may_be_cut_into_a_flange_is_made_there_as_it_begins(kind):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 400), (0, 300), up="a")
    d.fold("p").flange("p", "f", "left", 120)
    record = begun(FEATURES[kind], "lying", small=True)
    built = build(patched(d.document().dump(), [{"op": "add", "path": "/parts/p/folding/flanges/f/features", "value": {"h": record}}]))
    assert [p.fault.code for p in check(built) if p.fault.severity == "error"] == []


@pytest.mark.parametrize("kind", [f.kind for f in FEATURES.values() if not f.in_metal])
def test_what_may_not_be_cut_into_a_flange_is_refused_by_its_word(kind):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 400), (0, 300), up="a")
    d.fold("p").flange("p", "f", "left", 120)
    record = begun(FEATURES[kind], "lying")
    built = build(patched(d.document().dump(), [{"op": "add", "path": "/parts/p/folding/flanges/f/features", "value": {"h": record}}]))
    assert [f.code for f in built.faults if "is not made in sheet metal" in f.message] != []


def test_kinds_are_told_apart_by_their_words():
    for group in (forms().joints, forms().features):
        titles = [f.title for f in group]
        assert len(set(titles)) == len(titles)
        assert all(t[0].isupper() and "_" not in t for t in titles)
        for form in group:
            labels = [f.label for f in form.fields]
            assert len(set(labels)) == len(labels), form.kind
            assert all(label and "_" not in label for label in labels)
            assert all(c.label for f in form.fields for c in f.choices)
    words = [r.word for r in FEATURE_RECORDS.values()]
    assert len(set(words)) == len(words)
    assert all(w == w.lower() and w for w in words)


def test_choices_are_those_that_the_record_reads_and_no_more():
    for kind, record in JOINT_RECORDS.items():
        for field in JOINTS[kind].fields:
            for choice in field.choices:
                assert getattr(record(a="a", b="b", **{field.name: choice.value}), field.name) == choice.value
            if field.type == "choice":
                assert field.default in {c.value for c in field.choices}
            if field.type == "entry":
                value = getattr(record(a="a", b="b"), field.name)
                assert (value.text if isinstance(value, Entry) else value) == field.default


def every_form(said):
    """All forms in what is given, also those within others."""
    if isinstance(said, Form):
        yield said
    for value in (said if isinstance(said, tuple) else [v for _, v in said]) if isinstance(said, (tuple, Record)) else ():
        yield from every_form(value)


EVERY = list(every_form(forms()))


@pytest.mark.parametrize("form", EVERY, ids=lambda f: f.kind)
def test_a_field_that_hangs_on_another_hangs_on_one_that_is_there_and_comes_after_it(form):
    names = [f.name for f in form.fields]
    for field in form.fields:
        for only in field.only:
            other = next(f for f in form.fields if f.name == only.field)
            every = {"true", "false"} if other.type == "flag" else {c.value for c in other.choices}
            assert set(only.values) <= every and (other.type == "flag" or set(only.values) != every)
            assert names.index(other.name) < names.index(field.name)
        assert {c.value for c in field.labels} <= set(field.only[0].values if field.only else ())
    assert [f.name for f in form.fields if f.along] == (["at"] if form.kind == "trim" else [])


def test_every_form_is_found_by_the_test_of_its_fields():
    assert {"cutter", "work", "layer", "fits", "brake", "punches", "dies", "bending", "rules", "marks", "member", "sheets", "lengths"} < {
        f.kind for f in EVERY
    }
    assert (
        len(EVERY)
        == sum(len(getattr(forms(), n)) for n in ("joints", "features", "flanges", "bends", "stocks", "copies", "outlines", "readings"))
        + 34
    )


def test_fields_stand_in_the_order_of_a_card():
    dovetail = [f.name for f in JOINTS["dovetail_lap"].fields]
    assert all(a != b for a, b in pairwise(dovetail))
    assert dovetail == ["share", "keeps", "slope", "angle", "shoulder", "held", "relief"]


@pytest.mark.parametrize(
    "kind, placed, mirrors, faced, in_metal",
    [
        ("hole", "free", True, True, True),
        ("edge_hole", "along_edge", False, False, False),
        ("slot", "free", True, True, True),
        ("rectangle", "free", True, True, True),
        ("hand_hold", "free", True, True, True),
        ("perforation", "free", True, True, True),
        ("fan", "free", True, True, True),
        ("pocket", "free", True, True, False),
        ("groove", "across_way", True, True, False),
        ("rebate", "none", False, True, False),
        ("corner", "none", False, False, False),
        ("taper", "none", False, False, False),
        ("edge_curve", "none", False, False, False),
        ("edge_notch", "along_edge", False, False, False),
        ("trim", "none", False, False, False),
        ("mark_line", "free", True, True, True),
        ("mark_circle", "free", True, True, True),
        ("mark_text", "free", True, True, True),
    ],
)
def test_where_each_kind_of_feature_may_be(kind, placed, mirrors, faced, in_metal):
    form = FEATURES[kind]
    assert (form.placed, form.mirrors, form.faced, form.in_metal) == (placed, mirrors, faced, in_metal)


FLANGES = {f.kind: f for f in forms().flanges}


@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("kind", FLANGES)
def test_a_flange_as_it_starts_is_bent_on_every_edge_with_each_of_its_choices(kind, toward):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 400), (0, 300), up="a")
    d.fold("p")
    form, data = FLANGES[kind], d.document().dump()
    choices = [(f.name, c.value) for f in form.fields for c in f.choices if f.section == ""]
    asked_for = [{}] + [{n: v} for n, v in choices if (n, v) != ("toward", "a")]
    for edge, more in [*((e, {}) for e in ("left", "right", "front", "back")), *(("front", m) for m in asked_for)]:
        flange = {**form.start, "edge": edge, "toward": toward, **more}
        built = build(patched(data, [{"op": "add", "path": "/parts/p/folding/flanges/f", "value": flange}]))
        assert [p.fault.code for p in check(built) if p.fault.severity == "error"] == [], (edge, more)
        # the line that it stands for is bent: the offset and the profile have two
        assert len(built.flats["p"].flat.fold.bends) == {"offset": 2, "profile": 2}.get(kind, 1) * (
            2 if more.get("mirrored") in ("u", "v") else 1
        )


def test_flanges_start_with_these_sizes():
    starts = {k: {n: v["text"] for n, v in f.start.items() if isinstance(v, dict) and "text" in v} for k, f in FLANGES.items()}
    assert starts == {
        "flange": {"length": "25 mm"},
        "hem": {"length": "10 mm"},
        "offset": {"length": "25 mm", "height": "8 mm"},
        "profile": {},
        "drawn": {},
        "line": {"at": "40 mm"},
        "tab": {"length": "22 mm", "first": "30 mm", "rounding": "4 mm"},
    }
    gussets = next(f for f in forms().bends if f.kind == "gussets")
    assert [(f.name, f.type, f.begin, f.least, f.most) for f in gussets.fields] == [
        ("number", "number", "2", 1, 100),
        ("width", "entry", "8 mm", None, None),
        ("depth", "entry", "10 mm", None, None),
    ]
    assert [f.name for f in FLANGES["line"].fields if f.section] == []
    assert {f.name: f.blank for f in FLANGES["flange"].fields if f.optional} == dict.fromkeys(
        ("radius", "measured", "where", "rounding", "corner_shape"), "as the part has it"
    )


STOCKS = {f.kind: f for f in forms().stocks}


@pytest.mark.parametrize("kind", STOCKS)
def test_a_stock_as_it_starts_is_read_with_each_size_and_each_choice(kind):
    form = STOCKS[kind]
    d = Draft("d", "ply12")
    sizes = {f"s{n}": size.start for n, size in enumerate(form.sizes)}
    stock = {**form.start, form.sold: {**form.start[form.sold], **sizes}}
    choices = [(f.name, c.value) for f in form.fields for c in f.choices]
    for more in [{}, *({n: v} for n, v in choices if v != "drawn")]:  # a section that is drawn begins by being drawn
        built = build(patched(d.document().dump(), [{"op": "add", "path": "/stocks/new", "value": {**stock, **more}}]))
        read = getattr(built.document.stocks["new"], form.sold)
        assert len(read) == 1 + len(form.sizes)
        assert [f for f in built.faults if "/stocks/new" in f.entry] == []
    numbers = {f.name: (f.least, f.most, f.suffix, f.step) for f in form.fields if f.type == "number"}
    metre = (
        {"metre": (0.1, 1000, " kg", 0.1), "sawing": (0.0, 3600.0, " s", 5.0), "springs": (0, 50, " %", 0.5)}
        if form is STOCKS["bar"]
        else {}
    )
    reach = (0.5, 20, " diameters", 0.5)
    assert numbers == {"density": (0.01, 25, " g/cm³", 0.01), "engages": reach, "engages_along": reach, **metre}


def shown(form, record):
    """The labels of the fields that a card shows, as the interface does it."""
    said = {f.name: record.get(f.name, f.default) for f in form.fields}
    by = {f.name: {c.value: c.label for c in f.labels} for f in form.fields}
    return {
        f.name: by[f.name].get(str(said[f.only[0].field]), f.label) if f.only else f.label
        for f in form.fields
        if f.section != "made" and all(str(said[o.field]) in o.values for o in f.only)
    }


def test_a_size_shows_what_it_has_and_a_roll_no_length_and_no_number():
    sheet, bar = STOCKS["sheet"].size, STOCKS["bar"].size
    assert shown(sheet, {}) == {"length": "Sheet length", "width": "Sheet width", "price": "Price", "grain": "Its grain"}
    assert shown(sheet, {"roll": "true"}) == {"width": "Roll width", "price": "Price a metre"}
    assert shown(bar, {}) == {"length": "Bar length", "price": "Price"}


def test_a_bar_is_asked_for_its_section_and_a_sheet_for_its_kind():
    assert [(f.name, f.label) for f in STOCKS["bar"].fields] == [
        ("name", "Name"),
        ("material", "Material"),
        ("shape", "Section"),
        ("nominal", "Across"),
        ("width", "Width"),
        ("wall", "Wall"),
        ("corner", "Corner radius"),
        ("measured", "Measured"),
        ("density", "Density"),
        ("metre", "Mass of a metre"),
        ("tint", "Colour in pictures"),
        ("kerf", "Saw takes"),
        ("sawing", "A cut takes"),
        ("trim", "End trim"),
        ("least_radius", "Least bend"),
        ("springs", "Springs back"),
        ("engages", "Thread reaches in"),
        ("engages_along", "By the edge"),
    ]
    assert [(f.name, f.type) for f in STOCKS["sheet"].fields] == [
        ("name", "text"),
        ("material", "text"),
        ("nominal", "entry"),
        ("measured", "entry"),
        ("gauge", "choice"),
        ("hatch", "choice"),
        ("grain", "choice"),
        ("faces", "choice"),
        ("density", "number"),
        ("tint", "colour"),
        ("engages", "number"),
        ("engages_along", "number"),
    ]


def test_a_text_is_as_long_as_its_record_takes_it():
    (text,) = (f for f in FEATURES["mark_text"].fields if f.type == "text")
    assert (text.name, text.most) == ("text", 80)
    assert {f.name: f.most for f in STOCKS["bar"].fields if f.type == "text"} == {"name": 80, "material": 40}


def test_a_cutter_is_asked_for_what_it_cuts_with():
    form = forms().cutter
    common = ["name", "kind", "smallest", "bed_length", "bed_width", "travel", "hourly"]
    paths = ["lead", "lead_length", "lead_at", "common", "joints", "joint_width", "corner_speed", "corner_way", "acceleration"]
    assert [n for n in shown(form, {"kind": "router"}) if n not in common] == ["bit", "pass_depth", "acceleration"]
    assert {k: v for k, v in shown(form, {"kind": "saw"}).items() if k not in common} == {"kerf": "Blade width"}
    laser = {k: v for k, v in shown(form, {"kind": "laser"}).items() if k not in common}
    assert list(laser) == ["kerf", *paths] and laser["kerf"] == "Kerf"
    assert [f.name for f in form.fields if f.section == "bed"] == common[3:]
    assert [f.name for f in form.fields if f.section == "path"] == paths
    # a bench cuts some plastics at a fifth of a millimetre a second: what is over nought is typed to a hundredth
    numbers = {
        f.name: (f.least, f.most, f.suffix, f.step) for f in (*form.fields, *form.work.fields, *form.layer.fields) if f.type == "number"
    }
    assert numbers == {
        "travel": (1, None, " mm/s", 1),
        "hourly": (0, None, " CURRENCY", 1),
        "cut_speed": (0.01, None, " mm/s", 1),
        "mark_speed": (0.01, None, " mm/s", 1),
        "pierce": (0, None, " s", 0.1),
        "line_width": (0, 2, " mm", 0.05),
        "acceleration": (1, 200_000, " mm/s²", 1),
        "joints": (0, 20, "", 1),
        "corner_speed": (1, 100, " %", 5),
        "power": (0, 100, " %", 1),
        "mark_power": (0, 100, " %", 1),
        "spindle": (1, 100_000, " rpm", 1000),
        "plunge": (0.01, None, " mm/s", 1),
    }


def test_a_cutter_as_it_starts_is_read_with_each_choice_and_writes_the_layers_that_are_asked_for():
    form = forms().cutter
    data = Draft("d", "ply12").document().dump()
    for kind in [c.value for f in form.fields if f.name == "kind" for c in f.choices]:
        for line in [c.value for f in form.layer.fields if f.name == "line" for c in f.choices]:
            layers = {n.value: {"name": f"L{k}", "colour": "#010203", "line": line} for k, n in enumerate(form.layers)}
            cutter = {**form.start, "kind": kind, "bit": {"text": "4 mm"}, "layers": layers, "work": {"ply12": form.work.start}}
            read = load(patched(data, [{"op": "add", "path": "/cutters/new", "value": cutter}]).dump()).cutters["new"]
            assert read.kind == kind and read.work["ply12"].cut_speed == 10
            assert [getattr(read.layers, n.value).name for n in form.layers] == [f"L{k}" for k in range(8)]
            assert cut_width(read, "ply12") == (4 if kind == "router" else 0.2)
    assert [f.name for f in form.fits.fields] == list(FIT_NAMES)
    assert [(f.name, f.type) for f in form.layer.fields] == [
        ("name", "text"),
        ("colour", "colour"),
        ("line_width", "number"),
        ("line", "choice"),
    ]


def test_a_brake_as_it_starts_bends_what_its_die_carries():
    form = forms().brake
    assert [(t.kind, t.title) for t in form.tools] == [("punches", "Punches"), ("dies", "Dies")]
    brake = load(patched(Draft("d", "ply12").document().dump(), [{"op": "add", "path": "/brakes/new", "value": form.start}]).dump()).brakes[
        "new"
    ]
    punch, die = brake.punches["p"], brake.dies["d"]
    assert (punch.angle, punch.radius, die.v, die.angle) == (88, 1, 10, 88)
    assert suits(die.v, 1) and not suits(die.v, 2.1)
    assert [f.name for f in form.fields if f.section == "reach"] == ["gauge", "free", "joggle", "joggle_radius", "joggle_angle"]
    (least,) = (f for f in form.tools[1].fields if f.optional)
    assert (least.name, least.blank, least.least) == ("least_flange", "by V", 1)


def test_bends_are_asked_for_k_only_where_k_is_the_rule():
    form = forms().bending
    assert form.start == {"rule": "k"}
    rules = next(f for f in form.fields if f.name == "rule")
    assert {c.value for c in rules.choices} == set(get_args(BendRule)) and all(c.label != c.value for c in rules.choices)
    assert [c.value for c in rules.choices if "k" in shown(form, {"rule": c.value})] == ["k"]


def test_rules_are_counted_in_thicknesses_and_marks_are_off():
    assert {f.name: (float(f.default), f.least, f.most, f.step) for f in forms().rules.fields} == {
        "finger": (0.5, 0, 10, 0.1),
        "web": (1, 0, 10, 0.1),
        "edge": (1, 0, 10, 0.1),
        "floor": (0.25, 0, 1, 0.05),
    }
    assert {f.name: f.default for f in forms().marks.fields} == {
        "numbers": "false",
        "mates": "false",
        "inside": "false",
        "grain": "false",
        "height": "6 mm",
    }


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("form", forms().copies, ids=lambda f: f.kind)
def test_a_copy_as_it_begins_is_made_along_every_axis(form, axis):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 20), (0, 30))
    for section in sorted({f.section for f in form.fields if f.section} or {""}):
        asked = [f for f in form.fields if f.section in ("", section)]
        said = {f.name: {"text": f.begin} if f.type == "entry" else f.begin == "true" if f.type == "flag" else f.begin for f in asked}
        other = next(a for a in "xyz" if a != axis)
        said = {**said, "axis": axis, **({"axis_2": other} if "axis_2" in said else {})}
        line = {a: {"text": "200 mm"} for a in "xyz" if a != axis}
        at = {"mirror": {"at": {"text": "300 mm"}, "names": {"p": "q"}}, "ring": {"at": line}}.get(form.kind, {})
        record = {"kind": form.kind, "name": "c", "of": ["part:p"], **said, **at}
        built = build(patched(d.document().dump(), [{"op": "add", "path": "/copies/c", "value": record}]))
        assert not built.faults
        # so many in all as the form begins with; 500 mm at 150 mm at most are five
        assert len(built.parts) == {"mirror": 2, "row": {"number": 3, "fill": 5}.get(section), "grid": 6, "ring": 6}[form.kind]
    (way,) = (f for f in form.fields if f.name == "axis")
    assert [c.label for c in way.choices] == ["left to right", "front to back", "bottom to top"]


def test_outlines_are_offered_with_what_each_begins_with():
    offered = {f.kind: {x.name: x.begin for x in f.fields if x.begin} for f in forms().outlines}
    assert offered == {
        "disc": {},
        "ring": {"inner": "40 mm"},
        "link": {"bore_low": "8 mm", "bore_high": "8 mm"},
        "gear": {"module": "2 mm", "teeth": "24", "pressure": "20 deg", "backlash": "0.1 mm", "bore": "8 mm"},
        "free": {},
        "traced": {"offset": "0"},
        "drawn": {},
    }
    for kind, begin in offered.items():
        if kind in ("free", "traced", "drawn", "gear"):  # a gear is as wide as its teeth have it: its own tests
            continue
        d = Draft("d", "ply12")
        d.board("p", "ply12", "lying", 0, (0, 200), (0, 60 if kind == "link" else 200))
        outline = {"kind": kind, **{k: {"text": v} for k, v in begin.items()}}
        built = build(patched(d.document().dump(), [{"op": "add", "path": "/parts/p/outline", "value": outline}]))
        assert not built.faults and len(built.flats["p"].flat.pieces[0].inner) == {"disc": 0, "ring": 1, "link": 2}[kind]


def test_a_corner_has_a_gap_unless_it_is_open_and_names_both_flanges():
    (form,) = (f for f in forms().bends if f.kind == "corner")
    ways = next(f for f in form.fields if f.name == "style")
    assert {c.value: "gap" in shown(form, {"style": c.value}) for c in ways.choices} == {
        "open": False,
        "closed": True,
        "a_covers": True,
        "b_covers": True,
    }
    assert {c.value: c.label for c in ways.choices if len(c.label) == 1} == {"a_covers": "A", "b_covers": "B"}
    assert [(f.label, f.value_kind, f.begin) for f in forms().turn.fields] == [("By", "angle", "10 deg")]


def test_what_goes_with_a_choice():
    """Sheet metal is what bends, and nothing else; a flange that takes a part of an edge begins with a width."""
    (kind,) = (f for f in STOCKS["sheet"].fields if f.name == "hatch")
    assert {b.choice: (b.field, b.value) for b in kind.brings} == {
        "ply": ("bends", False),
        "metal": ("bends", True),
        "plastic": ("bends", False),
        "board": ("bends", False),
    }
    assert [c.value for c in kind.choices] == [b.choice for b in kind.brings]
    for form in forms().flanges:
        for field in form.fields:
            found = [(b.choice, b.field, b.value, b.default) for b in field.brings]
            takes = [("centred", "first", "30 mm", "0"), ("between", "second", "30 mm", "0"), ("room", "second", "30 mm", "0")]
            assert found == (takes if field.name == "extent" else [])


@pytest.mark.parametrize("choice", ["centred", "between", "room"])
@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_a_flange_with_what_its_extent_brings_is_bent(choice, edge):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 160), (0, 100))
    d.fold("p").flange("p", "f", edge, "20 mm")
    (field,) = (f for f in next(f for f in forms().flanges if f.kind == "flange").fields if f.name == "extent")
    flange = d.data["parts"]["p"]["folding"]["flanges"]["f"]
    flange["extent"] = choice
    bare = build(d.document()).faults
    flange |= {b.field: d.entry(b.value) for b in field.brings if b.choice == choice}
    built = build(d.document())
    assert bare and not built.faults
    (bend,) = built.flats["p"].flat.fold.bends
    assert math.dist(bend.start, bend.end) == pytest.approx(30)


SHAPES = {s.kind: s for s in forms().shapes}
#: Bends, and those towards face B, of each shape.
BENDS = {"angle": (1, 0), "channel": (2, 0), "hat": (4, 2), "zed": (2, 1), "sill": (3, 1), "tray": (4, 0)}


def lengthened(flange, lengths):
    if isinstance(flange, dict):
        return (
            {"text": lengths.get(flange["text"], flange["text"])}
            if "text" in flange
            else {k: lengthened(v, lengths) for k, v in flange.items()}
        )
    return [lengthened(x, lengths) for x in flange] if isinstance(flange, list) else flange


@pytest.mark.parametrize("plane", get_args(Plane))
@pytest.mark.parametrize("shape", BENDS)
def test_a_shape_is_bent_as_it_begins_in_every_plane_and_way(shape, plane):
    assert list(SHAPES) == list(BENDS)
    form, frame = SHAPES[shape], frame_of(plane)
    assert (form.lip != "") == (shape in ("hat", "sill")) and form.one_way == (shape != "tray")
    for way, across in (("u", frame.v), ("v", frame.u)):
        d = Draft("shape", "galv20")
        d.board("p", "galv20", plane, 0, (0, 400), (0, 300), up="a")
        d.fold("p")
        flanges = lengthened(form.flanges[plane][way], form.begin)
        built = build(patched(d.document().dump(), [{"op": "add", "path": "/parts/p/folding/flanges", "value": flanges}]))
        assert [p.fault.code for p in check(built) if p.fault.severity == "error"] == []
        bends = built.flats["p"].flat.fold.bends
        many, down = BENDS[shape]
        assert len(bends) == many
        # the legs of the sill's nose go down and back up; brims go the other way than their flanges
        assert sum(b.angle < 0 for b in bends) == {"sill": 1}.get(shape, down)
        edges = [f["edge"] for f in flanges.values() if "on" not in f]
        assert edges == {"angle": [FACES[across][1]], "tray": [*FACES[across], *FACES[frame.u if across == frame.v else frame.v]]}.get(
            shape, [*FACES[across]]
        )
        assert [f["order"] for f in flanges.values()] == list(range(len(flanges)))
