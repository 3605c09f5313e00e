"""The real server on the demo data, driven in Chromium."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from multiprocessing.process import BaseProcess
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect, sync_playwright

from tests import lark
from zealous_lark.demo.load import load_demo
from zealous_lark.store import Database

CHROMIUM = "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    # Of a list like this only the last one counts, so that Playwright's own features are named again. Those of the
    # address bar draw its popup as a page of its own for each window, which takes longer than most tests.
    "--disable-features=AvoidUnnecessaryBeforeUnloadCheckSync,DestroyProfileOnBrowserClose,HttpsUpgrades,"
    "HttpsFirstBalancedModeAutoEnable,MediaRouter,PaintHolding,ThirdPartyStoragePartitioning,OptimizationHints,"
    "PreconnectToSearch,WebUIOmniboxPopup,WebUIOmniboxFullPopup,WebUIOmniboxAimPopup",
]
# A busy machine is slow, not wrong: what is expected is waited for longer than a pilot would wait.
expect.set_options(timeout=30_000)
WIDE = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}


def days_to(day: str) -> timedelta:
    """From today to the day that it is to be for server and browser; the time of day is the real one."""
    return date.fromisoformat(day) - datetime.now().astimezone().date()


AWAY = days_to("2030-09-26")
"""Found once: over midnight the tests' day goes on as the real one does, and no clock goes back by a day."""


_ONCE = frozenset({
    "test_nothing_is_lost_and_nothing_doubled",
    "test_a_phone_does_site_to_after_without_the_server_and_everything_is_there_once",
})  # fmt: skip
"""What is about losing and doubling: that it went well the second time says nothing."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Every walk through the browser is slow, but for the few that are marked as quick.

    One that fails is made once more, and the run's end says of which: two processors share a browser, a server and two
    other tests, and a wait that is over then is none that a pilot would see.
    """
    for item in items:
        if not item.path.is_relative_to(Path(__file__).parent):
            continue
        if item.get_closest_marker("quick") is None:
            item.add_marker(pytest.mark.slow)
        if item.name.split("[")[0] not in _ONCE:
            item.add_marker(pytest.mark.flaky(reruns=1))


@dataclass
class Server:
    """`lark demo` in a process of its own, on a free port; it can be killed and started again.

    own: `lark serve` with what is in the folder instead, on the real day.
    """

    folder: Path
    away: timedelta = AWAY
    own: bool = False
    more: tuple[str, ...] = ()
    process: BaseProcess | None = field(default=None)
    port: int = 0

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def now(self) -> datetime:
        """The time that it is for the server, with the offset of this computer."""
        return (datetime.now() + self.away).astimezone()

    def start(self) -> None:
        """Start and wait until it says that it is ready; the port stays the same from start to start."""
        words = ["serve"] if self.own else ["demo", "--today", f"{self.now:%Y-%m-%d}"]
        self.process, said = lark.start(self.folder, *words, "--port", str(self.port), *self.more)
        found = re.search(r"http://127\.0\.0\.1:(\d+)", said)
        assert found, f"the server said {said!r}"
        self.port = int(found[1])

    def kill(self) -> None:
        """Without warning, as a power cut would."""
        assert self.process is not None
        self.process.kill()
        self.process.join()


@pytest.fixture(scope="session")
def demo_data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's data of the day, made once and only ever copied."""
    folder = tmp_path_factory.mktemp("demo-data")
    db = Database(folder / "demo")
    db.migrate()
    assert load_demo(db, Server(folder).now)
    db.close()
    return folder


@pytest.fixture
def server(tmp_path: Path, demo_data: Path) -> Iterator[Server]:
    shutil.copytree(demo_data, tmp_path, dirs_exist_ok=True)
    made = Server(tmp_path)
    made.start()
    yield made
    made.kill()


@pytest.fixture
def empty_server(tmp_path: Path) -> Iterator[Server]:
    """A Lark with nothing in it."""
    made = Server(tmp_path / "empty", away=timedelta(0), own=True)
    made.start()
    yield made
    made.kill()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        launched = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield launched
        launched.close()


def open_context(browser: Browser, server: Server, *, days: bool = True, **options: object) -> BrowserContext:
    """A new profile on a server. days: its clock stands on the server's day; else time is the machine's own."""
    settings = {
        "base_url": server.url,
        "viewport": WIDE,
        "reduced_motion": "reduce",
        "locale": "en-GB",
        "timezone_id": "Europe/Tallinn",
        "color_scheme": "light",
    }
    context = browser.new_context(**{**settings, **options})  # type: ignore[arg-type]
    context.set_default_timeout(30_000)
    if days:
        context.clock.install(time=server.now)
    return context


def watched(context: BrowserContext) -> tuple[Page, list[str]]:
    """A page, and what went wrong in it."""
    page = context.new_page()
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    # A refused request is reported here too, and is part of some tests; the rest is not.
    page.on(
        "console",
        lambda m: faults.append(m.text) if m.type == "error" and "Failed to load resource" not in m.text else None,
    )
    return page, faults


@pytest.fixture
def page(browser: Browser, server: Server) -> Iterator[Page]:
    """A page on a laptop's screen; the test fails if the console reports an error."""
    context = open_context(browser, server)
    opened, faults = watched(context)
    yield opened
    context.close()
    assert faults == []


@pytest.fixture
def phone(browser: Browser, server: Server) -> Iterator[Page]:
    """A page on a phone, worked by touch."""
    context = open_context(browser, server, viewport=PHONE, has_touch=True, is_mobile=True)
    opened, faults = watched(context)
    yield opened
    context.close()
    assert faults == []


def say_all(dialog: Locator) -> None:
    """The pilot's word on each thing that is not checked, which a launch needs."""
    words = dialog.get_by_role("button", name="Looked, in order")
    expect(words.first).to_be_visible()
    for n in range(words.count()):
        words.nth(n).click()


@pytest.fixture
def context_elsewhere(browser: Browser, server: Server) -> Iterator[BrowserContext]:
    """Another device on the same server."""
    context = open_context(browser, server)
    yield context
    context.close()


def begin_over_open_field(page: Page, title: str) -> None:
    """A session over an open field in the dialog of a new session, which is open."""
    dialog = page.get_by_role("dialog", name="New session")
    dialog.get_by_label("Title").fill(title)
    dialog.get_by_label("Start from").click()
    page.get_by_role("option", name="An open field").click()
    dialog.get_by_label("Name of the place").fill("Meadow")
    dialog.get_by_label("Position").fill("58.5, 25.1")
    dialog.get_by_role("button", name="Create session").click()
