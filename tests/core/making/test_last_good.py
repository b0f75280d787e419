"""What a build hands to the next one: good values of the entries that there are, and of none that could not be read."""

from zygon.design.draft import Draft
from zygon.making.pipeline import build


def design(width="300 mm", height="6 mm"):
    d = Draft("d", "ply12").size("width", width)
    d.board("p", "ply12", "lying", "0", ("0", "width"), ("0", "100 mm"))
    d.data["marks"] = {**d.data.get("marks", {}), "height": d.entry(height)}
    return d.document()


def test_a_broken_entry_stands_on_its_last_good_value_and_hands_it_on():
    first = build(design())
    assert first.good["/sizes/width/entry"] == 300 and first.good["/marks/height"] == 6
    broken = build(design("nobody * 2"), first.good)
    assert broken.values["/sizes/width/entry"].stale and broken.flats["p"].flat.bounds[2] == 300
    assert broken.good["/sizes/width/entry"] == 300
    again = build(design("310 mm"), broken.good)
    assert again.good["/sizes/width/entry"] == 310


def test_what_was_never_good_is_not_handed_on_as_if_it_were():
    broken = build(design("nobody * 2", "nobody"))
    assert broken.values["/sizes/width/entry"].stale
    assert "/sizes/width/entry" not in broken.good and "/marks/height" not in broken.good
    assert broken.values["/marks/height"].value == 6.0


def test_what_is_there_no_more_is_forgotten():
    found = build(design(), {"/sizes/gone/entry": 12.0, "/sizes/width/entry": 1.0})
    assert "/sizes/gone/entry" not in found.good and found.good["/sizes/width/entry"] == 300
