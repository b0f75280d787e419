"""Owner ids: what a contour, a cut, a value or a problem belongs to, and what a copy is of, as one text. They are made and read here alone.

``joint:KEY``, ``bore:KEY``, ``copy:KEY``, ``group:KEY``, ``part:KEY``, ``size:KEY``, ``clearance:KEY``, ``edge:WORD``; ``feature:PART:KEY``, of what is cut
into a flange ``feature:PART:FLANGE.KEY``; ``flange:PART:KEY``, ``bend:PART:KEY``; ``hole:PART:KEY`` in a member; ``stock:KEY``, ``frame:KEY``, on which something is drawn.
"""

from __future__ import annotations

from typing import NamedTuple

__all__ = [
    "Owner",
    "bend_id",
    "bore_id",
    "clearance_id",
    "copy_id",
    "edge_id",
    "feature_id",
    "flange_id",
    "frame_id",
    "group_id",
    "hole_id",
    "is_of",
    "joint_id",
    "part_id",
    "read_owner",
    "size_id",
    "stock_id",
]

_OF_A_PART = ("feature", "flange", "bend", "hole")


class Owner(NamedTuple):
    """An id taken apart; ``part`` of features, flanges and bends, ``flange`` of features that are cut into one."""

    kind: str
    key: str
    part: str = ""
    flange: str = ""


def read_owner(text: str) -> Owner:
    """An id's parts; all of them empty but the kind where it is no id."""
    kind, _, rest = text.partition(":")
    if kind not in _OF_A_PART:
        return Owner(kind, rest)
    part, _, key = rest.partition(":")
    flange, dot, own = key.partition(".")
    return Owner(kind, own, part, flange) if dot and kind == "feature" else Owner(kind, key, part)


def is_of(text: str, *kinds: str) -> bool:
    """Whether an id is of one of these kinds."""
    return text.partition(":")[0] in kinds and ":" in text


def joint_id(key: str) -> str:
    """All that a joint cuts."""
    return f"joint:{key}"


def bore_id(key: str) -> str:
    """All that a bore cuts or marks."""
    return f"bore:{key}"


def feature_id(part: str, key: str, flange: str = "") -> str:
    """What a feature of a board cuts, or of one of its flanges."""
    return f"feature:{part}:{flange}.{key}" if flange else f"feature:{part}:{key}"


def flange_id(part: str, key: str) -> str:
    """All that belongs to a flange."""
    return f"flange:{part}:{key}"


def bend_id(part: str, key: str) -> str:
    """The strip of a flange's bend."""
    return f"bend:{part}:{key}"


def edge_id(word: str) -> str:
    """A side of a board, by its face's word."""
    return f"edge:{word}"


def part_id(key: str) -> str:
    """A part, as what is copied."""
    return f"part:{key}"


def group_id(key: str) -> str:
    """A group, as what is copied."""
    return f"group:{key}"


def stock_id(key: str) -> str:
    """A stock, as what is drawn on."""
    return f"stock:{key}"


def frame_id(key: str) -> str:
    """A frame, as what is drawn on."""
    return f"frame:{key}"


def copy_id(key: str) -> str:
    """A copy, as an owner or as what is copied."""
    return f"copy:{key}"


def size_id(key: str) -> str:
    """A size."""
    return f"size:{key}"


def clearance_id(key: str) -> str:
    """A clearance under watch."""
    return f"clearance:{key}"


def move_id(key: str) -> str:
    """What is said of a movement."""
    return f"move:{key}"


def hole_id(part: str, key: str) -> str:
    """What a hole of a member cuts."""
    return f"hole:{part}:{key}"
