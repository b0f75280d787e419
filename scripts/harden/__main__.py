"""``make harden``: each part prints a line of the table in docs/hardening.md as it ends."""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
import time
from collections.abc import Callable

from scripts.harden.application import ROOT, running
from scripts.harden.calls import calls
from scripts.harden.elsewhere import elsewhere
from scripts.harden.hostile import hostile
from scripts.harden.kills import kills

__all__ = ["main"]


def load() -> str:
    """Twenty makers at once."""
    with running() as application:
        done = subprocess.run([sys.executable, ROOT / "bench" / "load.py", application.base], capture_output=True, text=True, check=True)
    return done.stdout.strip()


def fuzz() -> str:
    """The fuzz tests with ten times as many examples, new ones each time."""
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "-n", "2", "-p", "no:testmon", "tests/fuzz"],
        cwd=ROOT,
        env={**os.environ, "ZYGON_EXPLORE": "1"},
        capture_output=True,
        text=True,
        check=False,
    )
    return (
        "files and edits by chance: "
        + (done.stdout.strip().splitlines() or ["?"])[-1]
        + ("" if done.returncode == 0 else f"\n{done.stdout[-4000:]}")
    )


def main() -> None:
    """Runs the parts that are asked for, or all."""
    parts: dict[str, Callable[[argparse.Namespace], str]] = {
        "load": lambda _: load(),
        "kills": lambda a: kills(a.kills),
        "hostile": lambda a: hostile(a.files),
        "calls": lambda a: calls(a.seconds),
        "fuzz": lambda _: fuzz(),
        "elsewhere": lambda _: elsewhere(),
    }
    parser = argparse.ArgumentParser(prog="harden", description=__doc__)
    parser.add_argument("parts", nargs="*", choices=[[], *parts], default=[], help="all where none is said")
    parser.add_argument("--kills", type=int, default=50)
    parser.add_argument("--files", type=int, default=200)
    parser.add_argument("--seconds", type=int, default=600, help="for calls by chance")
    asked = parser.parse_args()
    for name in asked.parts or parts:
        began = time.monotonic()
        print(f"{parts[name](asked)}  [{time.monotonic() - began:.0f} s]", flush=True)


if __name__ == "__main__":
    main()
