"""Marks that help: on wood, clear of every cut, hidden where the boards cover one another, the same on both mates."""

import pytest
import shapely

from zygon.design.examples import EXAMPLES
from zygon.geometry.stroke_font import strokes
from zygon.making.flats.layers import layers_of
from zygon.making.pipeline import build

ALL = {"numbers": True, "mates": True, "inside": True, "grain": True, "height": {"text": "6 mm", "unit": "mm"}}


def marked(name, **marks):
    from zygon.design.upgrade import load

    data = EXAMPLES[name]().dump()
    data["marks"] = {**data["marks"], **dict.fromkeys(("numbers", "mates", "inside", "grain"), False), **marks}
    return build(load(data))


@pytest.mark.parametrize("name", EXAMPLES)
def test_every_mark_lies_on_whole_wood(name):
    built = marked(name, **ALL)
    plain = marked(name)
    for key, part in built.flats.items():
        layers = layers_of(part.flat)
        own = {id(m) for m in plain.parts[key].flat.engraved}
        for mark in part.flat.engraved:
            if id(mark) in own or mark.owner.startswith("feature:") or mark.owner.startswith("bore:"):
                continue
            skin = layers[-1] if mark.face == "a" else layers[0]
            assert skin.high == pytest.approx(part.flat.thickness) or mark.face == "b"
            line = shapely.LineString(mark.contour.points)
            assert shapely.within(line, skin.outline.buffer(1e-6)), (key, mark.owner)
        assert part.flat.pieces == plain.parts[key].flat.pieces  # marks cut nothing


def test_both_boards_of_a_joint_carry_the_same_mark():
    built = marked("rebated-box", mates=True)
    for key, joint in built.joints.items():
        runs = []
        for part in (joint.a, joint.b):
            own = [m.contour for m in built.parts[part].flat.engraved if m.owner == f"joint:{key}"]
            assert own, (key, part)
            runs.append(sorted(round(c.length, 3) for c in own))
        assert len(runs[0]) == len(runs[1])
    owners = {m.owner for p in built.flats.values() for m in p.flat.engraved}
    assert {f"joint:{k}" for k in built.joints} <= owners


def test_where_a_board_is_covered_its_mark_is_under_the_other_board():
    built = marked("brood-box", mates=True)
    left, floor = built.parts["left"], built.parts["floor"]
    marks = [m for m in left.flat.engraved if m.owner == "joint:floor-left"]
    assert marks and all(m.face == "a" for m in marks)  # its right face, which looks inward
    low, high = floor.span_box.span("z")
    for mark in marks:
        z = [q + left.span_box.span("z")[0] for _, q in mark.contour.points]
        assert low - 1e-6 <= min(z) and max(z) <= high + 1e-6


def test_numbers_are_those_of_the_cut_list_and_grain_arrows_lie_along_it():
    built = marked("screen-board", numbers=True, grain=True)
    for n, (key, part) in enumerate(built.parts.items(), 1):
        own = [m.contour for m in part.flat.engraved if m.owner == f"mark:{key}"]
        digits = sum(len(strokes(d, 0, 0, 6)) for d in str(n))
        assert len(own) == digits + 3  # the number's strokes and the arrow's
        shaft = max(own, key=lambda c: c.length if len(c.points) == 2 else 0)
        along = abs(shaft.points[1][0] - shaft.points[0][0]) > 1
        assert along == (part.record.grain == "u")


def test_no_marks_are_made_where_none_are_wanted():
    built = marked("rebated-box")
    assert not any(m.owner.startswith(("mark:", "joint:")) for p in built.parts.values() for m in p.flat.engraved)


def test_numbers_stay_those_of_the_cut_list_when_something_bought_stands_between():
    from zygon.design.upgrade import load
    from zygon.exchange.cutlist import cut_list

    data = EXAMPLES["screen-board"]().dump()
    data["marks"] = {"numbers": True}
    data["parts"]["screws"] = {"kind": "item", "name": "screws", "order": -1, "quantity": 8}
    built = build(load(data))
    for row in cut_list(built):
        if row.made == "cut":
            own = [m for m in built.parts[row.key].flat.engraved if m.owner == f"mark:{row.key}"]
            assert len(own) == sum(len(strokes(d, 0, 0, 6)) for d in str(row.number))
    assert [r.number for r in cut_list(built)] == list(range(1, 8)) and cut_list(built)[0].key == "screws"
