"""Keys of records."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

__all__ = ["Key"]

Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
