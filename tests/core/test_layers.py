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


def _rooms(folder):
    """Return which sub-packages and modules of a package each of them imports."""
    package = ("lucid_ridge", *folder.relative_to(SOURCE).parts)
    rooms = {path.stem for path in folder.iterdir() if not path.stem.startswith("_")}
    imports = {room: set() for room in rooms}
    for path in folder.rglob("*.py"):
        room = path.relative_to(folder).parts[0].removesuffix(".py")
        if room not in rooms:
            continue
        for module in _imports(path):
            if module[: len(package)] == package and len(module) > len(package):
                imports[room].add(module[len(package)])
    return {room: (imported & rooms) - {room} for room, imported in imports.items()}


@pytest.mark.parametrize(
    ("folder", "some"),
    [
        ("core", {"light", "tides", "spans", "facts"}),
        ("core/planning", {"verdicts", "way", "focus", "exposure", "tones"}),
        ("operations", {"platform", "places", "shots", "log"}),
        ("api", {"platform", "places", "shots", "log"}),
    ],
)
def test_no_circle_runs_between_rooms(folder, some):
    left = _rooms(SOURCE / folder)
    assert some <= set(left)
    while left:
        free = [name for name, imported in left.items() if not imported & set(left)]
        assert free, f"A circle runs through {sorted(left)} of {folder}"
        for name in free:
            del left[name]


# Each room of the planning package may import only those before it.
RIDGE_LINE = (
    "verdicts",
    "reasons",
    "wording",
    "way",
    "weather",
    "light",
    "place",
    "day",
    "focus",
    "frame",
    "exposure",
    "sequence",
    "plan",
    "tones",
)


def test_planning_is_built_along_the_ridge_line():
    rooms = _rooms(SOURCE / "core" / "planning")
    assert set(rooms) <= set(RIDGE_LINE)
    for room, imported in rooms.items():
        later = set(RIDGE_LINE[RIDGE_LINE.index(room) :])
        assert not imported & later, f"planning/{room} imports {sorted(imported & later)}"


def test_the_core_neither_reads_the_clock_nor_files():
    for path in (SOURCE / "core").rglob("*.py"):
        text = path.read_text()
        for word in ("datetime.now", "date.today", "time.time(", "open("):
            assert word not in text, f"{path} uses {word}"
