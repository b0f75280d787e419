"""What is welded, for the sheet of the whole: a row for the welds that are alike, with the numbers of the parts list."""

from __future__ import annotations

from collections.abc import Sequence

from zygon.design.pointer import pointer
from zygon.exchange.cutlist import CutRow
from zygon.making.result.built import Built, BuiltJoint
from zygon.paper.figures import PaperFigures, degrees
from zygon.paper.table import Table, table_of

__all__ = ["weld_list"]

#: What weld a joint of members takes where no other is said (common practice); '' of those that are welded as they lie.
WELDS = {
    "member_mitre": "butt weld all round",
    "member_butt": "fillet weld all round",
    "member_cope": "fillet weld all round",
    "member_on_board": "fillet weld all round",
    "member_passage": "fillet weld all round, both sides",
    "member_notch": "fillet weld along the notch",
}


def weld_list(built: Built, rows: Sequence[CutRow]) -> tuple[Table, ...]:
    """The table of welds; none where nothing is welded."""
    figures = PaperFigures(built.document)
    of_part = {k: r for r in rows for k in r.keys}
    counted: dict[tuple[str, tuple[int, ...], str, str], list[str]] = {}
    for joint in built.joints.values():
        if joint.fastened != "welded" or joint.refused:
            continue
        for a, b in joint.pairs:
            numbers = tuple(sorted(of_part[k].number for k in (a, b) if k in of_part))
            row = (WELDS.get(joint.kind, "weld"), numbers, _angle(joint), figures.length(_gap(built, joint)))
            counted.setdefault(row, []).append(" – ".join(_numbered(built, of_part, k) for k in (a, b)))
    found = [
        (f"W{n}", weld, where[0] + (" and alike" if len(set(where)) > 1 else ""), str(len(where)), angle, gap)
        for n, ((weld, _, angle, gap), where) in enumerate(counted.items(), 1)
    ]
    heads = ["No.", "Weld", "Between", "Places", "Axes at", f"Gap, {figures.unit}"]
    return (table_of("welds", "Welds", heads, found, [], ()),) if found else ()


def _numbered(built: Built, rows: dict[str, CutRow], key: str) -> str:
    name = built.parts[key].path.partition("@")[0].replace("_", " ")
    return f"{rows[key].number} {name}" if key in rows else name


def _gap(built: Built, joint: BuiltJoint) -> float:
    """What is left between both for the weld, mm."""
    read = built.values.get(pointer("joints", joint.key, "gap"))
    return read.value if read else 0.0


def _angle(joint: BuiltJoint) -> str:
    return degrees(joint.details["angle"]) if "angle" in joint.details else ""
