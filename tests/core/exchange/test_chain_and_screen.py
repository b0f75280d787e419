"""Loose segments chained to contours, and what is sent to screens."""

import json
import math

import lxml.etree
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.design.examples import brood_box
from zygon.design.patch import apply_patch
from zygon.errors import ImportFileError
from zygon.exchange.chain import JOIN, chained
from zygon.exchange.read import read_regions
from zygon.exchange.svg import write_svg
from zygon.geometry.contour import polyline
from zygon.making.pipeline import build
from zygon.nest.design import lay_out, plans
from zygon.screen.design import built_data, nest_data, part_resources
from zygon.stock.cutter import Layers


@given(st.integers(3, 14), st.randoms(use_true_random=False), st.floats(0, JOIN / 3))
def test_the_segments_of_an_outline_in_any_order_and_way_round_make_it_again(n, random, slip):
    points = [(50 * math.cos(2 * math.pi * i / n), 30 * math.sin(2 * math.pi * i / n)) for i in range(n)]
    runs = []
    for i in range(n):
        p, q = points[i], points[(i + 1) % n]
        p = (p[0] + slip, p[1])
        runs.append(([p, q], [0.0]) if random.random() < 0.5 else ([q, p], [0.0]))
    random.shuffle(runs)
    ((contour,), _) = chained(runs)
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1], strict=True)) / 2
    assert abs(contour.area) == pytest.approx(area, rel=1e-2)
    assert len(contour.points) == n


def test_arcs_keep_their_side_when_they_are_turned_round():
    half = ([(0.0, 0.0), (10.0, 0.0)], [-1.0])  # below the line
    for line in (([(0.0, 0.0), (10.0, 0.0)], [0.0]), ([(10.0, 0.0), (0.0, 0.0)], [0.0])):
        ((contour,), _) = chained([half, line])
        assert abs(contour.area) == pytest.approx(math.pi * 12.5)


def test_what_stays_open_is_left_out():
    assert chained([([(0.0, 0.0), (10.0, 0.0)], [0.0]), ([(10.0, 0.0), (10.0, 5.0)], [0.0])])[0] == []
    assert chained([([(0.0, 0.0), (0.0, 0.0)], [0.0])])[0] == []


def test_a_small_gap_is_mended_and_a_larger_one_is_said(tmp_path):
    def drawn(gap):
        return [([(0.0, 0.0), (90.0, 0.0), (90.0, 40.0)], [0.0, 0.0]), ([(90.0 - gap, 40.0), (0.0, 40.0), (0.0, gap)], [0.0, 0.0])]

    (contour,), open_ = chained(drawn(0.1), 0.2)
    assert contour.area == pytest.approx(3600, abs=10) and not open_
    assert chained(drawn(0.3), 0.2)[0] == []
    path = tmp_path / "open.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50"><path d="M0 0H90V40H0V3"/></svg>'
    )
    with pytest.raises(ImportFileError, match=r"is open; its ends are 3.00 mm apart, and up to 0.2 mm are mended"):
        read_regions(path)
    path.write_text(path.read_text().replace("V3", "V0.15"))
    assert read_regions(path)[0].area == pytest.approx(3600, abs=10)
    # a line on a part is a mark; one beside it is an outline that does not close
    marked = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="50mm" viewBox="0 0 100 50"><path d="M0 0H90V40H0Z"/><path d="M5 5H9V{}"/></svg>'
    path.write_text(marked.format(9))
    assert len(read_regions(path)) == 1
    path.write_text(marked.format(49))
    with pytest.raises(ImportFileError, match="is open"):
        read_regions(path)


BUILT = build(brood_box())


def test_a_reader_is_sent_only_what_it_does_not_have():
    everything = part_resources(BUILT)
    assert part_resources(BUILT, everything) == {}
    some = list(everything)[:3]
    assert set(part_resources(BUILT, some)) == set(everything) - set(some)


def test_moving_a_part_keeps_its_solid_and_changes_its_place():
    document, _, _ = apply_patch(
        brood_box().dump(), [{"op": "replace", "path": "/parts/cover/position/at/text", "value": "front.top + 30 mm"}]
    )
    before = {p["key"]: p for p in built_data(BUILT, [])["parts"]}["cover"]
    after = {p["key"]: p for p in built_data(build(document), [])["parts"]}["cover"]
    assert before["solid"] == after["solid"]
    assert after["matrix"][2][3] == pytest.approx(before["matrix"][2][3] + 30)


def test_another_kerf_changes_the_flat_and_not_the_solid():
    document, _, _ = apply_patch(brood_box().dump(), [{"op": "replace", "path": "/cutters/laser/work/ply12/kerf/text", "value": "0.3 mm"}])
    parts = [{p["key"]: p for p in built_data(b, [])["parts"]}["front"] for b in (BUILT, build(document))]
    assert parts[0]["solid"] == parts[1]["solid"] and parts[0]["flat"] != parts[1]["flat"]
    assert part_resources(build(document))[parts[1]["flat"]]["kerf"] == 0.3


def test_every_contour_says_what_it_measures_when_cut_on_the_line():
    flat = part_resources(BUILT)[{p["key"]: p for p in built_data(BUILT, [])["parts"]}["left"]["flat"]]
    outside = next(c for c in flat["contours"] if c["operation"] == "outside")
    assert outside["on_line"] == pytest.approx([500 - 0.24, 240 - 0.24])
    bore = next(c for c in flat["contours"] if c["circle"])
    assert bore["on_line"] == pytest.approx([10.4 + 0.24] * 2)
    assert bore["owners"] == [["bore:carrying_rod", ""]]


def test_owners_reach_the_screen_on_every_segment_of_a_mixed_contour():
    flat = part_resources(BUILT)[{p["key"]: p for p in built_data(BUILT, [])["parts"]}["front"]["flat"]]
    outside = next(c for c in flat["contours"] if c["operation"] == "outside")
    owners = {o for o, _ in outside["owners"]}
    assert {"joint:front-left", "joint:front-right", "edge:top", "edge:bottom"} <= owners
    assert all(d.startswith("M") for _, d in outside["owners"])


def test_totals_are_sums_over_copies():
    document, _, _ = apply_patch(brood_box().dump(), [{"op": "replace", "path": "/parts/cover/quantity", "value": 3}])
    one, three = (built_data(b, check(b))["totals"] for b in (BUILT, build(document)))
    cover = BUILT.parts["cover"].flat.area * 5.9 * 0.68 / 1000
    assert three["mass"] - one["mass"] == pytest.approx(2 * cover)
    assert three["cut_seconds"] > one["cut_seconds"] and one["bought"] == 2.4


def test_a_layout_as_data_is_plain_json_and_keeps_shares_and_costs():
    plan = plans(BUILT)[1]
    found = lay_out(BUILT.document, plan, seconds=0.2)
    data = json.loads(json.dumps(nest_data(BUILT.document, found), allow_nan=False))
    assert data["stock"] == "ply6" and data["kerf"] == 0.18
    assert sum(len(s["parts"]) for s in data["sheets"]) == 3
    assert all(0 < s["share"] < 1 and s["known"] and s["seconds"] > 0 for s in data["sheets"])
    assert data["sheet_cost"] == pytest.approx(15.8 * len(data["sheets"]))
    assert data["parts"] == list(plan.parts) and set(data["sizes"]) == {"half"}


@pytest.mark.parametrize(("gap", "joined"), [(0.0099, True), (0.0101, False)])
def test_ends_a_hundredth_apart_are_one(gap, joined):
    ell = [([(0.0, 0.0), (10.0, 0.0)], [0.0]), ([(10.0, gap), (10.0, 5.0), (0.0, 5.0)], [0.0, 0.0]), ([(0.0, 5.0), (0.0, 0.0)], [0.0])]
    closed, left = chained(ell)
    assert len(closed) == int(joined) and bool(left) != joined
    closed, _ = chained([([(0.0, 0.0), (10.0, 0.0), (10.0, 5.0), (gap, 0.0)], [0.0, 0.0, 0.0])])
    assert len(closed) == int(joined)


def test_kinds_of_line_are_dashed_as_iso_128_draws_them():
    line = polyline([(0.0, 0.0), (30.0, 0.0)], "x")
    layers = Layers()
    for kind, dashes in (("continuous", None), ("dashed", "3 1.5"), ("chain", "6 1.5 0.5 1.5")):
        own = layers.model_copy(update={"bend_up": layers.bend_up.model_copy(update={"line": kind})})
        (group,) = [g for g in lxml.etree.fromstring(write_svg([("bend-up", line)], own, [])) if g.get("class") == "bend-up"]
        assert group.get("stroke-dasharray") == dashes
