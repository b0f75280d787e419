"""Times of sheets from their programs: asked for after they are laid out, kept with them, and found anew when the cutter changes."""

from zygon_server.nesting import runs, times
from zygon_server.nesting.models import Batch, BatchItem
from zygon_server.nesting.tasks import work_runs


def sheets_of(body):
    return [s for stock in body["stocks"] for s in stock["layout"]["sheets"]]


def test_sheets_are_reckoned_by_length_until_their_programs_are_timed(api, design):
    runs.ask(design)
    work_runs.func()
    before = sheets_of(api.get(f"/designs/{design.pk}/nest")[1])
    assert [s["timed"] for s in before] == [""] * len(before)
    status, body = api.post(f"/designs/{design.pk}/nest-times")
    after = sheets_of(body)
    assert status == 200 and [s["timed"] for s in after] == ["program"] * len(after)
    program = api.get(f"/designs/{design.pk}/programs/ply12/1")[1]
    assert (after[0]["seconds"], after[0]["cut_length"], after[0]["pierces"]) == (program["seconds"], program["cut"], program["pierces"])
    assert after[0]["seconds"] != before[0]["seconds"] and after[0]["cost"] > 0
    assert sheets_of(api.get(f"/designs/{design.pk}/nest")[1]) == after  # and it is kept


def test_a_search_that_finds_the_same_again_keeps_the_times(api, design):
    runs.ask(design)
    work_runs.func()
    timed = sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])
    runs.ask(design, quick=False, seconds=1.0)
    work_runs.func()
    again = sheets_of(api.get(f"/designs/{design.pk}/nest")[1])
    for one, other in zip(timed, again, strict=True):
        if [p["x"] for p in one["parts"]] == [p["x"] for p in other["parts"]]:
            assert (other["timed"], other["seconds"]) == ("program", one["seconds"])
        else:
            assert other["timed"] == ""


def test_another_cutter_setting_asks_for_times_anew(api, design):
    runs.ask(design)
    work_runs.func()
    first = sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])[0]
    slow = {"op": "replace", "path": f"/cutters/{design.document['cutter']}/acceleration", "value": 20.0}
    assert api.edit(design, 1, slow)[0] == 200
    design.refresh_from_db()
    runs.ask(design)
    work_runs.func()
    assert sheets_of(api.get(f"/designs/{design.pk}/nest")[1])[0]["timed"] == ""
    assert sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])[0]["seconds"] > first["seconds"]


def test_little_time_times_at_least_one_sheet_and_whoever_asks_again_gets_the_rest(api, design, monkeypatch):
    monkeypatch.setattr(times, "LONG", -1.0)
    runs.ask(design)
    work_runs.func()
    counts = [sum(s["timed"] == "program" for s in sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])) for _ in range(3)]
    assert counts == [1, 2, 3]


def test_a_saw_has_no_programs_and_stays_with_the_lengths(api, design):
    saw = {"op": "replace", "path": f"/cutters/{design.document['cutter']}/kind", "value": "saw"}
    assert api.edit(design, 1, saw)[0] == 200
    design.refresh_from_db()
    runs.ask(design)
    work_runs.func()
    before = sheets_of(api.get(f"/designs/{design.pk}/nest")[1])
    after = sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])
    assert {s["timed"] for s in after} == {"lengths"}
    assert [s["seconds"] for s in after] == [s["seconds"] for s in before]


def test_designs_cut_together_have_times_too(api, design, maker):
    batch = Batch.objects.create(owner=maker, name="Two")
    BatchItem.objects.create(batch=batch, design=design, quantity=2)
    runs.ask(batch)
    work_runs.func()
    status, body = api.post(f"/batches/{batch.pk}/nest-times")
    assert status == 200 and {s["timed"] for s in sheets_of(body)} == {"program"}


def test_times_of_what_is_not_laid_out_yet_are_none(api, design):
    status, body = api.post(f"/designs/{design.pk}/nest-times")
    assert status == 200 and [s["layout"] for s in body["stocks"]] == [None, None]


def test_a_cut_begun_elsewhere_by_hand_is_an_edit_and_its_sheet_is_timed_anew(api, design):
    runs.ask(design)
    work_runs.func()
    first = sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])
    program = api.get(f"/designs/{design.pk}/programs/ply12/1")[1]
    cut = next(c for c in program["cuts"] if c["operation"] == "outside")
    at = (cut["first"] + cut["last"]) // 2
    status, edit = api.post(f"/designs/{design.pk}/programs/ply12/1/begin", {"x": program["x"][at], "y": program["y"][at]})
    assert status == 200 and edit["patch"][-1]["path"] == "/nest/begun/b1"
    assert api.edit(design, 1, *edit["patch"])[0] == 200
    told = api.get(f"/designs/{design.pk}/nest")[1]["stocks"]
    assert all(s["current"] for s in told)  # it lies as it lay
    assert all(s["timed"] == "" for s in sheets_of({"stocks": told}))
    again = sheets_of(api.post(f"/designs/{design.pk}/nest-times")[1])
    assert all(s["timed"] == "program" for s in again) and len(again) == len(first)
    assert again[0]["seconds"] == api.get(f"/designs/{design.pk}/programs/ply12/1")[1]["seconds"]
    assert sheets_of(api.get(f"/designs/{design.pk}/nest")[1]) == again
    status, said = api.post(f"/designs/{design.pk}/programs/ply12/1/begin", {"x": -900, "y": 0})
    assert status == 422 and said["code"] == "no_cut"
