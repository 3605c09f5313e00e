"""The licences of what ships with Lark: `python -m tests.licences` writes docs/licences.md.

Python packages are those of requirements.lock, those of the front end are the ones that its package.json names and
that are built into the screens (what only builds or tests does not ship).
"""

from __future__ import annotations

import json
import re
from importlib.metadata import PackageNotFoundError, metadata

from tests.make import ROOT

PAGE = ROOT / "docs" / "licences.md"
_HEAD = """# Licences of what ships with Lark

Lark itself is under the MIT licence ([LICENSE](../LICENSE)). Written by `python -m tests.licences` from what the
packages say of themselves.
"""


def python_packages() -> list[str]:
    """The names in requirements.lock."""
    lines = (ROOT / "requirements.lock").read_text().splitlines()
    return [m[1] for line in lines if (m := re.match(r"([A-Za-z0-9_.-]+)==", line))]


def screen_packages() -> list[str]:
    """What the screens are built of."""
    return list(json.loads((ROOT / "frontend" / "package.json").read_text())["dependencies"])


def _python_licence(name: str) -> str:
    try:
        said = metadata(name)
    except PackageNotFoundError:
        return "not installed here"
    classified = [c.split(" :: ")[-1] for c in said.get_all("Classifier", []) if c.startswith("License ::")]
    written = (said.get("License-Expression") or said.get("License") or "").strip().splitlines()
    first = written[0] if written and len(written[0]) < 60 else ""
    return first or ", ".join(classified) or "see the package"


def _screen_licence(name: str) -> str:
    said = json.loads((ROOT / "frontend" / "node_modules" / name / "package.json").read_text())
    return str(said.get("license", "see the package"))


def page() -> str:
    """The whole page, as Markdown."""
    parts = [_HEAD]
    for title, names, licence in (
        ("Server and command line", python_packages(), _python_licence),
        ("Screens", screen_packages(), _screen_licence),
    ):
        rows = [f"| {name} | {licence(name)} |" for name in sorted(names, key=str.lower)]
        parts += [f"## {title}\n", "| package | licence |", "|---|---|", *rows, ""]
    return "\n".join(parts)


if __name__ == "__main__":
    PAGE.write_text(page())
