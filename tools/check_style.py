"""Refuse house words and calls with many positional arguments.

House words are turns of phrase that readers outside the project would have to read twice; docs/developing.md says
what to write instead. They are refused in comments, docstrings and strings of Python, in the front end, and in the
documentation. A call with more than seven positional arguments is refused because two swapped ones would go unseen.
"""

from __future__ import annotations

import ast
import io
import re
import sys
import tokenize
from collections.abc import Iterator
from pathlib import Path

from console import ROOT

# Pattern, and the words to use instead.
HOUSE_WORDS: tuple[tuple[str, str], ...] = (
    (r"\b\w*manieth\b", "every n-th"),
    (r"\breckon(s|ed|ing)?\b(?!-)", "count, compute, estimate"),
    (r"\bwhoever\b", "anyone who, the caller, the client"),
    (r"\banew\b", "again"),
    (r"\b[Tt]imes? out\b(?! of)", "field session"),
    (r"\b(taking|takes|taken)s? back\b", "undo"),
    (r"\btaking(s)?[- ]out\b", "export"),
    (r"\bput away\b", "archived, packed"),
    (r"\b[Rr]eturn (what|who|whose|how what)\b", "the noun: Return the …"),
    (r"\bof so many\b|\bso many (seconds|stops|times|hours|frames)\b", "the number by its name"),
    (r"\bwhat it comes to\b", "result"),
    (r"\bis to be (said|minded)\b", "reason, remark"),
    (r"\b(as|was|were|is|are|been) told\b", "source, stated, shown"),
    (r"\bgrafting\b", "merging"),
    (r"\bholds? no longer\b|\bnot hold any more\b", "expired"),
    (r"\blain upon\b|\bhow it goes\b", "plain words"),
)
MOST_POSITIONAL = 7
# Calls that list alternatives or columns of one kind.
LISTS = {
    "select",
    "options",
    "given",
    "print",
    "max",
    "min",
    "union",
    "array_agg",
    "join",
    "coalesce",
    "with_only_columns",
}
PYTHON = ("src", "tools", "tests", "bench")
# The vocabulary itself; migrations and the change log say what was called how.
EXEMPT = {"tools/check_style.py", "tests/tools/test_check_style.py", "CHANGELOG.md"}
_WORDS = [(re.compile(pattern), instead) for pattern, instead in HOUSE_WORDS]


def main() -> int:
    """Print each finding as path:line: message. Return 1 if there are any."""
    found = [*_python_findings(), *_text_findings()]
    for line in found:
        print(line)
    return 1 if found else 0


def _python_findings() -> Iterator[str]:
    for path in _files(PYTHON, "*.py"):
        text = path.read_text("utf-8")
        name = path.relative_to(ROOT)
        for token in tokenize.generate_tokens(io.StringIO(text).readline):
            if token.type in (tokenize.COMMENT, tokenize.STRING):
                for offset, line in enumerate(token.string.split("\n")):
                    yield from house_words(f"{name}:{token.start[0] + offset}", line)
        for line_number, called in long_calls(text):
            yield f"{name}:{line_number}: {called}() gets more than {MOST_POSITIONAL} positional arguments: name them"


def _text_findings() -> Iterator[str]:
    pages = [
        *_files(("docs",), "*.md"),
        *ROOT.glob("*.md"),
        *_files(("web/src",), "*.ts"),
        *_files(("web/src",), "*.tsx"),
    ]
    for path in pages:
        name = path.relative_to(ROOT)
        if str(name) in EXEMPT or path.name == "schema.d.ts":
            continue
        for number, line in enumerate(path.read_text("utf-8").splitlines(), 1):
            yield from house_words(f"{name}:{number}", line)


def _files(folders: tuple[str, ...], pattern: str) -> Iterator[Path]:
    for folder in folders:
        for path in sorted((ROOT / folder).rglob(pattern)):
            parts = path.relative_to(ROOT).parts
            if "versions" not in parts and "node_modules" not in parts and "/".join(parts) not in EXEMPT:
                yield path


def house_words(where: str, line: str) -> Iterator[str]:
    """Yield a finding for each house word in a line."""
    for pattern, instead in _WORDS:
        match = pattern.search(line)
        if match:
            yield f'{where}: "{match.group()}" is a house word; write: {instead}'


def long_calls(text: str) -> Iterator[tuple[int, str]]:
    """Yield line and name of each call in Python source with too many positional arguments."""
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Call) and len(node.args) > MOST_POSITIONAL:
            called = ast.unparse(node.func).rsplit(".", 1)[-1]
            if called not in LISTS:
                yield node.lineno, called


if __name__ == "__main__":
    sys.exit(main())
