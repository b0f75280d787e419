"""What entries call the flanges of a folded part, and which flanges say where one of them stands.

``lid.back.outer`` is the outer face of the flange ``back`` of the part ``lid``: its key, written as a name. Of a flange of several legs it is the last one.
"""

from __future__ import annotations

import re
from collections.abc import Collection

from zygon.design.folding import Folding
from zygon.design.parts.kinds import Part, is_plate

__all__ = [
    "BESIDES",
    "FLANGE_FACES",
    "called",
    "flange_called",
    "flange_name",
    "flanges_placed_together",
    "flanges_that_place",
    "names_of_flanges",
]

#: What of a flange may be named in an entry: the face within its bend, the one round it, and its far edge.
FLANGE_FACES = ("inner", "outer", "end")
#: Fields of a flange that do not say where it stands.
BESIDES = ("features", "gussets", "rounding", "corner_shape")
_IMAGE = "~"


def flange_name(key: str) -> str:
    """A flange's or leg's key as entries write it."""
    return re.sub(r"\W", "_", key)


def called(name: str, key: str) -> bool:
    """Whether a flange or leg of this key is meant by a name, or by the key itself."""
    return name in (key, flange_name(key))


def flange_called(part: Part | None, face: str) -> str | None:
    """The key of the flange that ``flange.face`` names on a part; None where it names none."""
    if not is_plate(part) or part.folding is None:
        return None
    named, _, _ = face.rpartition(".")
    record = named.partition(".")[0].removesuffix(_IMAGE)
    return next((k for k in part.folding.flanges if called(named, k) or record == k), None)


def names_of_flanges(part: Part | None) -> list[str]:
    """The flanges of a part as entries write them."""
    return [flange_name(k) for k in part.folding.flanges] if is_plate(part) and part.folding is not None else []


def flanges_placed_together(folding: Folding) -> set[str]:
    """The flanges whose place hangs on corners, and so on all others: on the side of another one, or mirror images, and what stands on such."""
    together: dict[str, bool] = {}
    for key in folding.flanges:
        chain = _chain(folding, key, together)
        # from the plate outward: what stands on such a one is one itself
        hangs = together.get(chain[-1], False)
        for k in reversed(chain):
            flange = folding.flanges[k]
            hangs = hangs or flange.mirrored != "none" or bool(flange.on and flange.edge != "end")
            together[k] = hangs
    return {k for k, hangs in together.items() if hangs}


def flanges_that_place(folding: Folding, key: str) -> list[str]:
    """The flange itself and those that it stands on, outermost first; all, itself first, where its place hangs on corners."""
    if key in flanges_placed_together(folding):
        return [key, *(k for k in folding.flanges if k != key)]
    return _chain(folding, key)


def _chain(folding: Folding, key: str, known: Collection[str] = ()) -> list[str]:
    """A flange and what it stands on, as far as the first that is known."""
    chain = [key]
    while chain[-1] not in known and (on := folding.flanges[chain[-1]].on) in folding.flanges and on not in chain:
        chain.append(on)
    return chain
