"""Processor seconds that ./test takes, beside those of a loop that does the same work everywhere: bench/tests.py [parts].

Run after a first ./test, so that nothing is installed or built in between.
"""

from __future__ import annotations

import resource
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
_ROUNDS = 20_000_000


def main(parts: list[str]) -> int:
    reference_s = [_loop_s()]
    began, spent = time.monotonic(), _spent_s()
    done = subprocess.run([ROOT / "test", *parts], cwd=ROOT, check=False)
    took_s, spent = time.monotonic() - began, _spent_s() - spent
    reference_s.append(_loop_s())
    loop = sum(reference_s) / 2
    print(f"{spent:.0f} processor seconds in {took_s:.0f} s; the loop takes {loop:.2f} s: {spent / loop:.0f} times")
    return done.returncode


def _spent_s() -> float:
    """Processor time of all processes that have ended below this one [s]."""
    used = resource.getrusage(resource.RUSAGE_CHILDREN)
    return used.ru_utime + used.ru_stime


def _loop_s() -> float:
    """Processor time of a plain loop [s]."""
    began, total = time.process_time(), 0
    for number in range(_ROUNDS):
        total += number & 7
    assert total == _ROUNDS // 8 * 28
    return time.process_time() - began


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
