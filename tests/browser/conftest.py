"""The real server on the demo data, driven in Chromium."""

from __future__ import annotations

import re
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, suppress
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import TypeVar

import httpx
import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect, sync_playwright

from tests import lark
from zealous_lark.cli.watched import DEATHS
from zealous_lark.demo.load import load_demo
from zealous_lark.store import Database
from zealous_lark.store.database import FILE_NAME

T = TypeVar("T")
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


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Every walk through the browser is slow, but for the few that are marked as quick."""
    for item in items:
        if item.path.is_relative_to(Path(__file__).parent) and item.get_closest_marker("quick") is None:
            item.add_marker(pytest.mark.slow)


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


class Standing:
    """One server for all tests of a process, whose data are put back before each."""

    def __init__(self, folder: Path, pristine: Path) -> None:
        self.server, self._pristine = Server(folder), pristine
        self._begun = ""

    def as_new(self) -> Server:
        """The server with the demo's data as they were made, in place of what the last test left."""
        if self._begun and self._around() == self._begun:
            self._put_back()
        else:
            self._begin()
        return self.server

    def _begin(self) -> None:
        if self.server.process is not None:
            self.server.kill()
        shutil.rmtree(self.server.folder, ignore_errors=True)
        shutil.copytree(self._pristine, self.server.folder)
        self.server.start()
        self._begun = self._around()

    def _around(self) -> str:
        """What a test may have changed that is in no file: how the stand-ins behave. Empty where nobody answers."""
        if self.server.process is None or not self.server.process.is_alive():
            return ""
        with suppress(httpx.TransportError):
            aircraft = httpx.get(f"{self.server.url}/api/devices", timeout=30).json()["aircraft"]
            said = httpx.get(f"{self.server.url}/api/weather/sources", timeout=30).json()["sources"]
            (control,) = {one["control"] for one in said}
            return f"{aircraft['behaviour']} {httpx.get(control, timeout=30).text}"
        return ""

    def _put_back(self) -> None:
        here, kept = self.server.folder, self._pristine
        with (
            closing(sqlite3.connect(kept / "demo" / FILE_NAME)) as pristine,
            closing(sqlite3.connect(here / "demo" / FILE_NAME, timeout=60)) as now,
        ):
            pristine.backup(now)
        for path in (here / "demo").iterdir():
            if not (path.name.startswith(FILE_NAME) or path.name in (DEATHS, "lark.lock")):
                shutil.rmtree(path) if path.is_dir() else path.unlink()


@pytest.fixture(scope="session")
def standing(tmp_path_factory: pytest.TempPathFactory, demo_data: Path) -> Iterator[Standing]:
    made = Standing(tmp_path_factory.mktemp("standing") / "data", demo_data)
    yield made
    if made.server.process is not None:
        made.server.kill()


@pytest.fixture
def server(standing: Standing) -> Server:
    """The demo on its server; it may be killed and started again."""
    return standing.as_new()


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


def rest_of(page: Page) -> Callable[[], None]:
    """Call before a page is opened; what comes back waits until the other pages have come too, some seconds later."""
    came: list[str] = []
    page.on("requestfinished", lambda r: came.append(r.url) if "/assets/FlightStage" in r.url else None)

    def wait() -> None:
        for _ in range(200):
            # The clock of the page is the test's: it goes on while the rest comes.
            page.clock.run_for(2_000)
            page.wait_for_timeout(100)
            if came:
                return
        raise AssertionError("the other pages did not come")

    return wait


def settled(page: Page, look: Callable[[], T]) -> T:
    """What is seen once there is something; at last what there is, however long a busy machine takes."""
    for _ in range(240):
        if found := look():
            return found
        page.wait_for_timeout(250)
    return look()


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
