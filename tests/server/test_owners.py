"""Nobody reads or changes what is another maker's, by any route, in any place where an id can stand, alone or beside one's own."""

import json
import re
from functools import cache

import pytest
from django.contrib.auth import get_user_model
from django.core import serializers
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import override_settings
from zygon_server.api import api as ninja
from zygon_server.designs import service as designs
from zygon_server.designs.models import Design, Edit, IssuedSet
from zygon_server.elsewhere.models import OutsideOrder
from zygon_server.machines.models import Job, JobRun, JobSide
from zygon_server.nesting import runs
from zygon_server.nesting.layouts import standing
from zygon_server.nesting.models import Batch, BatchItem, NestLayout, NestRun
from zygon_server.nesting.tasks import work_runs
from zygon_server.workshop.models import Offcut

from tests.server.conftest import AT_ONCE, Api
from tests.server.test_arranging import arrangement
from zygon.design.starters import starter
from zygon.screen.programs import program_data

#: A body that is a file.
FILE = object()
OTHERS = (Design, Edit, IssuedSet, Batch, BatchItem, NestRun, NestLayout, Offcut, Job, JobSide, JobRun, OutsideOrder)


@cache
def routes():
    """Method, path, name and the least body of every call that has an id in its path, as the application describes itself."""
    schema = ninja.get_openapi_schema()
    found = []
    for path, calls in schema["paths"].items():
        for method, call in calls.items():
            content = call.get("requestBody", {}).get("content", {})
            body = least(content["application/json"]["schema"], schema) if "application/json" in content else FILE if content else None
            if "{" in path:
                found.append((method.upper(), path.removeprefix("/api"), call["operationId"], body))
    return found


def least(kind, schema):
    """The least value that a description allows, so that a call is not refused for its body before it is asked whose it is."""
    if "$ref" in kind:
        return least(schema["components"]["schemas"][kind["$ref"].rsplit("/", 1)[1]], schema)
    for choice in ("anyOf", "allOf", "oneOf"):
        if choice in kind:
            return least(kind[choice][0], schema)
    if "enum" in kind or "const" in kind:
        return kind.get("const") or kind["enum"][0]
    if kind.get("type") == "object" or "properties" in kind:
        return {k: least(kind["properties"][k], schema) for k in kind.get("required", ())}
    return (
        {"string": "x", "number": 1.0, "integer": 1, "boolean": False, "array": [], "null": None}[kind.get("type", "object")]
        if kind.get("type")
        else {}
    )


def waiting(user, design, stock):
    """A sheet that lies on a bed, with a program."""
    sheet = design.layouts.first().data["sheets"][0]
    given = {
        "owner": user,
        "machine": f"laser-{user.username}",
        "design": design,
        "name": design.name,
        "revision": 1,
        "author": user.username,
    }
    job = Job.objects.create(**given, stock=stock, stock_name=stock, thickness=12.0, number=1, of=1, sheet=sheet, state=Job.State.CUT)
    shown = {**program_data_of(design, stock), "seconds": 1.0}
    JobSide.objects.create(job=job, number=0, text="M30\n", shown=shown, moves=1, overlap=3.0)
    JobRun.objects.create(job=job, side=0, number=0, name=f"{job.pk.hex[:12]}-0", text="M30\n", moves=1, author=user.username)
    return job


def program_data_of(design, stock):
    head = designs.head(design)
    nest = next(n for n in standing(design, head) if n.plan.stock == stock)
    return program_data(head.built, nest, 1)


class Maker:
    """One with a design that is laid out, with a sheet that was cut, a search that waits, and a batch."""

    def __init__(self, name):
        self.user = get_user_model().objects.create_user(name, password="a long enough one")
        self.api = Api(self.user)
        self.design = designs.create(self.user, starter("open-box", f"Box of {name}"))
        self.api.post(f"/designs/{self.design.pk}/nest", {"quick": True})
        work_runs.func()
        stock = self.api.get(f"/designs/{self.design.pk}/nest")[1]["stocks"][0]
        self.stock = stock["stock"]
        hand = arrangement(stock["layout"])
        hand["sheets"]["s0"]["cut"] = True
        assert self.api.edit(self.design, 1, {"op": "add", "path": f"/nest/arranged/{self.stock}", "value": hand})[0] == 200
        self.offcut = self.api.post(f"/designs/{self.design.pk}/nest/offcuts", {"stock": self.stock, "number": 1, "place": "rack"})[1][0]
        self.batch = self.api.post("/batches", {"name": "B", "items": [{"design": str(self.design.pk), "quantity": 2}]})[1]
        self.api.post(f"/batches/{self.batch['id']}/nest", {"quick": True})
        work_runs.func()
        self.batch_state = self.api.get(f"/batches/{self.batch['id']}/nest")[1]
        IssuedSet.objects.create(design=self.design, revision="A", number=1, sheets=1, author=name, data=b"%PDF-")
        self.job = waiting(self.user, self.design, self.stock)
        self.order = self.api.post(f"/designs/{self.design.pk}/outside-orders", {"cutter": "pebbleford", "parts": []})[1]
        self.layout = NestLayout.objects.filter(design=self.design).first()

    def search(self):
        """Searches that nobody takes up."""
        self.run = runs.ask(self.design, quick=False, seconds=60)
        self.batch_run = runs.ask(Batch.objects.get(pk=self.batch["id"]), quick=False, seconds=60)

    def ids(self, path):
        """What stands in a path for each of its ids."""
        batch = path.startswith("/batches")
        return {
            "design_id": self.design.pk,
            "job_id": self.job.pk,
            "order_id": self.order["id"],
            "machine": "laser",
            "batch_id": self.batch["id"],
            "run_id": (self.batch_run if batch else self.run).pk,
            "number": 1 if "sheets" in path or "programs" in path else self.layout.pk,
            "digest": self.batch_state["stocks"][0]["digest"],
            "label": self.offcut["label"],
            "key": "front",
            "part": "front",
            "stock": self.stock,
            "group": "stocks",
            "size": "half",
            "subject": "part:front",
            "revision": "A",
        }

    def upload(self, path):
        file = SimpleUploadedFile("tag.svg", b"<svg/>")
        answer = self.api.client.post(f"/api{path}", {"file": file}, headers={"X-CSRFToken": self.api.token})
        return answer.status_code, answer.content

    def kept(self):
        """All that is this maker's, as it is stored."""
        rows = [r for m in OTHERS for r in m.objects.all() if self.owns(r)]
        return json.loads(serializers.serialize("json", rows))

    def owns(self, row):
        at = getattr(row, "owner", None)
        if at is None:
            above = getattr(row, "design", None) or getattr(row, "batch", None) or getattr(row, "job", None)
            at = above.owner
        return at == self.user


@pytest.fixture(scope="module")
def made(django_db_setup, django_db_blocker):
    """Both makers, once for all tests, in a transaction that none of them sees the end of."""
    with django_db_blocker.unblock(), override_settings(**AT_ONCE), transaction.atomic():
        makers = Maker("one"), Maker("two")
        for maker in makers:
            maker.search()
        yield makers
        transaction.set_rollback(True)


@pytest.fixture
def both(made, db):
    for maker in made:
        maker.design.refresh_from_db()
    return made


def test_the_neighbour_s_ids_lead_nowhere_wherever_they_stand(both):
    mine, theirs = both
    before = theirs.kept()
    assert len(before) >= 8
    tried = 0
    for method, path, name, body in routes():
        ids = [
            i
            for i in re.findall(r"{(\w+)}", path)
            if i not in ("key", "part", "stock", "group", "size", "subject", "revision", "machine")
            and not (i == "number" and ("sheets" in path or "programs" in path))
        ]
        for foreign in ids:
            if foreign == "label":
                continue  # a label is a number of one's own shelf; see below
            values = mine.ids(path)
            values[foreign] = theirs.ids(path)[foreign]
            headers = {"If-Match": f'"{theirs.design.revision}"'} if name in ("edit_design", "undo", "redo") else {}
            where = path.format(**values)
            status, answer = mine.upload(where) if body is FILE else mine.api.call(method, where, body, **headers)
            assert status == 404, (method, path, foreign, status, answer)
            tried += 1
    assert tried > 40
    assert theirs.kept() == before


def test_with_one_s_own_ids_the_same_calls_find_something(both):
    mine, _ = both
    for method, path, _, _ in routes():
        if (
            method == "GET"
            and "/resources/" not in path
            and "/solids" not in path
            and "/bending" not in path
            and "drilling-list" not in path
            and "bend-table" not in path
            and "brake-" not in path
            and "tube-cuts" not in path
            and "power-test" not in path
            and "/material" not in path
            and "saw-list" not in path
            and "bender-table" not in path
            and "to-buy" not in path
            and "templates" not in path
            and "travel" not in path
            and "/drawing" not in path
            and "/pictures/" not in path
        ):
            status, body = mine.api.get(path.format(**mine.ids(path)))
            assert status == 200, (path, status, body)


def test_a_label_is_of_one_s_own_shelf(both):
    mine, theirs = both
    assert mine.offcut["label"] == theirs.offcut["label"] == "R1"
    assert mine.api.call("PATCH", "/offcuts/R1", {"place": "mine"})[0] == 200
    assert theirs.api.get("/offcuts")[1][0]["place"] == "rack" and mine.api.get("/offcuts")[1][0]["place"] == "mine"
    assert mine.api.call("DELETE", "/offcuts/R1")[0] in (200, 204)
    assert "R1" not in [o["label"] for o in mine.api.get("/offcuts")[1]]
    assert "R1" in [o["label"] for o in theirs.api.get("/offcuts")[1]]


def test_lists_and_workshops_are_one_s_own(both):
    mine, theirs = both
    for path in ("/designs", "/batches", "/offcuts"):
        own, others = mine.api.get(path)[1], theirs.api.get(path)[1]
        assert own and others and "one" not in json.dumps(others).replace("none", "") and "Box of two" not in json.dumps(own)
    key, stock = next(iter(mine.design.document["stocks"].items()))
    assert theirs.api.call("PUT", f"/workshop/stocks/{key}", stock)[0] in (200, 204)
    assert mine.api.call("PUT", f"/workshop/stocks/{key}", {**stock, "name": "My own ply"})[0] in (200, 204)
    assert theirs.api.get("/workshop")[1]["stocks"][key]["name"] == stock["name"]
    assert mine.api.call("DELETE", f"/workshop/stocks/{key}")[0] in (200, 204)
    assert key in theirs.api.get("/workshop")[1]["stocks"] and key not in mine.api.get("/workshop")[1]["stocks"]


def test_a_batch_takes_only_one_s_own_designs(both):
    mine, theirs = both
    items = [{"design": str(mine.design.pk), "quantity": 1}, {"design": str(theirs.design.pk), "quantity": 1}]
    assert mine.api.post("/batches", {"name": "Ours", "items": items})[0] == 404
    assert mine.api.call("PUT", f"/batches/{mine.batch['id']}", {"name": "Ours", "items": items})[0] == 404
    assert len(mine.api.get("/batches")[1]) == 1 and len(mine.api.get("/batches")[1][0]["items"]) == 1


def test_a_step_back_is_refused_on_a_revision_that_is_not_the_head(both):
    mine, _ = both
    for way in ("undo", "redo"):
        for stale in (1, 3):
            status, fault = mine.api.post(f"/designs/{mine.design.pk}/{way}", {"have": []}, **{"If-Match": f'"{stale}"'})
            assert status == 412, (way, stale, fault)
    mine.design.refresh_from_db()
    assert mine.design.revision == 2
    assert mine.api.post(f"/designs/{mine.design.pk}/undo", {"have": []}, **{"If-Match": '"2"'})[0] == 200
    assert mine.api.post(f"/designs/{mine.design.pk}/redo", {"have": []}, **{"If-Match": '"2"'})[0] == 412
