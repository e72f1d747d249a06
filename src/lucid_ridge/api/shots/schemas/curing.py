"""Cures of a shot's reasons."""

from __future__ import annotations

from typing import Any

from ...platform.fields import Out


class CureOut(Out):
    """text: of the reason that goes. words: what is done. choices: a patch of the shot that does it."""

    step: str
    code: str
    text: str
    words: str
    choices: dict[str, Any]


class CuresOut(Out):
    cures: list[CureOut]
