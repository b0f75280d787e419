"""Sheets of designs cut together at a machine: sent once, left out of what is laid out, spoiled pieces come back, and programs say what they are of."""

from __future__ import annotations

import pytest
from django.db import connection
from zygon_server.designs import service
from zygon_server.machines.models import Job
from zygon_server.nesting import runs
from zygon_server.nesting.models import Batch
from zygon_server.nesting.tasks import work_runs
from zygon_server.nesting.work import together
from zygon_server.workshop.models import Stock
from zygon_server.workshop.service import stock_the_shelf

from tests.server.test_jobs import did, near  # noqa: F401
from zygon.design.examples import example

pytestmark = pytest.mark.django_db


@pytest.fixture
def batch(maker):
    made = Batch.objects.create(owner=maker, name="Autumn")
    for name, times in (("brood-box", 4), ("entrance-disc", 3)):
        made.items.create(design=service.create(maker, example(name)), quantity=times)
    lay(made)
    return made


def lay(batch):
    runs.ask(batch)
    work_runs.func()


def seen(api, batch):
    return api.get(f"/batches/{batch.pk}/nest")[1]


def stock_of(api, batch, stock):
    return next((s for s in seen(api, batch)["stocks"] if s["stock"] == stock), None)


def send(api, batch, stock, *numbers):
    body = {"digest": stock_of(api, batch, stock)["digest"], "numbers": list(numbers), "machine": "laser"}
    return api.post(f"/batches/{batch.pk}/jobs", body)


def wanted(batch, stock):
    return sum(t.plan.copies for t in together(batch) if t.plan.stock == stock)


def through(api, near_, job, spoiled=()):
    did(api, job, "start")
    near_["laser"].goes(1e6)
    api.get("/machines")
    pieces = Job.objects.get(pk=job).pieces
    marks = [{"key": p["key"], "number": p["number"], "mark": "spoiled" if k in spoiled else "off"} for k, p in enumerate(pieces)]
    assert api.post(f"/jobs/{job}/pieces", {"marks": marks})[0] == 200
    status, told = api.post(f"/jobs/{job}/finish", {"place": ""})
    assert status == 200, told
    return told


def test_what_is_sent_is_not_laid_out_any_more_and_comes_back_when_it_is_taken_out(api, batch, near):  # noqa: F811
    before = wanted(batch, "ply6")
    status, ids = send(api, batch, "ply6", 1)
    assert status == 200 and len(ids) == 1
    job = Job.objects.get(pk=ids[0])
    assert wanted(batch, "ply6") == before - len(job.pieces) and seen(api, batch)["waiting"] == len(job.pieces)
    lay(batch)
    assert api.call("DELETE", f"/jobs/{ids[0]}")[0] == 200
    assert wanted(batch, "ply6") == before and seen(api, batch)["waiting"] == 0


def test_all_sheets_of_a_stock_at_once(api, batch, near):  # noqa: F811
    count = len(stock_of(api, batch, "ply12")["layout"]["sheets"])
    status, ids = send(api, batch, "ply12")
    assert status == 200 and len(ids) == count > 1
    assert stock_of(api, batch, "ply12") is None and wanted(batch, "ply12") == 0
    told = api.get("/machines")[1][0]["queue"]
    assert [j["number"] for j in told] == list(range(1, count + 1)) and {j["batch"] for j in told} == {str(batch.pk)}
    assert {(j["name"], j["revision"], j["design"]) for j in told} == {("Autumn", 0, "")}


def test_a_sheet_is_sent_once_however_often_it_is_asked_for(api, batch, near):  # noqa: F811
    body = {"digest": stock_of(api, batch, "ply6")["digest"], "numbers": [1], "machine": "laser"}
    assert api.post(f"/batches/{batch.pk}/jobs", body)[0] == 200
    assert api.post(f"/batches/{batch.pk}/jobs", body)[0] == 404  # that layout is not there any more
    assert Job.objects.count() == 1


def test_two_that_send_at_the_same_moment_send_once(api, batch, near, monkeypatch):  # noqa: F811
    from zygon_server.machines import sending

    body = {"digest": stock_of(api, batch, "ply6")["digest"], "numbers": [1], "machine": "laser"}
    plain, answers = sending._frozen, []

    def slow(*a):
        monkeypatch.setattr(sending, "_frozen", plain)
        answers.append(api.post(f"/batches/{batch.pk}/jobs", body)[0])  # another tab, while the first still writes its program
        return plain(*a)

    monkeypatch.setattr(sending, "_frozen", slow)
    answers.append(api.post(f"/batches/{batch.pk}/jobs", body)[0])
    assert sorted(answers) == [200, 404] and Job.objects.count() == 1
    assert connection.in_atomic_block  # the test's own


def test_programs_say_of_which_designs_they_are_and_pieces_whose_they_are(api, batch, near):  # noqa: F811
    ids = send(api, batch, "ply6")[1]
    heads = [Job.objects.get(pk=i).sides.get().text.splitlines() for i in ids]
    first = next(line for line in heads[0] if line.startswith("(Autumn"))
    assert "revision 1" in first
    parts = {p["part"].split(": ")[0] for i in ids for p in Job.objects.get(pk=i).pieces}
    names = {i.design.name for i in batch.items.select_related("design")}
    assert parts <= names and all(name in " ".join(line for h in heads for line in h[:8]) for name in parts)
    shown = Job.objects.get(pk=ids[0]).sides.get().shown
    assert all(": " in c["part"] and c["code"] for c in shown["cuts"])


def test_a_sheets_program_is_a_file_too(api, batch):
    digest = stock_of(api, batch, "ply6")["digest"]
    answer = api.client.get(f"/api/batches/{batch.pk}/files/programs/{digest}/1")
    assert answer.status_code == 200 and b"(Autumn: " in answer.content and answer.content.rstrip().endswith(b"M30")
    assert api.client.get(f"/api/batches/{batch.pk}/files/programs/{digest}/9").status_code == 404
    assert api.client.get(f"/api/batches/{batch.pk}/files/programs/{digest}/1?under=true").status_code == 422
    assert api.client.get(f"/api/batches/{batch.pk}/files/programs/none/1").status_code == 404


def test_good_pieces_are_cut_for_good_and_spoiled_ones_are_laid_out_again(api, batch, near, maker):  # noqa: F811
    stock_the_shelf(maker)
    Stock.objects.filter(owner=maker, key="ply6").update(on_hand={stock_of(api, batch, "ply6")["layout"]["sheets"][0]["size"]: 9})
    before = wanted(batch, "ply6")
    job = send(api, batch, "ply6", 1)[1][0]
    on = len(Job.objects.get(pk=job).pieces)
    told = through(api, near, job, spoiled=(0, 1))
    assert any("2 spoiled pieces go back" in t for t in told)
    assert wanted(batch, "ply6") == before - on + 2
    assert (seen(api, batch)["waiting"], seen(api, batch)["cut"]) == (0, on - 2)
    assert list(Stock.objects.get(owner=maker, key="ply6").on_hand.values()) == [8]
    lay(batch)
    assert sum(len(s["parts"]) for s in stock_of(api, batch, "ply6")["layout"]["sheets"]) == before - on + 2


def test_a_part_that_changed_since_is_cut_again(api, batch, near):  # noqa: F811
    disc = next(i.design for i in batch.items.select_related("design") if "disc" in i.design.name.lower())
    job = send(api, batch, "ply6", 1)[1][0]
    pieces = Job.objects.get(pk=job).pieces
    mine = [p for p in pieces if p["key"].startswith(disc.pk.hex)]
    assert mine
    before = wanted(batch, "ply6")
    size = next(iter(disc.document["sizes"] if isinstance(disc.document, dict) else service.head(disc).document.sizes))
    value = service.head(disc).document.sizes[size].entry.text
    number = float(value.split()[0]) * 1.05
    patch = {"op": "replace", "path": f"/sizes/{size}/entry/text", "value": f"{number:.3f} mm"}
    assert api.edit(disc, 1, patch)[0] == 200
    changed = wanted(batch, "ply6")
    assert changed > before
    assert any("changed in the design" in t for t in through(api, near, job))
    assert wanted(batch, "ply6") == changed


def test_a_problem_of_any_of_the_designs_keeps_its_sheet_here(api, batch, near):  # noqa: F811
    box = next(i.design for i in batch.items.select_related("design") if "box" in i.design.name.lower())
    cutter = service.head(box).document.cutter
    patch = {"op": "replace", "path": f"/cutters/{cutter}/bed_length/text", "value": "100 mm"}
    assert api.edit(box, 1, patch)[0] == 200
    lay(batch)
    status, said = send(api, batch, "ply12", 1)
    assert status == 422 and said["code"] == "program_faults" and Job.objects.count() == 0


def test_a_design_for_a_router_is_not_cut_on_the_laser_of_another(api, batch, near, maker):  # noqa: F811
    batch.items.create(design=service.create(maker, example("inner-cover")), quantity=1)
    lay(batch)
    stock = stock_of(api, batch, "ply12")
    mixed = [n for n, s in enumerate(stock["layout"]["sheets"], 1) if len({p["part"].split("/")[0] for p in s["parts"]}) > 1]
    assert mixed
    status, said = send(api, batch, "ply12", mixed[0])
    assert status == 422 and said["code"] == "other_cutter" and "router" in said["message"].lower() and Job.objects.count() == 0
    assert api.client.get(f"/api/batches/{batch.pk}/files/programs/{stock['digest']}/{mixed[0]}").status_code == 422
    batch.items.filter(design__name__icontains="cover").delete()
    lay(batch)
    assert send(api, batch, "ply12", 1)[0] == 200


def test_a_deleted_batch_leaves_its_sheets_at_the_machine(api, batch, near):  # noqa: F811
    job = send(api, batch, "ply6", 1)[1][0]
    assert api.call("DELETE", f"/batches/{batch.pk}")[0] == 204
    assert Job.objects.get(pk=job).batch is None
    through(api, near, job)


def test_a_sheet_that_is_not_there_is_not_sent(api, batch, near):  # noqa: F811
    assert send(api, batch, "ply6", 99)[0] == 404
    assert api.post(f"/batches/{batch.pk}/jobs", {"digest": "none", "machine": "laser"})[0] == 404
    body = {"digest": stock_of(api, batch, "ply6")["digest"], "machine": "nowhere"}
    assert api.post(f"/batches/{batch.pk}/jobs", body)[0] == 404
