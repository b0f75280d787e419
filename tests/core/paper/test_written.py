"""Papers written and read back: PDF by pypdfium2, DXF by ezdxf's auditor with its dimensions measured again, SVG by a parser; pictures of a few sheets as kept."""

from __future__ import annotations

import io
import math
import os
from pathlib import Path
from xml.etree import ElementTree

import ezdxf
import numpy as np
import pypdfium2 as pdfium
import pytest
from PIL import Image
from pypdfium2 import raw

from tests.core.paper.sheets import NAMES, built_example, every_page, pages
from zygon.cli import main
from zygon.design.papers import DetailSaid, Papers, SectionSaid, SheetSaid, ViewSaid
from zygon.making.pipeline import build
from zygon.paper.formats import FORMATS, size_of
from zygon.paper.ink import Area, Dimension, Line, Paper, Words
from zygon.paper.out.dxf import write_dxf
from zygon.paper.out.files import paper_files
from zygon.paper.out.pdf import write_pdf
from zygon.paper.out.svg import write_svg

#: Points to the millimetre (ISO 32000: 72 to the inch).
PT = 72 / 25.4
GOLDEN = Path(__file__).parent / "golden"


def opened(papers) -> pdfium.PdfDocument:
    return pdfium.PdfDocument(write_pdf(papers, "a set"))


@pytest.mark.parametrize("size", FORMATS)
def test_pages_are_as_large_as_the_paper_to_a_tenth_of_a_millimetre(size):
    document = built_example("brood-box").document.model_copy(update={"papers": Papers(size=size)})
    (page,) = opened(pages(build(document), "part:front"))
    assert (page.get_width() / PT, page.get_height() / PT) == pytest.approx(size_of(size), abs=0.1)


def stroked(page) -> list[tuple[float, float, float, float]]:
    """The boxes of all lines in mm of the paper: low corner, width, height."""
    found = []
    for o in page.get_objects(filter=[raw.FPDF_PAGEOBJ_PATH]):
        x0, y0, x1, y1 = (v / PT for v in o.get_bounds())
        found.append((x0, y0, x1 - x0, y1 - y0))
    return found


@pytest.mark.parametrize("scale", ["1:2", "1:5", "1:1"])
def test_a_known_line_and_the_bar_in_the_margin_prove_the_scale(scale):
    """The board is 420 by 240 with its outline as it is cut: its lowest line is 420 over the scale, the bar 100 mm."""
    size = "A2" if scale == "1:1" else "A3"
    papers = Papers(size=size, sheets={"part:cover": SheetSaid(scale=scale)})
    document = built_example("brood-box").document.model_copy(update={"papers": papers})
    (page,) = opened(pages(build(document), "part:cover"))
    ratio = 1 / float(scale.split(":")[1])
    lines = stroked(page)
    wide = 1.0  # the reader puts a line's width about it on every side
    assert any(w == pytest.approx(420 * ratio + wide, abs=0.02) and h == pytest.approx(wide, abs=0.02) for _, _, w, h in lines)
    assert any(w == pytest.approx(100.5, abs=0.02) and y < 10 for _, y, w, h in lines)


@pytest.mark.parametrize("name", ["brood-box", "smoker-hook", "tool-chest", "hive", "tube-stand", "cupboard"])
def test_all_figures_are_in_the_pdf_as_text(name):
    papers = every_page(name)
    document = opened(papers)
    assert len(document) == len(papers)
    for page, paper in zip(document, papers, strict=True):
        text = page.get_textpage().get_text_range().replace("\r\n", "\n")
        squeezed = "".join(text.split())
        for d in paper.dimensions:
            assert "".join(d.text.split()) in squeezed or all("".join(w.text.split()) in squeezed for w in d.words), d.name
    outline = [b.get_title() for b in document.get_toc()]
    assert outline == [p.title for p in papers if p.page == 1]


def test_the_fonts_are_in_the_pdf():
    document = opened(pages(built_example("brood-box"), "whole"))
    fonts = {}
    for o in document[0].get_objects(filter=[raw.FPDF_PAGEOBJ_TEXT]):
        font = raw.FPDFTextObj_GetFont(o.raw)
        fonts[raw.FPDFFont_GetIsEmbedded(font)] = True
    assert set(fonts) == {1}


def test_the_same_papers_give_the_same_bytes():
    papers = pages(built_example("brood-box"), "part:front")
    assert write_pdf(papers, "t") == write_pdf(papers, "t")


@pytest.mark.parametrize("places", ["coordinates", "base line", "chain"])
@pytest.mark.parametrize("datum", ["low left", "high right"])
def test_dimensions_of_a_dxf_measure_what_they_say(places, datum):
    papers = Papers(places=places, sheets={"part:front": SheetSaid(datum=datum)})
    built = build(built_example("brood-box").document.model_copy(update={"papers": papers}))
    (paper,) = pages(built, "part:front")
    _remeasured(paper)


@pytest.mark.parametrize("name", NAMES)
def test_dxf_of_every_sheet_passes_the_audit_and_measures_again(name):
    for paper in every_page(name):
        _remeasured(paper)


def _remeasured(paper: Paper) -> None:
    doc = ezdxf.read(io.StringIO(write_dxf(paper)))
    audit = doc.audit()
    assert not audit.errors and not audit.fixes
    space = doc.modelspace()
    entities = space.query("DIMENSION")
    own = [d for d in paper.dimensions if d.kind in ("linear", "ordinate", "angle") or _seen_round(d)]
    assert len(entities) == len(own)
    for entity, d in zip(entities, own, strict=True):
        measured = entity.get_measurement()
        if d.kind == "angle":
            assert math.radians(measured) == pytest.approx(d.value, abs=1e-6), d.name
            continue
        if not isinstance(measured, float):
            measured = measured.x if entity.dxf.dimtype & 64 else measured.y
        assert abs(measured) * entity.override().get("dimlfac") == pytest.approx(d.value, abs=1e-6), d.name
        assert entity.dxf.text == d.text
        assert entity.dxf.layer == "DIMENSIONS"
    circles = [i for i in paper.all_ink if getattr(i, "full", False)]
    assert len(space.query("CIRCLE")) == len(circles)


def _seen_round(d: Dimension) -> bool:
    """Whether a circle or a round that a callout is of is seen as such, so that it can be measured."""
    return (d.kind == "diameter" and math.dist(d.p, d.q) > 1e-6) or (d.kind == "radius" and d.middle is not None)


def test_an_svg_is_in_millimetres_and_has_all_texts():
    (paper,) = pages(built_example("brood-box"), "part:front")
    root = ElementTree.fromstring(write_svg(paper))
    assert (root.get("width"), root.get("height"), root.get("viewBox")) == ("420mm", "297mm", "0 0 420 297")
    texts = [e.text for e in root.iter("{http://www.w3.org/2000/svg}text")]
    assert sorted(texts) == sorted(i.text for i in paper.all_ink if isinstance(i, Words))
    strokes = [i for i in paper.all_ink if not isinstance(i, Words)]
    assert len(list(root.iter("{http://www.w3.org/2000/svg}path"))) == len(strokes)


def test_files_are_one_pdf_or_one_a_page():
    papers = every_page("brood-box")
    assert list(paper_files(papers, "Brood box", "pdf")) == ["brood-box_papers.pdf"]
    names = list(paper_files(papers, "Brood box", "svg"))
    assert len(names) == len(papers) == len(set(names)) and names[0] == "brood-box_001_brood-box.svg"


def test_lists_go_on_over_pages_and_lose_no_row():
    papers = [p for p in every_page("tool-chest") if p.subject == "list:drilling-list"]
    assert len(papers) > 1 and [p.page for p in papers] == list(range(1, len(papers) + 1))
    from zygon.exchange.drilling import drilling_list

    told = sum(1 for p in papers for i in p.drawn if isinstance(i, Words) and i.text in ("left edge", "left face"))
    rows = drilling_list(built_example("tool-chest"))
    assert told == sum(r.side == "left" for r in rows)
    assert all(any(isinstance(i, Words) and f"page {p.page} of {len(papers)}" in i.text for i in p.drawn) for p in papers)


@pytest.mark.parametrize(
    ("name", "subject"),
    [
        ("brood-box", "whole"),
        ("brood-box", "part:front"),
        ("smoker-hook", "part:bracket"),
        ("smoker-hook", "flat:bracket"),
        ("brood-box", "cover"),
        ("brood-box", "steps:1"),
        ("carrying-bail", "part:bail"),
        ("tube-stand", "whole"),
        ("tool-chest", "part:left"),
    ],
)
def test_a_few_sheets_look_as_they_did(name, subject):
    """ZYGON_WRITE_FIGURES=1 keeps them anew. All that a set may have is in one of them: cover and steps, a section and a detail, a table of holes, narrow letters."""
    side = SheetSaid(
        places="table",
        sections={"1": SectionSaid(view="front", way="x")},
        details={"1": DetailSaid(view="front", at="joint:shelf-left/1/centre", across=60.0)},
        views={"1": ViewSaid(look="under front left")},
    )
    own = Papers(cover=True, steps=True, face="narrow" if subject == "cover" else "", sheets={"part:left": side})
    built = build(built_example(name).document.model_copy(update={"papers": own}))
    picture = opened(pages(built, subject)[:1])[0].render(scale=0.9, grayscale=True).to_pil().convert("L")
    at = GOLDEN / f"{name}_{subject.replace(':', '-')}.png"
    if os.environ.get("ZYGON_WRITE_FIGURES"):
        picture.quantize(16).save(at, optimize=True)
    kept = np.asarray(Image.open(at).convert("L"), float)
    assert kept.shape == np.asarray(picture).shape
    assert np.abs(kept - np.asarray(picture, float)).mean() < 0.6


@pytest.mark.parametrize("to", ["pdf", "dxf", "svg"])
def test_the_command_line_writes_them(tmp_path, capsys, to):
    main(["example", "brood-box"])
    (tmp_path / "box.json").write_text(capsys.readouterr().out)
    assert (
        main(["papers", str(tmp_path / "box.json"), "--out", str(tmp_path / "o"), "--to", to, "--size", "A4", "--sheet", "part:front"]) == 0
    )
    (file,) = (tmp_path / "o").iterdir()
    assert file.suffix == f".{to}" and file.stat().st_size > 2000
    if to == "pdf":
        page = pdfium.PdfDocument(file)[0]
        assert page.get_height() / PT == pytest.approx(297, abs=0.1)


def test_the_command_line_refuses_a_sheet_that_is_not_there_and_names_those_that_are(tmp_path, capsys):
    main(["example", "brood-box"])
    (tmp_path / "box.json").write_text(capsys.readouterr().out)
    assert main(["papers", str(tmp_path / "box.json"), "--out", str(tmp_path), "--sheet", "part:nix", "--json"]) == 2
    told = capsys.readouterr().err
    assert "no_sheet" in told and "part:front" in told


def test_every_line_of_a_paper_ends_somewhere():
    for name in ("brood-box", "tool-chest"):
        for paper in every_page(name):
            for i in paper.all_ink:
                if isinstance(i, Line):
                    assert all(map(math.isfinite, (*i.p, *i.q)))
                if isinstance(i, Area):
                    assert len(i.points) > 2
