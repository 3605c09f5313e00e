"""What is wrong with the place where the data are, in one sentence that says what to do."""

from __future__ import annotations

import errno
import sqlite3
from pathlib import Path

from sqlalchemy.exc import DBAPIError

from zealous_lark.store.holding import who_holds


class DataGoneError(Exception):
    """The data file was moved, replaced or deleted while Lark ran."""


class InUseError(Exception):
    """A Lark is running on the data that should be replaced."""


def sentence(error: BaseException, folder: Path, writer: str = "") -> str | None:
    """What happened to the data in a folder and what to do; None for an error that is not about them.

    writer: what this process itself is saving just now.

    >>> sentence(sqlite3.OperationalError("database or disk is full"), Path("/data")).split(".")[0]
    'There is no room left on the disk that holds /data'
    """
    if isinstance(error, DataGoneError):
        return (
            f"The data in {folder} were moved, replaced or deleted while Lark ran, and nothing is saved since. "
            "Stop Lark, put them back or restore a backup (lark backups), and start it again."
        )
    if isinstance(error, InUseError):
        return f"Lark is running on the data in {folder}. Stop it, then try again; nothing was changed."
    cause = error.orig if isinstance(error, DBAPIError) else error
    if isinstance(cause, sqlite3.Error):
        return _of_sqlite(str(cause).lower(), folder, writer)
    if isinstance(cause, OSError) and cause.errno is not None:
        return _of_system(cause, folder)
    return None


def _of_sqlite(said: str, folder: Path, writer: str) -> str | None:
    if "full" in said:
        return _full(folder)
    if "readonly" in said or "unable to open" in said:
        return _not_writable(folder)
    if "locked" in said or "busy" in said:
        return _held(folder, writer)
    if "malformed" in said or "not a database" in said or "disk i/o" in said or "no such table" in said:
        return (
            f"The data in {folder} are damaged, and Lark leaves them as they are. "
            "Put back a backup: lark backups lists them, lark restore takes one."
        )
    return None


def _held(folder: Path, writer: str) -> str:
    holder = who_holds(folder)
    if holder == "":
        what = f" ({writer})" if writer else ""
        return f"Lark is still saving something else{what}. This was not saved; try again in a moment."
    return (
        f"{holder or 'Another program'} is holding the data in {folder}. This was not saved. "
        "Close that program, or wait until it is done, and try again."
    )


def _of_system(error: OSError, folder: Path) -> str | None:
    if error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG):
        return _full(folder)
    if error.errno in (errno.EACCES, errno.EPERM, errno.EROFS, errno.ENOTDIR, errno.EEXIST):
        return _not_writable(folder)
    return None


def _full(folder: Path) -> str:
    return f"There is no room left on the disk that holds {folder}. This was not saved. Make room, then try again."


def _not_writable(folder: Path) -> str:
    return (
        f"Lark cannot write in {folder}. Nothing was saved. "
        "Allow writing there, or set LARK_DATA to a folder where you may."
    )
