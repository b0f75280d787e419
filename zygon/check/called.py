"""What a maker calls the owner of a cut: a hole by its name or kind, a joint by both its boards, a bore and a flange by their names."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.flange_words import flange_words
from zygon.design.parts.kinds import is_plate
from zygon.owner import read_owner

__all__ = ["called"]


def called(document: Document, owner: str) -> str:
    """The words for an owner's id ('feature:p:h', 'joint:k', 'bore:k', 'flange:p:f'), without an article; 'cut' where it is nobody's."""
    kind, key, part, flange = read_owner(owner)
    if kind == "joint" and key in document.joints:
        joint = document.joints[key]
        names = [document.parts[k.partition("@")[0]].name.replace("_", " ") for k in (joint.a, joint.b)]
        return f"{joint.title.lower()} {names[0]}–{names[1]}"
    if kind == "bore" and key in document.bores:
        return f"bore {document.bores[key].name}"
    if owner == "outline":
        return "outline"
    board = document.parts.get(part)
    if not is_plate(board):
        return "cut"
    if kind in ("flange", "bend"):
        return flange_words(key, board.folding.flanges) if board.folding and key else key.replace("_", " ") or "flange"
    features = board.features
    if flange and board.folding and flange in board.folding.flanges:
        features = getattr(board.folding.flanges[flange], "features", {})
    feature = features.get(key)
    if feature is None:
        return "cut"
    word = feature.word
    # a name that says the kind already is enough: not "hand hold hand hold"
    return feature.name if word in feature.name.lower() else f"{word} {feature.name}".strip()
