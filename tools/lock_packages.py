"""Write requirements.lock and requirements-dev.lock anew: every package with its version and the digests of its files, as the index tells them."""

from __future__ import annotations

import json
import re
import tempfile
import urllib.request
from collections.abc import Iterable, Mapping
from pathlib import Path

from console import ROOT, main_guard, run, say
from environment import PYTHON, ensure_python
from packaging.requirements import Requirement
from pip._internal.models.index import PyPI  # the index that pip asks where nothing else is said, so that none is named here

LOCKS = {"requirements.txt": "requirements.lock", "requirements-dev.txt": "requirements-dev.lock"}
_HEAD = "# Written by tools/lock-packages from {}: versions that install together, and the digests of all their files.\n"


def main(argv: list[str]) -> int:
    """Keep the versions that are locked, but for those that requirements say otherwise or that are named."""
    ensure_python(development=True)
    for wanted, lock in LOCKS.items():
        kept = {name: version for name, version in locked(ROOT / lock).items() if name not in map(normal, argv)}
        found = _resolved(ROOT / wanted, kept)
        entries = [_entry(name + extras, version, digests(name, version)) for name, extras, version in found]
        (ROOT / lock).write_text(_HEAD.format(wanted) + "".join(entries))
        say(f"{lock}: {len(found)} packages")
    return 0


def normal(name: str) -> str:
    """Return a package's name as the index spells it."""
    return re.sub(r"[-_.]+", "-", name).lower()


def locked(path: Path) -> dict[str, str]:
    """Return the version of every package of a lock file, by its normal name."""
    lines = path.read_text().splitlines() if path.exists() else []
    pairs = (line.removesuffix(" \\").split("==") for line in lines if re.match(r"[A-Za-z0-9]", line))
    return {normal(name.partition("[")[0]): version for name, version in pairs}


def _resolved(wanted: Path, kept: Mapping[str, str]) -> list[tuple[str, str, str]]:
    """Return name, extras ("[binary]" or nothing) and version of all packages that are wanted, with what they want in turn, sorted."""
    said = _pinned(wanted)
    with tempfile.TemporaryDirectory() as folder:
        versions, report_file = Path(folder) / "versions.txt", Path(folder) / "report.json"
        versions.write_text("".join(f"{name}=={version}\n" for name, version in kept.items() if name not in said))
        command = [PYTHON, "-m", "pip", "install", "--dry-run", "--ignore-installed", "--quiet", "--report", report_file]
        run([*command, "-r", wanted, "-c", versions], cwd=ROOT)
        report = json.loads(report_file.read_text())
    # An older pip takes a package with extras for another one than that without, so the lock says them.
    extras: dict[str, set[str]] = {}
    for item in report["install"]:
        extras.setdefault(normal(item["metadata"]["name"]), set()).update(item.get("requested_extras", []))
        for one in map(Requirement, item["metadata"].get("requires_dist", [])):
            if one.marker is None or one.marker.evaluate({"extra": ""}):
                extras.setdefault(normal(one.name), set()).update(one.extras)
    found = ((normal(item["metadata"]["name"]), item["metadata"]["version"]) for item in report["install"])
    return sorted((name, f"[{','.join(sorted(extras[name]))}]" if extras[name] else "", version) for name, version in found)


def _pinned(wanted: Path) -> set[str]:
    """Return the names of what requirements pin themselves."""
    found: set[str] = set()
    for line in wanted.read_text().splitlines():
        if line.startswith("-r "):
            found |= _pinned(wanted.parent / line[3:].strip())
        elif "==" in line:
            found.add(normal(re.split(r"[\[=]", line)[0]))
    return found


def digests(name: str, version: str) -> list[str]:
    """Return the SHA-256 of every file of a release, for whatever machine it is."""
    request = urllib.request.Request(f"{PyPI.simple_url}/{name}/", headers={"Accept": "application/vnd.pypi.simple.v1+json"})
    with urllib.request.urlopen(request, timeout=60) as answer:
        files = json.load(answer)["files"]
    return sorted(item["hashes"]["sha256"] for item in files if _is_of(item["filename"], name, version))


def _is_of(filename: str, name: str, version: str) -> bool:
    """Return whether a file is a wheel or a source archive of a release."""
    stem = filename.removesuffix(".tar.gz").removesuffix(".zip")
    parts = filename.split("-") if filename.endswith(".whl") else stem.rsplit("-", 1)
    return len(parts) > 1 and normal(parts[0]) == name and parts[1] == version and not filename.endswith(".egg")


def _entry(name: str, version: str, found: Iterable[str]) -> str:
    lines = [f"{name}=={version}", *(f"    --hash=sha256:{digest}" for digest in found)]
    if len(lines) == 1:
        raise SystemExit(f"The index has no file of {name} {version}.")
    return " \\\n".join(lines) + "\n"


if __name__ == "__main__":
    main_guard(main)
