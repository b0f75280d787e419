"""Starts the whole application for the demo, keeps it going, and prints the address."""

from __future__ import annotations

import os
import socket
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "server"))

from zygon_server.keeping.running import RunsAlreadyError, alone  # noqa: E402
from zygon_supervisor.__main__ import run  # noqa: E402

FIRST_PORT = 8460


def free_port(first: int) -> int:
    """``first``, or the next port that nothing listens on."""
    for port in range(first, first + 50):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise SystemExit(f"No free port from {first} to {first + 49} on 127.0.0.1.")


def main() -> None:
    """Runs until it is stopped."""
    try:
        with alone():
            pass
    except RunsAlreadyError as error:
        raise SystemExit(f"\n  {error}\n") from None
    port = free_port(int(os.environ.get("ZYGON_PORT", FIRST_PORT)))
    os.environ["ZYGON_DEMO"] = "1"
    if "ZYGON_MACHINES" not in os.environ:  # a simulated laser and router, faster than in truth
        laser = free_port(port + 1)
        os.environ |= {"ZYGON_MACHINES": f"laser=127.0.0.1:{laser},router=127.0.0.1:{free_port(laser + 1)}", "ZYGON_SIMULATED": "1"}
        os.environ.setdefault("ZYGON_MACHINE_SPEED", "10")
    print(f"\n  Zygon is at http://127.0.0.1:{port}/   (stop it with Ctrl-C)\n", flush=True)
    run(port)


if __name__ == "__main__":
    main()
