"""Anything that can be asked of papers, in any order: a set of papers or a reason, and undone to the letter."""

from __future__ import annotations

import random
from typing import get_args

import pytest
from pydantic import ValidationError

from tests.core.paper.sheets import built_example, pages
from tests.core.shared import edited
from tests.explore import drawn
from zygon.design.papers import SYMBOL_WORDS, AddedDimension, DetailSaid, PaperNote, SectionSaid, SectionTurn, SeenFrom, ViewSaid
from zygon.design.patch import apply_patch
from zygon.edits import papers as say
from zygon.errors import ZygonError
from zygon.paper.out.dxf import write_dxf
from zygon.paper.out.pdf import write_pdf
from zygon.paper.subjects import subjects

NAMES = ["brood-box", "hand-crank", "smoker-hook", "tool-chest", "carrying-bail", "clamp-plate", "cupboard"]
FIELDS = ["out", "size", "scale", "called", "hidden", "places", "datum", "bare", "broken"]
VALUES = [True, False, None, "A4", "ANSI D", "1:50", "0:0", "chain", "table", "high right", "x" * 90, "low left"]


#: What is said of the whole set.
SAID = [
    ("steps", True),
    ("cover", True),
    ("broken", True),
    ("sloped", True),
    ("lines", "0.7"),
    ("letters", "5"),
    ("places", "table"),
    ("logo", "c" * 64),
]


def a_view(r: random.Random, built) -> ViewSaid:
    keys = [p.key for p in built.made.values()]
    of = r.choice(["", *(f"part:{k}" for k in keys[:4]), *(f"group:{g}" for g in built.document.groups), "part:none"])
    return ViewSaid(
        look=r.choice(get_args(SeenFrom)),
        of=of,
        step=r.choice([0, 0, 1, 3, 999]),
        apart=r.choice([0, 0, 0.4, 1]),
        scale=r.choice(["", "", "1 : 3", "?"]),
        balloons=r.random() < 0.5,
        hidden=r.random() < 0.5,
    )


def act(r: random.Random, built, subject: str):
    """One act, as label and patch. Raises where it is refused."""
    document, own = built.document, pages(built, subject)
    names = [d.name for p in own for d in p.dimensions] + [m for p in own for m in p.movable] + ["added/x", "note/y", "no such thing"]
    anchors = [(v, a.name) for p in own for v, some in p.anchors.items() for a in some] or [("front", "x")]
    (view, a), (_, b), (_, c) = r.choice(anchors), r.choice(anchors), r.choice(anchors)
    turns = [] if r.random() < 0.5 else [SectionTurn(after=b, through=c)]
    words = {"before": r.choice(["", "≥", "<b>"]), "after": "x", "both": r.random() < 0.5, "tolerance": r.choice(["", "±1", "H7"])}
    acts = [
        lambda: say.say_sheet(document, subject, r.choice(FIELDS), r.choice(VALUES)),
        lambda: say.move_on_paper(document, subject, r.choice(names), r.uniform(-90, 90), r.uniform(-90, 90)),
        lambda: say.show_dimension(document, subject, r.choice(names), shown=r.random() < 0.3),
        lambda: say.say_dimension(document, subject, r.choice(names), words),
        lambda: say.add_dimension(
            document,
            subject,
            AddedDimension(view=view, a=a, b=b, c=c, way=r.choice(["x", "y", "straight", "angle"]), line=r.choice([0, 7, -30])),
        ),
        lambda: say.add_view(document, subject, a_view(r, built)),
        lambda: say.add_detail(
            document, subject, DetailSaid(view=view, at=a, across=r.choice([0.5, 20, 5000]), scale=r.choice(["", "1 : 1", "20 : 1", "no"]))
        ),
        lambda: say.show_view(document, subject, r.choice(["front", "left", "corner", "flat", "none"]), shown=r.random() < 0.3),
        lambda: say.choose_columns(
            document, subject, r.choice(["parts", "bends", "holes", "none"]), r.choice([[], ["part"], ["x", "no."], ["q"]])
        ),
        lambda: say.add_sheet(document, r.choice(["More", ""]), [a_view(r, built) for _ in range(r.randrange(3))]),
        lambda: say.remove_sheet(document, r.choice(["sheet", "sheet2"])),
        lambda: ("papers", [{"op": "add", "path": f"/papers/{k}", "value": v} for k, v in [r.choice(SAID)]]),
        lambda: say.add_note(
            document,
            subject,
            PaperNote(
                note=r.choice(['"q"\nline', "Ω", "long " * 300, ""]),
                symbol=r.choice(list(SYMBOL_WORDS)),
                at={"x": r.uniform(-50, 500), "y": 90},
                view=view,
                anchor=a,
            ),
        ),
        lambda: say.add_section(
            document,
            subject,
            SectionSaid(
                view=r.choice(["front", "left", "top"]),
                way=r.choice("xy"),
                through=r.choice(["", a]),
                flipped=r.random() < 0.5,
                turns=turns,
            ),
        ),
        lambda: say.clear_sheet(document, subject),
        lambda: say.remove_from_paper(document, subject, r.choice([*names, "section/section", "added/dimension", "note/note"])),
    ]
    return r.choice(acts)()


@pytest.mark.parametrize("seed", range(drawn(14)))
def test_random_acts_on_papers_give_papers_or_a_reason(seed):
    r = random.Random(seed)
    built = built_example(NAMES[seed % len(NAMES)])
    for _ in range(5):
        subject = r.choice(subjects(built, out=True)).id
        try:
            made = act(r, built, subject)
        except (ZygonError, ValidationError) as error:
            assert str(error)
            continue
        before = built.document.dump()
        _, clean, inverse = apply_patch(before, made[1])
        assert apply_patch(clean, inverse)[1] == before
        built = edited(built, made)
    for subject in subjects(built, out=True):
        own = pages(built, subject.id)
        assert own
        assert write_pdf(own, "x") and all(write_dxf(p) for p in own)
