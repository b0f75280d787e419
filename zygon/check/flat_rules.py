"""The rules that look at one flat. Each says what it reads beside it, and is remembered by just that: a new rule is a line here.

What a rule reads and does not say would bring back its problems of before; the tests see what each of them takes from the document and from the part.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, partial
from typing import Any

from zygon.check.bends import bend_faults, gap_faults, gap_of
from zygon.check.called import called
from zygon.check.clash import clash_faults
from zygon.check.cutter import flat_cutter_faults
from zygon.check.depth import depth_faults
from zygon.check.outline_rules import arc_faults, neck_faults
from zygon.check.pieces import gone_faults, piece_faults, underside_faults
from zygon.check.placed import placed_faults
from zygon.check.process import process_faults
from zygon.check.thin import thin_faults
from zygon.making.flats.face_words import face_word
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault
from zygon.memo import Memo, digest

__all__ = ["FLAT_RULES", "READINGS", "FlatRule", "flat_faults"]

_FOUND = Memo(20_000)
_ALL = Memo(4_000)


@dataclass(frozen=True)
class Reading:
    """Something that rules read beside the flat: its value, and the fields of the document, of the part's record and of the part that it is taken from.

    ``alike``: it is the same for all parts of a design.
    """

    value: Callable[[Built, FlatPart], Any]
    document: frozenset[str] = frozenset()
    record: frozenset[str] = frozenset()
    part: frozenset[str] = frozenset()
    alike: bool = False


def _words(built: Built, part: FlatPart) -> Any:
    """What the owners of a part's cuts and flanges are called, and what kind they are of: the same flat may have come about in other ways."""
    document, record = built.document, part.record
    owners = dict.fromkeys(o.owner for o in part.flat.asked.operations) if part.flat.asked else {}
    kinds = [(k, f.kind) for k, f in record.features.items()]
    return kinds, [called(document, o) for o in owners]


def _folding(built: Built, part: FlatPart) -> Any:
    """The flanges as they are said, without what is cut into them, and what is said of all of them."""
    folding = part.record.folding
    if folding is None:
        return None
    flanges = [(k, f.model_copy(update={"features": {}}) if hasattr(f, "features") else f) for k, f in folding.flanges.items()]
    return flanges, folding.model_copy(update={"flanges": {}})


def _reliefs(built: Built, part: FlatPart) -> Any:
    return [(k, getattr(j, "relief", "")) for k, j in built.said_joints.get(part.key, ())]


def _of(*document: str, record: str = "") -> tuple[frozenset[str], frozenset[str]]:
    return frozenset(document), frozenset(record.split())


READINGS: dict[str, Reading] = {
    "display": Reading(lambda b, _: b.document.display, *_of("display"), alike=True),
    "rules": Reading(lambda b, _: b.document.rules, *_of("rules"), alike=True),
    "cutter": Reading(lambda b, _: (b.document.cutter, b.document.cutters), *_of("cutter", "cutters"), alike=True),
    "stock": Reading(lambda _, p: p.record.stock, *_of(record="stock")),
    "bending": Reading(lambda b, p: b.document.stock_of(p.record).bending, *_of("stocks", record="stock")),
    "reliefs": Reading(_reliefs, *_of("joints")),
    "words": Reading(_words, *_of("parts", "joints", "bores", record="features folding name")),
    "folding": Reading(_folding, *_of(record="folding loose")),
    "gap": Reading(gap_of, *_of(record="folding")),
    "up": Reading(lambda _, p: p.record.up, *_of(record="up")),
    "faces": Reading(lambda _, p: (face_word(p, "a"), face_word(p, "b")), part=frozenset({"matrix", "place", "mirrored"})),
}


@dataclass(frozen=True)
class FlatRule:
    """A rule about one flat: what it tells, the names of its ``READINGS``, and whether it speaks of folded parts, and of those that are cut, alone.

    ``told`` is given whether what is offered as a mend is tried. ``whole``: that builds the design anew, so what is told then hangs on all of it.
    """

    name: str
    told: Callable[[Built, FlatPart, bool], list[Fault]]
    reads: tuple[str, ...]
    folded: bool = False
    cut: bool = False
    whole: bool = False


FLAT_RULES = (
    FlatRule("pieces", lambda b, p, tried: piece_faults(b.document, p, tried=tried), ("words", "folding"), whole=True),
    FlatRule("gone", lambda b, p, _: gone_faults(b.document, p), ("words", "folding"), folded=True),
    FlatRule("underside", lambda b, p, _: underside_faults(p), ("up", "faces")),
    FlatRule("thin", lambda b, p, _: thin_faults(b.document, p), ("display", "rules", "words", "folding")),
    FlatRule("neck", lambda b, p, _: neck_faults(b.document, p), ("display", "rules")),
    FlatRule("depth", lambda b, p, _: depth_faults(b.document, p), ("display", "rules", "words")),
    FlatRule("placed", lambda b, p, _: placed_faults(b.document, p), ("display", "words", "folding")),
    FlatRule("bends", lambda b, p, _: bend_faults(b.document, p), ("display", "bending", "words", "folding"), folded=True),
    FlatRule("gap", lambda b, p, _: gap_faults(b, p), ("display", "folding", "gap"), folded=True),
    FlatRule("clash", lambda b, p, tried: clash_faults(b.document, p, tried=tried), ("display", "folding"), folded=True, whole=True),
    FlatRule("cutter", lambda b, p, _: flat_cutter_faults(b.document, p), ("display", "cutter", "stock", "words"), cut=True),
    FlatRule("arcs", lambda b, p, _: arc_faults(b.document, p), ("display", "cutter", "stock", "words"), cut=True),
    FlatRule("process", lambda b, p, _: process_faults(b.document, p), ("display", "cutter", "stock", "reliefs", "words"), cut=True),
)


@cache
def _rules_for(*, folded: bool, cut: bool) -> tuple[tuple[FlatRule, ...], tuple[str, ...]]:
    """The rules that speak of such a part, and all that they read."""
    rules = tuple(r for r in FLAT_RULES if (folded or not r.folded) and (cut or not r.cut))
    return rules, tuple(dict.fromkeys(name for r in rules for name in r.reads))


def flat_faults(built: Built, part: FlatPart, *, tried: bool, known: dict[str, str]) -> list[Fault]:
    """What all rules tell of one flat; ``known`` holds what was read of the design for its other parts, and is added to."""
    rules, names = _rules_for(folded=part.flat.fold is not None, cut=bool(part.record.cut_here))
    read: dict[str, Any] = {}
    for name in names:
        if READINGS[name].alike:
            if name not in known:
                known[name] = digest(READINGS[name].value(built, part))
            read[name] = known[name]
        else:
            read[name] = READINGS[name].value(built, part)
    # all rules at once where nothing that any of them reads has changed: most parts, most of the time
    key = digest("all", part.key, part.path, part.flat.digest, read)
    told = _ALL.get(key, lambda: _each(built, part, rules, read))[0]
    found: list[Fault] = []
    for rule, n, own in told:
        again = own and tried and rule.whole
        found += _FOUND.get(digest(n, built.document), partial(rule.told, built, part, True))[0] if again else own
    return found


def _each(built: Built, part: FlatPart, rules: tuple[FlatRule, ...], read: dict[str, Any]) -> list[tuple[FlatRule, str, list[Fault]]]:
    """What each rule tells, with the key by which it is remembered: just what it reads."""
    digests = {name: value if READINGS[name].alike else digest(value) for name, value in read.items()}
    found = []
    for rule in rules:
        key = digest(rule.name, part.key, part.path, part.flat.digest, [digests[name] for name in rule.reads])
        found.append((rule, key, _FOUND.get(key, partial(rule.told, built, part, False))[0]))
    return found
