"""Who comes in, with which token, and how every kind of refusal reads; operations with what they take where nothing is said."""

import io

import pytest
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from zygon_server.accounts.service import DEMO_USER
from zygon_server.designs import service as designs
from zygon_server.errors import NotAllowed, NotFound, Refused, ServerError, Stale

from tests.server.conftest import Api
from zygon.design.starters import starter
from zygon.limits import MAX_UPLOAD_BYTES


@pytest.fixture
def stranger(db):
    return Api()


# -- sessions ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/session", {"username": "maker", "password": "a long enough one"}),
        ("POST", "/session/demo", {}),
        ("DELETE", "/session", None),
    ],
)
def test_nobody_comes_in_or_goes_out_with_a_page_that_is_out_of_date(stranger, maker, settings, method, path, body):
    settings.DEMO = True
    get_user_model().objects.create_user(DEMO_USER)
    status, fault = stranger.call(method, path, body, token=False)
    assert (status, fault["code"], "load it again" in fault["message"]) == (403, "not_allowed", True)
    assert stranger.get("/session")[1] == {"user": "", "demo": True, "password": False}
    assert stranger.call(method, path, body)[0] == 200


def test_the_demo_is_one_account_and_closed_where_it_was_not_switched_on(stranger, maker, settings):
    get_user_model().objects.create_user(DEMO_USER)
    get_user_model().objects.create_user("zz-last")
    status, fault = stranger.post("/session/demo")
    assert status == 403 and "not open on this server" in fault["message"]
    assert stranger.get("/session")[1]["user"] == ""
    settings.DEMO = True
    assert stranger.post("/session/demo")[1] == {"user": DEMO_USER, "demo": True, "password": False}


# -- refusals ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("error", "status", "code"),
    [
        (NotFound, 404, "not_found"),
        (Stale, 412, "stale"),
        (Refused, 422, "refused"),
        (NotAllowed, 403, "not_allowed"),
        (ServerError, 400, "error"),
    ],
)
def test_each_kind_of_refusal_has_its_status_and_code(error, status, code):
    made = error("Why.", entry="here", value=3)
    assert (made.status, made.code, made.message, made.more) == (status, code, "Why.", {"entry": "here", "value": 3})
    own = error("Why.", code="special", rule="r")
    assert (own.code, own.more) == ("special", {"rule": "r"})


def test_a_refusal_of_the_core_and_a_body_that_does_not_fit_are_told_alike(api, box):
    status, fault = api.edit(box, 1, {"op": "replace", "path": "/parts/nobody/name", "value": "x"})
    assert status == 422 and {"code", "message"} <= set(fault) and fault["code"] not in ("bad_request", "refused")
    status, fault = api.post(f"/designs/{box.pk}/name", {"name": 3})
    assert status == 422
    assert (fault["code"], fault["entry"], fault["message"]) == (
        "bad_request",
        "name",
        f"name: {fault['rule']}",
    ) and fault["rule"]
    # the first of several
    status, fault = api.post(f"/designs/{box.pk}/edits", {})
    assert status == 422 and fault["entry"].endswith(("label", "If-Match", "if-match", "revision"))


# -- files and uploads -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("name", "header"),
    [
        ("Box no. 7", 'attachment; filename="box-no--7.json"'),
        ("a_B-c", 'attachment; filename="a_b-c.json"'),
        # other letters as RFC 5987 has them
        ("Kästchen", "attachment; filename*=utf-8''k%C3%A4stchen.json"),
        ("Ящик", "attachment; filename*=utf-8''%D1%8F%D1%89%D0%B8%D0%BA.json"),
    ],
)
def test_a_design_s_files_are_called_after_it(api, maker, name, header):
    design = designs.create(maker, starter("open-box", name))
    response = api.client.get(f"/api/designs/{design.pk}/file")
    assert response.headers["Content-Disposition"] == header and response.json()["name"] == name
    listed = api.client.get(f"/api/designs/{design.pk}/files/cut-list").headers["Content-Disposition"]
    assert listed.startswith("attachment; filename") and ("%" in listed) == ("%" in header) and listed.rstrip('"').endswith("_cut-list.csv")


@pytest.mark.parametrize(("over", "status"), [(0, 200), (1, 422)])
def test_an_upload_has_its_limit(api, box, over, status):
    svg = b'<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><path d="M0 0H40V30H0Z"/></svg>'
    content = svg + b" " * (MAX_UPLOAD_BYTES + over - len(svg))
    answer = api.client.post(
        f"/api/designs/{box.pk}/outline", {"file": SimpleUploadedFile("tag.svg", content)}, headers={"X-CSRFToken": api.token}
    )
    assert answer.status_code == status
    if over:
        fault = answer.json()
        assert (fault["code"], fault["entry"], fault["value"]) == ("too_large", "file", MAX_UPLOAD_BYTES + 1)
        assert f"{MAX_UPLOAD_BYTES // 1_000_000} MB" in fault["message"]


# -- measures and operations -------------------------------------------------------------------------------------------


def test_one_place_tells_about_itself_and_two_what_lies_between_them(api, box):
    front, back = ({"part": k, "what": "face", "name": f} for k, f in (("front", "front"), ("back", "back")))
    status, one = api.post(f"/designs/{box.pk}/measure", {"a": front})
    assert status == 200 and one["along"] is None and one["points"] == [] and one["about"]
    status, two = api.post(f"/designs/{box.pk}/measure", {"a": front, "b": back})
    assert status == 200 and two["about"] == one["about"] and two["along"]
    status, fault = api.post(f"/designs/{box.pk}/measure", {"a": {"part": "nobody", "what": "face", "name": "front"}})
    assert status == 422 and (fault["code"], fault["entry"]) == ("lost_place", "place") and fault["message"][0].isupper()


def asked(api, design, operation, **body):
    return api.post(f"/designs/{design.pk}/operations", {"operation": operation, **body})


def squares(patch):
    return [p for p in patch if p["path"].startswith("/parts/")]


def test_test_pieces_are_made_as_is_usual_where_nothing_is_said(api, box):
    stock = next(iter(box.document["stocks"]))
    plain = asked(api, box, "kerf_test", stock=stock, cutter=box.document["cutter"])[1]["patch"]
    assert plain == asked(api, box, "kerf_test", stock=stock, cutter=box.document["cutter"], squares=8, side=20.0, play=1.0)[1]["patch"]
    assert plain != asked(api, box, "kerf_test", stock=stock, cutter=box.document["cutter"], squares=9)[1]["patch"]
    comb = asked(api, box, "comb", stock=stock, cutter=box.document["cutter"])[1]["patch"]
    assert comb == asked(api, box, "comb", stock=stock, cutter=box.document["cutter"], start=-0.2, step=0.1, number=9)[1]["patch"]
    status, fault = asked(api, box, "kerf_from_slack", key="x")
    assert (status, fault["code"], fault["entry"]) == (422, "bad_request", "kerf_from_slack.slack")


@pytest.mark.parametrize("values, lacks", [({}, "first"), ({"first": 50}, "second"), ({"second": 50}, "first")])
def test_both_legs_are_needed(api, box, values, lacks):
    status, fault = asked(api, box, "bend_from_legs", key="strip", **values)
    assert (status, fault["code"], fault["entry"]) == (422, "bad_request", f"bend_from_legs.{lacks}")


def folded(maker):
    from tests.core.making.metal.trays import flange
    from tests.core.making.metal.trays import folded as drafted

    return designs.create(maker, drafted({"left": flange("left"), "right": flange("right")}).document)


def test_a_part_is_split_across_x_with_four_rivets_where_nothing_is_said(api, maker):
    design = folded(maker)
    status, fault = asked(api, design, "split", key="p")
    assert (status, fault["code"], fault["entry"], fault["message"]) == (422, "bad_request", "split.at", "split.at is missing")
    assert asked(api, design, "split", key="nobody", at=90)[0] == 422
    plain = asked(api, design, "split", key="p", at=90)[1]["patch"]
    said = asked(api, design, "split", key="p", axis="x", hold="rivets", at=90, overlap=16.0, diameter=3.2, number=4)[1]["patch"]
    assert plain == said
    for other in ({"axis": "y", "at": 60}, {"hold": "tabs"}, {"hold": "none"}, {"number": 5}, {"overlap": 20}, {"diameter": 4}):
        status, body = asked(api, design, "split", key="p", **{"at": 90, **other})
        assert status == 200 and body["patch"] != plain, other
    status, fault = asked(api, design, "split", key="p", hold="nails", at=90)
    assert (status, fault["code"], fault["entry"]) == (422, "bad_request", "split.hold")


def test_a_mirror_stands_in_the_middle_across_x_where_nothing_is_said(api, box):
    plain = asked(api, box, "mirror", of=["part:left"])[1]["patch"]
    assert (
        plain
        == asked(api, box, "mirror", of=["part:left"], axis="x")[1]["patch"]
        != asked(api, box, "mirror", of=["part:left"], axis="y")[1]["patch"]
    )
    assert asked(api, box, "mirror", of=["part:left"], text="12 mm")[1]["patch"] != plain


def test_what_has_no_value_is_not_frozen(api, box):
    status, fault = asked(api, box, "freeze", entry="/sizes/nobody/entry")
    assert (status, fault["code"], fault["entry"], fault["rule"]) == (
        422,
        "not_frozen",
        "/sizes/nobody/entry",
        "an entry with a good value",
    )


def test_a_drawing_is_read_by_its_layers(api, box):
    import ezdxf

    doc = ezdxf.new()
    doc.header["$INSUNITS"] = 4
    doc.modelspace().add_circle((0, 0), 20, dxfattribs={"layer": "A"})
    doc.modelspace().add_circle((100, 0), 10, dxfattribs={"layer": "B"})
    stream = io.StringIO()
    doc.write(stream)

    def read(**more):
        body = {"file": SimpleUploadedFile("x.dxf", stream.getvalue().encode()), **more}
        answer = api.client.post(f"/api/designs/{box.pk}/outline", body, headers={"X-CSRFToken": api.token})
        return answer.status_code, answer.json()

    status, found = read()
    assert status == 200 and found["count"] == 2 and [x["read"] for x in found["layers"]] == [True, True]
    status, found = read(layers=["B"])
    assert found["count"] == 1 and found["width"] == 20
    status, said = read(layers=["C"])
    assert status == 422 and said["entry"] == "layers" and "A, B" in said["rule"]
