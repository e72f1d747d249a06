"""Seascape at sunrise: that at sunset, in the morning."""

from dataclasses import replace

from ..picture_kind import Part
from . import seascape_sunset

KIND = replace(
    seascape_sunset.KIND,
    key="seascape_sunrise",
    label="Seascape at sunrise",
    words="A stone before the surf, the sky before sunrise, water as mist.",
    part=Part.MORNING,
)
