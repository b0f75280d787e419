"""Which scripts and styles the built interface has, from its manifest."""

from __future__ import annotations

import json
from functools import lru_cache

from django.conf import settings

__all__ = ["built_assets"]


@lru_cache(maxsize=1)
def built_assets() -> dict[str, object]:
    """``script`` and ``styles`` for the page; both empty where the interface is not built."""
    manifest = settings.WEB_DIST / ".vite" / "manifest.json"
    if not manifest.exists():
        return {"script": "", "styles": []}
    entry = json.loads(manifest.read_text())["index.html"]
    return {"script": entry["file"], "styles": entry.get("css", [])}
