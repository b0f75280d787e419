"""Removing a flange takes what hangs on it and nothing else; what is left is built, and nothing is lost of what is bought."""

import pytest

from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.flanges import remove_flange
from zygon.errors import DocumentError
from zygon.making.pipeline import build


def tray(**part):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 300), (0, 200), up="a")
    d.fold("p")
    for edge in ("left", "right", "front", "back"):
        d.flange("p", edge, edge, 40, toward="a")
    d.flange("p", "lip", "end", 12, on="left", toward="a").flange("p", "curl", "end", 10, kind="hem", on="lip", toward="a")
    d.flange("p", "brim", "end", 12, on="right", toward="b", name="brim")
    corners = {"lf": ("left", "front"), "fr": ("front", "right"), "rb": ("back", "right")}
    d.data["parts"]["p"]["folding"]["corners"] = {k: {"a": a, "b": b, "style": "open"} for k, (a, b) in corners.items()}
    d.data["parts"]["p"] |= part
    return d.document()


def after(document, *keys):
    for key in keys:
        document = patched(document.dump(), remove_flange(document, "p", key)[1])
    return document


@pytest.mark.parametrize(
    "key, label, flanges, corners",
    [
        ("left", "p: without left flange", {"right", "front", "back", "brim"}, {"fr", "rb"}),
        ("lip", "p: without lip", {"left", "right", "front", "back", "brim"}, {"lf", "fr", "rb"}),
        ("curl", "p: without curl", {"left", "right", "front", "back", "lip", "brim"}, {"lf", "fr", "rb"}),
        ("right", "p: without right flange", {"left", "front", "back", "lip", "curl"}, {"lf"}),
        ("front", "p: without front flange", {"left", "right", "back", "lip", "curl", "brim"}, {"rb"}),
        ("brim", "p: without brim", {"left", "right", "front", "back", "lip", "curl"}, {"lf", "fr", "rb"}),
    ],
)
def test_what_stands_on_it_and_its_corners_go_with_it(key, label, flanges, corners):
    document = tray()
    said, _ = remove_flange(document, "p", key)
    left = after(document, key)
    assert said == label
    assert set(left.parts["p"].folding.flanges) == flanges
    assert set(left.parts["p"].folding.corners) == corners
    assert len(build(left).flats["p"].flat.fold.faces) == len(flanges) + 1


def test_with_the_last_flange_it_is_a_board_again():
    left = after(tray(), "left", "right", "front", "back")
    assert (left.parts["p"].kind, left.parts["p"].made) == ("board", "cut")
    flat = build(left).flats["p"].flat
    assert flat.fold is None
    assert flat.area == pytest.approx(300 * 200)


def test_what_was_bought_stays_bought_with_its_price():
    left = after(tray(made="bought", price=4.5), "left", "right", "front", "back")
    assert (left.parts["p"].kind, left.parts["p"].price) == ("bought", 4.5)


@pytest.mark.parametrize("part, key", [("p", "top"), ("nobody", "left")])
def test_what_is_not_there_is_refused_by_its_name(part, key):
    with pytest.raises(DocumentError) as refused:
        remove_flange(tray(), part, key)
    assert (refused.value.entry, refused.value.value, refused.value.rule) == ("key", key, "a flange of a folded part")


def test_a_board_has_no_flange_to_remove():
    d = Draft("plate", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 300), (0, 200))
    with pytest.raises(DocumentError):
        remove_flange(d.document(), "p", "left")
