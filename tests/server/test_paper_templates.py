"""Templates of papers, logos and covers over the API: kept with their maker, taken with their logo, with no other's; what is no picture is refused."""

from __future__ import annotations

import io
import json

import pypdfium2 as pdfium
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from zygon_server.designs import papers as service_of_papers
from zygon_server.designs.models import Design
from zygon_server.quotas import kept_bytes
from zygon_server.workshop.models import PaperTemplate

from tests.sent import bomb, png

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def looked(monkeypatch):
    """Views are seen in this process."""
    monkeypatch.setattr(service_of_papers, "apart", lambda function, things, **limits: function(things))


def sent(api, design, data, name="logo.png"):
    body = {"file": SimpleUploadedFile(name, data), "page": 1}
    answer = api.client.post(f"/api/designs/{design.pk}/pictures", body, headers={"X-CSRFToken": api.token})
    return answer.status_code, answer.json()


def say(api, design, **said):
    """Sets fields of the design's papers."""
    design.refresh_from_db()
    patch = [{"op": "add", "path": f"/papers/{k}", "value": v} for k, v in said.items()]
    status, body = api.edit(design, design.revision, *patch)
    assert status == 200, body
    design.refresh_from_db()


def with_logo(api, design) -> str:
    status, found = sent(api, design, png())
    assert status == 200
    say(api, design, logo=found["picture"], owner="Lake workshop", size="A4", lines="0.7", number="BB-1", note="Handle with care")
    return found["picture"]


def test_how_papers_look_is_kept_and_taken_by_another_design_with_its_logo_and_without_what_is_of_the_design(api, design):
    logo = with_logo(api, design)
    status, kept = api.post(f"/designs/{design.pk}/papers/templates", {"name": "House style"})
    assert status == 200 and kept == [{"key": "house-style", "name": "House style", "always": False}]
    status, other = api.post("/designs", {"starter": "tray", "name": "Other", "unit": "mm", "values": {}})
    assert status == 200, other
    target = Design.objects.get(pk=other["id"])
    status, taken = api.post(f"/designs/{target.pk}/papers/templates/house-style", {})
    assert status == 200 and taken["label"] == "Papers as House style"
    assert api.edit(target, target.revision, *taken["patch"])[0] == 200
    target.refresh_from_db()
    papers = target.document["papers"]
    assert (papers["owner"], papers["size"], papers["lines"], papers["logo"]) == ("Lake workshop", "A4", "0.7", logo)
    assert not papers.get("number") and target.pictures.filter(digest=logo).count() == 1
    status, (page, *_) = api.get(f"/designs/{target.pk}/papers/whole")
    assert status == 200 and page["width"] == 210 and [p["picture"] for p in page["fixed"]["pictures"]] == [logo]
    assert page["wide"] == pytest.approx(1.4) and page["faults"] == []


def test_new_designs_begin_with_the_one_that_is_for_all_and_files_do_not(api, design):
    logo = with_logo(api, design)
    for name in ("First", "Second"):
        assert api.post(f"/designs/{design.pk}/papers/templates", {"name": name, "always": True})[0] == 200
    assert {t["name"]: t["always"] for t in api.get(f"/designs/{design.pk}/papers/templates")[1]} == {"First": False, "Second": True}
    _, made = api.post("/designs", {"starter": "tray", "name": "New", "unit": "mm", "values": {}})
    new = Design.objects.get(pk=made["id"])
    assert new.document["papers"]["owner"] == "Lake workshop" and new.pictures.get().digest == logo
    text = api.client.get(f"/api/designs/{design.pk}/file").content
    data = json.loads(text)
    data["papers"] = {}
    body = {"file": SimpleUploadedFile("a.json", json.dumps(data).encode())}
    answer = api.client.post("/api/designs/upload", body, headers={"X-CSRFToken": api.token})
    assert answer.status_code == 200
    assert not Design.objects.get(pk=answer.json()["id"]).document["papers"].get("owner")


def test_a_template_is_replaced_by_its_name_removed_and_counted(api, design, maker):
    before = kept_bytes(maker)
    with_logo(api, design)
    api.post(f"/designs/{design.pk}/papers/templates", {"name": "House style"})
    assert PaperTemplate.objects.get().media == "image/png" and kept_bytes(maker) > before + 2 * len(PaperTemplate.objects.get().logo) - 1
    say(api, design, owner="Other name", logo="")
    api.post(f"/designs/{design.pk}/papers/templates", {"name": "House style"})
    found = PaperTemplate.objects.get()
    assert found.data["owner"] == "Other name" and found.media == "" and bytes(found.logo) == b""
    assert api.call("DELETE", f"/designs/{design.pk}/papers/templates/house-style")[1] == []
    assert api.call("DELETE", f"/designs/{design.pk}/papers/templates/house-style")[0] == 404
    assert api.post(f"/designs/{design.pk}/papers/templates/house-style", {})[0] == 404


@pytest.mark.parametrize("name", ["", "   ", "…", "x" * 61])
def test_a_name_that_is_none_is_refused_with_its_entry(api, design, name):
    status, fault = api.post(f"/designs/{design.pk}/papers/templates", {"name": name})
    assert status == 422 and "name" in fault["entry"]
    assert not PaperTemplate.objects.exists()


@pytest.mark.parametrize(
    ("data", "name", "word"),
    [
        (bomb(), "logo.png", "60000 × 60000"),
        (b"<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>", "logo.svg", "no picture"),
        (b"\x89PNG\r\n\x1a\n" + b"\0" * 50, "logo.png", "no picture"),
        (b"GIF89a" + b"\0" * 50, "logo.gif", "no picture"),
    ],
)
def test_a_logo_that_is_a_bomb_or_no_picture_is_refused_in_words(api, design, data, name, word):
    status, fault = sent(api, design, data, name)
    assert status == 422 and word in fault["message"] and fault["rule"]
    assert not design.pictures.exists()


def test_nothing_but_the_picture_is_kept_of_a_logo(api, design):
    """What a camera or a program wrote into it is gone."""
    to = io.BytesIO()
    picture = Image.new("RGB", (40, 40), "white")
    exif = Image.Exif()
    exif[0x010E] = "secret place"
    picture.save(to, "JPEG", exif=exif, comment=b"secret words")
    status, found = sent(api, design, to.getvalue(), "logo.jpg")
    kept = bytes(design.pictures.get(digest=found["picture"]).data)
    assert status == 200 and b"secret" not in kept


def test_a_digest_that_is_none_is_refused_and_a_picture_that_is_gone_is_said(api, design):
    design.refresh_from_db()
    status, fault = api.edit(design, design.revision, {"op": "add", "path": "/papers/logo", "value": "../../etc/passwd"})
    assert status == 422 and "logo" in fault["entry"]
    say(api, design, logo="b" * 64)
    status, (page, *_) = api.get(f"/designs/{design.pk}/papers/part:front")
    assert status == 200 and any("logo is not kept" in f for f in page["faults"])


def test_a_cover_goes_into_the_pdf_its_copy_and_its_file(api, design):
    _, found = sent(api, design, png(800, 600), "cover.png")
    say(api, design, picture=found["picture"], cover=True, words="For you")
    status, told = api.get(f"/designs/{design.pk}/papers")
    assert status == 200 and told["sheets"][0]["id"] == "cover"
    answer = api.client.get(f"/api/designs/{design.pk}/files/papers?to=pdf&sheet=cover")
    document = pdfium.PdfDocument(answer.content)
    images = [o for o in document[0].get_objects() if o.type == pdfium.raw.FPDF_PAGEOBJ_IMAGE]
    assert len(images) == 1 and "For you" in document[0].get_textpage().get_text_range()
    _, copied = api.post(f"/designs/{design.pk}/copy", {})
    status, (page,) = api.get(f"/designs/{copied['id']}/papers/cover")
    assert status == 200 and page["faults"] == []
    assert found["picture"] in api.client.get(f"/api/designs/{design.pk}/file").json()["pictures"]


def test_a_dimension_tells_its_entry_and_a_table_its_columns(api, design):
    _, (page,) = api.get(f"/designs/{design.pk}/papers/part:front")
    across = next(d for d in page["dimensions"] if d["name"] == "front/size/across")
    assert across["entry"] == "/sizes/width/entry" and across["entry_word"] == "width"
    assert {v["name"] for v in page["views"]} == {"view/front"}
    _, whole = api.get(f"/designs/{design.pk}/papers/whole")
    columns = next(t for p in whole for t in p["tables"] if t["name"] == "parts")["columns"]
    assert [c["key"] for c in columns if not c["shown"]] and columns[0] == {"key": "no.", "head": "No.", "shown": True}
