"""Work for a request ends when nobody waits for it and when it takes too long; what is quick goes first; an edit is finished all the same."""

import socket
import time

import pytest
from zygon_server import wanted
from zygon_server.designs import service

from zygon.memo import Memo

PATCH = [{"op": "replace", "path": "/sizes/width/entry/text", "value": "431 mm"}]
#: Enough for any limit below, and a test that fails ends.
PIECES = 3000


@pytest.fixture
def slow(monkeypatch):
    """Building in small pieces of work; counts them."""
    done = []
    build = service.build

    def building(*args, **more):
        memo = Memo(1)
        for n in range(PIECES):
            memo.get(str(n), lambda: spin(0.002))
            done.append(n)
        return build(*args, **more)

    monkeypatch.setattr(service, "build", building)
    return done


def spin(seconds):
    until = time.thread_time() + seconds
    while time.thread_time() < until:
        pass


@pytest.fixture
def line():
    """Both ends of a front door's socket."""
    ends = socket.socketpair()
    yield ends
    for end in ends:
        end.close()


def preview(api, box, here=None):
    more = {"gunicorn.socket": here} if here else {}
    return api.client.post(
        f"/api/designs/{box.pk}/preview", {"patch": PATCH, "have": []}, "application/json", headers={"X-CSRFToken": api.token}, **more
    )


def test_a_preview_ends_when_whoever_asked_has_hung_up(api, box, slow, line):
    here, there = line
    there.close()
    response = preview(api, box, here)
    assert response.status_code == 499 and response.json()["code"] == "hung_up"
    assert len(slow) < 100


def test_a_preview_goes_on_while_somebody_waits_even_where_more_was_sent(api, box, monkeypatch, line):
    here, there = line
    there.send(b"GET / HTTP/1.1\r\n")  # the next request on the same line
    monkeypatch.setattr(wanted, "OFTEN", 0.0)
    assert preview(api, box, here).status_code == 200
    assert here.recv(100) == b"GET / HTTP/1.1\r\n"  # nothing of it was taken


def test_an_edit_is_finished_though_the_page_was_closed(api, box, monkeypatch, line):
    here, there = line
    there.close()
    monkeypatch.setattr(wanted, "OFTEN", 0.0)
    response = api.client.post(
        f"/api/designs/{box.pk}/edits", {"label": "wide", "patch": PATCH, "have": []}, "application/json",
        headers={"X-CSRFToken": api.token, "If-Match": str(box.revision)}, **{"gunicorn.socket": here},
    )  # fmt: skip
    assert response.status_code == 200
    box.refresh_from_db()
    assert box.document["sizes"]["width"]["entry"]["text"] == "431 mm"


@pytest.mark.parametrize("way", ["preview", "edits"])
def test_what_takes_too_long_is_given_up_in_words_and_nothing_is_changed(api, box, slow, monkeypatch, way):
    monkeypatch.setattr(wanted, "EDIT_SECONDS", 0.1)
    before = box.revision
    status, fault = (
        api.post(f"/designs/{box.pk}/preview", {"patch": PATCH, "have": []}) if way == "preview" else api.edit(box, before, *PATCH)
    )
    assert status == 422 and fault["code"] == "too_slow"
    assert fault["message"].startswith("This takes longer than 0.1 s to work out, and was given up; nothing was changed.")
    assert fault["rule"] == "at most 0.1 s of work"
    assert len(slow) < 500
    box.refresh_from_db()
    assert box.revision == before


def test_what_an_edit_may_take_may_be_looked_at(api, box, slow, monkeypatch):
    monkeypatch.setattr(wanted, "EDIT_SECONDS", 0.05)
    service._BUILT.__init__(40)
    assert api.get(f"/designs/{box.pk}")[0] == 200
    assert len(slow) == PIECES


def test_long_work_makes_room_for_quick_work_and_not_for_other_long_work(monkeypatch):
    slept = []
    monkeypatch.setattr(wanted.time, "sleep", slept.append)
    monkeypatch.setattr(wanted, "OFTEN", 0.0)
    now = time.monotonic()
    long, other, quick = (wanted._Work(None, 60.0) for _ in range(3))
    long.began = other.began = now - 5
    monkeypatch.setattr(wanted, "_GOING_ON", {long, other})
    long.ask()
    assert not slept
    wanted._GOING_ON.add(quick)
    long.ask()
    assert slept == [wanted.ROOM]
    quick.ask()
    assert len(slept) == 1
