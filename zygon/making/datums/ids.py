"""Ids of datums, the nodes of the graph in which values hang on one another; sizes go by their owner's id."""

from __future__ import annotations

__all__ = [
    "connector_entry",
    "copy_plane",
    "end_of",
    "face_at",
    "group_move",
    "hardware_moved",
    "member_entry",
    "moved_to",
    "point_at",
    "read_point",
]


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


def point_at(frame: str, point: str, what: str) -> str:
    """The place of a frame's point along an axis, or how far it is 'off' its line's end."""
    return f"point:{frame}:{point}:{what}"


def read_point(text: str) -> tuple[str, str]:
    """The frame and the point of a point's id."""
    _, frame, point, _ = text.split(":")
    return frame, point


def member_entry(part: str, field: str) -> str:
    """What says how a member lies on its line: 'turn', 'past_a' or 'past_b'."""
    return f"member:{part}:{field}"


def hardware_moved(part: str) -> str:
    """How far a piece of hardware is open or drawn out."""
    return f"hardware:{part}:moved"


def moved_to(move: str) -> str:
    """How far a movement is moved."""
    return f"move:{move}:to"


def connector_entry(part: str, field: str, socket: str = "") -> str:
    """What says how a connector stands on its point or looks, or one of its sockets does."""
    return f"connector:{part}:{socket}:{field}"
