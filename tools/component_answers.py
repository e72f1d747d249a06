"""Writes the answers of the demo that the front end's component tests are drawn from: tools/on_demo.py this file."""

from __future__ import annotations

import json
import os
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

OUT = Path(__file__).resolve().parent.parent / "tests" / "reference" / "answers"


def main() -> None:
    address = os.environ["LUCID_RIDGE_ADDRESS"]

    def ask(path: str) -> Any:
        with urllib.request.urlopen(f"{address}/api{path}", timeout=60) as answer:
            return json.load(answer)

    for name, path in paths(ask).items():
        text = json.dumps(ask(path), ensure_ascii=False, separators=(",", ":"))
        (OUT / f"{name}.json").write_text(f"{text}\n", "utf-8")


def paths(ask: Callable[[str], Any]) -> dict[str, str]:
    """Return which answer of the demo each file keeps. ask: gives the answer of a path."""
    outing = next(item["id"] for item in ask("/outings")["outings"] if "Bog" in item["name"])
    entry = next(item["id"] for item in ask("/log")["entries"] if item["name"] == "Brown water over the sill")
    shot = next(item["id"] for item in ask("/notebook")["shots"] if item["name"] == "Posts at the ebb")
    return {
        "photographer": "/photographer",
        "kit": "/kit",
        "locations": "/locations",
        "outing": f"/outings/{outing}",
        "entry": f"/log/{entry}",
        "shot": f"/shots/{shot}",
        "solution": f"/shots/{shot}/solution",
    }


if __name__ == "__main__":
    main()
