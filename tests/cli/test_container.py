"""The Containerfile, where no builder is: what it copies is there, and what it runs in the end is run as it stands."""

from __future__ import annotations

import re
import shlex
import subprocess
import sys
from pathlib import Path

from tests.lark import start
from tests.make import ROOT
from zealous_lark.cli import lark as group

TEXT = (ROOT / "Containerfile").read_text()
STEPS = [
    (word, rest)
    for word, rest in re.findall(r"^([A-Z]+) (.+)$", TEXT, re.MULTILINE)
]  # fmt: skip


def of(word: str) -> list[str]:
    return [rest for found, rest in STEPS if found == word]


def test_it_builds_from_plain_images_and_what_is_in_the_tree() -> None:
    assert {image.split()[0] for image in of("FROM")} == {"node:20-slim", "python:3.11-slim"}
    stages = {image.split(" AS ")[1] for image in of("FROM") if " AS " in image}
    for copied in of("COPY"):
        *sources, _ = [part for part in shlex.split(copied) if not part.startswith("--")]
        if "--from=" in copied:
            assert re.search(r"--from=(\w+)", copied)[1] in stages  # type: ignore[index]
            continue
        for source in sources:
            assert (ROOT / source).exists(), source


def test_every_library_comes_by_its_hash_and_none_without_one() -> None:
    installs = [step for step in of("RUN") if "pip install" in step]
    assert any("--require-hashes -r /tmp/requirements.lock" in step for step in installs)
    assert all("--no-deps" in step for step in installs)


def test_it_does_not_run_as_root_and_keeps_its_data_in_a_volume() -> None:
    last = [step for step in STEPS if step[0] in ("USER", "CMD", "RUN")]
    assert [word for word, _ in last[-2:]] == ["USER", "CMD"]
    (user,), (volume,), (data,) = of("USER"), of("VOLUME"), of("ENV")
    assert user == "lark"
    assert data == f"LARK_DATA={volume}"


def test_what_it_starts_is_healthy_by_its_own_check(tmp_path: Path) -> None:
    (command,), (health,), (port,) = of("CMD"), of("HEALTHCHECK"), of("EXPOSE")
    program, *words = re.findall(r'"([^"]+)"', command)
    assert program == "lark"
    usual = next(p for p in group.commands[words[0]].params if p.name == "port")
    assert port == str(usual.default)
    process, said = start(tmp_path, *words, "--port", "0")
    try:
        running = re.search(r":(\d+)", said.split(" on ")[1])
        assert running
        _, *asks = shlex.split(health.removeprefix("CMD ").replace(f":{port}/", f":{running[1]}/"))
        assert subprocess.run([sys.executable, *asks], check=False).returncode == 0
    finally:
        process.kill()
        process.join()
    assert subprocess.run([sys.executable, *asks], check=False, stderr=subprocess.DEVNULL).returncode != 0
