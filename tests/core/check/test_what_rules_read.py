"""A rule about a flat reads no more than it says, since it is remembered by that: what it takes of the document, of its part and of its record is seen."""

import json
from pathlib import Path

import pytest

from tests.explore import EXPLORE
from zygon.check.flat_rules import FLAT_RULES, READINGS
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.parts.plate import PlatePart
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.making.pipeline import build
from zygon.making.result.built import FlatPart

FIXTURES = Path(__file__).parents[1] / "fixtures"
#: What is watched, and what any rule may read of it: that by which it is remembered, and what only says whether the rule speaks of the part.
WATCHED = {"document": Document, "record": PlatePart, "part": FlatPart}
OF_EACH = {"document": set(), "record": {"kind", "made", "folding"}, "part": {"key", "of", "path", "body", "record"}}


class Seen:
    """Which fields were read of a document, of one part and of its record, while a rule ran."""

    def __init__(self, monkeypatch):
        self.own, self.read = (), {}
        for name, owner in WATCHED.items():
            monkeypatch.setattr(owner, "__getattribute__", self._watching(name), raising=False)

    def _watching(self, found):
        def read(record, name):
            if any(record is own for own in self.own):
                kind = type(record)
                if name in (kind.__dataclass_fields__ if found == "part" else kind.model_fields):
                    self.read[found].add(name)
            return object.__getattribute__(record, name)

        return read

    def of(self, rule, built, part):
        """What is told, and the fields read of each that is watched."""
        self.read = {name: set() for name in WATCHED}
        self.own = (built.document, part.record, part)
        try:
            return rule.told(built, part, False), self.read
        finally:
            self.own = ()


def bent(key, **folding):
    d = Draft(key, "galv20").board("p", "galv20", "lying", 0, (0, 230), (0, 170), up="a").fold("p", **folding)
    return d.flange("p", "one", "left", "41"), key


def wrong():
    """What each rule is there for."""
    d, key = bent("cut off", radius="0.1 mm", gap="9 mm")
    d.data["parts"]["p"]["loose"] = "removed"
    d.flange("p", "two", "front", "30").flange("p", "lip", "end", "400", on="one")
    d.feature("p", "slot", "rectangle", ("left", 20), ("centre", 0), width="6", height="400")
    d.feature("p", "near", "hole", ("right", 30), ("front", 4), diameter="5")
    yield key, d.document()
    d, key = bent("into itself")
    d.flange("p", "right", "right", "41").flange("p", "lip", "end", "300", on="one").flange("p", "other", "end", "300", on="right")
    d.feature("p", "in_bend", "hole", ("left", 1), ("centre", 0), diameter="5")
    yield key, d.document()
    d = Draft("in two", "ply12", cutter="router").board("p", "ply12", "lying", 0, (0, 230), (0, 170), up="a")
    d.feature("p", "through", "rectangle", ("left", 60), ("centre", 0), width="8", height="400")
    d.feature("p", "below", "pocket", ("right", 60), ("centre", 0), width="40", height="30", depth="11.5", face="bottom")
    d.feature("p", "above", "pocket", ("right", 40), ("centre", 0), width="40", height="30", depth="5", face="top")
    d.feature("p", "one", "hole", ("right", 30), ("front", 20), diameter="9").feature(
        "p", "two", "hole", ("right", 34), ("front", 20), diameter="9"
    )
    d.feature("p", "off", "hole", ("right", -40), ("front", 20), diameter="9")
    d.feature("p", "text", "mark_text", ("right", 5), ("back", 5), text="beyond the edge", height="20")
    yield "in two", d.document()
    d = Draft("waist", "ply12", cutter="router").board("p", "ply12", "lying", 0, (0, 230), (0, 170), up="a")
    for n, edge in enumerate(("front", "back")):
        d.feature("p", f"n{n}", "edge_notch", ("centre", 0), ("centre", 0), edge=edge, width="40", depth="80", radius="2")
    yield "waist", d.document()
    d, key = bent("gaping", gap="3 mm")
    yield key, d.flange("p", "two", "front", "30").document()
    d = Draft("under", "ply12", cutter="router").board("p", "ply12", "lying", 0, (0, 230), (0, 170), up="a")
    yield (
        "under",
        d.feature("p", "below", "pocket", ("right", 60), ("centre", 0), width="40", height="30", depth="4", face="bottom").document(),
    )


def spoilt():
    """Designs with much that is wrong, so that each rule says something and works out its mends."""
    flat = [
        (name, make) for name, make in EXAMPLES.items() if any(p["kind"] in ("board", "folded") for p in make().dump()["parts"].values())
    ]
    for i, (name, make) in enumerate(flat):
        data = make().dump()
        data["rules"] = {"finger": 4.0, "web": 4.0, "edge": 4.0, "floor": 0.9}
        cutters = [*data["cutters"]]
        for cutter in cutters if EXPLORE else cutters[i % len(cutters) :][:1]:
            yield f"{name} {cutter}", patched(data, [{"op": "add", "path": "/cutter", "value": cutter}])
    # small holes of the hive under what a router can cut
    one_bit = [{"op": "add", "path": "/cutter", "value": "router"}, {"op": "add", "path": "/cutters/router/bits", "value": {}}]
    yield "hive router", patched(EXAMPLES["hive"]().dump(), one_bit)
    yield from wrong()
    for name in ("design-4.json", "design-5-bent.json"):
        yield name, load(json.loads((FIXTURES / name).read_text()))


def test_no_rule_reads_what_it_does_not_say(monkeypatch):
    built = [(name, build(document)) for name, document in spoilt()]
    seen = Seen(monkeypatch)
    said = set()
    for name, design in built:
        for part in (p for p in design.flats.values() if not p.made_by):
            for rule in FLAT_RULES:
                if (rule.folded and part.flat.fold is None) or (rule.cut and part.record.made != "cut"):
                    continue
                told, read = seen.of(rule, design, part)
                said |= {rule.name} if told else set()
                for of, fields in read.items():
                    may = OF_EACH[of].union(*(getattr(READINGS[r], of) for r in rule.reads))
                    assert fields <= may, (rule.name, name, part.key, of, fields - may)
    assert said == {rule.name for rule in FLAT_RULES}


@pytest.mark.parametrize("rule", FLAT_RULES, ids=lambda r: r.name)
def test_each_rule_says_what_it_reads_by_names_that_there_are(rule):
    assert set(rule.reads) <= set(READINGS) and len(set(rule.reads)) == len(rule.reads)


def test_what_is_read_unsaid_is_seen(monkeypatch):
    """The test above would see it."""
    design = build(EXAMPLES["rebated-box"]())
    part, other = list(design.flats.values())[:2]
    seen = Seen(monkeypatch)

    class Sly:
        @staticmethod
        def told(built, part, tried):
            return [built.document.currency, part.record.grain, part.place, other.record.note, other.mirrored]

    assert seen.of(Sly, design, part)[1] == {"document": {"currency"}, "record": {"grain"}, "part": {"record", "place"}}
