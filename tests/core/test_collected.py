"""Every folder of tests is looked into: none has a name that pytest passes over."""

from fnmatch import fnmatch
from pathlib import Path


def test_no_folder_of_tests_is_passed_over(pytestconfig):
    tests = Path(__file__).parents[1]
    passed_over = pytestconfig.getini("norecursedirs")
    folders = {f.parent for f in tests.rglob("test_*.py")}
    names = {part for folder in folders for part in folder.relative_to(tests).parts}
    assert {"making", "joints", "assembly"} <= names
    assert not [n for n in names for pattern in passed_over if fnmatch(n, pattern)]


def test_make_check_picks_the_tests_that_a_change_reaches():
    """testmon switches its selection off without a word that is heard where tests are chosen by mark or by name."""
    (line,) = [x for x in (Path(__file__).parents[2] / "Makefile").read_text().splitlines() if "--testmon" in x]
    assert not {"-m", "-k", "--lf"} & set(line.partition("-m pytest")[2].split())
