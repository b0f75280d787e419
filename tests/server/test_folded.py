"""Folded parts over the API: skins, bend plans, bend tables from files, solids out and in, splitting."""

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from zygon_server.designs import service

from zygon.design.examples import example

pytestmark = pytest.mark.django_db


@pytest.fixture
def box(maker):
    return service.create(maker, example("electronics-box"))


def upload(api, url, name, content):
    return api.client.post(f"/api{url}", {"file": SimpleUploadedFile(name, content)}, headers={"X-CSRFToken": api.token})


def test_a_folded_part_comes_with_its_skin_and_others_without(api, box):
    found = api.get(f"/designs/{box.pk}")[1]
    parts = {p["key"]: p for p in found["built"]["parts"]}
    skin = found["resources"][parts["base"]["solid"]]["skin"]
    assert parts["base"]["folded"] and not parts["fan_40"]["folded"]
    assert found["resources"][parts["fan_40"]["solid"]]["skin"] is None
    n = len(skin["zone"])
    assert (len(skin["flat"]), len(found["resources"][parts["base"]["solid"]]["positions"])) == (2 * n, 6 * n)
    assert max(skin["edges"]) < 2 * n
    assert min(skin["zone"]) == -len(skin["bends"])
    assert sum(len(b["gussets"]) for b in skin["bends"]) == 2
    assert parts["fan_40"]["mass"] == 18.0


def test_a_bend_plan_says_step_by_step_what_to_do(api, box):
    status, plan = api.get(f"/designs/{box.pk}/parts/base/bending")
    assert status == 200 and plan["brake"] and not plan["by_hand"]
    assert [s["number"] for s in plan["steps"]] == list(range(1, 9))
    assert all(s["tool"] and s["gauge"] > 0 and s["against"] and not s["collides"] for s in plan["steps"])
    assert api.get(f"/designs/{box.pk}/parts/fan_40/bending")[0] == 404


def test_a_bend_table_is_read_from_a_file_or_refused_by_its_line(api, box):
    url = f"/designs/{box.pk}/bend-rows"
    response = upload(api, url, "bends.csv", b"thickness,radius,angle,deduction\n1,1.5,90,2.1\n")
    assert response.json() == {"rows": [{"thickness": 1.0, "radius": 1.5, "angle": 90.0, "deduction": 2.1}]}
    for content, said in (
        (b"thickness,radius\n1,2\n", "a bend table has columns"),
        (b"thickness,radius,angle,k\n1,2,200,0.3\n", "line 2"),
        (b"\xff\xfe", "UTF-8"),
    ):
        response = upload(api, url, "bends.csv", content)
        assert response.status_code == 422 and said in response.json()["message"]


@pytest.mark.parametrize(
    ("query", "start"),
    [
        ("to=step&part=lid", b"ISO-10303-21;"),
        ("to=step&part=lid&flat=true", b"ISO-10303-21;"),
        ("to=glb", b"glTF"),
        ("to=3mf", b"PK"),
    ],
)
def test_solids_go_out(api, box, query, start):
    response = api.client.get(f"/api/designs/{box.pk}/files/solids?{query}")
    assert response.status_code == 200 and response.content.startswith(start)
    assert response.headers["Content-Disposition"].startswith("attachment")


def test_a_solid_that_went_out_comes_in_as_a_bought_part(api, box):
    content = api.client.get(f"/api/designs/{box.pk}/files/solids?to=step&part=lid").content
    response = upload(api, f"/designs/{box.pk}/bought-solid", "lid.step", content)
    record = response.json()
    assert response.status_code == 200 and record["source"] == "lid.step"
    block = {
        "kind": "bought",
        "name": "copy_of_lid",
        "plane": "lying",
        "position": {"face": "bottom", "at": {"text": "100 mm"}},
        "spans": {a: {"low": {"text": "0"}, "high": {"text": f"{record['size'][i]} mm"}} for i, a in enumerate("xy")},
        "deep": {"text": f"{record['size'][2]} mm"},
        "solid": record,
    }
    status, found = api.edit(box, 1, {"op": "add", "path": "/parts/copy", "value": block})
    assert status == 200
    part = next(p for p in found["built"]["parts"] if p["key"] == "copy")
    assert part["high"][2] - part["low"][2] == pytest.approx(record["size"][2])
    response = upload(api, f"/designs/{box.pk}/bought-solid", "no.step", b"nothing")
    assert response.status_code == 422 and "no.step" in response.json()["message"]


def test_only_what_is_bought_has_a_thickness_of_its_own(api, box):
    status, fault = api.edit(box, 1, {"op": "add", "path": "/parts/lid/deep", "value": {"text": "5 mm"}})
    assert status == 422 and fault["entry"] == "/parts/lid/deep"


def test_a_part_is_split_or_refused_with_what_would_do(api, box):
    body = {"operation": "split", "key": "lid", "axis": "y", "hold": "rivets", "at": 55}
    status, found = api.post(f"/designs/{box.pk}/operations", body)
    assert status == 200 and "split" in found["label"]
    assert api.edit(box, 1, *found["patch"])[0] == 200
    status, fault = api.post(f"/designs/{box.pk}/operations", {**body, "at": 1})
    assert status == 422 and "cannot be split" in fault["message"]


def test_a_strip_is_worked_out_and_its_legs_set_k(api, box):
    status, found = api.post(
        f"/designs/{box.pk}/operations", {"operation": "bend_test", "stock": "galv20", "cutter": "laser", "radius": 1.5}
    )
    assert status == 200
    assert api.edit(box, 1, *found["patch"])[0] == 200
    key = found["patch"][0]["path"].split("/")[-1]
    status, found = api.post(f"/designs/{box.pk}/operations", {"operation": "bend_from_legs", "key": key, "first": 51, "second": 51})
    assert status == 200 and "deduction 2.00 mm" in found["label"]
    status, fault = api.post(f"/designs/{box.pk}/operations", {"operation": "bend_from_legs", "key": key, "first": 90, "second": 51})
    assert status == 422 and "both together" in fault["message"]
