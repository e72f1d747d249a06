"""Harmonic constants of a tide as text: constituent, amplitude and lag, one per line."""

from __future__ import annotations

from collections.abc import Sequence

from ..core.tides.harmonics import ALIASES, CONSTITUENTS
from .errors import FormatError

Wave = tuple[str, float, float]


def read_constants(text: str) -> list[Wave]:
    """Return constituents with amplitude [m] and lag [degrees]; of repeated ones the last counts.

    Raises FormatError naming the line.
    """
    waves: dict[str, Wave] = {}
    for number, line in enumerate(text.splitlines(), start=1):
        parts = line.replace(",", ".").replace(";", " ").replace("°", " ").split()
        if not parts:
            continue
        name = ALIASES.get(parts[0].upper(), parts[0].upper())
        if len(parts) != 3:
            raise FormatError(
                f"Line {number}: write a constituent, its amplitude in metres and its lag in degrees: M2 1.42 327."
            )
        if name not in CONSTITUENTS:
            raise FormatError(
                f"Line {number}: “{parts[0][:12]}” is none of the constituents known here: {', '.join(CONSTITUENTS)}."
            )
        try:
            height, lag = float(parts[1]), float(parts[2])
        except ValueError:
            raise FormatError(
                f"Line {number}: “{line.strip()[:40]}” needs two numbers after the constituent."
            ) from None
        if not (0 <= height <= 20 and -360 <= lag <= 720):
            raise FormatError(f"Line {number}: amplitudes lie from 0 to 20 m, lags from −360 to 720°.")
        waves[name] = (name, height, lag % 360)
    return list(waves.values())


def write_constants(waves: Sequence[Wave]) -> str:
    """Return constants as text that read_constants reads."""
    return "\n".join(f"{name} {height:g} {lag:g}" for name, height, lag in waves)
