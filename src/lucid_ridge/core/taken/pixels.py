"""What the pixels say: clipped and blocked shares, the mean of the light, how blurred a part is and from what.

Sources: [1] IEC 61966-2-1:1999, sRGB: 0.5 is 0.2140 in linear light; [2] Crété-Roffet et al. 2007, "The blur effect": what is blurred already changes little when it is
blurred again; [3] structure of motion blur: along its direction, and only there, fine detail is gone (any text on image restoration).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

Floats = NDArray[np.float64]

# So near to white or black nothing is told apart any more [share of the full scale, linear].
CLIPPED_FROM, BLOCKED_UPTO = 0.985, 0.0008
_REBLUR_PX = 1.5
_COARSEST = 0.03
# Patches with less contrast than this tell nothing of sharpness [relative].
_LEAST_CONTRAST = 0.015
PATCH_PX = 64


class BlurKind(StrEnum):
    SHARP = "sharp"
    DEFOCUS = "defocus"
    MOTION = "motion"
    UNKNOWN = ""


@dataclass(frozen=True)
class Clipping:
    """Shares of the pixels, channel by channel; blocked: dark in all three."""

    red: float
    green: float
    blue: float
    blocked: float

    @property
    def first(self) -> str:
        """The channel that clips most; empty where none does."""
        shares = {"red": self.red, "green": self.green, "blue": self.blue}
        worst = max(shares, key=lambda name: shares[name])
        return worst if shares[worst] > 0 else ""


@dataclass(frozen=True)
class Blur:
    """sigma_px: of the Gaussian that blurs as much; None where there is too little to see. direction_deg: of a motion, from the right counter-clockwise, 0 to 180; ratio: how many
    times less detail is left along it than across it.
    """

    sigma_px: float | None
    kind: BlurKind
    direction_deg: float | None = None
    ratio: float = 1.0


def linear_from_srgb(value: Any) -> Any:
    """Return linear light of sRGB values, both 0 to 1. Broadcasts. Source: [1]."""
    encoded = np.asarray(value, dtype=np.float64)
    return np.where(encoded <= 0.04045, encoded / 12.92, ((np.maximum(encoded, 0.04045) + 0.055) / 1.055) ** 2.4)


def clipping(linear: Floats) -> Clipping:
    """Return what is clipped and blocked of linear light (high, wide, 3), 1 at saturation."""
    red, green, blue = (float((linear[..., channel] >= CLIPPED_FROM).mean()) for channel in range(3))
    return Clipping(red, green, blue, float((linear.max(axis=-1) <= BLOCKED_UPTO).mean()))


def brightness(linear: Floats) -> float:
    """Return the mean of linear light (high, wide, 3)."""
    return float(linear.mean())


def patch_at(grey: Floats, x: float, y: float, size_px: int = PATCH_PX) -> Floats:
    """Return the square around a place of a picture, x and y as shares of its width and height; moved inside at the edges."""
    high, wide = grey.shape
    half = min(size_px, high, wide) // 2
    row, column = (int(np.clip(round(share * side), half, side - half)) for share, side in ((y, high), (x, wide)))
    return grey[row - half : row + half, column - half : column + half]


def detail(patch: Floats) -> float:
    """Return the fine detail of a patch against its own light: rms of what a slight blur takes away, over the mean. It grows with contrast and falls with blur."""
    mean = float(patch.mean())
    if mean <= 0:
        return 0.0
    fine = patch - ndimage.gaussian_filter(patch, 1.0)
    return float(np.sqrt(np.mean(np.square(fine))) / mean)


def blur_of(patch: Floats, sharp_sigma_px: float = 0.9) -> Blur:
    """Return how blurred a patch of linear grey is, and from what. sharp_sigma_px: up to which it is sharp. Source: [2], [3].

    The gradient of random detail that was blurred by σ falls to σ²/(σ² + σ₁²) when blurred again by σ₁; that ratio gives σ. Noise is measured where nothing finer can be, in the
    corners of the spectrum, and taken off.
    """
    spectrum = _spectrum(patch)
    return _judged([spectrum] if spectrum is not None else [], sharp_sigma_px)


def frame_blur(grey: Floats, places: Floats, sharp_sigma_px: float = 0.9) -> Blur:
    """Return the blur of a whole frame from patches at places (n, 2). Their spectra together tell a motion of the camera from things that lie in one direction; what is out of focus is
    told by the sharpest of them.
    """
    patches = [patch_at(grey, float(x), float(y)) for x, y in places]
    found = [item for item in (_spectrum(patch) for patch in patches) if item is not None]
    together = _judged(found, sharp_sigma_px)
    if together.kind == BlurKind.MOTION or not found:
        return together
    each = [sigma for sigma in (_sigma(item, _frequency(item.shape)) for item in found) if sigma is not None]
    if not each:
        return Blur(None, BlurKind.UNKNOWN)
    least = min(each)
    return Blur(least, BlurKind.SHARP if least <= sharp_sigma_px else BlurKind.DEFOCUS, None, together.ratio)


# Detail along the weakest direction is this many times less than across it: something moved; or somewhat less, and the blur along it is this many times that across.
_MOVED, _ANISOTROPIC, _BLUR_RATIO = 3.2, 2.2, 1.15
_SECTORS = 12


def _judged(spectra: list[Floats], sharp_sigma_px: float) -> Blur:
    if not spectra:
        return Blur(None, BlurKind.UNKNOWN)
    power = np.asarray(np.mean([item / item.sum() for item in spectra], axis=0))
    frequency = _frequency(power.shape)
    sigma = _sigma(power, frequency)
    if sigma is None:
        return Blur(None, BlurKind.UNKNOWN)
    sectors = _sectors(power.shape)
    direction, ratio = _direction(power, frequency, sectors)
    least = int(direction // (180.0 / _SECTORS))
    along = _sigma(_within(power, sectors, least), frequency) or 0.0
    across = _sigma(_within(power, sectors, least + _SECTORS // 2), frequency) or 0.0
    if ratio > _MOVED or (ratio > _ANISOTROPIC and along > _BLUR_RATIO * across):
        return Blur(along, BlurKind.MOTION, direction, ratio)
    return Blur(sigma, BlurKind.SHARP if sigma <= sharp_sigma_px else BlurKind.DEFOCUS, None, ratio)


def _spectrum(patch: Floats) -> Floats | None:
    """Return the power of a patch's detail without its noise, the edges faded out; None where there is too little to see."""
    mean = float(patch.mean())
    if mean <= 0:
        return None
    power = np.abs(np.fft.fft2((patch - mean) * _window(patch.shape))) ** 2
    frequency = _frequency(power.shape)
    # What is coarser than this is light and shade, not detail.
    power[frequency < _COARSEST] = 0.0
    if math.sqrt(float(power.sum()) / _window_power(patch.shape)) / mean < _LEAST_CONTRAST:
        return None
    corners = frequency > 0.62
    noise = float(np.median(power[corners])) if corners.any() else 0.0
    power = np.maximum(power - noise, 0.0)
    return power if power.sum() > 0 else None


@lru_cache(maxsize=16)
def _window(shape: tuple[int, ...]) -> Floats:
    """Return what fades the edges of a patch out."""
    return np.asarray(np.hanning(shape[0])[:, None] * np.hanning(shape[1])[None, :])


@lru_cache(maxsize=16)
def _window_power(shape: tuple[int, ...]) -> float:
    """Return the power that a variance of 1 has in the spectrum of a patch (Parseval)."""
    return float(np.square(_window(shape)).sum() * shape[0] * shape[1])


@lru_cache(maxsize=16)
def _frequency(shape: tuple[int, ...]) -> Floats:
    """Return the spatial frequency of each point of a spectrum [cycles per pixel]."""
    return np.asarray(np.hypot(np.fft.fftfreq(shape[0])[:, None], np.fft.fftfreq(shape[1])[None, :]))


@lru_cache(maxsize=16)
def _sectors(shape: tuple[int, ...]) -> NDArray[np.int64]:
    """Return in which twelfth of a half turn each point of a spectrum lies."""
    v, u = np.meshgrid(-np.fft.fftfreq(shape[0]), np.fft.fftfreq(shape[1]), indexing="ij")
    turned = np.mod(np.degrees(np.arctan2(v, u)), 180.0)
    return np.asarray(np.floor(turned / (180.0 / _SECTORS)).astype(np.int64) % _SECTORS)


def _within(power: Floats, sectors: NDArray[np.int64], sector: int) -> Floats:
    """Return the power within a sector and its neighbours: one alone holds few points."""
    apart = np.minimum((sectors - sector) % _SECTORS, (sector - sectors) % _SECTORS)
    return np.where(apart <= 1, power, 0.0)


def _gradient_power(power: Floats, frequency: Floats) -> float:
    return float((power * frequency**2).sum())


def _sigma(power: Floats, frequency: Floats) -> float | None:
    """Return the blur [px] that a spectrum shows by what a second one leaves of its gradient; None without any. Source: [2]."""
    once = _gradient_power(power, frequency)
    if once <= 0:
        return None
    again = _gradient_power(power * np.exp(-((2 * math.pi * frequency * _REBLUR_PX) ** 2)), frequency)
    ratio = min(0.999, math.sqrt(again / once))
    return _REBLUR_PX * math.sqrt(ratio / (1 - ratio))


def _direction(power: Floats, frequency: Floats, sectors: NDArray[np.int64]) -> tuple[float, float]:
    """Return the direction with the least detail [degrees, 0 to 180] and by what factor it has less than across it. Source: [3]."""
    band = (frequency > 0.06) & (frequency < 0.36)
    weights = power[band] * frequency[band] ** 2
    of = sectors[band]
    sums = np.bincount(of, weights, minlength=_SECTORS) / np.maximum(1, np.bincount(of, minlength=_SECTORS))
    # Neighbouring sectors together: a short streak dims a wide fan of directions.
    smooth = (np.roll(sums, 1) + sums + np.roll(sums, -1)) / 3
    least = int(smooth.argmin())
    lowest, across = float(smooth[least]), float(smooth[(least + _SECTORS // 2) % _SECTORS])
    return (least + 0.5) * 180.0 / _SECTORS, math.sqrt(across / lowest) if lowest > 0 else math.inf
