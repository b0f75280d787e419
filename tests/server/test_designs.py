"""Designs over the API: edits with If-Match, previews, undo and redo, resources, files, limits."""

import json
import zipfile
from io import BytesIO

import pytest
from zygon_server.designs import service
from zygon_server.designs.models import Design, Edit

from tests.server.conftest import sqlite_alone, text
from zygon.design.document import SCHEMA
from zygon.design.examples import EXAMPLES, brood_box
from zygon.design.joints import BOARD_JOINTS, MEMBER_JOINTS
from zygon.memo import Memo


def part(body, key):
    return next(p for p in body["built"]["parts"] if p["key"] == key)


def test_a_design_comes_whole_with_its_resources(api, design):
    status, body = api.get(f"/designs/{design.pk}")
    assert status == 200 and body["revision"] == 1
    assert body["document"] == brood_box().dump()
    for p in body["built"]["parts"]:
        for kind in ("solid", "flat"):
            assert (p[kind] in body["resources"]) == (p["kind"] == "board")
    solid = body["resources"][part(body, "front")["solid"]]
    assert sum(solid["counts"]) * 3 == len(solid["triangles"]) and len(solid["counts"]) == len(solid["owners"])


def test_an_edit_makes_a_revision_and_sends_only_what_is_new(api, design):
    have = list(api.get(f"/designs/{design.pk}")[1]["resources"])
    status, body = api.edit(design, 1, text("width", "430 mm"), label="width: 430 mm", have=have)
    assert status == 200 and body["revision"] == 2
    assert part(body, "front")["length"] == 430
    assert part(body, "front")["solid"] in body["resources"] and part(body, "left")["solid"] not in body["resources"]
    assert body["undo"] == "width: 430 mm" and body["redo"] == ""


def test_a_stale_edit_is_answered_412_and_nothing_is_lost(api, design):
    api.edit(design, 1, text("width", "430 mm"))
    status, body = api.edit(design, 1, text("depth", "450 mm"))
    assert (status, body["code"], body["revision"]) == (412, "stale", 2)
    paths = api.get(f"/designs/{design.pk}/edits?after=1")[1]
    assert [e["paths"] for e in paths] == [["/sizes/width/entry/text"]]
    assert api.edit(design, 2, text("depth", "450 mm"))[1]["revision"] == 3
    assert api.post(f"/designs/{design.pk}/edits", {"label": "x", "patch": []})[0] == 422


def test_a_preview_stores_nothing(api, design):
    status, body = api.post(f"/designs/{design.pk}/preview", {"patch": [text("width", "500 mm")]})
    assert status == 200 and part(body, "front")["length"] == 500
    design.refresh_from_db()
    assert design.revision == 1 and not design.edits.exists()


@pytest.mark.parametrize(
    ("patch", "code", "entry"),
    [
        (text("width", "wdth * 2"), "broken_expression", "/sizes/width/entry"),
        (text("width", "hold * 4"), "cycle", "/sizes/width/entry"),
        ({"op": "replace", "path": "/parts/front/name", "value": "back"}, "bad_name", "/parts/back/name"),
        ({"op": "replace", "path": "/parts/front/stock", "value": "oak"}, "bad_reference", "/parts/front/stock"),
        ({"op": "replace", "path": "/nothing", "value": 1}, "bad_patch", "patch"),
        ({"op": "replace", "path": "/parts/front/quantity", "value": 100000}, "bad_document", "/parts/front/quantity"),
    ],
)
def test_a_value_that_cannot_stand_is_refused_with_entry_value_and_rule(api, design, patch, code, entry):
    status, body = api.edit(design, 1, patch)
    assert (status, body["code"], body["entry"]) == (422, code, entry)
    assert body["message"] and body["rule"]
    assert api.get(f"/designs/{design.pk}")[1]["revision"] == 1


def test_what_breaks_elsewhere_is_a_problem_and_stands_on_its_last_good_value(api, design):
    status, body = api.edit(design, 1, {"op": "remove", "path": "/sizes/rest"})
    assert status == 200
    assert any(p["code"] == "broken_expression" and p["part"] == "rest_front" for p in body["built"]["problems"])
    assert part(body, "rest_front")["stale"] and part(body, "rest_front")["width"] == 22
    # also after a restart, from what is stored
    from zygon_server.designs import service

    service._BUILT._kept.clear()
    assert part(api.get(f"/designs/{design.pk}")[1], "rest_front")["width"] == 22


def test_undo_and_redo_are_new_revisions_that_survive_a_restart(api, design):
    api.edit(design, 1, text("width", "430 mm"), label="one")
    api.edit(design, 2, text("width", "440 mm"), label="two")
    base = f"/designs/{design.pk}"

    def step(way, revision):
        return api.post(f"{base}/{way}", {"have": []}, **{"If-Match": f'"{revision}"'})

    status, body = step("undo", 3)
    assert (status, body["revision"], body["undo"], body["redo"]) == (200, 4, "one", "two")
    assert body["document"]["sizes"]["width"]["entry"]["text"] == "430 mm"
    _, body = step("undo", 4)
    assert (body["undo"], body["redo"]) == ("", "one")
    assert body["document"] == brood_box().dump()
    assert step("undo", 5)[0] == 422
    assert step("redo", 5)[1]["redo"] == "two"
    assert step("redo", 5)[0] == 412
    # another edit passes over what was undone
    api.edit(design, 6, text("depth", "450 mm"), label="three")
    assert step("redo", 7)[0] == 422
    history = api.get(f"{base}/edits")[1]
    assert [(e["kind"], e["state"]) for e in history] == [
        ("edit", "done"),
        ("edit", "dropped"),
        ("undo", "done"),
        ("undo", "done"),
        ("redo", "done"),
        ("edit", "done"),
    ]
    assert {e["author"] for e in history} == {"maker"}


def test_two_writers_on_one_revision_one_wins_and_one_is_stale(api, design):
    from zygon_server.designs import service
    from zygon_server.errors import Stale

    first, second = Design.objects.get(pk=design.pk), Design.objects.get(pk=design.pk)
    service.commit(first, 1, "a", [text("width", "430 mm")], "x")
    with pytest.raises(Stale):
        service.commit(second, 1, "b", [text("depth", "450 mm")], "y")
    assert Edit.objects.filter(design=design).count() == 1


def test_resources_are_immutable_and_only_of_this_design(api, design, box):
    key = part(api.get(f"/designs/{design.pk}")[1], "front")["flat"]
    _, body = api.get(f"/designs/{design.pk}/resources/{key}")
    assert body["kerf"] == 0.24
    response = api.client.get(f"/api/designs/{design.pk}/resources/{key}")
    assert response.headers["Cache-Control"] == "private, max-age=31536000, immutable"
    assert api.get(f"/designs/{box.pk}/resources/{key}")[0] == 404


def test_create_copy_rename_delete_latest_first(api):
    status, made = api.post("/designs", {"name": "Seed box", "starter": "tray"})
    assert status == 200 and made["parts"] == 5
    _, twin = api.post(f"/designs/{made['id']}/copy")
    assert twin["name"] == "Seed box (copy)"
    assert api.post(f"/designs/{made['id']}/name", {"name": "Cutlery"})[1]["name"] == "Cutlery"
    assert [d["name"] for d in api.get("/designs")[1]] == ["Cutlery", "Seed box (copy)"]
    assert api.call("DELETE", f"/designs/{twin['id']}")[0] == 204
    assert [d["name"] for d in api.get("/designs")[1]] == ["Cutlery"]
    assert api.post("/designs", {"name": "x", "starter": "boat"})[1]["code"] == "bad_starter"
    assert api.post("/designs", {"name": ""})[0] == 422
    assert api.get("/designs/nothing-like-this")[0] == 404


def test_the_design_file_goes_out_and_comes_in(api, design):
    from django.core.files.uploadedfile import SimpleUploadedFile

    def upload(content):
        response = api.client.post(
            "/api/designs/upload", {"file": SimpleUploadedFile("d.json", content)}, headers={"X-CSRFToken": api.token}
        )
        return response.status_code, response.json()

    content = api.client.get(f"/api/designs/{design.pk}/file").content
    status, row = upload(content)
    assert status == 200 and row["name"] == "Brood box"
    assert api.get(f"/designs/{row['id']}")[1]["document"] == json.loads(content)
    assert upload(b"{")[1]["rule"] == "JSON in UTF-8"
    assert upload(b'{"schema": 9}')[1]["code"] == "bad_schema"
    assert upload(b"x" * 8_000_001)[0] == 422


def test_operations_give_a_patch_and_store_nothing(api, design):
    base = f"/designs/{design.pk}/operations"
    status, body = api.post(base, {"operation": "rename", "group": "parts", "key": "left", "name": "west"})
    assert status == 200 and len(body["patch"]) > 5
    assert api.edit(design, 1, *body["patch"], label=body["label"])[1]["built"]["problems"] == []
    assert api.post(base, {"operation": "freeze", "entry": "/sizes/hold/entry"})[1]["patch"][0]["value"] == "105 mm"
    assert api.post(base, {"operation": "freeze", "entry": "/sizes/none"})[0] == 422
    assert api.post(base, {"operation": "remove_part", "key": "none"})[0] == 422
    assert api.post(base, {"operation": "explode"})[1]["code"] == "bad_request"


def test_possible_joints_and_parts_along_an_axis(api, design):
    offers = api.post(f"/designs/{design.pk}/joints/possible", {"a": "cover", "b": "front"})[1]
    forms = {k["kind"] for k in api.get("/forms")[1]["joints"]}
    assert forms - MEMBER_JOINTS - BOARD_JOINTS == {o["kind"] for o in offers} >= {"finger", "dovetail", "screws", "face_glue"}
    assert all("refused" in o for o in offers)
    assert {o["note"] for o in offers if o["kind"] == "groove"} == {"needs depth, and Bench laser 130 W cuts straight through"}
    assert api.post(f"/designs/{design.pk}/joints/possible", {"a": "cover", "b": "beech_rod"})[0] == 422
    entry = {"text": "100", "unit": "mm"}
    assert api.post(f"/designs/{design.pk}/bores/along", {"axis": "x", "at": {"y": entry, "z": entry}})[1]["parts"] == [
        {"part": "left", "how": "square"},
        {"part": "right", "how": "square"},
    ]
    assert (
        api.post(f"/designs/{design.pk}/bores/along", {"axis": "x", "at": {"y": {"text": "??", "unit": "mm"}, "z": entry}})[1]["code"]
        == "broken_expression"
    )


def test_downloads(api, design):
    base = f"/api/designs/{design.pk}/files"
    dxf = api.client.get(f"{base}/parts/front?to=dxf&kerf=compensated")
    assert dxf.headers["Content-Disposition"] == 'attachment; filename="brood-box_front_x1_compensated-0.24mm.dxf"'
    assert b"COMPENSATED" in dxf.content
    assert api.client.get(f"{base}/cut-list").content.startswith(b"No.,Number,Part")
    names = zipfile.ZipFile(BytesIO(api.client.get(f"{base}/all?kerf=nominal").content)).namelist()
    assert "brood-box_cut-list.csv" in names
    assert api.client.get(f"{base}/parts/nobody").status_code == 404
    assert api.client.get(f"{base}/parts/beech_rod").status_code == 422
    assert api.client.get(f"{base}/sheets/ply12/1").status_code == 404
    assert api.client.get(f"/api/designs/{design.pk}/picture").content.startswith(b"<svg")


def test_edits_and_documents_have_a_greatest_size(api, box):
    note = {"op": "replace", "path": "/note", "value": "x"}
    assert api.edit(box, 1, *[note] * 2001)[1]["code"] == "bad_patch"
    status, body = api.edit(box, 1, *[{**note, "value": "y" * 1900}] * 600)
    assert (status, body["code"]) == (422, "too_large")


def test_the_shelf_keeps_what_the_core_can_take(api):
    from zygon.design.workshop import STOCKS

    assert api.call("PUT", "/workshop/stocks/oak", {**STOCKS["ply12"], "name": "Oak"})[0] == 200
    assert api.get("/workshop")[1]["stocks"]["oak"]["name"] == "Oak"
    status, body = api.call("PUT", "/workshop/stocks/oak", {**STOCKS["ply12"], "density": -1})
    assert status == 422 and body["entry"] == "stocks/oak/density"
    assert api.call("PUT", "/workshop/saws/x", {})[0] == 404
    assert api.call("DELETE", "/workshop/stocks/oak")[0] == 204
    assert api.call("DELETE", "/workshop/stocks/oak")[0] == 404


@sqlite_alone
def test_the_database_writes_ahead_and_takes_its_lock_at_once(db, settings):
    options = settings.DATABASES["default"]["OPTIONS"]
    assert options["transaction_mode"] == "IMMEDIATE" and "journal_mode=WAL" in options["init_command"]


def test_the_published_descriptions_are_those_of_the_code():
    import importlib.util
    from pathlib import Path

    path = Path(__file__).parents[2] / "scripts" / "describe.py"
    spec = importlib.util.spec_from_file_location("describe", path)
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    for file, content in module.descriptions().items():
        assert file.read_text() == content, f"{file.name} is out of date; run make types"


def hive_floor_of(user_api):
    """A hive floor kept for the maker who asks."""
    from zygon.design.examples import EXAMPLES

    data = EXAMPLES["hive-floor"]().dump()
    file = BytesIO(json.dumps(data).encode())
    file.name = "floor.json"
    response = user_api.client.post("/api/designs/upload", {"file": file}, headers={"X-CSRFToken": user_api.token})
    assert response.status_code == 200, response.content
    return response.json()


def test_joints_have_figures_on_the_head_and_while_they_are_tried(api):
    made = hive_floor_of(api)
    base = f"/designs/{made['id']}"
    status, figure = api.post(f"{base}/joints/figure", {"joint": "floor-left"})
    assert status == 200 and [v["title"] for v in figure["views"]] == ["Along the joint, front to back", "Section across"]
    assert {s["part"] for v in figure["views"] for s in v["shapes"]} == {"a", "b"}
    deeper = [{"op": "replace", "path": "/sizes/groove/entry/text", "value": "8 mm"}]
    _, tried = api.post(f"{base}/joints/figure", {"joint": "floor-left", "patch": deeper})
    facts = {f["label"]: f["value"] for f in tried["facts"]}
    assert facts["deep"] == 8 and tried["views"] != figure["views"]
    assert api.post(f"{base}/joints/figure", {"joint": "nobody"})[1] is None


def test_the_order_of_assembly_and_the_drilling_list_are_served(api):
    base = f"/designs/{hive_floor_of(api)['id']}"
    _, assembly = api.get(f"{base}/assembly")
    assert assembly["first"] == ["left"] and len(assembly["steps"]) == 5 and not assembly["locked"] and not assembly["drops"]
    assert {"part": "slide", "ways": ["to the front"], "kept_by": ""} in assembly["loose"]
    _, rows = api.get(f"{base}/drilling")
    assert len(rows) == 8 and {r["surface"] for r in rows} == {"edge"}
    content = api.client.get(f"/api{base}/files/drilling-list").content
    assert content.startswith(b"Part,Surface") and content.count(b"\n") == 9


def test_a_second_side_is_a_file_of_its_own(api):
    base = f"/api/designs/{hive_floor_of(api)['id']}/files"
    response = api.client.get(f"{base}/parts/left?turned=true&kerf=nominal")
    assert "second-side" in response.headers["Content-Disposition"] and b"SECOND SIDE" in response.content
    names = zipfile.ZipFile(BytesIO(api.client.get(f"{base}/all?kerf=nominal").content)).namelist()
    assert {"hive-floor_drilling-list.csv", "hive-floor_assembly.txt"} <= set(names)
    assert any("second-side" in n for n in names)


def test_test_pieces_are_operations_whose_patch_is_an_edit(api, design):
    base = f"/designs/{design.pk}"
    status, made = api.post(f"{base}/operations", {"operation": "comb", "stock": "ply6", "cutter": "laser", "number": 5})
    assert status == 200 and made["label"] == "Test comb for Birch plywood 6 mm"
    status, body = api.edit(design, 1, *made["patch"], label=made["label"])
    assert status == 200 and part(body, "comb_ply6")["made"] == "cut"
    assert {f["stock"]: f["state"] for f in body["built"]["fits"]}["ply6"] == "untested"
    chosen = {"operation": "fits_from_comb", "key": "comb_ply6", "values": {"snug": 0.1, "slip": 0.2}}
    _, fits = api.post(f"{base}/operations", chosen)
    _, body = api.edit(Design.objects.get(pk=design.pk), 2, *fits["patch"], label=fits["label"])
    assert {f["stock"]: f["state"] for f in body["built"]["fits"]}["ply6"] == "tested"
    status, fault = api.post(f"{base}/operations", {**chosen, "values": {"snug": 9.0}})
    assert status == 422 and "the comb has no slot of +9.00 mm" in fault["message"] and fault["entry"] == "snug"
    body = '{"operation": "comb", "stock": "ply6", "cutter": "laser", "number": 1e999}'
    response = api.client.post(f"/api{base}/operations", body, content_type="application/json", headers={"X-CSRFToken": api.token})
    assert response.status_code == 422
    status, fault = api.post(f"{base}/operations", {"operation": "kerf_from_slack", "key": "comb_ply6"})
    assert status == 422 and fault["entry"] == "kerf_from_slack.slack"


def test_the_list_of_designs_counts_parts_and_problems(api, design):
    Design.objects.filter(pk=design.pk).update(parts=0, problems=0)  # as a row from before there were counts
    (row,) = api.get("/designs")[1]
    assert (row["parts"], row["problems"]) == (10, 0)
    api.edit(design, 1, text("width", "600 mm"))
    (row,) = api.get("/designs")[1]
    assert row["problems"] >= 1


def test_a_design_of_the_first_schema_is_opened_edited_and_undone(api, design):
    old = {**design.document, "schema": 1}
    for new in ("tests", "marks", "groups", "copies", "clearances", "numbering"):
        old.pop(new, None)
    Design.objects.filter(pk=design.pk).update(document=old)
    assert api.get(f"/designs/{design.pk}")[1]["document"]["schema"] == SCHEMA
    status, body = api.edit(Design.objects.get(pk=design.pk), 1, text("width", "430 mm"))
    assert status == 200 and body["document"]["schema"] == SCHEMA
    status, body = api.post(f"/designs/{design.pk}/undo", {}, **{"If-Match": '"2"'})
    assert status == 200 and part(body, "front")["length"] == 420


def test_what_is_built_to_be_checked_is_not_built_again_to_be_shown(api, maker, monkeypatch):
    built = []
    real = service.build
    monkeypatch.setattr(service, "build", lambda *a, **k: built.append(1) or real(*a, **k))
    design = service.create(maker, brood_box())
    assert len(built) == 1
    assert api.get(f"/designs/{design.pk}")[0] == 200 and len(built) == 1
    status, body = api.edit(design, 1, text("width", "431 mm"))
    assert status == 200 and len(built) == 2
    for way in ("undo", "redo"):
        status, body = api.post(f"/designs/{design.pk}/{way}", {"have": []}, **{"If-Match": f'"{body["revision"]}"'})
        assert status == 200
    assert len(built) == 4
    assert body["built"]["values"]["/sizes/width/entry"]["value"] == 431


def test_the_list_of_designs_loads_no_documents(api, design):
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    with CaptureQueriesContext(connection) as queries:
        assert api.get("/designs")[0] == 200
    assert not [q["sql"] for q in queries.captured_queries if '"document"' in q["sql"]]


def test_a_list_draws_what_it_shows_and_checks_nothing(api, maker, monkeypatch):
    """After a restart no design is built; its picture needs no checks and no search for an order of bending."""
    folded = service.create(maker, EXAMPLES["feeder-tray"]())
    shown = api.client.get(f"/api/designs/{folded.pk}/picture").content
    monkeypatch.setattr(service, "_BUILT", Memo(5))
    Design.objects.update(drawing="", drawn=0)
    asked = []
    monkeypatch.setattr(service, "check", lambda *a, **k: asked.append("check") or [])
    monkeypatch.setattr(service.orders, "begin", lambda *a: asked.append("order"))
    assert api.client.get(f"/api/designs/{folded.pk}/picture").content == shown and b"<svg" in shown
    assert asked == []


def test_a_frame_s_files_joints_and_operations(api, maker):
    """Of the tube stand: template, saw list, no bender's table; offers between tubes, a line drawn and joined, and what is refused."""
    stand = service.create(maker, EXAMPLES["tube-stand"]())
    base = f"/api/designs/{stand.pk}/files"
    got = api.client.get(f"{base}/templates/rail_low_front?what=b&to=svg")
    assert (
        got.status_code == 200 and got.headers["Content-Disposition"].endswith('rail_low_front_end-b.svg"') and b"coped onto" in got.content
    )
    assert (
        api.client.get(f"{base}/templates/levelling_foot").status_code == 422
        and api.client.get(f"{base}/templates/none").status_code == 404
    )
    assert (
        api.client.get(f"{base}/saw-list").content.decode().startswith("No.,Part")
        and api.client.get(f"{base}/bender-table").status_code == 404
    )
    _, offers = api.post(f"/designs/{stand.pk}/joints/possible", {"a": "foot", "b": "post_back", "instead_of": "foot-post_back"})
    assert {o["kind"] for o in offers} == MEMBER_JOINTS and offers[0] == {
        "kind": "member_mitre",
        "order": "ab",
        "title": "Mitre foot and post_back",
        "refused": "",
        "note": "",
        "contact": "corner",
    }
    status, made = api.post(
        f"/designs/{stand.pk}/operations",
        {"operation": "draw_line", "start": {"point": "side:a"}, "axis": "x", "by": "wide", "stock": "tube33"},
    )
    assert status == 200 and [op["path"].split("/")[1] for op in made["patch"]] == ["frames", "frames", "parts"]
    status, refused = api.post(
        f"/designs/{stand.pk}/operations",
        {"operation": "draw_line", "start": {"point": "side:nowhere"}, "axis": "x", "by": "1", "stock": "tube33"},
    )
    assert status == 422 and "no point 'nowhere'" in refused["message"]
    _, head = api.get(f"/designs/{stand.pk}")
    (side, _) = head["built"]["frames"]
    assert [p["number"] for p in side["points"]] == [1, 2, 3, 4] and side["lines"][0] == {
        "key": "foot",
        "a": "a",
        "b": "b",
        "members": ["foot"],
    }
    told = {p["key"]: p.get("member") for p in head["built"]["parts"]}
    assert told["levelling_foot"] is None and [e["words"] for e in told["foot"]["ends"]] == ["mitred to post front", "mitred to post back"]
