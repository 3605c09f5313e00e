"""The wheel: it carries the screens, and serves them where there is neither Node nor the source tree."""

from __future__ import annotations

import os
import subprocess
import sys
import sysconfig
import venv
import zipfile
from pathlib import Path

import httpx
import pytest

from tests.make import ROOT


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """As `make dist` makes it, from what is there."""
    folder = tmp_path_factory.mktemp("dist")
    copy = folder / "tree"
    copy.mkdir()
    for name in ("src", "pyproject.toml", "README.md", "LICENSE"):
        (copy / name).symlink_to(ROOT / name)
    subprocess.run(
        [sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "-w", str(folder), str(copy)], check=True
    )
    (made,) = folder.glob("*.whl")
    return made


def test_the_wheel_carries_what_it_needs(wheel: Path) -> None:
    names = set(zipfile.ZipFile(wheel).namelist())
    inside = {name.removeprefix("zealous_lark/") for name in names}
    assert {"web/static/index.html", "formats/fonts/DejaVuSans.ttf", "store/migrations/env.py"} <= inside
    assert any(name.startswith("web/static/assets/index-") and name.endswith(".js.br") for name in inside)
    assert {f"rulesets/{p.name}" for p in (ROOT / "src/zealous_lark/rulesets").glob("*.json")} <= inside
    assert not [name for name in names if name.startswith("tests")]


def test_it_serves_the_demo_from_a_clean_environment(wheel: Path, tmp_path: Path) -> None:
    """The libraries are those of the lock file, already installed; Lark itself comes out of the wheel alone."""
    venv.create(tmp_path / "env", with_pip=False)
    python = tmp_path / "env" / "bin" / "python"
    (site,) = (tmp_path / "env" / "lib").glob("python*/site-packages")
    (site / "libraries.pth").write_text(sysconfig.get_paths()["purelib"] + "\n")
    with zipfile.ZipFile(wheel) as packed:
        packed.extractall(site)
    env = {"LARK_DATA": str(tmp_path / "data"), "PATH": str(python.parent), "HOME": str(tmp_path)}
    code = "import sys; sys.argv = ['lark', 'demo', '--port', '0']; from zealous_lark.cli import main; main()"
    process = subprocess.Popen([str(python), "-c", code], env=env, cwd=tmp_path, stdout=subprocess.PIPE, text=True)
    try:
        assert process.stdout is not None
        said = process.stdout.readline()
        assert "Lark is ready on http" in said
        address = said.split(" on ")[1].split()[0]
        page = httpx.get(address).text
        assert '<div id="root">' in page
        script = next(part for part in page.split('"') if part.startswith("/assets/index-") and part.endswith(".js"))
        assert len(httpx.get(address + script).content) > 10_000
        assert httpx.get(f"{address}/api/sessions").json()["total"] > 5
        place = subprocess.run(
            [str(python), "-c", "import zealous_lark; print(zealous_lark.__file__)"],
            env=env, cwd=tmp_path, capture_output=True, text=True, check=True,
        )  # fmt: skip
        assert place.stdout.startswith(str(tmp_path))
    finally:
        process.kill()
        process.wait()
    assert not os.path.exists(tmp_path / "zealous_lark")
