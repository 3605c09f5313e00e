"""What is wrong with a file, in words for the user."""

from __future__ import annotations

import struct
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager

from pydantic import ValidationError

_WRONG = (ArithmeticError, AttributeError, LookupError, TypeError, ValueError, RecursionError)
_DAMAGED = (zipfile.BadZipFile, zlib.error, struct.error, NotImplementedError, RuntimeError, EOFError, OSError)


class BadFileError(ValueError):
    """A file that is not what it should be. `allowed` says what is; `given` what was found instead."""

    def __init__(self, given: str, allowed: str) -> None:
        super().__init__(f"it has {given}; it needs {allowed}")
        self.given, self.allowed = given, allowed


@contextmanager
def telling(what: str, allowed: str) -> Iterator[None]:
    """Say of what a stranger wrote that it cannot be read, whichever way it is not what the reader took it for.

    Another kind of value where an object, a list or a number stands, numbers that nothing holds, an archive cut short.
    """
    try:
        yield
    except (BadFileError, ValidationError):  # these say it better
        raise
    except (*_WRONG, *_DAMAGED) as error:
        raise BadFileError(
            f"{what} that cannot be read ({str(error)[:100] or type(error).__name__})", allowed
        ) from error
