"""Turned parts to begin with: rings, bushings, pins, knobs, rollers. Millimetres."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

__all__ = ["TURNED_STARTS", "TurnedStart"]


@dataclass(frozen=True)
class TurnedStart:
    """A turned part to begin with: its words, how long it is, and its record's fields."""

    key: str
    title: str
    words: str
    length: str
    start: dict[str, Any]


def _e(text: str) -> dict[str, str]:
    return {"text": text}


def _start(
    key: str, title: str, words: str, length: str, deep: str, *steps: dict[str, Any], **more: dict[str, dict[str, Any]]
) -> TurnedStart:
    def entries(record: dict[str, Any]) -> dict[str, Any]:
        return {k: _e(v) if isinstance(v, str) and k not in ("shape", "end", "walls") else v for k, v in record.items()}

    said = {
        field: {f"{field[0]}{n}": {**entries(r), "order": n} for n, r in enumerate(records.values())} for field, records in more.items()
    }
    start = {"deep": _e(deep), "steps": {f"s{n}": {**entries(s), "order": n} for n, s in enumerate(steps)}, **said}
    return TurnedStart(key, title, words, length, start)


TURNED_STARTS: dict[str, TurnedStart] = {
    s.key: s
    for s in (
        _start("spacer", "Spacer", "a sleeve that keeps two parts apart", "20 mm", "14 mm", {"across": "14 mm"}, bores={"b": {"across": "6.5 mm"}}),
        _start("washer", "Washer", "a thin ring", "2 mm", "20 mm", {"across": "20 mm"}, bores={"b": {"across": "8.4 mm"}}),
        _start("ring", "Ring", "a collar on a shaft, with a hole for its grub screw", "10 mm", "20 mm", {"across": "20 mm", "chamfer": "0.5 mm"},
               bores={"b": {"across": "8 mm"}}, cross={"c": {"off": "5 mm", "across": "3.3 mm", "walls": "one"}}),
        _start("bushing", "Bushing with a collar", "it lies in a hole, its collar on the face", "15 mm", "18 mm", {"across": "18 mm", "length": "3 mm"},
               {"across": "12 mm", "chamfer": "0.5 mm"}, bores={"b": {"across": "8.2 mm"}}),
        _start("pin", "Stepped pin", "a thick end and a thin one", "40 mm", "12 mm", {"across": "12 mm", "length": "15 mm", "chamfer": "0.5 mm"},
               {"across": "8 mm", "chamfer": "0.5 mm"}),
        _start("knob", "Knob", "serrated, with a hexagon for its screw's head", "18 mm", "30 mm",
               {"across": "30 mm", "length": "12 mm", "round": "2 mm", "teeth": 24, "tooth": "0.8 mm"}, {"across": "16 mm"},
               bores={"b": {"across": "6.5 mm"}, "h": {"shape": "hexagon", "across": "10 mm", "deep": "5 mm", "end": "a"}}),
        _start("roller", "Roller", "rounded, on a pin", "20 mm", "24 mm", {"across": "24 mm", "round": "2 mm"}, bores={"b": {"across": "8.2 mm"}}),
    )
}  # a row a line  # fmt: skip
