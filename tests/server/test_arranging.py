"""Sheets laid by hand, compared and kept; the offcut shelf; several designs cut together; runs of two makers."""

import pytest
from django.contrib.auth import get_user_model
from zygon_server.designs import service as designs
from zygon_server.nesting import runs, searching
from zygon_server.nesting.models import NestRun
from zygon_server.nesting.tasks import work_runs

from tests.server.conftest import Api
from zygon.design.starters import starter

Status = NestRun.Status


def laid_out(api, design, **body):
    api.post(f"/designs/{design.pk}/nest", {"quick": True, **body})
    work_runs.func()
    return api.get(f"/designs/{design.pk}/nest")[1]


def stock_of(state, key="ply12"):
    return next(s for s in state["stocks"] if s["stock"] == key)


def arrangement(layout):
    """A layout as the document keeps it."""
    sheets = {
        f"s{n}": {
            "size": s["size"],
            "order": n,
            "placed": {
                f"{p['part']}#{p['number']}": {k: p[k] for k in ("part", "number", "x", "y", "angle", "mirrored", "locked")}
                for p in s["parts"]
            },
        }
        for n, s in enumerate(layout["sheets"])
    }
    return {"sheets": sheets, "flats": layout["flats"]}


def rightmost(hand):
    return max(hand["sheets"]["s0"]["placed"].values(), key=lambda p: p["x"])


def arrange(api, design, revision, hand):
    return api.edit(design, revision, {"op": "add", "path": "/nest/arranged/ply12", "value": hand})


def test_a_sheet_laid_by_hand_counts_at_once_and_undo_brings_the_search_s_back(api, design):
    before = stock_of(laid_out(api, design))
    hand = arrangement(before["layout"])
    rightmost(hand)["x"] += 25.0
    assert arrange(api, design, 1, hand)[0] == 200
    seen = stock_of(api.get(f"/designs/{design.pk}/nest")[1])
    now = stock_of(api.post(f"/designs/{design.pk}/nest", {"quick": True})[1])  # as the bench asks after every edit
    assert seen["layout"] == now["layout"]
    assert now["by_hand"] and now["current"] and now["layout"]["hand"] and now["revision"] == 2
    assert max(p["x"] for p in now["layout"]["sheets"][0]["parts"]) == pytest.approx(rightmost(hand)["x"])
    assert now["found"]["digest"] == before["layout"]["digest"]  # what the search had found stands beside it
    api.call("POST", f"/designs/{design.pk}/undo", {"have": []}, **{"If-Match": '"2"'})
    after = stock_of(api.get(f"/designs/{design.pk}/nest")[1])
    assert after["current"] and not after["by_hand"] and after["layout"]["digest"] == before["layout"]["digest"]
    assert [(e["hand"], e["stale"]) for e in after["earlier"]] == [(True, False)]
    number = after["earlier"][0]["id"]
    assert api.get(f"/designs/{design.pk}/nest/layouts/{number}")[1]["hand"]
    assert api.get(f"/designs/{design.pk}/nest/layouts/99999")[0] == 404


def test_parts_laid_upon_one_another_are_never_shown_as_laid_and_a_run_mends_them(api, design):
    hand = arrangement(stock_of(laid_out(api, design))["layout"])
    placed = list(hand["sheets"]["s0"]["placed"].values())
    placed[1]["x"], placed[1]["y"] = placed[0]["x"] + 5.0, placed[0]["y"]
    arrange(api, design, 1, hand)
    assert not stock_of(api.get(f"/designs/{design.pk}/nest")[1])["current"]
    assert api.client.get(f"/api/designs/{design.pk}/files/sheets/ply12/1").status_code == 404
    mended = stock_of(laid_out(api, design))
    assert mended["current"] and mended["layout"]["hand"] and not mended["layout"]["unplaced"]
    where = {(p["part"], p["number"]): (p["x"], p["y"]) for s in mended["layout"]["sheets"] for p in s["parts"]}
    kept = [p for p in placed if where[p["part"], p["number"]] == (p["x"], p["y"])]
    assert len(kept) >= len(placed) - 1


def test_the_rest_is_nested_round_what_is_locked_and_stands_beside_the_hand_s(api, design):
    hand = arrangement(stock_of(laid_out(api, design))["layout"])
    held = rightmost(hand)
    held["x"], held["locked"] = held["x"] + 30.0, True
    arrange(api, design, 1, hand)
    laid_out(api, design, quick=False, seconds=0.4, stock="ply12")
    now = stock_of(api.get(f"/designs/{design.pk}/nest")[1])
    found = [p for s in now["found"]["sheets"] for p in s["parts"] if (p["part"], p["number"]) == (held["part"], held["number"])]
    assert [(p["x"], p["y"], p["locked"]) for p in found] == [(held["x"], held["y"], True)]
    assert now["layout"]["hand"] and not now["found"]["hand"]
    run = NestRun.objects.first()
    assert run.stock == "ply12" and {t["stock"] for t in run.trace} == {"ply12"} and run.trace[0]["tightness"] > 0.3


def test_a_part_s_room_is_told_and_turns_that_are_not_allowed_are_refused(api, design):
    laid_out(api, design)
    body = {"stock": "ply12", "part": "left", "number": 0, "angle": 90, "mirrored": False}
    status, room = api.post(f"/designs/{design.pk}/nest/room", body)
    assert status == 200 and len(room["rooms"]) == 2 and room["rooms"][1] and room["turns"] == [0, 90, 180, 270]
    assert room["fresh"] == {"size": "half", "length": 1220.0, "width": 610.0}
    for change, says in (({"angle": 33}, "turned in a way"), ({"mirrored": True}, "turned over"), ({"stock": "felt"}, "not laid out")):
        status, fault = api.post(f"/designs/{design.pk}/nest/room", {**body, **change})
        assert status == 422 and says in fault["message"]
    assert api.post(f"/designs/{design.pk}/nest/room", {**body, "part": "nobody"})[0] == 404


def test_a_cut_sheet_gives_its_rest_to_the_shelf_and_another_design_takes_it(api, design, maker):
    now = stock_of(laid_out(api, design))
    body = {"stock": "ply12", "number": 1, "place": "rack 2"}
    status, fault = api.post(f"/designs/{design.pk}/nest/offcuts", body)
    assert status == 422 and "not marked as cut" in fault["message"]
    hand = arrangement(now["layout"])
    hand["sheets"]["s0"]["cut"] = True
    arrange(api, design, 1, hand)
    status, made = api.post(f"/designs/{design.pk}/nest/offcuts", body)
    assert status == 200 and made and made[0]["label"] == "R1" and made[0]["place"] == "rack 2"
    assert made[0]["area"] == pytest.approx(sum(o["area"] for o in api.get("/offcuts")[1][:1]))
    # its rest and its parts are no more than the sheet
    parts = now["layout"]["sheets"][0]["share"] * 1220 * 610
    assert parts + sum(o["area"] for o in made) < 1220 * 610
    other = designs.create(maker, starter("tray", "Tray"))
    piece = {"name": "R1", "outline": made[0]["outline"], "holes": made[0]["holes"]}
    api.edit(other, 1, {"op": "add", "path": "/stocks/ply12/offcuts", "value": {"R1": piece}})
    assert api.call("PATCH", "/offcuts/R1", {"reserved": str(other.pk)})[0] == 200
    status, fault = api.call("PATCH", "/offcuts/R1", {"reserved": str(design.pk)})
    assert status == 422 and "reserved for Tray" in fault["message"]
    other.refresh_from_db()
    laid = stock_of(laid_out(api, other))["layout"]
    assert laid["sheets"][0]["is_offcut"] and laid["sheets"][0]["size"] == "R1" and laid["sheets"][0]["price"] == 0
    assert laid["sheets"][0]["outline"].startswith("M")


def test_offcuts_are_cut_square_placed_set_free_and_thrown_away_and_are_their_owner_s_alone(api, design, maker):
    from zygon_server.workshop.offcuts import keep_offcut

    from zygon.geometry.boolean import Region
    from zygon.geometry.contour import polygon

    el = Region(polygon([(0, 0), (600, 0), (600, 200), (250, 200), (250, 500), (0, 500)]))
    keep_offcut(maker, "ply12", "Birch plywood 12 mm", 11.8, el)
    stranger = Api(get_user_model().objects.create_user("stranger", password="long enough 7"))
    assert stranger.get("/offcuts")[1] == [] and stranger.call("DELETE", "/offcuts/R1")[0] == 404
    status, square = api.call("PATCH", "/offcuts/R1", {"square": True, "place": " shelf 4 "})
    assert status == 200 and square["rectangle"] and square["place"] == "shelf 4"
    assert square["length"] * square["width"] == pytest.approx(max(600 * 200, 250 * 500))
    assert api.call("PATCH", "/offcuts/R1", {"reserved": str(design.pk)})[1]["reserved_name"] == design.name
    assert api.call("PATCH", "/offcuts/R1", {"reserved": ""})[1]["reserved"] == ""
    assert api.call("DELETE", "/offcuts/R1")[0] == 204 and api.get("/offcuts")[1] == []
    status, fault = api.call("PATCH", "/offcuts/R1", {"place": "x"})
    assert status == 422 and "not on the shelf" in fault["message"]
    assert api.call("PATCH", "/offcuts/R77", {"place": "x"})[0] == 404


def test_several_designs_are_cut_together_stock_by_stock(api, design, maker):
    tray = designs.create(maker, starter("tray", "Tray"))
    items = [{"design": str(design.pk), "quantity": 2}, {"design": str(tray.pk), "quantity": 3}]
    status, batch = api.post("/batches", {"name": "Spring", "items": items})
    assert status == 200 and [i["name"] for i in batch["items"]] == ["Brood box", "Tray"]
    path = f"/batches/{batch['id']}"
    api.post(f"{path}/nest", {"quick": True})
    assert work_runs.func() == 1
    state = api.get(f"{path}/nest")[1]
    assert {s["layout"]["stock_name"] for s in state["stocks"]} == {"Birch plywood 12 mm", "Birch plywood 6 mm"}
    counts = {}
    for s in state["stocks"]:
        assert s["current"] and not s["layout"]["unplaced"]
        for sheet in s["layout"]["sheets"]:
            for p in sheet["parts"]:
                counts[state["names"][p["part"]]] = counts.get(state["names"][p["part"]], 0) + 1
    assert counts["Brood box: left"] == 2 and counts["Tray: left"] == 3
    digest = state["stocks"][0]["digest"]
    response = api.client.get(f"/api{path}/files/sheets/{digest}/1")
    assert response.status_code == 200 and b"Spring" in response.content
    # a change of one design makes its stocks stale here too
    api.edit(tray, 1, {"op": "replace", "path": "/sizes/width/entry/text", "value": "333 mm"})
    assert not all(s["current"] for s in api.get(f"{path}/nest")[1]["stocks"])
    for change, says in (([{"design": str(tray.pk), "quantity": 0}], "1 to 200 times"), (items[1:] * 2, "twice")):
        status, fault = api.call("PUT", path, {"name": "Spring", "items": change})
        assert status == 422 and says in fault["message"]
    stranger = Api(get_user_model().objects.create_user("stranger", password="long enough 7"))
    assert stranger.get(f"{path}/nest")[0] == 404
    assert api.call("DELETE", path)[0] == 204 and api.get("/batches")[1] == []


def test_a_million_copies_are_refused_with_a_sentence(api, design):
    status, batch = api.post("/batches", {"name": "Many", "items": [{"design": str(design.pk), "quantity": 200}]})
    api.edit(design, 1, {"op": "replace", "path": "/parts/left/quantity", "value": 9})
    status, fault = api.post(f"/batches/{batch['id']}/nest", {"quick": True})
    assert status == 422 and "1500" in fault["message"]


def test_two_makers_runs_do_not_disturb_one_another(design):
    other = get_user_model().objects.create_user("neighbour", password="long enough 7")
    tray = designs.create(other, starter("tray", "Tray"))
    mine, theirs = runs.ask(design, quick=False, seconds=0.2), runs.ask(tray, quick=False, seconds=0.2)
    first, second = runs.claim("one"), runs.claim("two")
    assert {first.pk, second.pk} == {mine.pk, theirs.pk} and runs.claim("three") is None
    runs.ask(design, quick=False, seconds=0.3, stock="ply12")  # a newer one of mine stops my older one alone
    first.refresh_from_db()
    second.refresh_from_db()
    assert (first.cancel, second.cancel) == (True, False)
    searching.work(second)
    second.refresh_from_db()
    assert second.status == Status.DONE and tray.layouts.exists() and not design.layouts.exists()


def test_a_search_never_holds_up_a_quick_run(design):
    runs.ask(design, quick=False, seconds=60)
    assert runs.claim("quick", quick=True) is None
    other = designs.create(design.owner, starter("tray", "Tray"))
    quick = runs.ask(other)
    assert runs.claim("search", quick=False).quick is False
    assert runs.claim("quick", quick=True).pk == quick.pk


def test_bars_are_worked_out_and_a_bad_length_is_named(api):
    body = {
        "pieces": [{"name": "leg", "length": "1380", "quantity": 4}, {"length": "4'", "quantity": 1}],
        "bars": [{"length": "5.6 m"}],
        "kerf": "3",
    }
    status, plan = api.post("/bars", body)
    assert status == 200 and plan["proven"] and plan["bars"] == 2
    assert sum(c["count"] * p["times"] for p in plan["patterns"] for c in p["cuts"]) == 5
    for change, says in (
        ({"pieces": [{"name": "leg", "length": "14 apples", "quantity": 1}]}, "leg"),
        ({"pieces": [{"length": "9 m", "quantity": 1}]}, "9000"),
        ({"pieces": [{"length": "1 m", "quantity": 0}]}, "quantity|at least"),
        ({"bars": []}, "no bar"),
    ):
        status, fault = api.post("/bars", {**body, **change})
        assert status == 422, change
        assert any(word in fault["message"] for word in says.split("|")), fault
