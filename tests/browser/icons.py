"""The application's icons in the sizes that phones ask for, drawn from its mark: `python -m tests.browser.icons`."""

from __future__ import annotations

import re

from playwright.sync_api import sync_playwright

from tests.browser.conftest import CHROMIUM, FLAGS
from tests.make import ROOT

FOLDER = ROOT / "frontend/public"
GROUND = "#f8f2e6"
SIZES = {"icon-192": (192, 0.12), "icon-512": (512, 0.12), "icon-maskable-512": (512, 0.22)}
"""Width in pixels, and how much of it stays free on each side; of a maskable one a phone cuts the corners."""


def main() -> None:
    """Draw them."""
    mark = re.sub(r"<svg ", '<svg style="width:100%" ', (FOLDER / "lark.svg").read_text())
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, (side, free) in SIZES.items():
            page = browser.new_page(viewport={"width": side, "height": side})
            page.set_content(
                f'<body style="margin:0;background:{GROUND};height:100vh;display:grid;place-items:center">'
                f'<div style="width:{100 * (1 - 2 * free):.0f}%">{mark}</div>'
            )
            page.screenshot(path=FOLDER / f"{name}.png")
            page.close()
        browser.close()


if __name__ == "__main__":
    main()
