"""What of the data that a screen is told has changed, as an RFC 6902 patch."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import takewhile
from typing import Any

from zygon.design.patch import Patch
from zygon.design.pointer import pointer

__all__ = ["changes"]


def changes(before: Any, after: Any, path: str = "") -> Patch:
    """The operations (replace, add, remove) that turn ``before`` into ``after``, both as JSON has them; [] where nothing has changed.

    A list of numbers or texts is replaced as one. A place that held 1 and holds true is taken for the same: no place of ours holds both.
    """
    if before == after:
        return []
    if isinstance(before, Mapping) and isinstance(after, Mapping):
        return _of_objects(before, after, path)
    if _holds_more(before) and _holds_more(after):
        return _of_lists(before, after, path)
    return [{"op": "replace", "path": path, "value": after}]


def _of_objects(before: Mapping[str, Any], after: Mapping[str, Any], path: str) -> Patch:
    patch: Patch = [{"op": "remove", "path": path + pointer(key)} for key in before if key not in after]
    for key, value in after.items():
        if key not in before:
            patch.append({"op": "add", "path": path + pointer(key), "value": value})
        elif before[key] != value:
            patch += changes(before[key], value, path + pointer(key))
    return patch


def _of_lists(before: Sequence[Any], after: Sequence[Any], path: str) -> Patch:
    """Place by place; where there are more or fewer, what is the same at both ends stays, and of what lies between the last ones come or go."""
    shorter, start, end = min(len(before), len(after)), 0, 0
    if len(before) != len(after):
        start = _alike(before, after)
        end = min(_alike(before[::-1], after[::-1]), shorter - start)
    patch: Patch = []
    for n in range(start, shorter - end):
        patch += changes(before[n], after[n], f"{path}/{n}")
    patch += [{"op": "add", "path": f"{path}/{n}", "value": after[n]} for n in range(shorter - end, len(after) - end)]
    patch += [{"op": "remove", "path": f"{path}/{n}"} for n in reversed(range(shorter - end, len(before) - end))]
    return patch


def _alike(before: Sequence[Any], after: Sequence[Any]) -> int:
    """How many are the same from the beginning on."""
    return sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(before, after, strict=False)))


def _holds_more(value: Any) -> bool:
    """Whether it is a list of lists or of objects."""
    return isinstance(value, Sequence) and not isinstance(value, str) and any(not isinstance(v, (str, int, float)) for v in value)
