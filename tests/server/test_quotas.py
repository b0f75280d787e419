"""What one maker may keep and ask for; others have theirs. What is not needed any more goes, and what is shown stays."""

import io
import json
from datetime import timedelta

import pytest
from axes.models import AccessAttempt, AccessFailureLog
from django.contrib.sessions.models import Session
from django.core.cache import cache
from django.core.management import call_command
from django.utils import timezone
from django_tasks_db.models import DBTaskResult
from zygon_server import quotas
from zygon_server.designs import service
from zygon_server.designs.models import Design
from zygon_server.keeping import routine
from zygon_server.keeping.pruning import prune
from zygon_server.nesting import runs
from zygon_server.nesting.models import Batch, BatchItem, NestRun

from tests.server.conftest import Api
from zygon.design.starters import starter

SIZED = {"op": "replace", "path": "/note", "value": "x" * 1000}


@pytest.fixture
def other(django_user_model):
    return Api(django_user_model.objects.create_user("other", password="a long enough one"))


@pytest.fixture(autouse=True)
def fresh():
    cache.clear()


def ways_to_another(api, box):
    file = json.dumps(box.document).encode()
    upload = api.client.post("/api/designs/upload", {"file": io.BytesIO(file)}, headers={"X-CSRFToken": api.token})
    return [api.post("/designs", {"name": "One more"}), api.post(f"/designs/{box.pk}/copy"), (upload.status_code, upload.json())]


def test_a_maker_has_so_many_designs_and_another_theirs(api, box, other, settings):
    settings.QUOTAS = {**settings.QUOTAS, "designs": 1}
    for status, fault in ways_to_another(api, box):
        assert status == 422 and fault["code"] == "quota" and fault["rule"] == "at most 1 designs"
        assert fault["message"] == "You have 1 designs, which is the most that one maker keeps here; delete some that you need no more."
    assert Design.objects.count() == 1
    assert other.post("/designs", {"name": "Mine"})[0] == 200
    settings.QUOTAS = {**settings.QUOTAS, "designs": 4}
    assert [status for status, _ in ways_to_another(api, box)] == [200] * 3


def test_designs_and_their_histories_have_so_much_room(api, box, other, settings, monkeypatch):
    monkeypatch.setattr(service, "QUOTA_EVERY", 1)
    before = quotas.kept_bytes(box.owner)
    assert before == pytest.approx(len(json.dumps(box.document)), rel=0.2)
    assert api.edit(box, 1, SIZED)[0] == 200
    after = quotas.kept_bytes(box.owner)
    # the note stands in the design and in the edit that wrote it
    assert after - before == pytest.approx(2000, abs=250)
    settings.QUOTAS = {**settings.QUOTAS, "megabytes": (after + 1) / 1e6}
    assert api.edit(box, 2, SIZED)[0] == 200
    status, fault = api.edit(box, 3, SIZED)
    assert status == 422 and fault["code"] == "quota" and "take up" in fault["message"]
    assert all(status == 422 for status, _ in ways_to_another(api, box))
    assert other.post("/designs", {"name": "Mine"})[0] == 200
    # undoing is always possible, and so is deleting
    assert api.post(f"/designs/{box.pk}/undo", {"have": []}, **{"If-Match": "3"})[0] == 200
    assert api.call("DELETE", f"/designs/{box.pk}")[0] == 204


def test_the_room_is_summed_up_before_every_so_manyth_edit(api, box, monkeypatch):
    summed = []
    monkeypatch.setattr(service, "may_keep", lambda user: summed.append(user.pk))
    monkeypatch.setattr(service, "QUOTA_EVERY", 3)
    for n in range(1, 7):
        assert api.edit(box, n, {"op": "replace", "path": "/note", "value": str(n)})[0] == 200
    assert summed == [box.owner.pk] * 2


def search(api, subject, kind="designs"):
    return api.post(f"/{kind}/{subject.pk}/nest", {"quick": False, "seconds": 5, "stock": ""})


def test_so_many_searches_are_on_at_once(api, box, other, settings, maker):
    settings.QUOTAS = {**settings.QUOTAS, "searches": 2}
    more = [service.create(maker, starter("open-box", f"Box {n}")) for n in range(2)]
    batch = Batch.objects.create(owner=maker, name="B")
    BatchItem.objects.create(batch=batch, design=box)
    assert search(api, box)[0] == search(api, batch, "batches")[0] == 200
    status, fault = search(api, more[0])
    assert status == 429 and fault["message"] == "2 of your searches are going on; stop one, or wait until one ends."
    assert search(api, box)[0] == search(api, batch, "batches")[0] == 200  # in place of its own
    assert api.post(f"/designs/{more[0].pk}/nest", {"quick": True})[0] == 200
    NestRun.objects.filter(design=box, quick=False).update(cancel=True, status="running")
    assert search(api, more[0])[0] == 200  # one that is told to stop is not counted
    theirs = other.post("/designs", {"name": "Mine", "starter": "open-box"})[1]["id"]
    assert other.post(f"/designs/{theirs}/nest", {"quick": False, "seconds": 5})[0] == 200


@pytest.mark.parametrize(
    ("given", "ended", "ago", "allowed"),
    [(3000, 3700, 1, True), (4000, 3500, 1, True), (4000, 3700, 1, False), (4000, None, 2, False), (4000, 3700, 25, True)],
)
def test_searches_take_so_many_hours_a_day(api, box, settings, given, ended, ago, allowed):
    settings.QUOTAS = {**settings.QUOTAS, "search_hours": 1.0}
    created = timezone.now() - timedelta(hours=ago)
    run = NestRun.objects.create(design=box, revision=1, document={}, made_from="x", quick=False, seconds=given, status="done")
    finished = created + timedelta(seconds=ended) if ended else None
    NestRun.objects.filter(pk=run.pk).update(created=created, finished=finished)
    status, fault = search(api, box)
    assert status == (200 if allowed else 429), fault
    if not allowed:
        assert fault["message"] == "Your searches took 1 hours within a day, which is the most that one maker has here."


CALLS = {
    "exports": lambda api, box: api.get(f"/designs/{box.pk}/files/cut-list")[0],
    "tries": lambda api, box: api.post(f"/designs/{box.pk}/preview", {"patch": [], "have": []})[0],
    "searches": lambda api, box: api.post(f"/designs/{box.pk}/nest", {"quick": True})[0],
    "files": lambda api, box: api.client.post("/api/designs/upload", {}, headers={"X-CSRFToken": api.token}).status_code,
}


@pytest.mark.parametrize("name", CALLS)
def test_what_is_dear_is_asked_for_so_often(api, box, other, settings, name):
    settings.RATES = {name: "2/m"}
    call = CALLS[name]
    found = [call(api, box) for _ in range(4)]
    assert 429 not in found[:2] and found[2:] == [429, 429]
    assert call(other, box) in (404, 422)  # another maker has tries of their own
    settings.RATES = {name: ""}
    assert call(api, box) != 429


def test_the_rates_and_quotas_that_are_set_leave_room_for_work():
    from zygon_server import settings as own

    assert own.QUOTAS["designs"] >= 1000 and own.QUOTAS["searches"] >= 3
    assert set(own.RATES) == set(CALLS) and own.RATES["tries"] == "1200/m"


def test_a_run_that_ended_keeps_no_copy_of_its_design(box, django_user_model):
    done, queued = (runs.ask(box, quick=False, seconds=5), None)
    assert done is not None and done.document["parts"]
    runs.cancel(box, str(done.pk))
    done.refresh_from_db()
    assert (done.status, done.document, done.good) == ("cancelled", {}, {}) and done.finished
    queued = runs.ask(box, quick=False, seconds=5)
    newer = runs.ask(box, quick=True)
    queued.refresh_from_db(), newer.refresh_from_db()
    assert queued.document == {} and newer.document["parts"]
    NestRun.objects.filter(pk=newer.pk).update(status="running", attempts=3, lease_until=timezone.now() - timedelta(seconds=1))
    runs.reclaim()
    newer.refresh_from_db()
    assert (newer.status, newer.document) == ("failed", {})


def run_of(subject, days, **fields):
    made = NestRun.objects.create(**subject, revision=1, document={}, made_from="x", seconds=1.0, **{"status": "done", **fields})
    at = timezone.now() - timedelta(days=days)
    NestRun.objects.filter(pk=made.pk).update(created=at, finished=at if fields.get("status", "done") != "running" else None)
    return made.pk


def test_runs_that_ended_long_ago_go_but_for_the_one_that_is_shown(box, maker):
    batch = Batch.objects.create(owner=maker, name="B")
    design, batched = {"design": box}, {"batch": batch}
    old = [run_of(design, 9), run_of(batched, 9)]
    kept = [run_of(design, 8), run_of(batched, 8), run_of(design, 10, status="running")]
    assert prune()["runs"] == 2
    assert set(NestRun.objects.values_list("pk", flat=True)) == set(kept) and not set(old) & set(kept)
    # once something newer is there, the one that was shown goes too
    newer = run_of(design, 6)
    assert prune()["runs"] == 1
    assert set(NestRun.objects.values_list("pk", flat=True)) == {newer, *kept[1:]}


def test_what_the_application_kept_for_itself_goes_after_a_while(db):
    now = timezone.now()

    def at(days):
        return now - timedelta(days=days, minutes=1)

    for days in (0, 1, 29, 30):
        Session.objects.create(session_key=f"s{days}", session_data="", expire_date=at(days) if days else now + timedelta(days=1))
        for model in (AccessAttempt, AccessFailureLog):
            row = model.objects.create(
                username=f"u{days}", ip_address="127.0.0.1", **({"failures_since_start": 1} if model is AccessAttempt else {})
            )
            model.objects.filter(pk=row.pk).update(attempt_time=at(days))
        DBTaskResult.objects.create(
            task_path="t",
            args_kwargs={"args": [], "kwargs": {}},
            backend_name="default",
            queue_name="default",
            exception_class_path="",
            traceback="",
            finished_at=at(days) if days else None,
        )
    assert prune() == {"deleted designs": 0, "runs": 0, "tasks": 3, "sessions": 3, "tries": 1, "failures": 1}
    assert Session.objects.get().session_key == "s0"
    assert DBTaskResult.objects.get().finished_at is None


def test_the_house_is_kept_by_itself(db, settings, monkeypatch, tmp_path, capsys):
    monkeypatch.setenv("ZYGON_BACKUPS", str(tmp_path / "b"))
    taken = []

    class Taken:
        folder = tmp_path
        made = (timezone.now() - timedelta(hours=25)).isoformat()

    monkeypatch.setattr(routine, "backup", lambda reason: taken.append(reason) or Taken)
    routine.tidy()
    assert taken == []
    settings.PRODUCTION = True
    routine.tidy()
    assert taken == ["daily"]
    monkeypatch.setattr(routine, "backups", lambda: [Taken])
    routine.tidy()
    assert taken == ["daily"] * 2
    Taken.made = (timezone.now() - timedelta(hours=23)).isoformat()
    routine.tidy()
    assert taken == ["daily"] * 2
    call_command("prune")
    assert "0 runs, 0 tasks" in capsys.readouterr().out


def test_what_another_maker_keeps_is_not_counted(box, django_user_model):
    before = quotas.kept_bytes(box.owner)
    other = django_user_model.objects.create_user("heavy", password="a long enough one")
    theirs = service.create(other, starter("open-box", "Theirs"))
    service.commit(theirs, 1, "note", [SIZED], "heavy")
    assert quotas.kept_bytes(box.owner) == before
    assert quotas.kept_bytes(other) > 1000


def test_quick_runs_are_not_searches(api, box, settings, maker):
    settings.QUOTAS = {**settings.QUOTAS, "searches": 1, "search_hours": 1}
    other = service.create(maker, starter("open-box", "Other"))
    for _ in range(3):
        run = NestRun.objects.create(design=other, revision=1, document={}, quick=True, seconds=4000, status="running")
        NestRun.objects.filter(pk=run.pk).update(created=timezone.now() - timedelta(hours=2))
    assert search(api, box)[0] == 200


@pytest.mark.parametrize(("hours", "gone"), [(23, 0), (25, 1)])
def test_what_a_task_came_to_goes_after_a_day(db, hours, gone):
    DBTaskResult.objects.create(
        task_path="t",
        args_kwargs={"args": [], "kwargs": {}},
        backend_name="default",
        queue_name="default",
        exception_class_path="",
        traceback="",
        finished_at=timezone.now() - timedelta(hours=hours),
    )
    assert prune()["tasks"] == gone
