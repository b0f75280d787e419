"""Sheets set out: nothing on anything else, nothing over the frame, over all examples; and what a maker changed by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from tests.core.paper.sheets import NAMES, built_example, every_page, pages, seen
from tests.core.shared import edited
from zygon.check.run import check
from zygon.design.papers import AddedDimension, PaperNote, Papers, SheetSaid
from zygon.design.upgrade import load
from zygon.edits import papers as say
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.paper.compose import make
from zygon.paper.ink import Area, Line, Paper, Words, box_of
from zygon.paper.letters import missing
from zygon.paper.subjects import _title, subjects

#: How far the room that is kept about letters may be shared (mm): they end well within it.
SHARED = 0.15


def overlapping(paper: Paper) -> list[tuple[str, str]]:
    """Pairs of texts that lie on one another."""
    words = [i for i in paper.all_ink if isinstance(i, Words) and i.text.strip()]
    boxes = [w.box for w in words]
    found = []
    for i, a in enumerate(boxes):
        for j in range(i + 1, len(boxes)):
            b = boxes[j]
            deep = SHARED + 0.25 * min(words[i].height, words[j].height)  # what hangs below the line has few letters
            if min(a[2], b[2]) - max(a[0], b[0]) > SHARED and min(a[3], b[3]) - max(a[1], b[1]) > deep:
                found.append((words[i].text, words[j].text))
    return found


def over_the_frame(paper: Paper) -> list[str]:
    x0, y0, x1, y1 = paper.drawing_area
    own = [i for i in paper.all_ink if isinstance(i, Words) and "1 : 1" not in i.text]
    return [w.text for w in own if w.box[0] < x0 or w.box[1] < y0 or w.box[2] > x1 or w.box[3] > y1]


@pytest.mark.parametrize("name", NAMES)
def test_no_text_lies_on_another_and_none_crosses_the_frame(name):
    for page in every_page(name):
        assert not overlapping(page), page.subject
        assert not over_the_frame(page), page.subject
        assert not page.faults, page.subject
        names = [d.name for d in page.dimensions]
        assert len(names) == len(set(names)), page.subject


@pytest.mark.parametrize("places", ["base line", "chain", "table"])
@pytest.mark.parametrize("name", ["brood-box", "tool-chest", "hand-crank", "hive"])
@pytest.mark.parametrize("size", ["A4", "A2", "ANSI B"])
def test_neither_do_they_on_other_papers_and_in_other_lanes(name, places, size):
    document = built_example(name).document
    built = build(document.model_copy(update={"papers": Papers(size=size, places=places, angle="third")}))
    for subject in subjects(built):
        for page in pages(built, subject.id):
            assert not overlapping(page), page.subject
            assert not over_the_frame(page) or page.faults, page.subject


@pytest.mark.parametrize("name", NAMES)
def test_every_letter_of_every_paper_can_be_written(name):
    assert {missing(i.text) for p in every_page(name) for i in p.all_ink if isinstance(i, Words)} == {None}


@pytest.mark.parametrize("name", ["brood-box", "hive", "tool-chest", "tube-stand"])
def test_balloons_number_as_the_parts_list_does_and_point_at_their_part(name):
    built = built_example(name)
    made = pages(built, "whole")
    table = next(own for p in made for n, own in {**p.movable, "ink": p.drawn}.items() if n == "table/parts" or (n == "ink" and p.page > 1))
    numbers = [w.text for w in table if isinstance(w, Words)]
    rows = cut_list(built)
    assert all(str(r.number) in numbers for r in rows)
    balloons = {n: own for p in made for n, own in p.movable.items() if "/balloon/" in n}
    assert len(balloons) > len(rows) / 2  # some are hidden inside
    for n, own in balloons.items():
        row = next(r for r in rows if r.key == n.partition("/balloon/")[2])
        (word,) = [i.text for i in own if isinstance(i, Words)]
        assert word == str(row.number)
        tip = next(i for i in own if isinstance(i, Line)).q
        drawn = [i for i in made[0].drawn if not isinstance(i, Words | Area) and i.of in row.keys]
        near = min((_off(tip, i) for i in drawn), default=math.inf)
        assert near < 0.05, n


def _off(p, stroke) -> float:
    points = (stroke.p, stroke.q) if isinstance(stroke, Line) else getattr(stroke, "points", None) or [stroke.at(k / 50) for k in range(51)]
    return shapely.LineString(points).distance(shapely.Point(p))


def sheet(built: Built, subject: str = "part:front") -> Paper:
    return pages(built, subject)[0]


def said(built: Built, made) -> Built:
    return edited(built, made)


def test_a_balloon_that_was_moved_is_still_there_when_a_size_changes():
    built = built_example("brood-box")
    name = "corner/balloon/front"
    before = box_of(sheet(built, "whole").movable[name][2:])
    moved = said(built, say.move_on_paper(built.document, "whole", name, 12, -7))
    again = said(moved, say.move_on_paper(moved.document, "whole", name, 3, 0))
    at = box_of([i for i in sheet(again, "whole").movable[name] if isinstance(i, Words)])
    first = box_of([i for i in sheet(built, "whole").movable[name] if isinstance(i, Words)])
    assert (at[0] - first[0], at[1] - first[1]) == pytest.approx((15, -7))
    wider = said(again, [{"op": "replace", "path": "/sizes/width/entry/text", "value": "440 mm"}])
    own = wider.document.papers.sheets["whole"].moved[name]
    assert (own.x, own.y) == (15, -7)
    assert before != box_of(sheet(wider, "whole").movable[name][2:])


def test_a_dimension_that_was_left_out_stays_out_and_comes_back():
    built = built_example("brood-box")
    name = "front/x/feature:front:hold/1/centre"
    out = said(built, say.show_dimension(built.document, "part:front", name, shown=False))
    assert name not in {d.name for d in sheet(out).dimensions}
    wider = said(out, [{"op": "replace", "path": "/sizes/width/entry/text", "value": "440 mm"}])
    assert name not in {d.name for d in sheet(wider).dimensions}
    back = said(wider, say.show_dimension(wider.document, "part:front", name, shown=True))
    assert next(d.text for d in sheet(back).dimensions if d.name == name) == "220"


def test_words_stand_about_a_figure_and_both_units_where_wanted():
    built = built_example("brood-box")
    words = {"before": "about", "after": "typ", "tolerance": "±0.1", "both": True}
    made = said(built, say.say_dimension(built.document, "part:front", "front/size/across", words))
    assert next(d.text for d in sheet(made).dimensions if d.name == "front/size/across") == "about 420 [16.535 in] ±0.1 typ"
    fitted = said(built, say.say_dimension(built.document, "part:front", "front/size/across", {"tolerance": "h7"}))
    assert next(d.text for d in sheet(fitted).dimensions if d.name == "front/size/across") == "420h7 (0 / −0.063)"
    with pytest.raises(DocumentError) as error:
        say.say_dimension(built.document, "part:front", "front/size/across", {"before": "x" * 41})
    assert error.value.entry == "before"


@pytest.mark.parametrize(("way", "value"), [("x", 225), ("y", 160 - 36.9), ("straight", None)])
@pytest.mark.parametrize("line", [9.0, -9.0])
def test_a_dimension_put_in_by_hand_follows_its_places_and_waits_when_one_is_lost(way, value, line):
    """From the entrance's lower left corner to the middle of the hand hold: 60 across, 123.1 up."""
    built = built_example("brood-box")
    one, other = "feature:front:entrance/1/low x", "feature:front:hold/1/centre"
    if way == "y":
        one = "feature:front:entrance/1/low y"
    dimension = AddedDimension(view="front", a=one, b=other, way=way, line=line)
    made = said(built, say.add_dimension(built.document, "part:front", dimension))
    added = next(d for d in sheet(made).dimensions if d.name == "added/dimension")
    # a line of the view has one place only, so that the straight way is the level one
    truth = {"x": 60.0, "y": 123.1, "straight": 60.0}[way]
    assert added.value == pytest.approx(truth) and added.said
    wider = said(made, [{"op": "replace", "path": "/sizes/width/entry/text", "value": "440 mm"}])
    after = next(d for d in sheet(wider).dimensions if d.name == "added/dimension")
    assert after.value == pytest.approx(truth, abs=11)
    gone = said(made, [{"op": "remove", "path": "/parts/front/features/hold"}])
    waits = sheet(gone)
    assert "added/dimension" not in {d.name for d in waits.dimensions}
    assert [f for f in waits.faults if "waits" in f and "hold" in f]
    taken = said(made, say.remove_from_paper(made.document, "part:front", "added/dimension"))
    assert "added/dimension" not in {d.name for d in sheet(taken).dimensions}


def test_the_straight_way_between_two_points_is_theirs():
    built = built_example("hand-crank")
    page = sheet(built, "part:left")
    points = [a for a in page.anchors["front"] if a.along == "both"][:2]
    dimension = AddedDimension(view="front", a=points[0].name, b=points[1].name, way="straight")
    made = said(built, say.add_dimension(built.document, "part:left", dimension))
    page = sheet(made, "part:left")
    added = next(d for d in page.dimensions if d.said)
    at = {a.name: a.at for a in page.anchors["front"]}
    scale = added.scale
    assert added.value == pytest.approx(math.dist(at[points[0].name], at[points[1].name]) / scale)


def test_a_scale_that_does_not_fit_is_said_and_the_sheet_stands():
    built = built_example("brood-box")
    made = said(built, say.say_sheet(built.document, "part:front", "scale", "5:1"))
    page = sheet(made)
    assert page.scale == "5 : 1" and any("does not fit" in f and "1 : 2 does" in f for f in page.faults)
    wrong = said(built, say.say_sheet(built.document, "part:front", "scale", "five"))
    page = sheet(wrong)
    assert page.scale == "1 : 2" and any("'five' is not one" in f for f in page.faults)


def test_a_sheet_is_set_field_by_field_and_forgotten():
    built = built_example("brood-box")
    made = built
    for field, value in (
        ("size", "A4"),
        ("called", "Front wall"),
        ("places", "chain"),
        ("datum", "high right"),
        ("bare", True),
        ("hidden", False),
    ):
        made = said(made, say.say_sheet(made.document, "part:front", field, value))
    page = sheet(made)
    assert page.size == (210, 297) and not page.dimensions
    assert "Front wall" in {i.text for i in page.drawn if isinstance(i, Words)}
    made = said(made, say.say_sheet(made.document, "part:front", "size", None))
    assert sheet(made).size == (420, 297)
    assert said(made, say.clear_sheet(made.document, "part:front")).document.papers == built.document.papers
    with pytest.raises(DocumentError):
        say.clear_sheet(built.document, "part:front")
    with pytest.raises(DocumentError) as error:
        say.say_sheet(built.document, "part:front", "size", "A9")
    assert error.value.entry == "size"


def test_a_sheet_left_out_is_not_in_the_set_and_numbers_close_up():
    built = built_example("brood-box")
    made = said(built, say.say_sheet(built.document, "part:floor", "out", True))
    assert [s.id for s in subjects(made)] == [s.id for s in subjects(built) if s.id != "part:floor"]
    assert "part:floor" in [s.id for s in subjects(made, out=True)]


def test_a_new_part_brings_its_sheet_and_what_was_said_of_others_stays():
    built = said(built_example("brood-box"), say.say_sheet(built_example("brood-box").document, "part:front", "called", "Front wall"))
    part = built.document.dump()["parts"]["follower"] | {"name": "another", "order": 99}
    part["spans"]["x"]["high"]["text"] = "100 mm"
    more = said(built, [{"op": "add", "path": "/parts/another", "value": part}])
    assert {s.id for s in subjects(more)} - {s.id for s in subjects(built)} == {"part:another"}
    assert more.document.papers.sheets["part:front"].called == "Front wall"


def test_what_is_said_of_one_of_several_equal_parts_holds_for_their_sheet():
    """Two rests are one row; said of the second, it holds while they are alike, and stays with it when they part."""
    built = built_example("brood-box")
    row = next(r for r in cut_list(built) if len(r.keys) > 1)
    second = row.keys[1]
    papers = Papers(sheets={f"part:{second}": SheetSaid(called="Rest")})
    made = build(built.document.model_copy(update={"papers": papers}))
    assert f"part:{second}" in {s.id for s in subjects(made)} and f"part:{row.keys[0]}" not in {s.id for s in subjects(made)}


def test_a_long_note_is_wrapped_never_cut_and_a_longer_one_refused():
    built = built_example("brood-box")
    note = PaperNote(note="Sand all edges before the varnish goes on. " * 40, at={"x": 60, "y": 200}, wide=120)
    made = said(built, say.add_note(built.document, "part:front", note))
    own = sheet(made).movable["note/note"]
    assert " ".join(i.text for i in own).split() == note.note.split()
    moved = said(made, say.move_on_paper(made.document, "part:front", "note/note", -5, 5))
    assert moved.document.papers.sheets["part:front"].notes["note"].at.x == 55
    with pytest.raises(ValueError):
        PaperNote(note="x" * 10_000)
    with pytest.raises(DocumentError):
        say.add_note(built.document, "part:front", PaperNote(note="  "))
    strange = said(built, say.add_note(built.document, "part:front", PaperNote(note="漆", at={"x": 60, "y": 200})))
    assert any("漆" in f for f in sheet(strange).faults)


def test_a_note_points_to_its_place_and_says_when_that_is_gone():
    built = built_example("brood-box")
    note = PaperNote(note="break this edge", at={"x": 60, "y": 200}, view="front", anchor="feature:front:hold/1/centre")
    made = said(built, say.add_note(built.document, "part:front", note))
    page = sheet(made)
    line = next(i for i in page.movable["note/note"] if isinstance(i, Line))
    assert line.q == next(a.at for a in page.anchors["front"] if a.name == note.anchor)
    gone = said(made, [{"op": "remove", "path": "/parts/front/features/hold"}])
    assert any("points to nothing" in f for f in sheet(gone).faults)


def test_a_title_that_is_too_long_for_its_field_is_said():
    built = built_example("brood-box")
    papers = Papers(owner="W" * 60, drawn="M" * 40)
    page = sheet(build(built.document.model_copy(update={"papers": papers})))
    assert any("longer than its field" in f and "Drawn by" in f for f in page.faults)


@pytest.mark.parametrize(("stock", "tolerance"), [("brood-box", "none said"), ("smoker-hook", "ISO 2768-m")])
def test_general_tolerances_stand_on_metal_and_not_on_wood(stock, tolerance):
    built = built_example(stock)
    subject = next(s.id for s in subjects(built) if s.kind == "part")
    assert tolerance in {i.text for i in pages(built, subject)[0].drawn if isinstance(i, Words)}


def test_the_dimension_line_goes_when_it_is_moved_and_its_ends_stay():
    built = built_example("brood-box")
    name = "front/size/across"
    old = next(d for d in sheet(built).dimensions if d.name == name)
    made = said(built, say.move_on_paper(built.document, "part:front", name, 4, -6))
    new = next(d for d in sheet(made).dimensions if d.name == name)
    assert (new.p, new.q) == (old.p, old.q)
    assert new.base[1] == pytest.approx(old.base[1] - 6) and new.base[0] == pytest.approx(old.base[0])
    assert new.words[0].at == pytest.approx((old.words[0].at[0] + 4, old.words[0].at[1] - 6))
    starts = sorted(i.p for i in new.ink if isinstance(i, Line) and abs(i.p[0] - i.q[0]) < 1e-9)
    assert np.array(starts) == pytest.approx(np.array(sorted(i.p for i in old.ink if isinstance(i, Line) and abs(i.p[0] - i.q[0]) < 1e-9)))


def test_a_problem_that_is_kept_stands_on_its_part_s_sheet_with_its_reason():
    built = built_example("brood-box")
    thin = said(built, [{"op": "replace", "path": "/parts/front/features/hold/v/offset/text", "value": "16 mm"}])
    problem = next(p for p in check(thin) if p.fault.part == "front" and p.fault.code != "stale")
    kept = {"reason": "nobody lifts it there", "by": "Ada", "value": problem.fault.value, "rule": problem.fault.rule}
    made = said(thin, [{"op": "add", "path": f"/kept/{problem.id}", "value": kept}])
    problems = check(made)

    def words(subject: str) -> str:
        one = next(s for s in subjects(made) if s.id == subject)
        return " ".join(i.text for p in make(made, one, seen, "", problems) for i in p.drawn if isinstance(i, Words))

    assert "Ada: nobody lifts it there" in words("part:front") and problem.fault.message in words("part:front")
    assert "nobody lifts it there" not in words("part:cover")


@pytest.mark.parametrize(
    ("names", "title"),
    [("a_b", "a b"), ("a, b, c", "a, b, c"), ("a, b, c, d", "a, b and 2 more"), (", ".join("abcdefgh"), "a, b and 6 more")],
)
def test_a_sheet_of_many_equal_parts_is_called_by_the_first_two(names, title):
    assert _title(names) == title


def test_a_letter_that_no_font_has_is_said_wherever_it_stands():
    """In the title block, a part's name, a stock's, a list: never dropped in silence."""
    data = built_example("brood-box").document.dump()
    data["papers"]["drawn"] = "Жанна"
    data["stocks"]["ply12"]["name"] = "樺 12"
    built = build(load(data))
    page = sheet(built)
    assert any("Ж" in f for f in page.faults) and any("樺" in f for f in page.faults)
    assert any("樺" in f for f in pages(built, "whole")[0].faults)
    assert len(page.faults) == len(set(page.faults))
