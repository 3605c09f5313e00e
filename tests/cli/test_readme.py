"""Every command that the README names, tried as it stands there."""

from __future__ import annotations

import os
import re
import subprocess
from pathlib import Path

import click
import pytest

from tests.lark import lark
from tests.make import EXAMPLES, ROOT
from zealous_lark.cli import lark as group

README = (ROOT / "README.md").read_text()
BLOCKS = "\n".join(re.findall(r"```\n(.*?)```", README, re.DOTALL))
LARK = [re.split(r"\s{3,}", line)[0] for line in BLOCKS.splitlines() if line.startswith("lark ")]
MAKE = sorted({*re.findall(r"^make ([\w-]+)", BLOCKS, re.MULTILINE), *re.findall(r"`make ([\w-]+)`", README)})
RUN = {"check", "schema", "openapi", "backups"}
"""Those that end by themselves and change nothing; of the others the options are looked at."""


@pytest.mark.parametrize("line", LARK)
def test_a_lark_command_is_one(line: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("LARK_DATA", str(tmp_path))
    words = line.replace("[", "").replace("]", "").replace("PLAN.json", str(EXAMPLES / "example-plan.json")).split()[1:]
    if words[0] in RUN:
        done = lark(*words)
        assert done.returncode in (0, 1), done.stderr
        assert done.stdout.strip()
        return
    command = group.commands[words[0]]
    known = {option for p in command.params for option in p.opts}
    assert {w for w in words[1:] if w.startswith("--")} <= known
    files = [w for w in words[1:] if w == "FILE"]
    assert len(files) == sum(isinstance(p, click.Argument) for p in command.params)


@pytest.mark.parametrize("target", MAKE)
def test_a_make_target_is_one(target: str) -> None:
    quiet = {k: v for k, v in os.environ.items() if k not in ("MAKEFLAGS", "MFLAGS")}
    done = subprocess.run(["make", "-n", target], cwd=ROOT, capture_output=True, text=True, check=False, env=quiet)
    assert done.returncode == 0, done.stderr


def test_every_command_is_in_the_readme() -> None:
    assert {line.split()[1] for line in LARK} == set(group.commands)


@pytest.mark.parametrize("page", [ROOT / "README.md", *(ROOT / "docs").rglob("*.md")], ids=lambda p: p.name)
def test_every_link_leads_somewhere(page: Path) -> None:
    links = re.findall(r"\]\(([^)#]+)(?:#[^)]*)?\)", page.read_text())
    assert [link for link in links if "://" not in link and not (page.parent / link).exists()] == []
