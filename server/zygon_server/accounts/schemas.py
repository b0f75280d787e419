"""What the session's API takes and gives."""

from ninja import Schema


class SignIn(Schema):
    username: str
    password: str


class Session(Schema):
    """``user`` is empty where nobody is signed in."""

    user: str
    demo: bool


class Fault(Schema):
    """An error: a stable code, a sentence, and what it is about."""

    code: str
    message: str
    entry: str | None = None
    value: str | int | float | bool | list | dict | None = None
    rule: str | None = None
