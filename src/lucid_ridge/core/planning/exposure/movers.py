"""Step 5, everything that moves: how fast it draws itself out, and what it should look like.

Sources: [1] World Meteorological Organization, Beaufort scale: leaves rustle from force 2 (1.6 m/s). How fast tips of
plants move is our own model, a share of the wind by plant, to be calibrated; so is that the wind where clouds are is
twice that on the ground, and that they hang 1,200 m up when low and 4,000 m when not.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ...exposure.motion import LookName, look_of_streak, share_of_waves, times_of_look_s
from ...exposure.moving_things import CLOUDS, THINGS, MotionWish, MovingKind, MovingThing
from ...exposure.passing import vanishing_time_s
from ...facts.choices import IN_HAND
from ...facts.materials import material_of
from ...facts.place import Element
from ...facts.settings import Settings, camera_of
from ...facts.shot import ShotFacts
from ...framing.projection import field_of_view_deg
from ...framing.solids import Shape
from ...labels import NamedEnum
from ...light.materials import Material
from ...weather.promise import RIPPLES_MPS
from ..focus.plan import DepthStep
from .water import LookBand, WantedTime, in_a_second_mm, moving_element

_SHARES = {Shape.TREE: 0.05, Shape.FLOWER: 0.08}
_BY_MATERIAL = {Material.LEAVES: 0.05, Material.GRASS: 0.08, Material.CONIFERS: 0.04}
_USUAL_SHARE = 0.05
_ALOFT, _LOW_M, _HIGH_M = 2.0, 1200.0, 4000.0
# Ground that is grown over is a blanket, not stalks, from so far away [m].
_STALKS_WITHIN_M = 30.0


class Told(NamedEnum):
    """Where a speed comes from."""

    SAID = "said"
    USUAL = "usual"
    LOG = "log"
    WIND = "wind"


@dataclass(frozen=True, kw_only=True)
class Mover:
    """Something that moves and is seen.

    element: None for the clouds. streak_mm_per_s: what it draws on the sensor.

    wish: what it should look like. main: it is the one that the shutter is set for first; sets_shutter: its wish is the
    shot's wanted look, which is judged with the shutter. away_m: how high clouds are.
    """

    element: Element | None
    name: str
    speed_mps: float
    told: Told
    streak_mm_per_s: float
    bands: tuple[LookBand, ...]
    wish: MotionWish | None
    main: bool = False
    sets_shutter: bool = False
    away_m: float | None = None
    # How long one takes across the frame, and how long it covers a point [s]; None of what does not pass through.
    crossing_s: float | None = None
    covering_s: float | None = None
    # Streak in the frame that shows it.
    look: str = ""
    # Of the sensor, and the blur allowed: a streak is held against them [mm].
    short_side_mm: float = 24.0
    coc_mm: float = 0.03
    # By how much longer streaks are that please this photographer.
    look_factor: float = 1.0
    # Between waves or eddies that pass a point [s]; None of what has none.
    period_s: float | None = None

    @property
    def id(self) -> int | None:
        return self.element.id if self.element is not None else None

    def streak_share(self, shutter_s: float) -> float:
        """Return the streak in an exposure, as a share of the frame's short side."""
        return self.streak_mm_per_s * shutter_s / self.short_side_mm

    def look_in(self, shutter_s: float) -> str:
        """Return the look in an exposure."""
        streak = self.streak_mm_per_s * shutter_s
        if streak <= self.coc_mm:
            return look_of_streak(streak, self.short_side_mm, self.coc_mm)
        smooth = streak / self.look_factor
        if self.period_s is not None:
            smooth = max(smooth, float(share_of_waves(shutter_s / self.period_s)) * self.short_side_mm)
        return look_of_streak(max(self.coc_mm * 1.001, smooth), self.short_side_mm, self.coc_mm)

    @property
    def thing(self) -> MovingThing | None:
        """What is known of its kind."""
        if self.element is None:
            return CLOUDS
        return THINGS[self.element.moving] if self.element.moving is not None else None

    @property
    def passing_per_s(self) -> float | None:
        """How many pass a second; None where that was not said."""
        rate = self.element.passing_per_min if self.element is not None else None
        return None if rate is None or self.crossing_s is None else rate / 60

    @property
    def trade_times(self) -> Mapping[str, str]:
        return self.thing.trade_times if self.thing is not None else {}

    def times_for(self, wish: MotionWish) -> WantedTime | None:
        """Return the shutter times that fulfil a wish; None if no time does, or the speed is unknown."""
        if wish == MotionWish.GONE:
            if self.passing_per_s is None or self.covering_s is None:
                return None
            least = vanishing_time_s(self.passing_per_s, self.covering_s)
            return WantedTime(least, math.inf) if math.isfinite(least) else None
        return next(WantedTime(band.from_s, band.to_s, band.name) for band in self.bands if band.name == wish.look)

    @property
    def wanted(self) -> WantedTime | None:
        """Shutter times that fulfil the wish; None without a wish, or if no time does."""
        return self.times_for(self.wish) if self.wish is not None else None

    @property
    def freezes_s(self) -> float:
        """The longest time that freezes it [s]."""
        return next(band.to_s for band in self.bands if band.name == LookName.FROZEN)

    def choices(self) -> list[tuple[MotionWish, WantedTime | None]]:
        """Return the possible wishes, with the shutter times that fulfil each."""
        return [
            (wish, self.times_for(wish))
            for wish in MotionWish
            if wish != MotionWish.GONE or self.crossing_s is not None
        ]


def movers(facts: ShotFacts, settings: Settings, depth: DepthStep) -> tuple[Mover, ...]:
    """Return all that moves and is seen: elements with a speed, said or usual, plants in the forecast wind, and the
    clouds last.
    """
    found = []
    main = moving_element(facts)
    for item in facts.elements:
        speed, told = _speed(facts, item)
        streak = in_a_second_mm(settings, depth, item, speed) if speed else None
        if streak:
            found.append(
                _mover(
                    facts=facts,
                    settings=settings,
                    item=item,
                    name=item.name,
                    speed=speed,
                    told=told,
                    streak=streak,
                    main=item is main,
                )
            )
    clouds = _clouds(facts, settings)
    return (*found, clouds) if clouds is not None else tuple(found)


def _speed(facts: ShotFacts, item: Element) -> tuple[float, Told]:
    """Return how fast an element moves [m/s], 0 where it stands still or nobody knows, and where that comes from."""
    if item.moves_mps:
        return (
            item.moves_mps,
            Told.LOG if item.taught_speed is not None else Told.SAID if item.speed_mps else Told.USUAL,
        )
    hour, share = facts.hour, swaying_share(item)
    if not share or hour is None or facts.close_up or hour.gust_mps < RIPPLES_MPS:
        return 0.0, Told.WIND
    return share * hour.gust_mps, Told.WIND


def swaying_share(item: Element) -> float:
    """Return the speed of an element's tips as a share of the wind speed; 0 for an element that stands still or has a
    speed of its own.
    """
    if item.moves_mps or item.distance_m > _STALKS_WITHIN_M:
        return 0.0
    if item.shape in _SHARES:
        return _SHARES[item.shape]
    by_material = _BY_MATERIAL.get(material_of(item), 0.0) if item.shape == Shape.BLOCK else 0.0
    return by_material or (_USUAL_SHARE if item.moving == MovingKind.PLANTS else 0.0)


def _mover(
    facts: ShotFacts,
    settings: Settings,
    item: Element | None,
    name: str,
    speed: float,
    told: Told,
    streak: float,
    main: bool,
    away_m: float | None = None,
) -> Mover:
    body = facts.body
    assert body is not None
    short, wide = min(body.sensor_width_mm, body.sensor_height_mm), max(body.sensor_width_mm, body.sensor_height_mm)
    # Personal bands are those of a water that draws so much shorter or longer; frozen stays what the sensor shows
    # as frozen.
    taught = 2.0**facts.taught.look_shift.value if facts.taught.look_shift is not None else 1.0
    thing = THINGS[item.moving] if item is not None and item.moving is not None else None
    period = thing.period_s if thing is not None else None
    bands = tuple(
        LookBand(
            look,
            *times_of_look_s(
                look, streak if look == LookName.FROZEN else streak / taught, short, settings.coc_mm, period
            ),
        )
        for look in LookName
    )
    said = facts.exposure.wanted_look if main else None
    wish = MotionWish(str(said)) if said is not None else facts.wish_of(item.id if item is not None else None)
    length = thing.body_m if thing is not None else None
    crossing, covering = (wide / streak, length / speed) if length is not None else (None, None)
    return Mover(
        element=item,
        name=name,
        speed_mps=speed,
        told=told,
        streak_mm_per_s=streak,
        bands=bands,
        wish=wish,
        main=main,
        sets_shutter=said is not None,
        away_m=away_m,
        crossing_s=crossing,
        covering_s=covering,
        short_side_mm=short,
        coc_mm=settings.coc_mm,
        look_factor=taught,
        period_s=period,
    )


def _clouds(facts: ShotFacts, settings: Settings) -> Mover | None:
    """Return the clouds; None in a clear sky, a closed one, without a forecast, or in a frame without sky."""
    body, hour = facts.body, facts.hour
    if (
        body is None
        or hour is None
        or facts.close_up
        or not 0.1 <= hour.cover <= 0.95
        or hour.wind_mps <= 0
        or facts.frame.hold in IN_HAND
    ):
        return None
    camera = camera_of(facts, settings, body)
    top = camera.pitch_deg + float(field_of_view_deg(camera.frame_mm[1], camera.focal_mm)) / 2
    if top <= 2:
        return None
    height = _LOW_M if hour.low_cloud >= hour.cover / 2 else _HIGH_M
    # Seen half way up to the frame's upper edge they are farther away than they are high.
    away = height / math.sin(math.radians(min(90.0, max(3.0, top / 2))))
    speed = _ALOFT * hour.wind_mps
    return _mover(
        facts=facts,
        settings=settings,
        item=None,
        name="Clouds",
        speed=speed,
        told=Told.WIND,
        streak=camera.focal_mm * speed / away,
        main=False,
        away_m=height,
    )


def must_be_frozen(facts: ShotFacts, moving: tuple[Mover, ...]) -> list[tuple[Mover, float]]:
    """Return the movers that must be frozen: those that must be sharp without a wish of their own, and secondary ones
    wished frozen, with the longest time [s] that does it.

    Motion by the wind counts only if wished frozen: nobody measures its speed.
    """
    found = []
    for item in moving:
        if item.sets_shutter or (item.main and facts.exposure.wanted_shutter_s):
            continue
        sharp = item.wish is None and item.told != Told.WIND and item.id in facts.sharp_element_ids
        if sharp or item.wish == MotionWish.FROZEN:
            found.append((item, item.freezes_s))
    return found
