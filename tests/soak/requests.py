"""What four pages ask of the server: `python -m tests.soak.requests` records it anew into requests.json."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path
from typing import Any

from playwright.sync_api import Request, sync_playwright

from tests.browser.conftest import CHROMIUM, FLAGS, Server, open_context

RECORDED = Path(__file__).parent / "requests.json"
PAGES = ("/sessions/1/plan?view=map", "/sessions/1/plan?view=when", "/sessions/9/preflight", "/sessions/1/flight")
_SETTLED_MS = 12_000


def record() -> list[dict[str, Any]]:
    """Method, address, type and body of each different request to the API, page by page."""
    asked: list[dict[str, Any]] = []

    def note(request: Request) -> None:
        address = request.url.split("/", 3)[3]
        if address.startswith("api/"):
            body, kind = request.post_data, request.headers.get("content-type")
            one = {"method": request.method, "address": f"/{address}", "type": kind, "body": body}
            if one not in asked:
                asked.append(one)

    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        server = Server(Path(folder))
        server.start()
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for page_address in PAGES:
            context = open_context(browser, server, service_workers="block")
            page = context.new_page()
            page.on("request", note)
            page.goto(page_address)
            page.wait_for_timeout(_SETTLED_MS)
            context.close()
        browser.close()
        server.kill()
    return asked


if __name__ == "__main__":
    RECORDED.write_text(json.dumps(record(), indent=1))
