"""Files that tests send: pictures as they should be, and as they should not."""

from __future__ import annotations

import io
import zlib

from PIL import Image

__all__ = ["bomb", "png"]


def png(wide: int = 120, high: int = 60) -> bytes:
    """A picture."""
    to = io.BytesIO()
    Image.new("RGB", (wide, high), (20, 90, 160)).save(to, "PNG")
    return to.getvalue()


def bomb() -> bytes:
    """A PNG of 60,000 × 60,000 pixels in some hundred bytes."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return len(data).to_bytes(4, "big") + kind + data + zlib.crc32(kind + data).to_bytes(4, "big")

    head = (60000).to_bytes(4, "big") * 2 + bytes([8, 2, 0, 0, 0])
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 1000)) + chunk(b"IEND", b"")
