"""Joints: one module a kind. A new kind is a new file, a record in ``design/joints.py`` and one line in REGISTRY."""

from __future__ import annotations

from types import ModuleType

from zygon.making.joints import (
    bevel,
    butt,
    cross_lap,
    dovetail,
    dovetail_lap,
    dowels,
    edge_key,
    face_glue,
    finger,
    groove,
    half_lap,
    mitre,
    mortise_tenon,
    notch,
    rebate,
    screws,
    tab_slot,
)

__all__ = ["REGISTRY", "possible_joints"]

#: What a module offers is said in ``base.py``.
REGISTRY: dict[str, ModuleType] = {
    "finger": finger,
    "tab_slot": tab_slot,
    "dovetail": dovetail,
    "mortise_tenon": mortise_tenon,
    "groove": groove,
    "rebate": rebate,
    "cross_lap": cross_lap,
    "notch": notch,
    "half_lap": half_lap,
    "dovetail_lap": dovetail_lap,
    "edge_key": edge_key,
    "dowels": dowels,
    "screws": screws,
    "mitre": mitre,
    "bevel": bevel,
    "butt": butt,
    "face_glue": face_glue,
}


def possible_joints(contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """For each kind of joint and each way round: whether two boards that meet so can have it, and the reason why not."""
    return [offer for module in REGISTRY.values() for offer in module.offers(contact, name_a, name_b)]
