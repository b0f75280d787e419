"""Nothing outside the document's own room asks for the class of a part's record: what matters of a part is asked for instead."""

import ast
from pathlib import Path

import zygon
from zygon.design.parts.kinds import PlacedKind, is_placed

ROOT = Path(zygon.__file__).parents[1]
KINDS = {"Board", "FoldedPart", "BoughtPart", "HardwarePart", "Connector", "Item", "Member", "Rod", "TurnedPart"}
MODULES = [p for p in (*ROOT.glob("zygon/**/*.py"), *ROOT.glob("server/zygon_server/**/*.py")) if "zygon/design/" not in p.as_posix()]


def test_no_module_names_the_class_of_a_kind():
    assert len(MODULES) > 200
    named = {
        str(path.relative_to(ROOT)): KINDS & {alias.name for alias in node.names}
        for path in MODULES
        for node in ast.walk(ast.parse(path.read_bytes()))
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("zygon.design")
    }
    assert not {path: kinds for path, kinds in named.items() if kinds}


def test_what_is_placed_is_every_kind_with_a_place():
    assert {k.__name__ for k in PlacedKind.__args__} == KINDS - {"Item"}
    assert not is_placed(None)


def test_nothing_is_asked_of_what_may_not_be_there():
    """What a part of one kind alone has is asked of that kind; the type checker is told nowhere to look away."""
    away = "type: ignore[" + "union-attr"
    assert [str(p.relative_to(ROOT)) for p in MODULES if away in p.read_text()] == []
