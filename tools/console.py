"""Saying what happens, and running programs."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
LOCAL = ROOT / ".local"


class SetupError(Exception):
    """Set-up cannot go on; the message says why and what to do."""


def say(text: str) -> None:
    print(text, flush=True)


def run(command: Sequence[str | Path], **options: Any) -> subprocess.CompletedProcess[str]:
    """Run a program, keep its output, and show it only when it fails."""
    done = subprocess.run(
        [str(part) for part in command],
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        check=False,
        **options,
    )
    if done.returncode:
        tail = "\n".join((done.stdout or "").strip().splitlines()[-30:])
        raise SetupError(f"{' '.join(str(part) for part in command)} failed ({done.returncode}):\n{tail}")
    return done


def main_guard(main: Any) -> None:
    """Run main(argv), turning SetupError into a message and exit status 1."""
    try:
        sys.exit(main(sys.argv[1:]))
    except SetupError as error:
        print(f"\n{error}", file=sys.stderr)
        sys.exit(1)
    except KeyboardInterrupt:
        sys.exit(130)
