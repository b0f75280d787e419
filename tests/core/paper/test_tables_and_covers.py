"""Tables of holes, chosen columns, symbols, threads, the cover and the logo: what stands there is what the design says."""

from __future__ import annotations

import math

import numpy as np
import pypdfium2
import pytest

from tests.core.paper.sheets import NAMES, built_example, pages, seen
from tests.core.paper.test_sheets import over_the_frame, overlapping
from tests.core.shared import edited
from tests.sent import bomb, png
from zygon.design.papers import SYMBOL_WORDS, DimensionSaid, PaperNote
from zygon.edits import papers as say
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.paper.compose import make
from zygon.paper.entries import entry_of
from zygon.paper.ink import Arc, Line, Picture, Words, box_of
from zygon.paper.kinds.cover import cover_rows
from zygon.paper.out.dxf import write_dxf
from zygon.paper.out.pdf import PT, write_pdf
from zygon.paper.out.svg import write_svg
from zygon.paper.subjects import subjects

DIGEST = "a" * 64


def tabled(name: str, datum: str = "low left"):
    """An example with the places of its holes in tables."""
    built = built_example(name)
    patch = [{"op": "add", "path": "/papers/places", "value": "table"}]
    if datum != "low left":
        for s in subjects(built):
            if s.kind in ("part", "flat"):
                patch.append({"op": "add", "path": f"/papers/sheets/{s.id}", "value": {"datum": datum}})
    return edited(built, ("table", patch))


def texts(ink) -> list[str]:
    return [i.text for i in ink if isinstance(i, Words)]


@pytest.mark.parametrize("datum", ["low left", "low right", "high left", "high right"])
@pytest.mark.parametrize("name", ["brood-box", "electronics-box", "hand-crank", "tool-chest"])
def test_a_table_of_holes_has_the_places_that_coordinates_have(name, datum):
    """Every figure that stands in the lanes by itself stands in the table, from the same corner, and its number at its place."""
    with_lanes = built_example(name)
    patch = [
        {"op": "add", "path": f"/papers/sheets/{s.id}", "value": {"datum": datum}}
        for s in subjects(with_lanes)
        if s.kind in ("part", "flat")
    ]
    with_lanes, built = edited(with_lanes, ("datum", patch)), tabled(name, datum)
    told = 0
    for s in subjects(built):
        if s.kind not in ("part", "flat"):
            continue
        made, lanes = pages(built, s.id), pages(with_lanes, s.id)
        assert not any(d.kind == "ordinate" for p in made for d in p.dimensions)
        wanted = {d.text for p in lanes for d in p.dimensions if d.kind == "ordinate"}
        found = {t for p in made for t in texts([*p.drawn, *(i for own in p.movable.values() for i in own)])}
        assert wanted <= found, (s.id, wanted - found)
        told += len(wanted)
        for p in made:
            assert overlapping(p) == [] and over_the_frame(p) == [], (s.id, overlapping(p))
    assert told


def test_numbers_of_the_table_stand_by_their_places():
    built = tabled("brood-box")
    (page,) = pages(built, "part:front")
    front = page.views["front"]
    numbers = {i.text: i for i in front if isinstance(i, Words) and i.text.isdigit()}
    rows = page.tables["holes"]
    assert [key for key, _, shown in rows if shown] == ["no.", "x", "y", "what"] and len(numbers) >= 5
    hold = next(a for a in page.anchors["front"] if a.name == "feature:front:hold/1/centre")
    near = min(math.dist(hold.at, (w.box[0], w.box[1])) for w in numbers.values())
    assert near < 12


@pytest.mark.parametrize(("subject", "table"), [("whole", "parts"), ("flat:base", "bends"), ("list:to-buy", "to-buy")])
def test_columns_are_those_that_are_chosen_in_their_order(subject, table):
    built = built_example("electronics-box")
    first = next(p for p in pages(built, subject) if table in p.tables)
    own = [key for key, _, shown in first.tables[table] if shown]
    keys = [key for key, _, _ in first.tables[table]][::-1][:3]
    made = edited(built, say.choose_columns(built.document, subject, table, keys))
    page = next(p for p in pages(made, subject) if table in p.tables)
    assert [key for key, _, shown in page.tables[table] if shown] == keys
    heads = {key: head for key, head, _ in page.tables[table]}
    everywhere = [t for p in pages(made, subject) for t in texts(p.all_ink)]
    assert all(any(t.startswith(heads[k].split(" ")[0].split(",")[0]) for t in everywhere) for k in keys)
    back = edited(made, say.choose_columns(made.document, subject, table, []))
    assert [key for key, _, shown in next(p for p in pages(back, subject) if table in p.tables).tables[table] if shown] == own
    # columns that a table has not are of no account
    odd = edited(built, say.choose_columns(built.document, subject, table, ["no such"]))
    assert [key for key, _, shown in next(p for p in pages(odd, subject) if table in p.tables).tables[table] if shown] == own


def test_more_columns_say_mass_and_grain_of_the_cut_list():
    built = built_example("brood-box")
    made = edited(built, say.choose_columns(built.document, "whole", "parts", ["part", "mass of one", "grain"]))
    told = [t for p in pages(made, "whole") for t in texts(p.all_ink)]
    for row in cut_list(built):
        if row.mass:
            assert f"{round(row.mass / 1000, 3):g}" in told


@pytest.mark.parametrize("symbol", [s for s in SYMBOL_WORDS if s])
def test_a_symbol_stands_before_its_note_and_both_are_moved_together(symbol):
    built = built_example("brood-box")
    note = PaperNote(note="Ra 3.2", symbol=symbol, at={"x": 60, "y": 200})
    made = edited(built, say.add_note(built.document, "part:front", note))
    (page,) = pages(made, "part:front")
    ink = page.movable["note/note"]
    drawn = [i for i in ink if not isinstance(i, Words)]
    (words,) = [i for i in ink if isinstance(i, Words)]
    assert drawn and box_of(drawn)[2] <= words.at[0] + 0.01 and box_of(drawn)[0] >= 60 - 2.6
    moved = edited(made, say.move_on_paper(made.document, "part:front", "note/note", 10, 5))
    (after,) = pages(moved, "part:front")
    assert np.array(box_of(after.movable["note/note"])) == pytest.approx(np.array(box_of(ink)) + (10, 5, 10, 5))
    # a symbol alone needs no words
    alone = edited(built, say.add_note(built.document, "part:front", note.model_copy(update={"note": ""})))
    assert not texts(pages(alone, "part:front")[0].movable["note/note"])


def test_a_note_without_words_and_symbol_is_refused():
    with pytest.raises(DocumentError) as error:
        say.add_note(built_example("brood-box").document, "whole", PaperNote(note=" "))
    assert error.value.entry == "note"


@pytest.mark.parametrize(
    ("tolerance", "text"), [("H7", "⌀ 8H7 (+0.015 / 0)"), ("js9", "⌀ 8js9 (+0.018 / −0.018)"), ("±0.1", "⌀ 8 ±0.1"), ("H99", "⌀ 8H99")]
)
def test_a_tolerance_class_says_its_limits(tolerance, text):
    """ISO 286-2 at 8 mm: IT7 15, IT9 36 thousandths."""
    built = built_example("hand-crank")
    name = next(d.name for d in pages(built, "part:crank")[0].dimensions if d.text == "⌀ 8")
    made = edited(built, say.say_dimension(built.document, "part:crank", name, {"tolerance": tolerance}))
    assert next(d.text for d in pages(made, "part:crank")[0].dimensions if d.name == name) == text
    assert DimensionSaid(tolerance=tolerance).tolerance == tolerance


def page_of(built, subject, pictures):
    one = next(s for s in subjects(built) if s.id == subject)
    return make(built, one, seen, "1 of 2", (), pictures)


def with_papers(name, **said):
    return edited(built_example(name), ("papers", [{"op": "add", "path": f"/papers/{k}", "value": v} for k, v in said.items()]))


@pytest.mark.parametrize("size", ["A4", "A3", "A1", "ANSI B"])
@pytest.mark.parametrize("shape", [(400, 300), (300, 900), (1000, 100)])
def test_the_cover_shows_its_picture_undistorted_within_the_frame(size, shape):
    built = with_papers("brood-box", cover=True, picture=DIGEST, size=size, words="A box for ten frames. " * 6, price="240 EUR")
    (page,) = page_of(built, "cover", {DIGEST: png(*shape)})
    (picture,) = [i for i in page.ink if isinstance(i, Picture)]
    x0, y0, x1, y1 = picture.box
    assert (x1 - x0) / (y1 - y0) == pytest.approx(shape[0] / shape[1])
    a, b, c, d = page.drawing_area
    assert x0 >= a and y0 >= b and x1 <= c and y1 <= d
    for w in (i for i in page.ink if isinstance(i, Words)):  # no words on it
        u, v, s, t = w.box
        assert s <= x0 or u >= x1 or t <= y0 or v >= y1, w.text
    assert overlapping(page) == [] and not page.faults
    # the picture stands in the PDF where it stands on the page
    document = pypdfium2.PdfDocument(write_pdf([page], "x"))
    images = [o for o in document[0].get_objects() if o.type == pypdfium2.raw.FPDF_PAGEOBJ_IMAGE]
    (bounds,) = [o.get_bounds() if hasattr(o, "get_bounds") else o.get_pos() for o in images]
    assert np.array(bounds) / PT == pytest.approx(np.array(picture.box), abs=0.05)
    assert "data:image/png;base64," in write_svg(page) and "LWPOLYLINE" in write_dxf(page)


def test_the_cover_says_the_figures_of_the_design_and_that_it_has_no_picture():
    built = with_papers("brood-box", cover=True, price="240 EUR")
    (page,) = page_of(built, "cover", {})
    told = texts(page.ink)
    rows = dict(cover_rows(built))
    low = np.min([p.reaches[0] for p in built.made.values() if not p.body.empty], axis=0)
    high = np.max([p.reaches[1] for p in built.made.values() if not p.body.empty], axis=0)
    assert rows["Wide × deep × high, mm"] == " × ".join(f"{round(x, 2):g}" for x in high - low)
    assert rows["Pieces"] == str(sum(r.quantity for r in cut_list(built))) and rows["Price"] == "240 EUR"
    assert float(rows["Mass"].removesuffix(" kg")) == pytest.approx(
        sum(r.mass * r.quantity for r in cut_list(built) if r.mass) / 1000, abs=0.05
    )
    assert "240 EUR" in told and "Brood box" in told
    assert page.faults == ("The cover has no picture yet: take one under Picture, and put it on the cover",)


@pytest.mark.parametrize("subject", ["whole", "part:front", "list:to-buy", "cover"])
def test_a_logo_stands_in_the_title_block_of_every_sheet_beside_the_workshops_name(subject):
    built = with_papers("brood-box", cover=True, logo=DIGEST, owner="Workshop by the lake")
    for page in page_of(built, subject, {DIGEST: png(300, 200)}):
        (logo,) = [i for i in page.ink if isinstance(i, Picture)]
        name = next(i for i in page.ink if isinstance(i, Words) and i.text.startswith("Workshop by"))
        assert logo.box[2] <= name.at[0] and logo.box[1] >= page.drawing_area[1]
        assert overlapping(page) == [] and set(page.pictures) == {DIGEST}
    (first, *_) = page_of(built, subject, {})
    assert any("logo is not kept" in f for f in first.faults)


@pytest.mark.parametrize("data", [bomb(), png(40, 30)[:60], b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff no picture"])
def test_a_picture_that_cannot_be_drawn_is_said_and_the_sheet_stands(data):
    """As a design's file may bring it, which is not read by the door for pictures."""
    built = with_papers("brood-box", cover=True, picture=DIGEST, logo=DIGEST)
    (page,) = page_of(built, "cover", {DIGEST: data})
    assert not any(isinstance(i, Picture) for i in page.ink) and write_pdf([page], "x")
    assert any("no picture yet" in f for f in page.faults) and any("logo is not kept" in f for f in page.faults)


@pytest.mark.parametrize(("lines", "wide"), [("0.35", 0.7), ("0.5", 1.0), ("0.7", 1.4)])
def test_line_groups_and_sloping_letters_are_written(lines, wide):
    built = with_papers("brood-box", lines=lines, sloped=True, letters="3.5")
    (page,) = pages(built, "part:front")
    assert page.wide == pytest.approx(wide) and page.sloped
    assert f'stroke-width="{round(0.5 * wide, 3):g}"' in write_svg(page) and "skewX(-15)" in write_svg(page)
    assert next(w.height for d in page.dimensions for w in d.words) == 3.5
    assert overlapping(page) == [] and over_the_frame(page) == []
    text = pypdfium2.PdfDocument(write_pdf([page], "x"))[0].get_textpage().get_text_range()
    assert "420" in text


def test_an_entry_is_the_one_that_changes_the_figure():
    """For every dimension of some examples that has one: the entry changed by so much, the figure changes so."""
    tried = 0
    for name in ("brood-box", "electronics-box"):
        built = built_example(name)
        for s in subjects(built):
            if s.kind != "part":
                continue
            for d in pages(built, s.id)[0].dimensions:
                path, word = entry_of(built, d)
                if not path or tried > 14:
                    continue
                assert word
                old = built.values[path].value
                made = edited(built, ("try", [{"op": "add", "path": path, "value": {"text": f"{old + 1:g} mm", "unit": "mm"}}]))
                new = next((x for x in pages(made, s.id)[0].dimensions if x.name == d.name), None)
                if path.startswith("/stocks/") and "nominal" in path:
                    continue  # a stock that was measured is as thick as it was
                assert new is not None and abs(new.value - d.value) == pytest.approx(1.0, abs=1e-6), (s.id, d.name, path)
                tried += 1
    assert tried > 8


@pytest.mark.parametrize("name", sorted(set(NAMES) & {"smoker-hook", "carrying-bail", "tool-chest", "hand-crank", "fold-down-leg"}))
def test_sheets_with_threads_stay_readable(name):
    built = built_example(name)
    for s in subjects(built):
        if s.kind == "part":
            for page in pages(built, s.id):
                assert overlapping(page) == [] and not page.faults
                assert all(i.radius > 0 for i in page.drawn if isinstance(i, Arc))
                assert all(i.pen for i in page.drawn if isinstance(i, Line))
