"""Sheets at a machine: sent, started once, held, broken off and gone on with, taken off, spoiled; and what their design and the shelf are told."""

from __future__ import annotations

import json
import random
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.contrib.auth import get_user_model
from django.db import connection
from zygon_server.designs import service
from zygon_server.machines import known, running
from zygon_server.machines.models import Job, JobRun
from zygon_server.workshop.models import Offcut, Stock
from zygon_server.workshop.service import stock_the_shelf

from tests.server.conftest import Api
from tests.server.near import Near
from tests.server.test_programs import changed, document, lay
from zygon.design.examples import example
from zygon.program.read import read_program

pytestmark = pytest.mark.django_db


@pytest.fixture
def near(tmp_path, settings, monkeypatch):
    """A laser and a router of the test's own, both homed."""
    found = {1: Near(tmp_path), 2: Near(tmp_path, "router", "bit", 120.0, 500.0)}
    settings.MACHINES = {"laser": ("near", 1), "router": ("near", 2)}
    monkeypatch.setattr(known, "SimulatedLink", lambda host, port: found[port])
    for one in found.values():
        one.machine.home()
    return {"laser": found[1], "router": found[2]}


@pytest.fixture
def laid(api, design):
    lay(api, design)
    return design


@pytest.fixture
def many(api, laid):
    """The design on sheets so small that it takes several."""
    sizes = document(laid)["stocks"]["ply12"]["sheets"]
    small = {"length": {"text": "640 mm"}, "width": {"text": "520 mm"}, "price": 10.0}
    changed(api, laid, {"op": "replace", "path": "/stocks/ply12/sheets", "value": {next(iter(sizes)): small}})
    lay(api, laid)
    assert len(sheets(api, laid, "ply12")) > 1
    return laid


def send(api, design, stock, *numbers, machine="laser", due=None):
    return api.post(f"/designs/{design.pk}/jobs", {"stock": stock, "numbers": list(numbers), "machine": machine, "due": due})


def sent(api, design, stock, *numbers, machine="laser", due=None):
    status, ids = send(api, design, stock, *numbers, machine=machine, due=due)
    assert status == 200, ids
    return ids


def act(api, job, what):
    return api.post(f"/jobs/{job}/acts", {"act": what})


def did(api, job, what):
    status, floor = act(api, job, what)
    assert status == 200, floor
    return floor


def floor(api, machine="laser"):
    return next(m for m in api.get("/machines")[1] if m["name"] == machine)


def state(job):
    return Job.objects.get(pk=job).state


def cut(api, near, job):
    """All of its sides."""
    while state(job) in ("queued", "turn"):
        did(api, job, "start")
        near.goes(1e5)
        api.get("/machines")
    assert state(job) == "cut"


def off(api, job, **marks):
    pieces = [{"key": p["key"], "number": p["number"], "mark": marks.get(p["key"], "off")} for p in Job.objects.get(pk=job).pieces]
    status, answer = api.post(f"/jobs/{job}/pieces", {"marks": pieces})
    assert status == 200, answer


def sheets(api, design, stock):
    design.refresh_from_db()
    return next(s for s in api.get(f"/designs/{design.pk}/nest")[1]["stocks"] if s["stock"] == stock)["layout"]["sheets"]


def laid_pieces(sheet):
    return sorted((p["part"], p["number"], round(p["x"], 6), round(p["y"], 6), round(p["angle"], 6)) for p in sheet["parts"])


# sending


def test_a_sheet_waits_as_it_was_sent_whatever_becomes_of_the_design(api, laid, near):
    before = sheets(api, laid, "ply12")
    (job,) = sent(api, laid, "ply12", 1)
    waits = floor(api)["queue"]
    assert [j["id"] for j in waits] == [job] and waits[0]["state"] == "queued"
    shown = api.get(f"/jobs/{job}")[1]
    assert laid_pieces(shown["sheet"]) == laid_pieces(before[0])
    assert len(shown["pieces"]) == len(before[0]["parts"]) == waits[0]["count"] and all(
        p["code"] and not p["mark"] for p in shown["pieces"]
    )
    text = Job.objects.get(pk=job).sides.get().text
    changed(api, laid, {"op": "replace", "path": "/sizes/width/entry/text", "value": "480 mm"})
    lay(api, laid)
    assert api.get(f"/jobs/{job}")[1] == shown
    assert floor(api)["queue"] == waits and Job.objects.get(pk=job).sides.get().text == text


def test_what_waits_is_held_where_it_lies_and_is_free_again_out_of_the_queue(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    first, *others = sheets(api, laid, "ply12")
    assert all(p["locked"] for p in first["parts"]) and not any(p["locked"] for s in others for p in s["parts"])
    assert laid.edits.last().label == "Sheet 1 of Birch plywood 12 mm to laser"
    assert api.call("DELETE", f"/jobs/{job}")[0] == 200
    assert state(job) == "removed" and floor(api)["queue"] == []
    assert not any(p["locked"] for s in sheets(api, laid, "ply12") for p in s["parts"])
    assert api.call("DELETE", f"/jobs/{job}")[1]["code"] == "not_now"
    sent(api, laid, "ply12", 1)


def test_what_a_maker_had_locked_before_stays_locked_when_the_sheet_leaves_the_queue(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    api.call("DELETE", f"/jobs/{job}")
    arranged = document(laid)["nest"]["arranged"]["ply12"]["sheets"]
    sheet, placed = next((k, p) for k, s in arranged.items() if s["order"] == 0 for p in s["placed"])
    changed(api, laid, {"op": "add", "path": f"/nest/arranged/ply12/sheets/{sheet}/placed/{placed}/locked", "value": True})
    (job,) = sent(api, laid, "ply12", 1)
    api.call("DELETE", f"/jobs/{job}")
    assert [f"{p['part']}#{p['number']}" for s in sheets(api, laid, "ply12") for p in s["parts"] if p["locked"]] == [placed]


def test_a_piece_waits_once_and_all_sheets_are_sent_or_none(api, many, near):
    sent(api, many, "ply12", 1)
    status, fault = send(api, many, "ply12", 1)
    assert (status, fault["code"]) == (422, "waits_already") and "waits at laser already" in fault["message"]
    status, fault = send(api, many, "ply12")
    assert (status, fault["code"]) == (422, "waits_already") and len(floor(api)["queue"]) == 1
    rest = list(range(2, len(sheets(api, many, "ply12")) + 1))
    assert len(sent(api, many, "ply12", *rest)) == len(rest)
    assert [j["number"] for j in floor(api)["queue"]] == [1, *rest]


@pytest.mark.parametrize(
    ("stock", "numbers", "machine", "status", "said"),
    [
        ("ply12", [99], "laser", 404, "not laid out"),
        ("ply12", [0], "laser", 404, "not laid out"),
        ("brick", [1], "laser", 404, "not laid out"),
        ("ply12", [1], "plasma", 404, "no machine"),
        ("ply12", [1], "router", 422, "Router cuts with a bit"),
    ],
)
def test_what_cannot_be_sent_is_said_and_nothing_waits(api, laid, near, stock, numbers, machine, status, said):
    answer = send(api, laid, stock, *numbers, machine=machine)
    assert answer[0] == status and said in answer[1]["message"], answer
    assert not Job.objects.exists() and laid.edits.count() == 0


def test_nothing_is_sent_while_something_is_wrong_with_its_program(api, laid, near):
    changed(api, laid, {"op": "replace", "path": "/cutters/laser/bed_length/text", "value": "300 mm"})
    lay(api, laid)
    status, fault = send(api, laid, "ply12", 1)
    assert (status, fault["code"]) == (422, "program_faults") and not Job.objects.exists()


def test_the_queue_is_ordered_by_hand_and_by_the_day(api, many, near):
    ids = sent(api, many, "ply12") + sent(api, many, "ply6")
    assert len(ids) >= 3

    def order():
        return [j["id"] for j in floor(api)["queue"]]

    assert order() == ids
    assert api.call("PATCH", f"/jobs/{ids[-1]}", {"before": ids[0]})[0] == 200
    assert order() == [ids[-1], *ids[:-1]]
    assert api.call("PATCH", f"/jobs/{ids[-1]}", {"before": ""})[0] == 200
    assert order() == ids
    assert api.call("PATCH", f"/jobs/{ids[1]}", {"due": "2020-02-01"})[0] == 200
    assert api.call("PATCH", f"/jobs/{ids[2]}", {"due": "2020-01-31"})[0] == 200
    assert api.post("/machines/laser/by-due")[0] == 200
    assert order()[:2] == [ids[2], ids[1]] and order()[2:] == [i for i in ids if i not in ids[1:3]]
    assert [j["late"] for j in floor(api)["queue"][:3]] == [True, True, False]
    assert api.call("PATCH", f"/jobs/{ids[1]}", {"due": "soon"})[0] == 422
    assert api.call("PATCH", f"/jobs/{ids[1]}", {"due": ""})[0] == 200
    assert not next(j for j in floor(api)["queue"] if j["id"] == ids[1])["due"]


# on the bed


def test_from_the_queue_to_the_shelf(api, laid, near):
    user = laid.owner
    stock_the_shelf(user)
    before = sheets(api, laid, "ply12")
    size = before[0]["size"]
    assert api.call("PUT", f"/workshop/on-hand/ply12/{size}", {"count": 9})[0] == 200
    (job,) = sent(api, laid, "ply12", 1)
    did(api, job, "start")
    assert near["laser"].machine.status()["state"] == "running"
    near["laser"].goes(20)
    now = floor(api)["on_bed"]
    assert now["state"] == "running" and 0 < now["percent"] < 100 and now["left"] > 0 and now["move"] > 0
    whole = Job.objects.get(pk=job).sides.get().shown["seconds"]
    assert now["percent"] == pytest.approx(100 * 20 / whole, rel=0.02) and now["left"] == pytest.approx(whole - 20, rel=0.02)
    did(api, job, "hold")
    assert floor(api)["on_bed"]["state"] == "held"
    near["laser"].goes(1000)
    assert floor(api)["on_bed"]["percent"] == pytest.approx(now["percent"], abs=0.5)
    did(api, job, "resume")
    near["laser"].goes(1e5)
    now = floor(api)["on_bed"]
    assert (now["state"], now["percent"], now["left"]) == ("cut", 100.0, 0.0)
    status, fault = api.post(f"/jobs/{job}/finish", {})
    assert (status, fault["code"]) == (422, "pieces_left")
    off(api, job)
    status, said = api.post(f"/jobs/{job}/finish", {"place": "rack"})
    assert status == 200
    after = sheets(api, laid, "ply12")
    assert [s["cut"] for s in after] == [True, *[False] * (len(before) - 1)]
    assert laid_pieces(after[0]) == laid_pieces(before[0])
    assert Stock.objects.get(owner=user, key="ply12").on_hand[size] == 8
    shelved = Offcut.objects.filter(owner=user)
    assert all(o.place == "rack" and o.stock == "ply12" for o in shelved)
    assert all(o.label in said[0] for o in shelved) if shelved else "Nothing worth keeping" in said[0]
    assert floor(api)["on_bed"] is None and [j["id"] for j in floor(api)["done"]] == [job]
    # once is enough
    status, fault = api.post(f"/jobs/{job}/finish", {})
    assert status == 422 and Stock.objects.get(owner=user, key="ply12").on_hand[size] == 8
    assert Offcut.objects.filter(owner=user).count() == shelved.count()


def test_a_spoiled_piece_is_laid_out_again_and_the_others_are_not(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    cut(api, near["laser"], job)
    spoiled = Job.objects.get(pk=job).pieces[0]
    off(api, job, **{spoiled["key"]: "spoiled"})
    lost = [(p["key"], p["number"]) for p in Job.objects.get(pk=job).pieces if p["key"] == spoiled["key"]]
    status, said = api.post(f"/jobs/{job}/finish", {})
    assert status == 200 and "back to be nested" in said[1]
    lay(api, laid)
    on_cut = {(p["part"], p["number"]) for s in sheets(api, laid, "ply12") if s["cut"] for p in s["parts"]}
    on_rest = {(p["part"], p["number"]) for s in sheets(api, laid, "ply12") if not s["cut"] for p in s["parts"]}
    all_ = {(p["key"], p["number"]) for p in Job.objects.get(pk=job).pieces}
    assert on_cut == all_ - set(lost) and set(lost) <= on_rest


def test_what_has_changed_since_is_cut_as_it_was_and_stays_to_be_cut(api, laid, near):
    (job,) = sent(api, laid, "ply6", 1)
    changed(api, laid, {"op": "replace", "path": "/sizes/width/entry/text", "value": "480 mm"})
    lay(api, laid)
    cut(api, near["laser"], job)
    off(api, job)
    status, said = api.post(f"/jobs/{job}/finish", {})
    assert status == 200 and "changed in the design since revision" in said[-1], said
    lay(api, laid)
    assert not any(s["cut"] for s in sheets(api, laid, "ply6"))


def test_a_sheet_of_a_deleted_design_is_cut_all_the_same(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    service.delete(laid)
    cut(api, near["laser"], job)
    off(api, job)
    assert api.post(f"/jobs/{job}/finish", {})[0] == 200


def test_both_faces_are_cut_one_after_the_other_and_the_sheet_is_turned_between(api, maker, near):
    design = service.create(maker, example("hive-floor"))
    lay(api, design)
    (job,) = sent(api, design, "ply18", 1, machine="router")
    assert floor(api, "router")["queue"][0]["turned"] and floor(api, "router")["queue"][0]["bits"]
    did(api, job, "start")
    assert floor(api, "router")["on_bed"]["under"]
    near["router"].goes(1e5)
    now = floor(api, "router")["on_bed"]
    assert (now["state"], now["side"], now["percent"]) == ("turn", 1, 0.0)
    assert act(api, job, "hold")[1]["code"] == "not_now"
    did(api, job, "start")
    now = floor(api, "router")["on_bed"]
    assert (now["state"], now["under"], now["side"]) == ("running", False, 1)
    near["router"].goes(1e5)
    assert floor(api, "router")["on_bed"]["state"] == "cut"
    texts = [s.text for s in Job.objects.get(pk=job).sides.all()]
    assert [r.text for r in JobRun.objects.filter(job=job).order_by("number")] == texts


# once


def test_two_operators_start_a_sheet_once(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    did(api, job, "start")
    status, fault = act(api, job, "start")
    assert (status, fault["code"]) == (422, "not_now") and "started already" in fault["message"]
    assert len(near["laser"].starts()) == 1


def test_one_sheet_lies_on_a_bed(api, many, near):
    first, second = sent(api, many, "ply12", 1, 2)
    did(api, first, "start")
    for _ in range(2):
        status, fault = act(api, second, "start")
        assert (status, fault["code"]) == (422, "bed_taken") and "Sheet 1 of" in fault["message"]
        near["laser"].goes(1e5)
    off(api, first)
    api.post(f"/jobs/{first}/finish", {})
    did(api, second, "start")
    assert state(second) == "running" and len(near["laser"].starts()) == 2


def test_another_maker_s_sheet_on_the_bed_is_said_without_a_name(api, laid, near):
    other = get_user_model().objects.create_user("other", password="a long enough one")
    theirs = Api(other)
    design = service.create(other, example("brood-box"))
    lay(theirs, design)
    (job,) = sent(theirs, design, "ply12", 1)
    (mine,) = sent(api, laid, "ply12", 1)
    did(theirs, job, "start")
    assert floor(api)["taken"] and floor(api)["on_bed"] is None
    status, fault = act(api, mine, "start")
    assert (status, fault["code"]) == (422, "bed_taken") and fault["message"].startswith("Another maker's sheet")
    assert act(api, job, "hold")[0] == 404 and api.call("DELETE", f"/jobs/{job}")[0] == 404
    assert api.post("/machines/laser/home")[1]["code"] == "bed_taken"


def test_an_answer_that_is_lost_starts_nothing_twice(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    near["laser"].lost = True
    status, fault = act(api, job, "start")
    assert (status, fault["code"]) == (422, "no_word") and "not begun twice" in fault["message"]
    near["laser"].lost = False
    # it runs, whatever was thought here: that is seen, and a second start is refused
    status, fault = act(api, job, "start")
    assert (status, fault["code"]) == (422, "not_now")
    assert state(job) == "running" and len(near["laser"].starts()) == 1


def test_a_program_that_never_came_through_waits_again_and_is_started_under_the_same_name(api, laid, near, monkeypatch):
    (job,) = sent(api, laid, "ply12", 1)
    near["laser"].silent = True
    status, fault = act(api, job, "start")
    assert (status, fault["code"]) == (422, "no_word")
    assert state(job) == "starting" and floor(api)["answers"] is False
    near["laser"].silent = False
    api.get("/machines")
    assert state(job) == "starting", "it may be on its way still"
    monkeypatch.setattr(running, "GIVEN_OUT", running.GIVEN_OUT * 0)
    now = floor(api)
    assert state(job) == "queued" and "did not reach the machine" in now["queue"][0]["said"]
    did(api, job, "start")
    assert state(job) == "running" and JobRun.objects.filter(job=job).count() == 1


def test_a_machine_that_is_not_homed_says_so_and_the_sheet_waits_on(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    near["laser"].power_on()
    status, fault = act(api, job, "start")
    assert (status, fault["code"]) == (422, "not_ready") and "Home it first" in fault["message"]
    assert state(job) == "queued" and floor(api)["status"]["state"] == "unhomed"
    assert api.post("/machines/laser/home")[0] == 200
    did(api, job, "start")


@pytest.mark.django_db(transaction=True)
def test_many_at_once_start_a_sheet_once(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)

    def one(_):
        try:
            return act(Api(laid.owner), job, "start")[0]
        finally:
            connection.close()

    with ThreadPoolExecutor(6) as pool:
        found = sorted(pool.map(one, range(6)))
    assert found == [200, 422, 422, 422, 422, 422]
    assert len(near["laser"].starts()) == 1


# broken off


def test_after_the_power_was_gone_it_goes_on_where_it_was(api, laid, near):
    laser = near["laser"]
    (job,) = sent(api, laid, "ply12", 1)
    did(api, job, "start")
    laser.goes(30)
    before = floor(api)["on_bed"]
    laser.goes(1)
    laser.power_on()
    now = floor(api)["on_bed"]
    assert now["state"] == "interrupted" and "lost its power" in now["said"]
    assert now["percent"] == pytest.approx(before["percent"], abs=1.0) and now["move"] >= before["move"]
    assert act(api, job, "go_on")[1]["code"] == "not_ready" and state(job) == "interrupted"
    api.post("/machines/laser/home")
    did(api, job, "go_on")
    assert floor(api)["on_bed"]["percent"] == pytest.approx(now["percent"], abs=2.0)
    laser.goes(1e5)
    assert floor(api)["on_bed"]["state"] == "cut"
    # both runs together are the whole, and a lead more
    done = [r for r in laser.journal.records() if r["what"] == "cut" and r["on"]]
    assert {r["run"] for r in done} == {r.name for r in JobRun.objects.filter(job=job)} and len({r["run"] for r in done}) == 2


@pytest.mark.parametrize("seed", range(3))
def test_whatever_comes_between_all_is_cut_and_nothing_twice_beyond_a_lead(api, laid, near, seed):
    chance, laser = random.Random(seed), near["laser"]
    (job,) = sent(api, laid, "ply6", 1)
    did(api, job, "start")
    side = Job.objects.get(pk=job).sides.get()
    breaks = 0
    for _ in range(400):
        laser.goes(chance.uniform(0, side.shown["seconds"] / 12))
        now = floor(api)["on_bed"]["state"]
        if now == "cut":
            break
        if now == "interrupted":
            breaks += 1
            api.post("/machines/laser/home")
            did(api, job, "go_on")
        else:
            what = chance.choice(["power", "power", "stop", "hold", "start", "silence", "go_on"])
            if what == "power":
                laser.power_on()
            elif what == "silence":
                laser.silent = True
                act(api, job, "hold")
                laser.silent = False
            else:
                act(api, job, what)
                if what == "hold":
                    laser.goes(100)
                    act(api, job, "resume")
    assert state(job) == "cut" and breaks >= 4
    moves = {r.name: read_program(r.text).moves for r in JobRun.objects.filter(job=job)}
    assert len(moves) == breaks + 1 and len(laser.starts()) == breaks + 1
    done = sum((r["to"] - r["from"]) * moves[r["run"]][r["move"]].length for r in laser.journal.records() if r["what"] == "cut" and r["on"])
    planned = sum(m.length for m in read_program(side.text).moves if m.on and m.kind in ("line", "arc"))
    assert planned * 0.999 <= done <= planned * 1.001 + breaks * side.overlap


def test_stopped_it_can_be_given_up_and_what_is_not_cut_out_is_spoiled(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    did(api, job, "start")
    shown = Job.objects.get(pk=job).sides.get().shown
    outs = [c for c in shown["cuts"] if c["operation"] == "outside"]
    near["laser"].goes(shown["t"][outs[0]["last"] - 1] + 0.5)
    did(api, job, "stop")
    assert state(job) == "interrupted" and Job.objects.get(pk=job).said == "Stopped."
    did(api, job, "give_up")
    marks = Job.objects.get(pk=job).marks
    free = f"{outs[0]['key']}#{outs[0]['copy']}"
    assert free not in marks and set(marks.values()) == {"spoiled"} and len(marks) == len(outs) - 1
    api.post(f"/jobs/{job}/pieces", {"marks": [{"key": outs[0]["key"], "number": outs[0]["copy"], "mark": "off"}]})
    assert api.post(f"/jobs/{job}/finish", {})[0] == 200
    lay(api, laid)
    on_cut = [p for s in sheets(api, laid, "ply12") if s["cut"] for p in s["parts"]]
    assert [(p["part"], p["number"]) for p in on_cut] == [(outs[0]["key"], outs[0]["copy"])]


def test_an_alarm_is_told_with_its_reason(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    near["laser"].machine.machine = near["laser"].machine.machine.__class__(350.0, 3000.0, (100.0, 100.0))
    did(api, job, "start")
    near["laser"].goes(1e4)
    now = floor(api)
    assert (
        now["on_bed"]["state"] == "interrupted" and "leaves the bed of 100" in now["on_bed"]["said"] and now["status"]["state"] == "alarm"
    )


def test_a_dead_line_is_said_and_what_ran_on_meanwhile_is_taken_over(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    did(api, job, "start")
    near["laser"].silent = True
    now = floor(api)
    assert not now["answers"] and now["on_bed"]["state"] == "running" and now["status"] is None
    near["laser"].goes(1e5)
    near["laser"].silent = False
    assert floor(api)["on_bed"]["state"] == "cut"


def test_pieces_are_accounted_for_only_while_the_sheet_lies_there(api, laid, near):
    (job,) = sent(api, laid, "ply12", 1)
    piece = {"key": Job.objects.get(pk=job).pieces[0]["key"], "number": 0, "mark": "off"}
    assert api.post(f"/jobs/{job}/pieces", {"marks": [piece]})[1]["code"] == "not_now"
    did(api, job, "start")
    assert api.post(f"/jobs/{job}/pieces", {"marks": [piece]})[0] == 200
    assert api.post(f"/jobs/{job}/pieces", {"marks": [{**piece, "key": "nobody"}]})[0] == 404
    assert [p["mark"] for p in floor(api)["on_bed"]["pieces"]].count("off") == 1
    assert api.post(f"/jobs/{job}/pieces", {"marks": [{**piece, "mark": ""}]})[0] == 200
    assert [p["mark"] for p in floor(api)["on_bed"]["pieces"]].count("off") == 0


def test_what_plays_a_sheet_is_what_was_sent(api, laid, near):
    played = api.get(f"/designs/{laid.pk}/programs/ply12/1")[1]
    (job,) = sent(api, laid, "ply12", 1)
    assert api.get(f"/jobs/{job}/program")[1] == json.loads(json.dumps(played))
    assert api.get(f"/jobs/{job}/program?side=1")[0] == 404
