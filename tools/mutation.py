"""Mutation testing of the core: change one operator, constant or comparison and run the tests that reach it.

A mutant that all tests accept has survived: either the change makes no difference (an equivalent mutant) or a test is
missing. Mutants are chosen at random from a seed, so that a run can be repeated; each runs in a copy of the sources.
One run of all tests of the core says first which of them reach which line, and how long each takes: a mutant is shown
only to those that reach it, the quickest first.
"""

from __future__ import annotations

import argparse
import ast
import json
import os
import random
import re
import shutil
import subprocess
import tempfile
import time
import xml.etree.ElementTree as ElementTree
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from queue import SimpleQueue

from console import ROOT, SetupError, main_guard, say
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
_LONGEST_S = 900


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
    parser.add_argument("--again", type=Path, help="an earlier run's output: only what survived then")
    parser.add_argument("--processes", type=int, default=os.cpu_count() or 1)
    arguments = parser.parse_args(argv)
    ensure_python(development=True)
    found = [mutant for path in sorted((ROOT / CORE).rglob("*.py")) for mutant in mutants(path)]
    chosen = random.Random(arguments.seed).sample(found, min(arguments.count, len(found)))
    if arguments.again:
        chosen = survivors_of(arguments.again.read_text("utf-8"), found)
    with tempfile.TemporaryDirectory(prefix="lucid-ridge-mutants-") as scratch:
        copies = [_copied(Path(scratch) / str(number)) for number in range(arguments.processes)]
        say("Finding out which tests reach which line: some minutes …")
        reach = Reach(copies[0], arguments.processes)
        free: SimpleQueue[Path] = SimpleQueue()
        for copy in copies:
            free.put(copy)

        def judged(mutant: Mutant) -> bool:
            copy = free.get()
            try:
                began = time.monotonic()
                killed = _killed(copy, mutant, reach.tests_of(mutant))
                took_s = time.monotonic() - began
                say(f"{'killed  ' if killed else 'SURVIVED'} {mutant} ({took_s:.0f} s)")
                return killed
            finally:
                free.put(copy)

        with ThreadPoolExecutor(arguments.processes) as pool:
            killed = list(pool.map(judged, chosen))
    survivors = [mutant for mutant, gone in zip(chosen, killed, strict=True) if not gone]
    say(f"\n{len(chosen) - len(survivors)} of {len(chosen)} killed. Survivors:")
    for mutant in survivors:
        say(f"  {mutant}")
    return 0


def survivors_of(said: str, found: list[Mutant]) -> list[Mutant]:
    """Return the mutants that survived an earlier run, by its output: the like of them nearest to the line it had."""
    chosen = []
    for path, line, change in re.findall(r"^SURVIVED (\S+):(\d+): (.+) \(\d+ s\)$", said, re.MULTILINE):
        alike = [one for one in found if str(one.path) == path and f"{one.before} → {one.after}" == change]
        if alike:
            chosen.append(min(alike, key=lambda one: abs(one.line - int(line))))
    return chosen


def _copied(copy: Path) -> Path:
    for folder in ("src", "tests", "docs", "tools", "web/src"):
        shutil.copytree(ROOT / folder, copy / folder, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", copy)
    return copy


@dataclass
class Reach:
    """Which tests reach which line of the core.

    tests: by path and line, the ids of tests; took_s: by id; whole files stand for lines reached by a fixture or while
    a module is imported.
    """

    copy: Path
    processes: int
    tests: dict[tuple[str, int], set[str]] = field(default_factory=dict)
    took_s: dict[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        settings, found, times = (self.copy / name for name in ("coverage.ini", "coverage.json", "times.xml"))
        settings.write_text("[run]\nsource = src/lucid_ridge/core\n")
        seen = ["--cov", f"--cov-config={settings}", "--cov-context=test", "--cov-report="]
        side_by_side = ["-n", str(self.processes), "--dist", "worksteal"]
        done = _pytest(self.copy, ["tests/core", f"--junitxml={times}", *seen, *side_by_side], None)
        if done.returncode:
            raise SetupError(f"The tests of the core fail as they are:\n{done.stdout[-3000:]}{done.stderr[-1000:]}")
        command = [PYTHON, "-m", "coverage", "json", "--quiet", f"--rcfile={settings}", "--show-contexts", "-o", found]
        subprocess.run([str(part) for part in command], cwd=self.copy, check=True)
        self._read(json.loads(found.read_text("utf-8")), ElementTree.parse(times).getroot())

    def _read(self, found: dict[str, dict[str, dict[str, dict[str, list[str]]]]], times: ElementTree.Element) -> None:
        for case in times.iter("testcase"):
            module = case.get("classname", "").replace(".", "/")
            self.took_s[f"{module}.py::{case.get('name')}"] = float(case.get("time", 0.0))
        for path, lines in found["files"].items():
            for line, contexts in lines["contexts"].items():
                if tests := {_test_of(context) for context in contexts if context}:
                    self.tests[path, int(line)] = tests

    def tests_of(self, mutant: Mutant) -> list[str]:
        """Return the tests that reach a mutant, the quickest first.

        A constant is read while its module is imported: then the tests that reach any line of the module.
        """
        path = str(mutant.path)
        reached = self.tests.get((path, mutant.line)) or self._of_module(path)
        return sorted(reached, key=lambda test: ("::" not in test, self.took_s.get(test, 0.0), test))

    def _of_module(self, path: str) -> set[str]:
        return set().union(*(tests for (file, _), tests in self.tests.items() if file == path))


def _test_of(context: str) -> str:
    """Return the test of a coverage context: a whole file where a fixture reached the line."""
    test, _, phase = context.rpartition("|")
    return test if phase == "run" else test.split("::")[0]


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


def _killed(copy: Path, mutant: Mutant, tests: list[str]) -> bool:
    target = copy / mutant.path
    text = target.read_text("utf-8")
    lines = text.split("\n")
    line = lines[mutant.line - 1]
    lines[mutant.line - 1] = line[: mutant.begin] + mutant.after + line[mutant.end :]
    try:
        target.write_text("\n".join(lines), "utf-8")
        return _pytest(copy, ["-x", *tests], _LONGEST_S).returncode != 0
    except subprocess.TimeoutExpired:
        # A loop that no longer ends is noticed.
        return True
    finally:
        target.write_text(text, "utf-8")


def _pytest(copy: Path, arguments: list[str], longest_s: float | None) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [str(PYTHON), "-m", "pytest", "-q", "-p", "no:cacheprovider", *arguments],
        cwd=copy,
        env={**os.environ, "PYTHONPATH": str(copy / "src"), "PYTHONDONTWRITEBYTECODE": "1"},
        capture_output=True,
        check=False,
        text=True,
        timeout=longest_s,
    )


if __name__ == "__main__":
    main_guard(main)
