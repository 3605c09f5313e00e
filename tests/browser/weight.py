"""What a first view weighs on the wire, and how long it takes on a slow phone."""

from __future__ import annotations

import re
import time
from collections import defaultdict
from typing import Any

from playwright.sync_api import Browser, expect

from tests.browser.conftest import PHONE, Server, open_context

SLOW = {"offline": False, "latency": 150, "downloadThroughput": 1_600_000 / 8, "uploadThroughput": 750_000 / 8}
"""A phone at the edge of reception: 1.6 Mbit/s, 150 ms, and a quarter of this machine's processor."""


_WATCH = """
new MutationObserver(() => {
  const seal = document.querySelector('[role=status][aria-label=Verdict]');
  if (window.stoodAt || !/Within|Caution|launch|data/.test(seal?.textContent ?? "")) return;
  window.stoodAt = -1;
  requestAnimationFrame(() => setTimeout(() => { window.stoodAt = performance.now(); }));
}).observe(document, { childList: true, subtree: true, characterData: true });
"""
"""Runs in the page: when the verdict was drawn, to the frame. Asking from outside is late by up to a second."""


_FIRST_VIEW = """() => {
  const rest = performance.getEntriesByName("lark.rest")[0]?.startTime ?? Infinity;
  const asked = performance.getEntriesByType("resource").filter((e) => e.startTime < Math.min(rest, window.stoodAt));
  return [location.href, ...asked.map((e) => e.name)];
}"""
"""The addresses that were asked for until the verdict stood, and not for later: however slow the machine is."""


def cold_open(browser: Browser, server: Server, address: str, *, slow: bool) -> tuple[float, float, dict[str, float]]:
    """On a phone that was never here: seconds until a word on the session as saved (seen from outside), and until its
    own screen has drawn the verdict (by the page's clock); kB on the wire by kind until then.
    """
    context = open_context(
        browser, server, days=False, viewport=PHONE, has_touch=True, is_mobile=True, service_workers="block"
    )
    page = context.new_page()
    wire = context.new_cdp_session(page)
    wire.send("Network.enable")
    if slow:
        wire.send("Network.emulateNetworkConditions", SLOW)
        wire.send("Emulation.setCPUThrottlingRate", {"rate": 4})
    came: dict[str, dict[str, Any]] = {}
    kilobytes: dict[str, float] = {}
    wire.on("Network.responseReceived", lambda e: came.update({e["requestId"]: e}))
    wire.on("Network.loadingFinished", lambda e: kilobytes.update({e["requestId"]: e["encodedDataLength"] / 1000}))
    page.add_init_script(_WATCH)
    begun = time.monotonic()
    page.goto(address, wait_until="commit")
    expect(page.locator("#saved")).to_contain_text("As last saved", timeout=60_000)
    first = time.monotonic() - begun
    expect(page.get_by_role("status", name="Verdict")).to_contain_text(
        re.compile("Within|Caution|launch|data"), timeout=60_000
    )
    page.wait_for_timeout(100)
    seconds = page.evaluate("window.stoodAt") / 1000
    assert seconds > 0
    first_view = set(page.evaluate(_FIRST_VIEW))
    context.close()
    weights: dict[str, float] = defaultdict(float)
    for number, kb in kilobytes.items():
        said = came.get(number)
        if said is not None and said["response"]["url"] in first_view:
            weights[said["type"]] += kb
    return first, seconds, weights
