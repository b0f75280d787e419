"""Every folder of tests is looked into: none has a name that pytest passes over."""

from fnmatch import fnmatch
from pathlib import Path


def test_no_folder_of_tests_is_passed_over(pytestconfig):
    tests = Path(__file__).parents[1]
    passed_over = pytestconfig.getini("norecursedirs")
    folders = {f.parent for f in tests.rglob("test_*.py")}
    names = {part for folder in folders for part in folder.relative_to(tests).parts}
    assert {"build", "joints", "assembly"} <= names
    assert not [n for n in names for pattern in passed_over if fnmatch(n, pattern)]
