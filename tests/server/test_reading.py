"""What is read of a design beside its head: its history, one part's bend plan, one resource, its files by their kinds."""

import pytest
from zygon_server.designs import service as designs

from tests.core.making.metal.trays import flange
from tests.core.making.metal.trays import folded as drafted
from tests.server.conftest import text


@pytest.fixture
def metal(maker):
    return designs.create(maker, drafted({"left": flange("left"), "right": flange("right", 22)}).document)


def test_the_history_tells_each_edit_s_revision_kind_label_and_paths(api, box):
    size = next(iter(box.document["sizes"]))
    assert api.edit(box, 1, text(size, "333"), label="wider")[0] == 200
    assert api.post(f"/designs/{box.pk}/undo", {"have": []}, **{"If-Match": '"2"'})[0] == 200
    found = api.get(f"/designs/{box.pk}/edits")[1]
    assert sorted((e["revision"], e["kind"], e["label"]) for e in found) == [(2, "edit", "wider"), (3, "undo", "wider")]
    assert all(e["paths"] == [f"/sizes/{size}/entry/text"] for e in found)
    assert [e["revision"] for e in api.get(f"/designs/{box.pk}/edits?after=2")[1]] == [3]
    head = api.get(f"/designs/{box.pk}")[1]
    assert (head["undo"], head["redo"]) == ("", "wider")
    assert api.post(f"/designs/{box.pk}/redo", {"have": []}, **{"If-Match": '"3"'})[1]["undo"] == "wider"
    assert api.get(f"/designs/{box.pk}")[1]["redo"] == ""


def test_a_resource_and_a_bend_plan_are_of_what_is_there(api, metal, box):
    head = api.get(f"/designs/{metal.pk}")[1]
    key, known = next(iter(head["resources"].items()))
    status, found = api.get(f"/designs/{metal.pk}/resources/{key}")
    assert status == 200 and found == known
    assert api.get(f"/designs/{metal.pk}/resources/nothing")[0] == 404
    status, plan = api.get(f"/designs/{metal.pk}/parts/p/bending")
    assert status == 200 and plan is not None
    assert api.get(f"/designs/{metal.pk}/parts/nobody/bending")[0] == 404
    front = next(iter(box.document["parts"]))
    assert api.get(f"/designs/{box.pk}/parts/{front}/bending")[0] == 404


@pytest.mark.parametrize(
    ("path", "kind", "begins"),
    [
        ("solids?to=step", "model/step", b"ISO-10303-21"),
        ("solids?to=stl", "model/stl", b""),
        ("solids?to=step&part=p&flat=true", "model/step", b"ISO-10303-21"),
        ("parts/p?to=dxf", "image/vnd.dxf", b""),
        ("parts/p?to=svg", "image/svg+xml", b"<svg"),
        ("cut-list", "text/csv", b""),
        ("bend-table", "text/csv", b""),
        ("all", "application/zip", b"PK"),
    ],
)
def test_files_come_as_what_they_are(api, metal, path, kind, begins):
    answer = api.client.get(f"/api/designs/{metal.pk}/files/{path}")
    content = b"".join(answer.streaming_content) if answer.streaming else answer.content
    assert (
        answer.status_code == 200 and answer.headers["Content-Type"].startswith(kind) and content.startswith(begins) and len(content) > 100
    )


def test_a_flat_solid_is_flat(api, metal):
    bent, flat = (api.client.get(f"/api/designs/{metal.pk}/files/solids?to=step&part=p{more}").content for more in ("", "&flat=true"))
    assert bent != flat and len(flat) < len(bent)
    assert (
        api.get(f"/designs/{metal.pk}/files/parts/nobody")[0] == 404
        and api.get(f"/designs/{metal.pk}/files/solids?to=step&part=nobody")[0] == 404
    )
