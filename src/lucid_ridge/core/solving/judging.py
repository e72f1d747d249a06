"""All candidates of one way of holding and one start, judged at once by the rules that judge a plan.

Arrays have the axes (set of exposures, method of focus, aperture, ISO, glass), those of one set the last four; what does not depend on one of them is one long there.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ..exposure.ev import ev100
from ..exposure.exposure_sets import darkest_over_s, marked_times_s
from ..exposure.film import corrected_time_s
from ..exposure.ledger import build_ledger
from ..facts.choices import BracketMode
from ..facts.kit import Body, FilterKind
from ..facts.settings import Settings, settings_of
from ..facts.shot import ShotFacts
from ..planning.depth import focused_at, nearest_imaging
from ..planning.exposures_taken import ledger_filter, reading_of
from ..planning.falling_light import falling_light
from ..planning.filter_vignetting import shot_vignetting
from ..planning.frames_in_time import DARK_FRAME_FROM_S, Overheads, overheads_of
from ..planning.holding import slowest_by_hand_s
from ..planning.light import LightStep
from ..planning.plan import ShotPlan
from ..planning.tonal_range import HARDLY_STOPS, SceneRange, lost_stops, scene_range
from ..units.markings import ISO_MARKINGS
from .space import Glass, Space
from .wishes import HAND_SLACK, SLACK, Goal, Wish, stacks_unsaid

Floats = NDArray[np.float64]
# Between so many steady times the fall of the light is worked out, the others lie between them.
_FADING_SAMPLES = 41


@dataclass(frozen=True)
class Exposed:
    """The exposures of one set, arrays over (method, aperture, ISO, glass): the one that carries the picture, the shortest and longest [s], how many, how long all are open
    and their dark frames [s], what is lost of the range [stops; None where it was not read], and the highest ISO. apart: in two groups, where a filter changes between
    them; one_far: the shortest is taken at one focus alone.
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


@dataclass(frozen=True)
class Judged:
    """missed: by how much each wish is missed. figures: what a plan costs, for choosing among those that do."""

    missed: dict[Wish, Floats]
    frames: Floats
    total_s: Floats
    carrying_s: Floats
    blur_times: Floats
    iso: Floats
    shape: tuple[int, ...] = field(default=())


@dataclass(frozen=True)
class FocusTable:
    """What every method at every aperture comes to, (method, aperture): frames, blur over the limit, infinite where nothing can be focused so, and extension [stops]."""

    frames: Floats
    blur_times: Floats
    extension_stops: Floats


def focus_table(facts: ShotFacts, plan: ShotPlan, space: Space) -> FocusTable:
    """Return what the depth plan says of each method and aperture; one sharp frame where nothing must be sharp."""
    settings, depth, along = settings_of(facts), plan.depth, plan.depth.along
    assert settings is not None
    shape = (len(space.methods), len(space.apertures))
    count, blur, extension = np.ones(shape), np.ones(shape), np.zeros(shape)
    if along is None or depth.near_m is None or depth.far_m is None:
        return FocusTable(count, blur, extension)
    imaging = nearest_imaging(facts, settings, depth.near_m)
    if imaging is None or not imaging.images(depth.near_m * 1000):
        return FocusTable(count, np.full(shape, np.inf), extension)
    for row, method in enumerate(space.methods):
        focused = facts.choosing(depth_method=method)
        for column, f_number in enumerate(space.apertures):
            found = focused_at(focused, replace(settings, f_number=f_number), imaging, along, depth.near_m, depth.far_m)
            if found is None:
                blur[row, column] = np.inf
            else:
                count[row, column], blur[row, column], extension[row, column] = found.frames, found.times_limit, found.extension_stops
    # Less is not told in the ledger either.
    return FocusTable(count, blur, np.where(extension > 0.005, extension, 0.0))


class Judge:
    """One way of holding and one start. facts: with these; plan: of the shot as it stands; light: of this start. shift_stops: by how much brighter the light is than it is thought to be."""

    def __init__(
        self,
        facts: ShotFacts,
        plan: ShotPlan,
        light: LightStep,
        space: Space,
        focus: FocusTable,
        before: ShotFacts,
        shift_stops: float = 0.0,
    ) -> None:
        settings, body = settings_of(facts), facts.body
        assert settings is not None and body is not None
        self.facts, self.plan, self.light, self.space, self.focus, self.before = facts, plan, light, space, focus, before
        self.settings: Settings = settings
        self.body: Body = body
        self.aims = max(1, len(plan.frame.panorama.plan.aims)) if plan.frame.panorama and plan.frame.panorama.plan else 1
        self.shift_stops = shift_stops
        self.wishes: tuple[Wish, ...] = ()
        self.apertures = np.array(space.apertures)[None, :, None, None]
        self.isos = np.array(space.isos)[:, None]
        self.stops = np.array([glass.stops for glass in space.glasses])
        self.darks = np.array([glass.dark_stops for glass in space.glasses])
        self.held = np.array([body.held_stops(iso) for iso in space.isos])[:, None]
        self.spans: list[SceneRange] = []

    def judged(self, wishes: tuple[Wish, ...]) -> Judged | None:
        """Return all candidates' judgement; None while there is no light to expose for."""
        self.wishes = wishes
        count, blur = self.focus.frames, self.focus.blur_times
        if stacks_unsaid(self.facts):
            blur = np.where(count > 1, np.inf, blur)
        base = self._base_s(self.focus.extension_stops)
        if base is None:
            return None
        self.spans = [self._span(glass) for glass in self.space.glasses]
        sets = [self._exposed(mode, base) for mode in self.space.sets]
        frames, total = self._frames_and_total_s(sets, count)
        carrying = np.stack([item.carrying_s for item in sets])
        isos = np.stack([np.broadcast_to(item.iso, base.shape) for item in sets])
        blurs = blur[None, :, :, None, None]
        missed = {wish: self._missed(wish, sets, frames, total, blurs, isos) for wish in wishes}
        return Judged(missed, frames, total, carrying, blurs, isos, (len(sets), *base.shape))

    def _base_s(self, extension: Floats) -> Floats | None:
        """Return what the ledger leaves, in the light of the start, before a film needs more [s]. extension: (method, aperture) [stops]."""
        facts, settings = self.facts, self.settings
        reading = reading_of(facts, settings, self.light)
        if reading is None:
            return None
        off = tuple(replace(ledger_filter(item, metered=not reading.predicted), on_lens=False) for item in facts.filters)
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
        return self._as_light_goes(np.asarray(ledger.shutter_s * scale))

    def _as_light_goes(self, base: Floats) -> Floats:
        """Return the times that the light needs while they are open, where that is followed."""
        falling = falling_light(self.facts) if self.facts.exposure.follow_fading else None
        if falling is None:
            return base
        samples = np.geomspace(float(base.min()) * 0.99, float(base.max()) * 1.01, _FADING_SAMPLES)
        needed = np.array([falling.needed_s(float(time)) for time in samples])
        lost = np.where(np.isfinite(needed), np.log2(np.where(np.isfinite(needed), needed, 1.0) / samples), 60.0)
        return np.asarray(base * 2.0 ** np.interp(np.log2(base), np.log2(samples), lost))

    def _span(self, glass: Glass) -> SceneRange:
        """Return the range as the sensor gets it through a graduated filter."""
        on = {item.id for item in glass.filters}
        filters = tuple(replace(item, on_lens=item.id in on) for item in self.facts.filters)
        through = 0.0 if self.predicted else sum(ledger_filter(item).stops for item in self.facts.filters if item.on_when_metered)
        return scene_range(replace(self.facts, filters=filters), through, metered=not self.predicted)

    def _exposed(self, mode: BracketMode, base: Floats) -> Exposed:
        """Return the exposures of a set, of everything at once."""
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
            made = self._set(
                first,
                land,
                land,
                np.where(two, 2.0, 1.0),
                np.where(two, sky, 0.0) + land,
                np.where(two, self._dark(sky), 0.0) + self._dark(land),
            )
            return replace(made, lost=self._lost(first, land, base, top, spans), iso=isos, one_far=True)
        return self._bracket(base, top, spans, room, isos)

    def _one(self, time: Floats, base: Floats, top: float, spans: list[SceneRange], isos: Floats) -> Exposed:
        """Return sets of one exposure. time: by the meter; a film needs more."""
        film = self._on_film(time)
        made = self._set(film, film, film, np.ones(base.shape), film, self._dark(film))
        return replace(made, lost=self._lost(time, time, base, top, spans), iso=isos)

    def _set(self, first: Floats, carrying: Floats, last: Floats, count: Floats, open_s: Floats, dark_s: Floats) -> Exposed:
        return Exposed(carrying, first, last, count, open_s, dark_s, None, np.zeros(()), first)

    def _around(self, base: Floats, top: float, spans: list[SceneRange], isos: Floats) -> Exposed:
        """Return brackets around the reading; steps that would leave gaps make one frame."""
        said, slowest = self.facts.exposure, self.body.slowest_shutter_s
        wide = np.broadcast_to(said.bracket_step_ev > self.held, base.shape)
        first = -((said.bracket_count - 1) // 2)
        turns = range(first, first + said.bracket_count)
        times = [np.where(wide, base, marked_times_s(base * 2.0 ** (said.bracket_step_ev * turn), slowest)) for turn in turns]
        counted = [~wide | (turn == 0) for turn in turns]
        films = [self._on_film(time) for time in times]
        open_s, dark_s = (
            sum((np.where(one, here, 0.0) for one, here in zip(counted, some, strict=True)), np.zeros(base.shape))
            for some in (films, [self._dark(film) for film in films])
        )
        count = np.where(wide, 1.0, float(said.bracket_count))
        made = self._set(films[0], films[-first], films[-1], count, open_s, dark_s)
        return replace(made, lost=self._lost(times[0], times[-1], base, top, spans), iso=isos, automatic=self._automatic(count, films[-1]))

    def _automatic(self, count: Floats, last: Floats) -> NDArray[np.bool_]:
        """Return which sets the body takes by itself, as tonal_range.is_automatic says of one."""
        alone = (count % 2 == 1) & (count > 1) & (count <= self.body.bracket_frames) & ~np.asarray(self.body.needs_bulb(last))  # type: ignore[arg-type]
        return np.asarray(alone & (self.facts.exposure.bracket_step_ev <= self.body.bracket_step_ev))

    def _bracket(self, base: Floats, top: float, spans: list[SceneRange], room: Floats, isos: Floats) -> Exposed:
        """Return brackets over the range; where one frame holds it all it is taken as metered, or moved no further than it has to be."""
        said, slowest, step = self.facts.exposure, self.body.slowest_shutter_s, self.facts.exposure.bracket_step_ev
        counts, spare = np.ones((len(self.held), len(spans))), np.zeros((len(self.held), len(spans)))
        known: dict[tuple[SceneRange, float], tuple[float, float]] = {}
        for row, held in enumerate(self.held[:, 0].tolist()):
            for at, span in enumerate(spans):
                if (span, held) not in known:
                    known[span, held] = _bracket_of(span.shadow_ev, span.highlight_ev, held, step, said.highlight_margin_ev)
                counts[row, at], spare[row, at] = known[span, held]
        least = room - spare
        alone = base * 2.0 ** np.minimum(room, np.maximum(least, 0.0))
        whole = np.where(np.isfinite(counts), counts, 1.0)
        darkest, frames = darkest_over_s(base, least, np.broadcast_to(room, least.shape), whole, step, slowest, HARDLY_STOPS)
        frames = np.broadcast_to(np.where(whole > 1, frames, 1.0), base.shape)
        first = np.where(frames > 1, marked_times_s(darkest, slowest), alone)
        open_s, dark_s, last, carrying = np.zeros(base.shape), np.zeros(base.shape), first.copy(), first.copy()
        nearest = np.full(base.shape, np.inf)
        for at in range(int(frames.max())):
            time = np.where(frames > 1, marked_times_s(darkest * 2.0 ** (step * at), slowest), alone)
            here = at < frames
            open_s, dark_s = open_s + np.where(here, time, 0.0), dark_s + np.where(here, self._dark(time), 0.0)
            last = np.where(here, time, last)
            away = np.where(here, np.round(np.abs(np.log2(time / base)), 9), np.inf)
            carrying, nearest = np.where(away < nearest, time, carrying), np.minimum(nearest, away)
        lost = self._lost(first, last, base, top, spans)
        # Where a bracket cannot be had its steps leave gaps.
        lost = None if lost is None else np.where(np.isfinite(counts), lost, 99.0)
        made = self._set(first, carrying, last, frames, open_s, dark_s)
        return replace(made, lost=lost, iso=isos, automatic=self._automatic(frames, last))

    def _frozen(self, base: Floats, top: float, spans: list[SceneRange]) -> Exposed:
        """Return pairs of a frame that freezes, without neutral density and at a higher ISO if need be, and the long one."""
        body = self.body
        limits = [item.times.to_s for item in self._frozen_wishes if item.times is not None]
        longest = min(limits, default=math.inf)
        long = self._on_film(base)
        time = long * 2.0**-self.darks
        marks = np.array([mark.value for mark in ISO_MARKINGS if mark.value <= body.max_iso])
        needed = np.where(time > longest * (1 + SLACK), self.isos * time / longest, self.isos * np.ones(base.shape))
        raised = marks[np.minimum(np.searchsorted(marks, needed * (1 - SLACK)), len(marks) - 1)] if len(marks) else needed
        iso = np.where(time > longest * (1 + SLACK), raised, needed)
        possible = (time <= longest * (1 + SLACK)) | (needed * (1 - SLACK) <= (marks[-1] if len(marks) else 0.0))
        short = np.where(possible, marked_times_s(time * self.isos / iso, body.slowest_shutter_s, -1), long)
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

    @property
    def _frozen_wishes(self) -> list[Wish]:
        return [item for item in self.wishes if item.frozen and item.times is not None and item.times.from_s == 0]

    def _on_film(self, time: Floats) -> Floats:
        return np.asarray(corrected_time_s(time, self.body.film_exponent)) if self.body.film_exponent is not None else time

    def _dark(self, time: Floats) -> Floats:
        return np.where(time >= DARK_FRAME_FROM_S, time, 0.0) if self.body.dark_frame else np.zeros(np.shape(time))

    def _lost(self, first: Floats, last: Floats, base: Floats, top: float, spans: list[SceneRange]) -> Floats | None:
        """Return what sets from first to last lose of the range [stops]; None where it was not read."""
        if spans[0].stops is None:
            return None
        brightest, darkest = top - np.log2(first / base), top - np.log2(last / base) - self.held
        columns = [
            lost_stops(span, self.facts.exposure.highlight_margin_ev, brightest[..., at], darkest[..., at], self.body.film)
            for at, span in enumerate(spans)
        ]
        return np.asarray(np.stack(columns, axis=-1))

    def _frames_and_total_s(self, sets: list[Exposed], count: Floats) -> tuple[Floats, Floats]:
        """Return how many frames there are and how long they take [s]."""
        n = count[:, :, None, None]
        frames, totals = [], []
        for item in sets:
            overheads = overheads_of(self.facts, self.body, 0.0, False)
            if item.one_far:
                # Of several focus positions the sky has one; in a panorama it has them all.
                several = (n > 1) & (item.count > 1) & (self.aims == 1)
                each = np.where(several, n + 1, n * item.count) * self.aims
                open_s = np.where(several, n * item.longest_s + item.shortest_s, n * item.open_s * self.aims)
                dark_s = np.where(several, n * self._dark(item.longest_s) + self._dark(item.shortest_s), n * item.dark_s * self.aims)
            else:
                each, open_s, dark_s = n * item.count * self.aims, n * item.open_s * self.aims, n * item.dark_s * self.aims
            frames.append(each)
            totals.append(self._total_s(overheads, item, n, each, open_s, dark_s))
        return np.stack(frames), np.stack(totals)

    def _total_s(self, overheads: Overheads, item: Exposed, n: Floats, frames: Floats, open_s: Floats, dark_s: Floats) -> Floats:
        places = n * self.aims
        if overheads.burst_per_s:
            return np.asarray(np.maximum(open_s, (frames - 1) / overheads.burst_per_s + open_s / frames) + overheads.write_s)
        waits = frames if item.automatic is None else np.where(item.automatic, places, frames)
        settles = places * np.where(item.count > 1, 2.0, 1.0) - (places <= 1) * (item.count > 1) if item.apart else places
        changes = np.where((item.count > 1) & (self.darks > 0), self._dark_pieces, 0.0) * overheads.filter_change_s if item.apart else 0.0
        turns = n * (self.aims - 1) * overheads.turn_s + (n - 1) * (overheads.turn_s if self.aims > 1 else 0.0)
        return np.asarray(
            open_s
            + dark_s
            + frames * overheads.write_s
            + waits * (overheads.timer_s + overheads.mirror_s)
            + settles * overheads.settle_s
            + changes
            + turns
        )

    @property
    def _dark_pieces(self) -> Floats:
        return np.array(
            [sum(item.kind == FilterKind.NEUTRAL_DENSITY for item in glass.filters) for glass in self.space.glasses], dtype=np.float64
        )

    def _missed(self, wish: Wish, sets: list[Exposed], frames: Floats, total: Floats, blur: Floats, isos: Floats) -> Floats:
        """Return by how much a wish is missed, as wishes.missed_by says of one plan."""
        said = self.facts.wishes
        before = self.before
        match wish.goal:
            case Goal.TIMES:
                can = [(item.shortest_s >= self.body.shortest_s) & (item.longest_s <= self.body.longest_s) for item in sets]
                return np.where(np.stack(can), 0.0, np.inf)
            case Goal.SHARP:
                return _over_log2(blur)
            case Goal.MOTION:
                return np.stack([self._motion(wish, item, mode) for item, mode in zip(sets, self.space.sets, strict=True)])
            case Goal.RANGE:
                return np.stack([item.lost if item.lost is not None else np.zeros(item.carrying_s.shape) for item in sets])
            case Goal.NOISE:
                return _over_log2(isos / (said.most_iso or 1))
            case Goal.FRAMES:
                return _over_log2(frames / (said.most_frames or 1))
            case Goal.MINUTES:
                return _over_log2(total / 60 / (said.most_min or 1))
            case Goal.LIGHT:
                start, end = self.facts.light.time_utc, self.light.window_end_utc
                if start is None or end is None:
                    return np.zeros((1,) * 5)
                return np.maximum(0.0, total - (end - start).total_seconds()) / 60
            case Goal.STEADY:
                limit = slowest_by_hand_s(self.facts, self.settings, self.plan.depth.imaging)
                longest = np.stack([item.longest_s for item in sets])
                return np.zeros((1,) * 5) if limit is None else np.where(longest > limit * HAND_SLACK, np.log2(longest / limit), 0.0)
            case Goal.CORNERS:
                return self._corners()[None, None, :, None, :]
            case Goal.APERTURE:
                pinned = before.depth.f_number or self.settings.f_number
                return np.asarray(np.abs(2 * np.log2(self.apertures / pinned))[None])
            case Goal.ISO:
                return np.asarray(np.abs(np.log2(self.isos / (before.exposure.iso or self.settings.iso)))[None, None, None])
            case Goal.FILTERS:
                now = {item.id for item in before.filters if item.on_lens}
                return np.array([float(len(glass.ids ^ now)) for glass in self.space.glasses])[None, None, None, None, :]
            case Goal.HOLD:
                return np.full((1,) * 5, float(self.facts.frame.hold != before.frame.hold))
            case Goal.START:
                here, there = self.facts.light.time_utc, before.light.time_utc
                return np.full((1,) * 5, abs((here - there).total_seconds()) / 60 if here is not None and there is not None else 0.0)

    def _motion(self, wish: Wish, item: Exposed, mode: BracketMode) -> Floats:
        assert wish.times is not None
        time = item.short_s if wish.frozen and mode == BracketMode.FROZEN_AND_LONG else item.carrying_s
        if wish.frozen and wish.times.from_s == 0:
            return _over_log2(np.asarray(time / wish.times.to_s))
        return np.asarray(wish.times.over_stops(time))

    def _corners(self) -> Floats:
        """Return by how much of the half diagonal filters cut the corners, (aperture, glass)."""
        known: dict[tuple[object, ...], float] = {}
        found = np.zeros((len(self.space.apertures), len(self.space.glasses)))
        for at, glass in enumerate(self.space.glasses):
            rings = tuple((item.mount, item.thickness_mm if item.mount == "screw" else 0.0) for item in glass.filters)
            filters = tuple(replace(item, on_lens=True) for item in glass.filters)
            for row, f_number in enumerate(self.space.apertures):
                key = (rings, f_number)
                if key not in known:
                    seen = shot_vignetting(replace(self.facts, filters=filters), replace(self.settings, f_number=f_number), self.body)
                    known[key] = 0.0 if seen is None else max(0.0, 1 - seen.dark_from_mm / seen.corner_mm)
                found[row, at] = known[key]
        return found


def _bracket_of(shadow: float | None, highlight: float | None, held: float, step: float, margin: float) -> tuple[float, float]:
    """Return how many frames a bracket needs and what it has to spare [stops]; infinitely many where there is none."""
    if shadow is None or highlight is None:
        return math.inf, 0.0
    try:
        found = plan_bracket(shadow, highlight, held, step, margin)
    except InputError:
        return math.inf, 0.0
    return float(found.count), found.spare_stops


def _over_log2(times: Floats) -> Floats:
    return np.asarray(np.where(times > 1 + SLACK, np.log2(np.maximum(times, 1.0)), 0.0))
