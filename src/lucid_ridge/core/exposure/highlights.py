"""What is held back under saturation for strong colours: one channel clips before the others do.

Source: [1] common practice of those who expose to the right: a third of a stop for yellow, two thirds for red and
magenta.
"""

from __future__ import annotations

# By the colour of the brightest surface with detail [stops]. Source: [1].
MARGINS_EV = {"white": 0.0, "yellow": 0.33, "orange": 0.5, "red or magenta": 0.67}
