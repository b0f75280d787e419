"""Signing in, the demo's door, CSRF and the content security policy."""

import pytest

from tests.server.conftest import Api


@pytest.fixture
def stranger(db):
    return Api()


def test_nobody_reads_anything_without_signing_in(stranger, design):
    for path in (
        "/designs",
        f"/designs/{design.pk}",
        f"/designs/{design.pk}/file",
        f"/designs/{design.pk}/files/all",
        f"/designs/{design.pk}/nest",
        "/workshop",
    ):
        status, body = stranger.get(path)
        assert (status, body["code"]) == (401, "signed_out")
    assert stranger.get("/session")[1] == {"user": "", "demo": False, "password": False}


def test_signing_in_and_out(stranger, maker):
    status, body = stranger.post("/session", {"username": "maker", "password": "wrong"})
    assert status == 422 and "do not belong together" in body["message"]
    assert stranger.post("/session", {"username": "maker", "password": "a long enough one"})[1]["user"] == "maker"
    assert stranger.get("/designs") == (200, [])
    assert stranger.call("DELETE", "/session")[1]["user"] == ""
    assert stranger.get("/designs")[0] == 401


def test_the_demo_opens_only_where_it_was_switched_on(stranger, settings, db):
    assert stranger.post("/session/demo")[0] == 403
    settings.DEMO = True
    status, body = stranger.post("/session/demo")
    assert status == 403 and "not loaded" in body["message"]
    from django.core.management import call_command

    call_command("load_demo", verbosity=0)
    call_command("load_demo", verbosity=0)
    assert stranger.post("/session/demo")[1]["user"] == "thistledown"
    names = [d["name"] for d in stranger.get("/designs")[1]]
    assert names[0] == "Hive" and len(names) == len(set(names)) == 30
    assert set(stranger.get("/workshop")[1]["stocks"]) == {
        "ply12",
        "ply6",
        "ply18",
        "ply34",
        "galv20",
        "felt3",
        "beech12",
        "steel6",
        "steel8",
        "square40",
        "tube33",
        "tube42",
        "flat30",
    }


def test_writing_needs_the_csrf_token(api, box):
    for call in (("POST", "/designs", {"name": "x"}), ("DELETE", f"/designs/{box.pk}", None), ("DELETE", "/session", None)):
        status, _ = api.call(*call, token=False)
        assert status == 403
    assert api.get("/designs")[1][0]["name"] == "Box"


def test_the_page_carries_a_policy_without_unsafe_inline(api):
    one, two = (api.client.get("/designs/anything") for _ in "12")
    policy = one.headers["Content-Security-Policy"]
    assert "script-src 'self';" in policy and "unsafe" not in policy and "http" not in policy
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert f'content="{nonce}"' in one.content.decode()
    assert nonce not in two.headers["Content-Security-Policy"]


def test_nobody_reads_or_changes_anothers(design, django_user_model):
    other = Api(django_user_model.objects.create_user("other"))
    base = f"/designs/{design.pk}"
    calls = [
        ("GET", base, None),
        ("DELETE", base, None),
        ("POST", f"{base}/copy", {}),
        ("POST", f"{base}/name", {"name": "mine"}),
        ("GET", f"{base}/file", None),
        ("GET", f"{base}/picture", None),
        ("GET", f"{base}/edits", None),
        ("POST", f"{base}/preview", {"patch": []}),
        ("POST", f"{base}/operations", {"operation": "remove_part", "key": "front"}),
        ("POST", f"{base}/joints/possible", {"a": "front", "b": "left"}),
        ("GET", f"{base}/nest", None),
        ("POST", f"{base}/nest", {}),
        ("GET", f"{base}/files/all", None),
        ("GET", f"{base}/files/parts/front", None),
        ("GET", f"{base}/files/cut-list", None),
        ("GET", f"{base}/resources/solid-x", None),
    ]
    for method, path, body in calls:
        assert other.call(method, path, body)[0] == 404, path
    assert other.edit(design, 1)[0] == 404
    assert other.get("/designs")[1] == []
    design.refresh_from_db()
    assert design.revision == 1
