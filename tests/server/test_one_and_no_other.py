"""What is done to one run, layout, offcut or record is done to that one alone, and each refusal says its code, entry, value and rule."""

from datetime import timedelta

import pytest
from django.utils import timezone
from zygon_server.designs import service as designs
from zygon_server.nesting import layouts, runs, searching
from zygon_server.nesting.models import NestRun
from zygon_server.nesting.tasks import work_runs
from zygon_server.workshop import offcuts
from zygon_server.workshop.models import Offcut

from tests.server.conftest import QUICK, Api, text
from zygon.design.starters import starter
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon, rectangle

Status = NestRun.Status
L_SHAPE = Region(polygon([(0, 0), (300, 0), (300, 80), (120, 80), (120, 200), (0, 200)], "o"), ())


@pytest.fixture
def tray(maker):
    return designs.create(maker, starter("tray", "Tray"))


# -- runs --------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("running", [False, True])
def test_stopping_one_run_leaves_all_others(api, box, tray, running):
    mine, other = runs.ask(box, quick=False, seconds=60), runs.ask(tray, quick=False, seconds=60)
    if running:
        assert {runs.claim("one").pk, runs.claim("two").pk} == {mine.pk, other.pk}
    assert api.call("DELETE", f"/designs/{box.pk}/nest/{mine.pk}")[0] == 200
    mine.refresh_from_db()
    other.refresh_from_db()
    assert (mine.status, mine.cancel) == ((Status.RUNNING, True) if running else (Status.CANCELLED, False))
    assert (other.status, other.cancel) == (Status.RUNNING if running else Status.QUEUED, False)
    assert api.call("DELETE", f"/designs/{box.pk}/nest/not-an-id")[0] == 404


def test_a_run_that_is_stopped_is_closed_as_that(box):
    run = runs.ask(box, quick=False, seconds=60)
    claimed = runs.claim("w")
    NestRun.objects.filter(pk=run.pk).update(cancel=True)
    searching.work(claimed)
    run.refresh_from_db()
    assert run.status == Status.CANCELLED and run.finished and run.best is None


@pytest.mark.parametrize("over", [-1, 1])
def test_a_run_is_taken_from_its_worker_only_when_its_lease_is_over(box, tray, over):
    run, other = runs.ask(box, quick=False, seconds=60), runs.ask(tray, quick=False, seconds=60)
    runs.claim("one"), runs.claim("two")
    run.refresh_from_db()
    assert run.lease_until - run.heartbeat == timedelta(seconds=20) and run.attempts == 1
    NestRun.objects.filter(pk=run.pk).update(lease_until=timezone.now() - timedelta(seconds=over))
    assert runs.reclaim() == (1 if over > 0 else 0)
    run.refresh_from_db()
    other.refresh_from_db()
    assert (run.status, run.worker) == ((Status.QUEUED, "") if over > 0 else (Status.RUNNING, "one"))
    assert other.status == Status.RUNNING


def test_a_run_whose_worker_dies_again_and_again_is_given_up_and_a_stopped_one_is_closed(box, tray):
    gone = timezone.now() - timedelta(seconds=1)
    run, other = runs.ask(box, quick=False, seconds=60), runs.ask(tray, quick=False, seconds=60)
    for n in range(1, runs.MOST_ATTEMPTS + 1):
        assert {runs.claim("a").pk, *({runs.claim("b").pk} if n == 1 else set())} >= {run.pk}
        NestRun.objects.filter(pk=run.pk).update(lease_until=gone)
        runs.reclaim()
        run.refresh_from_db()
        assert run.attempts == n and run.status == (Status.FAILED if n == runs.MOST_ATTEMPTS else Status.QUEUED)
    assert "died" in run.error and run.finished
    NestRun.objects.filter(pk=other.pk).update(lease_until=gone, cancel=True)
    assert runs.reclaim() == 1
    other.refresh_from_db()
    assert (other.status, other.error) == (Status.CANCELLED, "")


def test_the_oldest_is_taken_first_and_quick_ones_by_those_who_ask_for_them(box, tray):
    first, second = runs.ask(box, quick=False, seconds=60), runs.ask(tray)
    NestRun.objects.filter(pk=first.pk).update(created=timezone.now() - timedelta(minutes=1))
    assert (first.quick, second.quick, first.seconds, second.seconds) == (False, True, 60, runs.QUICK_SECONDS)
    assert QUICK == 0.8
    assert runs.claim("any").pk == first.pk
    assert runs.claim("q", quick=False) is None and runs.claim("q", quick=True).pk == second.pk


@pytest.mark.parametrize(("asked", "given"), [(None, None), (0.1, 0.2), (0.2, 0.2), (5.0, 5.0), (120.0, 120.0), (121.0, 120.0)])
def test_a_search_takes_as_long_as_asked_within_its_bounds(asked, given):
    assert runs.bounded(asked) == given


def test_a_run_s_progress_best_and_course_are_told_while_it_goes_on(box, monkeypatch):
    monkeypatch.setattr(searching, "BEAT", timedelta(0))
    run = runs.ask(box, quick=False, seconds=0.6)
    seen = []
    monkeypatch.setattr(
        searching,
        "keep_layout",
        lambda s, r, data, keep=layouts.keep_layout: (seen.append(NestRun.objects.get(pk=run.pk)), keep(s, r, data))[1],
    )
    searching.work(runs.claim("w"))
    run.refresh_from_db()
    assert seen and run.status == Status.DONE and run.progress == 1.0 and run.best is None
    assert all(0 <= s.progress <= 1 for s in seen)
    row = box.layouts.first()
    assert row.revision == box.revision
    last = run.trace[-1]
    assert (last["stock"], last["sheets"], last["cost"]) == (row.stock, len(row.data["sheets"]), pytest.approx(row.data["sheet_cost"]))
    assert [t["at"] for t in run.trace] == sorted(t["at"] for t in run.trace) and 0 < last["tightness"] <= 1


def test_a_quick_run_shares_its_time_and_leaves_stocks_that_stand(design, monkeypatch):
    asked = []
    real = searching.lay_out
    monkeypatch.setattr(
        searching, "lay_out", lambda d, p, **more: (asked.append((p.stock, more["seconds"], more["search"])), real(d, p, **more))[1]
    )
    runs.ask(design)
    searching.work(runs.claim("w"))
    stocks = {r.stock for r in design.layouts.all()}
    assert {a[0] for a in asked} == stocks and len(stocks) > 1
    assert all(a[1] == pytest.approx(runs.QUICK_SECONDS / len(stocks)) and a[2] is False for a in asked)
    design.layouts.filter(stock="ply12").delete()
    asked.clear()
    runs.ask(design)
    searching.work(runs.claim("w"))
    assert [(a[0], a[1]) for a in asked] == [("ply12", pytest.approx(runs.QUICK_SECONDS))]
    assert runs.ask(design) is None


# -- layouts -----------------------------------------------------------------------------------------------------------


def test_an_earlier_layout_is_not_listed_twice_and_says_whether_its_flats_are_those_of_now(api, box):
    runs.ask(box)
    searching.work(runs.claim("w"))
    first = api.get(f"/designs/{box.pk}/nest")[1]["stocks"][0]
    assert first["current"] and first["earlier"] == [] and first["revision"] == 1 and first["found"] is None
    size = next(iter(api.get(f"/designs/{box.pk}")[1]["document"]["sizes"]))
    assert api.edit(box, 1, text(size, "333"))[0] == 200
    box.refresh_from_db()
    between = api.get(f"/designs/{box.pk}/nest")[1]["stocks"][0]
    assert not between["current"] and between["layout"]["digest"] == first["layout"]["digest"] and between["earlier"] == []
    runs.ask(box)
    searching.work(runs.claim("w"))
    after = api.get(f"/designs/{box.pk}/nest")[1]["stocks"][0]
    assert after["current"] and after["revision"] == 2
    assert [(e["revision"], e["stale"], e["hand"], e["sheets"]) for e in after["earlier"]] == [
        (1, True, False, len(first["layout"]["sheets"]))
    ]


# -- designs -----------------------------------------------------------------------------------------------------------


def test_counts_names_and_copies_are_of_one_design(api, maker, box):
    other = designs.create(maker, starter("open-box", "Another"))
    type(box).objects.filter(pk=other.pk).update(parts=99, problems=98)
    designs.counted(box)
    other.refresh_from_db()
    assert (other.parts, other.problems) == (99, 98) and box.parts == 5
    assert api.post(f"/designs/{box.pk}/name", {"name": "N" * 80})[0] == 200
    box.refresh_from_db()
    status, copied = api.post(f"/designs/{box.pk}/copy", {})
    assert status == 200 and copied["name"] == ("N" * 80 + " (copy)")[:80] and len(copied["name"]) == 80
    found = {d["id"]: d for d in api.get("/designs")[1]}
    assert found[copied["id"]]["parts"] == 5 and found[copied["id"]]["name"] == copied["name"]


def test_a_value_that_is_dragged_is_tried_without_the_order_of_assembly(monkeypatch, design):
    asked = []
    real = designs.check
    monkeypatch.setattr(designs, "check", lambda built, **more: (asked.append(more), real(built, **more))[1])
    designs.preview(design, [text("width", "431")])
    assert [a.get("assembled") for a in asked] == [False] and all(a["plan"] is designs.known_plan for a in asked)


# -- shelf and workshop ------------------------------------------------------------------------------------------------


def shelved(maker, region=L_SHAPE, **more):
    return offcuts.keep_offcut(maker, "ply12", "Ply", 11.8, region, **more)


def test_labels_go_on_and_texts_are_cut_to_their_room(maker):
    one, two = shelved(maker, origin="o" * 130, place="p" * 90), shelved(maker)
    assert (one.label, two.label, len(one.origin), len(one.place)) == ("R1", "R2", 120, 80)
    assert one.area == pytest.approx(300 * 80 + 120 * 120)


def test_an_offcut_is_reserved_once_set_free_squared_used_up_and_thrown_away_alone(api, maker, box, tray):
    first, second = shelved(maker), shelved(maker, Region(rectangle(0, 0, 100, 50), ()))
    assert api.call("PATCH", "/offcuts/R1", {"reserved": str(box.pk)})[1]["reserved_name"] == box.name
    assert api.call("PATCH", "/offcuts/R1", {"reserved": str(box.pk)})[0] == 200  # by the same design again
    status, fault = api.call("PATCH", "/offcuts/R1", {"reserved": str(tray.pk)})
    assert status == 422 and (fault["code"], fault["entry"], fault["value"], fault["rule"]) == ("refused", "R1", box.name, "reserved once")
    assert api.call("PATCH", "/offcuts/R1", {"reserved": ""})[1]["reserved"] == ""
    data = {o["label"]: o for o in api.get("/offcuts")[1]}
    assert (data["R1"]["rectangle"], data["R2"]["rectangle"]) == (False, True)
    assert (data["R1"]["length"], data["R1"]["width"], data["R1"]["area"]) == (300, 200, pytest.approx(38400))
    squared = api.call("PATCH", "/offcuts/R1", {"square": True})[1]
    assert squared["rectangle"] and squared["area"] == pytest.approx(300 * 80) == pytest.approx(squared["length"] * squared["width"])
    offcuts.use_up(maker, "R1", box)
    first.refresh_from_db()
    second.refresh_from_db()
    assert (first.state, first.reserved_id, second.state, second.reserved_id) == (Offcut.State.USED, box.pk, Offcut.State.SHELF, None)
    assert [o["label"] for o in api.get("/offcuts")[1]] == ["R2"]
    status, fault = api.call("PATCH", "/offcuts/R1", {"place": "x"})
    assert status == 422 and fault["rule"] == "on the shelf"
    assert api.call("DELETE", "/offcuts/R2")[0] in (200, 204) and api.get("/offcuts")[1] == []
    for label in ("R9", "R", "Rx", "9x"):
        assert api.call("DELETE", f"/offcuts/{label}")[0] == 404


@pytest.mark.parametrize(("taken", "is_one"), [(0.9, True), (1.1, False)])
def test_what_is_a_rectangle_but_for_a_square_millimetre_is_one(maker, taken, is_one):
    skewed = Region(polygon([(0, 0), (100, 0), (100, 50), (taken / 25, 50)], "o"), ())  # a sliver of ``taken`` mm²
    assert offcuts.offcut_data(shelved(maker, skewed))["rectangle"] == is_one


def test_a_record_is_kept_changed_and_removed_alone(api, box):
    kept = box.document["stocks"]
    stock = next(iter(kept.values()))
    before = api.get("/workshop")[1]
    for key in ("one", "two"):
        assert api.call("PUT", f"/workshop/stocks/{key}", {**stock, "name": key})[0] in (200, 204)
    assert api.call("PUT", "/workshop/stocks/one", {**stock, "name": "changed"})[0] in (200, 204)
    names = {k: v["name"] for k, v in api.get("/workshop")[1]["stocks"].items() if k in ("one", "two")}
    assert names == {"one": "changed", "two": "two"}
    assert api.call("DELETE", "/workshop/stocks/one")[0] in (200, 204)
    assert set(api.get("/workshop")[1]["stocks"]) == {*before["stocks"], "two"}
    assert api.call("DELETE", "/workshop/stocks/one")[0] == 404 and api.call("DELETE", "/workshop/chairs/one")[0] == 404
    status, fault = api.call("PUT", "/workshop/stocks/three", {**stock, "grain": "sideways"})
    assert status == 422 and fault["entry"].startswith("stocks/three/grain") and fault["value"] == "sideways" and fault["rule"]
    assert {g for g, v in before.items() if isinstance(v, dict)} >= {"stocks", "cutters", "fits", "brakes"}


def test_refusals_have_their_code_and_say_no_more_than_that(db):
    stranger = Api()
    status, fault = stranger.get("/designs")
    assert (status, fault) == (401, {"code": "signed_out", "message": "You are not signed in."})


def test_what_is_too_large_is_refused_with_its_figure(api, box):
    note = "x" * 5_000_000
    status, fault = api.edit(box, 1, {"op": "add", "path": "/note", "value": note})
    assert status in (413, 422)
    if status == 422:
        assert (
            fault["code"] == "too_large"
            and fault["value"] > 5_000_000
            and "at most" in fault["rule"]
            and set(fault) == {"code", "message", "entry", "value", "rule"}
        )


# -- numbers of sheets, and queues -------------------------------------------------------------------------------------


def test_each_queue_works_its_own(box, tray):
    search, quick = runs.ask(box, quick=False, seconds=60), runs.ask(tray)
    assert work_runs.func(quick=True) == 1
    search.refresh_from_db()
    quick.refresh_from_db()
    assert (search.status, quick.status) == (Status.QUEUED, Status.DONE) and work_runs.func(quick=True) == 0


def test_a_search_takes_the_design_s_time_where_none_is_asked_for(box):
    assert runs.ask(box, quick=False).seconds == box.document["nest"]["seconds"] != runs.QUICK_SECONDS


def test_sheets_are_numbered_from_one_to_the_last(api, box):
    runs.ask(box)
    searching.work(runs.claim("w"))
    stock = api.get(f"/designs/{box.pk}/nest")[1]["stocks"][0]
    last = len(stock["layout"]["sheets"])
    batch = api.post("/batches", {"name": "B", "items": [{"design": str(box.pk), "quantity": 1}]})[1]["id"]
    api.post(f"/batches/{batch}/nest", {"quick": True})
    work_runs.func()
    together = api.get(f"/batches/{batch}/nest")[1]["stocks"][0]
    for number, fine in ((0, False), (1, True), (last, True), (last + 1, False), (-1, False)):
        for path in (
            f"/designs/{box.pk}/files/sheets/{stock['stock']}/{number}",
            f"/batches/{batch}/files/sheets/{together['digest']}/{number}",
        ):
            assert api.get(path)[0] == (200 if fine else 404), (path, fine)
        status, _ = api.post(f"/designs/{box.pk}/nest/offcuts", {"stock": stock["stock"], "number": number, "place": ""})
        assert status == (422 if fine else 404)  # not marked as cut
    assert api.get(f"/batches/{batch}/files/sheets/{stock['digest']}x/1")[0] == 404


def test_a_sheet_that_is_cut_has_no_room_and_the_others_have(api, box):
    from tests.server.test_arranging import arrangement

    runs.ask(box)
    searching.work(runs.claim("w"))
    stock = api.get(f"/designs/{box.pk}/nest")[1]["stocks"][0]
    part = stock["layout"]["sheets"][0]["parts"][0]
    body = {"stock": stock["stock"], "part": part["part"], "number": part["number"], "angle": part["angle"], "mirrored": False}
    before = api.post(f"/designs/{box.pk}/nest/room", body)[1]["rooms"]
    assert all(before) and len(before) == len(stock["layout"]["sheets"]) + 1
    hand = arrangement(stock["layout"])
    hand["sheets"]["s0"]["cut"] = True
    assert api.edit(box, 1, {"op": "add", "path": f"/nest/arranged/{stock['stock']}", "value": hand})[0] == 200
    after = api.post(f"/designs/{box.pk}/nest/room", body)[1]["rooms"]
    assert len(after) == len(before) and after[0] == [] and after[-1] == before[-1]
