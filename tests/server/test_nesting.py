"""Nest runs: asked, claimed, worked, cancelled, and taken up again after a worker's death."""

import os
import socket
import subprocess
import sys
from datetime import timedelta
from io import StringIO

import pytest
from django.core.management import call_command
from django.db import OperationalError
from django.utils import timezone
from zygon_server.designs import service as designs
from zygon_server.designs.models import Design
from zygon_server.nesting import layouts, runs, searching, state
from zygon_server.nesting.management.commands import reclaim_runs
from zygon_server.nesting.models import NestRun
from zygon_server.nesting.tasks import work_runs

from tests.server.conftest import text
from zygon.design.draft import Draft
from zygon.design.starters import starter

Status = NestRun.Status


def work_all():
    return work_runs.func()


def test_a_quick_run_lays_out_every_stock_and_sheets_can_be_downloaded(api, design):
    status, body = api.post(f"/designs/{design.pk}/nest", {"quick": True})
    assert status == 200 and body["run"]["status"] == "queued"
    assert [s["current"] for s in body["stocks"]] == [False, False]
    assert work_all() == 1
    body = api.get(f"/designs/{design.pk}/nest")[1]
    assert body["run"]["status"] == "done" and body["run"]["progress"] == 1
    layout = body["stocks"][0]["layout"]
    assert body["stocks"][0]["current"] and layout["sheets"][0]["known"] and layout["sheets"][0]["cost"] > 1
    response = api.client.get(f"/api/designs/{design.pk}/files/sheets/ply12/1?kerf=nominal")
    assert response.status_code == 200 and b"NOMINAL" in response.content
    assert api.client.get(f"/api/designs/{design.pk}/files/sheets/ply12/99").status_code == 404


def test_only_stocks_whose_flats_changed_are_laid_out_again(api, design):
    runs.ask(design)
    work_all()
    assert runs.ask(design) is None
    api.edit(design, 1, {"op": "replace", "path": "/parts/cover/spans/y/high/text", "value": "back.back - 20 mm"})
    design.refresh_from_db()
    told = state.state(design)
    assert [s["current"] for s in told["stocks"]] == [True, False]
    assert told["stocks"][1]["layout"] is not None  # the last one stays on screen, marked as not current
    runs.ask(design)
    work_all()
    assert all(s["current"] for s in state.state(design)["stocks"])
    assert design.layouts.count() == 3


def test_a_newer_run_replaces_older_ones(design):
    first = runs.ask(design)
    assert runs.ask(design).pk == first.pk
    changed = designs.commit(design, 1, "w", [text("width", "433 mm")], "x")
    second = runs.ask(changed)
    first.refresh_from_db()
    assert (first.status, second.status) == (Status.CANCELLED, Status.QUEUED)


def test_a_claimed_run_is_nobody_elses(design):
    runs.ask(design)
    assert runs.claim("one") is not None
    assert runs.claim("two") is None


def test_a_worker_killed_in_mid_run_leaves_nothing_stuck(design):
    run = runs.ask(design)
    claimed = runs.claim("doomed")
    assert claimed.pk == run.pk
    assert runs.reclaim() == 0  # its lease still holds
    NestRun.objects.filter(pk=run.pk).update(lease_until=timezone.now() - timedelta(seconds=1))
    assert runs.reclaim() == 1
    run.refresh_from_db()
    assert run.status == Status.QUEUED
    assert work_all() == 1
    run.refresh_from_db()
    assert run.status == Status.DONE and run.attempts == 2
    # the dead worker, should it wake, changes nothing any more
    searching._close(claimed, Status.FAILED, "late")
    run.refresh_from_db()
    assert run.status == Status.DONE


def test_a_run_that_lost_its_worker_goes_on_from_its_last_best(maker, monkeypatch):
    d = Draft("Discs", "ply6")
    for name, size, quantity in (("large", 170, 7), ("small", 90, 9)):
        d.board(name, "ply6", "lying", "0", ("0", f"{size} mm"), ("0", f"{size} mm"), outline={"kind": "disc"}, quantity=quantity)
    design = designs.create(maker, d.document())
    monkeypatch.setattr(searching, "BEAT", timedelta(0))
    run = runs.ask(design, quick=False, seconds=20)
    claimed = runs.claim("doomed")
    found = []

    class Killed(BaseException):
        """What no handler of the run's catches."""

    def seen(design_, revision, data):
        kept(design_, revision, data)
        found.append(design.layouts.get().data)
        if len(found) == 2:
            raise Killed

    kept = layouts.keep_layout
    monkeypatch.setattr(searching, "keep_layout", seen)
    with pytest.raises(Killed):
        searching.work(claimed)
    monkeypatch.setattr(searching, "keep_layout", kept)
    lengths = [[s["used_length"] for s in data["sheets"]] for data in found]
    assert lengths[1] < lengths[0]  # drawn live, better and better
    run.refresh_from_db()
    assert run.status == Status.RUNNING
    NestRun.objects.filter(pk=run.pk).update(lease_until=timezone.now() - timedelta(seconds=1), seconds=0.2)
    assert runs.reclaim() == 1
    begun = []
    engine = searching.lay_out
    monkeypatch.setattr(searching, "lay_out", lambda *a, **k: begun.append(k["known"].layout) or engine(*a, **k))
    assert work_all() == 1
    assert [round(s.used_length, 2) for s in begun[0].sheets] == lengths[1]
    after = [s["used_length"] for s in design.layouts.get().data["sheets"]]
    assert after <= lengths[1] and design.nest_runs.get().status == Status.DONE


def test_a_run_that_kills_its_workers_is_given_up(design):
    run = runs.ask(design)
    NestRun.objects.filter(pk=run.pk).update(status=Status.RUNNING, attempts=3, lease_until=timezone.now() - timedelta(seconds=1))
    runs.reclaim()
    run.refresh_from_db()
    assert run.status == Status.FAILED and "died too often" in run.error


def test_a_run_is_cancelled_queued_or_running_and_keeps_its_best(api, design, monkeypatch):
    run = runs.ask(design)
    body = api.call("DELETE", f"/designs/{design.pk}/nest/{run.pk}")[1]
    assert body["run"]["status"] == "cancelled"
    run = runs.ask(design, quick=False, seconds=5)
    claimed = runs.claim()
    monkeypatch.setattr(searching, "BEAT", timedelta(0))
    assert runs.cancel(design, str(run.pk)).cancel
    searching.work(claimed)
    run.refresh_from_db()
    assert run.status == Status.CANCELLED and not design.layouts.exists()  # before anything was laid
    run = runs.ask(design, quick=False, seconds=5)
    kept = layouts.keep_layout

    def then_cancelled(*args):
        row = kept(*args)
        runs.cancel(design, str(run.pk))
        return row

    monkeypatch.setattr(searching, "keep_layout", then_cancelled)
    searching.work(runs.claim())
    run.refresh_from_db()
    assert run.status == Status.CANCELLED and design.layouts.count() == 1  # what had been found
    assert api.call("DELETE", f"/designs/{design.pk}/nest/00000000-0000-0000-0000-000000000000")[0] == 404


def test_a_failure_of_the_engine_is_said_and_closes_the_run(design, monkeypatch):
    def broken(*_, **__):
        raise RuntimeError("boom")

    monkeypatch.setattr(searching, "lay_out", broken)
    run = runs.ask(design)
    work_all()
    run.refresh_from_db()
    assert run.status == Status.FAILED and "the log has the details" in run.error
    assert state.state(design)["run"]["status"] == "failed"


def test_a_real_search_never_makes_a_kept_layout_worse(design):
    runs.ask(design)
    work_all()
    before = {row.digest: row.data["sheet_cost"] for row in design.layouts.all()}
    runs.ask(design, quick=False, seconds=0.3)
    work_all()
    assert all(row.data["sheet_cost"] <= before[row.digest] for row in design.layouts.all())


@pytest.mark.django_db(transaction=True)
def test_the_database_queue_wakes_the_worker_and_the_run_gets_done(settings, django_user_model):
    """With the real queue: ask, and let the queue's own worker run in this process until it is empty."""
    from django.core.management import call_command

    from zygon.design.starters import starter

    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["default", "quick"]}}
    user = django_user_model.objects.create_user("queue")
    design = designs.create(user, starter("tray", "Tray"))
    runs.ask(Design.objects.get(pk=design.pk))
    call_command("db_worker", batch=True, verbosity=0, interval=0, queue_name="*")
    assert design.nest_runs.first().status == Status.DONE


def test_a_poll_with_nothing_new_is_short_and_never_writes(api, design):
    """The answer that the browser has is good as long as nothing changed; looking on writes nothing."""
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    runs.ask(design)
    run = runs.claim("w")
    searching.work(run)
    with CaptureQueriesContext(connection) as first:
        status, body = api.get(f"/designs/{design.pk}/nest")
    assert status == 200 and body["stocks"]
    tag = api.client.get(f"/api/designs/{design.pk}/nest").headers["ETag"]
    with CaptureQueriesContext(connection) as second:
        response = api.client.get(f"/api/designs/{design.pk}/nest", headers={"If-None-Match": tag})
    assert response.status_code == 304 and not response.content
    assert len(second.captured_queries) <= 5  # session, user, design, layouts, run
    for q in (*first.captured_queries, *second.captured_queries):
        assert q["sql"].lstrip().upper().startswith(("SELECT", "SAVEPOINT", "RELEASE", "BEGIN")), q["sql"][:80]
    assert not [q["sql"] for q in second.captured_queries if '"data"' in q["sql"] or ('"document"' in q["sql"] and "layouts" in q["sql"])]
    status, _ = api.edit(design, 1, {"op": "replace", "path": "/sizes/width/entry/text", "value": "433 mm"})
    assert status == 200
    assert api.client.get(f"/api/designs/{design.pk}/nest", headers={"If-None-Match": tag}).status_code == 200


def test_layouts_shown_while_a_search_runs_have_their_time_and_cost(api, design, monkeypatch):
    """Each that is kept on the way, not only the last: what is on screen is right, or marked as being worked out."""
    kept = []
    real = layouts.keep_layout
    monkeypatch.setattr(searching, "keep_layout", lambda subject, revision, data: kept.append(data) or real(subject, revision, data))
    monkeypatch.setattr(searching, "BEAT", timedelta(0))
    runs.ask(design, quick=False, seconds=1.0)
    searching.work(runs.claim("w"))
    assert len(kept) > 1
    for data in kept:
        for sheet in data["sheets"]:
            assert sheet["known"] and sheet["cost"] > 0 and sheet["seconds"] > 0 and sheet["cut_length"] > 0


def test_a_locked_database_does_not_end_the_look_for_dead_workers(monkeypatch, db):
    """What ends this process ends the application with it."""
    looks = iter([0, OperationalError("database is locked"), 0, KeyboardInterrupt()])
    reminded = []
    monkeypatch.setattr(reclaim_runs, "remind", lambda: reminded.append(1))

    def look():
        found = next(looks)
        if isinstance(found, BaseException):
            raise found
        return found

    monkeypatch.setattr(reclaim_runs, "reclaim", look)
    monkeypatch.setattr(reclaim_runs.time, "sleep", lambda _: None)
    named = []
    monkeypatch.setattr(reclaim_runs, "beating", named.append)
    said = StringIO()
    with pytest.raises(KeyboardInterrupt):
        call_command("reclaim_runs", every=1.0, stderr=said)
    assert named == ["reclaim"] and len(reminded) == 1
    assert "database is locked" in said.getvalue()


def test_a_run_that_was_forgotten_is_woken_for_again(maker, monkeypatch):
    woken = []
    monkeypatch.setattr(runs, "wake", lambda *, quick: woken.append(quick))
    design = designs.create(maker, starter("open-box", "Box"))
    run = runs.ask(design)
    assert woken == [True] and run.status == "queued"
    for seconds, reminded in ((4, 0), (6, 1)):
        NestRun.objects.update(created=timezone.now() - timedelta(seconds=seconds))
        woken.clear()
        assert (runs.remind(), woken) == (reminded, [True] * reminded)
    other = NestRun.objects.create(design=design, revision=1, document={}, made_from="x", seconds=1, quick=False)
    NestRun.objects.filter(pk=other.pk).update(created=timezone.now() - timedelta(seconds=60))
    woken.clear()
    assert runs.remind() == 2 and sorted(woken) == [False, True]
    # where one of its kind is being worked, whoever works it comes to the others by itself
    NestRun.objects.filter(pk=other.pk).update(status="running")
    woken.clear()
    assert runs.remind() == 1 and woken == [True]
    NestRun.objects.update(status="done")
    assert runs.remind() == 0


def test_a_run_that_goes_with_its_design_while_it_is_claimed_holds_up_nobody(maker, monkeypatch):
    one, other = (designs.create(maker, starter("open-box", name)) for name in ("One", "Other"))
    for design in (one, other):
        runs.ask(design)
    first = one.nest_runs.get().pk
    real = NestRun.objects.filter

    def deleted(*given, **asked):
        if asked == {"pk": first}:
            one.delete()
        return real(*given, **asked)

    monkeypatch.setattr(NestRun.objects, "filter", deleted)
    claimed = runs.claim("w", quick=True)
    assert claimed is not None and claimed.design_id == other.pk


@pytest.mark.parametrize(("called", "ended"), [("work_queue", True), ("something_else", False)])
def test_a_worker_that_is_stuck_is_ended_so_that_its_queue_goes_on(maker, tmp_path, called, ended):
    """It tells first what it was at; another process that has its number by now is left alone."""
    asleep = "import faulthandler, signal, sys, time; faulthandler.register(signal.SIGUSR1); print('up', flush=True); time.sleep(600)"
    with subprocess.Popen([sys.executable, "-c", asleep, called], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True) as process:
        assert process.stdout.readline() == "up\n"
        design = designs.create(maker, starter("open-box", "Box"))
        runs.ask(design)
        run = runs.claim(f"{socket.gethostname()}:{process.pid}")
        assert runs.reclaim() == 0 and process.poll() is None
        NestRun.objects.filter(pk=run.pk).update(lease_until=timezone.now() - timedelta(seconds=1))
        assert runs.reclaim() == 1
        run.refresh_from_db()
        assert (run.status, run.worker) == ("queued", "")
        if not ended:
            assert process.poll() is None
            process.kill()
        told = process.communicate(timeout=20)[1]
        assert process.returncode == -9 and ("time.sleep" in told or "most recent call first" in told) == ended


@pytest.mark.parametrize("worker", ["", "elsewhere:1", "nobody", "{host}:", "{host}:1x", "{host}:{own}"])
def test_only_workers_of_this_machine_are_ended(worker, monkeypatch):
    monkeypatch.setattr(runs.os, "kill", lambda *_: pytest.fail("killed"))
    runs._end_stuck(worker.format(host=socket.gethostname(), own=os.getpid()))
