"""How boards meet is found from where they lie, and joints that cannot be there are refused with the reason."""

import pytest

from zygon.design.draft import Draft
from zygon.errors import DocumentError
from zygon.making.asked.questions import offers_between, parts_along
from zygon.making.pipeline import build

T = 11.8


def pair(x_low, y_high=200.0, width=300.0, plane_b="facing_side"):
    """A front 300 wide, and a side whose left face is at x_low and that runs from the front's back face."""
    draft = Draft("pair", "ply12")
    draft.board("front", "ply12", "facing_front", 0, (0, width), (0, 100))
    if plane_b == "facing_side":
        draft.board("side", "ply12", "facing_side", x_low, ("front.back", y_high), (0, 100))
    else:
        draft.board("side", "ply12", plane_b, 50, (0, width), (0, 100))
    return draft


def offers(draft):
    return {(o["kind"], o["order"]): o["refused"] for o in offers_between(draft.document(), "front", "side")}


def test_at_the_end_it_is_a_corner_and_fingers_are_possible():
    found = offers(pair(0))
    assert found["finger", "ab"] == "" and found["tab_slot", "ba"] == ""


def test_away_from_the_end_it_is_a_tee_and_fingers_are_not():
    found = offers(pair(100))
    assert "meet in a tee" in found["finger", "ab"]
    assert found["tab_slot", "ba"] == ""
    assert "other board whose edge meets a face" in found["tab_slot", "ab"]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda d: d["spans"]["y"].update(low={"text": "front.back + 3", "unit": "mm"}), "side ends 3 mm before front"),
        (lambda d: d["spans"]["y"].update(low={"text": "front.back - 5", "unit": "mm"}), "5 mm deep inside front"),
        (lambda d: d["spans"]["z"].update(low={"text": "100", "unit": "mm"}, high={"text": "150", "unit": "mm"}), "share no length"),
        (lambda d: d["position"]["at"].update(text="400"), "front ends 100 mm before side"),
    ],
)
def test_where_they_do_not_meet_the_reason_is_said(change, words):
    draft = pair(0)
    change(draft.data["parts"]["side"])
    assert words in offers(draft)["finger", "ab"]


def test_parallel_boards_and_crossing_boards_are_refused():
    assert "lie parallel" in offers(pair(0, plane_b="facing_front"))["finger", "ab"]
    cross = pair(100)
    cross.data["parts"]["side"]["spans"]["y"]["low"] = cross.entry("-50")
    assert "cross" in offers(cross)["tab_slot", "ab"]


def test_a_refused_joint_cuts_nothing_and_is_a_problem_with_its_reason():
    draft = pair(100)
    draft.joint("finger", "front", "side")
    built = build(draft.document())
    assert built.joints["front-side"].refused
    assert built.parts["front"].flat.area == pytest.approx(300 * 100)
    assert [(f.code, f.entry) for f in built.faults] == [("joint_refused", "/joints/front-side")]


def test_two_boards_are_joined_once():
    draft = pair(0)
    draft.joint("finger", "front", "side")
    assert "joined already" in offers(draft)["tab_slot", "ba"]
    draft.data["joints"]["again"] = {**draft.data["joints"]["front-side"], "order": 9}
    assert build(draft.document()).joints["again"].refused == "these two boards are joined already"


def test_parts_along_an_axis_come_in_order():
    draft = pair(100)
    document = draft.document()
    at = {"x": {"text": "150", "unit": "mm"}, "z": {"text": "front.top / 2", "unit": "mm"}}
    at["z"]["text"] = "mid(front.bottom, front.top)"
    assert [p["part"] for p in parts_along(document, "y", at)] == ["front"]
    assert [p["part"] for p in parts_along(document, "x", {"y": {"text": "50", "unit": "mm"}, "z": at["z"]})] == ["side"]
    with pytest.raises(DocumentError, match="two other axes"):
        parts_along(document, "x", {"x": {"text": "1", "unit": "mm"}})


@pytest.mark.parametrize("thick, thin", [("ply12", "ply6"), ("ply6", "ply12")])
@pytest.mark.parametrize("flush, at", [("bottom", 0), ("top", 40), ("", 3)])
def test_edges_of_unequal_boards_that_touch_are_not_flush_on_both_faces(thick, thin, flush, at):
    """Whichever of the two is thicker, and whichever face they have in common."""
    draft = Draft("pair", "ply12", "ply6")
    draft.board("front", thick, "lying", at, (0, 200), (0, 100), face=flush or "bottom")
    draft.board("side", thin, "lying", 40 if flush == "top" else 0, (200, 350), (0, 100), face=flush or "bottom")
    refused = set(offers(draft).values())
    assert refused == {"the edges of front and side touch, but their faces are not flush"}


def test_edges_of_equal_boards_that_touch_flush_may_be_keyed():
    draft = Draft("pair", "ply12")
    draft.board("front", "ply12", "lying", 0, (0, 200), (0, 100)).board("side", "ply12", "lying", 0, (200, 350), (0, 100))
    assert offers(draft)["edge_key", "ab"] == ""
