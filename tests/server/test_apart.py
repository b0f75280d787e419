"""Foreign files are read in processes of their own: what hangs, eats memory or falls there is told with its limit, and nobody else waits."""

import os
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from zygon_server import apart as room
from zygon_server.apart import apart
from zygon_server.designs import export_api
from zygon_server.errors import Refused

from zygon.errors import ImportFileError
from zygon.exchange.outline_in import drawn_outline
from zygon.exchange.step import read_step


def test_what_comes_of_it_comes_back_and_so_do_errors_of_the_core(tmp_path):
    assert apart(divmod, 17, 5, what="sum") == (3, 2)
    with pytest.raises(ImportFileError) as raised:
        apart(drawn_outline, tmp_path / "none.dxf", "none.dxf", what="none.dxf")
    assert raised.value.rule == "a readable file" and "none.dxf" in raised.value.message


def test_what_takes_too_long_is_stopped_and_nobody_else_waits():
    with ThreadPoolExecutor(2) as threads:
        slow = threads.submit(apart, time.sleep, 600, what="slow.dxf", seconds=1)
        assert apart(pow, 2, 10, what="sum") == 1024 and not slow.done()
        fault = slow.exception()
    assert isinstance(fault, Refused) and fault.code == "too_slow" and "slow.dxf takes longer than 1 s" in fault.message
    assert fault.more == {"entry": "slow.dxf", "value": None, "rule": "at most 1 s"}


@pytest.mark.parametrize(("function", "arguments"), [(os.abort, ()), (bytearray, (300_000_000,))])
def test_what_falls_or_eats_too_much_takes_nobody_along(function, arguments):
    with pytest.raises(Refused) as raised:
        apart(function, *arguments, what="odd.step", megabytes=200)
    assert raised.value.code == "too_heavy" and "more than 200 MB, or fell" in raised.value.message
    assert apart(divmod, 17, 5, what="sum") == (3, 2)


def test_so_much_memory_is_there():
    assert len(apart(bytearray, 60_000_000, what="picture", megabytes=200)) == 60_000_000


@pytest.mark.parametrize(
    ("route", "name", "content", "told"),
    [
        ("bought-solid", "deep.step", b"ISO-10303-21;DATA;#1=" + b"(" * 400_000, "400000 deep"),
        ("outline", "itself.svg", b'<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/></g></svg>', "uses itself"),
        ("outline", "long.svg", b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0C1e300 0 0 1e300 9 9"/></svg>', "long.svg"),
        ("bend-rows", "rows.csv", b"thickness,radius,angle,k\n1,1,90," + b"4" * 200_000, "field larger"),
        ("outline", "no\ud800.dxf".encode("utf-8", "replace").decode() + "x" * 300 + ".dxf", b"\x00", "not a DXF"),
    ],
)
def test_every_foreign_file_is_answered_with_a_sentence(api, box, route, name, content, told):
    answer = api.client.post(
        f"/api/designs/{box.pk}/{route}", {"file": SimpleUploadedFile(name, content)}, headers={"X-CSRFToken": api.token}
    )
    fault = answer.json()
    assert answer.status_code == 422 and told in fault["message"] and fault["rule"], fault
    assert fault["code"] in ("bad_file", "too_heavy", "too_slow")


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"{", "not a design file"),
        (b"[" * 100_000, "too deep"),
        (b'{"schema": NaN}', "no finite number"),
        (b'{"schema": 1e999}', "no finite number"),
        (b'{"schema": ' + b"9" * 5000 + b"}", "not a design file"),
        (b"\xff\xfe", "not a design file"),
        (b"7", ""),
        (b"{}", ""),
    ],
)
def test_a_design_file_that_is_none_is_refused(api, content, told):
    answer = api.client.post("/api/designs/upload", {"file": SimpleUploadedFile("d.json", content)}, headers={"X-CSRFToken": api.token})
    fault = answer.json()
    assert answer.status_code == 422 and told in fault["message"] and fault["rule"], fault


def test_a_reader_that_is_felled_by_a_file_is_replaced(monkeypatch, tmp_path):
    """Without the scan before it Open CASCADE goes down in a file of nothing but parentheses."""
    path = tmp_path / "deep.step"
    path.write_bytes(b"ISO-10303-21;HEADER;ENDSEC;DATA;#1=A(" + b"(" * 90 + b")" * 91 + b";ENDSEC;END-ISO-10303-21;")
    for _ in range(3):
        with pytest.raises((ImportFileError, Refused)):
            apart(read_step, path, "deep.step", what="deep.step")
    assert room.PROCESSES == 2 and apart(divmod, 17, 5, what="sum") == (3, 2)


@pytest.mark.parametrize(
    ("function", "arguments", "code", "words"),
    [
        (time.sleep, (600,), "too_slow", "The STEP file takes longer than 1 s to write"),
        (os.abort, (), "too_heavy", "The STEP file cannot be written: writing it needed more than"),
    ],
)
def test_what_is_written_is_told_as_such(function, arguments, code, words):
    with pytest.raises(Refused) as raised:
        apart(function, *arguments, what="The STEP file", writes=True, seconds=1)
    assert raised.value.code == code and raised.value.message.startswith(words)


@pytest.mark.parametrize("path", ["files/solids?to=step", "files/solids?to=glb", "files/solids?part=front&flat=true", "files/all"])
def test_what_is_dear_to_write_is_written_apart(api, box, monkeypatch, path):
    whole = api.get(f"/designs/{box.pk}/{path}")[1]
    sent = []

    def counted(function, *arguments, **more):
        sent.append(more["what"])
        return apart(function, *arguments, **more)

    monkeypatch.setattr(export_api, "apart", counted)
    again = api.get(f"/designs/{box.pk}/{path}")[1]
    assert len(sent) == 1 and again.status_code == 200
    assert again.headers["Content-Disposition"] == whole.headers["Content-Disposition"]
    assert abs(len(again.content) - len(whole.content)) < 100 and len(again.content) > 1000


def test_a_writer_that_falls_is_told_and_the_others_go_on(api, box, monkeypatch):
    monkeypatch.setattr(export_api, "apart", lambda *_, what, **more: apart(os.abort, what=what, **more))
    status, fault = api.get(f"/designs/{box.pk}/files/solids?to=step")
    assert status == 422 and fault["message"] == "The STEP file cannot be written: writing it needed more than 500 MB, or fell."
    assert api.get(f"/designs/{box.pk}/files/cut-list")[0] == 200


def test_memory_is_bounded_beside_what_there_is_and_nothing_is_left_of_a_fall(monkeypatch):
    """In the other process, tried here without its effect: the bound is what is taken up already and so many million bytes more; no core is written."""
    limits, off = {}, []
    monkeypatch.setattr(room.resource, "setrlimit", limits.__setitem__)
    monkeypatch.setattr(room.gc, "disable", lambda: off.append(True))
    lines = [line.split() for line in Path("/proc/self/status").read_text().splitlines()]
    status = {line[0].rstrip(":"): line[1] for line in lines if len(line) > 1}
    assert room._within(divmod, 500, 17, 5) == (3, 2) and off
    most = limits[room.resource.RLIMIT_DATA]
    assert most[0] == most[1] and abs(most[0] - 500_000_000 - int(status["VmData"]) * 1024) < 20_000_000
    assert limits[room.resource.RLIMIT_CORE] == (0, 0)
