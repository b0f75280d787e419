"""The mutation tester plants what it says, finds all kinds of mistakes, and forgets what was remembered."""

import functools
import gc
import hashlib
import json
import os
import subprocess
import sys
import textwrap
import traceback

import pytest

from scripts.mutants.__main__ import ROOT, equivalent
from scripts.mutants.planting import NotApplicable, known_functions, plant
from scripts.mutants.reach import Reach
from scripts.mutants.sites import OPERATORS, sites

SOURCE = '''
"""A room."""
import math
from functools import lru_cache

LIMIT = 1.5
NAMES = ("top", "rest")


class Board:
    def __init__(self, low, high, handed=False):
        self.low = low
        self.high = high
        self.handed = handed

    @property
    def size(self):
        """Not this 5."""
        return self.high - self.low

    def half(self):
        return self.size / 2 if not self.handed else -abs(self.low)


@lru_cache
def slope(a, b=2.0):
    def inner(x):
        return x * a

    if a > LIMIT:
        return math.sin(a) + inner(b)
    values = [v for v in (a, b) if v != 0]
    values.append(a)
    return max(values)


def registered(into):
    def handler(x):
        return x + 3

    into.append(handler)


def found(rows, owner):
    return rows.filter(owner=owner, name="left"), slope(a=1, b=3), rows[0], owner and rows
'''


@pytest.fixture
def room(tmp_path):
    (tmp_path / "room_of_mutants.py").write_text(textwrap.dedent(SOURCE))
    sys.path.insert(0, str(tmp_path))
    import room_of_mutants

    yield tmp_path, room_of_mutants
    sys.path.remove(str(tmp_path))
    del sys.modules["room_of_mutants"]


def in_a_child(test):
    """A test that plants, in a child that is thrown away, as it is done for each mistake. All objects are listed for it, also tuples that another thread
    (a pool's, of a test before) is still making, and such a thread then falls; a child has this thread alone.
    """

    @functools.wraps(test)
    def apart(room):
        said, says = os.pipe()
        child = os.fork()
        if not child:
            os.close(said)
            wrong = 1
            try:
                test(room)
                wrong = 0
            except BaseException:
                os.write(says, traceback.format_exc().encode()[-60_000:])
            finally:
                os._exit(wrong)
        os.close(says)
        with os.fdopen(said, "rb") as pipe:
            told = pipe.read().decode()
        assert os.waitpid(child, 0)[1] == 0, told

    return apart


def every(folder):
    return sites(folder / "room_of_mutants.py", folder, {"slope": {"b"}})


def one(folder, before, after, owner=""):
    (found,) = [s for s in every(folder) if (s.before, s.after) == (before, after) and s.owner.startswith(owner)]
    return found


def test_each_kind_of_mistake_is_found_and_each_compiles(room):
    folder, _ = room
    found = every(folder)
    assert {s.operator for s in found} == set(OPERATORS)
    source = (folder / "room_of_mutants.py").read_bytes()
    for site in found:
        changed = site.changed(source)
        assert changed != source
        compile(changed, "room", "exec")
    assert not [s for s in found if s.before in ("5", "A room.")]


@in_a_child
def test_functions_that_were_put_aside_for_the_whole_run_are_known_too(room):
    gc.freeze()
    assert {name for _, name in known_functions(room[0])} >= {"slope", "registered", "Board.half"}


@in_a_child
def test_what_is_planted_is_alive_everywhere(room):
    folder, module = room
    functions = known_functions(folder)
    board = module.Board(3.0, 10.0)
    assert (board.size, board.half(), module.slope(1.0)) == (7.0, 3.5, 2.0)
    plant(one(folder, "-", "+", "Board.size"), folder, functions)
    assert board.size == 13.0
    plant(one(folder, "self.size / 2", "(self.size)"), folder, functions)
    assert board.half() == 13.0
    # what was remembered of earlier results is forgotten, and what is nested goes with its function
    plant(one(folder, "2.0", "2.4"), folder, functions)
    assert module.slope(1.0) == 2.4
    plant(one(folder, "1.5", repr(1.5 * 1.2), "LIMIT"), folder, functions)
    assert round(module.LIMIT, 3) == 1.8 and module.slope(1.6) == 2.4


@in_a_child
def test_what_was_made_within_a_function_that_ran_long_ago_is_changed_too(room):
    folder, module = room
    handlers = []
    module.registered(handlers)
    plant(one(folder, "+", "-", "registered"), folder, known_functions(folder))
    assert handlers[0](10) == 7


def test_an_owner_that_is_not_asked_and_an_argument_that_is_dropped(room):
    folder, _ = room
    source = (folder / "room_of_mutants.py").read_bytes()
    changed = [s.changed(source).decode() for s in every(folder) if s.operator in ("query", "default")]
    assert len(changed) == 3
    assert any('filter(name="left")' in c for c in changed) and any("filter(owner=owner)" in c for c in changed)
    assert any("slope(a=1)" in c for c in changed)


@in_a_child
def test_what_is_not_alive_is_said(room):
    folder, _ = room
    with pytest.raises(NotApplicable):
        plant(one(folder, "-", "+", "Board.size"), folder, {})


def test_tests_that_reached_a_file_before_it_changed_are_known_by_their_functions(room):
    folder, _ = room
    file = "room_of_mutants.py"
    site = one(folder, "-", "+", "Board.size")
    first = Reach(
        seconds={"old": 1.0}, hashes={file: "then"}, lines={file: {3: {"old"}}}, owners={file: {"Board.size": {"old"}, "slope": {"old"}}}
    )
    import hashlib

    now = hashlib.sha1((folder / file).read_bytes(), usedforsecurity=False).hexdigest()
    later = Reach(seconds={"new": 1.0}, hashes={file: now}, lines={file: {site.line: {"new"}}}, owners={file: {"Board.size": {"new"}}})
    known = Reach()
    known.join(first)
    assert known.tests(site, folder) == {"old"}
    known.join(later)
    assert known.tests(site, folder) == {"old", "new"}
    # run again on the file as it is now, it is known by its lines
    known.join(Reach(seconds={"old": 1.0}, hashes={file: now}, lines={file: {1: {"old"}}}, owners={file: {}}))
    assert known.tests(site, folder) == {"new"}


def test_what_is_said_to_be_equal_is_there_and_has_its_reason():
    for entry in equivalent():
        lines = [line.strip() for line in (ROOT / entry["file"]).read_text().splitlines()]
        assert entry["line"] in lines and entry["before"] in entry["line"] and len(entry["why"]) > 9, entry


def test_a_constant_is_reached_by_tests_of_the_lines_that_name_it_in_whichever_file(tmp_path):
    (tmp_path / "units.py").write_text("INCH = 25.4\n\n\ndef other():\n    return 1\n")
    user = "from units import INCH\n\n\ndef mm(x):\n    return x * INCH\n\n\ndef unit():\n    return 'INCHES'\n"
    (tmp_path / "user.py").write_text(user)
    reach = Reach()
    for file, lines, owners in (
        ("units.py", {5: {"other"}}, {"other": {"other"}}),
        ("user.py", {5: {"mm"}, 9: {"unit"}}, {"mm": {"mm"}, "unit": {"unit"}}),
    ):
        reach.hashes[file] = hashlib.sha1((tmp_path / file).read_bytes(), usedforsecurity=False).hexdigest()
        reach.lines[file], reach.owners[file] = lines, owners
    (inch,) = [s for s in sites(tmp_path / "units.py", tmp_path, {}) if s.owner == "INCH"][:1]
    assert reach.tests(inch, tmp_path) == {"mm"}
    # and where that file has changed since, by its functions
    (tmp_path / "user.py").write_text("\n" + user)
    assert reach.tests(inch, tmp_path) == {"mm"}


def test_a_mistake_in_what_runs_when_a_module_is_loaded_is_planted_before(tmp_path):
    module = tmp_path / "tables.py"
    module.write_text("def row(n):\n    return n + 1\n\n\nTABLE = row(1)\n")
    start = module.read_bytes().index(b"+")
    mistake = json.dumps([str(module), start, start + 1, "-"])
    asked = "import scripts.mutants.afresh, sys; sys.path.insert(0, sys.argv[1]); import tables; print(tables.TABLE)"
    for environment, seen in (({}, "2"), ({"ZYGON_MISTAKE": mistake}, "0"), ({}, "2")):
        told = subprocess.run(
            [sys.executable, "-c", asked, str(tmp_path)],
            cwd=ROOT,
            env={**os.environ, **environment},
            capture_output=True,
            text=True,
            check=True,
        )
        assert told.stdout.strip() == seen
