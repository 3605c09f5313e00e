"""What a first view weighs, what comes packed, and what stands before the screens have come."""

from __future__ import annotations

import re

import httpx
import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Server, rest_of
from tests.browser.weight import cold_open

MOST_KB = 250


@pytest.mark.quick
@pytest.mark.parametrize("stage", ["plan", "preflight"])
def test_the_first_view_of_a_session_is_light(browser: Browser, server: Server, stage: str) -> None:
    first, verdict, weights = cold_open(browser, server, f"/sessions/1/{stage}", slow=False)
    assert 100 <= weights["Script"] <= MOST_KB
    assert first <= verdict


def test_files_come_packed_and_for_ever_and_the_page_anew(server: Server) -> None:
    page = httpx.get(f"{server.url}/sessions/1/plan")
    scripts = re.findall(r'(?:src|href)="(/assets/[^"]+\.js)"', page.text)
    assert scripts
    for script in scripts:
        if len(httpx.get(server.url + script).content) < 10_000:
            continue  # too small to gain by it
        packed = httpx.get(server.url + script, headers={"Accept-Encoding": "br"})
        assert packed.headers["Content-Encoding"] == "br"
        assert "immutable" in packed.headers["Cache-Control"]
        assert packed.headers["X-Content-Type-Options"] == "nosniff"
        plain = httpx.get(server.url + script, headers={"Accept-Encoding": "identity"})
        assert int(packed.headers["Content-Length"]) < len(plain.content) / 2
    assert page.headers["Cache-Control"] == "no-cache"
    assert httpx.get(f"{server.url}/assets/of-an-earlier-lark.js").status_code == 404
    answer = httpx.get(f"{server.url}/api/sessions/1", headers={"Accept-Encoding": "gzip"})
    assert answer.headers["Content-Encoding"] == "gzip"
    assert answer.json()["id"] == 1


def test_styles_need_the_word_of_this_page(server: Server) -> None:
    words = set()
    for _ in range(2):
        page = httpx.get(f"{server.url}/sessions")
        policy = page.headers["Content-Security-Policy"]
        assert "unsafe" not in policy
        (nonce,) = re.findall(r"'nonce-([^']+)'", policy)
        assert f'content="{nonce}"' in page.text
        assert "__" not in re.sub(r"<script.*", "", page.text)
        words.add(nonce)
    assert len(words) == 2
    card = httpx.get(f"{server.url}/api/sessions/1/pocket.html")
    assert "'sha256-" in card.headers["Content-Security-Policy"]


def test_the_pocket_card_has_its_styles(page: Page) -> None:
    """The policy lets in what Lark wrote: the console would say otherwise, and the table would have no lines."""
    page.goto("/api/sessions/1/pocket.html")
    border = page.locator("td").first.evaluate(
        "e => getComputedStyle(e).borderBottomStyle + getComputedStyle(e).padding"
    )
    assert border != "none0px"


@pytest.mark.quick
def test_a_word_on_the_saved_session_stands_at_once_and_gives_way(page: Page, server: Server) -> None:
    text = httpx.get(f"{server.url}/sessions/1/plan").text
    said = re.search(r'<p id="saved"[^>]*>(.*?)</p>', text)
    assert said
    assert "on its way" in said[1]
    verdict = re.search(r"<b>(.*?)</b>", said[1])
    assert verdict
    page.goto("/sessions/1/plan")
    expect(page.get_by_role("status", name="Verdict")).to_contain_text(verdict[1].replace("'", "’"))
    expect(page.locator("#saved")).to_have_count(0)
    for other in ("/sessions", "/sessions/999/plan", "/sessions/1/flight", "/gear"):
        assert "on its way" not in httpx.get(server.url + other).text


def test_once_the_first_page_stands_the_others_need_no_server(page: Page, server: Server) -> None:
    """Without a service worker too, as on a phone that opens the laptop's address over plain HTTP."""
    page.add_init_script("delete Navigator.prototype.serviceWorker")
    rest = rest_of(page)
    page.goto("/sessions/1/plan")
    expect(page.get_by_role("status", name="Verdict")).to_contain_text(re.compile("Within|Caution|launch|data"))
    rest()
    server.kill()
    page.get_by_role("link", name="5 Flight").click()
    expect(page.get_by_role("button", name=re.compile("Take-off|Took off|Start")).first).to_be_visible()
