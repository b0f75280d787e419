"""The real application, web and worker together, on a database of its own, and Debian's Chromium to drive it."""

from __future__ import annotations

import fcntl
import os
import shutil
import signal
import subprocess
import sys
from pathlib import Path

import pytest
from playwright.sync_api import Error, expect, sync_playwright

ROOT = Path(__file__).parents[2]
# without windows of its own it needs a tenth less computing
CHROMIUM = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--process-per-site",
    # the page itself is put together in plain memory, a third quicker here than by a graphics processor that is simulated
    "--disable-gpu",
    "--enable-unsafe-swiftshader",
    # smooth edges are for eyes: a tenth of the computing of these tests
    "--webgl-antialiasing-mode=none",
]
# generous: on a busy machine the picture alone takes seconds, drawn in software
expect.set_options(timeout=60_000)


@pytest.fixture(scope="session")
def demo(tmp_path_factory):
    """A folder with the demo loaded: the one that ``make test`` has made, or one for all that test side by side."""
    if made := os.environ.get("ZYGON_TESTS_DEMO"):
        return ROOT / made
    beside = "PYTEST_XDIST_WORKER" in os.environ
    shared = tmp_path_factory.getbasetemp().parent if beside else tmp_path_factory.mktemp("shared")
    folder = shared / "demo"
    with (shared / "demo.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not folder.exists():
            loading = shared / "loading"
            env = {**os.environ, "ZYGON_VAR": str(loading), "ZYGON_DEMO": "1"}
            env.pop("DJANGO_SETTINGS_MODULE", None)
            for command in ("migrate --noinput -v 0 --skip-checks", "load_demo --no-layouts --skip-checks"):
                subprocess.run(
                    [sys.executable, ROOT / "server" / "manage.py", *command.split()], env=env, check=True, stdout=subprocess.DEVNULL
                )
            loading.rename(folder)
    return folder


@pytest.fixture(scope="session")
def address(demo, tmp_path_factory):
    """Where the application answers; it is stopped at the end, and its worker with it."""
    # a server of its own for each of the workers that run side by side
    worker = int(os.environ.get("PYTEST_XDIST_WORKER", "gw0").removeprefix("gw"))
    own = tmp_path_factory.mktemp("own") / "var"
    shutil.copytree(demo, own)
    env = {**os.environ, "ZYGON_VAR": str(own), "ZYGON_DEMO": "1", "ZYGON_QUICK_SECONDS": "0.2", "ZYGON_PORT": str(8560 + 60 * worker)}
    env["ZYGON_MACHINE_SPEED"] = "25"
    env.pop("DJANGO_SETTINGS_MODULE", None)
    process = subprocess.Popen(
        [sys.executable, ROOT / "scripts" / "demo.py"],
        env=env,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        start_new_session=True,
    )
    found = next(word for line in process.stdout for word in line.split() if word.startswith("http://"))
    # what it goes on to say is read away, so that it never has to wait for a reader
    drain = subprocess.Popen(["cat"], stdin=process.stdout, stdout=subprocess.DEVNULL)
    yield found
    os.killpg(process.pid, signal.SIGTERM)
    process.wait(timeout=20)
    drain.wait(timeout=20)
    process.stdout.close()


@pytest.fixture(scope="session")
def window(address):
    """A worker's own browser with one page that stays open, so that those of the tests need no process of their own: each costs two seconds of computing."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        context = browser.new_context(
            base_url=address,
            viewport={"width": 1280, "height": 800},
            accept_downloads=True,
            reduced_motion="reduce",
            device_scale_factor=0.5,
        )
        page = context.new_page()
        # the server may take a moment to answer after its address is printed
        for _ in range(100):
            try:
                page.goto("/static/mark.svg")
                break
            except Error:
                page.wait_for_timeout(200)
        yield context
        browser.close()


@pytest.fixture
def page(window):
    """A page signed in to the demo's designs, with nothing open or kept from before; it fails the test where the page reported an error of its own."""
    window.clear_cookies()
    assert window.request.post("/api/session/demo", headers=proof(window)).ok
    page = window.new_page()
    page.set_default_timeout(30_000)
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    page.on("console", lambda m: faults.append(m.text) if "Content Security Policy" in m.text else None)
    yield page
    for other in window.pages[1:]:
        other.close()
    window.pages[0].evaluate("localStorage.clear(), sessionStorage.clear()")
    assert faults == []


def proof(context):
    """The headers that a call from outside the page needs; the first call of a session asks for the token."""
    address = context.pages[0].url
    if not any(c["name"] == "csrftoken" for c in context.cookies()):
        context.request.get("/")
    return {"X-CSRFToken": next(c["value"] for c in context.cookies() if c["name"] == "csrftoken"), "Referer": address}


@pytest.fixture
def designs(page):
    """The list of the demo's designs."""
    page.goto("/")
    expect(page.get_by_role("heading", name="Designs")).to_be_visible()
    return page


@pytest.fixture
def nothing(designs):
    """An empty design, open in Build."""
    page = designs
    page.get_by_role("button", name="New design").click()
    page.get_by_label("Name").fill("From nothing")
    page.get_by_role("button", name="Nothing", exact=True).click()
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_role("heading", name="Nothing built yet")).to_be_visible()
    return page


def on_the_bench(page, name: str, part: str):
    """A copy of one of the demo's designs, once a part of it is listed: so that tests do not see one another's edits."""
    designs = page.request.get("/api/designs").json()
    own = next(d["id"] for d in designs if d["name"] == name)
    copy = page.request.post(f"/api/designs/{own}/copy", headers=proof(page.context)).json()
    page.goto(f"/designs/{copy['id']}")
    expect(page.locator(f".partrow[data-part={part}]")).to_be_visible()
    return page


@pytest.fixture
def brood(page):
    """A copy of the brood box."""
    return on_the_bench(page, "Brood box", "front")


@pytest.fixture
def rack(page):
    """A copy of the frame rack."""
    return on_the_bench(page, "Frame rack", "spacer")
