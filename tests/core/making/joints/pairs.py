"""Two boards that meet as a kind of joint needs it, drafted like any other design; and their solids in the room."""

from __future__ import annotations

import manifold3d
import numpy as np

from zygon.design.draft import Draft
from zygon.design.plain import copied
from zygon.design.workshop import ROUTER
from zygon.making.kinds.registry import meshes_of
from zygon.making.result.built import Built, MadePart

#: Where board b stands for each kind, given that a stands upright, facing the side.
MEETING = {
    "finger": "corner",
    "tab_slot": "tee",
    "dovetail": "corner",
    "mortise_tenon": "tee",
    "groove": "tee",
    "rebate": "corner",
    "cross_lap": "cross",
    "half_lap": "lap",
    "dovetail_lap": "lap_tee",
    "edge_key": "edge",
    "dowels": "tee",
    "screws": "tee",
    "butt": "tee",
    "face_glue": "faces",
    "notch": "housed",
}


def stocked(draft: Draft, name: str, thickness: float) -> str:
    """A stock of the draft with a thickness of its own, to a thousandth."""
    stock = {k: v for k, v in draft.data["stocks"]["ply12"].items() if k != "measured"}
    draft.data["stocks"][name] = {**stock, "name": name, "nominal": draft.entry(f"{thickness:.3f} mm")}
    return name


def pair(kind: str, ta: float = 12.0, tb: float = 15.0, run: float = 120.0, meeting: str = "", cutter: str = "", **more) -> Draft:
    """Boards a and b joined by ``kind``; ``meeting`` overrides how they meet."""
    draft = Draft("pair", "ply12")
    if cutter == "router":
        draft.data["cutters"]["router"] = copied(ROUTER)
        draft.data["cutter"] = "router"
        draft.data["nest"] = {"gap": draft.entry("8 mm")}
    a, b = stocked(draft, "sa", ta), stocked(draft, "sb", tb)
    where = meeting or MEETING[kind]
    if where == "tee":  # a's low edge on the back of b, which faces the front
        draft.board("b", b, "facing_front", 0, (0, 200), (0, run))
        draft.board("a", a, "facing_side", 80, ("b.back", 160), (0, run))
    elif where == "corner":
        draft.board("b", b, "facing_front", 0, (0, 200), (0, run))
        draft.board("a", a, "facing_side", 0, ("b.back", 160), (0, run))
    elif where == "cross":
        draft.board("b", b, "facing_front", 90, (0, 200), (0, run))
        draft.board("a", a, "facing_side", 80, (0, 200), (0, run))
    elif where == "housed":  # b lies in the upper half of a
        draft.board("b", b, "facing_front", 90, (0, 200), (run / 2, run))
        draft.board("a", a, "facing_side", 80, (0, 200), (0, run))
    elif where == "lap":
        draft.board("b", a, "lying", 0, (0, 60), (0, 200))
        draft.board("a", a, "lying", 0, (0, 220), (0, 50))
    elif where == "lap_tee":
        draft.board("b", a, "lying", 0, (0, 60), (0, 200))
        draft.board("a", a, "lying", 0, (0, 220), (80, 130))
    elif where == "edge":
        draft.board("b", a, "lying", 0, (100, 200), (0, run))
        draft.board("a", a, "lying", 0, (0, 100), (0, run))
    elif where == "faces":
        draft.board("b", b, "lying", 0, (0, 100), (0, run))
        draft.board("a", a, "lying", "b.top", (0, 100), (0, run))
    draft.joint(kind, "a", "b", **more)
    return draft


def solid(part: MadePart) -> manifold3d.Manifold:
    """A part's solid in the room, as the screen's mesh has it."""
    found = manifold3d.Manifold()
    for mesh in meshes_of(part):
        made = manifold3d.Mesh64(mesh.positions, mesh.triangles.astype(np.uint64))
        made.merge()
        found += manifold3d.Manifold(made)
    return found.transform(np.array(part.matrix)[:3])


def boxes_volume(built: Built) -> float:
    """Volume of the union of both blanks, lengthened and grown."""
    found = manifold3d.Manifold()
    for part in built.parts.values():
        size = np.array(part.box.high) - np.array(part.box.low)
        found += manifold3d.Manifold.cube(size).translate(part.box.low)
    return found.volume()
