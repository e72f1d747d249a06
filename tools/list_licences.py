"""Write docs/licences.md again: what the application is made of, and under which licence each part may be used."""

from __future__ import annotations

import json
import re
from importlib import metadata
from pathlib import Path

from console import ROOT, main_guard, say
from environment import WEB, ensure_python

PAGE = ROOT / "docs" / "licences.md"
_HEAD = """# Licences

Lucid Ridge itself may be used under the MIT licence ([LICENSE](../LICENSE)). It stands on the work of others; nothing of it is in this repository, all of it
is installed from the registries. What only tests, checks and benches need is not listed. Written by `tools/licences`.
"""


def main(argv: list[str]) -> int:
    ensure_python(development=True)
    PAGE.write_text(page())
    say(f"{PAGE.relative_to(ROOT)} is written.")
    return 0


def page() -> str:
    """Return the page, with a table each for Python's and the front end's packages."""
    python = {name: (version, python_licence(name)) for name, version in locked(ROOT / "requirements.lock").items()}
    written = [_HEAD]
    for title, table in (("Python", python), ("In the browser", front_end())):
        rows = [f"| {name} | {version} | {licence} |" for name, (version, licence) in sorted(table.items())]
        written.append(f"\n## {title}\n\n| package | version | licence |\n|---|---|---|\n" + "\n".join(rows) + "\n")
    return "".join(written)


def locked(path: Path) -> dict[str, str]:
    """Return the version of every package of a lock file, by its name."""
    return dict(re.findall(r"^([a-z0-9-]+)(?:\[[\w,-]+\])?==(\S+)", path.read_text(), re.M))


def python_licence(name: str) -> str:
    """Return the licence that a package's own metadata name."""
    said = metadata.metadata(name)
    if expression := said.get("License-Expression"):
        return str(expression)
    classified = [
        item.rsplit(" :: ", 1)[-1] for item in said.get_all("Classifier") or [] if item.startswith("License :: ")
    ]
    free_text = (said.get("License") or "").strip()
    # Some write the whole text of the licence where its name belongs.
    if "Redistribution and use in source and binary forms" in free_text:
        free_text = "BSD License"
    first = free_text.partition("\n")[0].strip()
    return " or ".join(item for item in classified if item != "OSI Approved") or (
        first if 0 < len(first) < 60 else "not said"
    )


def front_end() -> dict[str, tuple[str, str]]:
    """Return version and licence of what the built front end is made from, by name."""
    packages = json.loads((WEB / "package-lock.json").read_text())["packages"]
    return {
        path.rsplit("node_modules/", 1)[1]: (item["version"], item.get("license", "not said"))
        for path, item in packages.items()
        if path and not item.get("dev") and not item.get("devOptional") and not item.get("optional")
    }


if __name__ == "__main__":
    main_guard(main)
