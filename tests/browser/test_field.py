"""A phone on the local network: over TLS, trusted in a browser of its own, paired by a code, withdrawn at once."""

from __future__ import annotations

import base64
import hashlib
import re
import shutil
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives import serialization
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import CHROMIUM, FLAGS, PHONE, Server, open_context, watched
from tests.browser.test_flight import off

HOST = "127.0.0.2"
"""Stands for the computer's address on the local network."""


@pytest.fixture
def field_server(tmp_path: Path, demo_data: Path) -> Iterator[Server]:
    shutil.copytree(demo_data, tmp_path, dirs_exist_ok=True)
    made = Server(tmp_path, more=("--field-port", "0", "--field-address", HOST))
    made.start()
    yield made
    made.kill()


def trusting(authority: bytes) -> str:
    """The flag by which a browser trusts what an authority signed, told by the digest of its key."""
    key = x509.load_pem_x509_certificate(authority).public_key()
    spki = key.public_bytes(serialization.Encoding.DER, serialization.PublicFormat.SubjectPublicKeyInfo)
    return f"--ignore-certificate-errors-spki-list={base64.b64encode(hashlib.sha256(spki).digest()).decode()}"


def listen(page: Page) -> tuple[str, str]:
    """Switch listening on, and make a code: the address on the network, and the code."""
    page.goto("/phone")
    page.get_by_role("switch", name=re.compile("^Let paired devices")).check()
    pairing = page.get_by_role("region", name="Pair a device")
    pairing.get_by_role("button", name="Make a code").click()
    expect(pairing.get_by_role("img", name=re.compile("Camera code"))).to_be_visible()
    address = pairing.get_by_role("button", name="https:").inner_text()
    return address.removesuffix("/pair"), pairing.get_by_label("Code", exact=True).inner_text()


def test_a_phone_is_paired_trusts_lark_and_is_withdrawn(field_server: Server, browser: Browser) -> None:
    context = open_context(browser, field_server)
    laptop, faults = watched(context)
    address, code = listen(laptop)
    authority = (field_server.folder / "demo/field/authority.crt").read_bytes()
    flags = [*FLAGS, trusting(authority)]
    with closing(browser.browser_type.launch(executable_path=CHROMIUM, args=flags)) as phones:
        phone_context = open_context(phones, field_server, base_url=address, viewport=PHONE, has_touch=True)
        phone, phone_faults = watched(phone_context)
        # A stranger sees the way in, whatever page is asked for.
        phone.goto("/sessions/1/plan")
        expect(phone.get_by_role("heading", name="Pair this device")).to_be_visible()
        expect(phone.get_by_text("Bog at first light")).to_have_count(0)
        # By the camera: the code comes with the address.
        phone.goto(f"/pair#{code}")
        expect(phone.get_by_label("Code")).to_have_value(code)
        assert "#" not in phone.url
        phone.get_by_label("Name of this device").fill("My phone")
        phone.get_by_role("button", name="Pair").tap()
        expect(phone.get_by_text("This device trusts Lark")).to_be_visible()
        phone.goto("/sessions/1/plan")
        expect(phone.get_by_role("status", name="Verdict")).to_contain_text("Within limits")
        listed = laptop.get_by_role("list", name="Paired devices").get_by_role("listitem")
        expect(listed).to_contain_text("My phone")
        laptop.get_by_role("button", name="Withdraw My phone").click()
        expect(listed).to_have_count(0)
        phone.reload()
        expect(phone.get_by_role("heading", name="Pair this device")).to_be_visible()
        phone_context.close()
        assert phone_faults == []
    context.close()
    assert faults == []


def test_a_phone_that_does_not_trust_it_is_told_what_to_do(field_server: Server, browser: Browser) -> None:
    context = open_context(browser, field_server)
    laptop, _ = watched(context)
    address, code = listen(laptop)
    # As after the browser's warning, which the pilot went past.
    phone_context = open_context(
        browser, field_server, base_url=address, viewport=PHONE, has_touch=True, ignore_https_errors=True
    )
    phone = phone_context.new_page()
    phone.goto(f"/pair#{code}")
    phone.get_by_role("button", name="Pair").tap()
    trust = phone.get_by_role("region", name="Trust on this device")
    expect(trust).to_contain_text("doesn’t trust Lark’s certificate yet")
    with phone.expect_download() as loaded:
        trust.get_by_role("link", name="Download the certificate").tap()
    given = x509.load_pem_x509_certificate(Path(loaded.value.path()).read_bytes())
    assert given.issuer == given.subject
    # The code is used up.
    other = open_context(browser, field_server, base_url=address, viewport=PHONE, ignore_https_errors=True)
    second = other.new_page()
    second.goto(f"/pair#{code}")
    second.get_by_role("button", name="Pair").click()
    expect(second.get_by_role("alert")).to_contain_text("each works once")
    other.close()
    phone_context.close()
    context.close()


def test_a_flight_in_the_air_is_never_taken_from_the_screen(field_server: Server, browser: Browser) -> None:
    """The device is withdrawn while it flies: the clock goes on, and all goes up once it is paired again."""
    context = open_context(browser, field_server)
    laptop, _ = watched(context)
    address, code = listen(laptop)
    phone_context = open_context(
        browser, field_server, base_url=address, viewport=PHONE, has_touch=True, ignore_https_errors=True
    )
    phone = phone_context.new_page()
    phone.goto(f"/pair#{code}")
    phone.get_by_role("button", name="Pair").tap()
    expect(phone.get_by_role("region", name="Trust on this device")).to_be_visible()
    phone.goto("/sessions/1/flight")
    off(phone)
    clock = phone.get_by_role("timer", name="Flight time")
    laptop.get_by_role("button", name=re.compile("^Withdraw ")).click()
    expect(laptop.get_by_text("None: only this computer")).to_be_visible()
    phone.reload()
    note = phone.get_by_role("alert").filter(has_text="isn’t paired with Lark any more")
    expect(note).to_be_visible()
    expect(clock).to_be_visible()
    phone.get_by_role("button", name="Turned back").tap()
    laptop.get_by_role("button", name="Another code").click()
    shown = laptop.get_by_label("Code", exact=True)
    expect(shown).not_to_have_text(code)
    note.get_by_role("link", name="Sign in").tap()
    phone.get_by_label("Code").fill(shown.inner_text())
    phone.get_by_role("button", name="Pair").tap()
    expect(phone.get_by_role("region", name="Trust on this device")).to_be_visible()
    phone.goto("/sessions/1/flight")
    expect(clock).to_be_visible()
    expect(note).to_have_count(0)
    (flight,) = [
        f["uid"] for f in laptop.request.get("/api/flights").json()["flights"] if not f["uid"].startswith("demo-")
    ]
    for _ in range(60):
        kinds = [e["kind"] for e in laptop.request.get(f"/api/flights/{flight}").json()["events"]]
        if "turned" in kinds:
            break
        laptop.wait_for_timeout(500)
    assert "turned" in kinds
    phone_context.close()
    context.close()
