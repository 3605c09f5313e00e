"""Every example in the core's docstrings runs and is right."""

from __future__ import annotations

import doctest
from importlib import import_module
from pkgutil import walk_packages

import pytest

import zealous_lark.cases
import zealous_lark.core

MODULES = sorted(
    m.name
    for package in (zealous_lark.core, zealous_lark.cases)
    for m in walk_packages(package.__path__, f"{package.__name__}.")
)


@pytest.mark.parametrize("name", MODULES)
def test_the_examples_of_a_module_are_right(name: str) -> None:
    assert doctest.testmod(import_module(name)).failed == 0


def test_there_are_examples() -> None:
    found = [t for name in MODULES for t in doctest.DocTestFinder().find(import_module(name)) if t.examples]
    assert len(found) >= 10
