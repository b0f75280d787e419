"""Every mend that is offered can be pressed, and what it mends is not said again."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_robustness import DOCUMENTS, TEXTS
from tests.explore import drawn
from zygon.check.run import check
from zygon.design.operations import entries
from zygon.design.patch import apply_patch
from zygon.errors import ZygonError
from zygon.making.pipeline import build

SIZES = [*TEXTS, "1 mm", "2 mm", "30 mm", "80 mm", "15 mm", "200 mm", "3.3 mm", "45 deg", "120 deg"]


@settings(max_examples=drawn(14))
@given(st.sampled_from(DOCUMENTS), st.lists(st.tuples(st.integers(0, 10_000), st.sampled_from(SIZES)), min_size=1, max_size=3))
def test_each_mend_of_whatever_is_wrong_can_be_pressed_and_mends_it(data, changes):
    places = sorted(p for p, _ in entries(data))
    patch = [{"op": "replace", "path": f"{places[i % len(places)]}/text", "value": text} for i, text in changes]
    good = build(apply_patch(data, [])[0]).good
    try:
        document, _, _ = apply_patch(data, patch)
    except ZygonError:
        return
    built = build(document, good)
    said: set[tuple[str, str]] = set()
    for fault in (p.fault for p in check(built)):
        for mend in fault.mends:
            kind = (fault.code, mend.label.split()[0])
            if kind in said:
                continue
            said.add(kind)
            mended, _, _ = apply_patch(document.dump(), list(mend.patch))
            left = [(f.code, f.part, f.owner, f.message) for f in (p.fault for p in check(build(mended, built.good)))]
            assert (fault.code, fault.part, fault.owner, fault.message) not in left, (fault.message, mend.label, mend.patch)
