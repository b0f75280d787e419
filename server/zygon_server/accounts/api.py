"""The session's resource."""

from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse
from ninja import Router
from ninja.utils import check_csrf

from zygon_server.accounts.schemas import Fault, NewPassword, Session, SignIn
from zygon_server.accounts.service import change_password, enter_demo, sign_in
from zygon_server.accounts.throttle import DoorRate
from zygon_server.errors import NotAllowed

router = Router(tags=["session"])


def _guard(request: HttpRequest) -> None:
    """Signing in is not behind a session, and so needs the token checked here."""
    if check_csrf(request):
        raise NotAllowed("The page is out of date; load it again.")


def _state(request: HttpRequest) -> dict:
    user = request.user
    known = user.is_authenticated
    return {"user": user.get_username() if known else "", "demo": settings.DEMO, "password": known and user.has_usable_password()}


@router.get("/session", auth=None, response=Session, operation_id="session")
def session(request: HttpRequest):
    """Who is signed in, and whether the demo workshop is open."""
    return _state(request)


@router.post(
    "/session", auth=None, response={200: Session, 422: Fault, 403: Fault, 429: Fault}, operation_id="sign_in", throttle=[DoorRate("30/m")]
)
def post_session(request: HttpRequest, body: SignIn):
    """Signs in."""
    _guard(request)
    sign_in(request, body.username, body.password)
    return _state(request)


@router.post("/session/demo", auth=None, response={200: Session, 403: Fault}, operation_id="enter_demo")
def post_demo(request: HttpRequest):
    """Opens the demo workshop."""
    _guard(request)
    enter_demo(request)
    return _state(request)


@router.post(
    "/session/password", response={200: Session, 422: Fault, 429: Fault}, operation_id="change_password", throttle=[DoorRate("30/m")]
)
def post_password(request: HttpRequest, body: NewPassword):
    """Gives whoever is signed in another password."""
    change_password(request, body.old, body.new)
    return _state(request)


@router.delete("/session", auth=None, response={200: Session}, operation_id="sign_out")
def delete_session(request: HttpRequest) -> HttpResponse | dict:
    """Signs out."""
    _guard(request)
    logout(request)
    return _state(request)
