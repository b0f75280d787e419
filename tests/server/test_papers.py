"""Papers over the API: sheets, pages, files, what is said of them; views are seen once and again only where something in them changed."""

from __future__ import annotations

import io
import zipfile

import pypdfium2 as pdfium
import pytest
from zygon_server.designs import papers as service_of_papers

from tests.server.conftest import Api
from zygon.memo import Memo

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def looked(monkeypatch):
    """Views are seen in this process; how many were asked for."""
    asked = []

    def here(function, things, **limits):
        asked.append(len(things))
        return function(things)

    monkeypatch.setattr(service_of_papers, "apart", here)
    monkeypatch.setattr(service_of_papers, "_SEEN", Memo(100))
    return asked


def test_the_set_comes_in_order_with_its_pens(api, design):
    status, found = api.get(f"/designs/{design.pk}/papers")
    assert status == 200
    ids = [s["id"] for s in found["sheets"]]
    assert ids[:3] == ["whole", "part:front", "part:back"] and ids[-1] == "list:to-buy"
    assert {p["name"]: p["width"] for p in found["pens"]}["visible"] == 0.5


def test_a_page_comes_with_its_dimensions_and_places(api, design):
    status, (page,) = api.get(f"/designs/{design.pk}/papers/part:front")
    assert status == 200
    by = {d["name"]: d for d in page["dimensions"]}
    assert by["front/size/across"]["text"] == "420" and by["front/size/across"]["value"] == 420
    x, y, wide, high = by["front/size/across"]["box"]
    assert 0 < x < page["width"] - wide and 0 < y < page["height"] - high
    hold = by["front/shape/feature:front:hold/1"]
    assert hold["of"] == "feature:front:hold"
    centre = next(a for a in page["anchors"]["front"] if a["name"] == "feature:front:hold/1/centre")
    assert centre["along"] == "both"


def test_only_what_shows_a_changed_part_is_looked_at_again(api, design, looked):
    for subject in ("whole", "part:front", "part:left"):
        api.get(f"/designs/{design.pk}/papers/{subject}")
    assert looked == [4]  # boards that are cut straight through are drawn from their flats
    api.get(f"/designs/{design.pk}/papers/whole")
    assert looked == [4]
    status, _ = api.post(
        f"/designs/{design.pk}/operations", {"operation": "say_sheet", "subject": "whole", "field": "called", "value": "Box"}
    )
    assert status == 200
    api.edit(design, 1, {"op": "replace", "path": "/papers/revision", "value": "B"})
    api.get(f"/designs/{design.pk}/papers/whole")
    assert looked == [4]
    api.edit(design, 2, {"op": "replace", "path": "/sizes/width/entry/text", "value": "430 mm"})
    api.get(f"/designs/{design.pk}/papers/whole")
    assert looked == [4, 4]


def test_what_is_said_of_a_sheet_is_an_edit_that_is_undone(api, design):
    body = {"operation": "move_on_paper", "subject": "whole", "name": "corner/balloon/front", "x": 5, "y": -3}
    status, worked = api.post(f"/designs/{design.pk}/operations", body)
    assert status == 200 and worked["label"] == "Sheet whole: a balloon moved"
    status, _ = api.edit(design, 1, *worked["patch"], label=worked["label"])
    assert status == 200
    status, found = api.get(f"/designs/{design.pk}")
    assert found["document"]["papers"]["sheets"]["whole"]["moved"] == {"corner/balloon/front": {"x": 5.0, "y": -3.0}}
    assert next(s for s in api.get(f"/designs/{design.pk}/papers")[1]["sheets"] if s["id"] == "whole")["said"]
    status, _ = api.post(f"/designs/{design.pk}/undo", **{"If-Match": '"2"'})
    assert status == 200
    assert not api.get(f"/designs/{design.pk}")[1]["document"]["papers"]["sheets"]


@pytest.mark.parametrize(
    ("body", "code"),
    [
        ({"operation": "say_sheet", "subject": "whole", "field": "size", "value": "A9"}, 422),
        ({"operation": "say_sheet", "subject": "whole", "field": "colour", "value": "red"}, 422),
        ({"operation": "move_on_paper", "subject": "whole", "name": "x", "x": 1e9, "y": 0}, 422),
        ({"operation": "remove_from_paper", "subject": "whole", "name": "note/none"}, 422),
        ({"operation": "add_note", "subject": "whole", "note": {"note": ""}}, 422),
        ({"operation": "add_note", "subject": "whole", "note": {"note": "x" * 10_000}}, 422),
    ],
)
def test_what_cannot_be_said_is_refused_with_a_sentence(api, design, body, code):
    status, told = api.post(f"/designs/{design.pk}/operations", body)
    assert status == code and told["message"]


def test_the_set_leaves_as_one_pdf_and_as_archives(api, design):
    status, response = api.get(f"/designs/{design.pk}/files/papers")
    assert status == 200 and response.headers["Content-Type"] == "application/pdf"
    pages = len(pdfium.PdfDocument(response.content))
    assert pages >= 9
    for to in ("dxf", "svg"):
        status, response = api.get(f"/designs/{design.pk}/files/papers?to={to}")
        names = zipfile.ZipFile(io.BytesIO(response.content)).namelist()
        assert len(names) == pages and all(n.endswith(f".{to}") for n in names)
    status, response = api.get(f"/designs/{design.pk}/files/papers?sheet=part:front")
    assert len(pdfium.PdfDocument(response.content)) == 1


def test_another_makers_papers_and_sheets_that_are_not_there_are_not_found(api, design, django_user_model):
    assert api.get(f"/designs/{design.pk}/papers/part:nix")[0] == 404
    other = Api(django_user_model.objects.create_user("other", password="a long enough one"))
    for path in ("papers", "papers/whole", "files/papers"):
        assert other.get(f"/designs/{design.pk}/{path}")[0] == 404


def test_an_empty_design_has_no_papers(api, maker):
    from zygon_server.designs import service

    from zygon.design.starters import starter

    empty = service.create(maker, starter("nothing", "Nothing"))
    assert api.get(f"/designs/{empty.pk}/papers")[1]["sheets"] == []
    status, told = api.get(f"/designs/{empty.pk}/files/papers")
    assert status == 422 and "nothing to draw" in told["message"]


def test_an_issued_set_is_kept_as_it_was(api, design):
    status, told = api.post(f"/designs/{design.pk}/papers/issued", {"revision": "A"})
    assert status == 200 and [(s["revision"], s["stands"], s["by"]) for s in told] == [("A", True, "maker")]
    status, first = api.get(f"/designs/{design.pk}/files/papers/issued/A")
    assert first.headers["Content-Type"] == "application/pdf"
    pages = pdfium.PdfDocument(first.content)
    text = pages[1].get_textpage().get_text_range()
    assert "Revision" in text and "A" in text.split() and "not issued" not in text and "issued" in text and told[0]["at"][:10] in text
    assert len(pages) == told[0]["sheets"]
    api.edit(design, 1, {"op": "replace", "path": "/sizes/width/entry/text", "value": "430 mm"})
    status, told = api.get(f"/designs/{design.pk}/papers/issued")
    assert not told[0]["stands"]
    assert api.get(f"/designs/{design.pk}/files/papers/issued/A")[1].content == first.content
    status, told = api.post(f"/designs/{design.pk}/papers/issued", {"revision": "B"})
    assert [(s["revision"], s["stands"]) for s in told] == [("B", True), ("A", False)]
    assert (
        "not issued"
        in pdfium.PdfDocument(api.get(f"/designs/{design.pk}/files/papers?sheet=part:front")[1].content)[0].get_textpage().get_text_range()
    )
    # what is issued changes nothing of the design
    assert api.get(f"/designs/{design.pk}")[1]["document"]["papers"]["revision"] == ""


@pytest.mark.parametrize("revision", ["", "   ", "漆", "much too long a one"])
def test_what_is_no_revision_is_not_issued(api, design, revision):
    status, told = api.post(f"/designs/{design.pk}/papers/issued", {"revision": revision})
    assert status == 422 and told["message"]
    assert api.get(f"/designs/{design.pk}/papers/issued")[1] == []


def test_a_revision_is_issued_once(api, design):
    assert api.post(f"/designs/{design.pk}/papers/issued", {"revision": "A"})[0] == 200
    status, told = api.post(f"/designs/{design.pk}/papers/issued", {"revision": "A"})
    assert status == 422 and told["code"] == "issued" and "A" in told["message"]
    assert api.get(f"/designs/{design.pk}/files/papers/issued/C")[0] == 404


def test_the_archive_of_everything_has_the_set(api, design):
    status, response = api.get(f"/designs/{design.pk}/files/all")
    names = zipfile.ZipFile(io.BytesIO(response.content)).namelist()
    assert status == 200 and "brood-box_papers.pdf" in names
