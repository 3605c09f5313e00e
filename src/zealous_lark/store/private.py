"""Only the pilot's own account reads the data: folders 0700, files 0600."""

from __future__ import annotations

import stat
from dataclasses import dataclass
from pathlib import Path

_FOLDER, _FILE = 0o700, 0o600
_OTHERS = stat.S_IRWXG | stat.S_IRWXO


@dataclass(frozen=True, slots=True)
class Repaired:
    """How many files and folders others could reach before, and how many they still can: none where modes work."""

    repaired: int
    still_open: int


def make_private(folder: Path) -> Repaired:
    """Close a data folder, and all that is in it, to everybody but its owner. Links are left as they are."""
    repaired = still_open = 0
    for path in (folder, *folder.rglob("*")):
        if path.is_symlink() or not _reached_by_others(path):
            continue
        try:
            path.chmod(_FOLDER if path.is_dir() else _FILE)
        except OSError:
            still_open += 1
            continue
        if _reached_by_others(path):  # a file system that knows no modes takes the change and keeps none of it
            still_open += 1
        else:
            repaired += 1
    return Repaired(repaired, still_open)


def _reached_by_others(path: Path) -> bool:
    try:
        return bool(path.stat().st_mode & _OTHERS)
    except OSError:
        return False  # gone meanwhile
