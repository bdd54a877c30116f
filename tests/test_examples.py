"""The examples in docstrings are true."""

from __future__ import annotations

import doctest
import importlib
import pkgutil
from pathlib import Path

import pytest

import waltzmark.core

_MODULES = [
    module.name
    for module in pkgutil.walk_packages(waltzmark.core.__path__, "waltzmark.core.")
    if not module.name.endswith(".generated")
    and (spec := importlib.util.find_spec(module.name))
    and spec.origin
    and ">>>" in Path(spec.origin).read_text("utf-8")
]


@pytest.mark.parametrize("name", _MODULES)
def test_the_examples_of_a_module_are_true(name: str) -> None:
    failed, tried = doctest.testmod(importlib.import_module(name))
    assert tried and not failed
