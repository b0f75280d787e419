"""How files are named, and the refusal of one that cannot be written."""

from __future__ import annotations

import re

from zygon.errors import ZygonError

__all__ = ["ExportError", "safe"]


class ExportError(ZygonError):
    """A part that cannot be written as asked."""

    code = "cannot_export"


def safe(name: str) -> str:
    """A name as a file's: letters, digits, - and _ only."""
    return re.sub(r"[^\w-]+", "-", name).strip("-").lower() or "design"
