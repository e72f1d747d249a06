"""The examples of docs/core.md run, and every public function of the core has a docstring."""

import doctest
import importlib
import inspect
import pkgutil
from pathlib import Path

import lucid_ridge.core

PAGE = Path(__file__).parents[2] / "docs" / "core.md"


def test_the_examples_give_the_figures_worked_by_hand():
    result = doctest.testfile(str(PAGE), module_relative=False, encoding="utf-8")
    assert (result.failed, result.attempted > 35) == (0, True)


def test_every_public_function_has_a_docstring():
    bare = []
    for found in pkgutil.walk_packages(lucid_ridge.core.__path__, "lucid_ridge.core."):
        module = importlib.import_module(found.name)
        assert module.__doc__, found.name
        if found.name.endswith("wording"):
            # A sentence is its own description.
            continue
        bare += [
            f"{found.name}.{name}"
            for name, item in vars(module).items()
            if inspect.isfunction(item) and item.__module__ == found.name and name[0] != "_" and not item.__doc__
        ]
    assert bare == []
