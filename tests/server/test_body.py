"""Bodies are read by one reader: what is no JSON, no number or cannot be seen is said with its place, and texts are kept in one form."""

import pytest


def sent(api, path, text):
    response = api.client.post(f"/api{path}", text, "application/json", headers={"X-CSRFToken": api.token})
    return response.status_code, response.json()


@pytest.mark.parametrize(
    ("text", "code", "words"),
    [
        ('{"name": "A\\nB"}', "bad_text", "/name: a line break cannot be part of it (after 'A')"),
        ('{"name": "\\ud800"}', "bad_text", "/name: half a character cannot be part of it (after '')"),
        ('{"name": "A", "starter": "\\u0000"}', "bad_text", "/starter: the control character U+0000 cannot be part of it (after '')"),
        ('{"name": NaN}', "bad_request", "NaN is no number that can be meant."),
        ('{"name": 1e999}', "bad_request", "1e999 is no number that can be meant."),
        ('{"name": ' + "9" * 5000 + "}", "bad_request", "99999999999999999999 is no number that can be meant."),
        ('{"name": "A"', "bad_request", "This is no JSON: Expecting ',' delimiter: line 1 column 13 (char 12)."),
        ("[" * 5000 + "]" * 5000, "bad_request", "This cannot be read: its values lie too deep in one another."),
    ],
)
def test_what_cannot_be_read_is_told_with_its_place(api, text, code, words):
    status, fault = sent(api, "/designs", text)
    assert (status, fault["code"], fault["message"]) == (422, code, words)
    assert fault["rule"]


def test_bytes_that_are_no_text_are_told(api):
    response = api.client.post("/api/designs", b'{"name": "\xff"}', "application/json", headers={"X-CSRFToken": api.token})
    assert response.status_code == 422 and response.json()["message"].startswith("This is no JSON: 'utf-8' codec can't decode")


def test_names_and_labels_are_kept_in_one_form(api, box):
    status, row = api.post("/designs", {"name": "Ru\u0308ckwand"})
    assert status == 200 and row["name"] == "R\u00fcckwand"
    api.edit(box, box.revision, {"op": "replace", "path": "/note", "value": "u\u0308"}, label="u\u0308")
    box.refresh_from_db()
    assert box.document["note"] == "\u00fc" and box.edits.last().label == "\u00fc"


@pytest.mark.parametrize("field", ["label", "patch"])
def test_an_edit_with_what_cannot_be_seen_changes_nothing(api, box, field):
    patch = {"op": "replace", "path": "/name", "value": "A\u2028B" if field == "patch" else "AB"}
    status, fault = api.edit(box, box.revision, patch, label="one\rtwo" if field == "label" else "name")
    assert status == 422 and fault["code"] == "bad_text"
    assert fault["entry"] == ("/label" if field == "label" else "/patch/0/value")
    before = box.revision
    box.refresh_from_db()
    assert box.revision == before


@pytest.mark.parametrize("path", ["/note", "/parts/front/note"])
def test_a_note_is_written_in_lines(api, box, path):
    assert api.edit(box, box.revision, {"op": "add", "path": path, "value": "one\ntwo"}, label="note")[0] == 200
    box.refresh_from_db()
    kept = box.document if path == "/note" else box.document["parts"]["front"]
    assert kept["note"] == "one\ntwo"


def test_a_password_is_taken_as_it_is_typed(db, api, django_user_model):
    django_user_model.objects.create_user("other", password="a\tb u\u0308 and more")
    assert api.post("/session", {"username": "other", "password": "a\tb u\u0308 and more"})[0] == 200
    assert api.post("/session", {"username": "other", "password": "a\tb \u00fc and more"})[0] != 200


@pytest.mark.parametrize(("digits", "read"), [(40, True), (41, False)])
def test_whole_numbers_have_at_most_40_digits(api, digits, read):
    """One that is read is refused as a name, which it is none."""
    _, fault = sent(api, "/designs", '{"name": ' + "9" * digits + "}")
    assert ("no number that can be meant" in fault["message"]) != read
