"""What the session's API takes and gives."""

from ninja import Field, Schema


class SignIn(Schema):
    username: str = Field(max_length=150)
    password: str = Field(max_length=500)


class NewPassword(Schema):
    old: str = Field(max_length=500)
    new: str = Field(max_length=500)


class Session(Schema):
    """``user`` is empty where nobody is signed in; ``password`` says whether whoever is has one, which the demo workshop does not."""

    user: str
    demo: bool
    password: bool


class Fault(Schema):
    """An error: a stable code, a sentence, and what it is about."""

    code: str
    message: str
    entry: str | None = None
    value: str | int | float | bool | list | dict | None = None
    rule: str | None = None
