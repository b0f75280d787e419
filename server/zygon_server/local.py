"""What an installation keeps on its own disk: where, and how it is made ready. Imports nothing of Django, and nothing on import writes."""

from __future__ import annotations

import os
import secrets
from pathlib import Path

__all__ = ["BASE", "KEY", "VAR", "prepare", "secret_key"]

BASE = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("ZYGON_VAR", BASE / "var"))
#: The file of the key that signs sessions.
KEY = "secret-key"


def prepare() -> None:
    """Makes the folders and the key that a process which serves or migrates needs; nothing where they are there."""
    # designs, sessions and the key are nobody else's business on this machine
    os.umask(0o077)
    (VAR / "static").mkdir(parents=True, exist_ok=True)
    VAR.chmod(0o700)
    path = VAR / KEY
    try:
        with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            file.write(secrets.token_urlsafe(50))
    except FileExistsError:
        return


def secret_key() -> str:
    """This installation's own key; one for this process alone where none was made."""
    path = VAR / KEY
    return os.environ.get("ZYGON_SECRET_KEY") or (path.read_text() if path.exists() else "") or secrets.token_urlsafe(50)
