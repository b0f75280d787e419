"""Which processes make the application: its front door, those that work on designs, and those that work in the background."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from zygon_server.local import VAR
from zygon_server.machine_addresses import read_machines

from zygon_supervisor.children import Child

__all__ = ["SIMULATED", "cores", "processes", "simulated_machines"]

SERVER = Path(__file__).resolve().parents[1]
#: The machines that ship with the application, with how they are built.
SIMULATED = {
    "laser": ["--name", "Laser", "--kind", "beam", "--bed", "1300x1250", "--rapid", "350", "--acceleration", "3000"],
    "router": ["--name", "Router", "--kind", "bit", "--bed", "1300x1250", "--rapid", "120", "--acceleration", "500"],
}


def cores() -> int:
    """How many processes work on designs: two, or as many as the machine has processors, up to four; ``ZYGON_CORES`` says otherwise."""
    return int(os.environ.get("ZYGON_CORES", "0")) or min(4, max(2, os.cpu_count() or 1))


def processes(port: int, sockets: Path, host: str = "127.0.0.1") -> list[Child]:
    """All of them; ``sockets`` is a folder with a short path, which the system's names of sockets need."""
    bin_ = Path(sys.executable).parent
    env = {"PYTHONUNBUFFERED": "1", "DJANGO_SETTINGS_MODULE": "zygon_server.settings"}
    paths = [sockets / f"core-{n}.sock" for n in range(cores())]
    behind = ["--behind-proxy"] if os.environ.get("ZYGON_BEHIND_PROXY") == "1" else []
    front = Child("front", [sys.executable, "-m", "zygon_front", "--host", host, "--port", str(port), *behind, *paths], env, SERVER)
    work = [
        Child(
            f"core-{n}",
            [
                bin_ / "gunicorn",
                "zygon_server.wsgi",
                "--bind",
                f"unix:{path}",
                "--worker-class",
                "gthread",
                "--threads",
                "8",
                "--keep-alive",
                "75",
                "--log-level",
                "warning",
                "--timeout",
                "120",
                "--limit-request-line",
                "8190",
            ],
            env,
            SERVER,
        )
        for n, path in enumerate(paths)
    ]
    # low priority, so that a search never makes a drag stutter; searches of two makers run side by side, and never before a quick run
    manage = [sys.executable, "manage.py"]
    behind_it = [
        # the checks load all that the web process needs: the quick worker is the better for it, the others start in a quarter of the time without
        Child("quick", [*manage, "work_queue", "quick", "--interval", "0.2", "--queue-name", "quick"], env, SERVER, 15),
        Child(
            "search-1", [*manage, "work_queue", "search-1", "--skip-checks", "--interval", "1", "--queue-name", "default"], env, SERVER, 15
        ),
        Child(
            "search-2", [*manage, "work_queue", "search-2", "--skip-checks", "--interval", "1", "--queue-name", "default"], env, SERVER, 15
        ),
        # takes runs whose worker died up again
        Child("reclaim", [*manage, "reclaim_runs", "--skip-checks", "--every", "5"], env, SERVER, 15),
    ]
    if os.environ.get("ZYGON_MACHINES"):
        # takes over what they say, whether or not anybody looks at them
        behind_it.append(Child("watch", [*manage, "watch_machines", "--skip-checks"], env, SERVER))
    return [front, *work, *behind_it, *simulated_machines()]


def simulated_machines() -> list[Child]:
    """With ``ZYGON_SIMULATED=1`` a simulated machine at each address of ``ZYGON_MACHINES`` that is one of ours; they go ``ZYGON_MACHINE_SPEED`` times as fast as in truth."""
    if os.environ.get("ZYGON_SIMULATED") != "1":
        return []
    speed = os.environ.get("ZYGON_MACHINE_SPEED", "1")
    found = []
    for name, (_, port) in read_machines(os.environ.get("ZYGON_MACHINES", "")).items():
        if name in SIMULATED:
            command = [sys.executable, "-m", "zygon.cli", "machine", "--port", str(port), "--speed", speed]
            journal = VAR / "machines" / f"{name}.jsonl"
            found.append(
                Child(f"machine-{name}", [*command, "--journal", str(journal), *SIMULATED[name]], {"PYTHONUNBUFFERED": "1"}, SERVER.parent)
            )
    return found
