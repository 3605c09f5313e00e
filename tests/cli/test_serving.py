"""Reaching Lark from elsewhere, from the command line: what opens it, and what is refused with 64."""

from __future__ import annotations

import json
import re
import ssl
from pathlib import Path
from urllib.error import HTTPError
from urllib.request import Request, urlopen

import pytest

from tests.lark import lark, start

PHRASE = "quarry lantern seven pelican"


def status(address: str, context: ssl.SSLContext | None = None) -> int:
    try:
        with urlopen(address, timeout=20, context=context) as answer:
            found: int = answer.status
            return found
    except HTTPError as error:
        return error.code


def port_of(said: str) -> str:
    found = re.search(r"http://127\.0\.0\.1:(\d+)", said)
    assert found, said
    return found[1]


def test_two_addresses_of_this_machine_stand_for_two(tmp_path: Path) -> None:
    """By its own address Lark answers as ever; by the one on the network a stranger sees the way in alone."""
    process, said = start(tmp_path, "serve", "--port", "0", "--field", "--field-port", "0",
                          "--field-address", "127.0.0.2")  # fmt: skip
    try:
        here = f"http://127.0.0.1:{port_of(said)}"
        told = json.load(urlopen(f"{here}/api/access/field", timeout=20))
        assert told["listening"]
        (address,) = told["addresses"]
        trusted = ssl.create_default_context(cafile=str(tmp_path / "field" / "authority.crt"))
        assert status(f"{here}/api/sessions") == 200
        assert status(f"{address}/api/sessions", trusted) == 401
        assert status(f"{address}/sessions", trusted) == 200
        with pytest.raises(OSError, match="certificate verify failed"):
            urlopen(f"{address}/", timeout=20)
        # A name that is not its own, as a page elsewhere would use to reach it, is refused.
        foreign = Request(f"{here}/api/sessions", headers={"Host": "elsewhere.example"})
        with pytest.raises(HTTPError, match="400"):
            urlopen(foreign, timeout=20)
    finally:
        process.kill()
        process.join()


def test_behind_a_proxy_every_request_signs_in(tmp_path: Path) -> None:
    assert lark("phrase", folder=tmp_path, given=f"{PHRASE}\n{PHRASE}\n").returncode == 0
    process, said = start(tmp_path, "serve", "--port", "0", "--behind-proxy", "--name", "lark.example.org")
    try:
        here = f"http://127.0.0.1:{port_of(said)}"
        assert status(f"{here}/api/sessions") == 401
        body = json.dumps({"phrase": PHRASE}).encode()
        proxied = {
            "Host": "127.0.0.1", "X-Forwarded-Host": "lark.example.org", "X-Forwarded-Proto": "https",
            "X-Forwarded-For": "203.0.113.9", "Content-Type": "application/json", "Origin": "https://lark.example.org",
        }  # fmt: skip
        with urlopen(Request(f"{here}/api/access/sign-in", body, proxied), timeout=20) as answer:
            cookie = answer.headers["Set-Cookie"].split(";")[0]
        with urlopen(Request(f"{here}/api/sessions", headers={**proxied, "Cookie": cookie}), timeout=20) as answer:
            assert json.load(answer)["sessions"] == []
    finally:
        process.kill()
        process.join()


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("serve", "--host", "0.0.0.0"), "--field"),
        (("serve", "--host", "192.168.7.5"), "--behind-proxy"),
        (("serve", "--host", "studio"), "--field"),
        (("demo", "--host", "0.0.0.0"), "--field"),
        (("serve", "--field", "--behind-proxy"), "choose one"),
    ],
)
def test_nothing_is_opened_to_everybody(tmp_path: Path, words: tuple[str, ...], said: str) -> None:
    done = lark(*words, folder=tmp_path)
    assert done.returncode == 64
    assert said in done.stderr
    assert list(tmp_path.iterdir()) == []


def test_a_weak_phrase_is_refused_and_not_repeated(tmp_path: Path) -> None:
    done = lark("phrase", folder=tmp_path, given="passwordpassword\npasswordpassword\n")
    assert done.returncode == 64
    assert "easily guessed" in done.stderr
    assert "passwordpassword" not in done.stderr + done.stdout
