"""``python -m zygon_supervisor --port 8460``: the whole application, kept going until it is told to stop."""

from __future__ import annotations

import argparse
import tempfile
from pathlib import Path

from zygon_log import set_up
from zygon_server.keeping.running import RunsAlreadyError, alone

from zygon_supervisor.children import keep_going
from zygon_supervisor.processes import processes

__all__ = ["main", "run"]


def run(port: int, host: str = "127.0.0.1") -> None:
    """Runs until it is stopped."""
    set_up()
    try:
        with alone(), tempfile.TemporaryDirectory(prefix="zygon-") as sockets:
            keep_going(processes(port, Path(sockets), host))
    except RunsAlreadyError as error:
        raise SystemExit(str(error)) from None


def main() -> None:
    parser = argparse.ArgumentParser(prog="zygon_supervisor", description=__doc__)
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8460)
    asked = parser.parse_args()
    run(asked.port, asked.host)


if __name__ == "__main__":
    main()
