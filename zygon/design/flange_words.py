"""What a maker calls a flange: by its name, else as its card does, by edge and kind; a key that says more than the edge is a name too."""

from __future__ import annotations

import re
from collections.abc import Mapping

from zygon.design.folding import FlangeKind

__all__ = ["flange_words"]

KINDS = {"flange": "flange", "hem": "hem", "offset": "offset bend", "profile": "profile", "drawn": "drawn profile", "line": "bend line"}


def flange_words(key: str, flanges: Mapping[str, FlangeKind]) -> str:
    """'left flange', 'end flange of back flange', 'locking tab'."""
    flange = flanges.get(key)
    if flange is not None and flange.name:
        return flange.name.replace("_", " ")
    if flange is None or re.sub(r"_\d+$", "", key) not in (flange.edge, f"{flange.on}_{flange.edge}"):
        return key.replace("_", " ")
    words = f"{flange.edge.replace('_', ' ')} {KINDS[flange.kind]}"
    return f"{words} of {flange_words(flange.on, flanges)}" if flange.on and flange.on != key else words
