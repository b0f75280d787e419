"""The small picture of a design: all that is there, as large as the sheet allows, and what is nearer over what is farther."""

import itertools
import re

import numpy as np
import pytest

from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.making.result.fold import bend_points, face_motions
from zygon.screen.picture import EYE, STRIPS, _in_room, _strips, picture


def design(*boards, gone=False):
    d = Draft("d", "ply12", "ply6")
    for n, (stock, plane, at, *spans) in enumerate(boards):
        d.board(f"p{n}", stock, plane, at, *spans)
    if gone:
        d.board("gone", "ply12", "lying", "-900 mm", (5000, 5100), (0, 100))
        d.feature("gone", "all", "rectangle", ("centre", 0), ("centre", 0), width="120", height="120")
    return build(d.document())


def drawn(svg):
    """Fill and points of each path, in the order of drawing."""
    return [
        (fill, [tuple(map(float, p.split())) for p in re.split("[MLZ]+", d) if p])
        for fill, d in re.findall(r'<path fill="(#\w+)"[^>]* d="([^"]+)"', svg)
    ]


@pytest.mark.parametrize(("width", "height"), [(320, 220), (100, 300)])
def test_it_fills_the_sheet_but_for_a_margin_and_stands_in_its_middle(width, height):
    svg = picture(design(("ply12", "lying", 0, (700, 1300), (-50, 250))), width, height)
    xs, ys = zip(*(p for _, points in drawn(svg) for p in points), strict=True)
    assert (min(xs) + max(xs), min(ys) + max(ys)) == pytest.approx((width, height), abs=0.11)
    assert min(width - (max(xs) - min(xs)), height - (max(ys) - min(ys))) == pytest.approx(24, abs=0.11)


def test_what_is_cut_away_altogether_is_not_drawn():
    board = ("ply12", "lying", 0, (0, 300), (0, 200))
    assert picture(design(board, gone=True)) == picture(design(board))
    assert drawn(picture(design(gone=True))) == [] and "viewBox" in picture(design(gone=True))


#: A board, and one that hides some of it: above, before, or on the side that is seen.
OVER = {
    "above": ("lying", 0, "lying", 60),
    "before": ("facing_front", 60, "facing_front", 0),
    "right": ("facing_side", 0, "facing_side", 60),
}


@pytest.mark.parametrize("way", OVER)
@pytest.mark.parametrize("first", [0, 1])
def test_what_is_nearer_is_drawn_over_what_is_farther(way, first):
    far_plane, far_at, near_plane, near_at = OVER[way]
    boards = [("ply12", far_plane, far_at, (0, 200), (0, 200)), ("ply6", near_plane, near_at, (0, 200), (0, 200))]
    paths = drawn(picture(design(*(boards if first else boards[::-1]))))
    plain = [tint for tint, own in itertools.groupby(_stock(fill) for fill, _ in paths)]
    assert plain == ["ply12", "ply6"]


def _stock(fill):
    """Of which stock a fill is a shade: by the share of blue in it."""
    r, _, b = (int(fill[i : i + 2], 16) for i in (1, 3, 5))
    doc = design(("ply12", "lying", 0, (0, 10), (0, 10))).document
    shares = {k: int(s.tint[5:7], 16) / int(s.tint[1:3], 16) for k, s in doc.stocks.items()}
    return min(shares, key=lambda k: abs(shares[k] - b / r))


@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("turned", ["", "x", "y"])
def test_of_a_bend_the_side_that_is_seen_is_drawn(edge, toward, turned):
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 100), (0, 80), up="a")
    d.fold("p", radius="6 mm").flange("p", "f", edge, "40 mm", toward=toward)
    if turned:
        d.turn("p", turned, "40 deg", **dict.fromkeys(set("xyz") - {turned}, "0"))
    part = build(d.document()).flats["p"]
    (bend,) = part.flat.fold.bends
    (parent, _), matrix, t = face_motions(part.flat.fold), np.array(part.matrix), part.flat.thickness
    ends = np.array([bend.start, bend.end])

    def line(i, w):
        return _in_room(matrix, bend_points(bend, parent, ends + np.array(bend.outward) * bend.width * i / STRIPS, w))

    found = _strips(bend, parent, matrix, t, "#808080")
    assert len(found) == STRIPS
    for i, item in enumerate(found):
        sides = [np.vstack((line(i, w), line(i + 1, w))) for w in (0.0, t)]
        # seen is the side whose outside looks to the eye
        out = sides[1].mean(axis=0) - sides[0].mean(axis=0)
        along, on = line(i, t)[1] - line(i, t)[0], line(i + 1, t)[0] - line(i, t)[0]
        normal = np.cross(on, along)
        normal *= 1 if normal @ out > 0 else -1
        seen = sides[1 if normal @ EYE > 0 else 0]
        assert np.allclose(item.low, seen.min(axis=0)) and np.allclose(item.high, seen.max(axis=0))
