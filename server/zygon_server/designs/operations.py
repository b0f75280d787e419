"""Operations that the core works out as one patch: which function answers which name."""

from __future__ import annotations

from typing import Any

from zygon.design.layout_operations import change_many, group_parts, mirror, remove_copy, remove_group
from zygon.design.operations import freeze, remove_part, remove_size, rename, repoint
from zygon.edits import cut_tests
from zygon.edits.bend_strip import add_bend_test, bend_from_legs
from zygon.edits.independent import make_independent
from zygon.edits.split import split_part
from zygon.making.asked.questions import middle_of
from zygon_server.designs.schemas import OperationIn
from zygon_server.designs.service import Head
from zygon_server.errors import Refused

__all__ = ["worked_out"]


def worked_out(head: Head, body: OperationIn) -> tuple[str, list[dict[str, Any]]]:
    """Label and patch of an operation on a design's head. Raises Refused, or the core's errors."""
    document, key, values = head.document, body.key or "", body.values or {}
    match body.operation:
        case "rename":
            return rename(document, body.group or "", key, body.name or "")
        case "freeze":
            value = head.built.values.get(body.entry or "")
            if value is None or value.stale:
                raise Refused(f"{body.entry} has no value to freeze.", entry=body.entry, rule="an entry with a good value")
            return freeze(document, body.entry or "", value.value, value.kind)
        case "remove_part":
            return remove_part(document, key)
        case "remove_size":
            return remove_size(document, key)
        case "comb":
            grading = (values.get("start", -0.2), values.get("step", 0.1), int(values.get("number", 9)))
            return cut_tests.add_comb(head.built, body.stock or "", body.cutter or "", *grading)
        case "kerf_test":
            row = (int(values.get("squares", 8)), values.get("side", 20.0), values.get("play", 1.0))
            return cut_tests.add_kerf_test(head.built, body.stock or "", body.cutter or "", *row)
        case "fits_from_comb":
            return cut_tests.fits_from_comb(document, key, values)  # type: ignore[arg-type]
        case "kerf_from_slack":
            if "slack" not in values:
                raise Refused("Say how much slack the row of squares has.", entry="slack", rule="a length in mm")
            return cut_tests.kerf_from_slack(document, key, values["slack"])
        case "bend_test":
            strip = (values.get("radius", 1.0), values.get("angle", 90.0), values.get("length", 100.0))
            return add_bend_test(head.built, body.stock or "", body.cutter or "", *strip)
        case "bend_from_legs":
            if not {"first", "second"} <= set(values):
                raise Refused("Say how long both legs came out.", entry="legs", rule="two lengths in mm")
            return bend_from_legs(head.built, key, values["first"], values["second"], values.get("radius"))
        case "split":
            part = head.built.flats.get(key)
            if part is None or "at" not in values:
                raise Refused("Say which part is split, and where.", entry="at", rule="a folded part and a place in mm")
            own = {"overlap": values.get("overlap", 16.0), "diameter": values.get("diameter", 3.2), "number": int(values.get("number", 4))}
            hold = body.text if body.text in ("rivets", "tabs", "none") else "rivets"
            return split_part(head.built, key, body.axis or "x", values["at"], hold=hold, **own)  # type: ignore[arg-type]
        case "mirror":
            at = body.text or middle_of(head.built, body.of or [], body.axis or "x")
            return mirror(document, body.of or [], body.axis or "x", at, body.unit or "")
        case "group":
            return group_parts(document, body.of or [], body.name or "")
        case "remove_group":
            return remove_group(document, key)
        case "remove_copy":
            return remove_copy(document, key)
        case "independent":
            return make_independent(head.built, key)
        case "repoint":
            return repoint(document, key, body.name or "")
        case "change_many":
            return change_many(document, body.of or [], body.field or "", body.text or "", body.unit or document.unit)
        case _:
            return cut_tests.remove_test(document, key)
