"""Pictures of any depth as 8-bit RGB, and their size limit."""

from __future__ import annotations

import numpy as np
from PIL import Image

MOST_PIXELS = 250_000_000
# Our own limit, with its own message; Pillow's is twice the configured figure.
Image.MAX_IMAGE_PIXELS = MOST_PIXELS


def as_rgb(image: Image.Image) -> Image.Image:
    """Convert to RGB.

    Grey of 16 bits is scaled to 8; Pillow's own conversion clips it, so that every tone above 255 became white.
    """
    if image.mode.startswith("I;16") or image.mode == "I":
        tones = np.asarray(image, dtype=np.int64)
        return Image.fromarray((np.clip(tones, 0, 65_535) >> 8).astype(np.uint8)).convert("RGB")
    return image.convert("RGB")
