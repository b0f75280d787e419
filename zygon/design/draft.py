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
        self.data: dict[str, Any] = {"schema": 5, "name": name, "unit": unit, **workshop(*stocks, cutter=cutter)}
        if cutter == "router":  # room for its bit between the parts
            self.data["nest"] = {"gap": self.entry("8 mm")}
        for group in ("sizes", "parts", "joints", "bores", "groups", "copies", "clearances", "frames", "moves", "positions", "ties"):
            self.data[group] = {}
        self.inside = ""

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
            "kind": "board",
            "name": name,
            "stock": stock,
            "plane": plane,
            "spans": spans,
            "order": len(self.data["parts"]),
            "position": {"face": face or low_face, "at": self.entry(at)},
            "group": self.inside,
            **more,
        }
        return self

    def drawing(
        self,
        part: str,
        points: dict[str, tuple[float, float]],
        curves: dict[str, str],
        relations: list[tuple[str, ...]],
        *sides: str,
        helping: tuple[str, ...] = (),
    ) -> Draft:
        """A part's outline, drawn as ``drawn`` has it; ``sides`` are those of the part that it refers to, by their words."""
        ways = {"left": "x", "right": "x"} | dict.fromkeys(("bottom", "top"), "y")
        across = self.data["parts"][part]["plane"]
        ways |= dict.fromkeys(("front", "back"), "x" if across == "facing_side" else "y")
        references = {
            side: {"kind": "line", ways[side]: self.entry(f"{part}.{side}"), "seen": [0, 0, 0, 100] if ways[side] == "x" else [0, 0, 100, 0], "order": n}
            for n, side in enumerate(sides)
        }  # fmt: skip
        self.data["parts"][part]["outline"] = {"kind": "free", "drawing": self.drawn(points, curves, relations, references, helping)}
        return self

    def drawn(
        self,
        points: dict[str, tuple[float, float]],
        curves: dict[str, str],
        relations: list[tuple[str, ...]],
        references: dict[str, dict[str, Any]],
        helping: tuple[str, ...] = (),
    ) -> dict[str, Any]:
        """A drawing's record: a curve is 'A B' for a line, 'A B CENTRE' for an arc, 'CENTRE RADIUS' for a circle; a relation (kind, things, entry)."""

        def curve(key: str, said: str) -> dict[str, Any]:
            words = said.split()
            order = {"order": list(curves).index(key), "helping": key in helping}
            if len(words) == 2 and words[1] not in points:
                return {"kind": "circle", "centre": words[0], "radius": float(words[1]), **order}
            return {"kind": "line" if len(words) == 2 else "arc", **dict(zip(("a", "b", "centre"), words, strict=False)), **order}

        def relation(n: int, kind: str, of: str, *entry: str) -> dict[str, Any]:
            return {"kind": kind, "of": of.split(), "order": n, **({"entry": self.entry(entry[0])} if entry else {})}

        return {
            "points": {k: {"x": x, "y": y} for k, (x, y) in points.items()},
            "curves": {k: curve(k, said) for k, said in curves.items()},
            "references": references,
            "relations": {f"r{n + 1}": relation(n, *said) for n, said in enumerate(relations)},
        }

    def fold(self, part: str, **more: Any) -> Draft:
        """Makes a board a folded part: radius, corner, gap, rounding where they are said."""
        self.data["parts"][part]["kind"] = "folded"
        self.data["parts"][part]["folding"] = {k: v if k == "corner" else self.entry(v) for k, v in more.items()} | {"flanges": {}}
        return self

    def flange(self, part: str, key: str, edge: str, length: Any, kind: str = "flange", **more: Any) -> Draft:
        """Adds a flange, a hem or an offset bend on an edge of the plate, or ``on`` another flange."""
        plain = ("on", "toward", "measured", "where", "extent", "style", "relief", "name", "mirrored", "gussets")
        fields = {k: v if k in plain else self.entry(v) for k, v in more.items()}
        flanges = self.data["parts"][part]["folding"]["flanges"]
        flanges[key] = {"kind": kind, "edge": edge, "length": self.entry(length), "order": len(flanges), **fields}
        return self

    def profile(self, part: str, key: str, edge: str, *legs: tuple[Any, ...], **more: Any) -> Draft:
        """Adds a profile on an edge: (length, angle) of every leg, or (length, angle, radius)."""
        self.flange(part, key, edge, "0", kind="profile", **more)
        record = self.data["parts"][part]["folding"]["flanges"][key]
        del record["length"]
        names = ("length", "angle", "radius")
        record["legs"] = [{n: self.entry(x) for n, x in zip(names, leg, strict=False)} for leg in legs]
        return self

    def locking_tab(
        self, part: str, key: str, edge: str, width: Any, length: Any, *, slot: tuple[Any, Any], hole: Any, **more: Any
    ) -> Draft:
        """Adds a partial flange with rounded corners, a slot (length, width) across its root half and a hole in its far half."""
        extent = {"extent": "centred", "first": width, "second": "0"}
        self.flange(part, key, edge, length, **{"rounding": "3 mm", **extent, **more})
        self.flange_feature(part, key, "slot", "slot", ("centre", "0"), ("root", "5 mm"), length=slot[0], width=slot[1], name="slot")
        self.flange_feature(part, key, "hole", "hole", ("centre", "0"), ("end", "5 mm"), diameter=hole, name="hole")
        return self

    def block(self, name: str, x: tuple[Any, Any], y: tuple[Any, Any], z: tuple[Any, Any], price: float = 0.0, **more: Any) -> Draft:
        """Adds a bought block between six places; its holes are features on its top or bottom."""
        deep = self.entry(f"({z[1]}) - ({z[0]})")
        self.board(name, "", "lying", z[0], x, y, face="bottom", kind="bought", price=price, deep=deep, **more)
        return self

    def rod(self, name: str, stock: str, axis: str, run: tuple[Any, Any], **at: Any) -> Draft:
        """Adds a rod of bar stock that runs along an axis; its centre line lies ``at`` the two others."""
        self.data["parts"][name] = {
            "kind": "rod",
            "name": name,
            "stock": stock,
            "axis": axis,
            "span": {"low": self.entry(run[0]), "high": self.entry(run[1])},
            "at": {a: self.entry(t) for a, t in at.items()},
            "order": len(self.data["parts"]),
            "group": self.inside,
        }
        return self

    def frame(self, name: str, points: dict[str, tuple[Any, Any, Any]], lines: dict[str, tuple[str, str]]) -> Draft:
        """Adds a frame: points by key with their places along x, y and z, and lines from point to point."""
        self.data["frames"][name] = {
            "name": name,
            "order": len(self.data["frames"]),
            "group": self.inside,
            "points": {k: {"order": n, "at": dict(zip("xyz", map(self.entry, p), strict=True))} for n, (k, p) in enumerate(points.items())},
            "lines": {k: {"a": a, "b": b, "order": n} for n, (k, (a, b)) in enumerate(lines.items())},
        }
        return self

    def on_line(self, frame: str, key: str, line: str, off: Any, end: str = "a") -> Draft:
        """Adds a point of a frame on one of its lines, so far from its end."""
        points = self.data["frames"][frame]["points"]
        points[key] = {"order": len(points), "on": line, "end": end, "off": self.entry(off)}
        return self

    def line(self, frame: str, key: str, a: str, b: str) -> Draft:
        """Adds a line of a frame from point to point."""
        lines = self.data["frames"][frame]["lines"]
        lines[key] = {"a": a, "b": b, "order": len(lines)}
        return self

    def connector(self, name: str, frame: str, point: str, *sockets: dict[str, Any], **more: Any) -> Draft:
        """Adds a connector on a point of a frame; its sockets say how they look, ``more`` what it is."""
        plain = ("toward", "lean_to", "through", "swings", "beside_to", "line", "made", "price", "mass", "stock", "held", "another", "note")
        said = {
            f"s{n}": {"order": n, **{k: v if k in plain else self.entry(v) for k, v in socket.items()}}
            for n, socket in enumerate(sockets, 1)
        }
        self.data["parts"][name] = {
            "kind": "connector",
            "name": name,
            "frame": frame,
            "point": point,
            "sockets": said,
            "order": len(self.data["parts"]),
            "group": self.data["frames"][frame]["group"],
            **{k: v if k in plain else self.entry(v) for k, v in more.items()},
        }
        return self

    def member(self, name: str, stock: str, frame: str, *lines: str, **more: Any) -> Draft:
        """Adds a member on lines of a frame; ``more`` says how it lies."""
        plain = ("lies", "against", "end_a", "end_b", "out", "quantity", "note")
        fields = {k: v if k in plain else self.entry(v) for k, v in more.items()}
        self.data["parts"][name] = {
            "kind": "member",
            "name": name,
            "stock": stock,
            "frame": frame,
            "lines": list(lines),
            "order": len(self.data["parts"]),
            "group": self.data["frames"][frame]["group"],
            **fields,
        }
        return self

    def flange_feature(self, part: str, flange: str, key: str, kind: str, u: tuple[str, Any], v: tuple[str, Any], **more: Any) -> Draft:
        """Cuts into a flange; its place is (origin, offset) along it and up from the bend."""
        plain = ("name", "text", "pattern", "field", "hole", "mirrored")
        fields = {k: x if k in plain else self.entry(x) for k, x in more.items()}
        spots = {n: {"origin": s[0], "offset": self.entry(s[1])} for n, s in (("u", u), ("v", v))}
        features = self.data["parts"][part]["folding"]["flanges"][flange].setdefault("features", {})
        features[key] = {"kind": kind, "order": len(features), **spots, **fields}
        return self

    def group(self, name: str, parent: str = "", **move: Any) -> Draft:
        """Adds a group, moved along x, y, z where that is said; boards that follow lie in it, until the next group."""
        self.data["groups"][name] = {
            "name": name,
            "order": len(self.data["groups"]),
            "parent": parent,
            "move": {a: self.entry(t) for a, t in move.items()},
        }
        self.inside = name
        return self

    def turn(self, name: str, axis: str, angle: Any, kind: str = "parts", **at: Any) -> Draft:
        """Turns a board (or a group) about a line along an axis that passes ``at`` the two other axes."""
        turns = self.data[kind][name].setdefault("turns", {})
        turns[f"t{len(turns)}"] = {
            "axis": axis,
            "angle": self.entry(angle),
            "at": {a: self.entry(t) for a, t in at.items()},
            "order": len(turns),
        }
        return self

    def mirror(self, key: str, axis: str, at: Any, *of: str, name: str = "", names: dict[str, str] | None = None) -> Draft:
        """Adds handed copies; parts' copies are named by ``names``."""
        self.data["copies"][key] = {
            "kind": "mirror",
            "name": name or key,
            "of": list(of),
            "axis": axis,
            "at": self.entry(at),
            "names": names or {},
            "order": len(self.data["copies"]),
        }
        return self

    def repeat(
        self, key: str, kind: str, *of: str, name: str = "", axis: str = "z", at: dict[str, Any] | None = None, **more: Any
    ) -> Draft:
        """Adds a row, a grid or a ring."""
        fields = {k: v if k in ("axis_2", "upright", "spared") else self.entry(v) for k, v in more.items()}
        record = {"kind": kind, "name": name or key, "of": list(of), "axis": axis, "order": len(self.data["copies"]), **fields}
        if at is not None:
            record["at"] = {a: self.entry(t) for a, t in at.items()}
        self.data["copies"][key] = record
        return self

    def clearance(self, name: str, a: dict[str, str], b: dict[str, str], along: str = "shortest", **limits: Any) -> Draft:
        """Adds room that has to stay between two places."""
        key = name.replace(" ", "_")
        self.data["clearances"][key] = {
            "name": name,
            "a": a,
            "b": b,
            "along": along,
            "order": len(self.data["clearances"]),
            **{k: self.entry(t) for k, t in limits.items()},
        }
        return self

    def item(self, name: str, quantity: int, price: float, note: str = "") -> Draft:
        """Adds a bought thing."""
        self.data["parts"][name] = {
            "kind": "item",
            "name": name,
            "quantity": quantity,
            "price": price,
            "note": note,
            "order": len(self.data["parts"]),
        }
        return self

    def joint(self, kind: str, a: str, b: str, fit: Any = None, **more: Any) -> Draft:
        """Adds a joint; plain values become entries, but for choices and lists."""
        plain = ("starts", "tabs", "relief", "side", "keeps", "slope", "ends", "shape", "countersink", "pilot", "outline", "held", "floor")
        fields = {k: v if k in plain and not (kind == "dovetail" and k == "pin") else self.entry(v) for k, v in more.items()}
        if kind == "screws" and "size" in fields:
            fields["size"] = more["size"]
        given = {} if fit is None else {"fit": self.entry(fit)}
        self.data["joints"][f"{a}-{b}".replace("@", "_").replace(".", "_")] = {
            "kind": kind,
            "a": a,
            "b": b,
            "order": len(self.data["joints"]),
            **given,
            **fields,
        }
        return self

    def feature(self, part: str, key: str, kind: str, u: tuple[str, Any], v: tuple[str, Any], **more: Any) -> Draft:
        """Adds a feature; its place is (origin, offset) along u and v."""
        plain = (
            "name",
            "text",
            "face",
            "edge",
            "along",
            "corner",
            "style",
            "bulge",
            "shape",
            "axis",
            "side",
            "pattern",
            "field",
            "hole",
            "mirrored",
            "profile",
            "both",
            "band",
        )
        fields = {k: x if k in plain else self.entry(x) for k, x in more.items()}
        spots = {n: {"origin": s[0], "offset": self.entry(s[1])} for n, s in (("u", u), ("v", v))}
        features = self.data["parts"][part].setdefault("features", {})
        features[key] = {"kind": kind, "order": len(features), **spots, **fields}
        return self

    def turned(
        self, name: str, axis: str, run: tuple[Any, Any], deep: Any, *steps: dict[str, Any], at: dict[str, Any], **more: Any
    ) -> Draft:
        """Adds a turned part along an axis; ``steps`` and what is bored, milled and cut (by field) with their entries as they are typed."""

        def entries(record: dict[str, Any]) -> dict[str, Any]:
            return {k: v if k in ("shape", "end", "walls", "number", "teeth", "order") else self.entry(v) for k, v in record.items()}

        said = {k: {n: entries(r) for n, r in v.items()} if k in ("bores", "flats", "cross") else v for k, v in more.items()}
        self.data["parts"][name] = {
            "kind": "turned",
            "name": name,
            "axis": axis,
            "span": {"low": self.entry(run[0]), "high": self.entry(run[1])},
            "deep": self.entry(deep),
            "at": {a: self.entry(t) for a, t in at.items()},
            "order": len(self.data["parts"]),
            "steps": {f"s{n}": {**entries(s), "order": n} for n, s in enumerate(steps)},
            **said,
        }
        return self

    def put(self, name: str, designation: str, at: dict[str, Any], **more: Any) -> Draft:
        """Adds a piece of hardware of the catalogue that lies by itself; ``moved``, ``let_in`` and ``fit`` as they are typed."""
        said = {k: self.entry(v) if k in ("moved", "let_in", "fit") else v for k, v in more.items()}
        places = {a: self.entry(t) for a, t in at.items()}
        self.data["parts"][name] = {
            "kind": "hardware",
            "name": name,
            "designation": designation,
            "at": places,
            "order": len(self.data["parts"]),
            "group": self.inside,
            **said,
        }
        return self

    def holes_of(self, name: str, hardware: str, *holes: str, **parts: tuple[str, Any]) -> Draft:
        """Adds a bore that takes over holes of a piece of hardware; of all where none is named."""
        self.bore(name, "z", {}, "1 mm", **parts)
        self.data["bores"][name] |= {"member": hardware, "holes": [*holes]}
        return self

    def bore(
        self, name: str, axis: str, at: dict[str, Any], diameter: Any, *, stretch: tuple[Any, Any] | None = None, **parts: tuple[str, Any]
    ) -> Draft:
        """Adds a bore; ``parts`` give (action, fit) by part name, ``stretch`` from where to where along its axis."""
        ends = {} if stretch is None else {"low": self.entry(stretch[0]), "high": self.entry(stretch[1])}
        self.data["bores"][name] = {
            "name": name,
            "axis": axis,
            "at": {k: self.entry(t) for k, t in at.items()},
            "diameter": self.entry(diameter),
            "parts": {k: {"action": a, "fit": self.entry(f)} for k, (a, f) in parts.items()},
            "order": len(self.data["bores"]),
            **ends,
        }
        return self

    def hardware(self, bore: str, **said: Any) -> Draft:
        """Puts a set along a bore; its length as it is typed."""
        length = {"length": self.entry(said.pop("length"))} if "length" in said else {}
        self.data["bores"][bore]["hardware"] = {**said, **length}
        return self

    def bore_rows(self, bore: str, **rows: tuple[Any, Any]) -> Draft:
        """Lets a bore be there many times: (number, spacing) along an axis."""
        self.data["bores"][bore]["rows"] = {a: {"number": self.entry(n), "spacing": self.entry(s)} for a, (n, s) in rows.items()}
        return self

    def askew(self, bore: str, of: str = "", lean: Any = None, toward: Any = None) -> Draft:
        """Lets a bore run along the axes ``of`` a part, or lean off its axis."""
        said = {k: self.entry(x) for k, x in (("lean", lean), ("toward", toward)) if x is not None}
        self.data["bores"][bore] |= {"of": of, **said}
        return self

    def moves(self, key: str, part: str, kind: str, name: str, **said: Any) -> Draft:
        """Says something of the movement of a part: limits and what is asked of it, by field, as they are typed."""
        entries = {k: self.entry(v) for k, v in said.items()}
        self.data["moves"][key] = {"name": name, "part": part, "kind": kind, "order": len(self.data["moves"]), **entries}
        return self

    def position(self, name: str, **at: Any) -> Draft:
        """Names how far movements are moved, by their keys."""
        own = {"name": name, "order": len(self.data["positions"]), "at": {k: self.entry(v) for k, v in at.items()}}
        self.data["positions"][name.replace(" ", "_")] = own
        return self

    def document(self) -> Document:
        """The document, checked whole."""
        return load(self.data)
