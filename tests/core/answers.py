"""What a design answers to everything that can be asked of it: operations as patches, offers, measures, weights, test pieces and nesting tasks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from zygon.design.document import Document
from zygon.design.layout import Place
from zygon.design.layout_operations import change_many, group_parts, mirror, remove_copy, remove_group
from zygon.design.operations import entries, freeze, remove_part, remove_size, rename, repoint
from zygon.edits import cut_tests
from zygon.edits.bend_strip import add_bend_test
from zygon.edits.independent import make_independent
from zygon.edits.split import split_part
from zygon.errors import ZygonError
from zygon.making.asked.measured import Lost, about, measure, weigh
from zygon.making.asked.questions import middle_of, offers_between, parts_along
from zygon.making.pipeline import build
from zygon.nest.design import plans
from zygon.nest.legal import usable_of

__all__ = ["answers_of"]


def answers_of(document: Document) -> dict[str, Any]:
    """By question; what is refused answers with why."""
    built = build(document)
    out: dict[str, Any] = {}

    def ask(name: str, question: Callable[[], Any]) -> None:
        try:
            told = question()
        except (ZygonError, Lost) as error:
            told = str(error)
        out.setdefault(name, []).append(told)

    boards = list(built.made)
    own = [k for k in boards if not built.parts[k].made_by]
    for key in document.parts:
        ask("remove part", lambda k=key: remove_part(document, k))
        ask("rename", lambda k=key: rename(document, "parts", k, f"new {k}"))
        ask("repoint", lambda k=key: repoint(document, k, next(iter(document.parts))))
    for key in document.sizes:
        ask("remove size", lambda k=key: remove_size(document, k))
        ask("rename", lambda k=key: rename(document, "sizes", k, f"{k}_two"))
    for key in document.groups:
        ask("remove group", lambda k=key: remove_group(document, k))
        ask("rename", lambda k=key: rename(document, "groups", k, f"new {k}"))
    for key in document.copies:
        ask("remove copy", lambda k=key: remove_copy(document, k))
        ask("make independent", lambda k=key: make_independent(built, k))
    for where, _ in sorted(entries(document.dump()))[::3]:
        if where in built.values:
            ask("freeze", lambda w=where: freeze(document, w, built.values[w].value, built.values[w].kind))
    for key in own:
        for axis in "xyz":
            of = [f"part:{key}"]
            ask("middle", lambda o=of, a=axis: middle_of(built, o, a))
            ask("mirror", lambda o=of, a=axis: mirror(document, o, a, middle_of(built, o, a), "mm"))
        ask("about", lambda k=key: asdict(about(built, Place(part=k))))
        features = [f"feature:{key}:{f}" for f in getattr(document.parts[key], "features", {})]
        for field in ("diameter", "depth", "width"):
            ask("change many", lambda f=features, d=field: change_many(document, f, d, "6.4", "mm"))
        for axis, at in (("x", 61.0), ("y", 43.0)):
            if getattr(document.parts[key], "folding", None):
                ask("split", lambda k=key, a=axis, x=at: split_part(built, k, a, x, hold="tabs", overlap=14.0, number=3))
    for a, b in zip(own, own[1:] + own[:1], strict=True):
        ask("offers", lambda x=a, y=b: offers_between(document, x, y))
        for what, names in (
            ("part", ("", "")),
            ("face", ("left", "right")),
            ("face", ("top", "front")),
            ("edge", ("left-front", "top-back")),
            ("centre", ("", "")),
        ):
            one, other = (Place(part=k, what=what, name=n) for k, n in zip((a, b), names, strict=True))  # type: ignore[arg-type]
            ask("measure", lambda p=one, q=other: asdict(measure(built, p, q)))
            ask("about", lambda p=one: asdict(about(built, p)))
    ask("weigh", lambda: asdict(weigh(built, boards)))
    ask("weigh", lambda: asdict(weigh(built, boards[:1])))
    ask("group", lambda: group_parts(document, own[:2], "both"))
    for axis in "xyz":
        at = {a: {"text": str(t), "unit": "mm"} for a, t in (("x", 61), ("y", 43), ("z", 37)) if a != axis}
        ask("along", lambda a=axis, t=at: parts_along(document, a, t))
    for stock in document.stocks:
        ask("comb", lambda s=stock: cut_tests.add_comb(built, s, document.cutter, -0.15, 0.07, 6))
        ask("kerf test", lambda s=stock: cut_tests.add_kerf_test(built, s, document.cutter, 5, 17.0, 0.8))
        ask("bend test", lambda s=stock: add_bend_test(built, s, document.cutter, 1.4, 72.0, 90.0))
    for plan in plans(built):
        t = plan.task
        ask(
            "nesting",
            lambda p=plan, t=t: [
                p.stock,
                p.parts,
                t and [t.gap, t.edges, t.seed, t.seconds],
                [[s.name, s.quantity, s.turns, s.mirror, s.free] for s in t.shapes] if t else 0,
            ],
        )
        ask(
            "sheets",
            lambda t=t: (
                [
                    [s.name, s.price, s.count, s.width, usable_of(t, s, 900.0).bounds, usable_of(t, s, 900.0).area]
                    for s in (*t.kinds, *t.stock)
                ]
                if t
                else []
            ),
        )
    return out
