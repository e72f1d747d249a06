"""Mutation testing of the core: change one operator, constant or comparison and run the tests that import the module.

A mutant that all tests accept has survived: either the change makes no difference (an equivalent mutant) or a test is
missing. Mutants are chosen at random from a seed, so that a run can be repeated; each runs in a copy of the sources.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import re
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from console import ROOT, main_guard, say
from environment import PYTHON, ensure_python

CORE = Path("src/lucid_ridge/core")
# Sentences and labels are held by tests of wording, docstrings by nobody.
_LEFT_OUT = ("wording.py", "labels.py", "__init__.py")
_SWAPS: dict[type[ast.AST], tuple[type[ast.AST], str, str]] = {
    ast.Add: (ast.Sub, "+", "-"),
    ast.Sub: (ast.Add, "-", "+"),
    ast.Mult: (ast.Div, "*", "/"),
    ast.Div: (ast.Mult, "/", "*"),
    ast.Lt: (ast.LtE, "<", "<="),
    ast.LtE: (ast.Lt, "<=", "<"),
    ast.Gt: (ast.GtE, ">", ">="),
    ast.GtE: (ast.Gt, ">=", ">"),
    ast.Eq: (ast.NotEq, "==", "!="),
    ast.NotEq: (ast.Eq, "!=", "=="),
}
_LONGEST_S = 600


@dataclass(frozen=True)
class Mutant:
    """One change of a line. begin, end: columns of the text that is replaced."""

    path: Path
    line: int
    begin: int
    end: int
    before: str
    after: str

    def __str__(self) -> str:
        return f"{self.path}:{self.line}: {self.before} → {self.after}"


def main(argv: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="tools/mutate", description=__doc__)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--seed", type=int, default=1)
    arguments = parser.parse_args(argv)
    ensure_python(development=True)
    found = [mutant for path in sorted((ROOT / CORE).rglob("*.py")) for mutant in mutants(path)]
    chosen = random.Random(arguments.seed).sample(found, min(arguments.count, len(found)))
    survivors = []
    with tempfile.TemporaryDirectory(prefix="lucid-ridge-mutants-") as scratch:
        copy = Path(scratch)
        for folder in ("src", "tests", "docs", "tools"):
            shutil.copytree(ROOT / folder, copy / folder, ignore=shutil.ignore_patterns("__pycache__"))
        shutil.copy(ROOT / "pyproject.toml", copy)
        for number, mutant in enumerate(chosen, 1):
            killed = _killed(copy, mutant)
            survivors += [] if killed else [mutant]
            say(f"{number}/{len(chosen)} {'killed  ' if killed else 'SURVIVED'} {mutant}")
    say(f"\n{len(chosen) - len(survivors)} of {len(chosen)} killed. Survivors:")
    for mutant in survivors:
        say(f"  {mutant}")
    return 0


def mutants(path: Path) -> Iterator[Mutant]:
    """Yield the possible changes of a module: one operator, comparison or number each."""
    if path.name in _LEFT_OUT:
        return
    text = path.read_text("utf-8")
    lines = text.split("\n")
    name = path.relative_to(ROOT)
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.BinOp) and type(node.op) in _SWAPS:
            yield from _between(name, lines, node.left, node.right, type(node.op))
        elif isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in _SWAPS:
            yield from _between(name, lines, node.left, node.comparators[0], type(node.ops[0]))
        elif isinstance(node, ast.Constant) and type(node.value) in (int, float) and node.lineno == node.end_lineno:
            assert node.end_col_offset is not None
            begin, end = _columns(lines[node.lineno - 1], node.col_offset, node.end_col_offset)
            after = f"{node.value * 1.1 + 0.01:.6g}" if isinstance(node.value, float) else str(node.value + 1)
            yield Mutant(name, node.lineno, begin, end, lines[node.lineno - 1][begin:end], after)


def _between(
    path: Path, lines: list[str], left: ast.expr, right: ast.expr, operator: type[ast.AST]
) -> Iterator[Mutant]:
    """Yield the swap of an operator that stands on one line between its operands."""
    _, before, after = _SWAPS[operator]
    if left.end_lineno != right.lineno or left.end_col_offset is None:
        return
    line = lines[right.lineno - 1]
    begin, end = _columns(line, left.end_col_offset, right.col_offset)
    place = re.search(re.escape(before), line[begin:end])
    if place:
        yield Mutant(path, right.lineno, begin + place.start(), begin + place.end(), before, after)


def _columns(line: str, *offsets: int) -> tuple[int, ...]:
    """Return character columns for the byte offsets of ast."""
    raw = line.encode()
    return tuple(len(raw[:offset].decode()) for offset in offsets)


def _killed(copy: Path, mutant: Mutant) -> bool:
    target = copy / mutant.path
    text = target.read_text("utf-8")
    lines = text.split("\n")
    line = lines[mutant.line - 1]
    lines[mutant.line - 1] = line[: mutant.begin] + mutant.after + line[mutant.end :]
    try:
        target.write_text("\n".join(lines), "utf-8")
        tests = _tests_of(copy, mutant.path)
        done = subprocess.run(
            [str(PYTHON), "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests],
            cwd=copy,
            env={**os.environ, "PYTHONPATH": str(copy / "src"), "PYTHONDONTWRITEBYTECODE": "1"},
            capture_output=True,
            check=False,
            timeout=_LONGEST_S,
        )
        return done.returncode != 0
    except subprocess.TimeoutExpired:
        # A loop that no longer ends is noticed.
        return True
    finally:
        target.write_text(text, "utf-8")


def _tests_of(copy: Path, path: Path) -> list[str]:
    """Return the core tests that import a module, else those of its package, else all."""
    module = ".".join(path.relative_to("src").with_suffix("").parts)
    texts = {test: test.read_text("utf-8") for test in sorted((copy / "tests/core").glob("test_*.py"))}
    for wanted in (module, module.rsplit(".", 1)[0]):
        tests = [
            str(test.relative_to(copy)) for test, text in texts.items() if re.search(rf"\b{re.escape(wanted)}\b", text)
        ]
        if tests:
            return tests
    return ["tests/core"]


if __name__ == "__main__":
    main_guard(main)
