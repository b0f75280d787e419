"""What is said of boards and other parts: the figures against the features they are of, all faces and corners, alone and combined."""

from __future__ import annotations

import io
import math

import ezdxf
import pytest

from tests.core.making.kinds.test_turned import part as turned
from tests.core.paper.sheets import built_example, pages
from zygon.design.draft import Draft
from zygon.design.papers import Papers, SheetSaid
from zygon.design.patch import apply_patch
from zygon.exchange.bundle import part_file
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.paper.figures import PaperFigures
from zygon.paper.of_flat import flat_view, lying_up
from zygon.paper.subjects import subjects


def said(built: Built, subject: str, name: str = "") -> dict[str, str]:
    """The texts on a sheet by the dimensions' names."""
    return {d.name: d.text for p in pages(built, subject) for d in p.dimensions if name in d.name}


def test_the_hand_hold_stands_in_the_middle_where_its_entries_put_it():
    built = built_example("brood-box")
    flat = built.flats["front"]
    found = said(built, "part:front", "feature:front:hold")
    assert found["front/shape/feature:front:hold/1"] == "slot 30 × 105"
    assert found["front/x/feature:front:hold/1/centre"] == "210"
    assert found["front/y/feature:front:hold/1/centre"] == "160"  # 240 high, 80 from the top
    assert flat.flat.size == pytest.approx((420, 240))
    assert said(built, "part:front", "/size/") == {"front/size/across": "420", "front/size/up": "240"}


def test_a_changed_size_changes_exactly_the_figures_that_name_it():
    before = built_example("brood-box")
    document = before.document.dump()
    document["sizes"]["hold"]["entry"]["text"] = "111 mm"
    after = build(apply_patch(document, [])[0])
    for subject in subjects(before):
        old, new = said(before, subject.id), said(after, subject.id)
        assert set(old) == set(new)
        changed = {n for n in old if old[n] != new[n]}
        reads = {
            "part:front": "front/shape/feature:front:hold/1",
            "part:back": "front/shape/feature:back:hold/1",
            "part:cover": "front/shape/feature:cover:hold/1",
        }
        assert changed <= {reads.get(subject.id, "")}, subject.id
        if subject.id == "part:front":
            assert new["front/shape/feature:front:hold/1"] == "slot 30 × 111"


@pytest.mark.parametrize("datum", ["low left", "low right", "high left", "high right"])
@pytest.mark.parametrize("places", ["coordinates", "base line", "chain"])
def test_places_are_measured_from_the_corner_that_is_said(datum, places):
    """Every figure is the distance of its two ends on the paper over the scale; from the datum, or in chains from the place before."""
    document = built_example("brood-box").document
    papers = Papers(places=places, sheets={"part:front": SheetSaid(datum=datum)})
    built = build(document.model_copy(update={"papers": papers}))
    (page,) = pages(built, "part:front")
    placed = [d for d in page.dimensions if d.name.split("/")[1] in ("x", "y")]
    assert len(placed) == 8
    figures = PaperFigures(document)
    flat = built.flats["front"].flat
    spots = flat_view(built, built.flats["front"], lying_up(built.flats["front"]), name="front").spots
    for way in ("x", "y"):
        k, size = "xy".index(way), flat.size["xy".index(way)]
        own = [d for d in placed if d.name.split("/")[1] == way]
        high = ("right" in datum) if way == "x" else ("high" in datum)
        truth = sorted({round(abs((size if high else 0) - spots[d.name.split("/", 2)[2]].at[k]), 4) for d in own})
        values = sorted(d.value for d in own)
        if places == "chain":
            assert sorted(values) == pytest.approx(sorted(b - a for a, b in zip([0, *truth], truth, strict=False)))
        else:
            assert values == pytest.approx(truth)
        for d in own:
            assert d.text == figures.length(d.value)
            assert abs(d.p[k] - d.q[k]) / d.scale == pytest.approx(d.value, abs=1e-6)


@pytest.mark.parametrize("display", ["mm", "in", "fraction"])
def test_figures_are_in_the_unit_that_the_design_is_shown_in(display):
    document = built_example("brood-box").document
    built = build(document.model_copy(update={"display": display}))
    found = said(built, "part:front", "/size/across")["front/size/across"]
    assert found == {"mm": "420", "in": "16.535", "fraction": "16-17/32"}[display]


def test_of_a_field_of_holes_only_the_outermost_are_placed():
    """29 holes of one perforation: how many and how wide once, no row of 29 figures."""
    built = built_example("electronics-box")
    found = said(built, "flat:base")
    (field,) = [t for n, t in found.items() if t.startswith("29 ×")]
    assert field == "29 × ⌀ 3.5, in a field: the outermost are placed"
    perforation = next(n for n, t in found.items() if t == field).split("/", 2)[2].rpartition("/")[0]
    assert 1 <= len([n for n in found if perforation in n and "/x/" in n]) <= 2


def test_joints_are_told_with_how_many_fingers_how_wide_and_how_deep():
    built = built_example("brood-box")
    joint = built.joints["front-right"]
    mine = [f for f in joint.fingers if f.owner == "front"]
    text = said(built, "part:front", "joint:front-right")["front/joint/joint:front-right"]
    figures = PaperFigures(built.document)
    thick = built.flats["right"].flat.thickness
    assert text == f"finger joint, {len(mine)} × {figures.length(mine[0].high - mine[0].low)} wide, {figures.length(thick)} deep, to right"


def test_a_blind_hole_says_how_deep_and_from_which_face():
    built = built_example("tool-chest")
    left = said(built, "part:left", "hole/")
    flat = lying_up(built.flats["left"])
    for pocket in flat.pockets:
        if pocket.as_circle:
            figures = PaperFigures(built.document)
            words = f"⌀ {figures.length(2 * pocket.as_circle[2])}, {figures.length(pocket.depth)} deep"
            words += "" if pocket.face == flat.seen else ", far side"
            assert any(words in t for t in left.values()), words


@pytest.mark.parametrize("name", ["roof", "frame-rests", "electronics-box", "smoker-hook", "feeder-tray", "entrance-guard"])
def test_bend_lines_are_placed_and_numbered_as_their_table(name):
    built = built_example(name)
    for subject in subjects(built):
        if subject.kind != "flat":
            continue
        made = pages(built, subject.id)
        fold = lying_up(built.flats[subject.key]).fold
        rows = [i for p in made for n, own in p.movable.items() if n == "table/bends" for i in own] or [i for p in made for i in p.drawn]
        texts = {getattr(i, "text", "") for i in rows}
        for bend in fold.bends:
            ring = next(own for p in made for k, own in p.movable.items() if k == f"flat/bend/{bend.owner}/{bend.key}")
            words = [i.text for i in ring if hasattr(i, "text")]
            assert words[0] in texts  # both bends of an offset are one stroke, and one row of the table twice
            assert words[1] == f"{'▲' if bend.angle > 0 else '▼'} {round(math.degrees(abs(bend.angle)), 2):g}°"


STEPS = ({"across": "40 mm", "length": "12 mm"}, {"across": "20 mm", "to": "10 mm", "length": "8 mm"}, {"across": "14 mm"})


@pytest.mark.parametrize("axis", "xyz")
def test_a_turned_part_says_every_step_once(axis):
    """Ends at 0 and 30, steps at 12 and 20; two cylinders, a taper that is no diameter."""
    built = build(turned(*STEPS, axis=axis).document())
    found = said(built, "part:t")
    assert sorted(t for n, t in found.items() if "/x/" in n) == ["12", "20"]
    assert sorted(t for n, t in found.items() if "/thick" in n) == ["⌀ 14", "⌀ 40"]
    assert found["front/size/across"] == "30"
    (page,) = pages(built, "part:t")
    assert {d.kind for d in page.dimensions if "/thick" in d.name} == {"diameter"}


def entry(text: str) -> dict:
    return {"text": text, "unit": "mm"}


def cut(kind: str, u: str, v: str, **more: object) -> dict:
    return {"kind": kind, "u": {"origin": "LOW_U", "offset": entry(u)}, "v": {"origin": "LOW_V", "offset": entry(v)}, **more}


LOW = {"facing_front": ("left", "bottom"), "facing_side": ("front", "bottom"), "lying": ("left", "front")}
FEATURES = {
    "one": cut("hole", "37 mm", "41 mm", diameter=entry("7.3 mm")),
    "two": cut("hole", "251.5 mm", "63 mm", diameter=entry("7.3 mm")),
    "blind": cut("hole", "120 mm", "150 mm", diameter=entry("11 mm"), depth=entry("4 mm")),
    "way": cut("slot", "160 mm", "90 mm", length=entry("60 mm"), width=entry("9 mm"), angle=entry("0 deg")),
}


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("up", ["a", "b"])
@pytest.mark.parametrize("plane", sorted(LOW))
def test_places_are_those_of_the_cut_file_over_planes_faces_and_hands(plane, up, mirrored):
    """The file that is cut, read back by ezdxf: every circle's middle from the outline's lower left corner is on the sheet, and its diameter."""
    u, v = LOW[plane]
    features = {k: {**f, "u": {**f["u"], "origin": u}, "v": {**f["v"], "origin": v}} for k, f in FEATURES.items()}
    d = Draft("d", "ply12").board("p", "ply12", plane, "0 mm", ("0 mm", "300 mm"), ("0 mm", "200 mm"), features=features, up=up)
    if mirrored:
        d.mirror("m", {"left": "x", "front": "y"}[u], "-20 mm", "part:p", names={"p": "other"})
    built = build(d.document())
    key = next(k for k in built.flats if (k != "p") == mirrored)
    part = built.flats[key]
    _, text = part_file(built, part, "dxf", "nominal")
    space = ezdxf.read(io.StringIO(text)).modelspace()
    circles = [(c.dxf.center.x, c.dxf.center.y, 2 * c.dxf.radius) for c in space.query("CIRCLE")]
    outline = [p for e in space.query("LWPOLYLINE") for p in e.get_points("xy")]
    x0, y0 = min(p[0] for p in outline), min(p[1] for p in outline)
    figures = PaperFigures(built.document)
    found = said(built, f"part:{key}")
    across = {t for n, t in found.items() if "/x/" in n}
    up_ = {t for n, t in found.items() if "/y/" in n}
    assert len(circles) == 3
    for x, y, wide in circles:
        assert figures.length(x - x0) in across and figures.length(y - y0) in up_
        assert any(f"⌀ {figures.length(wide)}" in t for t in found.values())
    assert "2 × ⌀ 7.3" in found.values() and "slot 9 × 60" in found.values()
    assert any(t.startswith("⌀ 11, 4 deep") for t in found.values())


@pytest.mark.parametrize("hidden", [True, False])
def test_what_is_sunk_from_the_far_side_is_dashed_only_where_hidden_edges_are_wanted(hidden):
    back = {
        **FEATURES["blind"],
        "face": "back",
        "u": {**FEATURES["blind"]["u"], "origin": "left"},
        "v": {**FEATURES["blind"]["v"], "origin": "bottom"},
    }
    d = Draft("d", "ply12").board("p", "ply12", "facing_front", "0 mm", ("0 mm", "300 mm"), ("0 mm", "200 mm"), features={"k": back})
    built = build(d.document().model_copy(update={"papers": Papers(hidden=hidden)}))
    (page,) = pages(built, "part:p")
    circles = [i for i in page.drawn if getattr(i, "full", False) and i.of.startswith("feature:p:k")]
    assert [i.pen for i in circles] == (["hidden"] if hidden else [])
    assert any("4 deep, far side" in dim.text for dim in page.dimensions)


def test_an_outline_with_very_many_turns_is_left_to_its_file_and_says_so():
    notch = {"kind": "edge_notch", "edge": "top", "width": entry("5 mm"), "depth": entry("6 mm")}
    features = {
        f"n{k}": {
            **notch,
            "u": {"origin": "left", "offset": entry(f"{12 + 18 * k} mm")},
            "v": {"origin": "bottom", "offset": entry("0 mm")},
        }
        for k in range(12)
    }
    d = Draft("d", "ply12").board("p", "ply12", "facing_front", "0 mm", ("0 mm", "300 mm"), ("0 mm", "200 mm"), features=features)
    few = Draft("d", "ply12").board(
        "p", "ply12", "facing_front", "0 mm", ("0 mm", "300 mm"), ("0 mm", "200 mm"), features={"n0": features["n0"]}
    )
    assert "front/outline" in said(build(d.document()), "part:p")
    told = said(build(few.document()), "part:p")
    assert "front/outline" not in told and [t for n, t in told.items() if "/x/" in n]
