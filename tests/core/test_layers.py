"""Imports go only downwards: core knows nothing of the rest, operations nothing of HTTP, and so on."""

import ast
from pathlib import Path

import pytest

SOURCE = Path(__file__).resolve().parents[2] / "src" / "lucid_ridge"
# What each layer may import of the project, itself included.
ALLOWED = {
    "core": {"core"},
    "store": {"store", "core"},
    "formats": {"formats", "core"},
    "standins": {"standins", "core"},
    "services": {"services", "formats", "core"},
    "operations": {"operations", "services", "standins", "formats", "store", "core"},
    "demo": {"demo", "operations", "standins", "store", "core"},
    "api": {"api", "operations", "standins", "formats", "store", "core", "configuration"},
}
FORBIDDEN = {
    "core": {"flask", "apiflask", "sqlalchemy", "pydantic", "werkzeug", "psycopg"},
    # pydantic checks the schemas of nested values there (store/versioned.py).
    "store": {"flask", "apiflask", "werkzeug"},
    "operations": {"flask", "apiflask", "pydantic", "werkzeug"},
}


def _imports(path: Path):
    package = ("lucid_ridge", *path.relative_to(SOURCE).parent.parts)
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (tuple(alias.name.split(".")) for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = package[: len(package) - node.level + 1] if node.level else ()
            yield (*base, *(node.module or "").split("."))


@pytest.mark.parametrize("layer", sorted(ALLOWED))
def test_imports_go_downwards(layer):
    seen = 0
    for path in (SOURCE / layer).rglob("*.py"):
        if "versions" in path.parts or path.name == "env.py":
            continue
        for module in _imports(path):
            seen += 1
            if module[0] == "lucid_ridge" and len(module) > 1 and module[1]:
                assert module[1] in ALLOWED[layer], f"{path} imports {'.'.join(module)}"
            assert module[0] not in FORBIDDEN.get(layer, set()), f"{path} imports {module[0]}"
    assert seen > 5


def _packages_of_the_core():
    """Return which packages of the core each of them imports."""
    core, found = SOURCE / "core", {}
    for path in core.rglob("*.py"):
        package = path.relative_to(core).parts[0]
        imported = {module[2] for module in _imports(path) if module[:2] == ("lucid_ridge", "core") and len(module) > 2}
        found.setdefault(package, set()).update(name for name in imported if (core / name).is_dir() and name != package)
    return found


def test_no_circle_runs_between_the_packages_of_the_core():
    left = _packages_of_the_core()
    assert {"light", "tides", "spans", "facts"} <= set(left)
    while left:
        free = [name for name, wanted in left.items() if not wanted & set(left)]
        assert free, f"A circle runs through {sorted(left)}"
        for name in free:
            del left[name]


def test_the_core_neither_reads_the_clock_nor_files():
    for path in (SOURCE / "core").rglob("*.py"):
        text = path.read_text()
        for word in ("datetime.now", "date.today", "time.time(", "open("):
            assert word not in text, f"{path} uses {word}"
