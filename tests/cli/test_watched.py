"""A server that dies is followed by another one, and nobody is refused meanwhile."""

from __future__ import annotations

import os
import random
import signal
import ssl
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest

from tests.lark import Watched
from zealous_lark.cli.watched import DEATHS

pytestmark = pytest.mark.skipif(not Path("/proc/self/stat").is_file(), reason="finds the server's process in /proc")
KILLS = int(os.environ.get("LARK_SERVER_KILLS", "3"))
PATIENCE_S = 60.0


@pytest.fixture
def watched(tmp_path: Path) -> Iterator[Callable[..., Watched]]:
    """Starts one, and ends all that were started."""
    begun: list[Watched] = []

    def start(*words: str, **more: Any) -> Watched:
        begun.append(Watched(tmp_path / "data", *(words or ("serve",)), "--port", "0", err=tmp_path / "err", **more))
        return begun[-1]

    yield start
    for one in begun:
        one.process.kill()
        one.process.wait()


def gone(pid: int) -> bool:
    until = time.monotonic() + PATIENCE_S
    while time.monotonic() < until:
        try:
            os.kill(pid, 0)
        except ProcessLookupError:
            return True
        if Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] == "Z":
            return True
        time.sleep(0.05)
    return False


def test_a_killed_server_is_followed_by_another(watched: Callable[..., Watched], tmp_path: Path) -> None:
    lark = watched()
    for number in (signal.SIGKILL, signal.SIGSEGV):
        was = lark.kill_server(number)
        assert gone(was)
        # Not refused: it waits until the next one answers.
        assert httpx.get(f"{lark.url}/api/health", timeout=PATIENCE_S).json()["status"] == "ok"
        assert lark.server != was
    deaths = (tmp_path / "data" / DEATHS).read_text()
    assert "died by SIGKILL" in deaths
    assert "died by SIGSEGV" in deaths
    assert "Segmentation fault" in deaths
    assert "waitress" in deaths  # where it was
    assert (tmp_path / "err").read_text().count("was started again") == 2
    assert lark.end() == 0


def test_saves_are_kept_once_however_often_it_is_killed(watched: Callable[..., Watched]) -> None:
    """Each save is killed at another moment, before, within and after it, and sent again as a screen does."""
    lark = watched()
    dice = random.Random(30)

    def add(n: int) -> None:
        headers = {"Idempotency-Key": f"thing-number-{n}"}
        for _ in range(9):
            try:
                answer = httpx.post(f"{lark.url}/api/kit", json={"item": item(n)}, headers=headers, timeout=PATIENCE_S)
            except httpx.TransportError:
                continue
            assert answer.status_code == 201, answer.text
            return

    for n in range(KILLS):
        saving = threading.Thread(target=add, args=(n,))
        saving.start()
        time.sleep(dice.uniform(0.0, 0.06))
        lark.kill_server()
        saving.join()
    kept = httpx.get(f"{lark.url}/api/kit", timeout=PATIENCE_S).json()["items"]
    assert sorted(i["name"] for i in kept) == sorted(item(n)["name"] for n in range(KILLS))


def item(n: int) -> dict[str, Any]:
    return {"kind": "own", "name": f"Thing {n}"}


def test_servers_that_die_at_once_are_given_up(watched: Callable[..., Watched], tmp_path: Path) -> None:
    lark = watched(most_deaths=3)
    for _ in range(3):
        httpx.get(f"{lark.url}/api/health", timeout=PATIENCE_S)
        lark.kill_server()
    assert lark.process.wait(PATIENCE_S) == 70
    assert "died 3 times within a minute" in (tmp_path / "err").read_text()


def test_a_server_ends_with_who_watches_it(watched: Callable[..., Watched]) -> None:
    lark = watched()
    server = lark.server
    assert server is not None
    lark.process.kill()
    assert gone(server)


def test_ended_in_order_its_log_is_merged(watched: Callable[..., Watched], tmp_path: Path) -> None:
    lark = watched()
    assert httpx.post(f"{lark.url}/api/kit", json={"item": item(1)}, timeout=PATIENCE_S).status_code == 201
    assert lark.end() == 0
    wal = tmp_path / "data" / "lark.db-wal"
    assert not wal.exists() or wal.stat().st_size == 0


def test_the_local_network_is_listened_to_by_the_next_one(watched: Callable[..., Watched], tmp_path: Path) -> None:
    lark = watched("serve", "--field", "--field-port", "0", "--field-address", "127.0.0.2")
    (address,) = httpx.get(f"{lark.url}/api/access/field", timeout=PATIENCE_S).json()["addresses"]
    trusted = ssl.create_default_context(cafile=str(tmp_path / "data" / "field" / "authority.crt"))
    lark.kill_server()
    assert httpx.get(f"{address}/api/sessions", verify=trusted, timeout=PATIENCE_S).status_code == 401
    assert httpx.get(f"{lark.url}/api/access/field", timeout=PATIENCE_S).json()["addresses"] == [address]


def test_the_demos_stand_ins_outlive_a_server(watched: Callable[..., Watched]) -> None:
    lark = watched("demo")
    was = httpx.get(f"{lark.url}/api/weather/sources", timeout=PATIENCE_S).json()
    behaviour = {"behaviour": "few_satellites"}
    assert httpx.put(f"{lark.url}/api/devices/aircraft", json=behaviour, timeout=PATIENCE_S).status_code < 300
    lark.kill_server()
    assert httpx.get(f"{lark.url}/api/weather/sources", timeout=PATIENCE_S).json() == was
    heard: dict[str, Any] = {}
    until = time.monotonic() + PATIENCE_S
    while heard.get("satellites") != 5 and time.monotonic() < until:
        told = httpx.get(f"{lark.url}/api/devices", timeout=PATIENCE_S).json()
        assert told["aircraft"]["behaviour"] == "few_satellites"
        heard = told["aircraft"]["says"]
        time.sleep(0.1)
    assert heard["satellites"] == 5
