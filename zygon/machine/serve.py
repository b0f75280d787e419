"""The simulated machine as a process that listens on a port of 127.0.0.1."""

from __future__ import annotations

import os
import socketserver
import threading
import time
from pathlib import Path

from zygon.machine.journal import Journal
from zygon.machine.protocol import answer
from zygon.machine.simulated import Kind, MachineError, Simulated
from zygon.program.timed import Machine

__all__ = ["serve"]

#: It goes on so often (s).
TICK = 0.02
#: Longer lines are no commands.
LONGEST = 4096


class _Served(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True


def serve(port: int, journal: Path, machine: Machine, speed: float = 1.0, name: str = "Machine", kind: Kind = "beam") -> None:
    """Listens until it is stopped; ``speed`` is how much faster than in truth it goes."""
    kept = Journal(journal)
    kept.settle()
    simulated, lock = Simulated(machine, kept, name, kind), threading.Lock()
    factor = [speed]

    def switched(what: str, value: str) -> None:
        if what == "power":
            os._exit(70)  # as when the plug is pulled: nothing is put in order
        try:
            factor[0] = float(value)
        except ValueError:
            raise MachineError(
                f"“{value[:40]}” is no speed", entry="speed", value=value[:40], rule="a number", code="bad_command"
            ) from None

    class Handler(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            while raw := self.rfile.readline(LONGEST):
                with lock:
                    said = answer(simulated, raw.decode("utf-8", "replace"), switched, factor[0])
                self.wfile.write(f"{said}\n".encode())

    def going() -> None:
        before = time.monotonic()
        while True:
            time.sleep(TICK)
            now = time.monotonic()
            with lock:
                simulated.advance((now - before) * factor[0])
            before = now

    with _Served(("127.0.0.1", port), Handler) as server:
        threading.Thread(target=going, daemon=True).start()
        server.serve_forever(poll_interval=0.2)
