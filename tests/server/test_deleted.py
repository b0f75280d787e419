"""Deleted designs come back for thirty days, pictures are kept with their design, and starters are begun by answers."""

from datetime import timedelta

import pytest
from django.utils import timezone
from zygon_server.designs import service
from zygon_server.designs.models import Design
from zygon_server.keeping.pruning import prune

from tests.server.conftest import Api

pytestmark = pytest.mark.django_db


def new(api, name="Box", starter="open-box", **more):
    status, made = api.post("/designs", {"name": name, "starter": starter, **more})
    assert status == 200, made
    return made["id"]


def delete(api, path):
    return api.call("DELETE", path)


def names(api, where="/designs"):
    return [d["name"] for d in api.get(where)[1]]


def wider(api, design):
    """An edit of a design that is as it began."""
    patch = [{"op": "replace", "path": "/sizes/width/entry/text", "value": "333 mm"}]
    assert api.post(f"/designs/{design}/edits", {"label": "wider", "patch": patch}, **{"If-Match": '"1"'})[0] == 200


@pytest.fixture
def other_api(django_user_model):
    return Api(django_user_model.objects.create_user("other", password="a long enough one"))


def test_a_deleted_design_is_out_of_sight_and_comes_back_with_its_history(api):
    one, other = new(api, "One"), new(api, "Other")
    wider(api, one)
    assert delete(api, f"/designs/{one}")[0] == 204
    assert names(api) == ["Other"] and names(api, "/designs/deleted") == ["One"]
    for path in ("", "/file", "/picture", "/edits"):
        assert api.get(f"/designs/{one}{path}")[0] == 404
    assert delete(api, f"/designs/{one}")[0] == 404
    assert api.post(f"/designs/{other}/restore")[0] == 404  # it is not deleted
    assert api.post(f"/designs/{one}/restore")[0] == 200
    assert sorted(names(api)) == ["One", "Other"] and names(api, "/designs/deleted") == []
    back = api.get(f"/designs/{one}")[1]
    assert back["document"]["sizes"]["width"]["entry"]["text"] == "333 mm" and back["undo"] == "wider"


def test_what_was_deleted_thirty_days_ago_is_gone_and_no_sooner(api):
    one, other = new(api, "One"), new(api, "Other")
    for pk in (one, other):
        delete(api, f"/designs/{pk}")
    (row, *_) = [d for d in api.get("/designs/deleted")[1] if d["id"] == one]
    assert row["until"] > row["deleted"]
    Design.objects.filter(pk=one).update(deleted=timezone.now() - timedelta(days=30, minutes=1))
    Design.objects.filter(pk=other).update(deleted=timezone.now() - timedelta(days=29, hours=23))
    assert prune()["deleted designs"] >= 1
    assert names(api, "/designs/deleted") == ["Other"]
    assert api.post(f"/designs/{one}/restore")[0] == 404


def test_for_good_is_for_good_and_for_what_is_deleted_alone(api):
    one = new(api)
    assert delete(api, f"/designs/{one}/for-good")[0] == 404
    delete(api, f"/designs/{one}")
    assert delete(api, f"/designs/{one}/for-good")[0] == 204
    assert names(api, "/designs/deleted") == [] and not Design.objects.filter(pk=one).exists()


def test_another_makers_deleted_design_is_not_there(api, other_api):
    one = new(api)
    delete(api, f"/designs/{one}")
    assert names(other_api, "/designs/deleted") == []
    assert other_api.post(f"/designs/{one}/restore")[0] == 404
    assert delete(other_api, f"/designs/{one}/for-good")[0] == 404


def test_deleted_ones_do_not_count_and_come_back_only_where_there_is_room(api, settings):
    settings.QUOTAS = {**settings.QUOTAS, "designs": 1}
    one = new(api, "One")
    delete(api, f"/designs/{one}")
    new(api, "Two")
    refused = api.post(f"/designs/{one}/restore")
    assert refused[0] == 422 and refused[1]["code"] == "quota"
    assert names(api, "/designs/deleted") == ["One"]


def test_a_picture_is_drawn_once_for_a_revision_and_kept(api, monkeypatch):
    one = new(api)
    first = api.get(f"/designs/{one}/picture")[1].content
    drawn = []
    monkeypatch.setattr(service, "picture", lambda built: drawn.append(built) or "<svg/>")
    assert api.get(f"/designs/{one}/picture")[1].content == first and not drawn
    wider(api, one)
    assert api.get(f"/designs/{one}/picture")[1].content == b"<svg/>" and len(drawn) == 1
    assert api.get(f"/designs/{one}/picture")[1].content == b"<svg/>" and len(drawn) == 1


def test_a_starter_is_begun_by_answers_and_shown_before(api):
    forms = {f["key"]: f for f in api.get("/designs/starters")[1]}
    assert [a["name"] for a in forms["cabinet"]["asks"]] == ["width", "depth", "height", "shelves", "stock", "back"]
    body = {"starter": "cabinet", "unit": "in", "values": {"width": "20", "shelves": "3"}}
    shown = api.post("/designs/starters/shown", body)[1]
    assert shown["parts"] == 9 and shown["picture"].startswith("<svg") and shown["size"][0] == pytest.approx(508)
    before = len(names(api))
    one = new(api, "Kitchen", **body)
    document = api.get(f"/designs/{one}")[1]["document"]
    assert document["unit"] == "in" and document["sizes"]["width"]["entry"] == {"text": "20", "unit": "in"}
    assert len(names(api)) == before + 1


@pytest.mark.parametrize("path", ["/designs", "/designs/starters/shown"])
def test_an_answer_that_cannot_be_is_refused_by_name(api, path):
    body = {"name": "Box", "starter": "open-box", "values": {"width": "1 mm"}}
    refused = api.post(path, body)
    assert refused[0] == 422
    assert (refused[1]["entry"], refused[1]["value"]) == ("values/width", "1 mm")
    assert names(api) == []
