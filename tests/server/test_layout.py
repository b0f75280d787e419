"""Layout over the API: copies in what is built, measuring, weighing, outlines from files, operations."""

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from zygon_server.designs import service

from zygon.design.examples import example

pytestmark = pytest.mark.django_db


@pytest.fixture
def hive(maker):
    return service.create(maker, example("hive"))


def test_what_is_built_has_rows_copies_and_watched_room(api, hive):
    built = api.get(f"/designs/{hive.pk}")[1]["built"]
    parts = {p["key"]: p for p in built["parts"]}
    assert len(parts) == 59 and parts["gable@gables.1"]["handed"] == -1
    assert parts["top_bar@frames_row.3"]["of"] == "top_bar" and parts["top_bar@frames_row.3"]["made_by"] == [["frames_row", 3]]
    rows = {r["name"]: r for r in built["rows"]}
    assert rows["top_bar"]["quantity"] == 10 and len(rows["top_bar"]["keys"]) == 10 and rows["top_bar"]["group"] == "brood_box"
    assert ["hole", 3.0] in parts["end_bar"]["has"]
    assert {c["key"]: c["room"] for c in built["clearances"]} == {
        "frames_to_the_wall": pytest.approx(2),
        "end_play_of_the_frames": pytest.approx(2),
    }
    joint = next(j for j in built["joints"] if j["key"] == "front-side")
    assert ["front", "side@sides.1"] in joint["copies"]


def test_measuring_and_weighing(api, hive):
    base = f"/designs/{hive.pk}"
    a, b = ({"part": p, "what": "face", "name": "right"} for p in ("side", "floor_side"))
    status, found = api.post(f"{base}/measure", {"a": a, "b": b})
    assert status == 200 and found["along"][0] == pytest.approx(0, abs=1e-9) and found["straight"] == pytest.approx(0, abs=1e-6)
    status, found = api.post(f"{base}/measure", {"a": {"part": "lid"}})
    assert found["about"]["mass"] > 100 and found["along"] is None
    status, found = api.post(f"{base}/weigh", {"parts": ["lid", "top_bar@frames_row.2"]})
    assert status == 200 and len(found["centre"]) == 3
    for body in ({"a": {"part": "nobody"}}, {"a": {"part": "lid", "what": "face", "name": "inside"}}):
        status, fault = api.post(f"{base}/measure", body)
        assert (status, fault["code"]) == (422, "lost_place")
    assert api.post(f"{base}/weigh", {"parts": ["nobody"]})[0] == 422


def test_an_outline_is_read_from_an_uploaded_drawing(api, hive):
    svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><rect x="5" y="5" width="60" height="30"/></svg>'
    url = f"/api/designs/{hive.pk}/outline"
    response = api.client.post(url, {"file": SimpleUploadedFile("tag.svg", svg)}, headers={"X-CSRFToken": api.token})
    assert response.status_code == 200 and (response.json()["width"], response.json()["height"]) == (60, 30)
    assert response.json()["outline"]["source"] == "tag.svg"
    response = api.client.post(url, {"file": SimpleUploadedFile("tag.txt", b"hello")}, headers={"X-CSRFToken": api.token})
    assert response.status_code == 422 and "tag.txt" in response.json()["message"]


@pytest.mark.parametrize(
    ("body", "label"),
    [
        ({"operation": "mirror", "of": ["part:lid"], "axis": "y"}, "Mirror lid"),
        ({"operation": "group", "of": ["lid", "eaves"], "name": "top"}, "Group top of 2 parts"),
        ({"operation": "remove_group", "key": "roof"}, "Dissolve group roof"),
        ({"operation": "remove_copy", "key": "gables"}, "Remove Other gable"),
        ({"operation": "rename", "group": "groups", "key": "roof", "name": "hat"}, "Rename roof to hat"),
        ({"operation": "change_many", "of": ["feature:end_bar:wire"], "field": "diameter", "text": "6.4"}, "Diameter of 1 to 6.4"),
    ],
)
def test_operations_are_worked_out_and_committed(api, hive, body, label):
    status, found = api.post(f"/designs/{hive.pk}/operations", body)
    assert status == 200 and found["label"] == label
    status, _after = api.post(f"/designs/{hive.pk}/edits", {"label": found["label"], "patch": found["patch"]}, **{"If-Match": '"1"'})
    assert status == 200
    status, back = api.post(f"/designs/{hive.pk}/undo", {}, **{"If-Match": '"2"'})
    assert status == 200 and back["document"] == hive.document


@pytest.mark.parametrize(
    ("path", "text", "words"),
    [
        ("/copies/frames_row/number", "0 +", "it stops too early"),
        ("/parts/lid/turns/t0/angle", "slope * 1 mm", "where an angle is wanted"),
        ("/copies/gables/at", "nobody.left", "no part is called nobody"),
    ],
)
def test_a_broken_entry_of_the_layout_is_refused_and_the_last_good_state_stands(api, hive, path, text, words):
    status, fault = api.post(
        f"/designs/{hive.pk}/edits",
        {"label": "x", "patch": [{"op": "replace", "path": f"{path}/text", "value": text}]},
        **{"If-Match": '"1"'},
    )
    assert status == 422 and words in fault["message"] and fault["entry"] == path
    assert api.get(f"/designs/{hive.pk}")[1]["revision"] == 1


def test_a_repeat_of_a_hundred_thousand_is_a_problem_and_the_last_good_ten_stand(api, hive):
    patch = [{"op": "replace", "path": "/copies/frames_row/number", "value": {"text": "100000"}}]
    status, body = api.post(f"/designs/{hive.pk}/edits", {"label": "x", "patch": patch}, **{"If-Match": '"1"'})
    assert status == 200
    problem = next(p for p in body["built"]["problems"] if p["code"] == "bad_copy")
    assert "100000 in all" in problem["message"] and problem["rule"] == "from 1 to 200, the original included"
    assert len(body["built"]["parts"]) == 59


def test_a_copys_files_are_its_own_hand(api, hive):
    base = f"/api/designs/{hive.pk}/files/parts"
    one = api.client.get(f"{base}/gable?to=dxf&kerf=nominal")
    other = api.client.get(f"{base}/gable@gables.1?to=dxf&kerf=nominal")
    assert one.status_code == other.status_code == 200 and one.content != other.content
    assert "gable_right_x1" in other.headers["Content-Disposition"]
