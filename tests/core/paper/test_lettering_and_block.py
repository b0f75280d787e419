"""Letters cut narrow, fields of the title block that a workshop leaves out or puts its own in, threads of bent bars, welds, sheets as nested from the command line."""

from __future__ import annotations

import io
import json
import math
from itertools import pairwise

import ezdxf
import pypdfium2
import pytest
from fontTools.ttLib import TTFont

from tests.core.paper.sheets import built_example, pages
from tests.core.paper.test_sheets import over_the_frame, overlapping
from tests.core.shared import edited
from zygon.cli import main
from zygon.design.papers import InPlace, Papers
from zygon.exchange.cutlist import cut_list
from zygon.making.pipeline import build
from zygon.paper.block import BlockData, block_ink
from zygon.paper.formats import BLOCK
from zygon.paper.ink import Arc, Line, Words
from zygon.paper.letters import font_bytes, width_of
from zygon.paper.out.dxf import write_dxf
from zygon.paper.out.pdf import write_pdf
from zygon.paper.out.svg import write_svg
from zygon.paper.welds import weld_list
from zygon.screen.papers import paper_data

FIELDS = ("checked", "status", "tolerance", "stock", "finished", "mass", "pieces", "grain")


def with_papers(name, **said):
    return build(built_example(name).document.model_copy(update={"papers": Papers(**said)}))


@pytest.mark.parametrize("bold", [False, True])
def test_narrow_letters_are_as_high_and_none_is_wider(bold):
    """So that what was laid out for letters as they are holds."""
    fonts = [TTFont(io.BytesIO(font_bytes(bold, face))) for face in ("", "narrow")]
    assert len({f["OS/2"].sCapHeight / f["head"].unitsPerEm for f in fonts}) == 1
    own, narrow = (f.getBestCmap() for f in fonts)
    assert set(own) == set(narrow)
    for c in map(chr, own):
        assert width_of(c, 3.5, bold=bold, face="narrow") <= width_of(c, 3.5, bold=bold) + 1e-9, c
    assert width_of("Finished size", 2.5, bold=bold, face="narrow") < 0.9 * width_of("Finished size", 2.5, bold=bold)


def test_narrow_letters_go_out_in_every_format():
    built = with_papers("brood-box", face="narrow")
    (page,) = pages(built, "part:front")
    (own,) = pages(built_example("brood-box"), "part:front")
    assert overlapping(page) == [] and over_the_frame(page) == []
    assert write_svg(page) != write_svg(own)
    box = []
    for p in (page, own):
        text = pypdfium2.PdfDocument(write_pdf([p], "x"))[0].get_textpage()
        found = text.search("Finished size")
        index, count = found.get_next()
        left, right = text.get_charbox(index)[0], text.get_charbox(index + count - 1)[2]
        box.append(right - left)
    assert box[0] < 0.9 * box[1]
    drawing = ezdxf.read(io.StringIO(write_dxf(page)))
    assert {e.dxf.width for e in drawing.modelspace().query("TEXT")} == {0.75}
    shown = paper_data(page, built)
    assert shown["face"] == "narrow"
    word = next(w for w in shown["fixed"]["words"] if w["text"] == "Finished size")
    assert word["long"] == pytest.approx(width_of("Finished size", 1.8, face="narrow"), abs=1e-3)


def block(**instead) -> BlockData:
    words = dict.fromkeys(
        [
            "owner",
            "title",
            "number",
            "kind",
            "drawn",
            "checked",
            "date",
            "revision",
            "status",
            "sheet",
            "scale",
            "unit",
            "size",
            "stock",
            "finished",
            "mass",
            "pieces",
            "grain",
            "tolerance",
        ],
        "x",
    )
    return BlockData(**words, angle="first", instead={k: InPlace(**v) for k, v in instead.items()})


def labels(data: BlockData) -> dict[str, float]:
    """The labels with where they begin, from the block's left edge."""
    ink, faults = block_ink(data, (BLOCK, 0.0))
    assert not faults
    edges = [i for i in ink if isinstance(i, Line) and i.pen == "frame"]
    assert max(max(i.p[1], i.q[1]) for i in edges) == 37.0
    inside = [i for i in ink if isinstance(i, Words)]
    assert all(w.box[0] > 0 and w.box[2] < BLOCK for w in inside)
    return {w.text: w.at[0] for w in inside if w.text != "x"}


@pytest.mark.parametrize("name", FIELDS)
def test_a_field_that_is_left_out_gives_its_room_to_its_row(name):
    all_of_them, without = labels(block()), labels(block(**{name: {}}))
    (gone,) = set(all_of_them) - set(without)
    assert gone == {"checked": "Checked by", "tolerance": "General tolerances", "finished": "Finished size"}.get(name, name.title())
    assert set(without) < set(all_of_them)
    ink, _ = block_ink(block(**{name: {}}), (BLOCK, 0.0))
    # no gap: the uprights of the row stand closer than the widest field that a row has
    for low, high in ((0.0, 8.0), (21.0, 29.0), (29.0, 37.0)):
        xs = sorted({i.p[0] for i in ink if isinstance(i, Line) and i.pen == "thin" and (i.p[1], i.q[1]) == (low, high)})
        assert xs[0] == 0.0 and max(b - a for a, b in pairwise([*xs, BLOCK])) < 85


def test_a_field_of_ones_own_stands_in_its_place():
    own = labels(block(grain={"label": "Customer"}, status={"label": "Order", "text": "No. 7"}))
    as_it_is = labels(block())
    assert own["Customer"] == as_it_is["Grain"] and own["Order"] == as_it_is["Status"]
    assert "No. 7" in own


def test_a_row_may_lose_all_its_fields():
    out = {n: {} for n in FIELDS}
    found = labels(block(**out))
    assert not {"Stock", "Mass", "Pieces", "Grain", "Finished size"} & set(found)
    built = with_papers("brood-box", block={n: InPlace() for n in FIELDS})
    (page,) = pages(built, "part:front")
    assert overlapping(page) == [] and not page.faults


def test_words_that_do_not_fit_their_field_are_said():
    _, faults = block_ink(block(pieces={"label": "Order", "text": "M" * 60}), (BLOCK, 0.0))
    assert len(faults) == 1 and "Order" in faults[0] and "longer than its field" in faults[0]


def test_a_bent_rod_has_its_threads_as_drawings_have_them():
    """M8 over the length of the size: two thin lines at the core's diameter d3 (ISO 724: 6.466 mm) in the views that look across the end."""
    built = built_example("carrying-bail")
    (page,) = pages(built, "part:bail")
    view = page.views["front"]
    scale = 1 / float(page.scale.split(":")[1])
    thin = [i for i in view if isinstance(i, Line) and i.pen == "thin" and i.of == "bail"]
    long = built.values["/sizes/thread/entry"].value
    cores = [i for i in thin if abs(i.p[0] - i.q[0]) < 1e-6]
    assert len(cores) == 4
    xs = sorted(i.p[0] for i in cores)
    for a, b in (xs[:2], xs[2:]):
        assert b - a == pytest.approx(6.466 * scale, abs=0.002)
    assert all(abs(i.p[1] - i.q[1]) <= long * scale + 1e-3 for i in cores)
    wide = [i for i in view if isinstance(i, Line) and i.pen == "visible" and abs(i.p[1] - i.q[1]) < 1e-6]
    assert sum(abs(abs(i.p[0] - i.q[0]) - 8.0 * scale) < 2e-3 for i in wide) == 4


def test_a_thread_seen_from_its_end_is_three_quarters_of_its_core():
    built = built_example("carrying-bail")
    (page,) = pages(with_bottom(built), "part:bail")
    arcs = [i for i in page.views["view/1"] if isinstance(i, Arc) and i.pen == "thin"]
    assert len(arcs) == 2 and all(abs(i.sweep) == pytest.approx(1.5 * math.pi) for i in arcs)


def with_bottom(built):
    from zygon.design.papers import SheetSaid, ViewSaid

    papers = Papers(sheets={"part:bail": SheetSaid(views={"1": ViewSaid(look="bottom")})})
    return build(built.document.model_copy(update={"papers": papers}))


def test_what_is_welded_stands_on_the_whole_with_the_numbers_of_the_parts_list():
    built = built_example("tube-stand")
    rows = cut_list(built)
    (table,) = weld_list(built, rows)
    heads = [c.head.partition(",")[0] for c in table.columns]
    told = [dict(zip(heads, r, strict=True)) for r in table.rows]
    pairs = sum(len(j.pairs) for j in built.joints.values() if j.fastened == "welded")
    assert sum(int(r["Places"]) for r in told) == pairs == 16
    numbers = {str(r.number) for r in rows}
    for r in told:
        a, b = r["Between"].split(" – ")
        assert a.split()[0] in numbers and b.split()[0] in numbers
    assert {r["Weld"] for r in told} == {"butt weld all round", "fillet weld all round"}
    assert weld_list(built_example("brood-box"), cut_list(built_example("brood-box"))) == ()
    (page, *_) = pages(built, "whole")
    assert any(isinstance(i, Words) and i.text == "Welds" for i in page.all_ink)


def test_the_gap_that_is_left_for_a_weld_is_the_joint_s_own():
    built = built_example("tube-stand")
    key = next(k for k, j in built.joints.items() if j.kind == "member_cope")
    made = edited(built, ("gap", [{"op": "add", "path": f"/joints/{key}/gap", "value": {"text": "1.5 mm", "unit": "mm"}}]))
    (table,) = weld_list(made, cut_list(made))
    gaps = [dict(zip([c.head for c in table.columns], r, strict=True))["Gap, mm"] for r in table.rows]
    assert gaps.count("1.5") == 1 and set(gaps) == {"0", "1.5"}


def test_the_command_line_s_set_has_sheets_as_nested(tmp_path, capsys):
    main(["example", "brood-box"])
    (tmp_path / "box.json").write_text(capsys.readouterr().out)

    def told(*more):
        assert main(["papers", str(tmp_path / "box.json"), "--out", str(tmp_path / "o"), "--to", "svg", "--json", *more]) == 0
        return [p["sheet"] for p in json.loads(capsys.readouterr().out)["papers"]]

    assert {"sheet:ply12:1", "sheet:ply6:1"} <= set(told("--nest", "0.5"))
    assert not any(s.startswith("sheet:") for s in told("--nest", "0"))
    assert told("--nest", "0.5", "--sheet", "sheet:ply12:1") == ["sheet:ply12:1"]
