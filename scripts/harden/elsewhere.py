"""The same with the database and the queue on servers of their own: Debian's PostgreSQL and Redis on loopback, several workers, Redis killed in mid search."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import httpx

from scripts.harden.application import ROOT, Application, Maker, running

__all__ = ["elsewhere"]

POSTGRES = Path("/usr/lib/postgresql")
#: What is asked of a search here, seconds.
SEARCH = 6.0


def elsewhere() -> str:
    """The lines of the table."""
    _installed()
    lines = []
    with postgres() as database, Redis() as redis:
        env = {"ZYGON_DATABASE": database, "ZYGON_QUEUE": redis.url}
        done = subprocess.run(
            [sys.executable, "-m", "pytest", "-q", "-n", "2", "-p", "no:testmon", "tests/server"],
            cwd=ROOT,
            env={**os.environ, **env},
            capture_output=True,
            text=True,
            check=False,
        )
        said = [line for line in done.stdout.splitlines() if " passed" in line or line.startswith("FAILED")]
        lines.append(f"the server's tests on PostgreSQL: {'; '.join(said) or done.stdout[-2000:]}")
        for workers in (1, 2, 4):
            with running(**env) as application, _workers(application, workers, env):
                lines.append(_searches(application, workers))
        with running(**env) as application:
            lines.append(_without_redis(application, redis))
    return "\n".join(lines)


def _installed() -> None:
    missing = [p for p, there in (("postgresql", POSTGRES.exists()), ("redis-server", shutil.which("redis-server"))) if not there]
    if missing:
        subprocess.run(["apt-get", "install", "-y", "-q", *missing], check=True, stdout=subprocess.DEVNULL)


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@contextmanager
def postgres() -> Iterator[str]:
    """A server of its own; its address."""
    bin_, port = max(POSTGRES.iterdir()) / "bin", _free_port()
    with tempfile.TemporaryDirectory(prefix="zygon-pg-") as folder:
        # it will not run as root
        as_user = ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []
        if as_user:
            shutil.chown(folder, "postgres")
        subprocess.run(
            [*as_user, bin_ / "initdb", "-D", f"{folder}/data", "-A", "trust", "-U", "zygon"],
            check=True,
            stdout=subprocess.DEVNULL,
            cwd="/",
        )
        server = subprocess.Popen(
            [*as_user, bin_ / "postgres", "-D", f"{folder}/data", "-p", str(port), "-k", folder, "-h", "127.0.0.1", "-c", "fsync=off"],
            cwd="/",
            stderr=subprocess.DEVNULL,
        )
        try:
            for _ in range(100):
                if (
                    subprocess.run(
                        [*as_user, bin_ / "createdb", "-h", "127.0.0.1", "-p", str(port), "-U", "zygon", "zygon"],
                        cwd="/",
                        capture_output=True,
                        check=False,
                    ).returncode
                    == 0
                ):
                    break
                time.sleep(0.2)
            yield f"postgresql://zygon@127.0.0.1:{port}/zygon"
        finally:
            server.terminate()
            server.wait(timeout=30)


class Redis:
    """A server of its own, which may be killed and started again with nothing in it."""

    def __init__(self) -> None:
        self.port = _free_port()
        self.url = f"redis://127.0.0.1:{self.port}/0"

    def __enter__(self) -> Redis:
        self.start()
        return self

    def __exit__(self, *_) -> None:
        self.kill()

    def start(self) -> None:
        """Empty."""
        self.process = subprocess.Popen(
            ["redis-server", "--port", str(self.port), "--bind", "127.0.0.1", "--save", "", "--appendonly", "no"], stdout=subprocess.DEVNULL
        )

    def kill(self) -> None:
        """At once, with all that it holds."""
        self.process.kill()
        self.process.wait()


@contextmanager
def _workers(application: Application, count: int, env: dict[str, str]) -> Iterator[None]:
    """Searches are worked by so many in all, beside the two of the application; the others have folders of their own, as on other machines."""
    more = []
    for n in range(max(count - 2, 0)):
        folder = application.folder.parent / f"other-{n}"
        whole = {**os.environ, **env, "ZYGON_VAR": str(folder), "PYTHONPATH": str(ROOT / "server")}
        more.append(
            subprocess.Popen(
                [sys.executable, ROOT / "server" / "manage.py", "work_queue", f"other-{n}"],
                env=whole,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
            )
        )
    try:
        yield
    finally:
        for process in more:
            process.kill()
            process.wait()


def _ended(maker: Maker, design: str, patience: float) -> dict:
    until = time.monotonic() + patience
    while True:
        try:
            run = maker.client.get(f"/api/designs/{design}/nest").json()["run"]
            if run and not run["quick"] and run["status"] in ("done", "failed", "cancelled"):
                return run
        except (httpx.HTTPError, KeyError, ValueError):
            pass
        if time.monotonic() > until:
            return {"status": "never ended"}
        time.sleep(0.3)


def _searches(application: Application, workers: int) -> str:
    """Four makers' worth of designs searched side by side."""
    maker = Maker(application.base)
    designs = [maker.copied("Brood box") for _ in range(3)]
    began = time.monotonic()
    for design in designs:
        maker.post(f"/designs/{design}/nest", {"quick": False, "seconds": SEARCH}).raise_for_status()
    found: list[str] = []
    waits = [threading.Thread(target=lambda d=d: found.append(_ended(maker, d, 120)["status"])) for d in designs]
    for wait in waits:
        wait.start()
    for wait in waits:
        wait.join()
    return f"three searches of {SEARCH:g} s a stock with {max(workers, 2)} workers on Redis and PostgreSQL: {', '.join(sorted(found))} after {time.monotonic() - began:.0f} s"


def _without_redis(application: Application, redis: Redis) -> str:
    """The queue dies with all that it holds while a search is on and another one waits."""
    maker = Maker(application.base)
    one, two = maker.copied("Brood box"), maker.copied("Brood box")
    maker.post(f"/designs/{one}/nest", {"quick": False, "seconds": SEARCH}).raise_for_status()
    time.sleep(2.5)
    redis.kill()
    asked = maker.post(f"/designs/{two}/nest", {"quick": False, "seconds": SEARCH}).status_code
    time.sleep(2)
    redis.start()
    status = [_ended(maker, d, 180)["status"] for d in (one, two)]
    layouts = [len(maker.client.get(f"/api/designs/{d}/nest").json()["stocks"]) for d in (one, two)]
    return f"Redis killed in mid search and started again empty: a run asked for meanwhile was answered with {asked}; the runs ended {' and '.join(status)}, with {layouts} stocks laid out"
