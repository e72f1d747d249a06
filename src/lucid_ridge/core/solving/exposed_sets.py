"""The exposures of every set that a shot may be taken as, at every aperture, ISO and glass at once.

Arrays have the axes (method of focus, aperture, ISO, glass); what does not depend on one of them is one long there.
"""

from __future__ import annotations

import math
from copy import copy
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ..exposure.ev import ev100
from ..exposure.exposure_sets import darkest_over_s, marked_times_s, stepped_times_s
from ..exposure.film import corrected_time_s, metered_time_s
from ..exposure.ledger import ExposureReading, build_ledger
from ..facts.choices import BracketMode
from ..facts.kit import Body
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.exposure.exposures import ledger_filter, reading_of
from ..planning.exposure.tonal_range import HARDLY_STOPS, SceneRange, lost_stops, scene_range
from ..planning.light.changing_light import changing_light
from ..planning.light.plan import LightStep
from ..units.markings import ISO_MARKINGS
from .missed import SLACK
from .space import Glass, Space

Floats = NDArray[np.float64]
# Metered times at which the change of the light is followed [s], and how many; others are interpolated.
_FOLLOWED_S, _FOLLOWED_SAMPLES = (0.5, 86_400.0), 89


@dataclass(frozen=True, kw_only=True)
class Exposed:
    """The exposures of one set, arrays over (method, aperture, ISO, filters): the one that carries the picture, the
    shortest and longest [s], their number, total open time and dark frames [s], range lost [stops; None without a
    reading], and the highest ISO.

    apart: in two groups, because a filter changes between them; one_far: the shortest is taken at one focus only.
    steady: the same sets in the unchanging light of the start, where the change is followed; followed: where it can be:
    otherwise the plan keeps the times of the start.
    """

    carrying_s: Floats
    shortest_s: Floats
    longest_s: Floats
    count: Floats
    open_s: Floats
    dark_s: Floats
    lost: Floats | None
    iso: Floats
    short_s: Floats
    apart: bool = False
    one_far: bool = False
    automatic: NDArray[np.bool_] | None = None
    steady: Exposed | None = None
    followed: NDArray[np.bool_] | None = None
    # Whether the light lasts for the exposure that carries the picture.
    gathers: NDArray[np.bool_] | bool = True


def exposed_sets(
    facts: ShotFacts, light: LightStep, space: Space, extension_stops: Floats, frozen_s: float, shift_stops: float
) -> tuple[Exposed, ...] | None:
    """Return the exposures of each set of a space; None without light to expose for.

    extension_stops: (method, aperture); frozen_s: the longest time that freezes what must be frozen, infinite if
    nothing must; shift_stops: how much brighter the light is than estimated.
    """
    settings = settings_of(facts)
    reading = reading_of(facts, settings, light) if settings is not None else None
    if reading is None:
        return None
    sets = _Sets(facts, space, reading, extension_stops, frozen_s, shift_stops)
    return tuple(sets.of(mode) for mode in space.sets)


def dark_frames_s(body: Body, shutter_s: Floats) -> Floats:
    """Return how long the body's dark frames take [s]."""
    return (
        np.where(shutter_s >= body.dark_frame_from_s, shutter_s, 0.0)
        if body.dark_frame
        else np.zeros(np.shape(shutter_s))
    )


class _Sets:
    def __init__(
        self,
        facts: ShotFacts,
        space: Space,
        reading: ExposureReading,
        extension_stops: Floats,
        frozen_s: float,
        shift_stops: float,
    ) -> None:
        settings, body = settings_of(facts), facts.body
        assert settings is not None and body is not None
        self.facts, self.space, self.settings, self.body = facts, space, settings, body
        self.frozen_s, self.shift_stops = frozen_s, shift_stops
        self.changing = changing_light(facts) if facts.exposure.follow_fading else None
        self.apertures = np.array(space.apertures)[None, :, None, None]
        self.isos = np.array(space.isos)[:, None]
        self.stops = np.array([glass.stops for glass in space.glasses])
        self.darks = np.array([glass.dark_stops for glass in space.glasses])
        self.held = np.array([body.held_stops(iso) for iso in space.isos])[:, None]
        self.base_s = self._base_s(reading, extension_stops)
        self.spans = [self._span(glass) for glass in space.glasses]

    def _base_s(self, reading: ExposureReading, extension: Floats) -> Floats:
        """Return the metered times of the ledger in the light of the start [s]."""
        facts, settings = self.facts, self.settings
        off = tuple(
            replace(ledger_filter(item, metered=not reading.predicted), on_lens=False) for item in facts.filters
        )
        ledger = build_ledger(reading, settings.f_number, settings.iso, off, 0.0, facts.exposure.compensation_ev)
        counted = reading.through_lens and not reading.predicted
        closer = np.zeros(extension.shape) if counted else extension
        through = sum(item.stops for item in off if item.on_when_metered)
        self.scene = float(ev100(reading.f_number, reading.shutter_s, reading.iso)) + through + self.shift_stops
        self.predicted = reading.predicted
        scale = (
            (self.apertures / settings.f_number) ** 2
            * (settings.iso / self.isos)
            * 2.0 ** (self.stops + closer[:, :, None, None] - self.shift_stops)
        )
        return np.asarray(ledger.shutter_s * scale)

    def _open_s(self, metered: Floats) -> Floats:
        """Return how long a shutter stands open for metered times [s]: longer on film, and as the light changes where
        that is followed.
        """
        if self.changing is None:
            return np.asarray(corrected_time_s(metered, self.body.film_exponent))
        return np.asarray(metered * 2.0 ** np.interp(np.log2(metered), *self._changes))

    def _lasts(self, steady_s: Floats) -> NDArray[np.bool_]:
        """Return for which times in unchanging light [s] the light lasts."""
        metered = np.asarray(metered_time_s(steady_s, self.body.film_exponent))
        return np.asarray(metered <= self._longest_metered_s)

    @cached_property
    def _longest_metered_s(self) -> float:
        light = changing_light(self.facts)
        return light.longest_metered_s if light is not None else math.inf

    @cached_property
    def _changes(self) -> tuple[Floats, Floats]:
        """What film and changing light add to a time [stops], over the logarithm of metered times [s]."""
        assert self.changing is not None
        times = np.geomspace(*_FOLLOWED_S, _FOLLOWED_SAMPLES)
        needed = np.array([self.changing.needed_s(float(time)) for time in times])
        return np.log2(times), np.where(np.isfinite(needed), np.log2(np.minimum(needed, 1e9) / times), 60.0)

    def _span(self, glass: Glass) -> SceneRange:
        """Return the range as the sensor gets it through a graduated filter."""
        on = {item.id for item in glass.filters}
        filters = tuple(replace(item, on_lens=item.id in on) for item in self.facts.filters)
        through = (
            0.0
            if self.predicted
            else sum(ledger_filter(item).stops for item in self.facts.filters if item.on_when_metered)
        )
        return scene_range(replace(self.facts, filters=filters), through, metered=not self.predicted)

    def of(self, mode: BracketMode) -> Exposed:
        """Return the exposures of a set, of everything at once."""
        if self.changing is None:
            made = self._of(mode)
            return replace(made, gathers=self._lasts(made.carrying_s))
        still = copy(self)
        still.changing = None
        made, steady = self._of(mode), still._of(mode)
        return _followed_where_it_lasts(made, steady, self._lasts(np.maximum(steady.longest_s, steady.carrying_s)))

    def _of(self, mode: BracketMode) -> Exposed:
        base = self.base_s
        said, slowest = self.facts.exposure, self.body.slowest_shutter_s
        top = self.scene - said.compensation_ev + HIGHLIGHT_ROOM_STOPS
        spans, isos = self.spans, self.isos
        if mode == BracketMode.FROZEN_AND_LONG:
            return self._frozen(base, top, spans)
        if mode == BracketMode.NONE:
            return self._one(base, base, top, spans, isos)
        if mode == BracketMode.AROUND:
            return self._around(base, top, spans, isos)
        highlight = np.array([span.highlight_ev for span in spans], dtype=np.float64)
        room = top - highlight - said.highlight_margin_ev
        if mode == BracketMode.HIGHLIGHTS:
            return self._one(marked_times_s(base * 2.0**room, slowest, -1), base, top, spans, isos)
        if mode == BracketMode.LAND_AND_SKY:
            sky, land = marked_times_s(base * 2.0**room, slowest, -1), marked_times_s(base, slowest)
            two = sky < land
            first = np.where(two, sky, land)
            short, long = self._open_s(first), self._open_s(land)
            made = self._set(
                short,
                long,
                long,
                np.where(two, 2.0, 1.0),
                np.where(two, short, 0.0) + long,
                np.where(two, self._dark(short), 0.0) + self._dark(long),
            )
            return replace(made, lost=self._lost(first, land, base, top, spans), iso=isos, one_far=True)
        return self._bracket(base, top, spans, room, isos)

    def _one(self, time: Floats, base: Floats, top: float, spans: list[SceneRange], isos: Floats) -> Exposed:
        """Return sets of one exposure. time: the metered one."""
        opened = self._open_s(time)
        made = self._set(opened, opened, opened, np.ones(base.shape), opened, self._dark(opened))
        return replace(made, lost=self._lost(time, time, base, top, spans), iso=isos)

    def _set(
        self, first: Floats, carrying: Floats, last: Floats, count: Floats, open_s: Floats, dark_s: Floats
    ) -> Exposed:
        return Exposed(
            carrying_s=carrying,
            shortest_s=first,
            longest_s=last,
            count=count,
            open_s=open_s,
            dark_s=dark_s,
            lost=None,
            iso=np.zeros(()),
            short_s=first,
        )

    def _around(self, base: Floats, top: float, spans: list[SceneRange], isos: Floats) -> Exposed:
        """Return brackets around the reading; steps that would leave gaps make one frame."""
        said, slowest = self.facts.exposure, self.body.slowest_shutter_s
        wide = np.broadcast_to(said.bracket_step_ev > self.held, base.shape)
        first = -((said.bracket_count - 1) // 2)
        turns = range(first, first + said.bracket_count)
        times = [
            np.where(wide, base, stepped_times_s(marked_times_s(base, slowest), said.bracket_step_ev * turn, slowest))
            for turn in turns
        ]
        counted = [~wide | (turn == 0) for turn in turns]
        opened = [self._open_s(time) for time in times]
        open_s, dark_s = (
            sum((np.where(one, here, 0.0) for one, here in zip(counted, some, strict=True)), np.zeros(base.shape))
            for some in (opened, [self._dark(time) for time in opened])
        )
        count = np.where(wide, 1.0, float(said.bracket_count))
        made = self._set(opened[0], opened[-first], opened[-1], count, open_s, dark_s)
        return replace(
            made,
            lost=self._lost(times[0], times[-1], base, top, spans),
            iso=isos,
            automatic=self._automatic(count, opened[-1]),
        )

    def _automatic(self, count: Floats, last: Floats) -> NDArray[np.bool_]:
        """Return which sets the body takes by itself, as tonal_range.is_automatic says of one."""
        alone = (
            (count % 2 == 1)
            & (count > 1)
            & (count <= self.body.bracket_frames)
            & ~np.asarray(self.body.needs_bulb(last))  # type: ignore[arg-type]
        )
        return np.asarray(alone & (self.facts.exposure.bracket_step_ev <= self.body.bracket_step_ev))

    def _bracket(self, base: Floats, top: float, spans: list[SceneRange], room: Floats, isos: Floats) -> Exposed:
        """Return brackets over the range; where one frame holds it all it is taken as metered, or moved no further
        than it has to be.
        """
        said, slowest, step = self.facts.exposure, self.body.slowest_shutter_s, self.facts.exposure.bracket_step_ev
        counts, spare = np.ones((len(self.held), len(spans))), np.zeros((len(self.held), len(spans)))
        known: dict[tuple[SceneRange, float], tuple[float, float]] = {}
        for row, held in enumerate(self.held[:, 0].tolist()):
            for at, span in enumerate(spans):
                if (span, held) not in known:
                    known[span, held] = _bracket_of(
                        span.shadow_ev, span.highlight_ev, held, step, said.highlight_margin_ev
                    )
                counts[row, at], spare[row, at] = known[span, held]
        least = room - spare
        alone = base * 2.0 ** np.minimum(room, np.maximum(least, 0.0))
        whole = np.where(np.isfinite(counts), counts, 1.0)
        darkest, frames = darkest_over_s(
            base, least, np.broadcast_to(room, least.shape), whole, step, slowest, HARDLY_STOPS
        )
        frames = np.broadcast_to(np.where(whole > 1, frames, 1.0), base.shape)
        first = np.where(frames > 1, stepped_times_s(darkest, 0.0, slowest), alone)
        open_s, dark_s, last, carrying = np.zeros(base.shape), np.zeros(base.shape), first.copy(), first.copy()
        nearest = np.full(base.shape, np.inf)
        for at in range(int(frames.max())):
            time = np.where(frames > 1, stepped_times_s(darkest, step * at, slowest), alone)
            here = at < frames
            opened = self._open_s(time)
            open_s, dark_s = open_s + np.where(here, opened, 0.0), dark_s + np.where(here, self._dark(opened), 0.0)
            last = np.where(here, time, last)
            away = np.where(here, np.round(np.abs(np.log2(time / base)), 9), np.inf)
            carrying, nearest = np.where(away < nearest, time, carrying), np.minimum(nearest, away)
        lost = self._lost(first, last, base, top, spans)
        # Where no bracket is possible its steps leave gaps.
        lost = None if lost is None else np.where(np.isfinite(counts), lost, 99.0)
        short, carries, long = (self._open_s(time) for time in (first, carrying, last))
        made = self._set(short, carries, long, frames, open_s, dark_s)
        return replace(made, lost=lost, iso=isos, automatic=self._automatic(frames, long))

    def _frozen(self, base: Floats, top: float, spans: list[SceneRange]) -> Exposed:
        """Return pairs of a frame that freezes, without neutral density and at a higher ISO if need be, and the long
        one.
        """
        body = self.body
        longest = self.frozen_s
        long, film = self._open_s(base), body.film_exponent is not None
        time = base * 2.0**-self.darks
        marks = np.array([mark.value for mark in ISO_MARKINGS if mark.value <= body.max_iso and not film])
        slow = np.asarray(corrected_time_s(time, body.film_exponent)) > longest * (1 + SLACK)
        needed = np.where(slow, self.isos * time / longest, self.isos * np.ones(base.shape))
        raised = (
            marks[np.minimum(np.searchsorted(marks, needed * (1 - SLACK)), len(marks) - 1)] if len(marks) else needed
        )
        iso = np.where(slow, raised, needed)
        possible = ~slow | (needed * (1 - SLACK) <= (marks[-1] if len(marks) else 0.0))
        metered = marked_times_s(time * self.isos / iso, body.slowest_shutter_s, -1)
        short = np.where(possible, np.asarray(corrected_time_s(metered, body.film_exponent)), long)
        both = np.where(possible, 2.0, 1.0)
        made = self._set(
            np.minimum(short, long),
            long,
            long,
            both,
            long + np.where(possible, short, 0.0),
            self._dark(long) + np.where(possible, self._dark(short), 0.0),
        )
        lost = self._lost(base, base, base, top, spans)
        return replace(made, lost=lost, iso=np.where(possible, iso, self.isos), short_s=short, apart=True)

    def _dark(self, time: Floats) -> Floats:
        return dark_frames_s(self.body, time)

    def _lost(self, first: Floats, last: Floats, base: Floats, top: float, spans: list[SceneRange]) -> Floats | None:
        """Return the range lost by sets from first to last [stops]; None without a reading."""
        if spans[0].stops is None:
            return None
        brightest, darkest = top - np.log2(first / base), top - np.log2(last / base) - self.held
        columns = [
            lost_stops(
                span, self.facts.exposure.highlight_margin_ev, brightest[..., at], darkest[..., at], self.body.film
            )
            for at, span in enumerate(spans)
        ]
        return np.asarray(np.stack(columns, axis=-1))


def _followed_where_it_lasts(made: Exposed, steady: Exposed, lasts: NDArray[np.bool_]) -> Exposed:
    """Return sets whose every exposure the light lasts for; the steady ones elsewhere, as the plan has them."""
    times = {
        name: np.where(lasts, getattr(made, name), getattr(steady, name))
        for name in ("carrying_s", "shortest_s", "longest_s", "open_s", "dark_s", "short_s")
    }
    return replace(made, **times, steady=steady, followed=lasts)


def _bracket_of(
    shadow: float | None, highlight: float | None, held: float, step: float, margin: float
) -> tuple[float, float]:
    """Return how many frames a bracket needs and what it has to spare [stops]; infinitely many where there is none."""
    if shadow is None or highlight is None:
        return math.inf, 0.0
    try:
        found = plan_bracket(shadow, highlight, held, step, margin)
    except InputError:
        return math.inf, 0.0
    return float(found.count), found.spare_stops
