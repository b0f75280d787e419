"""Programs for the cutter over the API: what sheets there are, one to be played, one as a file; why there is none; and whose they are."""

from __future__ import annotations

import json

import pytest
from zygon_server.designs import service
from zygon_server.nesting.tasks import work_runs

from zygon.design.examples import example
from zygon.program.read import read_program

pytestmark = pytest.mark.django_db


@pytest.fixture
def laid(api, design):
    """The design with its sheets laid out."""
    lay(api, design)
    return design


def lay(api, design):
    assert api.post(f"/designs/{design.pk}/nest", {"quick": True})[0] in (200, 202)
    work_runs.func()


def document(design):
    design.refresh_from_db()
    found = design.document
    return json.loads(found) if isinstance(found, str) else found


def changed(api, design, *patch):
    design.refresh_from_db()
    status, body = api.edit(design, design.revision, *patch)
    assert status == 200, body
    design.refresh_from_db()


def test_every_sheet_has_its_program_that_plays_to_its_end(api, laid):
    status, sheets = api.get(f"/designs/{laid.pk}/programs")
    assert status == 200 and sheets and not any(s["why"] for s in sheets)
    for s in sheets:
        status, program = api.get(f"/designs/{laid.pk}/programs/{s['stock']}/{s['number']}")
        assert status == 200
        moves = [len(program[k]) for k in ("x", "y", "bulge", "t", "kind", "line")]
        assert len(set(moves)) == 1
        assert program["t"] == sorted(program["t"]) and program["t"][-1] == pytest.approx(program["seconds"], abs=1e-3)
        assert (program["x"][-1], program["y"][-1]) == (0.0, 0.0)
        # cuts follow one another and take all moves but the way home
        assert program["cuts"][0]["first"] == 0
        assert all(a["last"] == b["first"] for a, b in zip(program["cuts"], program["cuts"][1:], strict=False))
        home = program["kind"][program["cuts"][-1]["last"] :]
        assert home and set(home) == {0}
        for c in program["cuts"]:
            kinds = program["kind"][c["first"] : c["last"]]
            begun = next(k for k, kind in enumerate(kinds) if kind)  # the way there may lead round what is loose
            assert begun >= 1 and set(kinds[begun:]) <= ({2} if c["operation"] == "mark" else {1, 3})
        assert sum(c["operation"] == "outside" for c in program["cuts"]) == s["pieces"]


def test_the_file_is_what_is_played(api, laid):
    sheet = api.get(f"/designs/{laid.pk}/programs")[1][0]
    at = f"{sheet['stock']}/{sheet['number']}"
    played = api.get(f"/designs/{laid.pk}/programs/{at}")[1]
    answer = api.client.get(f"/api/designs/{laid.pk}/files/programs/{at}")
    assert answer.status_code == 200 and answer.headers["Content-Disposition"].endswith('.nc"')
    text = answer.content.decode()
    assert f"revision {laid.revision}" in text and f"sheet {sheet['number']} of {sheet['of']}" in text
    moves = read_program(text).moves
    assert [round(m.q[0], 3) for m in moves] == played["x"] and [m.line for m in moves] == played["line"]


def test_a_saw_has_no_program_and_says_so(api, laid):
    saw = next(k for k, c in document(laid)["cutters"].items() if c["kind"] == "saw")
    changed(api, laid, {"op": "replace", "path": "/cutter", "value": saw})
    lay(api, laid)
    sheets = api.get(f"/designs/{laid.pk}/programs")[1]
    assert sheets and all("runs no programs" in s["why"] for s in sheets)
    status, fault = api.get(f"/designs/{laid.pk}/programs/{sheets[0]['stock']}/1")
    assert status == 422 and fault["code"] == "no_machine"


def test_a_router_s_sheet_has_a_program_for_each_side_with_heights_and_bits(api, maker):
    design = service.create(maker, example("hive-floor"))
    lay(api, design)
    sheets = api.get(f"/designs/{design.pk}/programs")[1]
    assert [(s["stock"], s["under"]) for s in sheets] == [("ply6", False), ("ply18", True), ("ply18", False)]
    for s in sheets:
        at = f"{s['stock']}/{s['number']}?under={str(s['under']).lower()}"
        status, program = api.get(f"/designs/{design.pk}/programs/{at}")
        assert status == 200 and program["faults"] == [] and program["under"] == s["under"]
        assert len(program["z"]) == len(program["x"]) and max(program["z"]) == 10.0
        assert {c["bit"] for c in program["cuts"]} == {b["number"] for b in program["bits"]}
        assert all(c["deep"] > 0 and c["wide"] > 0 for c in program["cuts"])
        answer = api.client.get(f"/api/designs/{design.pk}/files/programs/{at}")
        assert answer.status_code == 200
        assert answer.headers["Content-Disposition"].endswith('_under.nc"') == s["under"]
        assert ("under side" in answer.content.decode()) == s["under"]
        assert [round(m.q[2], 3) for m in read_program(answer.content.decode()).moves] == program["z"]
    for to, begins in (("dxf", b"  0\nSECTION"), ("svg", b"<svg")):
        answer = api.client.get(f"/api/designs/{design.pk}/files/programs/ply18/1?to={to}")
        assert answer.status_code == 200 and answer.content.lstrip().startswith(begins.lstrip())
        assert answer.headers["Content-Disposition"].endswith(f'.{to}"')
    assert api.get(f"/designs/{design.pk}/files/programs/ply18/1?to=pdf")[0] == 422
    status, fault = api.get(f"/designs/{design.pk}/programs/ply6/1?under=true")
    assert status == 422 and fault["code"] == "no_sheet"


def test_a_program_with_something_wrong_does_not_leave(api, laid):
    cutter = document(laid)["cutter"]
    sheet = api.get(f"/designs/{laid.pk}/programs")[1][0]
    changed(api, laid, {"op": "add", "path": f"/cutters/{cutter}/bed_length", "value": {"text": "300 mm", "unit": "mm"}})
    at = f"{sheet['stock']}/{sheet['number']}"
    status, played = api.get(f"/designs/{laid.pk}/programs/{at}")
    if status == 404:  # another bed may ask for another layout
        lay(api, laid)
        status, played = api.get(f"/designs/{laid.pk}/programs/{at}")
    assert status == 200 and "leaves the bed of 300 ×" in played["faults"][0]
    status, fault = api.get(f"/designs/{laid.pk}/files/programs/{at}")
    assert status == 422 and fault["code"] == "program_faults" and "leaves the bed" in fault["message"]


def test_what_is_not_laid_out_and_what_is_anothers_is_not_found(api, design, django_user_model):
    assert api.get(f"/designs/{design.pk}/programs/nothing/1")[0] == 404
    lay(api, design)
    stock = api.get(f"/designs/{design.pk}/programs")[1][0]["stock"]
    assert api.get(f"/designs/{design.pk}/programs/{stock}/99")[0] == 404
    assert api.get(f"/designs/{design.pk}/programs/{stock}/0")[0] == 404
    other = django_user_model.objects.create_user("another", password="a long one that nobody guesses")
    api.client.force_login(other)
    for path in ("programs", f"programs/{stock}/1", f"files/programs/{stock}/1"):
        assert api.client.get(f"/api/designs/{design.pk}/{path}").status_code == 404


def test_a_test_piece_for_speed_and_power_is_told_and_leaves_as_a_program(api, design):
    asked = "what=cut&slow=10&fast=30&weak=40&strong=100"
    status, told = api.get(f"/designs/{design.pk}/power-test/ply12?{asked}")
    assert status == 200 and told["speeds"] == [10.0, 15.0, 20.0, 25.0, 30.0] and len(told["powers"]) == 5
    answer = api.client.get(f"/api/designs/{design.pk}/files/power-test/ply12?{asked}")
    assert answer.status_code == 200 and answer.headers["Content-Disposition"].endswith('.nc"')
    assert sum(m.kind == "wait" for m in read_program(answer.content.decode()).moves) == 25
    assert api.get(f"/designs/{design.pk}/power-test/brick?{asked}")[0] == 404
    status, fault = api.get(f"/designs/{design.pk}/power-test/ply12?{asked.replace('fast=30', 'fast=5')}")
    assert (status, fault["code"], fault["entry"]) == (422, "bad_test", "slow")


def test_what_a_router_leaves_is_told_in_slabs_and_a_laser_leaves_none(api, maker, laid):
    design = service.create(maker, example("hive-floor"))
    lay(api, design)
    for under in ("false", "true"):
        status, told = api.get(f"/designs/{design.pk}/programs/ply18/1/material?under={under}")
        assert status == 200 and told["slabs"][0]["top"] == 0.0 and told["slabs"][-1]["bottom"] == told["thickness"]
        assert all(len(ring) >= 6 and len(ring) % 2 == 0 for s in told["slabs"] for area in s["areas"] for ring in area)
        assert told["volume"] > 0 and not [d for d in told["differences"] if d["kind"] == "gouge"]
    status, fault = api.get(f"/designs/{laid.pk}/programs/ply12/1/material")
    assert (status, fault["code"]) == (422, "no_depth")


def test_how_wide_the_bit_is_engaged_is_told_of_every_move_of_a_router_and_of_none_of_a_beam(api, maker, laid):
    floor = service.create(maker, example("hive-floor"))
    lay(api, floor)
    at = f"/designs/{floor.pk}/programs/ply18/1"
    program, (status, wide) = api.get(at)[1], api.get(f"{at}/engaged")
    assert status == 200 and len(wide) == len(program["x"])
    assert max(wide) == 6.0 and all(w == 0 for w, kind in zip(wide, program["kind"], strict=True) if kind == 0)
    assert api.get(f"/designs/{laid.pk}/programs/ply12/1/engaged") == (200, [])
    assert api.get(f"/designs/{floor.pk}/programs/ply18/9/engaged")[0] == 404
