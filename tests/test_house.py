"""Rules of the house that no tool holds."""

import ast
import io
import json
import re
import struct
import tokenize
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.make import ROOT
from zealous_lark.core.checks import all_checks

SOURCES = [
    *ROOT.glob("src/**/*.py"),
    *(p for p in ROOT.glob("frontend/src/**/*.ts*") if p.name != "schema.d.ts"),
]


def test_no_source_file_is_a_hall() -> None:
    """About 400 lines is a room."""
    halls = {str(p.relative_to(ROOT)): n for p in SOURCES if (n := len(p.read_text().splitlines())) > 420}
    assert halls == {}


@pytest.mark.parametrize("path", [p for p in SOURCES if p.suffix == ".tsx"], ids=lambda p: p.name)
def test_no_screen_promises(path: Path) -> None:
    """Lark never says that a flight is legal or safe; it may name the legal height that a pilot set."""
    words = re.sub(r"legal_height\w*|safe(Out|Home|-area)\w*", "", path.read_text())
    assert not re.search(r"\b(is|are|be) (legal|safe)\b|\bsafe to\b|\bgood to fly\b", words, re.IGNORECASE)


@pytest.mark.parametrize("check", all_checks(), ids=lambda c: c.id)
def test_every_check_names_its_source_and_what_decides(check: object) -> None:
    source, judge = check.source, check.judge  # type: ignore[attr-defined]
    assert source.endswith(".")
    assert len((judge.__doc__ or "").strip()) > 20
    marked = ("practice", "memory", "ISO", "ITU", "NOAA", "Zeng", "triangle", "astral", "Espy")
    assert any(word in source for word in marked), source


def test_every_screenshot_is_linked_and_exists() -> None:
    readme = (ROOT / "README.md").read_text()
    linked = set(re.findall(r"docs/screenshots/[\w-]+\.png", readme))
    there = {str(p.relative_to(ROOT)) for p in ROOT.glob("docs/screenshots/*.png")}
    assert linked == there


def test_the_locks_name_no_host() -> None:
    for lock in ("requirements.lock", "requirements-dev.lock"):
        text = (ROOT / lock).read_text()
        assert "://" not in text
        assert "--hash=sha256:" in text
    assert '"resolved"' not in (ROOT / "frontend/package-lock.json").read_text()


RETIRED = re.compile(
    r"\b(packs?|aerials?|upkeep|walkround|look[ -]round|reckon\w*|anew|lift-off|knock|kit list|stay down|"
    r"mend|mended|launch with care|not yet known|judged|picture signal|far end|on station|automatic return|"
    r"points of charge|aloft|over the ground|in reach again|lean)\b",
    re.IGNORECASE,
)
"""Words that have a better one, or a second meaning: docs/words.md says which."""
KEPT = re.compile(
    r"`[^`]*`|wind aloft|opposite aloft|(set up or )?pack up|(to )?pack (the bag|by the list)", re.IGNORECASE
)


def _bare(said: str) -> str:
    """A sentence without what is put into it, also where that has braces of its own."""
    while (less := re.sub(r"\$?\{[^{}]*\}", "", said)) != said:
        said = less
    return re.sub(r"\$\{.*", "", said)


def _sentences(path: Path) -> Iterator[tuple[int, str]]:
    """What a file says in words: Python strings and texts of the screens, without what is put into them."""
    text = path.read_text()
    if path.suffix == ".md":
        yield from enumerate(text.splitlines(), 1)
        return
    if path.suffix == ".py":
        for token in tokenize.generate_tokens(io.StringIO(text).readline):
            said = token.string
            if token.type == tokenize.STRING and '"""' not in said and " " in said and "SELECT" not in said:
                yield token.start[0], _bare(said)
        return
    for number, line in enumerate(text.splitlines(), 1):
        if re.match(r"\s*(import|//|/?\*)", line) or ' from "' in line:
            continue
        quoted = re.findall(r'"([^"$]* [^"$]*)"', line) + re.findall(r">([^<>{}=;()]+)<", line)
        quoted += [_bare(x) for x in re.findall(r"`([^`]* [^`]*)`", line)]
        yield from ((number, said) for said in quoted)


def test_no_retired_word_is_said() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{number}: {met[0]}: {said[:80]}"
        for path in [*SOURCES, ROOT / "README.md", *ROOT.glob("docs/guide/*.md")]
        if "migrations" not in path.parts
        for number, said in _sentences(path)
        if (met := RETIRED.search(KEPT.sub("", said)))
    ]
    assert found == []


def test_the_icons_of_the_installed_application_have_the_sizes_they_say() -> None:
    static = ROOT / "src/zealous_lark/web/static"
    manifest = json.loads((static / "manifest.webmanifest").read_text())
    drawn = [icon for icon in manifest["icons"] if icon["type"] == "image/png"]
    assert {icon["sizes"] for icon in drawn} >= {"192x192", "512x512"}
    assert any(icon.get("purpose") == "maskable" for icon in drawn)
    for icon in drawn:
        width, height = struct.unpack(">II", (static / icon["src"]).read_bytes()[16:24])
        assert f"{width}x{height}" == icon["sizes"], icon["src"]


_PREPARES = {"contains_xy", "intersects_xy", "prepare", "destroy_prepared", "prepared", "prep", "STRtree", "dwithin"}
"""What prepares a shape, builds its index, or asks a prepared one, of shapely."""
_SHARED = [
    p for room in ("core", "services", "web", "plan", "store") for p in ROOT.glob(f"src/zealous_lark/{room}/**/*.py")
]


def _of_shapely(path: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id == "shapely":
            yield node.attr
        if isinstance(node, ast.ImportFrom) and (node.module or "").split(".")[0] == "shapely":
            yield from (node.module or "").split(".")[1:]
            yield from (name.name for name in node.names)


def test_shapes_are_prepared_in_one_place_alone() -> None:
    """Two threads that ask a fresh shape at once corrupt the heap; `core/areas.py` says how it is avoided."""
    found = {str(p.relative_to(ROOT)): met for p in _SHARED if (met := _PREPARES.intersection(_of_shapely(p)))}
    assert found == {"src/zealous_lark/core/areas.py": {"contains_xy", "prepare"}}
