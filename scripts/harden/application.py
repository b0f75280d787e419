"""The whole application on a folder and a port of its own, with the demo in it, for as long as it is wanted; and makers at work in it."""

from __future__ import annotations

import json
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import httpx

__all__ = ["ROOT", "Application", "Maker", "running"]

ROOT = Path(__file__).resolve().parents[2]
SERVER = ROOT / "server"
#: So long it is waited for.
PATIENCE = 60.0


class Application:
    """What runs: its address, its folder, and its processes by name."""

    def __init__(self, base: str, folder: Path, log: Path, process: subprocess.Popen) -> None:
        self.base, self.folder, self.log, self.process = base, folder, log, process

    def pids(self) -> dict[str, int]:
        """The number of each process, as the supervisor said last."""
        found = {}
        for line in self.log.read_text().splitlines():
            if '"child"' in line:
                told = json.loads(line)
                if "pid" in told and told.get("message", "").endswith("started"):
                    found[told["child"]] = told["pid"]
        return found

    def ready(self) -> None:
        """Waits until it answers."""
        until = time.monotonic() + PATIENCE
        while time.monotonic() < until:
            try:
                if httpx.get(f"{self.base}/health", timeout=5, trust_env=False).status_code == 200:
                    return
            except httpx.HTTPError:
                pass
            time.sleep(0.2)
        raise SystemExit(f"It did not come up; see {self.log}.")


@contextmanager
def running(**env: str) -> Iterator[Application]:
    """Starts it, with ``env`` on top, and stops it afterwards."""
    with tempfile.TemporaryDirectory(prefix="zygon-harden-") as name, socket.socket() as probe:
        folder, log = Path(name), Path(name) / "log"
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
        probe.close()
        whole = {**os.environ, "ZYGON_VAR": str(folder / "var"), "ZYGON_DEMO": "1", "PYTHONPATH": str(SERVER), **env}
        for command in ("upgrade -v 0", "load_demo --no-layouts"):
            subprocess.run([sys.executable, SERVER / "manage.py", *command.split()], env=whole, check=True, stdout=subprocess.DEVNULL)
        with log.open("w") as out:
            process = subprocess.Popen(
                [sys.executable, "-m", "zygon_supervisor", "--port", str(port)],
                env=whole,
                cwd=SERVER,
                stdout=out,
                stderr=out,
                start_new_session=True,
            )
        found = Application(f"http://127.0.0.1:{port}", folder / "var", log, process)
        try:
            found.ready()
            yield found
        finally:
            process.send_signal(signal.SIGTERM)
            process.wait(timeout=60)


class Maker:
    """A browser's session in the demo workshop, without a browser."""

    def __init__(self, base: str, timeout: float = 60.0) -> None:
        self.client = httpx.Client(base_url=base, timeout=timeout, trust_env=False)
        self.base = base
        self.client.get("/")
        self.client.post("/api/session/demo", headers=self.proof()).raise_for_status()

    def proof(self, **more: str) -> dict[str, str]:
        """The headers that a request which changes something carries."""
        return {"X-CSRFToken": self.client.cookies["csrftoken"], "Referer": self.base, **more}

    def post(self, path: str, body: object = None, **headers: str) -> httpx.Response:
        """One call of the API."""
        return self.client.post(f"/api{path}", json=body if body is not None else {}, headers=self.proof(**headers))

    def copied(self, name: str) -> str:
        """A design of this maker's own, like one of the demo."""
        designs = self.client.get("/api/designs").json()
        answer = self.post(f"/designs/{next(d['id'] for d in designs if d['name'] == name)}/copy")
        answer.raise_for_status()
        return str(answer.json()["id"])
