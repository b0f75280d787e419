"""Ids of datums, the nodes of the graph in which values hang on one another; sizes go by their owner's id."""

from __future__ import annotations

__all__ = ["copy_plane", "end_of", "face_at", "group_move"]


def end_of(part: str, axis: str, side: str) -> str:
    """The low or high end of a part's run along an axis; 'at': the place by which it is put there."""
    return f"part:{part}:{axis}:{side}"


def face_at(part: str, axis: str) -> str:
    """The face by which a board is placed across its plane."""
    return end_of(part, axis, "at")


def copy_plane(copy: str) -> str:
    """The plane that a mirror stands in."""
    return f"copy:{copy}:at"


def group_move(group: str, axis: str) -> str:
    """How far a group is moved along an axis."""
    return f"group:{group}:move:{axis}"
