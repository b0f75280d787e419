"""Signed-in clients with CSRF checked, and a design to work on."""

from __future__ import annotations

import json

import pytest
from django.conf import settings as conf
from django.contrib.auth import get_user_model
from django.db import connection
from django.test import Client
from zygon_server.designs import orders, service
from zygon_server.nesting import runs

from zygon.design.examples import brood_box
from zygon.design.starters import starter

#: What SQLite alone has; PostgreSQL's own tools do the same.
sqlite_alone = pytest.mark.skipif(connection.vendor != "sqlite", reason="of SQLite alone")
#: Tasks are only recorded here, tests work runs off themselves; the real password hasher is slow on purpose.
AT_ONCE = {
    "TASKS": {"default": {"BACKEND": "django_tasks.backends.dummy.DummyBackend", "QUEUES": ["default", "quick"]}},
    "STORAGES": {**conf.STORAGES, "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"}},
    # one maker asks for all that the tests ask for
    "RATES": {},
    "PASSWORD_HASHERS": ["django.contrib.auth.hashers.MD5PasswordHasher"],
}


#: As it is set for makers; tests have less.
QUICK = runs.QUICK_SECONDS


@pytest.fixture(autouse=True)
def immediate(settings, monkeypatch):
    for name, value in AT_ONCE.items():
        setattr(settings, name, value)
    # an answer waits until the orders of bending are found
    monkeypatch.setattr(orders, "PATIENCE", 600.0)
    # what is laid out need not be laid out well
    monkeypatch.setattr(runs, "QUICK_SECONDS", 0.1)


class Api:
    """A browser's way to the API: JSON, the session's cookie and the CSRF token."""

    def __init__(self, user=None):
        self.client = Client(enforce_csrf_checks=True)
        if user:
            self.client.force_login(user)
        self.client.get("/")
        self.token = self.client.cookies["csrftoken"].value

    def call(self, method, path, body=None, *, token=True, **headers):
        if token:
            headers["X-CSRFToken"] = self.token
        data = json.dumps(body) if body is not None else None
        response = self.client.generic(method, f"/api{path}", data or "", content_type="application/json", headers=headers)
        if "csrftoken" in response.cookies:
            self.token = response.cookies["csrftoken"].value
        kind = response.headers.get("Content-Type", "")
        return response.status_code, (response.json() if kind.startswith("application/json") and response.content else response)

    def get(self, path):
        return self.call("GET", path)

    def post(self, path, body=None, **headers):
        return self.call("POST", path, body or {}, **headers)

    def edit(self, design, revision, *patch, label="an edit", have=()):
        return self.post(
            f"/designs/{design.pk}/edits", {"label": label, "patch": list(patch), "have": list(have)}, **{"If-Match": f'"{revision}"'}
        )


@pytest.fixture
def maker(db):
    return get_user_model().objects.create_user("maker", password="a long enough one")


@pytest.fixture
def api(maker):
    return Api(maker)


@pytest.fixture
def design(maker):
    return service.create(maker, brood_box())


@pytest.fixture
def box(maker):
    return service.create(maker, starter("open-box", "Box"))


def text(key, value):
    """The patch operation that types a value into a size."""
    return {"op": "replace", "path": f"/sizes/{key}/entry/text", "value": value}
