"""Backups of the database and of what lies beside it, taken while everybody works; and put back.

A backup is a folder: the database as it was at one moment, the key that signs sessions, and a list of both with their hashes. It is written under another name and
renamed when it is whole, so that what was broken off half-way is never taken for one.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from django.db import connection

from zygon_server.keeping.running import alone
from zygon_server.local import KEY, VAR

__all__ = ["KEPT", "Backup", "BackupError", "backup", "backups", "find", "restore"]

#: So many are kept, the older ones go.
KEPT = 14
_NAME = "zygon-%Y%m%d-%H%M%S"
_LIST, _DATABASE, _UNFINISHED = "backup.json", "zygon.sqlite3", ".unfinished-"


class BackupError(Exception):
    """What cannot be backed up or put back, as a sentence."""


@dataclass(frozen=True)
class Backup:
    """A whole backup: its folder, when it was taken, and what for."""

    folder: Path
    made: str
    reason: str

    @property
    def database(self) -> Path:
        """The database in it."""
        return self.folder / _DATABASE


def where() -> Path:
    """The folder of all backups; ``ZYGON_BACKUPS`` puts it on another disk."""
    return Path(os.environ.get("ZYGON_BACKUPS", VAR / "backups"))


def live() -> Path:
    """The database's file. Raises BackupError where it is kept elsewhere."""
    if connection.vendor != "sqlite":
        raise BackupError("This database is PostgreSQL: back it up with pg_dump, and put it back with pg_restore.")
    return Path(connection.settings_dict["NAME"])


def backup(to: Path | None = None, keep: int = KEPT, reason: str = "") -> Backup:
    """Takes one. Raises BackupError; what fails leaves no backup behind, and the others as they are."""
    source, to = live(), to or where()
    if not source.exists():
        raise BackupError(f"There is no database at {source}.")
    try:
        to.mkdir(parents=True, exist_ok=True, mode=0o700)
        for left in to.glob(f"{_UNFINISHED}*"):
            if left.stat().st_mtime < datetime.now(UTC).timestamp() - 3600:
                shutil.rmtree(left, ignore_errors=True)
        made = datetime.now(UTC)
        unfinished = to / f"{_UNFINISHED}{os.getpid()}"
        shutil.rmtree(unfinished, ignore_errors=True)
        unfinished.mkdir(mode=0o700)
        _copy_database(source, unfinished / _DATABASE)
        if (VAR / KEY).exists():
            shutil.copy2(VAR / KEY, unfinished / KEY)
        files = {f.name: _told(f) for f in sorted(unfinished.iterdir())}
        (unfinished / _LIST).write_text(json.dumps({"made": made.isoformat(), "reason": reason, "files": files}, indent=1))
        for file in unfinished.iterdir():
            _on_disk(file)
        _on_disk(unfinished)
        folder = _free(to / made.strftime(_NAME))
        unfinished.rename(folder)
        _on_disk(to)
    except (OSError, sqlite3.Error) as error:
        raise BackupError(f"No backup was taken in {to}: {error}.") from error
    for old in backups(to)[keep:] if keep > 0 else ():
        shutil.rmtree(old.folder, ignore_errors=True)
    return Backup(folder, made.isoformat(), reason)


def backups(to: Path | None = None) -> list[Backup]:
    """All that are whole, the latest first."""
    found = []
    for folder in (to or where()).glob("zygon-*"):
        try:
            told = json.loads((folder / _LIST).read_text())
            found.append(Backup(folder, told["made"], told.get("reason", "")))
        except (OSError, ValueError, KeyError):
            continue
    return sorted(found, key=lambda b: (b.made, b.folder.name), reverse=True)


def find(name: str, to: Path | None = None) -> Backup:
    """A backup by its folder or the folder's name; the latest for ''. Raises BackupError where it is none, or not as it was written."""
    known = backups(to)
    if name:
        folder = Path(name) if os.sep in name else (to or where()) / name
        known = [b for b in backups(folder.parent) if b.folder.name == folder.name]
    if not known:
        raise BackupError(f"There is no backup {name}." if name else f"There is no backup in {to or where()}.")
    files = json.loads((known[0].folder / _LIST).read_text())["files"]
    for file, told in files.items():
        path = known[0].folder / file
        if not path.exists() or _told(path) != told:
            raise BackupError(f"{path} is not as it was written: this backup cannot be used.")
    return known[0]


def restore(name: str = "") -> tuple[Backup, Path]:
    """Puts a backup back, and gives it with the folder in which what was there until now is kept. Raises BackupError, and RunsAlreadyError where the application runs."""
    with alone():
        chosen, target = find(name), live()
        kept = _free(where() / f"before-restore-{datetime.now(UTC):%Y%m%d-%H%M%S}")
        try:
            kept.mkdir(parents=True, mode=0o700)
            for file in (target, *(target.with_name(target.name + end) for end in ("-wal", "-shm")), VAR / KEY):
                if file.exists():
                    shutil.copy2(file, kept / file.name)
                    _on_disk(kept / file.name)
            fresh = target.with_name(f".{target.name}.fresh")
            shutil.copyfile(chosen.database, fresh)
            fresh.chmod(0o600)
            _on_disk(fresh)
            # what the old log holds goes into the old file first: without its log, that is whole until the moment in which the new one takes its place
            _fold(target)
            for end in ("-wal", "-shm"):
                target.with_name(target.name + end).unlink(missing_ok=True)
            fresh.replace(target)
            if (chosen.folder / KEY).exists():
                shutil.copy2(chosen.folder / KEY, VAR / KEY)
            _on_disk(target.parent)
        except OSError as error:
            raise BackupError(f"{chosen.folder.name} was not put back: {error}. What was there is kept in {kept}.") from error
    return chosen, kept


def _copy_database(source: Path, to: Path) -> None:
    """A copy as of one moment, whoever writes meanwhile (SQLite's online backup), in one file without a log."""
    with closing(sqlite3.connect(f"file:{source}?mode=ro", uri=True, timeout=60)) as old, closing(sqlite3.connect(to)) as new:
        old.backup(new)
        new.execute("PRAGMA journal_mode=DELETE")
    to.chmod(0o600)


def _fold(path: Path) -> None:
    if path.exists():
        try:
            with closing(sqlite3.connect(path, timeout=10)) as database:
                database.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        except sqlite3.DatabaseError:
            return  # it is broken; as it is, it was set aside with its log


def _free(folder: Path) -> Path:
    """The folder, or where something is there already, one numbered beside it."""
    found, n = folder, 2
    while found.exists():
        found, n = folder.with_name(f"{folder.name}-{n}"), n + 1
    return found


def _told(path: Path) -> dict[str, object]:
    with path.open("rb") as file:
        return {"bytes": path.stat().st_size, "sha256": hashlib.file_digest(file, "sha256").hexdigest()}


def _on_disk(path: Path) -> None:
    """Waits until a file, or a folder's list of files, is on the disk itself."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
