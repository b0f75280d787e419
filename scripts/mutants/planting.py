"""Plants a mistake in the running process: functions get other code, constants other values. Nothing is written, so a forked child is thrown away after it."""

from __future__ import annotations

import ast
import functools
import gc
import sys
import types
from pathlib import Path

from scripts.mutants.sites import Site
from zygon.memo import Memo

__all__ = ["NotApplicable", "known_functions", "plant"]

#: Live functions by file and qualified name.
Functions = dict[tuple[str, str], list[types.FunctionType]]


class NotApplicable(Exception):
    """The mistake cannot be planted: its text does not compile, or what it is in is not alive."""


def known_functions(root: Path) -> Functions:
    """All functions of the root's files that are alive, those behind decorators and properties too."""
    found: Functions = {}
    gc.unfreeze()  # what the tests have put aside for the whole run is not among the objects that are told
    for item in gc.get_objects():
        if type(item) is types.FunctionType and item.__code__.co_filename.startswith(str(root)):
            found.setdefault((item.__code__.co_filename, item.__code__.co_qualname), []).append(item)
    return found


def plant(site: Site, root: Path, functions: Functions) -> None:
    """Changes what is alive; what was remembered of earlier results is forgotten."""
    path = str(root / site.file)
    source = (root / site.file).read_bytes()
    changed = site.changed(source)
    try:
        code = compile(changed, path, "exec", dont_inherit=True)
    except SyntaxError as error:
        raise NotApplicable(str(error)) from error
    if site.scope == "constant":
        _new_constant(site, path, changed)
    else:
        _new_code(site, path, code, functions)
    for item in gc.get_objects():
        if type(item) is functools._lru_cache_wrapper:
            item.cache_clear()
        elif type(item) is Memo:
            item._kept.clear()


def _code_of(code: types.CodeType, owner: str) -> list[types.CodeType]:
    """The code of a function in its module's code, by qualified name; several where it is said twice."""
    found = [code] if code.co_qualname == owner else []
    return found + [c for inner in code.co_consts if isinstance(inner, types.CodeType) for c in _code_of(inner, owner)]


def _new_code(site: Site, path: str, code: types.CodeType, functions: Functions) -> None:
    """``owner`` is a function of a module or of a class; what is nested in it goes with it."""
    _inner(site, path, code, functions)
    owner = site.owner
    while not _code_of(code, owner):
        owner = owner.rpartition(".")[0]
        if not owner:
            raise NotApplicable("no such function")
    done = 0
    for new in _code_of(code, owner):
        for function in functions.get((path, owner), []):
            if function.__code__.co_firstlineno != new.co_firstlineno:
                continue
            if site.scope == "default":
                _new_default(site, function)
            else:
                try:
                    function.__code__ = new
                except ValueError as error:
                    raise NotApplicable(str(error)) from error
            done += 1
    if not done:
        raise NotApplicable("not alive")


def _inner(site: Site, path: str, code: types.CodeType, functions: Functions) -> None:
    """Functions that were made within another one which ran long ago, such as handlers that it registered."""
    for (file, name), alive in functions.items():
        if file != path or "<locals>" not in name or name.replace("<locals>.", "") != site.owner:
            continue
        for new in _code_of(code, name):
            for function in alive:
                if function.__code__.co_firstlineno == new.co_firstlineno and function.__code__.co_freevars == new.co_freevars:
                    function.__code__ = new


def _new_default(site: Site, function: types.FunctionType) -> None:
    tree = ast.parse(site.changed(Path(function.__code__.co_filename).read_bytes()))
    name = function.__name__
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef) and node.name == name and node.lineno <= site.line <= (node.end_lineno or 0):
            scope = function.__globals__
            values = [eval(compile(ast.Expression(d), "default", "eval"), scope) for d in node.args.defaults]
            keywords = {
                a.arg: eval(compile(ast.Expression(d), "default", "eval"), scope)
                for a, d in zip(node.args.kwonlyargs, node.args.kw_defaults, strict=True)
                if d
            }
            function.__defaults__ = tuple(values) or None
            function.__kwdefaults__ = keywords or None


def _new_constant(site: Site, path: str, changed: bytes) -> None:
    """The new value in its module, and wherever the old one was imported by its name."""
    module = next((m for m in list(sys.modules.values()) if getattr(m, "__file__", None) == path), None)
    if module is None or not hasattr(module, site.owner):
        raise NotApplicable("not alive")
    for node in ast.parse(changed).body:
        target = node.targets[0] if isinstance(node, ast.Assign) else node.target if isinstance(node, ast.AnnAssign) else None
        if isinstance(target, ast.Name) and target.id == site.owner and node.lineno <= site.line <= (node.end_lineno or 0):
            old = getattr(module, site.owner)
            try:
                new = eval(compile(ast.Expression(node.value), path, "eval"), vars(module))  # type: ignore[union-attr, arg-type]
            except Exception as error:
                raise NotApplicable(str(error)) from error
            for other in list(sys.modules.values()):
                names = getattr(other, "__dict__", {})
                if names.get(site.owner, None) is old:
                    names[site.owner] = new
            return
    raise NotApplicable("no such constant")
