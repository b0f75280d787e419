"""A bent bar from the bender's table: straight pieces, turns and bends become the points of a frame, and a member lies along them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.connector import TOWARD, Toward
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.edits.frames import bar_of
from zygon.errors import DocumentError, ExpressionError, MemberError
from zygon.geometry.frame import AXES
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built
from zygon.making.rooms.named import figure
from zygon.making.tube.bent_path import Bend, BentPath, corners_of
from zygon.measure.evaluate import evaluate
from zygon.measure.quantity import Kind

__all__ = ["bent_from_table"]


def bent_from_table(
    built: Built,
    stock: str,
    rows: Sequence[tuple[str, str, str]],
    end: str,
    radius: str,
    start: dict[str, str],
    way: Toward,
    toward: Toward,
    name: str = "",
) -> tuple[str, Patch]:
    """Label and patch of a bar that is bent by a table: each row a straight piece, a turn about the bar since the last bend (right-hand along the feed)
    and a bend, as entries; then what is straight at the ``end``.

    It begins at ``start``, entries along x, y and z, runs ``way``, and its first bend goes ``toward`` a side where it is not turned. Raises
    DocumentError that names the row.
    """
    document = built.document
    bar_of(document, stock)
    first, second = TOWARD[way], TOWARD[toward]
    if abs(sum(a * b for a, b in zip(first, second, strict=True))) > 0:
        rule = "a side that it does not run along"
        raise DocumentError(f"It runs {way}, and bends toward {toward}", entry="toward", value=toward, rule=rule)
    scope = EntryScope(solve(document, built.good, leg_face))

    def worth(entry: str, text: str, kind: Kind) -> float:
        try:
            return evaluate(text.strip() or "0", document.unit, kind, scope).value
        except ExpressionError as error:
            raise DocumentError(
                f"{entry}: {error.message}", entry=entry, value=text, rule=error.reason, code="broken_expression"
            ) from error

    bends = [
        Bend(
            worth(f"straight {n}", feed, "length"),
            math.degrees(worth(f"turn {n}", turn, "angle")),
            math.degrees(worth(f"bend {n}", bend, "angle")),
        )
        for n, (feed, turn, bend) in enumerate(rows, 1)
    ]
    wide = worth("radius", radius, "length")
    if bends and wide <= 0:
        raise DocumentError(f"A radius of {radius}", entry="radius", value=radius, rule="a radius of the centre line greater than 0")
    at = [worth(axis, start.get(axis, "0"), "length") for axis in AXES]
    try:
        corners = corners_of(BentPath(tuple(bends), worth("last straight", end, "length"), wide), first, second)
    except MemberError as error:
        raise DocumentError(error.message, entry=error.entry, value=error.value, rule=error.rule) from error
    called = fresh_name(document, name or "bent_bar")
    lines_of = fresh_name(document, f"{called}_lines", {called})
    frame, points = fresh_key(document.frames, lines_of), {}
    for n, corner in enumerate(corners):
        # the start as it was typed; from there on figures, so that the table stands as it was entered
        texts = {a: start.get(a, "0") if not n else figure(at[k] + float(corner[k]), document.unit) for k, a in enumerate(AXES)}
        points[f"p{n + 1}"] = {"at": {a: entry_of(document, text) for a, text in texts.items()}, "order": n}
    lines = {f"l{n}": {"a": f"p{n}", "b": f"p{n + 1}", "order": n} for n in range(1, len(corners))}
    member: dict[str, Any] = {
        "kind": "member",
        "name": called,
        "stock": stock,
        "frame": frame,
        "lines": list(lines),
        "against": next(a for a, x in zip(AXES, second, strict=True) if x),
        "order": next_order(document.parts),
    }
    if bends:
        member["radius"] = entry_of(document, radius)
    own = {"name": lines_of, "order": next_order(document.frames), "points": points, "lines": lines}
    patch: Patch = [
        {"op": "add", "path": pointer("frames", frame), "value": own},
        {"op": "add", "path": pointer("parts", fresh_key(document.parts, member["name"])), "value": member},
    ]
    return f"{document.stocks[stock].name}, bent by a table", patch
