"""Pictures behind drawings over the API: kept with their design, and with no other; in its file and in its copies."""

import base64
import hashlib
import io
import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from zygon_server.designs import service
from zygon_server.designs.models import Design, Picture
from zygon_server.quotas import kept_bytes

from zygon.design.examples import EXAMPLES

pytestmark = pytest.mark.django_db


@pytest.fixture
def clamp(maker):
    return service.create(maker, EXAMPLES["clamp-plate"]())


def png(wide=60, high=40, **more):
    to = io.BytesIO()
    Image.new("RGB", (wide, high), "white").save(to, "PNG", **more)
    return to.getvalue()


def posted(api, path, data, name, **more):
    body = {"file": SimpleUploadedFile(name, data), **more}
    answer = api.client.post(f"/api{path}", body, headers={"X-CSRFToken": api.token})
    return answer.status_code, answer.json()


def sent(api, design, data, name="sketch.png", page=1):
    return posted(api, f"/designs/{design.pk}/pictures", data, name, page=page)


def laid(api, design):
    status, found = sent(api, design, png(dpi=(254, 254)))
    assert status == 200, found
    body = {
        "operation": "lay_backdrop",
        "part": "plate",
        "feature": "",
        **{k: found[k] for k in ("picture", "name", "wide", "high", "scale")},
    }
    status, worked = api.call("POST", f"/designs/{design.pk}/operations", body)
    assert status == 200, worked
    assert api.edit(design, design.revision, *worked["patch"])[0] == 200
    design.refresh_from_db()
    return found


def test_it_is_kept_shown_and_laid(api, clamp):
    found = laid(api, clamp)
    assert found["scale"] == pytest.approx(0.1, rel=1e-3) and found["name"] == "sketch.png" and found["pages"] == 1
    answer = api.client.get(f"/api/designs/{clamp.pk}/pictures/{found['picture']}")
    assert answer.status_code == 200 and answer["Content-Type"] == "image/png" and answer["X-Content-Type-Options"] == "nosniff"
    assert hashlib.sha256(answer.content).hexdigest() == found["picture"]
    told = api.get(f"/designs/{clamp.pk}/parts/plate/drawing")[1]["backdrop"]
    assert (told["wide"], told["high"], told["name"]) == (60, 40, "sketch.png")
    assert api.client.get(f"/api/designs/{clamp.pk}/pictures/{'0' * 64}").status_code == 404


def test_the_same_picture_is_kept_once(api, clamp):
    for _ in range(2):
        assert sent(api, clamp, png())[0] == 200
    assert Picture.objects.count() == 1


def test_it_goes_into_copies_and_files_and_comes_back(api, clamp, maker):
    found = laid(api, clamp)
    copied = service.copy(maker, clamp)
    text = api.client.get(f"/api/designs/{clamp.pk}/file").content
    assert base64.b64decode(json.loads(text)["pictures"][found["picture"]]) == bytes(clamp.pictures.get().data)
    status, came = posted(api, "/designs/upload", text, "clamp.json")
    assert status == 200, came
    for design in (copied, Design.objects.get(pk=came["id"])):
        assert api.client.get(f"/api/designs/{design.pk}/pictures/{found['picture']}").status_code == 200


def test_a_file_names_only_what_is_laid(api, clamp):
    sent(api, clamp, png())
    assert "pictures" not in api.client.get(f"/api/designs/{clamp.pk}/file").json()


@pytest.mark.parametrize("spoilt", ["no base 64", base64.b64encode(b"other bytes").decode(), 7, None])
def test_a_file_with_another_picture_than_it_says_is_refused(api, clamp, spoilt):
    found = laid(api, clamp)
    data = api.client.get(f"/api/designs/{clamp.pk}/file").json()
    data["pictures"][found["picture"]] = spoilt
    status, said = posted(api, "/designs/upload", json.dumps(data).encode(), "x.json")
    assert status == 422 and said["entry"].startswith("pictures/")
    assert Design.objects.count() == 1


def test_what_is_no_picture_is_refused_with_the_rule(api, clamp):
    status, said = sent(api, clamp, b"nothing of that kind", "x.png")
    assert status == 422 and "x.png" in said["message"] and said["rule"] == "a PNG or JPEG picture, or a PDF"
    status, said = sent(api, clamp, b"x" * 12_000_001)
    assert status == 422 and said["code"] == "too_large"
    assert not Picture.objects.exists()


def test_pictures_count_as_what_a_maker_keeps(api, clamp, maker, settings):
    before = kept_bytes(maker)
    sent(api, clamp, png(900, 700))
    assert kept_bytes(maker) - before >= len(bytes(Picture.objects.get().data))
    settings.QUOTAS = {**settings.QUOTAS, "megabytes": 0}
    status, said = sent(api, clamp, png(901, 700))
    assert status == 422 and said["code"] == "quota"


def test_they_go_with_their_design(api, clamp):
    sent(api, clamp, png())
    clamp.delete()
    assert not Picture.objects.exists()
