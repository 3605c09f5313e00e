"""Letting devices in: the guard before every request, signing in, pairing, and what listens on the local network."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import nullcontext
from math import ceil
from time import time
from typing import Any

import segno
from apiflask import APIBlueprint, APIFlask
from flask import Response, current_app, g, make_response, request
from flask_limiter import Limiter
from flask_limiter.errors import RateLimitExceeded

from zealous_lark.services.errors import NotHereError
from zealous_lark.services.field import FieldListener, FieldState
from zealous_lark.store.access import PairedDevice
from zealous_lark.web.context import doors, field, json_answer
from zealous_lark.web.http import body, problem, query, writes_nothing
from zealous_lark.web.schemas import access as b
from zealous_lark.web.tries import LONGEST_S, TRIES, Slowing, TooBusyError, network_of

api = APIBlueprint("access", __name__, url_prefix="/api")

COOKIE = "lark_device"
COOKIE_DAYS = 180
FROM_FIELD = "lark.field"
"""Set in the environment of a request by what listens on the local network."""
OPEN = frozenset({
    "access.open_access", "access.sign_in", "access.pair", "access.authority", "api.health",
    "screens", "no_such_route",
})  # fmt: skip
"""What answers without signing in: the way in, the certificate to trust, whether Lark is alive, the empty screens."""
SLOWING = "lark.slowing"


def _network() -> str:
    return network_of(request.remote_addr or "")


_limiter = Limiter(_network, storage_uri="memory://")
_tries = _limiter.shared_limit(
    TRIES, scope="keys", deduct_when=lambda answer: answer.status_code == 401, exempt_when=lambda: _device() is not None
)


def guard(app: APIFlask, *, shut: bool) -> None:
    """Ask every request from elsewhere who it is of. shut: those to the computer's own address too."""
    app.config["LARK_SHUT"] = shut
    app.config[SLOWING] = Slowing()
    _limiter.init_app(app)

    @app.before_request
    def paired_devices_only() -> Response | None:
        if let_in() or request.endpoint in OPEN:
            return None
        return problem(401, "This device isn’t paired with Lark. Sign in, or pair it from the page Phone.")

    @app.errorhandler(RateLimitExceeded)
    def too_many(_error: RateLimitExceeded) -> Response:
        answer = problem(429, "Too many tries that were wrong. Wait a minute; after twenty, an hour.")
        limit = _limiter.current_limit
        answer.headers["Retry-After"] = str(max(ceil(limit.reset_at - time()), 1) if limit else 60)
        return answer

    @app.errorhandler(TooBusyError)
    def too_busy(_error: TooBusyError) -> Response:
        answer = problem(429, "Many others are trying to get in. Try again in a second.")
        answer.headers["Retry-After"] = str(ceil(LONGEST_S))
        return answer


def is_here() -> bool:
    """Whether a request comes by Lark's own address on this computer."""
    return not (request.environ.get(FROM_FIELD) or current_app.config["LARK_SHUT"])


def _device() -> PairedDevice | None:
    if "device" not in g:
        g.device = doors().device_of(request.cookies.get(COOKIE))
    found: PairedDevice | None = g.device
    return found


def let_in() -> bool:
    """Whether a request may see and change what is kept."""
    return is_here() or _device() is not None


def _standing(device: PairedDevice | None) -> Response:
    return json_answer(
        b.AccessOut(
            here=is_here(),
            signed_in=is_here() or device is not None,
            device=None if device is None else device.name,
            phrase_set=doors().has_phrase,
        )
    )


def _with_key(try_it: Callable[[], str | None], wrong: str) -> Response:
    """Let a device in by what it gives. A paired device is never slowed by what strangers try."""
    slowing: Slowing = current_app.config[SLOWING]
    with slowing.turn() if _device() is None else nullcontext():
        token = try_it()
    if token is None:
        if _device() is None:
            slowing.wrong()
        return problem(401, wrong)
    # A token that came along is never taken up: who put it there would know it.
    answer = make_response(_standing(doors().device_of(token)))
    answer.set_cookie(
        COOKIE, token, max_age=COOKIE_DAYS * 86_400, secure=True, httponly=True, samesite="Strict", path="/"
    )
    return answer


@api.get("/access")
@api.output(b.AccessOut)
@api.doc(summary="Whether this device is let in")
def open_access() -> Response:
    """How this device stands."""
    return _standing(_device())


@api.post("/access/sign-in")
@api.output(b.AccessOut)
@api.doc(summary="Let this device in by the pass phrase", responses={401: "Wrong", 422: "Refused", 429: "Too many"})
@_tries
@body(api, b.SignIn)
@writes_nothing
def sign_in(document: b.SignIn) -> Response:
    """Sign in."""
    return _with_key(lambda: doors().sign_in(document.phrase, document.name), "That isn’t the pass phrase.")


@api.post("/access/pair")
@api.output(b.AccessOut)
@api.doc(summary="Let this device in by a code", responses={401: "Wrong", 422: "Refused", 429: "Too many"})
@_tries
@body(api, b.Pair)
@writes_nothing
def pair(document: b.Pair) -> Response:
    """Pair."""
    wrong = "That code isn’t valid: each works once, for five minutes. Ask for a new one on Lark’s computer."
    return _with_key(lambda: doors().pair(document.code, document.name), wrong)


@api.post("/access/sign-out")
@api.output({}, status_code=204)
@api.doc(summary="Let this device in no more")
@writes_nothing
def sign_out() -> Response:
    """Sign out."""
    device = _device()
    if device is not None:
        doors().withdraw(device.id)
    answer = make_response("", 204)
    answer.delete_cookie(COOKIE, path="/", secure=True, httponly=True, samesite="Strict")
    return answer


@api.put("/access/phrase")
@api.output({}, status_code=204)
@api.doc(summary="Set the pass phrase; all devices are withdrawn", responses={422: "Refused"})
@body(api, b.NewPhrase)
@writes_nothing
def change_phrase(document: b.NewPhrase) -> tuple[str, int]:
    """Change the phrase."""
    doors().set_phrase(document.phrase)
    return "", 204


@api.get("/access/devices")
@api.output(b.DeviceList)
@api.doc(summary="The devices that are let in")
def devices() -> Response:
    """Each with when it was here last."""
    this = _device()
    return json_answer(
        b.DeviceList(
            devices=[
                b.PairedOut(id=d.id, name=d.name, paired_at=d.paired_at, seen_at=d.seen_at, this=d == this)
                for d in doors().devices()
            ]
        )
    )


@api.delete("/access/devices/<int:device_id>")
@api.output({}, status_code=204)
@api.doc(summary="Let a device in no more", responses={404: "Not here"})
@writes_nothing
def withdraw(device_id: int) -> tuple[str, int]:
    """Withdraw it at once."""
    doors().withdraw(device_id)
    return "", 204


@api.post("/access/codes")
@api.output(b.CodeOut)
@api.doc(summary="A code that lets one device in within five minutes")
@writes_nothing
def new_code() -> Response:
    """A new code, with pictures of the addresses to open."""
    made = doors().new_code()
    listener = field()
    addresses = () if listener is None else listener.state().addresses
    whole = [f"{address}/pair#{made.code}" for address in addresses]
    return json_answer(
        b.CodeOut(
            code=f"{made.code[:4]}-{made.code[4:]}",
            expires_at=made.expires_at,
            addresses=[b.AddressOut(address=a, picture=picture_of(a)) for a in whole],
        )
    )


@api.get("/access/addresses")
@api.output(b.AddressList)
@api.doc(summary="Addresses of a page for other devices, each as a picture too", responses={422: "Refused"})
@query(api, b.PageOf)
def page_addresses(asked: b.PageOf) -> Response:
    """None while Lark does not listen on the local network."""
    listener = field()
    whole = [f"{a}{asked.page}" for a in (() if listener is None else listener.state().addresses)]
    return json_answer(b.AddressList(addresses=[b.AddressOut(address=a, picture=picture_of(a)) for a in whole]))


def picture_of(text: str, *, dense: bool = False) -> str:
    """A text for a camera, as an SVG in a data address. dense: of many letters, on a clean screen."""
    made = segno.make(text, error="l" if dense else "m", boost_error=not dense)
    return made.svg_data_uri(scale=5, border=4, light="white")


def _field_out(listener: FieldListener | None, state: FieldState) -> Response:
    return json_answer(
        b.FieldOut(
            possible=listener is not None,
            listening=state.listening,
            addresses=list(state.addresses),
            fingerprint=state.fingerprint,
        )
    )


@api.get("/access/field")
@api.output(b.FieldOut)
@api.doc(summary="Whether Lark listens on the local network")
def open_field() -> Response:
    """Addresses and fingerprint."""
    listener = field()
    return _field_out(listener, FieldState(False) if listener is None else listener.state())


@api.put("/access/field")
@api.output(b.FieldOut)
@api.doc(
    summary="Listen on the local network, or no more", responses={409: "Cannot listen", 404: "Not here", 422: "Refused"}
)
@body(api, b.FieldWish)
@writes_nothing
def put_field(document: b.FieldWish) -> Response:
    """Start or stop listening."""
    listener = field()
    if listener is None:
        raise NotHereError("this Lark was started so that it cannot listen on the local network")
    if not is_here():
        # It would end the very connection that asks.
        return problem(409, "Only Lark’s own computer starts and stops this.")
    try:
        state = listener.start() if document.listening else listener.stop()
    except OSError as error:
        return problem(409, f"Lark can’t listen on the local network ({error.strerror or error}). Try again later.")
    return _field_out(listener, state)


@api.get("/access/authority.crt")
@api.doc(summary="The certificate of this Lark's own authority, to be trusted on a phone", responses={404: "Not here"})
def authority() -> Response:
    """The certificate, in the form that phones install."""
    listener = field()
    path = None if listener is None else listener.state().authority
    if path is None or not path.is_file():
        raise NotHereError("there is no certificate yet; Lark doesn’t listen on the local network")
    headers: dict[str, Any] = {"Content-Disposition": "attachment; filename=lark-authority.crt"}
    return Response(path.read_bytes(), mimetype="application/x-x509-ca-cert", headers=headers)
