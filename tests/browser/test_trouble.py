"""What makers see when the server is in trouble: nothing that was typed is lost, and it is kept as soon as it can be."""

import json
import os
import re
import signal
from pathlib import Path

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


def typed(page, text):
    page.get_by_role("navigation", name="Job line").get_by_role("button", name="Sizes").click()
    width = page.get_by_label("width", exact=True)
    width.fill(text)
    width.press("Enter")
    return width


def test_what_the_server_cannot_keep_waits_with_the_reason_and_can_be_done_without(brood):
    page = brood
    expect(page.get_by_text(re.compile(r"saved, revision 1$"))).to_be_visible()
    told = {
        "code": "disk_full",
        "message": "The disk is full. This was not saved; what is saved can be read, and new work is kept once there is room.",
    }
    edits = re.compile(r"/edits$")
    page.route(edits, lambda route: route.fulfill(status=507, content_type="application/json", body=json.dumps(told)))
    typed(page, "452 mm")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("The disk is full.")
    expect(alert).to_contain_text("1 edit waits here and will be sent as soon as it can be")
    expect(page.get_by_label("width", exact=True)).to_have_value("452 mm")
    page.unroute(edits)
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    expect(alert).to_have_count(0)
    # one that the server can never take is done without, and work goes on
    page.route(
        edits,
        lambda route: route.fulfill(
            status=500, content_type="application/json", body=json.dumps({"code": "server_error", "message": "Something went wrong."})
        ),
    )
    typed(page, "460 mm")
    expect(alert).to_contain_text("Something went wrong.")
    page.get_by_role("button", name=re.compile("Do without")).click()
    page.unroute(edits)
    expect(page.get_by_label("width", exact=True)).to_have_value("452 mm")
    typed(page, "470 mm")
    expect(page.get_by_text("saved, revision 3")).to_be_visible()


def test_the_processes_that_work_on_designs_die_while_a_value_is_typed(brood, address):
    page = brood
    expect(page.get_by_text(re.compile(r"saved, revision 1$"))).to_be_visible()
    dead = [int(p.parent.name) for p in Path("/proc").glob("[0-9]*/cmdline") if is_core(p, address)]
    assert dead
    for pid in dead:
        os.kill(pid, signal.SIGKILL)
    typed(page, "452 mm")
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    expect(page.locator(".partrow[data-part=front] .size").first).to_have_text("452 × 240 mm")


def is_core(command, address) -> bool:
    """Whether a process works on designs for the application at this address: its supervisor was told the same port."""
    try:
        if b"zygon_server.wsgi" not in command.read_bytes():
            return False
        return f"ZYGON_PORT={address.rstrip('/').rpartition(':')[2]}".encode() in (command.parent / "environ").read_bytes().split(b"\0")
    except OSError:
        return False
