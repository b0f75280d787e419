"""Which zones of a folded sheet are neighbours, and which of two that run into one another would be changed: on a tree of every case."""

from itertools import product
from types import SimpleNamespace

import pytest

from zygon.check.clash import _clears, _face_of, _joined, _level, _moved
from zygon.design.draft import Draft
from zygon.making.pipeline import build

# face 1 stands on the plate, 2 on 1, 3 on the plate, 4 on 2; zone -k is the bend that carries face k
PARENT = {1: 0, 2: 1, 3: 0, 4: 2}
FOLD = SimpleNamespace(bends=[SimpleNamespace(parent=PARENT[k]) for k in PARENT])
NEIGHBOURS = {
    (0, 1),
    (1, 2),
    (0, 3),
    (2, 4),  # faces with one bend between them
    (0, -1),
    (1, -1),
    (1, -2),
    (2, -2),
    (0, -3),
    (3, -3),
    (2, -4),
    (4, -4),  # a bend and both its faces
    (-1, -2),
    (-2, -4),  # a bend and the next one on the face that it carries
    (-1, -3),  # two bends of one face
}


@pytest.mark.parametrize("a, b", [(a, b) for a, b in product(range(-4, 5), repeat=2) if a != b])
def test_zones_are_joined_where_they_are_one_sheet_whichever_is_named_first(a, b):
    assert _joined(FOLD, a, b) == ((a, b) in NEIGHBOURS or (b, a) in NEIGHBOURS)


def test_the_one_that_hangs_on_more_bends_would_be_changed():
    assert [_level(FOLD, f) for f in range(5)] == [0, 1, 2, 1, 3]
    assert [_face_of(FOLD, z) for z in (-4, -1, 0, 3)] == [4, 1, 0, 3]
    assert [_moved(FOLD, a, b) for a, b in ((0, 2), (2, 3), (3, 2), (-2, 3), (-3, -4), (1, 3), (3, 1), (4, 0))] == [2, 2, 2, 2, 4, 3, 3, 4]


def lipped(lip):
    """A channel whose lip reaches the other wall where it is too long."""
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 60), (0, 100), up="a")
    d.fold("p").flange("p", "wall", "left", 40).flange("p", "stop", "right", 40).flange("p", "lip", "end", lip, on="wall")
    return d.document()


@pytest.mark.parametrize("length, clear", [("20 mm", True), ("55 mm", True), ("61 mm", False), ("80 mm", False)])
def test_an_edit_clears_a_flange_where_it_runs_into_nothing_afterwards(length, clear):
    document = lipped("80 mm")
    part = build(document).flats["p"]
    patch = [{"op": "replace", "path": "/parts/p/folding/flanges/lip/length/text", "value": length}]
    assert _clears(document, part, "lip", patch) is clear
    # what has no bends any more clears nothing
    flat = [{"op": "replace", "path": "/parts/p/kind", "value": "board"}, {"op": "remove", "path": "/parts/p/folding"}]
    made = [{"op": "remove", "path": f"/parts/p/{f}"} for f in ("made", "price") if f in document.dump()["parts"]["p"]]
    assert _clears(document, part, "lip", [*made, *flat]) is False
    assert _clears(document, part, "lip", [{"op": "add", "path": "/parts/p/out", "value": True}]) is False
