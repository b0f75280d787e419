"""Backups are taken while everybody works, are whole or none, and are put back whole or not at all, whenever it is killed."""

import json
import os
import shutil
import signal
import sqlite3
import threading
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from types import SimpleNamespace

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from zygon_server.designs import service
from zygon_server.keeping import backups, routine, running
from zygon_server.keeping.backups import BackupError, backup, find, restore
from zygon_server.keeping.running import RunsAlreadyError, alone
from zygon_server.keeping.soundness import unsound

from tests.server.conftest import sqlite_alone
from zygon.design.starters import starter


@pytest.fixture
def place(tmp_path, monkeypatch):
    """An installation's folder of its own, with a database of one table in which every row names its number twice."""
    monkeypatch.setattr(backups, "VAR", tmp_path)
    monkeypatch.setattr(running, "VAR", tmp_path)
    monkeypatch.delenv("ZYGON_BACKUPS", raising=False)
    path = tmp_path / "zygon.sqlite3"
    monkeypatch.setattr(backups, "live", lambda: path)
    (tmp_path / "secret-key").write_text("a key")
    with closing(sqlite3.connect(path)) as database:
        database.executescript("PRAGMA journal_mode=WAL; CREATE TABLE t(a, b); CREATE TABLE designs_design(id, name, document, good);")
    write(path, "old")
    return path


def write(path, word, rows=50):
    with closing(sqlite3.connect(path, timeout=30)) as database, database:
        database.execute("DELETE FROM t")
        database.executemany("INSERT INTO t VALUES (?, ?)", [(f"{word} {n}", f"{word} {n}") for n in range(rows)])


def words(path):
    """The word of every row; all rows are of one moment, or this fails."""
    with closing(sqlite3.connect(path)) as database:
        assert database.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        rows = database.execute("SELECT a, b FROM t").fetchall()
    found = {a.split()[0] for a, _ in rows}
    assert all(a == b for a, b in rows) and len(rows) == 50 and len(found) == 1
    return found.pop()


def test_a_backup_is_of_one_moment_whoever_writes_meanwhile(place):
    stop, written = threading.Event(), []

    def busy():
        n = 0
        while not stop.is_set():
            write(place, f"word{n}")
            written.append(n)
            n += 1

    writer = threading.Thread(target=busy)
    writer.start()
    try:
        while len(written) < 5:
            pass
        taken = [backup(keep=0) for _ in range(5)]
        before = len(written)
        while len(written) < before + 5:  # nobody was held up
            pass
    finally:
        stop.set()
        writer.join()
    for one in taken:
        assert words(one.database).startswith("word")
        assert not list(one.folder.glob("*-wal")) and one.database.stat().st_mode & 0o777 == 0o600
        assert (one.folder / "secret-key").read_text() == "a key"


def test_so_many_are_kept_and_what_is_none_is_not_counted(place):
    taken = [backup(keep=3) for _ in range(5)]
    (place.parent / "backups" / "zygon-notes").mkdir()
    (place.parent / "backups" / ".unfinished-1").mkdir()
    known = backups.backups()
    assert [b.folder for b in known] == [b.folder for b in reversed(taken[2:])]
    assert (place.parent / "backups" / "zygon-notes").exists()
    assert find("").folder == taken[-1].folder
    assert find(taken[2].folder.name) == find(str(taken[2].folder)) == known[-1]
    with pytest.raises(BackupError, match="There is no backup zygon-notes"):
        find("zygon-notes")


def test_what_was_broken_off_long_ago_is_cleared_away(place):
    old, new = (place.parent / "backups" / f".unfinished-{n}" for n in (1, 2))
    for folder in (old, new):
        folder.mkdir(parents=True)
    hours_ago = datetime.now(UTC).timestamp() - 2 * 3600
    os.utime(old, (hours_ago, hours_ago))
    backup()
    assert not old.exists() and new.exists()


@pytest.mark.parametrize("file", ["zygon.sqlite3", "secret-key"])
@pytest.mark.parametrize("how", ["changed", "gone"])
def test_a_backup_that_is_not_as_it_was_written_is_not_put_back(place, file, how):
    taken = backup()
    write(place, "new")
    path = taken.folder / file
    if how == "gone":
        path.unlink()
    else:
        path.write_bytes(path.read_bytes()[:-1] + b"?")
    with pytest.raises(BackupError, match="is not as it was written"):
        restore()
    assert words(place) == "new"


def test_what_is_put_back_is_as_it_was_and_what_was_there_is_kept(place):
    taken = backup()
    write(place, "new")
    (place.parent / "secret-key").write_text("another key")
    chosen, kept = restore()
    assert chosen.folder == taken.folder and words(place) == "old"
    assert (place.parent / "secret-key").read_text() == "a key"
    assert words(kept / "zygon.sqlite3") == "new" and (kept / "secret-key").read_text() == "another key"
    assert place.stat().st_mode & 0o777 == 0o600


def test_nothing_is_put_back_while_the_application_runs(place):
    backup()
    write(place, "new")
    with alone(), pytest.raises(RunsAlreadyError, match="stop it first"):
        restore()
    assert words(place) == "new"
    restore()
    assert words(place) == "old"


def test_a_damaged_database_is_replaced_and_kept(place):
    backup()
    place.write_bytes(b"not a database any more" * 1000)
    _, kept = restore()
    assert words(place) == "old"
    assert (kept / "zygon.sqlite3").read_bytes().startswith(b"not a database")


#: What changes something on the disk, or waits for it.
STEPS = [
    (backups, "_on_disk"),
    (shutil, "copy2"),
    (shutil, "copyfile"),
    (backups, "_fold"),
    (backups, "_copy_database"),
    (Path, "unlink"),
    (Path, "replace"),
    (Path, "rename"),
    (Path, "mkdir"),
]


def killed_at(step, work):
    """Does the work in a process of its own that is killed before its ``step``-th change of the disk; whether it came so far."""
    child = os.fork()
    if not child:
        count = 0
        for owner, name in STEPS:

            def counted(*args, do=getattr(owner, name), **more):
                nonlocal count
                if count == step:
                    os.kill(os.getpid(), signal.SIGKILL)
                count += 1
                return do(*args, **more)

            setattr(owner, name, counted)
        try:
            work()
        finally:
            os._exit(0)
    return os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]) == -signal.SIGKILL


def test_a_backup_that_is_killed_at_any_moment_is_none_and_the_others_stand(place):
    first = backup()
    write(place, "new")
    step = 0
    while killed_at(step, backup):
        step += 1
        for one in backups.backups():
            find(str(one.folder))
            assert words(one.database) == ("old" if one.folder == first.folder else "new")
        assert words(place) == "new"
    assert step > 8
    assert words(find("").database) == "new"


@pytest.mark.parametrize("logged", [False, True])
def test_a_restore_that_is_killed_at_any_moment_leaves_the_old_state_or_the_new_one(place, logged):
    backup()
    step, seen = 0, set()
    while True:
        write(place, "new")
        held = sqlite3.connect(place) if logged else None  # somebody who reads keeps the log beside the file
        if held:
            held.execute("SELECT * FROM t").fetchall()
            write(place, "new")
        went_on = killed_at(step, restore)
        if held:
            held.close()
        step += 1
        state = words(place)
        seen.add(state)
        restore()
        assert words(place) == "old"
        if not went_on:
            break
    assert seen == {"old", "new"} and step > 8


@pytest.fixture
def kept(transactional_db, django_user_model, tmp_path, monkeypatch):
    """The tests' own database, with designs in it."""
    monkeypatch.setenv("ZYGON_BACKUPS", str(tmp_path / "elsewhere"))
    user = django_user_model.objects.create_user("maker", password="a long enough one")
    return [service.create(user, starter(s, s)) for s in ("open-box", "nothing")]


@sqlite_alone
def test_a_database_of_ours_is_sound_and_so_is_its_backup(kept):
    assert unsound(backups.live()) == []
    call_command("backup")
    (taken,) = backups.backups()
    assert taken.folder.parent == backups.where() and unsound(taken.database) == []
    with closing(sqlite3.connect(taken.database)) as database:
        assert {n for (n,) in database.execute("SELECT name FROM designs_design")} == {"open-box", "nothing"}


@sqlite_alone
@pytest.mark.parametrize(
    ("change", "words_"),
    [
        (lambda d: d.update(parts=[]), "cannot be read: /parts: "),
        (lambda d: d["parts"]["front"].update(stock="oak"), "cannot be read: /parts/front/stock"),
        (lambda d: d.update(schema=99), "cannot be read: /schema: 99 is not"),
    ],
)
def test_a_design_that_cannot_be_read_is_named(kept, change, words_, capsys):
    design = kept[0]
    change(design.document)
    type(design).objects.filter(pk=design.pk).update(document=design.document)
    (said,) = unsound(backups.live())
    assert said.startswith(f"open-box ({design.pk.hex}) {words_}"), said
    with pytest.raises(CommandError, match="is not sound"):
        call_command("verify")
    call_command("backup")
    with pytest.raises(CommandError, match="It was not put back"):
        call_command("restore")


@sqlite_alone
def test_what_refers_to_nothing_and_what_is_no_database_is_told(kept, tmp_path):
    path = tmp_path / "copy.sqlite3"
    backups._copy_database(backups.live(), path)
    with closing(sqlite3.connect(path)) as database, database:
        database.execute("DELETE FROM auth_user")
    assert "A row of designs_design refers to one of auth_user that is not there." in unsound(path)
    path.write_bytes(b"x" * 5000)
    assert unsound(path) == ["The file is no database of Zygon's: file is not a database."]
    assert unsound(tmp_path / "nowhere")[0].startswith("The file is no database of Zygon's")


@sqlite_alone
def test_an_upgrade_takes_a_backup_first_where_something_changes(kept, monkeypatch):
    call_command("upgrade", verbosity=0)
    assert backups.backups() == []
    done = []
    monkeypatch.setattr("zygon_server.keeping.management.commands.upgrade.MigrationExecutor.migration_plan", lambda self, targets: [1, 2])
    monkeypatch.setattr(
        "zygon_server.keeping.management.commands.upgrade.call_command", lambda *a, **k: done.append((a, len(backups.backups())))
    )
    call_command("upgrade", verbosity=0)
    assert done == [(("migrate",), 1)] and backups.backups()[0].reason == "before 2 changes of the database"
    # where none can be taken, nothing is changed
    monkeypatch.setenv("ZYGON_BACKUPS", "/proc/nowhere")
    with pytest.raises(CommandError, match="Nothing was changed"):
        call_command("upgrade", verbosity=0)
    assert len(done) == 1


@sqlite_alone
def test_edits_are_on_the_disk_once_they_are_acknowledged(db):
    with connection.cursor() as cursor:
        assert cursor.execute("PRAGMA synchronous").fetchone() == (2,)


def test_the_list_tells_what_for(place, capsys):
    backup(reason="before a change")
    call_command("backup", "--list")
    assert capsys.readouterr().out.endswith("  before a change\n")
    told = json.loads((backups.backups()[0].folder / "backup.json").read_text())
    assert sorted(told["files"]) == ["secret-key", "zygon.sqlite3"]


def mode(path):
    return path.stat().st_mode & 0o777


def test_nobody_else_reads_a_backup_or_what_is_put_back(place):
    one = backup()
    assert (mode(one.folder), mode(one.folder.parent), mode(one.database)) == (0o700, 0o700, 0o600)
    # in one file: whoever opens it starts no log (SQLite's file format, bytes 18 and 19)
    assert one.database.read_bytes()[18:20] == b"\x01\x01" and place.read_bytes()[18:20] == b"\x02\x02"
    place.chmod(0o644)
    _, kept = restore()
    assert (mode(place), mode(kept)) == (0o600, 0o700)


def test_what_is_kept_has_its_log_and_none_stays_beside_what_is_put_back(place):
    backup()
    with closing(sqlite3.connect(place)) as open_:  # as an application that was killed leaves it
        open_.execute("INSERT INTO t VALUES ('late', 'late')")
        open_.commit()
        beside = [place.with_name(place.name + end) for end in ("-wal", "-shm")]
        left = {f.name: f.read_bytes() for f in beside}
        assert all(left.values())
        _, kept = restore()
        assert {f.name for f in kept.iterdir()} == {place.name, *left, "secret-key"}
        assert (kept / beside[0].name).read_bytes() == left[beside[0].name]
        assert not any(f.exists() for f in beside)
    with closing(sqlite3.connect(kept / place.name)) as database:
        assert database.execute("SELECT count(*) FROM t WHERE a = 'late'").fetchone() == (1,)
    assert words(place) == "old"


@pytest.mark.parametrize(("minutes", "left"), [(59.5, True), (60.5, False), (600, False)])
def test_what_was_broken_off_is_left_for_an_hour(place, minutes, left):
    """Another backup may still be at it."""
    to = place.parent / "backups"
    unfinished = to / ".unfinished-1"
    unfinished.mkdir(parents=True)
    then = datetime.now(UTC).timestamp() - 60 * minutes
    os.utime(unfinished, (then, then))
    backup()
    assert unfinished.exists() == left


def test_it_runs_alone_in_a_folder_that_is_not_there_yet(place, tmp_path, monkeypatch):
    monkeypatch.setattr(running, "VAR", tmp_path / "new" / "deeper")
    with alone(), pytest.raises(RunsAlreadyError), alone():
        pass


def test_a_damaged_file_is_told_as_that(place):
    with closing(sqlite3.connect(place)) as database:
        database.executescript("PRAGMA journal_mode=DELETE; CREATE INDEX i ON t(a);")
        database.executemany("INSERT INTO t VALUES (?, ?)", [(f"w {n:05}", "x" * 90) for n in range(3000)])
        database.commit()
        page = database.execute("PRAGMA page_size").fetchone()[0]
        root = database.execute("SELECT rootpage FROM sqlite_master WHERE name = 'i'").fetchone()[0]
    assert unsound(place) == []
    data = bytearray(place.read_bytes())
    at = (root - 1) * page
    data[at + 8 : at + 40] = bytes(32)
    place.write_bytes(data)
    told = unsound(place)
    assert told and all(t.startswith("The file is damaged: ") for t in told)


@pytest.fixture
def round_of_tidying(place, monkeypatch, settings, caplog):
    """One round at a moment so many hours after the latest backup; what the log says, and the backups' reasons."""

    def tidied(hours=None, gone=None, production=True, fails=False):
        settings.PRODUCTION = production
        monkeypatch.setattr(routine, "prune", lambda: gone or {})
        if hours is not None:
            one = backup(reason="by hand")
            made = datetime.fromisoformat(one.made)

            class Then(datetime):
                @classmethod
                def now(cls, tz=None):
                    return made + timedelta(hours=hours)

            monkeypatch.setattr(routine, "datetime", Then)
        if fails:
            monkeypatch.setattr(routine, "backup", lambda reason: (_ for _ in ()).throw(BackupError("The disk is full.")))
        caplog.clear()
        with caplog.at_level("INFO", logger=routine.__name__):
            routine.tidy()
        return [r.getMessage() for r in caplog.records], [b.reason for b in backups.backups()]

    return tidied


@pytest.mark.parametrize(("hours", "taken"), [(23.99, False), (24, True), (30, True)])
def test_a_backup_is_taken_once_a_day(round_of_tidying, hours, taken):
    told, reasons = round_of_tidying(hours)
    assert sorted(reasons) == (["by hand", "daily"] if taken else ["by hand"])
    assert [t.split(":")[0] for t in told] == (["backup taken"] if taken else [])


def test_the_first_backup_is_taken_at_once_and_none_where_it_is_no_production(round_of_tidying):
    assert round_of_tidying(production=False) == ([], [])
    assert round_of_tidying()[1] == ["daily"]


def test_what_was_taken_away_is_told_and_what_was_not_is_not(round_of_tidying):
    told, _ = round_of_tidying(gone={"runs": 3, "sessions": 0, "finished tasks": 1}, production=False)
    assert told == ["taken away: 3 runs, 1 finished tasks"]


def test_a_backup_that_cannot_be_taken_is_told_and_nothing_falls(round_of_tidying):
    told, reasons = round_of_tidying(fails=True)
    assert told == ["The disk is full."] and reasons == []


@pytest.mark.parametrize(("keep", "left"), [(0, 3), (1, 1), (2, 2)])
def test_as_many_are_kept_as_is_said_and_all_for_none(place, keep, left):
    for _ in range(3):
        backup(keep=keep)
    assert len(backups.backups()) == left


def test_backups_of_one_second_are_numbered(place, monkeypatch):
    class Still(datetime):
        @classmethod
        def now(cls, tz=None):
            return datetime(2031, 5, 4, 3, 2, 1, tzinfo=tz)

    monkeypatch.setattr(backups, "datetime", Still)
    assert [backup(keep=0).folder.name for _ in range(3)] == [f"zygon-20310504-030201{n}" for n in ("", "-2", "-3")]


def test_another_kind_of_database_has_its_own_tools(monkeypatch):
    monkeypatch.setattr(backups, "connection", SimpleNamespace(vendor="postgresql"))
    with pytest.raises(BackupError, match="pg_dump"):
        backups.live()


def test_a_backup_goes_into_a_folder_that_is_not_there_yet_whatever_the_mask(place, tmp_path):
    before = os.umask(0o022)
    try:
        one = backup(tmp_path / "disk" / "deeper")
    finally:
        os.umask(before)
    assert mode(one.database) == 0o600 and backup(tmp_path / "disk" / "deeper").folder.exists()
