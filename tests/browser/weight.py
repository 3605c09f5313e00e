"""What a first view weighs on the wire, and how long it takes on a slow phone."""

from __future__ import annotations

import re
import time
from collections import defaultdict

from playwright.sync_api import Browser, expect

from tests.browser.conftest import PHONE, Server, open_context

SLOW = {"offline": False, "latency": 150, "downloadThroughput": 1_600_000 / 8, "uploadThroughput": 750_000 / 8}
"""A phone at the edge of reception: 1.6 Mbit/s, 150 ms, and a quarter of this machine's processor."""


def cold_open(browser: Browser, server: Server, address: str, *, slow: bool) -> tuple[float, float, dict[str, float]]:
    """On a phone that was never here: seconds until a word on the session as saved, and until its own screen has the
    verdict; kB on the wire by kind until then.
    """
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True, service_workers="block")
    page = context.new_page()
    wire = context.new_cdp_session(page)
    wire.send("Network.enable")
    if slow:
        wire.send("Network.emulateNetworkConditions", SLOW)
        wire.send("Emulation.setCPUThrottlingRate", {"rate": 4})
    kinds: dict[str, str] = {}
    weights: dict[str, float] = defaultdict(float)
    wire.on("Network.responseReceived", lambda e: kinds.update({e["requestId"]: e["type"]}))
    wire.on(
        "Network.loadingFinished",
        lambda e: weights.__setitem__(
            kinds.get(e["requestId"], "Other"),
            weights[kinds.get(e["requestId"], "Other")] + e["encodedDataLength"] / 1000,
        ),
    )
    begun = time.monotonic()
    page.goto(address, wait_until="commit")
    expect(page.locator("#saved")).to_contain_text("As last saved", timeout=60_000)
    first = time.monotonic() - begun
    expect(page.get_by_role("status", name="Verdict")).to_contain_text(
        re.compile("Within|Caution|launch|data"), timeout=60_000
    )
    seconds = time.monotonic() - begun
    found = dict(weights)
    context.close()
    return first, seconds, found
