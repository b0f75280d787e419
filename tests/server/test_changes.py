"""Whoever holds a head is told what has changed in it, and holds with it exactly what whoever asks for all of it is told."""

import jsonpatch
import pytest
from zygon_server.designs import service

from tests.server.conftest import text


class Reader:
    """Holds the head as it was told, and goes on by what is told of it."""

    def __init__(self, api, design):
        self.api, self.base = api, f"/designs/{design.pk}"
        self.take(self.whole())

    def whole(self):
        return self.api.get(self.base)[1]

    def take(self, told):
        self.revision, self.tag, self.held = told["revision"], told["tag"], self.shown(told)
        self.resources = {**getattr(self, "resources", {}), **told["resources"]}

    def shown(self, told):
        if "changes" not in told:
            return {"document": told["document"], "built": told["built"]}
        assert told["over"] == self.tag and "document" not in told and "built" not in told
        return jsonpatch.apply_patch(self.held, told["changes"])

    def ask(self, way, *patch, **more):
        body = {"label": "x", "patch": list(patch), "holds": self.tag, "have": [], **more}
        return self.api.post(f"{self.base}/{way}", body, **{"If-Match": f'"{self.revision}"'})[1]

    def holds_all(self):
        whole = self.whole()
        assert self.held == {"document": whole["document"], "built": whole["built"]} and self.tag == whole["tag"]
        assert {k: self.resources[k] for k in whole["resources"]} == whole["resources"]


@pytest.fixture
def reader(api, box):
    return Reader(api, box)


def test_edits_undone_and_made_again_are_told_as_changes(reader):
    for way, patch in (
        ("edits", [text("width", "430 mm")]),
        ("edits", [{"op": "replace", "path": "/name", "value": "narrow"}]),
        ("undo", []),
        ("undo", []),
        ("redo", []),
        ("edits", [{"op": "remove", "path": "/joints/" + next(iter(reader.held["document"]["joints"]))}]),
    ):
        told = reader.ask(way, *patch)
        assert "changes" in told, way
        reader.take(told)
        reader.holds_all()


def test_a_name_is_told_in_one_operation_and_without_a_flat(reader):
    told = reader.ask("edits", {"op": "replace", "path": "/name", "value": "narrow"})
    assert told["changes"] == [{"op": "replace", "path": "/document/name", "value": "narrow"}] and told["resources"] == {}


def test_a_preview_is_told_as_changes_of_the_head_with_what_is_new_alone(reader):
    told = reader.ask("preview", text("width", "430 mm"))
    shown = reader.shown(told)
    known = set(reader.resources)
    plain = reader.ask("preview", text("width", "430 mm"), holds="")
    assert shown == {"document": plain["document"], "built": plain["built"]}
    assert set(told["resources"]) == set(plain["resources"]) - known and 0 < len(told["resources"]) < len(plain["resources"])
    assert reader.ask("preview", text("width", "430 mm"), have=list(told["resources"]))["resources"] == {}
    reader.holds_all()  # nothing was stored


def test_whoever_holds_another_head_is_told_all_of_it(reader, api, box):
    old = reader.tag
    reader.take(reader.ask("edits", text("width", "430 mm")))
    for holds in (old, "", "x", reader.tag[:-1]):
        told = reader.ask("preview", text("width", "440 mm"), holds=holds)
        assert "changes" not in told and len(told["resources"]) == len(service.head(box_now(box)).resources), holds
    assert "changes" in reader.ask("preview", text("width", "440 mm"))


def test_an_edit_made_before_is_told_with_all_that_came_since(reader):
    name = "ab" * 16
    first = reader.ask("edits", text("width", "430 mm"), id=name)
    behind = reader.tag, reader.revision, reader.held, dict(reader.resources)
    reader.take(first)
    reader.take(reader.ask("edits", text("depth", "450 mm")))
    reader.tag, reader.revision, reader.held, reader.resources = behind  # its answer was lost
    reader.take(reader.ask("edits", text("width", "430 mm"), id=name))
    assert reader.revision == 3
    reader.holds_all()


def test_a_head_that_is_forgotten_is_told_whole(reader, monkeypatch):
    monkeypatch.setattr(service, "_BUILT", service.Memo(1))
    told = reader.ask("edits", text("width", "430 mm"))
    assert "changes" not in told and told["document"]["sizes"]["width"]["entry"]["text"] == "430 mm"


def box_now(box):
    box.refresh_from_db()
    return box
