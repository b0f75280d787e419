"""Joints: one module a kind. A new kind is a new file and one line in REGISTRY."""

from __future__ import annotations

from types import ModuleType

from zygon.build.joints import finger, tab_slot

__all__ = ["REGISTRY", "possible_joints"]

#: Each module offers ``refusal(contact, a, b)``, ``prepare(context)`` and ``resolve(...)``; see ``base.py``.
REGISTRY: dict[str, ModuleType] = {"finger": finger, "tab_slot": tab_slot}


def possible_joints(contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """For each kind of joint and each way round: whether two boards that meet so can have it, and the reason why not."""
    return [offer for module in REGISTRY.values() for offer in module.offers(contact, name_a, name_b)]
