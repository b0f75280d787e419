"""Files that were sent, read in a process of their own."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TypeVar

from ninja.files import UploadedFile

from zygon.limits import MAX_UPLOAD_BYTES
from zygon_server.apart import apart
from zygon_server.errors import Refused

T = TypeVar("T")

__all__ = ["read_sent"]


def read_sent(file: UploadedFile, reader: Callable[[Path, str], T], suffix: str = "") -> T:
    """What a reader finds in a file that was sent, in a process of its own; Refused where the file is too large or takes too much."""
    name = Path(file.name or "file").name[-120:] or "file"
    if file.size and file.size > MAX_UPLOAD_BYTES:
        raise Refused(
            f"{name} is larger than {MAX_UPLOAD_BYTES // 1_000_000} MB.",
            code="too_large",
            entry="file",
            value=file.size,
            rule=f"at most {MAX_UPLOAD_BYTES} bytes",
        )
    with TemporaryDirectory() as folder:
        path = Path(folder) / f"file{(suffix or Path(name).suffix)[:10]}"
        path.write_bytes(file.read())
        return apart(reader, path, name, what=name)
