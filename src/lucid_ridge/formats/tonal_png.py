"""A picture in tones as a small grey PNG."""

from __future__ import annotations

import base64
import io

import numpy as np
from numpy.typing import NDArray
from PIL import Image


def tonal_png(tones: NDArray[np.float64]) -> bytes:
    """Return a grey PNG of tones (high, wide), 0 (black) to 1 (white)."""
    out = io.BytesIO()
    Image.fromarray(np.round(np.clip(tones, 0.0, 1.0) * 255).astype(np.uint8), mode="L").save(out, "PNG", optimize=True)
    return out.getvalue()


def as_data_url(png: bytes) -> str:
    """Return a PNG as a data URL."""
    return f"data:image/png;base64,{base64.b64encode(png).decode()}"
