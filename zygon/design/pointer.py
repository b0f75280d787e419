"""Places in a document as JSON pointers (RFC 6901)."""

from __future__ import annotations

__all__ = ["pointer"]


def pointer(*keys: str) -> str:
    """A JSON pointer from its keys, escaped."""
    return "".join("/" + str(k).replace("~", "~0").replace("/", "~1") for k in keys)
