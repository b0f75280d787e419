"""The front door with processes of a test's own behind it: what is slow, half, too large or cut off costs nobody else anything."""

from __future__ import annotations

import asyncio
import json
import socket
import threading
import time
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory

import httpx
import pytest
import uvicorn
from zygon_front import door as room
from zygon_front import patience
from zygon_front.door import Door
from zygon_front.patience import Patient


class Core:
    """A process behind the door: tells what came to it; ``/slow`` takes until it is let go, ``/fell`` hangs up."""

    def __init__(self, number: int) -> None:
        self.number, self.seen, self.cut_off = number, [], 0

    async def __call__(self, scope, receive, send) -> None:
        if scope["type"] != "http":
            return
        body, more = b"", True
        while more:
            message = await receive()
            body, more = body + message.get("body", b""), message.get("more_body", False)
        self.seen.append(scope["path"])
        if scope["path"] == "/slow":
            await receive()  # until the door hangs up
            self.cut_off += 1
            return
        if scope["path"] == "/fell":
            raise SystemExit
        headers = {k.decode(): v.decode() for k, v in scope["headers"]}
        told = {
            "core": self.number,
            "method": scope["method"],
            "path": scope["raw_path"].decode(),
            "query": scope["query_string"].decode(),
            "headers": headers,
            "length": len(body),
        }
        status = 418 if scope["path"] == "/teapot" else 200
        await send(
            {"type": "http.response.start", "status": status, "headers": [(b"content-type", b"application/json"), (b"x-own", b"kept")]}
        )
        await send({"type": "http.response.body", "body": json.dumps(told).encode()})


class Running:
    """Servers on a loop in a thread of their own."""

    def __init__(self) -> None:
        self.loop = asyncio.new_event_loop()
        self.thread = threading.Thread(target=self.loop.run_forever, daemon=True)
        self.thread.start()
        self.servers: list[tuple[uvicorn.Server, object]] = []

    def serve(self, app, **where) -> uvicorn.Server:
        server = uvicorn.Server(uvicorn.Config(app, log_config=None, ws="none", proxy_headers=False, timeout_graceful_shutdown=1, **where))
        server.install_signal_handlers = lambda: None  # type: ignore[attr-defined]
        future = asyncio.run_coroutine_threadsafe(server._serve(), self.loop)
        self.servers.append((server, future))
        while not server.started:
            assert not future.done(), future.exception()
            time.sleep(0.005)
        return server

    def stop(self) -> None:
        for server, _ in reversed(self.servers):
            server.should_exit = True
        for _, future in self.servers:
            future.result(timeout=20)
        self.loop.call_soon_threadsafe(self.loop.stop)
        self.thread.join()
        self.loop.close()


@pytest.fixture
def house(monkeypatch):
    """A door with two processes behind it: its address, the door and the processes."""
    monkeypatch.setattr(patience, "HEAD_SECONDS", 0.6)
    monkeypatch.setattr(room, "PIECE_SECONDS", 0.6)
    monkeypatch.setattr(room, "START_SECONDS", 1.0)
    running, cores = Running(), [Core(0), Core(1)]
    with TemporaryDirectory() as folder:
        paths = [str(Path(folder) / f"{c.number}.sock") for c in cores]
        for core, path in zip(cores, paths, strict=True):
            running.serve(core, uds=path)
        door = Door(paths)
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        running.serve(door, host="127.0.0.1", port=port, http=Patient, lifespan="on")
        yield port, door, cores
        running.stop()


@pytest.fixture
def client(house):
    with httpx.Client(base_url=f"http://127.0.0.1:{house[0]}", timeout=20, trust_env=False) as client:
        yield client


def test_a_request_and_its_answer_go_through_whole(client, house):
    told = client.post(
        "/a%20b/c?x=1&y=%C3%A9", content=b"n" * 700_000, headers={"X-Forwarded-For": "6.6.6.6", "X-Request-Id": "forged", "Cookie": "a=b"}
    )
    assert told.status_code == 200 and told.headers["x-own"] == "kept"
    seen = told.json()
    assert (seen["method"], seen["path"], seen["query"], seen["length"]) == ("POST", "/a%20b/c", "x=1&y=%C3%A9", 700_000)
    headers = seen["headers"]
    assert headers["x-forwarded-for"] == "127.0.0.1" and headers["cookie"] == "a=b" and headers["host"] == f"127.0.0.1:{house[0]}"
    assert len(headers["x-request-id"]) == 16 and headers["content-length"] == "700000"
    assert client.get("/teapot").status_code == 418
    chunked = client.post("/", content=iter([b"ab", b"cde"])).json()
    assert chunked["length"] == 5 and chunked["headers"]["content-length"] == "5" and "transfer-encoding" not in chunked["headers"]


def test_another_proxy_s_word_is_taken_only_where_there_is_one():
    scope = {"headers": [(b"x-forwarded-for", b"6.6.6.6"), (b"x-forwarded-proto", b"https")], "method": "GET", "client": ("9.9.9.9", 1)}
    for behind, address in ((False, b"9.9.9.9"), (True, b"6.6.6.6")):
        headers = dict(Door(["/s"], behind_proxy=behind)._headers(scope, 0, "n"))
        assert headers[b"x-forwarded-for"] == address and (b"x-forwarded-proto" in headers) == behind


def test_a_design_is_always_worked_on_by_the_same_process(client):
    ids = [f"{n:08x}-0000-4000-8000-{n * 7919:012x}" for n in range(40)]
    first = [client.get(f"/api/designs/{i}").json()["core"] for i in ids]
    assert 8 < sum(first) < 32  # both have their share
    for path in ("/edits", "/preview?x=1", "/files/parts/lid"):
        assert [client.get(f"/api/designs/{i}{path}").json()["core"] for i in ids] == first
    assert [client.get(f"/api/designs/{i.upper().replace('-', '')}").json()["core"] for i in ids] == first
    sessions = [client.get("/api/designs", headers={"Cookie": f"x=1; sessionid=s{n}"}).json()["core"] for n in range(40)]
    assert 8 < sum(sessions) < 32


@pytest.mark.parametrize("said", ["by its length", "as it comes"])
def test_what_is_too_large_is_refused_before_it_is_here(client, house, said):
    most = room.MOST_BODY
    assert client.post("/", content=b"n" * most).json()["length"] == most
    content = b"n" * (most + 1) if said == "by its length" else (b"n" * 1_000_000 for _ in range(most // 1_000_000 + 1))
    before = len(house[2][0].seen) + len(house[2][1].seen)
    told = client.post("/", content=content)
    assert told.status_code == 413 and told.json()["code"] == "too_large" and "13 MB" in told.json()["message"]
    assert len(house[2][0].seen) + len(house[2][1].seen) == before


def test_hundreds_of_slow_connections_stop_nobody(client, house):
    """Idle, with half a head, with half a body: others are answered meanwhile, and all of them are let go in the end."""
    begun = [b"", b"GET / HTTP/1.1\r\nHost: x\r\nX-Lon", b"POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 1000\r\n\r\nabc"]
    slow = [socket.create_connection(("127.0.0.1", house[0])) for _ in range(210)]
    for n, connection in enumerate(slow):
        connection.sendall(begun[n % 3])
    assert client.get("/quick").status_code == 200
    for n, connection in enumerate(slow):  # to their ends
        connection.settimeout(20)
        told = b"".join(iter(partial(connection.recv, 4000), b""))
        assert (b" 408 " in told and b"too_slow" in told) if n % 3 == 2 else told == b""
        connection.close()
    assert sum(len(c.seen) for c in house[2]) == 1


def test_a_head_that_drips_is_not_waited_for_for_ever(house):
    with socket.create_connection(("127.0.0.1", house[0])) as connection:
        connection.settimeout(20)
        connection.sendall(b"GET /one HTTP/1.1\r\nHost: x\r\n\r\n")
        assert b"200 OK" in connection.recv(4000)
        connection.sendall(b"GET /two")
        began = time.monotonic()
        while connection.recv(4000):
            pass
        assert time.monotonic() - began < 10  # far under the 75 s that a connection may rest between two requests


def test_who_hangs_up_is_not_worked_for_any_longer(house):
    port, door, cores = house
    with socket.create_connection(("127.0.0.1", port)) as connection:
        connection.sendall(b"GET /slow HTTP/1.1\r\nHost: x\r\n\r\n")
        _until(lambda: any("/slow" in c.seen for c in cores))
    _until(lambda: sum(c.cut_off for c in cores) == 1)
    _until(lambda: door.metrics.requests["GET", 499] == 1 and door.metrics.open == 0)


def _until(true) -> None:
    until = time.monotonic() + 20
    while not true():
        assert time.monotonic() < until
        threading.Event().wait(0.005)


def test_a_process_that_is_down_is_waited_for_and_then_said():
    running = Running()
    with TemporaryDirectory() as folder, pytest.MonkeyPatch.context() as patch:
        patch.setattr(room, "START_SECONDS", 0.5)
        path = str(Path(folder) / "core.sock")
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        running.serve(Door([path]), host="127.0.0.1", port=port, http=Patient, lifespan="on")
        with httpx.Client(base_url=f"http://127.0.0.1:{port}", timeout=30, trust_env=False) as client:
            fault = client.post("/x", content=b"abc")
            assert (
                fault.status_code == 503
                and fault.json()["code"] == "starting"
                and "Nothing that was saved is lost" in fault.json()["message"]
            )
            patch.setattr(room, "START_SECONDS", 20.0)
            later = threading.Timer(0.5, lambda: running.serve(Core(7), uds=path))
            later.start()
            assert client.post("/x", content=b"abc").json()["length"] == 3
            later.join()
        running.stop()


def test_what_came_through_is_counted():
    metrics = room.Metrics()
    for seconds in (0.01, 0.05, 0.06, 40.0):
        metrics.count("GET", 200, seconds)
    metrics.count("POST", 503, 0.3)
    text = metrics.text()
    assert 'zygon_requests_total{method="GET",status="200"} 4' in text and 'zygon_requests_total{method="POST",status="503"} 1' in text
    assert (
        'le="0.05"} 2\n' in text
        and 'le="0.1"} 3\n' in text
        and 'le="0.4"} 4\n' in text
        and 'le="30"} 4\n' in text
        and 'le="+Inf"} 5\n' in text
    )
    assert "zygon_request_seconds_sum 40.420000\nzygon_request_seconds_count 5" in text
