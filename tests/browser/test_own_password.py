"""Whoever has a password changes it from the list of designs; what is wrong with it stands at its field."""

from __future__ import annotations

import json

from playwright.sync_api import expect


def test_a_password_is_changed_and_what_is_wrong_stands_at_its_field(page):
    answers = [
        (422, {"code": "refused", "message": "That is not the password of now.", "entry": "old"}),
        (422, {"code": "refused", "message": "This password is too common.", "entry": "new"}),
        (200, {"user": "maker", "demo": True, "password": True}),
    ]
    sent = []

    def answer(route):
        sent.append(route.request.post_data_json)
        status, body = answers[len(sent) - 1]
        route.fulfill(status=status, content_type="application/json", body=json.dumps(body))

    page.route(
        "**/api/session",
        lambda route: route.fulfill(content_type="application/json", body=json.dumps({"user": "maker", "demo": True, "password": True})),
    )
    page.route("**/api/session/password", answer)
    page.goto("/")
    page.get_by_role("button", name="maker").click()
    dialog = page.get_by_role("dialog", name="Password of maker")
    fields = {name: dialog.get_by_label(name).first for name in ("Password of now", "New password", "Once more")}
    fields["Password of now"].fill("wrong")
    fields["New password"].fill("password12")
    fields["Once more"].fill("password13")
    expect(dialog.get_by_text("This is not the same as above")).to_be_visible()
    change = dialog.get_by_role("button", name="Change password")
    expect(change).to_be_disabled()
    fields["Once more"].fill("password12")
    change.click()
    expect(dialog.get_by_text("That is not the password of now.")).to_be_visible()
    fields["Password of now"].fill("right")
    change.click()
    expect(dialog.get_by_text("This password is too common.")).to_be_visible()
    expect(dialog.get_by_text("That is not the password of now.")).to_be_hidden()
    for name in ("New password", "Once more"):
        fields[name].fill("a long and rare one")
    change.click()
    expect(dialog.get_by_role("status")).to_contain_text("The new password counts from now on")
    dialog.get_by_role("button", name="Close").last.click()
    expect(dialog).to_be_hidden()
    assert sent[0] == {"old": "wrong", "new": "password12"} and sent[2] == {"old": "right", "new": "a long and rare one"}


def test_the_demo_workshop_has_no_password_to_change(designs):
    expect(designs.get_by_text("thistledown", exact=True)).to_be_visible()
    expect(designs.get_by_role("button", name="thistledown")).to_have_count(0)
