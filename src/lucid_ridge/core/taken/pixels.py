"""Measurements on pixels: clipped and blocked shares, mean of the light, amount and kind of blur.

Sources: [1] Crété-Roffet et al. 2007, "The blur effect": a picture that is already blurred changes little when it is
blurred again; [2] structure of motion blur: fine detail is lost along its direction only (any text on image
restoration).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.floating]

# Values this near to white or black carry no detail [share of the full scale, linear].
CLIPPED_FROM, BLOCKED_UPTO = 0.985, 0.0008
_REBLUR_PX = 1.5
_COARSEST = 0.03
# Patches with less contrast carry no information on sharpness [relative].
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
    """sigma_px: of the Gaussian that blurs as much; None where there is too little to see.

    direction_deg: of a motion, from the right counter-clockwise, 0 to 180; ratio: how many times less detail is left
    along it than across it.
    """

    sigma_px: float | None
    kind: BlurKind
    direction_deg: float | None = None
    ratio: float = 1.0


def clipping(linear: Floats) -> Clipping:
    """Return the clipped and blocked shares of linear light (high, wide, 3), 1 at saturation."""
    red, green, blue = (float((linear[..., channel] >= CLIPPED_FROM).mean()) for channel in range(3))
    return Clipping(red, green, blue, float((brightest_channel(linear) <= BLOCKED_UPTO).mean()))


def brightest_channel(linear: Floats) -> Floats:
    """Return the most that any channel of linear light (high, wide, 3) shows, point by point."""
    # A maximum over an axis of three takes ten times as long.
    return np.asarray(np.maximum(np.maximum(linear[..., 0], linear[..., 1]), linear[..., 2]))


def brightness(linear: Floats) -> float:
    """Return the mean of linear light (high, wide, 3)."""
    return float(linear.mean())


def patch_at(grey: Floats, x: float, y: float, size_px: int = PATCH_PX) -> Floats:
    """Return the square around a place of a picture, x and y as shares of its width and height; moved inside at the
    edges.
    """
    high, wide = grey.shape
    half = min(size_px, high, wide) // 2
    row, column = (max(half, min(side - half, round(share * side))) for share, side in ((y, high), (x, wide)))
    return grey[row - half : row + half, column - half : column + half]


def blurs_of(patches: Floats, sharp_sigma_px: float = 0.9) -> list[Blur]:
    """Return how blurred patches of linear grey (n, high, wide) are, and from what.

    sharp_sigma_px: up to which one is sharp. Source: [1], [2].

    The gradient of random detail that was blurred by σ falls to σ²/(σ² + σ₁²) when blurred again by σ₁; that ratio
    gives σ. Noise is measured where nothing finer can be, in the corners of the spectrum, and taken off.
    """
    power, seen = _spectra(patches)
    return [
        blur if told else Blur(None, BlurKind.UNKNOWN)
        for blur, told in zip(_judged(power, patches.shape[1:], sharp_sigma_px), seen, strict=True)
    ]


def frame_blur(grey: Floats, places: Floats, sharp_sigma_px: float = 0.9) -> Blur:
    """Return the blur of a whole frame from patches at places (n, 2).

    Their spectra together separate camera motion from subjects with one direction; defocus is measured on the sharpest
    of them.
    """
    return blur_together(np.stack([patch_at(grey, float(x), float(y)) for x, y in places]), sharp_sigma_px)


def blur_together(patches: Floats, sharp_sigma_px: float = 0.9) -> Blur:
    """Return the blur of a whole frame from patches of it (n, high, wide); see frame_blur."""
    power, seen = _spectra(patches)
    if not seen.any():
        return Blur(None, BlurKind.UNKNOWN)
    power, by = power[seen], _filters(patches.shape[1:])
    together = _judged(
        (power / power.sum(axis=1, keepdims=True)).mean(axis=0)[None], patches.shape[1:], sharp_sigma_px
    )[0]
    if together.kind == BlurKind.MOTION:
        return together
    least = float(_sigmas(power, by.gradient, by.again).min())
    return Blur(least, BlurKind.SHARP if least <= sharp_sigma_px else BlurKind.DEFOCUS, None, together.ratio)


# Detail along the weakest direction is this many times less than across it: something moved; or somewhat less, and
# the blur along it is this many times that across.
_MOVED, _ANISOTROPIC, _BLUR_RATIO = 3.2, 2.2, 1.15
_SECTORS = 12


@dataclass(frozen=True)
class _Filters:
    """What the spectra of patches of one shape are weighted with, point by point, over the half of them that the other
    half repeats.

    times: how often a point stands in the whole; gradient: of the whole; sectors: the same within each twelfth of a
    half turn and its neighbours, (12, n); fine: the band in which directions are compared, each sector's mean, (12,
    n); corners: where nothing but noise is, as often as it stands in the whole.
    """

    window: Floats
    window_power: float
    times: Floats
    coarse: NDArray[np.bool_]
    corners: NDArray[np.int_]
    again: Floats
    gradient: Floats
    sectors: Floats
    fine: Floats


@lru_cache(maxsize=16)
def _filters(shape: tuple[int, ...]) -> _Filters:
    high, wide = shape
    v, u = np.meshgrid(-np.fft.fftfreq(high), np.fft.fftfreq(wide)[: wide // 2 + 1], indexing="ij")
    alone = np.arange(wide // 2 + 1) * 2 % wide == 0
    times = np.broadcast_to(np.where(alone, 1, 2), u.shape).ravel()
    frequency = np.hypot(u, v).ravel()
    sector = (np.floor(np.mod(np.degrees(np.arctan2(v, u)), 180.0) / (180.0 / _SECTORS)).astype(int) % _SECTORS).ravel()
    window = np.hanning(high)[:, None] * np.hanning(wide)[None, :]
    apart = (sector[None, :] - np.arange(_SECTORS)[:, None]) % _SECTORS
    # With its neighbours: a sector alone holds few points.
    near = np.minimum(apart, _SECTORS - apart) <= 1
    band = (frequency > 0.06) & (frequency < 0.36)
    own = (apart == 0) & band
    means = own * frequency**2 / np.maximum(1, (own * times).sum(axis=1, keepdims=True))
    corners = np.flatnonzero(frequency > 0.62)
    return _Filters(
        window=window,
        window_power=float(np.square(window).sum() * high * wide),
        times=times.astype(np.float64),
        coarse=frequency < _COARSEST,
        corners=np.repeat(corners, times[corners]),
        again=np.exp(-((2 * math.pi * frequency * _REBLUR_PX) ** 2)),
        gradient=frequency**2,
        sectors=near * frequency**2,
        fine=(np.roll(means, 1, axis=0) + means + np.roll(means, -1, axis=0)) / 3,
    )


def _spectra(patches: Floats) -> tuple[Floats, NDArray[np.bool_]]:
    """Return the power of each patch's detail without its noise (n, points), the edges faded out, and which of them
    show enough.

    Of a picture, which is real, one half of the spectrum is the other's: its points are there once, with the power of
    both.
    """
    by = _filters(patches.shape[1:])
    mean = patches.mean(axis=(1, 2))
    spectra = np.fft.rfft2((patches - mean[:, None, None]) * by.window).reshape(len(patches), -1)
    power = np.square(spectra.real) + np.square(spectra.imag)
    # What is coarser than this is light and shade, not detail.
    power[:, by.coarse] = 0.0
    contrast = np.sqrt(power @ by.times / by.window_power) / np.maximum(mean, 1e-12)
    noise = np.median(power[:, by.corners], axis=1) if by.corners.size else np.zeros(len(patches))
    power = np.maximum(power - noise[:, None], 0.0) * by.times
    return power, (mean > 0) & (contrast >= _LEAST_CONTRAST) & (power.sum(axis=1) > 0)


def _sigmas(power: Floats, weights: Floats, again: Floats) -> Floats:
    """Return the blur [px] that spectra (n, points) show by what a second one, again, leaves of their gradient, for
    weights (points) or (k, points): (n) or (n, k).

    Source: [1].
    """
    once, twice = power @ weights.T, power @ (weights * again).T
    ratio = np.minimum(0.999, np.sqrt(twice / np.maximum(once, 1e-300)))
    return np.asarray(_REBLUR_PX * np.sqrt(ratio / (1 - ratio)))


def _judged(power: Floats, shape: tuple[int, ...], sharp_sigma_px: float) -> list[Blur]:
    """Return the blur measured on spectra (n, points). Source: [1], [2]."""
    by = _filters(shape)
    whole, sectors = _sigmas(power, by.gradient, by.again), _sigmas(power, by.sectors, by.again)
    fine = power @ by.fine.T
    least = fine.argmin(axis=1)
    across = (least + _SECTORS // 2) % _SECTORS
    made = []
    for at in range(len(power)):
        low, high = float(fine[at, least[at]]), float(fine[at, across[at]])
        ratio = math.sqrt(high / low) if low > 0 else math.inf
        along = float(sectors[at, least[at]])
        if ratio > _MOVED or (ratio > _ANISOTROPIC and along > _BLUR_RATIO * float(sectors[at, across[at]])):
            made.append(Blur(along, BlurKind.MOTION, (int(least[at]) + 0.5) * 180.0 / _SECTORS, ratio))
        else:
            sigma = float(whole[at])
            made.append(Blur(sigma, BlurKind.SHARP if sigma <= sharp_sigma_px else BlurKind.DEFOCUS, None, ratio))
    return made
