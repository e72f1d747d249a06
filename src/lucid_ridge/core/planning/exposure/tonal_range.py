"""Step 5, the range: what each frame holds of the scene, and the bracket that holds all of it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ...errors import InputError
from ...exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ...exposure.exposure_sets import marked_time_s, times_around_s, times_over_s
from ...facts.choices import BracketMode
from ...facts.kit import Body, FilmKind, FilterKind
from ...facts.shot import ShotFacts
from ...units.markings import format_shutter
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Reason

Floats = NDArray[np.float64]
# By less than this a highlight or shadow beyond is not told [stops].
HARDLY_STOPS = 0.05
# What a negative still holds over its range, and what one leaves over the highlights of a slide (common practice) [stops].
_NEGATIVE_OVER, _SLIDE_SPARE = 2.0, 1 / 3


@dataclass(frozen=True)
class Exposure:
    """One exposure to take: its shutter time [s], by how much it is brighter than the darkest [EV], and what it holds of the scene [EV at ISO 100].

    look, streak_share: of what moves, drawn in this time. iso: where it is another than the shot's; bare: taken without the neutral density.
    """

    shutter_s: float
    offset_ev: float
    darkest_ev: float
    brightest_ev: float
    look: str | None = None
    streak_share: float | None = None
    iso: float | None = None
    bare: bool = False


@dataclass(frozen=True)
class SceneRange:
    """The darkest and the brightest part that must keep detail, as the sensor gets them [EV at ISO 100]; None where they were not read."""

    shadow_ev: float | None
    highlight_ev: float | None

    @property
    def stops(self) -> float | None:
        return None if self.shadow_ev is None or self.highlight_ev is None else self.highlight_ev - self.shadow_ev


def scene_range(facts: ShotFacts, through_stops: float, metered: bool) -> SceneRange:
    """Return the range that the sensor gets: readings taken through filters with these counted back, and the highlights, taken to lie in the sky, as
    dark as a graduated filter on the lens makes them; never darker than the shadows.

    through_stops: of filters that were on when metered. metered: whether anything was.
    """
    shadow, highlight = facts.exposure.shadow_ev, facts.exposure.highlight_ev
    spots = [item.bare_ev100 - through_stops for item in facts.spots]
    # Spot readings stand in for readings of the range that were not typed: one alone tells the highlights.
    highlight = max(spots, default=None) if highlight is None else highlight
    shadow = min(spots, default=None) if shadow is None and len(spots) > 1 else shadow
    if shadow is None or highlight is None:
        return SceneRange(shadow, highlight)
    graduated = [item for item in facts.filters if item.kind == FilterKind.GRADUATED]
    on_lens = sum(item.stops for item in graduated if item.on_lens)
    read_through = sum(item.stops for item in graduated if item.on_when_metered and metered)
    dark, bright = shadow + through_stops, highlight + through_stops + read_through
    if bright < dark:
        return SceneRange(dark, bright)
    return SceneRange(dark, max(dark, bright - on_lens))


def plan_exposures(
    facts: ShotFacts, iso: float, scene: float, base_s: float, span: SceneRange
) -> tuple[tuple[Exposure, ...], list[Reason]]:
    """Return the exposures to take, the darkest first, and what is to be said of the range.

    iso: at which they are taken; scene: EV at ISO 100 of the reading; base_s: what the ledger left [s], compensation in it; span: what must be held.
    """
    body = facts.body
    assert body is not None
    held = body.held_stops(iso)
    # The frame's mid-grey moves with compensation, never with what the filters take from all tones alike.
    top = scene - facts.exposure.compensation_ev + HIGHLIGHT_ROOM_STOPS
    try:
        times, lacking = _times(facts, body, held, base_s, top, span)
    except InputError as error:
        field = "bracket_step_ev" if error.field == "step_ev" else error.field
        return _exposures((base_s,), base_s, top, held), [Reason("exposure", FAILS, error.message, field)]
    frames = _exposures(times, base_s, top, held)
    if lacking:
        return frames, [lacking]
    if span.stops is None or span.shadow_ev is None or span.highlight_ev is None:
        return frames, _unread_reasons(facts, frames)
    return frames, _range_reasons(facts, held, span, frames)


def _times(
    facts: ShotFacts, body: Body, held: float, base_s: float, top: float, span: SceneRange
) -> tuple[tuple[float, ...], Reason | None]:
    """Return the times of the exposures by the way chosen [s], and what is lacking to find them."""
    said, slowest = facts.exposure, body.slowest_shutter_s
    if said.bracket == BracketMode.AROUND:
        if said.bracket_step_ev > held:
            raise InputError("step_ev", f"Steps of {said.bracket_step_ev:g} EV would leave gaps: one frame holds {held:.3g} stops.")
        return times_around_s(base_s, said.bracket_count, said.bracket_step_ev, slowest), None
    if said.bracket in (BracketMode.NONE, BracketMode.FROZEN_AND_LONG):
        return (base_s,), None
    if span.highlight_ev is None or (span.shadow_ev is None and said.bracket == BracketMode.RANGE):
        text = {
            BracketMode.RANGE: "Read the brightest and the darkest part that must keep detail: the bracket spans them.",
            BracketMode.LAND_AND_SKY: "Read the brightest part of the sky that must keep detail: the second frame is for it.",
            BracketMode.HIGHLIGHTS: "Read the brightest part that must keep detail: the frame is exposed for it.",
        }[said.bracket]
        return (base_s,), Reason("exposure", UNSAID, text, "highlight_ev")
    # So much brighter than the base the darkest frame may be, and still hold the highlights.
    room = top - span.highlight_ev - said.highlight_margin_ev
    if said.bracket != BracketMode.RANGE or span.shadow_ev is None:
        sky = marked_time_s(base_s * 2**room, slowest, -1)
        if said.bracket == BracketMode.HIGHLIGHTS:
            return (sky,), None
        land = marked_time_s(base_s, slowest)
        return ((sky, land) if sky < land else (land,)), None
    found = plan_bracket(span.shadow_ev, span.highlight_ev, held, said.bracket_step_ev, said.highlight_margin_ev)
    least = room - found.spare_stops
    if found.count == 1:
        # One frame that holds it all is taken as it was metered, or moved no further than it has to be.
        return (base_s * 2 ** min(room, max(least, 0.0)),), None
    return times_over_s(base_s, least, room, found.count, said.bracket_step_ev, slowest, HARDLY_STOPS), None


def _exposures(times: tuple[float, ...], base_s: float, top: float, held: float) -> tuple[Exposure, ...]:
    made = []
    for time in times:
        brightest = top - math.log2(time / base_s)
        made.append(Exposure(time, math.log2(time / times[0]), brightest - held, brightest))
    return tuple(made)


def _unread_reasons(facts: ShotFacts, frames: tuple[Exposure, ...]) -> list[Reason]:
    if len(frames) < 2:
        return []
    text = f"{len(frames)} frames at {facts.exposure.bracket_step_ev:g} EV, {_from_to(frames)}, {_way(facts, frames)}."
    return [Reason("exposure", HOLDS, text, "bracket_step_ev")]


def _range_reasons(facts: ShotFacts, held: float, span: SceneRange, frames: tuple[Exposure, ...]) -> list[Reason]:
    """Return what the frames together make of the range: highlights by the darkest, shadows by the brightest."""
    assert span.shadow_ev is not None and span.highlight_ev is not None and span.stops is not None
    margin = facts.exposure.highlight_margin_ev
    top, foot = frames[0].brightest_ev, frames[-1].darkest_ev
    over, under = (float(item) for item in range_misses_stops(span, margin, top, foot))
    alone = len(frames) == 1
    found = []
    if alone and span.stops > held:
        needed = plan_bracket(span.shadow_ev, span.highlight_ev, held, min(facts.exposure.bracket_step_ev, held), margin).count
        text = (
            f"The scene spans {span.stops:g} stops, this body holds {held:.3g}: bracket {needed} frames at {facts.exposure.bracket_step_ev:g} EV, "
            f"or give up {span.stops - held:.1f} stops."
        )
        return [Reason("exposure", FAILS, text, "bracket")]
    cure = ("compensate darker", "compensate brighter") if alone else ("move the bracket darker", "take a frame more, or larger steps")
    film = facts.body.film if facts.body is not None else None
    if film == FilmKind.NEGATIVE and HARDLY_STOPS < over <= _NEGATIVE_OVER:
        text = f"The highlights lie {over:.1f} stops beyond the range: a negative still holds them, in flatter tones (common practice)."
        found.append(Reason("exposure", TIGHT, text, "compensation_ev"))
    elif over > HARDLY_STOPS:
        found.append(Reason("exposure", FAILS, f"The highlights are clipped by {over:.1f} stops: {cure[0]}.", "compensation_ev"))
    elif film == FilmKind.SLIDE and over > -_SLIDE_SPARE + 1e-9:
        text = f"Only {max(0.0, -over):.1f} stops are left over the highlights: on a slide keep a third of one, it forgives no more (common practice)."
        found.append(Reason("exposure", TIGHT, text, "compensation_ev"))
    if under > HARDLY_STOPS:
        found.append(
            Reason("exposure", FAILS, f"The shadows block up by {under:.1f} stops: {cure[1]}.", "compensation_ev" if alone else "bracket")
        )
    if found:
        return found
    if alone:
        way = ": no bracket is needed" if facts.exposure.bracket == BracketMode.RANGE else ""
        text = f"One frame holds the {span.stops:g} stops, with {max(0.0, -over):.1f} stops over the highlights{way}."
        return [Reason("exposure", HOLDS, text, "compensation_ev" if not way else "bracket")]
    steps = f" at {facts.exposure.bracket_step_ev:g} EV" if facts.exposure.bracket != BracketMode.LAND_AND_SKY else ""
    text = (
        f"The scene spans {span.stops:g} stops, one frame holds {held:.3g}: {len(frames)} frames{steps}, {_from_to(frames)}, {_way(facts, frames)}; "
        f"{max(0.0, -under):.1f} stops to spare in the shadows."
    )
    return [Reason("exposure", HOLDS, text, "bracket_step_ev")]


def range_misses_stops(span: SceneRange, margin_ev: float, brightest_ev: Any, darkest_ev: Any) -> tuple[Floats, Floats]:
    """Return by how much highlights and shadows lie beyond what exposures hold [stops], negative within. brightest_ev: that the darkest of them holds; darkest_ev: that the
    brightest holds. The range must be read. Broadcasts."""
    assert span.shadow_ev is not None and span.highlight_ev is not None
    return np.asarray(span.highlight_ev + margin_ev - brightest_ev), np.asarray(darkest_ev - span.shadow_ev)


def lost_stops(span: SceneRange, margin_ev: float, brightest_ev: Any, darkest_ev: Any, film: FilmKind | None) -> Floats:
    """Return how much of the range is lost [stops], 0 where nothing fails; a negative forgives some of the highlights. Broadcasts."""
    over, under = range_misses_stops(span, margin_ev, brightest_ev, darkest_ev)
    forgiven = _NEGATIVE_OVER if film == FilmKind.NEGATIVE else HARDLY_STOPS
    return np.asarray(np.where(over > forgiven, over, 0.0) + np.where(under > HARDLY_STOPS, under, 0.0))


def _from_to(frames: tuple[Exposure, ...]) -> str:
    return f"{format_shutter(frames[0].shutter_s)} to {format_shutter(frames[-1].shutter_s)}"


def _way(facts: ShotFacts, frames: tuple[Exposure, ...]) -> str:
    return "automatic on this body" if is_automatic(facts, frames) else "set by hand: the body's automatic bracket does not reach"


def is_automatic(facts: ShotFacts, exposures: tuple[Exposure, ...]) -> bool | None:
    """Return whether the body can take this bracket by itself; None where there is none."""
    body = facts.body
    if len(exposures) < 2 or body is None:
        return None
    return (
        # Bodies bracket around a middle: in odd numbers.
        len(exposures) % 2 == 1
        and facts.exposure.bracket not in (BracketMode.LAND_AND_SKY, BracketMode.FROZEN_AND_LONG)
        and len(exposures) <= body.bracket_frames
        and facts.exposure.bracket_step_ev <= body.bracket_step_ev
        and not body.needs_bulb(exposures[-1].shutter_s)
    )
