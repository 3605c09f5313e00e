"""The checks. Each lives in one place: a function in a module of this package, marked with `check`.

Every module here is found by itself, so a new check needs no edit anywhere else.
"""

from __future__ import annotations

from functools import cache
from importlib import import_module
from pkgutil import iter_modules

from zealous_lark.core.checks.base import Bound, Check, Finding, Status, check, registered

__all__ = ["Bound", "Check", "Finding", "Status", "all_checks", "check"]


@cache
def all_checks() -> tuple[Check, ...]:
    """Every check, in the order of the modules' names and of their places in them."""
    for module in iter_modules(__path__):
        import_module(f"{__name__}.{module.name}")
    # Not in the order in which they were imported: that is another one where somebody imports one of them first.
    return tuple(sorted(registered(), key=lambda c: (c.judge.__module__, c.judge.__code__.co_firstlineno)))
