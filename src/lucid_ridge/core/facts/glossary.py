"""The trade's terms that a screen explains, each in a sentence.

docs/glossary.md has the same and more; a test holds them together.
"""

from __future__ import annotations

from types import MappingProxyType

TERMS = MappingProxyType(
    {
        "bracket": "exposures of the same picture at different times, a step in EV apart.",
        "circle of confusion": "the largest blur on the sensor that still counts as sharp; by handbook, by "
        "print, by two pixels, or one's own.",
        "clearance": "the gap between two outlines, or from one to an edge of the frame, as a share of the width.",
        "converging verticals": "what a pitched camera does to upright lines.",
        "diffraction": "the spread of light at a small aperture: even a point in focus is drawn as a disc, "
        "the Airy disc.",
        "dynamic range": "how many stops of a scene one frame holds.",
        "extension": "moving the lens away from the sensor to focus close; it costs light.",
        "graduated filter": "a filter that darkens one side of the frame, the sky as a rule.",
        "hyperfocal distance": "the nearest focus at which infinity is still sharp.",
        "magnification": "size on the sensor over size in the scene; 1:1 is life size.",
        "neutral density": "a filter that takes the same number of stops from all colours.",
        "overlap": "the share of a slice of sharpness, or of a panorama's frame, that the next one covers again.",
        "polariser": "a filter that takes the light swinging one way: glare, and the sky at right angles to the sun.",
        "reciprocity failure": "what film does at long times: it needs longer than the meter says.",
        "rule of twelfths": "between low and high water the tide rises by 1, 2, 3, 3, 2, 1 twelfths of the "
        "range in each sixth of the time.",
        "stop, EV": "a doubling or halving of light; EV is counted at ISO 100.",
        "vignetting": "what stands before the lens and darkens the corners.",
        "working distance": "what is left between the front of the lens and the subject.",
    }
)
