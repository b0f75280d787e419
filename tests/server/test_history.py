"""Edits undone and made again in their order; what is built once is not built again; limits of size; operations as the core works them out."""

import copy
import json

import pytest
import zygon_server.sent as sent_files
from django.core.files.uploadedfile import SimpleUploadedFile
from zygon_server.designs import export_api, orders, service
from zygon_server.designs.models import Edit

from tests.core.making.metal.trays import flange
from tests.core.making.metal.trays import folded as drafted
from tests.server.conftest import text
from zygon.design.examples import EXAMPLES
from zygon.design.layout_operations import change_many, group_parts, mirror
from zygon.design.operations import remove_part, remove_size, rename
from zygon.design.upgrade import as_schema
from zygon.edits import cut_tests
from zygon.edits.bend_strip import add_bend_test, bend_from_legs
from zygon.edits.operations import OPERATIONS
from zygon.edits.split import split_part
from zygon.exchange.formats import FORMATS
from zygon.making.asked.questions import middle_of


def size_of(design):
    return next(iter(design.document["sizes"]))


def step(api, design, way, revision):
    return api.post(f"/designs/{design.pk}/{way}", {"have": []}, **{"If-Match": f'"{revision}"'})


def test_edits_are_undone_from_the_last_on_and_made_again_from_the_first_on(api, box):
    size = size_of(box)
    for n, label in enumerate("abc", 1):
        assert api.edit(box, n, text(size, f"{310 + n}"), label=label)[0] == 200
    said = []
    for revision, way in enumerate(["undo", "undo", "redo", "undo", "undo", "redo", "redo", "redo"], 4):
        status, body = step(api, box, way, revision)
        assert status == 200 and body["revision"] == revision + 1
        said.append((body["undo"], body["redo"], body["document"]["sizes"][size]["entry"]["text"]))
    assert [s[:2] for s in said] == [("b", "c"), ("a", "b"), ("b", "c"), ("a", "b"), ("", "a"), ("a", "b"), ("b", "c"), ("c", "")]
    assert [s[2] for s in said[:3]] == ["312", "311", "312"] and said[-1][2] == "313"
    status, fault = step(api, box, "redo", 12)
    assert (status, fault["entry"], fault["rule"], fault["message"]) == (
        422,
        "redo",
        "an edit that was undone",
        "There is nothing to redo.",
    )


def test_what_was_undone_is_gone_for_good_after_another_edit(api, box):
    size = size_of(box)
    for n, label in enumerate("ab", 1):
        api.edit(box, n, text(size, f"{310 + n}"), label=label)
    step(api, box, "undo", 3)
    body = api.edit(box, 4, text(size, "400"), label="c")[1]
    assert (body["undo"], body["redo"]) == ("c", "")
    assert step(api, box, "redo", 5)[0] == 422
    assert (step(api, box, "undo", 5)[1]["undo"], step(api, box, "undo", 6)[1]["undo"]) == ("a", "")
    status, fault = step(api, box, "undo", 7)
    assert (status, fault["entry"], fault["rule"], fault["message"]) == (422, "undo", "an edit that stands", "There is nothing to undo.")
    kept = Edit.objects.filter(design=box).order_by("revision")
    assert [(e.kind, e.state, e.label, e.author) for e in kept] == [
        ("edit", "undone", "a", "maker"),
        ("edit", "dropped", "b", "maker"),
        ("undo", "done", "b", "maker"),
        ("edit", "undone", "c", "maker"),
        ("undo", "done", "c", "maker"),
        ("undo", "done", "a", "maker"),
    ]


def test_another_design_s_history_is_its_own(api, box, maker):
    from zygon.design.starters import starter

    other = service.create(maker, starter("open-box", "Other"))
    api.edit(other, 1, text(size_of(other), "333"), label="theirs")
    step(api, other, "undo", 2)
    api.edit(box, 1, text(size_of(box), "332"), label="ours")
    assert api.get(f"/designs/{other.pk}")[1]["redo"] == "theirs"
    body = api.get(f"/designs/{box.pk}")[1]
    assert (body["undo"], body["redo"]) == ("ours", "")


@pytest.fixture
def built(monkeypatch):
    """How often something is built and checked."""
    counts = {"build": 0, "check": 0}
    for name in counts:
        own = getattr(service, name)

        def counted(*args, _own=own, _name=name, **more):
            counts[_name] += 1
            return _own(*args, **more)

        monkeypatch.setattr(service, name, counted)
    return counts


def test_an_edit_is_built_and_checked_once_and_what_is_shown_after_it_not_again(api, box, built):
    api.get(f"/designs/{box.pk}")
    built.update(build=0, check=0)
    assert api.edit(box, 1, text(size_of(box), "333"))[0] == 200
    assert built == {"build": 1, "check": 1}
    api.get(f"/designs/{box.pk}")
    assert built == {"build": 1, "check": 1}
    patch = [text(size_of(box), "334")]
    for _ in range(2):
        assert api.post(f"/designs/{box.pk}/preview", {"patch": patch, "have": []})[0] == 200
    assert built == {"build": 2, "check": 2}
    step(api, box, "undo", 2)
    api.get(f"/designs/{box.pk}")
    assert built == {"build": 3, "check": 3}


def test_what_the_orders_show_is_checked_once(monkeypatch, box, built):
    key = f"{box.pk}:1"
    waiting = service.replace(service.head(box), ordering=["tray"])
    service._BUILT.put(key, waiting)
    built.update(build=0, check=0)
    monkeypatch.setattr(orders, "going_on", lambda *_: True)
    assert service.head(box).ordering == ["tray"] and built["check"] == 0
    monkeypatch.setattr(orders, "going_on", lambda *_: False)
    assert service.head(box).ordering == [] and service.head(box).ordering == [] and built == {"build": 0, "check": 1}


def test_edits_previews_and_designs_are_refused_from_one_byte_over_their_limit(api, box, monkeypatch):
    patch = [text(size_of(box), "333")]
    size = len(json.dumps(patch))
    monkeypatch.setattr(service, "MAX_PATCH_BYTES", size - 1)
    monkeypatch.setattr(service._small_enough, "__defaults__", (10**9, "a design"))
    for path, headers in (("edits", {"If-Match": '"1"'}), ("preview", {})):
        status, fault = api.post(f"/designs/{box.pk}/{path}", {"label": "x", "patch": patch, "have": []}, **headers)
        assert (status, fault["code"], fault["entry"], fault["value"], fault["rule"]) == (
            422,
            "too_large",
            "an edit",
            size,
            f"at most {size - 1} bytes",
        )
    monkeypatch.setattr(service, "MAX_PATCH_BYTES", size + 1)
    assert api.edit(box, 1, *patch)[0] == 200
    whole = len(json.dumps(api.get(f"/designs/{box.pk}")[1]["document"]))
    monkeypatch.setattr(service._small_enough, "__defaults__", (whole - 1, "a design"))
    status, fault = api.edit(box, 2, text(size_of(box), "3333"))
    assert (status, fault["code"], fault["entry"]) == (422, "too_large", "a design")
    assert api.post("/designs", {"name": "x" * 60, "starter": "closed-box"})[0] in (200, 422)
    monkeypatch.setattr(service._small_enough, "__defaults__", (10, "a design"))
    status, fault = api.post("/designs", {"name": "x", "starter": "closed-box"})
    assert (status, fault["code"], fault["message"].startswith("This is ")) == (422, "too_large", True)


def test_a_file_of_just_the_size_that_is_allowed_is_taken(api, box, monkeypatch):
    file = api.client.get(f"/api/designs/{box.pk}/file")
    monkeypatch.setattr(sent_files, "MAX_UPLOAD_BYTES", len(file.content))

    def uploaded(content):
        return api.client.post("/api/designs/upload", {"file": SimpleUploadedFile("box.json", content)}, headers={"X-CSRFToken": api.token})

    assert uploaded(file.content).status_code == 200
    answer = uploaded(file.content + b" ")
    assert answer.status_code == 422 and (answer.json()["entry"], answer.json()["value"]) == ("file", len(file.content) + 1)


def test_a_design_file_is_readable_and_has_its_name(api, box):
    name = "Kästchen Nr. 3_b"
    assert api.post(f"/designs/{box.pk}/name", {"name": name})[1]["name"] == name
    answer = api.client.get(f"/api/designs/{box.pk}/file")
    assert name in answer.content.decode() and answer.content.startswith(b"{\n ")
    assert "k%C3%A4stchen-nr--3_b.json" in answer.headers["Content-Disposition"]


def test_each_kind_of_file_is_told_as_what_it_is():
    known = {
        "dxf": "image/vnd.dxf",
        "svg": "image/svg+xml",
        "csv": "text/csv; charset=utf-8",
        "pdf": "application/pdf",
        "png": "image/png",
        "nc": "text/plain; charset=utf-8",
        "zip": "application/zip",
        "step": "model/step",
        "stl": "model/stl",
        "3mf": "model/3mf",
        "glb": "model/gltf-binary",
    }
    assert {k: f.media for k, f in FORMATS.items() if k not in ("txt", "json")} == known
    for name, kind in known.items():
        answer = export_api.download(f"a b.{name}", "x")
        assert answer.headers["Content-Type"] == kind and f"a b.{name}" in answer.headers["Content-Disposition"]


@pytest.mark.parametrize("text_", ["", "x", '"-1"', '"1.0"'])
def test_an_edit_names_its_revision(api, box, text_):
    status, fault = api.post(f"/designs/{box.pk}/edits", {"label": "x", "patch": [], "have": []}, **{"If-Match": text_})
    assert (status, fault["entry"], fault["value"], fault["rule"]) == (422, "If-Match", text_, "a revision number")


# operations


@pytest.fixture
def tray(maker):
    return service.create(maker, drafted({"left": flange("left"), "right": flange("right", 22)}).document)


def worked(head, operation, **body):
    return OPERATIONS[operation](operation=operation, **body).work(head.built)


def test_test_pieces_take_every_number_that_is_said(box):
    head = service.head(box)
    stock, cutter = next(iter(head.document.stocks)), head.document.cutter
    own = {"stock": stock, "cutter": cutter}
    assert worked(head, "comb", **own, start=-0.1, step=0.05, number=5) == cut_tests.add_comb(head.built, stock, cutter, -0.1, 0.05, 5)
    assert worked(head, "comb", **own) == cut_tests.add_comb(head.built, stock, cutter, -0.2, 0.1, 9)
    assert worked(head, "kerf_test", **own, squares=6, side=17.0, play=2.0) == cut_tests.add_kerf_test(
        head.built, stock, cutter, 6, 17.0, 2.0
    )
    assert worked(head, "kerf_test", **own) == cut_tests.add_kerf_test(head.built, stock, cutter, 8, 20.0, 1.0)


def test_strips_and_splits_take_every_number_that_is_said(api, tray, maker):
    metal = service.create(maker, EXAMPLES["electronics-box"]())
    head = service.head(metal)
    stock, cutter = next(k for k, v in head.document.stocks.items() if v.bending), next(iter(head.document.cutters))
    own = {"stock": stock, "cutter": cutter}
    assert worked(head, "bend_test", **own, radius=2.5, angle=60.0, length=80.0) == add_bend_test(
        head.built, stock, cutter, 2.5, 60.0, 80.0
    )
    label, patch = worked(head, "bend_test", **own)
    assert (label, patch) == add_bend_test(head.built, stock, cutter, 1.5, 90.0, 100.0)
    assert api.edit(metal, 1, *patch)[0] == 200
    metal.refresh_from_db()
    head = service.head(metal)
    key = next(iter(head.document.tests))
    for values in ({"first": 51.4, "second": 50.3}, {"first": 51.4, "second": 50.3, "radius": 1.4}):
        assert worked(head, "bend_from_legs", key=key, **values) == bend_from_legs(head.built, key, 51.4, 50.3, values.get("radius"))
    head = service.head(tray)
    said = {"at": 91.0, "overlap": 19.0, "diameter": 3.9, "number": 3}
    assert worked(head, "split", key="p", axis="y", hold="rivets", **said) == split_part(
        head.built, "p", "y", 91.0, hold="rivets", overlap=19.0, diameter=3.9, number=3
    )
    assert worked(head, "split", key="p", hold="tabs", at=91.0) == split_part(
        head.built, "p", "x", 91.0, hold="tabs", overlap=16.0, diameter=3.2, number=4
    )


def test_what_concerns_the_document_alone_is_passed_on_as_it_is(design):
    head = service.head(design)
    document, size, part = head.document, next(iter(head.document.sizes)), next(iter(head.document.parts))
    assert worked(head, "rename", group="sizes", key=size, name="wide") == rename(document, "sizes", size, "wide")
    assert worked(head, "remove_part", key=part) == remove_part(document, part)
    assert worked(head, "remove_size", key=size) == remove_size(document, size)
    of = [f"part:{part}"]
    assert worked(head, "group", of=[part], name="carcase") == group_parts(document, [part], "carcase")
    assert worked(head, "mirror", of=of, axis="y", text="30", unit="in") == mirror(document, of, "y", "30", "in")
    assert worked(head, "mirror", of=of) == mirror(document, of, "x", middle_of(head.built, of, "x"), "")
    of = [
        f"feature:{p}:{k}"
        for p, record in document.parts.items()
        for k, f in getattr(record, "features", {}).items()
        if f.kind == "hand_hold"
    ]
    many = worked(head, "change_many", of=of, field="length", text="4", unit="in")
    assert many == change_many(document, of, "length", "4", "in") != change_many(document, of, "length", "4", "mm")
    assert worked(head, "change_many", of=of, field="length", text="4") == change_many(document, of, "length", "4", "mm")
    value = head.built.values[f"/sizes/{size}/entry"]
    label, patch = worked(head, "freeze", entry=f"/sizes/{size}/entry")
    assert patch[0]["path"].startswith(f"/sizes/{size}/entry") and f"{value.value:g}" in json.dumps(patch)
    assert label


@pytest.mark.parametrize("operation", OPERATIONS)
def test_an_operation_of_which_nothing_is_said_names_what_is_missing(api, box, operation):
    status, body = api.post(f"/designs/{box.pk}/operations", {"operation": operation})
    first = next(n for n, f in OPERATIONS[operation].model_fields.items() if f.is_required() and n != "operation")
    assert (status, body["code"], body["entry"]) == (422, "bad_request", f"{operation}.{first}")
    assert body["message"] == f"{operation}.{first} is missing"


@pytest.mark.parametrize("operation", OPERATIONS)
def test_an_operation_takes_nothing_that_it_does_not_know(api, box, operation):
    asks = OPERATIONS[operation].model_fields
    said = {n: {"values": {}, "of": []}.get(n, 1.0 if f.annotation is float else "x") for n, f in asks.items() if f.is_required()}
    status, body = api.post(f"/designs/{box.pk}/operations", {**said, "operation": operation, "wall": "thick"})
    assert status == 422
    assert body["code"] == "bad_request"


def test_edits_of_the_schema_before_are_undone_and_made_again(api, maker):
    """A board was folded, then a block was added with its stock, as schema 5 wrote them; then one more edit of today."""
    kept = drafted({"a": flange("right", 30)}).document
    last = as_schema(kept.dump(), 5)
    flanges, plain = last["parts"]["p"]["folding"], copy.deepcopy(last)
    del plain["parts"]["p"]["folding"]
    mm = {"text": "20 mm", "unit": "mm"}
    block = {
        "kind": "board",
        "name": "block",
        "made": "bought",
        "stock": "bought",
        "plane": "lying",
        "position": {"face": "bottom", "at": mm},
        "deep": mm,
        "spans": {a: {"low": {"text": "0", "unit": "mm"}, "high": mm} for a in "xy"},
        "price": 4.5,
    }
    stock = {"name": "Bought things", "material": "bought", "nominal": {"text": "1 mm", "unit": "mm"}}
    edits = [
        ([{"op": "add", "path": "/parts/p/folding", "value": flanges}], [{"op": "remove", "path": "/parts/p/folding"}]),
        (
            [{"op": "add", "path": "/stocks/bought", "value": stock}, {"op": "add", "path": "/parts/b", "value": block}],
            [{"op": "remove", "path": "/parts/b"}, {"op": "remove", "path": "/stocks/bought"}],
        ),
    ]
    last["stocks"]["bought"], last["parts"]["b"] = stock, block
    design = service.create(maker, kept)
    type(design).objects.filter(pk=design.pk).update(document=last, revision=3)
    for revision, (patch, inverse) in enumerate(edits, 2):
        Edit.objects.create(design=design, revision=revision, label=f"edit {revision}", patch=patch, inverse=inverse, author="a", schema=5)
    design.refresh_from_db()
    name = {"op": "replace", "path": "/parts/b/name", "value": "fan"}
    assert api.edit(design, 3, name)[0] == 200

    def kinds(body):
        document = body["document"]
        return {p["name"]: p["kind"] for p in document["parts"].values()}, sorted(document["stocks"])

    stages = [
        ({"tray": "board"}, ["s"]),
        ({"tray": "folded"}, ["s"]),
        ({"tray": "folded", "block": "bought"}, ["s"]),
        ({"tray": "folded", "fan": "bought"}, ["s"]),
    ]
    revision = 4
    for way, expected in (*(("undo", s) for s in stages[2::-1]), *(("redo", s) for s in stages[1:])):
        status, body = step(api, design, way, revision)
        assert status == 200, body
        revision += 1
        assert kinds(body) == expected
    assert body["document"]["parts"]["b"]["price"] == 4.5 and body["document"]["parts"]["p"]["folding"]["flanges"].keys() == {"a"}


def test_the_kinds_of_files_are_told_as_the_core_has_them(api):
    status, told = api.get("/formats")
    assert status == 200
    assert told == [{"suffix": f.suffix, "of": f.of, "exact": f.exact} for f in FORMATS.values()]


# -- an edit has a name of its own ---------------------------------------------------------------------------------------


def test_an_edit_that_is_sent_twice_is_made_once(api, box):
    def send(name, value, revision):
        body = {"id": name, "label": value, "patch": [{"op": "replace", "path": "/name", "value": value}], "have": []}
        return api.call("POST", f"/designs/{box.pk}/edits", body, **{"If-Match": f'"{revision}"'})

    one, other = "a" * 32, "0123456789abcdef" * 2
    status, first = send(one, "First", 1)
    assert status == 200 and first["revision"] == 2
    status, again = send(one, "First", 1)  # its answer was lost, so it is sent on what was the head then
    assert status == 200 and again["revision"] == 2 and again["document"]["name"] == "First"
    assert send(other, "Second", 2)[1]["revision"] == 3
    status, again = send(one, "First", 1)  # and nothing that came later is undone by it
    assert status == 200 and (again["revision"], again["document"]["name"]) == (3, "Second")
    assert send("", "Third", 3)[1]["revision"] == 4 and send("", "Third", 4)[1]["revision"] == 5  # without a name each is one
    assert box.edits.count() == 4
    for bad in ("A" * 32, "a" * 31, "a" * 33, "../" * 4):
        assert send(bad, "No", 5)[0] == 422


@pytest.mark.parametrize("header", ["²", "9" * 5000, "-1", "1.0", "1e3", "", "W/1", "٣"])
def test_a_revision_is_a_plain_number(api, box, header):
    body = {"label": "x", "patch": [{"op": "replace", "path": "/name", "value": "x"}], "have": []}
    status, fault = api.call("POST", f"/designs/{box.pk}/edits", body, **{"If-Match": header})
    assert (status, fault["entry"], fault["rule"]) == (422, "If-Match", "a revision number") and len(str(fault["value"])) <= 40
