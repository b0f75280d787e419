"""What is offered for two boards can be had: begun as the interface begins it, each offer of every pair joins them."""

import pytest

from tests.core.making.joints.pairs import MEETING, pair
from zygon.design.patch import apply_patch
from zygon.making.asked.questions import offers_between
from zygon.making.pipeline import build

# joints that take nothing from their first or second board
WHOLE = {"butt": "ab", "face_glue": "ab", "notch": "b"}


def worked(built, part):
    """All that is cut into a board, but not by what."""
    flat = built.flats[part].flat
    lines = [[(c.points, c.bulges) for c in (r.outer, *r.inner)] for r in flat.pieces]
    return lines, flat.pockets, flat.bevels, flat.sinks, flat.bores


@pytest.mark.parametrize("kind", MEETING)
def test_every_offer_joins_as_it_is(kind):
    data = pair(kind, cutter="router").document().dump() | {"joints": {}}
    plain = build(apply_patch(data, [])[0])
    offers = [o for o in offers_between(plain.document, "a", "b") if not o["refused"]]
    assert kind in {o["kind"] for o in offers}
    for offer in offers:
        a, b = ("b", "a") if offer["order"] == "ba" else ("a", "b")
        record = {"kind": offer["kind"], "a": a, "b": b, "order": 1}
        document, _, _ = apply_patch(data, [{"op": "add", "path": "/joints/a-b", "value": record}])
        built = build(document)
        joint = built.joints["a-b"]
        assert (joint.kind, joint.refused) == (offer["kind"], ""), offer
        for side, part in (("a", a), ("b", b)):
            assert (worked(built, part) == worked(plain, part)) is (side in WHOLE.get(offer["kind"], "")), (offer, part)
        # they are joined now, and none is offered beside it
        again = {(o["kind"], o["order"]): o["refused"] for o in offers_between(document, "a", "b")}
        assert again[offer["kind"], offer["order"]] == "these two boards are joined already"
        assert all(again.values())
