"""What is asked for by hand, over the API: pulls of parts and of groups, and how a feature is dragged."""

import pytest

pytestmark = pytest.mark.django_db


def asked(api, design, what, **body):
    return api.post(f"/designs/{design.pk}/{what}", body)


def test_a_part_and_a_group_are_told_what_they_are_pulled_by(api, box):
    status, found = asked(api, box, "pulls", part="floor")
    assert status == 200 and {p["face"] for p in found} >= {"left", "right", "bottom"}
    assert all(p["unit"] == "mm" for p in found)
    status, refused = asked(api, box, "pulls", group="none")
    assert status == 422 and refused["entry"] == "group"
    patch = [
        {"op": "add", "path": "/groups/g", "value": {"name": "lot", "order": 0, "parent": ""}},
        {"op": "add", "path": "/parts/floor/group", "value": "g"},
    ]
    assert api.edit(box, 1, *patch)[0] == 200
    status, found = asked(api, box, "pulls", group="g")
    assert status == 200 and [p["pointer"] for p in found] == ["/groups/g/move/x", "/groups/g/move/y", "/groups/g/move/z"]


def test_a_feature_is_told_how_it_is_dragged(api, design):
    status, found = asked(api, design, "feature-pulls", part="front", feature="hold")
    assert status == 200 and [p["way"] for p in found["pulls"]] == ["u", "v"]
    status, refused = asked(api, design, "feature-pulls", part="front", feature="none")
    assert status == 422 and refused["value"] == "none"


def test_another_makers_design_is_not_asked(box, django_user_model):
    from tests.server.conftest import Api

    other = Api(django_user_model.objects.create_user("other", password="a long enough one"))
    for what, body in (("pulls", {"part": "floor"}), ("feature-pulls", {"part": "front", "feature": "x"})):
        assert asked(other, box, what, **body)[0] == 404
