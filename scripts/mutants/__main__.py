"""``make mutants``: collects all tests once, then forks a child for each mistake, plants it there and runs the tests that reach it until one fails."""

from __future__ import annotations

import argparse
import ast
import json
import os
import random
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import tomllib
import warnings
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
sys.path.insert(0, str(ROOT))

from scripts.mutants.afresh import MISTAKE  # noqa: E402
from scripts.mutants.planting import known_functions, plant  # noqa: E402
from scripts.mutants.reach import Reach  # noqa: E402
from scripts.mutants.sites import OPERATORS, Site, sites  # noqa: E402

KEPT = ROOT / "var" / "mutants"
#: Left alone, each with its reason.
LEFT = {
    "zygon/nest/kernels.py": "compiled to machine code before it is called",
    "zygon/cli.py": "what it prints is read by people",
    "zygon/design/examples": "the demo's data",
    "zygon/design/workshop.py": "the demo's data",
    "server/zygon_server/local.py": "done before there is anything to test",
    "server/zygon_server/settings.py": "read once, before there is anything to test",
}
#: Tests that start processes of their own, which know nothing of what was planted.
ELSEWHERE = ("test_benchmarks", "test_it_is_installed", "test_nobody_imports_numba", "test_settings", "test_published")
#: What looks at everything.
NET = "tests/core/test_figures"
#: What goes through everything that a room makes.
SWEEPS = "/test_every_"
#: What caught a mistake that no test did: the child was stopped, or left by itself.
FELL = "never ended, or fell"
#: So many tests of a file are tried before others have their turn.
TURN = 3
KILLED, SURVIVED, NOT_APPLICABLE, LIMIT = 1, 0, 2, 3


@dataclass
class Tried:
    """A mistake and what came of it: the test that caught it, or how many tests did not in how many of all that reach it."""

    site: Site
    outcome: str
    by: str = ""
    ran: int = 0
    reaching: int = 0


def rooms() -> dict[str, list[Path]]:
    """The files of each room of the core and each app of the server."""
    found: dict[str, list[Path]] = {}
    for path in sorted([*ROOT.glob("zygon/**/*.py"), *ROOT.glob("server/zygon_server/**/*.py")]):
        file = str(path.relative_to(ROOT))
        if path.name == "__init__.py" or "migrations" in file or "management" in file or any(file.startswith(x) for x in LEFT):
            continue
        depth = 2 if file.startswith("zygon/") else 3
        inside = path.relative_to(ROOT).parent.parts
        if inside[:2] == ("zygon", "making") and len(inside) > 2:
            depth = 3
        found.setdefault("/".join(inside[:depth]), []).append(path)
    return found


def equivalent() -> list[dict[str, str]]:
    """Changes that change nothing, each with its reason."""
    return tomllib.loads((Path(__file__).parent / "equivalent.toml").read_text()).get("equivalent", [])


def is_equivalent(site: Site, known: list[dict[str, str]]) -> bool:
    line = (ROOT / site.file).read_text().splitlines()[site.line - 1].strip()
    return any(
        e["file"] == site.file and e["line"] == line and e["before"] == site.before and e.get("after", site.after) == site.after
        for e in known
    )


def may_be_left_out(files: list[Path]) -> dict[str, set[str]]:
    """The parameters with a default, by function name; of functions of one name those that all of them have."""
    found: dict[str, set[str]] = {}
    for path in files:
        for node in ast.walk(ast.parse(path.read_bytes())):
            if isinstance(node, ast.FunctionDef):
                a = node.args
                own = {x.arg for x in a.args[len(a.args) - len(a.defaults) :]} | {
                    x.arg for x, d in zip(a.kwonlyargs, a.kw_defaults, strict=True) if d
                }
                found[node.name] = found[node.name] & own if node.name in found else own
            elif isinstance(node, ast.ClassDef):
                own = {n.target.id for n in node.body if isinstance(n, ast.AnnAssign) and isinstance(n.target, ast.Name) and n.value}
                found[node.name] = own
    return found


def named(site: Site) -> str:
    """A name that a mistake keeps while its function stands elsewhere in the file: the line as it stands, how many like it come before, and the column."""
    lines = (ROOT / site.file).read_bytes().split(b"\n")
    line = lines[site.line - 1]
    column = site.start - sum(len(x) + 1 for x in lines[: site.line - 1])
    return "|".join([site.file, site.owner, line.decode(), str(lines[: site.line - 1].count(line)), str(column), site.before, site.after])


def changed_since(revision: str) -> dict[str, set[int]]:
    """The lines of each file that are not as they were at a revision."""
    told = subprocess.run(["git", "diff", "-U0", revision, "--", "*.py"], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    found: dict[str, set[int]] = {}
    file = ""
    for line in told.splitlines():
        if line.startswith("+++ "):
            file = line[6:]
        elif m := re.match(r"@@ -\S+ \+(\d+)(?:,(\d+))? @@", line):
            first, count = int(m[1]), int(m[2] or 1)
            found.setdefault(file, set()).update(range(first, first + count))
    return found


def drawn(found: list[Site], seed: int) -> Iterator[Site]:
    """All mistakes in a random order, as many of each kind one after another."""
    chance = random.Random(seed)
    by_kind: dict[str, list[Site]] = {}
    for site in found:
        by_kind.setdefault(site.operator, []).append(site)
    for some in by_kind.values():
        chance.shuffle(some)
    while any(by_kind.values()):
        kinds = [o for o in OPERATORS if by_kind.get(o)]
        chance.shuffle(kinds)
        for kind in kinds:
            yield by_kind[kind].pop()


class Planter:
    """Takes pytest's place once everything is collected."""

    def __init__(self, options: argparse.Namespace) -> None:
        self.options = options
        self.failed = False
        self.folder = Path(tempfile.mkdtemp(prefix="mutants-"))
        self.reach = Reach.kept(KEPT / "reach.pickle")
        self.caught: dict[str, Counter[str]] = {}
        #: the tests that caught mistakes in earlier runs, by the mistake's name; none where it could not be planted
        self.earlier: dict[str, str | None] = json.loads((KEPT / "caught.json").read_text()) if (KEPT / "caught.json").exists() else {}

        for name, test in self.earlier.items():
            file, owner, *_ = name.split("|")
            if test:
                self.remember(file, owner, test)

    def remember(self, file: str, owner: str, test: str) -> None:
        """What a test caught, where it is looked for: in the function, the file and the room."""
        for place in (f"{file}::{owner}", file, str(Path(file).parent)):
            self.caught.setdefault(place, Counter())[test] += 1

    # in the children

    def pytest_runtest_logreport(self, report) -> None:
        if report.failed:
            self.failed = True

    def own_database(self, name: str) -> None:
        from django.db import connections

        template = self.folder / "template.sqlite3"
        path = self.folder / f"{name}.sqlite3"
        if template.exists():
            shutil.copy(template, path)
        connections["default"].settings_dict["TEST"]["NAME"] = str(path)

    def quiet(self) -> None:
        self.session.config.pluginmanager.unregister(name="terminalreporter")
        null = os.open(os.devnull, os.O_WRONLY)
        os.dup2(null, 1)
        os.dup2(null, 2)

    def fails(self, name: str) -> bool:
        self.failed = False
        item = self.items[name]
        item.config.hook.pytest_runtest_protocol(item=item, nextitem=None)
        return self.failed

    # in the parent

    def pytest_runtestloop(self, session) -> bool:
        self.session = session
        self.items = {i.nodeid: i for i in session.items if not any(x in i.nodeid for x in ELSEWHERE)}
        session.config.option.reuse_db = True
        self.functions = known_functions(ROOT)
        self.template()
        wanted = set(self.items) - (set(self.reach.seconds) - self.reach.broken)
        if self.options.learn or len(wanted) > 0.3 * len(self.items):
            self.learn(list(self.items))
        elif wanted:
            self.learn(sorted(wanted))
        try:
            self.all_rooms()
        finally:
            shutil.rmtree(self.folder, ignore_errors=True)
        return True

    def template(self) -> None:
        """A migrated database that the children copy."""
        name = next((n for n in self.items if "tests/server/test_session" in n), None)
        if name and not (pid := os.fork()):
            self.quiet()
            self.own_database("first")
            self.fails(name)
            os._exit(0)
        elif name:
            os.waitpid(pid, 0)
            (self.folder / "first.sqlite3").rename(self.folder / "template.sqlite3")

    def learn(self, names: list[str]) -> None:
        """Runs tests under coverage, half of them in each of two children."""
        print(f"which lines {len(names)} tests reach: a run of them under coverage", flush=True)
        children = []
        self.reach.broken -= set(names)
        for half in range(2):
            if pid := os.fork():
                children.append(pid)
                continue
            self.quiet()
            self.own_database(f"learn{half}")
            import coverage

            recorded = coverage.Coverage(
                data_file=str(self.folder / f"coverage{half}"), source=[str(ROOT / "zygon"), str(ROOT / "server" / "zygon_server")]
            )
            seconds, broken = {}, set()
            recorded.start()
            for name in names[half::2]:
                recorded.switch_context(name)
                began = time.perf_counter()
                if self.fails(name):
                    broken.add(name)
                seconds[name] = time.perf_counter() - began
            recorded.stop()
            own = Reach(seconds=seconds, broken=broken)
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")  # one test alone leaves the other half without any
                own.learn(recorded.get_data(), ROOT)
            own.keep(self.folder / f"reach{half}")
            os._exit(0)
        for pid in children:
            os.waitpid(pid, 0)
        for half in range(2):
            self.reach.join(Reach.kept(self.folder / f"reach{half}"))
        self.reach.keep(KEPT / "reach.pickle")
        for name in sorted(self.reach.broken & set(self.items)):
            print(f"fails without a mistake, left out: {name}", flush=True)

    def order(self, site: Site) -> list[str]:
        """The tests that reach a mistake: those that caught others near by, then the room's own and its neighbours'; of each file in turn, quick ones first."""
        room = str(Path(site.file).parent)
        own = ["tests", "server"] if not room.startswith("zygon") else ["tests", "core", *room.split("/")[1:]]
        reaching = self.reach.tests(site, ROOT)
        if site.scope == "constant":  # many are read where modules are loaded, or by a test itself: no line tells
            own, beside = self.beside(site)
            reaching = reaching | beside
        found = [t for t in reaching if t in self.items and t not in self.reach.broken]
        near = [self.caught.get(x, Counter()) for x in (f"{site.file}::{site.owner}", site.file, room)]
        shared = {t: self.shared(t, own) for t in found}

        def worth(name: str) -> float:
            """What it caught in this function counts most, then in this file, then in this room, and being the room's own; for each second that it takes."""
            caught = sum(n[name] * w for n, w in zip(near, (10, 1, 0.1), strict=True)) + (2 if shared[name] == len(own) else 0)
            return caught / (self.reach.seconds.get(name, 1.0) + 0.1)

        def place(name: str) -> tuple[float, bool, float]:
            return -shared[name], SWEEPS not in name, self.reach.seconds.get(name, 1.0)

        # of thousands only hundreds are run: a few of every file tell more than all of one
        turn: dict[str, int] = {}
        files: Counter[str] = Counter()
        for name in sorted(found, key=place):
            file = name.partition("::")[0]
            turn[name] = files[file] // TURN
            files[file] += 1
        return sorted(found, key=lambda name: (-worth(name), turn[name], place(name)))

    def shared(self, name: str, own: list[str]) -> float:
        """How many of a room's folders a test lies in."""
        if name.startswith(NET):
            return len(own) - 0.5  # it is slower than what a room has itself
        folders = Path(name.partition("::")[0]).parent.parts
        return next((i for i, (x, y) in enumerate(zip(folders, own, strict=False)) if x != y), min(len(folders), len(own)))

    def all_rooms(self) -> None:
        options = self.options
        since = changed_since(options.since) if options.since else None
        known = equivalent()
        files = rooms()
        defaults = may_be_left_out([p for some in files.values() for p in some])
        alone = options.room.removesuffix("/.") if options.room.endswith("/.") else ""
        chosen = {
            r: some for r, some in files.items() if not options.room or r in (options.room, alone) or r.startswith(options.room + "/")
        }
        if not chosen and options.room:
            chosen = {options.room: [ROOT / options.room]}
        began = time.monotonic()
        table = []
        for n, (room, paths) in enumerate(chosen.items()):
            found = [s for p in paths for s in sites(p, ROOT, defaults)]
            if since is not None:
                found = [s for s in found if s.line in since.get(s.file, ())]
            found = [s for s in found if not is_equivalent(s, known)]
            if not found:
                continue
            left = options.seconds - (time.monotonic() - began) if options.seconds else 1e9
            share = left / (len(chosen) - n)
            done = self.room(drawn(found, options.seed), time.monotonic() + share)
            table.append((room, len(found), done))
            for t in done:
                if t.outcome != "survived":
                    self.earlier[named(t.site)] = t.by if t.outcome == "killed" else None
                else:
                    self.earlier.pop(named(t.site), None)
            (KEPT / "caught.json").write_text(json.dumps(self.earlier, indent=0))
            self.print_room(room, len(found), done)
        self.print_table(table)

    def room(self, some: Iterator[Site], until: float) -> list[Tried]:
        """Tries mistakes two at a time until enough are tried or time is up."""
        done: list[Tried] = []
        running: dict[int, tuple[Site, list[str], float, Path]] = {}
        most = self.options.most
        while True:
            counted = sum(t.outcome != "not applicable" for t in done) + len(running)
            while len(running) < 2 and counted < most and time.monotonic() < until and (site := next(some, None)):
                if self.options.again and (known := self.known(site)):
                    done.append(known)
                    counted += known.outcome == "killed"
                    continue
                tests = self.order(site)
                note = self.folder / f"note{time.monotonic_ns()}"
                running[self.fork(site, tests, note)] = (site, tests, time.monotonic(), note)
                counted += 1
            if not running:
                return done
            pid, status = os.waitpid(-1, os.WNOHANG)
            if pid in running:
                site, tests, _, note = running.pop(pid)
                done.append(self.judged(site, tests, status, note))
                continue
            for child, (_, _, started, _) in running.items():
                if time.monotonic() - started > 2 * self.options.each + 30:
                    os.kill(child, signal.SIGKILL)
            time.sleep(0.01)

    def known(self, site: Site) -> Tried | None:
        """What came of it in an earlier run, where the test that caught it is still there."""
        name = named(site)
        if name not in self.earlier:
            return None
        by = self.earlier[name]
        if by is None:
            return Tried(site, "not applicable")
        return Tried(site, "killed", by) if by in self.items or by == FELL else None

    def fork(self, site: Site, tests: list[str], note: Path) -> int:
        if pid := os.fork():
            return pid
        code = LIMIT
        try:
            self.quiet()
            self.own_database(note.name)
            try:
                if self.runs_when_loaded(site):
                    os._exit(self.afresh(site, note))
                plant(site, ROOT, self.functions)
            except Exception:  # only a test that fails has caught it
                os._exit(NOT_APPLICABLE)
            code, began = SURVIVED, time.monotonic()
            for n, name in enumerate(tests):
                if time.monotonic() - began > self.options.each:
                    note.write_text(f"{n}\n")
                    code = LIMIT
                    break
                if self.fails(name):
                    note.write_text(f"{n + 1}\n{name}")
                    code = KILLED
                    break
        except BaseException:  # what is planted may leave the process
            code = KILLED
        finally:
            (self.folder / f"{note.name}.sqlite3").unlink(missing_ok=True)
            os._exit(code)

    def runs_when_loaded(self, site: Site) -> bool:
        """Whether no test reaches a function that may have run while modules were loaded: a running process knows only what came of it."""
        return site.scope == "function" and not self.reach.tests(site, ROOT)

    def afresh(self, site: Site, note: Path) -> int:
        """What the tests beside a room say in a process of their own, in which the mistake was planted before its module was loaded."""
        mistake = json.dumps([str(ROOT / site.file), site.start, site.end, site.after])
        arguments = [
            "-x",
            "-q",
            "-p",
            "scripts.mutants.afresh",
            "-p",
            "no:testmon",
            "-p",
            "no:cacheprovider",
            "-p",
            "no:xdist",
            "--create-db",
        ]
        try:
            ended = subprocess.run(
                [sys.executable, "-m", "pytest", *arguments, "/".join(self.beside(site)[0])],
                check=False,
                cwd=ROOT,
                env={**os.environ, MISTAKE: mistake, "ZYGON_TEST_DB": str(self.folder / f"{note.name}-afresh.sqlite3")},
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
                timeout=2 * self.options.each,
            )
        except subprocess.TimeoutExpired:
            return LIMIT
        return KILLED if ended.returncode else SURVIVED

    def beside(self, site: Site) -> tuple[list[str], set[str]]:
        """The folder that a room's tests lie in, or the nearest above it, and the tests there."""
        room = str(Path(site.file).parent)
        own = ["tests", "server"] if not room.startswith("zygon") else ["tests", "core", *room.split("/")[1:]]
        while len(own) > 1:
            if beside := {t for t in self.items if t.startswith("/".join(own) + "/")}:
                return own, beside
            own.pop()
        return own, set()

    def judged(self, site: Site, tests: list[str], status: int, note: Path) -> Tried:
        told = note.read_text().split("\n") if note.exists() else ["0", ""]
        if os.WIFSIGNALED(status):
            return Tried(site, "killed", FELL, reaching=len(tests))
        code = os.WEXITSTATUS(status)
        if code == KILLED:
            if len(told) > 1 and told[1]:
                self.remember(site.file, site.owner, told[1])
            return Tried(site, "killed", told[1] if len(told) > 1 else FELL, int(told[0] or 0), len(tests))
        if code == NOT_APPLICABLE:
            return Tried(site, "not applicable")
        return Tried(site, "survived", ran=int(told[0] or 0) if code == LIMIT else len(tests), reaching=len(tests))

    def print_room(self, room: str, possible: int, done: list[Tried]) -> None:
        real = [t for t in done if t.outcome != "not applicable"]
        killed = [t for t in real if t.outcome == "killed"]
        print(f"\n{room}: {len(killed)} of {len(real)} caught ({possible} possible)", flush=True)
        for t in real:
            if t.outcome == "survived":
                print(f"  survived {t.ran} of {t.reaching} tests: {t.site.told()}", flush=True)

    def print_table(self, table: list[tuple[str, int, list[Tried]]]) -> None:
        print(f"\nseed {self.options.seed}\n{'room':36} caught  tried  share")
        for room, _, done in table:
            real = [t for t in done if t.outcome != "not applicable"]
            killed = sum(t.outcome == "killed" for t in real)
            if real:
                print(f"{room:36} {killed:6} {len(real):6}  {100 * killed / len(real):4.0f} %")


def main() -> None:
    parser = argparse.ArgumentParser(prog="make mutants", description=__doc__)
    parser.add_argument(
        "--room", default="", help="a folder with those in it, such as zygon/cut, or without them, such as zygon/.; all where none is named"
    )
    parser.add_argument("--since", default="", help="only lines changed since a revision")
    parser.add_argument("--seconds", type=float, default=0, help="for all rooms together")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--most", type=int, default=60, help="mistakes a room")
    parser.add_argument("--each", type=float, default=15, help="seconds for one mistake's tests")
    parser.add_argument("--again", action="store_true", help="only what was not caught in an earlier run; the rest counts as it was found")
    parser.add_argument("--learn", action="store_true", help="find anew which tests reach which lines")
    options = parser.parse_args()
    print(f"seed {options.seed}", flush=True)
    arguments = [
        "tests/core",
        "tests/server",
        "-q",
        "-p",
        "no:testmon",
        "-p",
        "no:cacheprovider",
        "-p",
        "no:xdist",
        "--no-header",
        "--no-summary",
    ]
    pytest.main(arguments, plugins=[Planter(options)])


if __name__ == "__main__":
    main()
