"""What problems call an outline's own openings."""

from zygon.check.called import called
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build


def test_openings_of_an_outline_are_called_so():
    d = Draft("x", "ply12", cutter="router")
    ring = [[[x, 20.0, 0.0], [x + 20, 20.0, 0.0], [x + 20, 40.0, 0.0], [x, 40.0, 0.0]] for x in (20.0, 43.0)]
    outer = [[0.0, 0.0, 0.0], [100.0, 0.0, 0.0], [100.0, 60.0, 0.0], [0.0, 60.0, 0.0]]
    d.board("p", "ply12", "lying", "0", ("0", "100 mm"), ("0", "60 mm"), outline={"kind": "drawn", "outer": outer, "inner": ring})
    document = d.document()
    assert called(document, "outline") == "outline"
    assert any("between two openings of the outline" in p.fault.message for p in check(build(document)))
