"""Which boards a reference names: through copies and groups to what is drawn, in order and once each."""

from zygon.design.draft import Draft
from zygon.making.blanks.originals import originals


def test_references_lead_to_what_is_drawn_and_those_to_nothing_to_nothing():
    d = Draft("d", "ply12")
    for name in ("a", "b", "c"):
        if name == "b":
            d.group("g")
        d.board(name, "ply12", "lying", 0, (0, 100), (0, 50))
    d.repeat("row", "row", "group:g", number="3", spacing="60 mm", axis="z")
    d.repeat("again", "row", "copy:row", "part:a", number="2", spacing="200 mm", axis="x")
    document = d.document()
    assert originals(document, ["part:a"]) == ["a"]
    assert originals(document, ["copy:again"]) == ["a", "b", "c"]
    assert originals(document, ["group:g", "part:a", "part:b"]) == ["b", "c", "a"]
    assert originals(document, ["part:c", "group:g"]) == ["c", "b"]
    assert originals(document, ["copy:gone", "part:gone", "group:gone", "part:b"]) == ["b"]
