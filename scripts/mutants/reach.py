"""Which tests reach which lines, found by coverage with a context a test, and kept in ``var/mutants`` under the hash of each file."""

from __future__ import annotations

import ast
import hashlib
import pickle
import re
from dataclasses import dataclass, field
from pathlib import Path

from scripts.mutants.sites import Site

__all__ = ["Reach"]


@dataclass
class Reach:
    """``seconds`` a test took, and which failed with no mistake planted (``broken``); for each file its hash, and the tests by line and by function."""

    seconds: dict[str, float] = field(default_factory=dict)
    broken: set[str] = field(default_factory=set)
    hashes: dict[str, str] = field(default_factory=dict)
    #: tests that reached a file as it was before: their lines are not known any more, their functions are
    before: dict[str, set[str]] = field(default_factory=dict)
    lines: dict[str, dict[int, set[str]]] = field(default_factory=dict)
    owners: dict[str, dict[str, set[str]]] = field(default_factory=dict)

    @classmethod
    def kept(cls, path: Path) -> Reach:
        return pickle.loads(path.read_bytes()) if path.exists() else cls()

    def __setstate__(self, kept: dict) -> None:
        # one that was kept by an earlier form of this has fewer fields
        self.__dict__.update(vars(Reach()) | kept)

    def keep(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(pickle.dumps(self))

    def learn(self, data, root: Path) -> None:
        """Takes over what ``coverage.CoverageData`` knows."""
        for name in data.measured_files():
            path = Path(name)
            if not path.is_relative_to(root):
                continue
            file = str(path.relative_to(root))
            source = path.read_bytes()
            digest = hashlib.sha1(source, usedforsecurity=False).hexdigest()
            if self.hashes.get(file) != digest:
                self.lines[file], self.owners[file] = {}, {}
                self.hashes[file] = digest
            spans = _spans(source)
            for line, tests in data.contexts_by_lineno(name).items():
                reached = {t for t in tests if t}
                self.lines[file].setdefault(line, set()).update(reached)
                for owner, first, last in spans:
                    if first < line <= last:
                        self.owners[file].setdefault(owner, set()).update(reached)

    def join(self, other: Reach) -> None:
        """Takes over what was found later, in a child; lines of files that have changed since are forgotten, functions are not."""
        self.seconds |= other.seconds
        self.broken |= other.broken
        for file, digest in other.hashes.items():
            if self.hashes.get(file) != digest:
                known = self.lines.get(file, {})
                self.before.setdefault(file, set()).update(*known.values())
                self.lines[file] = {}
                self.hashes[file] = digest
            for line, tests in other.lines[file].items():
                self.lines[file].setdefault(line, set()).update(tests)
            for owner, tests in other.owners[file].items():
                self.owners.setdefault(file, {}).setdefault(owner, set()).update(tests)
            self.before.get(file, set()).difference_update(other.seconds)

    def tests(self, site: Site, root: Path) -> set[str]:
        """The tests that reach a mistake: by its line where the file is as it was, by its function where it changed; those of a constant, by its file."""
        source = (root / site.file).read_bytes()
        owners = self.owners.get(site.file, {})
        if site.scope == "constant":
            return self._naming(site.owner, root) or set().union(*owners.values())
        same = self.hashes.get(site.file) == hashlib.sha1(source, usedforsecurity=False).hexdigest()
        if same:
            # a statement over several lines is told by its first one
            first = max((first for first in _statements(source) if first <= site.line), default=site.line)
            found = self.lines[site.file].get(site.line, set()) | self.lines[site.file].get(first, set())
            if site.scope == "function":
                return found | (owners.get(site.owner, set()) & self.before.get(site.file, set()))
        return owners.get(site.owner, set()) or owners.get(site.owner.rpartition(".")[0], set())

    def _naming(self, constant: str, root: Path) -> set[str]:
        """The tests that reach a line in which a constant is named, in whichever file; in one that has changed, those of its functions that name it."""
        found: set[str] = set()
        for file, lines in self.lines.items():
            source = (root / file).read_bytes() if (root / file).exists() else b""
            if constant.encode() not in source:
                continue
            told = source.decode().splitlines()
            if self.hashes.get(file) == hashlib.sha1(source, usedforsecurity=False).hexdigest():
                statements = sorted(_statements(source))
                for n, line in enumerate(told, 1):
                    if _names(line, constant):
                        # a statement over several lines is told by its first one
                        first = max((s for s in statements if s <= n), default=n)
                        found |= lines.get(n, set()) | lines.get(first, set())
                continue
            for owner, first, last in _spans(source):
                if any(_names(line, constant) for line in told[first - 1 : last]):
                    found |= self.owners.get(file, {}).get(owner, set())
        return found


def _names(line: str, name: str) -> bool:
    return re.search(rf"\b{re.escape(name)}\b", line) is not None


def _spans(source: bytes) -> list[tuple[str, int, int]]:
    """Qualified name, first and last line of each function."""
    found: list[tuple[str, int, int]] = []

    def walk(node: ast.AST, owner: str) -> None:
        for child in ast.iter_child_nodes(node):
            name = f"{owner}.{child.name}".lstrip(".") if isinstance(child, ast.FunctionDef | ast.ClassDef) else owner
            if isinstance(child, ast.FunctionDef):
                found.append((name, child.lineno, child.end_lineno or child.lineno))
            walk(child, name)

    walk(ast.parse(source), "")
    return found


def _statements(source: bytes) -> list[int]:
    return [n.lineno for n in ast.walk(ast.parse(source)) if isinstance(n, ast.stmt)]
