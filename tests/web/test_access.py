"""Nobody gets in from elsewhere without a paired device or the pass phrase; what answers without is listed here."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import ClassVar

import pytest
from apiflask import APIFlask
from flask.testing import FlaskClient
from werkzeug.test import TestResponse

from tests.conftest import NOW
from zealous_lark.services.access import CODE_MINUTES
from zealous_lark.services.field import FieldState
from zealous_lark.store import Database, order
from zealous_lark.store.access import FILE_NAME
from zealous_lark.web import create_app
from zealous_lark.web.access import COOKIE, FROM_FIELD, OPEN, SLOWING
from zealous_lark.web.tries import FREE, LONGEST_S, Slowing, network_of

PHRASE = "quarry lantern seven pelican"
FIELD = {FROM_FIELD: True}
OPEN_ROUTES = {
    ("GET", "/"), ("GET", "/<path:path>"), ("GET", "/api/<path:path>"), ("GET", "/api/access"),
    ("GET", "/api/access/authority.crt"), ("GET", "/api/health"), ("POST", "/api/access/pair"),
    ("POST", "/api/access/sign-in"),
}  # fmt: skip
"""All that answers to a stranger."""


@dataclass
class Clock:
    """A time that a test moves."""

    at: datetime = NOW
    moved: timedelta = field(default=timedelta())

    def __call__(self) -> datetime:
        return self.at + self.moved


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def watched_app(demo: Database, clock: Clock) -> APIFlask:
    return create_app(demo, clock=clock)


def from_field(app: APIFlask, address: str = "192.168.7.20") -> FlaskClient:
    """A browser on another device, with cookies of its own."""
    client = app.test_client()
    client.environ_base.update({**FIELD, "REMOTE_ADDR": address, "wsgi.url_scheme": "https"})
    return client


def pair(app: APIFlask, name: str = "Phone", address: str = "192.168.7.20") -> FlaskClient:
    code = app.test_client().post("/api/access/codes").json["code"]
    client = from_field(app, address)
    answer = client.post("/api/access/pair", json={"code": code, "name": name}, base_url="https://localhost")
    assert answer.status_code == 200, answer.json
    return client


def get(client: FlaskClient, address: str = "/api/sessions") -> TestResponse:
    return client.get(address, base_url="https://localhost")


def routes(app: APIFlask) -> list[tuple[str, str, str]]:
    """Method, rule and an address of each route."""
    found = []
    for rule in app.url_map.iter_rules():
        values = {a: "1" if "int" in type(rule._converters[a]).__name__.lower() else "x" for a in rule.arguments}
        values |= {a: 1 for a in rule.arguments if type(rule._converters[a]).__name__ == "Numbers"}
        built = rule.build(values)
        address = built[1] if built else rule.rule
        found += [(m, rule.rule, address) for m in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"})]
    return found


def ask(client: FlaskClient, method: str, address: str) -> int:
    return client.open(address, method=method, base_url="https://localhost").status_code


def test_what_answers_to_a_stranger_is_this_and_nothing_else(watched_app: APIFlask) -> None:
    """Every route from elsewhere, for nobody and for a device that was withdrawn."""
    withdrawn = pair(watched_app)
    here = watched_app.test_client()
    here.delete(f"/api/access/devices/{here.get('/api/access/devices').json['devices'][0]['id']}")
    assert len(routes(watched_app)) > 120
    for stranger in (from_field(watched_app), withdrawn):
        answered = {(m, rule) for m, rule, address in routes(watched_app) if ask(stranger, m, address) != 401}
        # A try with nothing in it is refused before it counts as one.
        assert answered == OPEN_ROUTES
    assert {e for e in OPEN if e in watched_app.view_functions} == OPEN


def test_a_paired_device_may_do_what_the_owner_may(watched_app: APIFlask) -> None:
    device = pair(watched_app)
    refused = {
        (m, rule) for m, rule, address in routes(watched_app)
        if m == "GET" and ask(device, m, address) == 401
    }  # fmt: skip
    assert refused == set()
    assert len(get(device).json["sessions"]) == len(watched_app.test_client().get("/api/sessions").json["sessions"])


def test_the_page_of_a_stranger_says_nothing_of_what_is_kept(watched_app: APIFlask) -> None:
    saved = watched_app.test_client().get("/api/sessions/1").json["plan"]["title"]
    assert "Tightest:" in get(watched_app.test_client(), "/sessions/1/plan").text
    page = get(from_field(watched_app), "/sessions/1/plan").text
    assert "Tightest:" not in page
    assert saved not in page


def test_a_code_works_once_and_for_five_minutes(watched_app: APIFlask, monkeypatch: pytest.MonkeyPatch) -> None:
    here = watched_app.test_client()

    def tried(code: str, address: str) -> int:
        answer = from_field(watched_app, address).post(
            "/api/access/pair", json={"code": code}, base_url="https://localhost"
        )
        return answer.status_code

    first = here.post("/api/access/codes").json["code"]
    assert tried(first.lower().replace("-", " "), "10.0.0.1") == 200
    assert tried(first, "10.0.0.2") == 401
    replaced = here.post("/api/access/codes").json["code"]
    here.post("/api/access/codes")
    assert tried(replaced, "10.0.0.3") == 401
    late = here.post("/api/access/codes").json["code"]
    later = order.Pulse("boot", order.pulse().uptime_s + 60 * CODE_MINUTES + 1)
    monkeypatch.setattr(order, "pulse", lambda: later)
    assert tried(late, "10.0.0.4") == 401


def test_the_cookie_is_for_the_server_alone_and_never_taken_from_outside(watched_app: APIFlask) -> None:
    """A token that somebody put into the browser before is not taken up."""
    here = watched_app.test_client()
    client = from_field(watched_app)
    client.set_cookie(COOKIE, "chosen-by-a-stranger", domain="localhost")
    answer = client.post(
        "/api/access/pair",
        json={"code": here.post("/api/access/codes").json["code"]},
        base_url="https://localhost",
    )
    said = answer.headers["Set-Cookie"]
    assert {"HttpOnly", "Secure", "SameSite=Strict", "Path=/"} <= {part.strip() for part in said.split(";")}
    assert "chosen-by-a-stranger" not in said
    stranger = from_field(watched_app)
    stranger.set_cookie(COOKIE, "chosen-by-a-stranger", domain="localhost")
    assert get(stranger).status_code == 401


def test_withdrawn_is_gone_at_once_and_seen_is_noted(watched_app: APIFlask, clock: Clock) -> None:
    first, second = pair(watched_app, "Phone"), pair(watched_app, "Tablet", "192.168.7.21")
    clock.moved = timedelta(minutes=30)
    assert get(second).status_code == 200
    here = watched_app.test_client()
    listed = here.get("/api/access/devices").json["devices"]
    assert [d["name"] for d in listed] == ["Tablet", "Phone"]
    assert datetime.fromisoformat(listed[0]["seen_at"]) == NOW + timedelta(minutes=30)
    assert here.delete(f"/api/access/devices/{listed[0]['id']}").status_code == 204
    assert get(second).status_code == 401
    assert get(first).status_code == 200
    assert first.post("/api/access/sign-out", base_url="https://localhost").status_code == 204
    assert get(first).status_code == 401


def test_a_phrase_lets_in_and_another_one_withdraws_all(watched_app: APIFlask) -> None:
    here = watched_app.test_client()
    client = from_field(watched_app)

    def sign_in(client: FlaskClient, phrase: str) -> int:
        return client.post(
            "/api/access/sign-in", json={"phrase": phrase, "name": "Phone"}, base_url="https://localhost"
        ).status_code

    assert sign_in(client, PHRASE) == 401  # none is set yet
    for weak in ("short", "passwordpassword", "qwertyuiop12", "aaaaaaaaaaaaaaaa", "123456789012"):
        refused = here.put("/api/access/phrase", json={"phrase": weak})
        assert refused.status_code == 422, weak
        assert refused.json["refusals"][0]["key"] == "phrase"
        assert weak not in refused.text
    assert here.put("/api/access/phrase", json={"phrase": PHRASE}).status_code == 204
    assert sign_in(client, PHRASE) == 200
    assert get(client).status_code == 200
    assert here.put("/api/access/phrase", json={"phrase": PHRASE + " again"}).status_code == 204
    assert get(client).status_code == 401
    assert here.get("/api/access/devices").json == {"devices": []}


def signed_in(client: FlaskClient, phrase: str) -> TestResponse:
    return client.post("/api/access/sign-in", json={"phrase": phrase}, base_url="https://localhost")


def test_wrong_tries_are_few_and_right_ones_do_not_count(watched_app: APIFlask) -> None:
    here = watched_app.test_client()
    here.put("/api/access/phrase", json={"phrase": PHRASE})

    def tried(phrase: str, address: str = "10.9.9.9") -> TestResponse:
        return signed_in(from_field(watched_app, address), phrase)

    assert [tried(PHRASE).status_code for _ in range(8)] == [200] * 8
    assert [tried(f"wrong {n}").status_code for n in range(5)] == [401] * 5
    refused = tried(PHRASE)
    assert refused.status_code == 429
    assert 1 <= int(refused.headers["Retry-After"]) <= 60
    # A code is guessed no faster than the phrase; another device is not locked out.
    code = from_field(watched_app, "10.9.9.9").post(
        "/api/access/pair", json={"code": "x"}, base_url="https://localhost"
    )
    assert code.status_code == 429
    assert tried(PHRASE, "10.9.9.8").status_code == 200


@pytest.mark.parametrize(
    ("address", "network"),
    [
        ("2001:db8:1:2:aaaa::1", "2001:db8:1:2::/64"),
        ("fe80::1%eth0", "fe80::/64"),
        ("::ffff:192.168.7.20", "192.168.7.20"),
        ("192.168.7.20", "192.168.7.20"),
    ],
)
def test_tries_count_for_a_network(address: str, network: str) -> None:
    assert network_of(address) == network


def test_other_addresses_of_one_network_get_no_new_tries(watched_app: APIFlask) -> None:
    watched_app.test_client().put("/api/access/phrase", json={"phrase": PHRASE})
    stranger = [from_field(watched_app, f"2001:db8:0:7:{n:x}::1") for n in range(6)]
    assert [signed_in(client, "wrong").status_code for client in stranger] == [401] * 5 + [429]
    assert signed_in(from_field(watched_app, "2001:db8:0:8::1"), PHRASE).status_code == 200


def test_tries_from_everywhere_slow_but_never_lock(watched_app: APIFlask) -> None:
    """Ten networks with five wrong tries each: the owner waits a second, and a paired device not at all."""
    device = pair(watched_app)
    watched_app.test_client().put("/api/access/phrase", json={"phrase": PHRASE})
    device = pair(watched_app)
    waited: list[float] = []
    watched_app.config[SLOWING] = slowing = Slowing(waited.append)
    for n in range(10):
        for _ in range(5):
            assert signed_in(from_field(watched_app, f"10.0.1.{n}"), "wrong").status_code == 401
    assert waited[0] == pytest.approx(0.1)
    assert max(waited) == LONGEST_S
    assert len(waited) == 50 - FREE - 1
    waited.clear()
    assert signed_in(device, PHRASE).status_code == 200
    assert waited == []
    assert signed_in(from_field(watched_app, "10.0.2.1"), PHRASE).status_code == 200
    assert waited == [LONGEST_S]
    with slowing._seats, slowing._seats:  # two wait already
        busy = signed_in(from_field(watched_app, "10.0.2.2"), PHRASE)
        assert busy.status_code == 429
        assert busy.headers["Retry-After"] == "1"
        assert signed_in(device, PHRASE).status_code == 200


def test_a_paired_device_may_type_wrongly(watched_app: APIFlask) -> None:
    device = pair(watched_app)
    assert [signed_in(device, f"wrong {n}").status_code for n in range(8)] == [401] * 8


def test_a_foreign_page_changes_nothing_with_the_devices_cookie(watched_app: APIFlask) -> None:
    device = pair(watched_app)
    foreign = {"Origin": "https://elsewhere.example", "Sec-Fetch-Site": "cross-site"}
    answer = device.delete("/api/sessions/1?revision=1", headers=foreign, base_url="https://localhost")
    assert answer.status_code == 403


def test_nothing_that_is_kept_lets_anybody_in(watched_app: APIFlask, demo: Database) -> None:
    """The file holds digests, for the owner's eyes; one that is damaged lets nobody in."""
    here = watched_app.test_client()
    here.put("/api/access/phrase", json={"phrase": PHRASE})
    device = pair(watched_app)
    path = demo.folder / FILE_NAME
    token = device.get_cookie(COOKIE, domain="localhost")
    assert token is not None
    assert token.value not in path.read_text()
    assert PHRASE not in path.read_text()
    assert path.stat().st_mode & 0o077 == 0
    path.write_text("{")
    assert get(device).status_code == 401
    assert get(here).status_code == 200
    assert here.get("/api/access").json["phrase_set"] is False
    assert get(pair(watched_app)).status_code == 200


def test_what_pairing_answers_is_so(watched_app: APIFlask) -> None:
    device = pair(watched_app, "My phone")
    said = get(device, "/api/access").json
    assert said == {"here": False, "signed_in": True, "device": "My phone", "phrase_set": False}


def test_only_the_computer_itself_starts_and_stops_listening(demo: Database) -> None:
    class Listener:
        """Counts what it is told."""

        told: ClassVar[list[str]] = []

        def state(self) -> FieldState:
            return FieldState(bool(self.told), ("https://192.168.7.5:5871",))

        def start(self) -> FieldState:
            self.told.append("start")
            return self.state()

        stop = start

    app = create_app(demo, clock=lambda: NOW, field=Listener())
    device = pair(app)
    wish = {"listening": False}
    assert device.put("/api/access/field", json=wish, base_url="https://localhost").status_code == 409
    assert Listener.told == []
    assert app.test_client().put("/api/access/field", json={"listening": True}).json["listening"] is True


def test_behind_a_proxy_this_computer_signs_in_too(demo: Database) -> None:
    app = create_app(demo, clock=lambda: NOW, doors_shut=True)
    assert app.test_client().get("/api/sessions").status_code == 401
    assert app.test_client().get("/api/health").status_code == 200
