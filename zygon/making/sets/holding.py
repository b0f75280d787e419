"""What sets hold of the joints between the parts that they go through."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from zygon.design.document import Document
from zygon.making.result.built import BuiltJoint
from zygon.making.result.hardware import BuiltSet
from zygon.stock.hardware.rivets import RIVETS

__all__ = ["held_by_sets"]


def held_by_sets(document: Document, joints: dict[str, BuiltJoint], sets: Mapping[str, BuiltSet]) -> dict[str, BuiltJoint]:
    """The joints, those that are held as is usual and through both of whose parts a set goes now screwed or riveted; what is said of a joint stands."""
    by: dict[frozenset[str], str] = {}
    for key, one in sets.items():
        said = document.bores[key].hardware
        how = "riveted" if said is not None and said.head in RIVETS else "screwed"
        for place in one.places:
            for n, a in enumerate(place.parts):
                by.update({frozenset((a, b)): how for b in place.parts[n + 1 :]})
    if not by:
        return joints
    found = {}
    for key, joint in joints.items():
        how = by.get(frozenset((joint.a, joint.b)), "")
        usual = getattr(document.joints[key], "held", "usual") == "usual"
        found[key] = replace(joint, fastened=how) if how and usual and not joint.refused else joint
    return found
