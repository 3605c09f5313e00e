"""Who works on a data folder: servers share it; what replaces the data needs it alone."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from zealous_lark.store.trouble import InUseError

try:
    import fcntl
except ImportError:  # a system without such locks: nobody is kept from anything
    fcntl = None  # type: ignore[assignment]

_NAME = "lark.lock"


@contextmanager
def claimed(folder: Path, *, alone: bool) -> Iterator[None]:
    """Hold a data folder, shared with others or alone; a killed process holds nothing any more. Raises InUseError."""
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    with open(folder / _NAME, "ab") as file:
        if fcntl is not None:
            try:
                fcntl.flock(file, (fcntl.LOCK_EX if alone else fcntl.LOCK_SH) | fcntl.LOCK_NB)
            except BlockingIOError:
                raise InUseError from None
            except OSError:
                pass  # a file system without such locks: nobody is kept from anything
        yield


@contextmanager
def one_at_a_time(path: Path) -> Iterator[None]:
    """Wait until no other process is in here with the same file."""
    with open(path, "ab") as file:
        if fcntl is not None:
            with suppress(OSError):  # a file system without such locks
                fcntl.flock(file, fcntl.LOCK_EX)
        yield
