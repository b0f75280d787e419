"""Work for a request ends when nobody waits for it and when it takes too long; what is quick goes first; an edit is finished all the same."""

import socket
import threading
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
        f"/api/designs/{box.pk}/edits",
        {"label": "wide", "patch": PATCH, "have": []},
        "application/json",
        headers={"X-CSRFToken": api.token, "If-Match": str(box.revision)},
        **{"gunicorn.socket": here},
    )
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


def long_ago(work):
    """As if its turn had begun, and its line been looked at, some time ago."""
    work.looked -= 10
    work.since -= 10


def test_turns_are_taken_one_at_a_time_first_come_first_served(monkeypatch):
    monkeypatch.setattr(wanted, "MOST_WAIT", 30.0)
    turns, order = wanted.Turns(), []
    assert turns.take()
    threads = []
    for n in range(4):

        def wait(n=n):
            assert turns.take()
            order.append(n)
            turns.give()

        threads.append(threading.Thread(target=wait))
        threads[-1].start()
        while len(turns._waiting) < n + 1:
            pass
    assert turns.wanted() and not order
    turns.give()
    for thread in threads:
        thread.join()
    assert order == [0, 1, 2, 3] and not turns.wanted()
    assert turns.take()  # it is free again


def test_who_waits_for_too_long_goes_on_without_and_leaves_no_turn_behind(monkeypatch):
    monkeypatch.setattr(wanted, "MOST_WAIT", 0.01)
    turns = wanted.Turns()
    assert turns.take() and not turns.take()
    assert not turns.wanted()
    turns.give()
    assert turns.take()


def test_long_work_passes_its_turn_on_and_has_it_again(monkeypatch):
    monkeypatch.setattr(wanted, "MOST_WAIT", 30.0)
    turns = wanted.Turns()
    long, seen = wanted.Work(None, 60.0, turns), []
    long.begin()
    long_ago(long)
    long.ask()
    assert long.since is not None  # nobody waits

    def quick():
        work = wanted.Work(None, 60.0, turns)
        work.begin()
        seen.append(long.since)
        work.end()

    other = threading.Thread(target=quick)
    other.start()
    while not turns.wanted():
        pass
    long.looked -= 10
    began = long.since = time.monotonic()
    long.ask()
    assert long.since == began and not seen  # it has not had it for long
    long_ago(long)
    long.ask()
    other.join()
    assert seen == [None]
    assert long.since is not None and time.monotonic() - long.since < 5
    long.end()
    assert turns.take()


def test_a_turn_is_given_back_whatever_happens_and_taken_once_within_another():
    work = wanted.Work(None, 60.0, wanted.Turns())
    token = wanted._CURRENT.set(work)
    try:
        with pytest.raises(ZeroDivisionError), wanted.turn():
            with wanted.turn():
                assert work.since is not None
            assert work.since is not None
            1 / 0  # noqa: B018
        assert work.since is None
        assert work.turns.take()
    finally:
        wanted._CURRENT.reset(token)


def test_only_what_a_request_itself_takes_of_the_processor_counts():
    spin(0.3)  # as the requests before it in this thread
    work = wanted.Work(None, 0.2)
    work.looked -= 1
    work.ask()
    spin(0.25)
    work.looked -= 1
    with pytest.raises(wanted.TooLong) as told:
        work.ask()
    assert told.value.seconds == 0.2


def test_after_a_request_nothing_is_asked_any_more(rf):
    seen = []

    def respond(request):
        seen.append(wanted._CURRENT.get())

    wanted.Wanted(respond)(rf.get("/api/designs"))
    assert isinstance(seen[0], wanted.Work) and wanted._CURRENT.get() is None
    wanted.Wanted(respond)(rf.get("/elsewhere"))
    assert seen[1] is None


@pytest.mark.parametrize(
    ("path", "watched"),
    [
        ("preview", True),
        ("rooms", True),
        ("touches", True),
        ("pulls", True),
        ("feature-pulls", True),
        ("nest/room", True),
        ("edits", False),
        ("undo", False),
        ("nest", False),
    ],
)
def test_what_writes_nothing_ends_with_who_asked(rf, path, watched):
    found = []
    line = object()
    wanted.Wanted(lambda request: found.append(wanted._CURRENT.get().line))(rf.post(f"/api/designs/x/{path}", **{"gunicorn.socket": line}))
    assert found == [line if watched else None]
