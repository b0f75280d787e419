"""What nobody foresaw is answered in JSON with a code, a sentence and the request's name; a full or locked disk is said as what it is; health and metrics."""

import json
import logging
import sqlite3
from datetime import timedelta

import pytest
from django.db import OperationalError
from django.http import Http404
from django.test import Client
from django.utils import timezone
from zygon_log import Lines
from zygon_server import faults
from zygon_server import health as room
from zygon_server.designs import service
from zygon_server.nesting.beats import beat, silent
from zygon_server.nesting.models import Beat, NestRun

from tests.server.conftest import sqlite_alone
from zygon.design.starters import starter


def failing(monkeypatch, error):
    def fails(*_, **__):
        raise error

    monkeypatch.setattr(service, "find", fails)


def test_an_unforeseen_error_is_told_and_logged_under_one_name(api, box, monkeypatch, caplog):
    failing(monkeypatch, ZeroDivisionError("secret words"))
    response = api.client.get(f"/api/designs/{box.pk}", headers={"X-Request-Id": "0123456789abcdef"})
    fault = response.json()
    assert response.status_code == 500 and fault["code"] == "server_error" and fault["request"] == "0123456789abcdef"
    assert (
        "secret" not in fault["message"]
        and "0123456789abcdef" in fault["message"]
        and response.headers["X-Request-Id"] == "0123456789abcdef"
    )
    logged = next(r for r in caplog.records if r.name == "zygon_server.faults")
    line = json.loads(Lines().format(logged))
    assert (
        line["request"] == "0123456789abcdef"
        and line["user"] == "maker"
        and "secret words" in line["traceback"]
        and line["level"] == "error"
    )


@pytest.mark.parametrize("given", ["", "x" * 400, "no\tname", "0123"])
def test_a_request_without_a_good_name_gets_its_own(api, given):
    names = {api.client.get("/api/session", headers={"X-Request-Id": given} if given else {}).headers["X-Request-Id"] for _ in range(2)}
    assert len(names) == 2 and all(len(n) == 16 and given != n for n in names)


@pytest.mark.parametrize(
    ("error", "status", "code"),
    [
        (OperationalError("database is locked"), 503, "busy"),
        (OperationalError("database or disk is full"), 507, "disk_full"),
        (OperationalError("attempt to write a readonly database"), 503, "read_only"),
        (OperationalError("disk I/O error"), 503, "disk_failed"),
        (OperationalError("unable to open database file"), 503, "no_database"),
        (OperationalError("no such table: x"), 500, "server_error"),
        (OSError(28, "No space left on device"), 507, "disk_full"),
        (OSError(30, "Read-only file system"), 503, "read_only"),
        (OSError(5, "else"), 500, "server_error"),
    ],
)
def test_a_disk_that_is_full_or_locked_is_said_as_what_it_is(api, box, monkeypatch, error, status, code):
    failing(monkeypatch, error)
    got, fault = api.post(f"/designs/{box.pk}/preview", {"patch": []})
    assert (got, fault["code"]) == (status, code) and fault["request"] and fault["message"].endswith(".")


@sqlite_alone
def test_where_nothing_can_be_written_what_is_saved_is_still_read(api, maker):
    """A database that is really read-only: the list, the design and its files come, an edit is refused with the reason, and nothing of it stands."""
    from django.db import connection

    design = service.create(maker, starter("open-box", "Box"))
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA query_only = ON")
    try:
        assert api.get("/designs")[0] == 200 and api.get(f"/designs/{design.pk}")[0] == 200
        assert api.client.get(f"/api/designs/{design.pk}/file").status_code == 200
        patch = [{"op": "replace", "path": "/name", "value": "Other"}]
        status, fault = api.post(f"/designs/{design.pk}/edits", {"label": "Name", "patch": patch, "have": []}, **{"If-Match": "1"})
        assert (status, fault["code"]) == (503, "read_only")
    finally:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA query_only = OFF")
    design.refresh_from_db()
    assert (design.revision, design.name) == (1, "Box")


@pytest.mark.parametrize(("path", "status", "code"), [("/api/nothing", 404, "not_found"), ("/api/designs/1/2/3", 404, "not_found")])
def test_an_address_without_anything_is_answered_in_json(api, path, status, code):
    response = api.client.get(path)
    assert response.status_code == status and response.json()["code"] == code and response.headers["Cache-Control"] == "no-store"


def test_a_host_that_is_not_ours_is_refused_in_json(db):
    response = Client().get("/api/session", headers={"Host": "elsewhere.example"})
    assert response.status_code == 400 and response.json()["code"] == "bad_request"


def test_data_is_kept_nowhere_and_what_is_addressed_by_its_hash_is(api, box):
    assert api.client.get(f"/api/designs/{box.pk}").headers["Cache-Control"] == "no-store"
    key = next(iter(api.get(f"/designs/{box.pk}")[1]["resources"]))
    assert "immutable" in api.client.get(f"/api/designs/{box.pk}/resources/{key}").headers["Cache-Control"]


# -- health ------------------------------------------------------------------------------------------------------------


def test_all_is_well_and_then_it_is_not(db, maker, monkeypatch):
    beat("quick")
    told = Client().get("/health")
    assert told.status_code == 200 and told.json()["well"] and told.json()["workers"] == 1 and told.json()["room_mb"] > 0
    for seconds, quiet in ((29, []), (31, ["quick"])):
        Beat.objects.update(at=timezone.now() - timedelta(seconds=seconds))
        assert silent() == quiet
    told = Client().get("/health")
    assert told.status_code == 503 and told.json()["wrong"] == ["nothing was heard of quick"]
    beat("quick")
    design = service.create(maker, starter("open-box", "Box"))
    run = NestRun.objects.create(design=design, revision=1, document={}, made_from="x", seconds=1)
    assert Client().get("/health").status_code == 200
    NestRun.objects.update(created=timezone.now() - timedelta(seconds=61))
    assert Client().get("/health").json()["wrong"] == ["runs wait for a worker"]
    NestRun.objects.filter(pk=run.pk).update(status="running")
    assert Client().get("/health").status_code == 200
    room_left = room.shutil.disk_usage(room.VAR).free // 1_000_000
    monkeypatch.setattr(room, "LEAST_ROOM", room_left + 10_000)
    assert "MB left" in Client().get("/health").json()["wrong"][0]


def test_a_database_that_cannot_be_written_is_not_well(db, monkeypatch):
    def locked(*_, **__):
        raise OperationalError("database is locked") from sqlite3.OperationalError()

    monkeypatch.setattr(room.transaction, "atomic", locked)
    told = Client().get("/health")
    assert told.status_code == 503 and "cannot be written (database is locked)" in told.json()["wrong"][0]


def test_metrics_are_for_this_machine_or_with_the_token(db, maker, settings):
    service.create(maker, starter("open-box", "Box"))
    text = Client().get("/metrics").content.decode()
    assert "zygon_designs 1\n" in text and "zygon_edits 0\n" in text and "zygon_disk_free_bytes " in text
    told = Client().get("/metrics", headers={"X-Forwarded-For": "10.0.0.9"})
    assert told.status_code == 403 and "with the token" in told.json()["message"]
    settings.METRICS_TOKEN = "open"
    assert Client().get("/metrics").status_code == 403
    assert Client().get("/metrics", headers={"Authorization": "Bearer opel"}).status_code == 403
    assert Client().get("/metrics", headers={"Authorization": "Bearer open", "X-Forwarded-For": "10.0.0.9"}).status_code == 200


def test_a_log_line_holds_words_and_figures_and_nothing_else():
    record = logging.makeLogRecord(
        {"name": "zygon.front", "levelname": "INFO", "msg": "GET %s\n", "args": ("/ä",), "status": 200, "request": object()}
    )
    line = Lines().format(record)
    assert (
        "\n" not in line
        and json.loads(line)["message"] == "GET /ä\n"
        and json.loads(line)["status"] == 200
        and "request" not in json.loads(line)
    )


def test_a_body_that_is_larger_than_what_is_taken_is_refused_in_json(api, box, settings):
    settings.DATA_UPLOAD_MAX_MEMORY_SIZE = 1000
    status, fault = api.post(f"/designs/{box.pk}/preview", {"patch": [], "have": ["x" * 2000]})
    assert (status, fault["code"]) == (400, "bad_request") and "more than is taken at once" in fault["message"]


@pytest.mark.parametrize(
    "kind",
    [
        "multipart/form-data",
        "multipart/form-data; boundary=",
        "multipart/form-data; boundary=é",
        "multipart/form-data; boundary=" + "x" * 300,
    ],
)
@pytest.mark.parametrize("path", ["/designs/upload", "/session/demo", "/designs/0/outline", "/designs/0/copy"])
def test_a_form_without_a_boundary_is_no_error_of_ours(api, kind, path):
    response = api.client.generic("POST", f"/api{path}", b"--x\r\n", content_type=kind)
    assert response.status_code in (400, 403, 404, 422) and response.json()["message"]


def test_the_log_has_the_traceback_also_where_the_error_is_not_handed_over(rf, caplog):
    try:
        raise ZeroDivisionError("here")
    except ZeroDivisionError as error:
        assert faults.unforeseen(rf.get("/api/x")).status_code == 500
        assert caplog.records[-1].exc_info[1] is error


def test_an_address_that_a_route_does_not_know_is_missing_and_no_error_of_ours(api, box, monkeypatch):
    failing(monkeypatch, Http404("no such page"))
    status, fault = api.get(f"/designs/{box.pk}")
    assert (status, fault["code"]) == (404, "not_found")


def test_who_may_not_measure_is_told_in_the_log_and_what_is_measured_has_its_types(db, maker, caplog):
    beat("nest-1")
    text = Client().get("/metrics").content.decode()
    for name in ("designs", "edits", "runs", "beat_age_seconds", "disk_free_bytes", "database_bytes"):
        assert f"# TYPE zygon_{name} gauge\n" in text
    assert 'zygon_beat_age_seconds{worker="nest-1"} 0.' in text
    Client().get("/metrics", headers={"X-Forwarded-For": "10.0.0.9"})
    assert [r.getMessage() for r in caplog.records if "forbidden" in r.getMessage()] == ["GET /metrics forbidden: metrics"]
