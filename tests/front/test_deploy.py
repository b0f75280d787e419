"""The production set holds together: what its files name is there, and the application starts as they say."""

import configparser
import json
import os
import re
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

ROOT = Path(__file__).parents[2]
DEPLOY = ROOT / "deploy"


def environment() -> dict[str, str]:
    lines = [x for x in (DEPLOY / "zygon.env").read_text().splitlines() if x and not x.startswith("#")]
    return dict(x.split("=", 1) for x in lines)


def test_what_the_unit_names_is_there():
    unit = configparser.RawConfigParser(strict=False)
    unit.optionxform = str  # type: ignore[assignment, method-assign]
    unit.read(DEPLOY / "zygon.service")
    service = unit["Service"]
    assert service["EnvironmentFile"] == "/etc/zygon.env" and service["ReadWritePaths"] == environment()["ZYGON_VAR"]
    assert service["Restart"] == "always" and service["KillMode"] == "mixed"
    assert re.fullmatch(r"/opt/zygon/\.venv/bin/python -m zygon_supervisor --port 8460", service["ExecStart"])
    assert "proxy_pass http://127.0.0.1:8460;" in (DEPLOY / "proxy.conf").read_text()
    guide = (DEPLOY / "README.md").read_text()
    assert all(f"deploy/{p.name}" in guide for p in DEPLOY.iterdir() if p.name != "README.md")


def test_every_word_of_the_environment_is_read_by_the_application():
    sources = "".join(p.read_text() for p in (ROOT / "server").rglob("*.py"))
    assert all(f'"{name}"' in sources for name in environment())


def test_it_starts_as_the_unit_says_and_stops_whole(tmp_path):
    """Behind a proxy that speaks HTTPS; what comes without is sent there. All processes beat, and none is left when it is told to stop."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    env = {**os.environ, **environment(), "ZYGON_VAR": str(tmp_path / "var"), "PYTHONPATH": str(ROOT / "server"), "ZYGON_CORES": "1"}
    env.pop("DJANGO_SETTINGS_MODULE", None)
    subprocess.run([sys.executable, ROOT / "server" / "manage.py", "migrate", "--noinput", "-v", "0", "--skip-checks"], env=env, check=True)
    with (tmp_path / "log").open("w") as log:
        process = subprocess.Popen(
            [sys.executable, "-m", "zygon_supervisor", "--port", str(port)], env=env, stdout=log, stderr=log, cwd=ROOT
        )
    try:
        health = ask(port, "/health")
        until = time.monotonic() + 60
        while health[1].get("workers") != 4 and time.monotonic() < until:
            health = ask(port, "/health")
        assert health == (200, {"well": True, "wrong": [], "workers": 4, "room_mb": health[1]["room_mb"]})
        assert ask(port, "/api/session", **{"X-Forwarded-Proto": "https"})[1] == {"user": "", "demo": False, "password": False}
        assert ask(port, "/api/session")[0] == 301
    finally:
        process.send_signal(signal.SIGTERM)
        assert process.wait(timeout=30) == 0
    pids = [json.loads(x)["pid"] for x in (tmp_path / "log").read_text().splitlines() if x.startswith("{") and '"pid"' in x]
    assert len(pids) >= 6 and not any(Path(f"/proc/{pid}").exists() for pid in pids)


class Still(urllib.request.HTTPRedirectHandler):
    def redirect_request(self, *_):
        return None


def ask(port: int, path: str, **headers: str) -> tuple[int, dict]:
    """Status and JSON; asked again while nobody listens yet."""
    request = urllib.request.Request(f"http://127.0.0.1:{port}{path}", headers={"Host": "127.0.0.1", **headers})
    until = time.monotonic() + 60
    while True:
        try:
            with urllib.request.build_opener(Still).open(request, timeout=60) as answer:
                return answer.status, json.loads(answer.read())
        except urllib.error.HTTPError as error:
            with error:
                body = error.read()
            return error.code, json.loads(body) if body.startswith(b"{") else {}
        except (ConnectionError, urllib.error.URLError):
            assert time.monotonic() < until


def test_a_folder_is_worked_on_by_one_application_at_a_time(tmp_path):
    """A second one says so and leaves the first alone; once that is gone, however it went, the folder is free."""
    env = {**os.environ, "ZYGON_VAR": str(tmp_path / "var"), "PYTHONPATH": str(ROOT / "server")}
    holds = [
        sys.executable,
        "-c",
        "from zygon_server.keeping.running import alone\nwith alone():\n    print('in', flush=True)\n    input()",
    ]
    with subprocess.Popen(holds, env=env, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as first:
        assert first.stdout.readline() == "in\n"
        for second in ([sys.executable, "-m", "zygon_supervisor", "--port", "1"], [sys.executable, ROOT / "scripts" / "demo.py"]):
            done = subprocess.run(second, env=env, capture_output=True, text=True, check=False, timeout=60)
            assert done.returncode == 1 and f"Zygon runs on {tmp_path / 'var'}; stop it first." in done.stderr and not done.stdout
        first.kill()
    done = subprocess.run(
        [*holds[:2], "from zygon_server.keeping.running import alone\nwith alone():\n    print('free')"],
        env=env,
        capture_output=True,
        text=True,
        check=True,
    )
    assert done.stdout == "free\n"
