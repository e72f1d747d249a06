"""The values of a dial that are tried to cure a reason, the nearest first."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import timedelta
from typing import Any

from ..facts.choices import BracketMode, DepthMethod, Hold
from ..facts.declaring import Value
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.plan.dials import FOCAL_MARKINGS_MM
from ..planning.plan.shot_plan import plan_shot
from ..solving.space import glasses
from ..units.lengths import format_distance
from ..units.markings import APERTURE_MARKINGS, ISO_MARKINGS, format_aperture

# Offsets from the value that stands, in steps of the dial: every one near by, ever coarser farther away.
_OFFSETS = (1, 2, 3, 4, 6, 8, 11, 15, 20, 27, 36, 48)
_DEG, _M, _MIN, _EV = 1.0, 0.05, 5.0, 1 / 3
_LOWEST_M, _HIGHEST_M = 0.05, 3.0


@dataclass(frozen=True)
class Move:
    """One change of a shot. choices: by name; filter_ids: on the lens, None: as they are. words: "tilt to −22°"."""

    words: str
    choices: Mapping[str, Value] = field(default_factory=dict)
    filter_ids: frozenset[int] | None = None

    def applied_to(self, facts: ShotFacts) -> ShotFacts:
        """Return the facts with this change."""
        changed = facts.choosing(**self.choices)
        if self.filter_ids is None:
            return changed
        on = self.filter_ids
        return replace(changed, filters=tuple(replace(item, on_lens=item.id in on) for item in facts.filters))


def moves_for(facts: ShotFacts, dial: str) -> Iterator[Move]:
    """Return the changes that may cure a reason at a dial, those of that dial first; none for a dial whose value is a
    wish or a fact.
    """
    for name in (dial, *_BESIDE.get(dial, ())):
        make = _MOVES.get(name)
        if make is not None:
            yield from make(facts)


def _around(now: float, step: float, low: float, high: float) -> Iterator[float]:
    """Return values around the one that stands, on whole steps, the nearest first."""
    base = round(now / step)
    for offset in _OFFSETS:
        for by in (-offset, offset):
            value = (base + by) * step
            if low <= value <= high:
                yield round(value, 4)


def _pitch(facts: ShotFacts) -> Iterator[Move]:
    now = facts.frame.pitch_deg
    for value in _around(now, _DEG, -90.0, 90.0):
        words = f"tilt {'down' if value < now else 'up'} to {_signed(value)}°"
        yield Move(words, {"pitch_deg": value})


def _bearing(facts: ShotFacts) -> Iterator[Move]:
    settings = settings_of(facts)
    if settings is None:
        return
    for value in _around(settings.bearing_deg, _DEG, -360.0, 720.0):
        way = "left" if value < settings.bearing_deg else "right"
        yield Move(f"turn {way} to {value % 360:.0f}°", {"bearing_deg": value % 360})


def _height(facts: ShotFacts) -> Iterator[Move]:
    settings = settings_of(facts)
    if settings is None:
        return
    now = settings.camera_height_m
    for value in _around(now, _M, _LOWEST_M, _HIGHEST_M):
        way = "lower" if value < now else "raise"
        yield Move(f"{way} the camera to {format_distance(value)}", {"camera_height_m": value})


def _marked(
    facts: ShotFacts, name: str, values: Iterable[float], now: float | None, words: Callable[[float], str]
) -> Iterator[Move]:
    """Return the markings of a dial, the nearest in stops first, and that which stands left out."""
    if now is None:
        return
    others = [value for value in values if abs(math.log2(value / now)) > 0.02]
    for value in sorted(others, key=lambda item: abs(math.log2(item / now))):
        yield Move(words(value), {name: value})


def _aperture(facts: ShotFacts) -> Iterator[Move]:
    settings, lens = settings_of(facts), facts.lens
    if settings is None or lens is None:
        return iter(())
    values = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)]
    return _marked(facts, "f_number", values, settings.f_number, format_aperture)


def _iso(facts: ShotFacts) -> Iterator[Move]:
    settings, body = settings_of(facts), facts.body
    if settings is None or body is None or body.film_exponent is not None:
        return iter(())
    values = [mark.value for mark in ISO_MARKINGS if body.reads_iso(mark.value)]
    return _marked(facts, "iso", values, settings.iso, lambda value: f"ISO {value:.0f}")


def _focal(facts: ShotFacts) -> Iterator[Move]:
    settings, lens = settings_of(facts), facts.lens
    if settings is None or lens is None:
        return iter(())
    values = [value for value in FOCAL_MARKINGS_MM if lens.takes_focal(value)]
    return _marked(facts, "focal_mm", values, settings.focal_mm, lambda value: f"zoom to {value:g} mm")


def _filters(facts: ShotFacts) -> Iterator[Move]:
    now = frozenset(item.id for item in facts.filters_on_lens)
    others = [glass for glass in glasses(facts) if glass.ids != now]
    stops = sum(item.even_stops for item in facts.filters_on_lens)
    for glass in sorted(others, key=lambda item: (len(item.ids ^ now), abs(item.stops - stops)))[:24]:
        names = " + ".join(item.name for item in glass.filters)
        yield Move(f"take {names}" if names else "take no filter", filter_ids=glass.ids)


def _proposals(facts: ShotFacts) -> Iterator[Move]:
    """Return the settings that the exposure proposes for a wanted time, all at once."""
    for item in plan_shot(facts).exposure.proposals:
        if any(turned is not None for turned in item.set_stops):
            continue
        names = " + ".join(item.filter_names) or "no filter"
        words = f"{names}, {format_aperture(item.f_number)}, ISO {item.iso:.0f}"
        yield Move(words, {"f_number": item.f_number, "iso": item.iso}, frozenset(item.filter_ids))


def _compensation(facts: ShotFacts) -> Iterator[Move]:
    for value in _around(facts.exposure.compensation_ev, _EV, -5.0, 5.0):
        yield Move(f"compensation {_signed(value, 1)} EV", {"compensation_ev": value})


def _start(facts: ShotFacts) -> Iterator[Move]:
    start = facts.light.time_utc
    if start is None:
        return
    minutes = start.minute + start.second / 60
    for value in _around(minutes, _MIN, -240.0, 240.0):
        moment = (start + timedelta(minutes=value - minutes)).replace(second=0, microsecond=0)
        if facts.at(moment).local.date() == facts.light.date_local:
            yield Move(f"start at {facts.clock(moment)}", {"time_utc": moment})


def _bracket(facts: ShotFacts) -> Iterator[Move]:
    step = facts.exposure.bracket_step_ev
    for count in (3, 5, 7):
        words = f"{count} frames, {step:g} EV apart"
        yield Move(words, {"bracket": BracketMode.AROUND, "bracket_count": count})
    yield Move("one exposure", {"bracket": BracketMode.NONE})


def _one(words: str, **choices: Any) -> Callable[[ShotFacts], Iterator[Move]]:
    def make(facts: ShotFacts) -> Iterator[Move]:
        yield Move(words, choices)

    return make


def _signed(value: float, decimals: int = 0) -> str:
    return f"{value:+.{decimals}f}".replace("-", "−") if value else "0"


_MOVES: Mapping[str, Callable[[ShotFacts], Iterator[Move]]] = {
    "pitch_deg": _pitch,
    "bearing_deg": _bearing,
    "camera_height_m": _height,
    "focal_mm": _focal,
    "f_number": _aperture,
    "iso": _iso,
    "filters": _filters,
    "proposals": _proposals,
    "compensation_ev": _compensation,
    "time_utc": _start,
    "bracket": _bracket,
    "roll_deg": _one("level the camera", roll_deg=0.0),
    "follow_fading": _one("follow the changing light", follow_fading=True),
    "depth_method": _one("fewest frames that work", depth_method=DepthMethod.AUTO),
    "hold": _one("put it on the tripod", hold=Hold.TRIPOD),
    "graduated_at": _one("edge on the skyline", graduated_at=None),
}
# Other dials that may cure what is said at one.
_BESIDE: Mapping[str, tuple[str, ...]] = {
    "bearing_deg": ("pitch_deg", "camera_height_m", "focal_mm"),
    "camera_height_m": ("pitch_deg",),
    "wanted_shutter_s": ("proposals", "filters", "iso", "f_number"),
    "wanted_look": ("proposals", "filters", "iso", "f_number"),
    "motion_wishes": ("filters", "iso", "f_number"),
    "near_m": ("depth_method", "f_number"),
    "f_number": ("depth_method", "iso"),
    "metered_shutter_s": (),
    "iso": ("f_number", "filters"),
    "hold": ("iso", "f_number", "filters"),
    "highlight_ev": ("compensation_ev", "bracket"),
    "compensation_ev": ("filters", "bracket"),
    "frame_groups": ("time_utc",),
}
