"""Starts the web process and the nesting worker together, stops them together, and prints the address."""

from __future__ import annotations

import os
import socket
import sys
from pathlib import Path

from honcho.manager import Manager

ROOT = Path(__file__).resolve().parents[1]
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
    port = free_port(int(os.environ.get("ZYGON_PORT", FIRST_PORT)))
    bin_ = Path(sys.executable).parent
    env = {**os.environ, "ZYGON_DEMO": "1", "PYTHONUNBUFFERED": "1", "DJANGO_SETTINGS_MODULE": "zygon_server.settings"}
    server = ROOT / "server"
    manager = Manager()
    # connections stay open longer than a client keeps them unused: the two seconds that are usual end some just as they are taken up again
    manager.add_process(
        "web",
        f"exec {bin_}/gunicorn zygon_server.wsgi --bind 127.0.0.1:{port} --worker-class gthread --threads 8 --keep-alive 75 --log-level warning",
        env=env,
        cwd=str(server),
    )
    # low priority, so that a search never makes a drag stutter; searches of two makers run side by side, and never before a quick run
    for name, queue, look in (("quick", "quick", 0.2), ("search-1", "default", 1.0), ("search-2", "default", 1.0)):
        # the checks load all that the web process needs: the quick worker is the better for it, the others start in a quarter of the time without
        checks = "" if queue == "quick" else "--skip-checks"
        work = f"exec nice -n 15 {bin_}/python manage.py db_worker {checks} --interval {look} --queue-name {queue}"
        manager.add_process(name, work, env=env, cwd=str(server))
    # takes runs whose worker died up again
    manager.add_process(
        "reclaim", f"exec nice -n 15 {bin_}/python manage.py reclaim_runs --skip-checks --every 5", env=env, cwd=str(server)
    )
    print(f"\n  Zygon is at http://127.0.0.1:{port}/   (stop it with Ctrl-C)\n", flush=True)
    manager.loop()
    sys.exit(manager.returncode)


if __name__ == "__main__":
    main()
