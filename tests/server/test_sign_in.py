"""Guessing passwords is slow, for a name and for whoever tries many; passwords are not easily guessed; what the production set switches on."""

import os
import subprocess
import sys
from datetime import timedelta
from pathlib import Path

import pytest
from axes.models import AccessAttempt, AccessFailureLog
from django.core.cache import cache
from django.utils import timezone
from zygon_server import local
from zygon_server.accounts import throttle
from zygon_server.accounts.throttle import LONGEST, address_of

from tests.server.conftest import Api

ROOT = Path(__file__).parents[2]
RIGHT = "a long enough one"


@pytest.fixture(autouse=True)
def nobody_tried():
    cache.clear()
    yield
    cache.clear()


@pytest.fixture
def stranger(db):
    return Api()


def tries(api, name, password, address="10.0.0.7"):
    return api.call("POST", "/session", {"username": name, "password": password}, **{"X-Forwarded-For": address})


def later(seconds):
    AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(seconds=seconds))


def test_after_five_wrong_ones_a_name_waits_from_that_address_alone(stranger, maker, caplog):
    assert [tries(stranger, "maker", "wrong")[0] for _ in range(4)] == [422] * 4
    status, fault = tries(stranger, "maker", "wrong")
    assert (status, fault["code"]) == (429, "too_many") and fault[
        "message"
    ] == "Too many tries with this name. Wait 30 seconds, then try again."
    assert tries(stranger, "maker", RIGHT)[0] == 429  # the right one does not help now
    assert tries(stranger, "other", "wrong")[0] == 422
    assert tries(Api(), "maker", RIGHT, "10.0.0.8")[0] == 200
    told = [(r.getMessage(), r.user, r.address) for r in caplog.records if r.name == "zygon_server.accounts.service"]
    assert (
        told[0] == ("sign-in refused", "maker", "10.0.0.7")
        and told[4][0] == "sign-in held back"
        and told[-1] == ("signed in", "maker", "10.0.0.8")
    )
    assert not any("wrong" in str(vars(r)) or RIGHT in str(vars(r)) for r in caplog.records)  # no password in any log


def test_the_wait_doubles_and_ends(stranger, maker):
    for _ in range(5):
        tries(stranger, "maker", "wrong")
    later(29)
    assert tries(stranger, "maker", RIGHT)[0] == 429
    later(31)
    assert tries(stranger, "maker", RIGHT)[0] == 200
    assert not AccessAttempt.objects.exists()  # whoever came in has tried nothing
    told = [tries(Api(), "maker", "wrong", "10.0.0.7")[1]["message"] for _ in range(5)]
    assert "do not belong" in told[3] and told[4] == "Too many tries with this name. Wait 1 minute, then try again."
    later(59)
    assert tries(stranger, "maker", RIGHT)[0] == 429
    later(61)
    assert tries(stranger, "maker", RIGHT)[0] == 200


def test_the_wait_goes_on_doubling_for_a_day(rf, db):
    request = rf.get("/", REMOTE_ADDR="10.0.0.9")
    assert throttle.wait() == throttle.wait(request) == timedelta(seconds=30)
    request.signing_in = "maker"
    made = 0
    for tried, seconds in ((0, 30), (9, 30), (10, 60), (14, 60), (15, 120), (39, 1920), (40, LONGEST.total_seconds())):
        for n in range(made, tried):
            AccessFailureLog.objects.create(username="maker", ip_address="10.0.0.9", user_agent=str(n))
        made = tried
        assert throttle.wait(request).total_seconds() == seconds
    for other in ({"username": "other"}, {"ip_address": "10.0.0.8"}):
        AccessFailureLog.objects.update(username="maker", ip_address="10.0.0.9")
        AccessFailureLog.objects.update(**other)
        assert throttle.wait(request).total_seconds() == 30
    AccessFailureLog.objects.update(username="maker", ip_address="10.0.0.9", attempt_time=timezone.now() - timedelta(days=1, seconds=1))
    assert throttle.wait(request).total_seconds() == 30


def test_whoever_tries_many_names_waits_too(stranger, maker):
    answers = [tries(stranger, f"name{n}", "wrong")[0] for n in range(31)]
    assert answers == [422] * 30 + [429]
    assert tries(stranger, "maker", RIGHT)[0] == 429 and tries(Api(), "maker", RIGHT, "10.0.0.8")[0] == 200


@pytest.mark.parametrize(
    ("forwarded", "remote", "address"),
    [("", "", "127.0.0.1"), ("", "1.2.3.4", "1.2.3.4"), ("5.6.7.8", "", "5.6.7.8"), ("6.6.6.6, 5.6.7.8", "1.2.3.4", "5.6.7.8")],
)
def test_the_address_is_the_one_that_our_own_proxy_saw(rf, forwarded, remote, address):
    request = rf.get("/", headers={"X-Forwarded-For": forwarded} if forwarded else {}, REMOTE_ADDR=remote)
    assert address_of(request) == address


@pytest.mark.parametrize(
    ("old", "new", "entry", "told"),
    [
        ("wrong", "nine oak pegs", "old", "not the password of now"),
        (RIGHT, "short one", "new", "too short"),
        (RIGHT, "password123", "new", "too common"),
        (RIGHT, "7391846250137", "new", "entirely numeric"),
    ],
)
def test_a_password_that_is_easily_guessed_is_refused(api, old, new, entry, told):
    status, fault = api.post("/session/password", {"old": old, "new": new})
    assert (status, fault["entry"]) == (422, entry) and told in fault["message"] and fault["rule"]


def test_a_password_is_changed_by_whoever_has_it(api, maker, stranger):
    elsewhere = Api()
    assert tries(elsewhere, "maker", RIGHT)[0] == 200
    assert api.post("/session/password", {"old": RIGHT, "new": "nine oak pegs"})[1]["user"] == "maker"
    assert api.get("/designs")[0] == 200  # stays signed in here, and nowhere else
    assert elsewhere.get("/designs")[0] == 401
    assert tries(stranger, "maker", RIGHT)[0] == 422 and tries(stranger, "maker", "nine oak pegs")[0] == 200
    assert Api().post("/session/password", {"old": RIGHT, "new": "nine oak pegs"})[0] == 401


def test_what_is_kept_is_nobody_else_s_business(tmp_path, monkeypatch):
    monkeypatch.setattr(local, "VAR", tmp_path / "var")
    before = os.umask(0o022)
    try:
        local.prepare()
        (tmp_path / "var" / "zygon.sqlite3").write_bytes(b"")
    finally:
        os.umask(before)
    modes = {p.name: p.stat().st_mode & 0o777 for p in (tmp_path / "var").iterdir()}
    assert modes["secret-key"] == 0o600 and modes["zygon.sqlite3"] == 0o600 and (tmp_path / "var").stat().st_mode & 0o777 == 0o700


def test_the_production_set_is_clean(tmp_path):
    env = {
        **os.environ,
        "ZYGON_PRODUCTION": "1",
        "ZYGON_VAR": str(tmp_path),
        "ZYGON_HOSTS": "shop.example",
        "PYTHONPATH": str(ROOT / "server"),
    }
    env.pop("DJANGO_SETTINGS_MODULE", None)
    told = subprocess.run(
        [sys.executable, ROOT / "server" / "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        env=env,
        capture_output=True,
        text=True,
        check=False,
    )
    assert told.returncode == 0 and "no issues" in told.stdout, told.stderr
    asked = "from zygon_server import settings as s; print(s.SECURE_SSL_REDIRECT, s.SESSION_COOKIE_SECURE, s.CSRF_COOKIE_SECURE, s.SECURE_HSTS_SECONDS, s.CSRF_TRUSTED_ORIGINS, s.DEBUG, s.DEMO)"
    told = subprocess.run([sys.executable, "-c", asked], env={**env, "ZYGON_DEMO": ""}, capture_output=True, text=True, check=True)
    assert told.stdout.strip() == "True True True 31536000 ['https://shop.example'] False False"


def test_a_session_says_whether_there_is_a_password_to_change(db, api, django_user_model, settings):
    from tests.server.conftest import Api

    assert api.get("/session")[1] == {"user": "maker", "demo": settings.DEMO, "password": True}
    demo = django_user_model.objects.create_user("thistledown")
    demo.set_unusable_password()
    demo.save()
    assert Api(demo).get("/session")[1]["password"] is False
    assert Api().get("/session")[1] == {"user": "", "demo": settings.DEMO, "password": False}
