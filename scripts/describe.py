"""Writes the descriptions in docs/ of the API and of the document from the code; with --check only says whether they are up to date."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "server"))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "zygon_server.settings")


def descriptions() -> dict[Path, str]:
    """File to text."""
    import django

    django.setup()
    from zygon_server.api import api

    from zygon.design.schema import json_schema, records_as_written

    def text(data) -> str:
        return json.dumps(data, indent=1, sort_keys=True, ensure_ascii=False) + "\n"

    return {
        ROOT / "docs/openapi.json": text(api.get_openapi_schema()),
        ROOT / "docs/design.schema.json": text(json_schema()),
        ROOT / "docs/design.records.json": text(records_as_written()),
    }


def main() -> int:
    """0 where the files are as they should be."""
    stale = [p for p, text in descriptions().items() if not p.exists() or p.read_text() != text]
    if "--check" in sys.argv:
        for path in stale:
            print(f"{path.relative_to(ROOT)} is out of date; run make types")
        return bool(stale)
    for path, text in descriptions().items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
