"""Settings that a file shows beside those that were planned."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..planning.reasons import Reason
from ..planning.verdicts import FAILS, TIGHT, Severity
from ..units.lengths import format_distance
from ..units.markings import format_aperture, format_shutter
from . import wording as say
from .judged import CameraSettings, JudgedFrame, named

# Cameras write round figures: what differs by less is the same setting [stops; of a focal length, its ratio; of a
# distance, which they tell coarsely, its ratio].
_SAME_STOPS, _SAME_FOCAL, _SAME_FOCUS = 0.2, 1.05, 1.5
_FAR_STOPS, _FAR_FOCAL = 1.0, 1.1


def exposure_change_stops(planned: CameraSettings, taken: CameraSettings) -> float | None:
    """Return how many stops more the taken settings let in than the planned ones; None where not all are known."""
    values = (planned.f_number, taken.f_number, planned.shutter_s, taken.shutter_s, planned.iso, taken.iso)
    if not all(value is not None and value > 0 for value in values):
        return None
    by_f, by_shutter, by_iso = (
        _stops(*pair)
        for pair in ((planned.f_number, taken.f_number), (planned.shutter_s, taken.shutter_s), (planned.iso, taken.iso))
    )
    return by_shutter + by_iso - 2 * by_f


def setting_findings(frames: Sequence[JudgedFrame]) -> list[Reason]:
    """Return which frames were taken with other settings than planned, those that differ alike together; one line
    where all agree.
    """
    found: dict[tuple[Severity, str], list[tuple[JudgedFrame, tuple[str, ...], float | None]]] = {}
    compared = False
    for frame in frames:
        if frame.planned == CameraSettings():
            continue
        compared = True
        exposing, others = _exposing(frame.planned, frame.taken), _others(frame.planned, frame.taken)
        if exposing or others:
            severity = FAILS if any(item[0] == FAILS for item in (*exposing, *others)) else TIGHT
            texts = tuple(text for _, text in (*exposing, *others))
            change = exposure_change_stops(frame.planned, frame.taken) if exposing else None
            words = say.differing_words(texts, change)
            found.setdefault((severity, words), []).append((frame, texts, change))
    if not compared:
        return []
    if not found:
        return [say.settings_as_planned().holds()]
    return [
        say.settings_differ(
            differing=alike[0][1], exposure_stops=alike[0][2], **named([frame for frame, _, _ in alike])
        ).reason(severity)
        for (severity, _), alike in found.items()
    ]


def differing(planned: CameraSettings, taken: CameraSettings) -> list[str]:
    """Return which taken settings are others than planned, each as "f/8 instead of f/11"."""
    return [text for _, text in (*_exposing(planned, taken), *_others(planned, taken))]


def settings_words(settings: CameraSettings) -> str:
    """Return settings as one line; unknown ones are left out."""
    parts = (
        format_shutter(settings.shutter_s) if settings.shutter_s else "",
        format_aperture(settings.f_number) if settings.f_number else "",
        f"ISO {settings.iso:g}" if settings.iso else "",
        f"{settings.focal_mm:g} mm" if settings.focal_mm else "",
    )
    return "  ".join(part for part in parts if part)


def _exposing(planned: CameraSettings, taken: CameraSettings) -> list[tuple[Severity, str]]:
    """Return which settings differ that make the exposure."""
    found = []
    for name, per, words in (
        ("f_number", 2.0, format_aperture),
        ("shutter_s", 1.0, format_shutter),
        ("iso", 1.0, lambda value: f"ISO {value:g}"),
    ):
        was, now = getattr(planned, name), getattr(taken, name)
        if was and now and abs(per * _stops(was, now)) > _SAME_STOPS:
            found.append(
                (
                    FAILS if name != "shutter_s" and abs(per * _stops(was, now)) > _FAR_STOPS else TIGHT,
                    f"{words(now)} instead of {words(was)}",
                )
            )
    return found


def _others(planned: CameraSettings, taken: CameraSettings) -> list[tuple[Severity, str]]:
    found = []
    if planned.focal_mm and taken.focal_mm and _ratio(planned.focal_mm, taken.focal_mm) > _SAME_FOCAL:
        far = _ratio(planned.focal_mm, taken.focal_mm) > _FAR_FOCAL
        found.append((FAILS if far else TIGHT, f"{taken.focal_mm:g} mm instead of {planned.focal_mm:g} mm"))
    if (
        planned.focus_m
        and taken.focus_m
        and math.isfinite(planned.focus_m)
        and _ratio(planned.focus_m, taken.focus_m) > _SAME_FOCUS
    ):
        found.append(
            (TIGHT, f"focused at {format_distance(taken.focus_m)} instead of {format_distance(planned.focus_m)}")
        )
    return found


def _stops(was: float | None, now: float | None) -> float:
    return math.log2((now or 1.0) / (was or 1.0))


def _ratio(one: float, other: float) -> float:
    return max(one, other) / min(one, other)
