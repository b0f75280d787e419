"""A short way to write documents in Python: what starters, the example and tests are drafted with."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.upgrade import load
from zygon.design.workshop import workshop

__all__ = ["Draft"]

FACE_OF_PLANE = {"facing_front": ("x", "z", "front"), "facing_side": ("y", "z", "left"), "lying": ("x", "y", "bottom")}


class Draft:
    """A document being written; keys are the names. ``document()`` checks it whole."""

    def __init__(self, name: str, *stocks: str, unit: str = "mm", cutter: str = "laser") -> None:
        self.unit = unit
        self.data: dict[str, Any] = {"schema": 3, "name": name, "unit": unit, **workshop(*stocks, cutter=cutter)}
        if cutter == "router":  # room for its bit between the parts
            self.data["nest"] = {"gap": self.entry("8 mm")}
        for group in ("sizes", "parts", "joints", "bores"):
            self.data[group] = {}

    def entry(self, text: Any) -> dict[str, str]:
        """An entry of the draft's unit."""
        return {"text": str(text), "unit": self.unit}

    def size(self, name: str, text: Any, low: Any = None, high: Any = None, kind: str = "length", note: str = "") -> Draft:
        """Adds a size with its range."""
        record = {"name": name, "kind": kind, "entry": self.entry(text), "note": note, "order": len(self.data["sizes"])}
        for side, bound in (("low", low), ("high", high)):
            if bound is not None:
                record[side] = self.entry(bound)
        self.data["sizes"][name] = record
        return self

    def board(
        self, name: str, stock: str, plane: str, at: Any, u: tuple[Any, Any], v: tuple[Any, Any], face: str = "", **more: Any
    ) -> Draft:
        """Adds a board: where its face (left, front or bottom where not said) lies, and its two spans."""
        u_axis, v_axis, low_face = FACE_OF_PLANE[plane]
        spans = {a: {"low": self.entry(s[0]), "high": self.entry(s[1])} for a, s in ((u_axis, u), (v_axis, v))}
        self.data["parts"][name] = {
            "kind": "board", "name": name, "stock": stock, "plane": plane, "spans": spans, "order": len(self.data["parts"]),
            "position": {"face": face or low_face, "at": self.entry(at)}, **more,
        }  # fmt: skip
        return self

    def item(self, name: str, quantity: int, price: float, note: str = "") -> Draft:
        """Adds a bought thing."""
        self.data["parts"][name] = {
            "kind": "item", "name": name, "quantity": quantity, "price": price, "note": note, "order": len(self.data["parts"]),
        }  # fmt: skip
        return self

    def joint(self, kind: str, a: str, b: str, fit: Any = None, **more: Any) -> Draft:
        """Adds a joint; plain values become entries, but for choices and lists."""
        plain = ("starts", "tabs", "relief", "side", "keeps", "slope", "ends", "shape", "countersink", "pilot", "outline")
        fields = {k: v if k in plain and not (kind == "dovetail" and k == "pin") else self.entry(v) for k, v in more.items()}
        if kind == "screws" and "size" in fields:
            fields["size"] = more["size"]
        given = {} if fit is None else {"fit": self.entry(fit)}
        self.data["joints"][f"{a}-{b}"] = {"kind": kind, "a": a, "b": b, "order": len(self.data["joints"]), **given, **fields}
        return self

    def feature(self, part: str, key: str, kind: str, u: tuple[str, Any], v: tuple[str, Any], **more: Any) -> Draft:
        """Adds a feature; its place is (origin, offset) along u and v."""
        plain = ("name", "text", "face", "edge", "along")
        fields = {k: x if k in plain else self.entry(x) for k, x in more.items()}
        spots = {n: {"origin": s[0], "offset": self.entry(s[1])} for n, s in (("u", u), ("v", v))}
        features = self.data["parts"][part].setdefault("features", {})
        features[key] = {"kind": kind, "order": len(features), **spots, **fields}
        return self

    def bore(self, name: str, axis: str, at: dict[str, Any], diameter: Any, **parts: tuple[str, Any]) -> Draft:
        """Adds a bore; ``parts`` give (action, fit) by part name."""
        self.data["bores"][name] = {
            "name": name, "axis": axis, "at": {k: self.entry(t) for k, t in at.items()}, "diameter": self.entry(diameter),
            "parts": {k: {"action": a, "fit": self.entry(f)} for k, (a, f) in parts.items()}, "order": len(self.data["bores"]),
        }  # fmt: skip
        return self

    def document(self) -> Document:
        """The document, checked whole."""
        return load(self.data)
