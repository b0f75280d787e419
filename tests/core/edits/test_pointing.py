"""What a drawing refers to pointed to something else, once for all that is said of it, or left where it is; over lines, circles, places and planes."""

import pytest

from tests.core.edits.test_drawings import act, drawn, entry
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.edits.drawings.pointing import point_drawn
from zygon.errors import DocumentError
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build


def plates() -> Document:
    d = Draft("t", "ply12")
    d.board("plate", "ply12", "lying", "0", ("0", "200 mm"), ("0", "100 mm"))
    d.board("near", "ply12", "facing_side", "60 mm", ("0", "100 mm"), ("plate.top", "80 mm"))
    d.board("far", "ply12", "facing_side", "120 mm", ("0", "100 mm"), ("plate.top", "80 mm"))
    d.board("over", "ply12", "lying", "80 mm", ("0", "200 mm"), ("0", "100 mm"))
    d.feature("over", "one", "hole", ("left", "40 mm"), ("front", "30 mm"), diameter="10 mm")
    d.feature("over", "two", "hole", ("left", "150 mm"), ("front", "70 mm"), diameter="16 mm")
    d = act(d.document(), "begin_outline", part="plate")
    data = d.dump()
    data["parts"]["plate"]["features"] = {"s": {"kind": "shape", "u": {}, "v": {}}}
    d = Document.model_validate(data)
    for tool, presses in (("line", [(10, 10), (14, 60)]), ("circle", [(90, 50), (95, 50)])):
        said = [{"x": x, "y": y, "on": "", "seen": []} for x, y in presses]
        d = act(d, "draw", feature="s", tool=tool, presses=said)
    return d


def tied() -> Document:
    """Two points on the near board's side, and a circle about a hole, as large."""
    d = plates()
    for p in drawn(d, "s").drawing.curves["line1"].points():
        d = act(d, "relate_drawn", feature="s", kind="on", of=[p, "x:near.left"])
    for kind in ("same_centre", "equal"):
        d = act(d, "relate_drawn", feature="s", kind=kind, of=["circle1", "hole:feature:over:one/0"])
    return d


def key_of(d: Document, **said: str) -> str:
    return next(
        k
        for k, r in drawn(d, "s").drawing.references.items()
        if (said.get("text") and r.x and r.x.text == said["text"]) or (said.get("hole") and r.hole == said["hole"])
    )


def test_all_that_was_said_of_a_face_is_said_of_the_other() -> None:
    d = tied()
    d = act(d, "point_drawn", feature="s", reference=key_of(d, text="near.left"), to="x:far.right")
    found = drawn(d, "s")
    assert [round(found.solved.point(p)[0], 4) for p in found.drawing.curves["line1"].points()] == [131.8, 131.8]
    assert key_of(d, text="far.right") and not found.solved.clashes
    data = d.dump()
    data["parts"]["far"]["position"]["at"] = entry("140 mm")
    assert drawn(Document.model_validate(data), "s").solved.point("line1.a")[0] == pytest.approx(151.8)


def test_a_hole_is_taken_for_another_with_its_size() -> None:
    d = tied()
    hole = key_of(d, hole="feature:over:one/0")
    assert drawn(d, "s").solved.point("circle1.centre") == pytest.approx((40, 30))
    d = act(d, "point_drawn", feature="s", reference=hole, to="hole:feature:over:two/0")
    found = drawn(d, "s")
    assert found.solved.point("circle1.centre") == pytest.approx((150, 70)) and found.solved.radius("circle1") == pytest.approx(8)


def test_what_stays_follows_no_more() -> None:
    d = tied()
    for said in ({"text": "near.left"}, {"hole": "feature:over:one/0"}):
        d = act(d, "point_drawn", feature="s", reference=key_of(d, **said), to="")
    before = drawn(d, "s")
    data = d.dump()
    data["parts"]["near"]["position"]["at"] = entry("90 mm")
    data["parts"]["over"]["features"]["one"]["diameter"] = entry("30 mm")
    after = drawn(Document.model_validate(data), "s")
    for p in before.drawing.points:
        assert after.solved.point(p) == pytest.approx(before.solved.point(p))
    assert after.solved.radius("circle1") == pytest.approx(5)


def test_a_lost_one_is_pointed_anew() -> None:
    d = tied()
    hole = key_of(d, hole="feature:over:one/0")
    data = d.dump()
    del data["parts"]["over"]["features"]["one"]
    lost = Document.model_validate(data)
    codes = {f.code for f in build(d).faults}
    assert {f.code for f in build(lost).faults} - codes == {"lost_reference"}
    for to in ("hole:feature:over:two/0", ""):
        assert {f.code for f in build(act(lost, "point_drawn", feature="s", reference=hole, to=to)).faults} <= codes


@pytest.mark.parametrize(
    ("reference", "to", "said"),
    [
        ("none", "", "nothing called none"),
        ("line", "hole:feature:over:one/0", "cannot become something round"),
        ("line", "x:nobody.left", "nothing called x:nobody.left"),
    ],
)
def test_what_cannot_be_followed_is_refused(reference: str, to: str, said: str) -> None:
    d = tied()
    built = build(d)
    key = key_of(d, text="near.left") if reference == "line" else reference
    with pytest.raises(DocumentError, match=said):
        point_drawn(built, "plate", "s", key, to)


def test_holes_are_called_by_what_they_are_of() -> None:
    words = {c.id: c.words for c in place_of(build(tied()), "plate", "s")[0].candidates()}
    assert words["hole:feature:over:two/0"] == "hole of over"
